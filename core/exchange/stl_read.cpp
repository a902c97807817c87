// Bodies out of STL files, in bytes or in words.

#include "core/exchange/stl_file.hpp"

#include <cstdint>
#include <cstring>
#include <optional>
#include <sstream>

namespace gc {

namespace {

/// 80 bytes of anything, the count, and 50 bytes a triangle; little-endian.
std::optional<std::vector<Triangle>> binary(const std::string& s) {
    constexpr std::size_t kHead = 84, kEach = 50, kNormal = 12;
    if (s.size() < kHead) return std::nullopt;
    std::uint32_t count = 0;
    std::memcpy(&count, s.data() + 80, 4);
    if (s.size() != kHead + kEach * std::size_t{count}) return std::nullopt;
    std::vector<Triangle> out(count);
    for (std::size_t i = 0; i < count; ++i)
        for (std::size_t k = 0; k < 3; ++k) {
            float p[3];
            std::memcpy(p, s.data() + kHead + kEach * i + kNormal + 12 * k, 12);
            out[i][k] = {p[0], p[1], p[2]};
            if (!isPlace(out[i][k])) return std::nullopt;
        }
    return out;
}

std::optional<std::vector<Triangle>> inWords(const std::string& s) {
    if (s.find("solid") == std::string::npos || s.find("endsolid") == std::string::npos) return std::nullopt;
    std::istringstream in(s);
    std::vector<Vec3> points;
    for (std::string word; in >> word;) {
        if (word != "vertex") continue;
        Vec3 p;
        if (!(in >> p.x >> p.y >> p.z) || !isPlace(p)) return std::nullopt;
        points.push_back(p);
    }
    if (points.empty() || points.size() % 3 != 0) return std::nullopt;
    std::vector<Triangle> out(points.size() / 3);
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = {points[3 * i], points[3 * i + 1], points[3 * i + 2]};
    return out;
}

} // namespace

Result<std::vector<NamedBody>> readStl(const std::string& content, int stepId, double unit) {
    auto triangles = binary(content);
    if (!triangles) triangles = inWords(content);
    if (!triangles)
        return errorOf("stl.syntax",
                       "This is not an STL file that can be read. It may be cut off; export it anew.");
    for (Triangle& t : *triangles)
        for (Vec3& p : t) p = p * unit;
    return bodiesOfTriangles({{"", "", std::move(*triangles)}}, stepId, "STL");
}

} // namespace gc
