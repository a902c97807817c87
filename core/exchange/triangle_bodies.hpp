#pragma once
/// \file Bodies out of triangles, as files of triangles hold them: to be measured, looked at and compared
/// with. Each face is a flat piece, as coarse as the file.

#include "core/exchange/step_file.hpp"

#include <array>

namespace gc {

using Triangle = std::array<Vec3, 3>; ///< mm, counter-clockwise from outside

struct TriangleObject {
    std::string name, colour; ///< as in NamedBody
    std::vector<Triangle> triangles{};
};

/// More would take minutes to work on: they are made coarser.
inline constexpr std::size_t kMostTriangles = 20000;
/// More are not read.
inline constexpr std::size_t kMostRead = 2'000'000;

/// Each closed piece that hangs together is a body, turned outward; a closed piece within another that looks
/// inward is a hollow of it, and what does not close is one surface with open edges. More than
/// kMostTriangles are made coarser, and the body's notes say by how much. Triangles in
/// one plane are one face, named by its place. \param kind of file, for sentences: "STL". Errors:
/// "triangles.large", "triangles.empty", "triangles.failed".
Result<std::vector<NamedBody>> bodiesOfTriangles(const std::vector<TriangleObject>& objects, int stepId,
                                                 const std::string& kind);

/// Is it a place that a part can have? False for what is no number, too.
bool isPlace(const Vec3& v);

} // namespace gc
