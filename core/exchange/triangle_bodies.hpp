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

/// More would take minutes to work on.
inline constexpr std::size_t kMostTriangles = 20000;

/// Each piece that hangs together is a body: closed ones are turned outward, a closed piece within another
/// that looks inward is a hollow of it, and what does not close is a surface with open edges. Triangles in
/// one plane are one face, named by its place. \param kind of file, for sentences: "STL". Errors:
/// "triangles.large", "triangles.empty", "triangles.failed".
Result<std::vector<NamedBody>> bodiesOfTriangles(const std::vector<TriangleObject>& objects, int stepId,
                                                 const std::string& kind);

/// Is it a place that a part can have? False for what is no number, too.
bool isPlace(const Vec3& v);

} // namespace gc
