#pragma once
/// \file References to faces and edges as sentences.
///
///     face := role "of step" N | derived face ["and" face ["and" face]] | "copy at" place "of" face
///           | face "next to" face | face order | "(" face ")"
///     edge := "where" face "meets" face ["at" face] [order] | ["chain of"] "stroke" K "of step" N
///           | "curve of step" N
///     set  := "rim of" face | "all edges of" face | "edges between step" N "and step" M
///           | ["outside" | "inside"] "corners of step" N
///     point := "corner of" face "and" face "and" face | "middle of" edge | "centre of" edge
///           | "spot" X Y Z "on" face | "point" K "of step" N
///
///     order := "number" K "of" M ("across" | "up" | "through") "step" N
///
/// A derived role is one of core/names/derived_role.hpp: "inside of", "rim of", "fillet between" … "and" …,
/// "fillet corner of" … "and" … "and" ….
///
/// "next to" tells pieces of one name apart by what they touch. Where they touch the same, their order along
/// the frame of the step that parted them does, as long as there are M of them; with any other number of them
/// it is a question. Places of copies and of faces that came from a file are part of their names: "copy at
/// 60° of bore of step 3", "flat face 12.40 at 0.00 5.00 2.50 of step 1".
///
/// Where several bodies have what is meant, any of them ends with "on body" N, and "number" K for the second
/// and later bodies of a step.
///
/// In an edge slot "rim of" is the set of edges around a face; in a face slot it is the narrow face that a
/// shell left where it opened one. N is the step's id, which never changes and is never used again. Strokes
/// and points of a drawing are K, their ids in it; a spot is the point of a face nearest to a place in mm.

#include "core/base/result.hpp"
#include "core/base/thing.hpp"
#include "core/base/vec.hpp"

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace gc {

/// The role that every face has which a step made, or made of others: "everything of step 4".
inline constexpr const char* kEverything = "everything";

struct FaceRef;
using FaceRefPtr = std::shared_ptr<const FaceRef>;

/// Which one of several that are alike: by their places along an axis of the frame in which a step works.
struct Order {
    enum class Along { Across, Up, Through };
    int number = 1, count = 1; ///< from 1
    Along along = Along::Across;
    int step = 0;
};

/// A pattern that face names are held against.
struct FaceRef {
    enum class Kind { Role, Derived, Copy, NextTo, Ordered };
    Kind kind = Kind::Role;
    std::string role; ///< Role: "wall", "bore"; Derived: "rim of", "fillet"; Copy: its place, "60°"
    int step = 0;     ///< Role: the step's id
    Order order{};    ///< Ordered: which one of those that fit a
    FaceRefPtr a, b;  ///< what it is derived from; b for two parents and for NextTo
    FaceRefPtr c{};   ///< for three; a corner where more meet is told by three of them
    std::optional<ThingId> body{}; ///< of a whole reference: the one body that is meant
};

struct EdgeRef {
    enum class Kind {
        Meets,
        RimOf,
        AllEdgesOf,
        Between,
        Corners,
        OutsideCorners,
        InsideCorners,
        Stroke,
        Chain,
        Curve
    };
    Kind kind = Kind::Meets;
    FaceRefPtr a, b, at; ///< Meets: the two faces and perhaps a third; RimOf and AllEdgesOf use a
    int step = 0, otherStep = 0;
    int item = 0; ///< Stroke, and Chain that it is in: its id in the drawing
    std::optional<Order> order{};
    std::optional<ThingId> body{};
};

struct PointRef {
    enum class Kind { Corner, Middle, Centre, Spot, Drawn };
    Kind kind = Kind::Corner;
    FaceRefPtr a, b, c;                  ///< Corner: the faces that meet there; Spot uses a
    std::shared_ptr<const EdgeRef> edge; ///< Middle, Centre
    Vec3 at;                             ///< Spot: mm
    int step = 0, item = 0;              ///< Drawn: the step and the point's id
    std::optional<ThingId> body{};
};

/// Reads a reference; the error says where the text stops making sense.
Result<FaceRefPtr> parseFaceRef(std::string_view text);
Result<EdgeRef> parseEdgeRef(std::string_view text);
Result<PointRef> parsePointRef(std::string_view text);

std::string toText(const FaceRef& ref);
std::string toText(const EdgeRef& ref);
std::string toText(const PointRef& ref);

/// The same reference, on that body alone.
std::string onBody(const std::string& reference, ThingId body);

/// What a step left of a face, or made of it: the derived role with that one parent.
FaceRef derivedFrom(const std::string& role, FaceRefPtr parent);

/// A reference within a sentence, marked so that the sentence can be put into the words of a sheet later:
/// see spoken() of core/document.
std::string marked(const std::string& reference);
/// A step by its id, in the same way.
std::string markedStep(int step);

/// Every step id that the reference rests on.
std::vector<int> stepsIn(const FaceRef& ref);
std::vector<int> stepsIn(const EdgeRef& ref);
std::vector<int> stepsIn(const PointRef& ref);
/// Of a reference of any sort, by its text, without what tells like pieces apart.
std::vector<int> stepsIn(const std::string& reference);

/// The same without what tells like pieces apart: "next to", orders, and the third face at an edge's end.
FaceRefPtr bare(const FaceRefPtr& ref);
EdgeRef bare(const EdgeRef& ref);

/// For reading aloud: "wall" instead of "wall of step 2" where roleIsUnique says that one step alone makes
/// a face of that role, and the step's place in the sheet instead of its id elsewhere.
struct Wording {
    std::function<bool(const std::string& role)> roleIsUnique;
    std::function<int(int stepId)> placeOf;
    /// Another word for a role of a step: what a stroke of a drawing is called. Empty: the role itself.
    std::function<std::string(int stepId, const std::string& role)> roleWords;
    /// What a body is called.
    std::function<std::string(ThingId body)> bodyWords;
    /// What a stroke or a point of a drawing is called.
    std::function<std::string(int stepId, int item)> drawnWords;
    /// And what goes on from a stroke at both ends.
    std::function<std::string(int stepId, int item)> chainWords;
    /// What the curve in space of a step is called.
    std::function<std::string(int stepId)> curveWords;
};
std::string inWords(const FaceRef& ref, const Wording& wording);
std::string inWords(const EdgeRef& ref, const Wording& wording);
std::string inWords(const PointRef& ref, const Wording& wording);

} // namespace gc
