#pragma once
/// \file A solid body as a value. The kernel's shape and the names of its faces are behind it; copies share
/// them and nobody changes them.

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/base/vec.hpp"
#include "core/names/reference.hpp"

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace gc {

struct NamedShape; // core/shape/kernel.hpp, for .cpp files of the layers that may see the kernel

class Body {
  public:
    Body() = default;
    Body(std::shared_ptr<const NamedShape> shape, std::uint64_t content)
        : m_shape(std::move(shape)), m_content(content) {}

    bool empty() const { return !m_shape; }
    const NamedShape& shape() const { return *m_shape; }
    /// Hash of everything the body was made from; equal hashes mean equal bodies.
    std::uint64_t content() const { return m_content; }
    Body withContent(std::uint64_t content) const { return {m_shape, content}; }

  private:
    std::shared_ptr<const NamedShape> m_shape;
    std::uint64_t m_content = 0;
};

/// What a look at the topology says. An empty list of faults means a sound body.
struct BodyCheck {
    int solids = 0;
    int shells = 0;
    int openEdges = 0; ///< edges that only one face meets
    bool valid = false;
    std::vector<Message> faults; ///< in words
};
BodyCheck checkBody(const Body& body);
/// The same, of a body that some faces were taken over to as they were, from bodies that are known: these
/// faces are not looked at again, only that all of them still close.
BodyCheck checkBody(const Body& body, const std::vector<const Body*>& known);

struct Box {
    Vec3 low{1e300, 1e300, 1e300}, high{-1e300, -1e300, -1e300};
    bool empty() const { return low.x > high.x; }
    Vec3 size() const { return high - low; }
    Vec3 centre() const { return (low + high) * 0.5; }
    void add(Vec3 p);
};
/// The tight box around the body, from its exact geometry (within 1e-6 mm for the usual surfaces).
Box envelope(const Body& body, const Stop& stop = {});
/// A box that holds the body, quickly: up to some tenths too large.
Box looseEnvelope(const Body& body);

/// How a reference fared on a body.
struct Resolution {
    std::vector<int> items; ///< numbers of faces, or of edges, in the order of the kernel's map, from 0
    int pieces = 0;         ///< how many pieces that do not touch they are
    Message note;           ///< "Flange top is now 2 pieces; both are used."
};
/// Finds the faces that a reference means: all that it fits. What tells pieces apart need not be there when
/// there is but one piece. Errors: "reference.lost" with the cause; "reference.tie" with a question where
/// several may be meant.
Result<Resolution> resolveFaces(const Body& body, const FaceRef& ref);
/// Finds edges in the same way. Seams and edges without length are never among them.
Result<Resolution> resolveEdges(const Body& body, const EdgeRef& ref);

/// Does any face of the body rest on this step?
bool restsOnStep(const Body& body, int step);

/// About how much memory the body takes, in bytes. Bodies share what did not change; that is counted in each.
std::size_t bytesOf(const Body& body);

/// How many faces the body has.
int faceCount(const Body& body);

/// The reference for one face or edge that a user picked, and rules that take it in, best first: on a click
/// the rule is offered before the single item.
std::vector<std::string> referencesForFace(const Body& body, int face);
std::vector<std::string> referencesForEdge(const Body& body, int edge);

/// Is a face, or one of the faces beside an edge, what this step made and nothing of before? False for step
/// 0.
bool isMadeBy(const Body& body, bool edge, int item, int step);
/// The reference that means this face and no other that does not touch it; empty when it has none.
std::string ownReferenceOfFace(const Body& body, int face);
/// The reference that means this edge and no other; empty when it has none.
std::string ownReferenceOfEdge(const Body& body, int edge);

} // namespace gc
