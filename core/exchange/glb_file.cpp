// Bodies to binary glTF 2.0 files (ISO/IEC 12113): a JSON part and the numbers that it points into.

#include "core/base/file.hpp"
#include "core/exchange/export.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <cstring>

namespace gc {

namespace {

using Json = nlohmann::json;

constexpr int kFloat = 5126, kUnsigned = 5125;   // types of numbers
constexpr int kPoints = 34962, kIndices = 34963; // what a part of the buffer holds
constexpr std::uint32_t kMagic = 0x46546C67, kJson = 0x4E4F534A, kBinary = 0x004E4942;

void put(std::string& to, std::uint32_t v) {
    char bytes[4];
    std::memcpy(bytes, &v, 4);
    to.append(bytes, 4);
}

void put(std::string& to, const std::array<float, 3>& v) {
    char bytes[12];
    std::memcpy(bytes, v.data(), 12);
    to.append(bytes, 12);
}

/// Ours has z up, the format y.
std::array<float, 3> turned(const Vec3& v, double scale) {
    return {static_cast<float>(v.x * scale), static_cast<float>(v.z * scale),
            static_cast<float>(-v.y * scale)};
}

/// The format wants light, not what screens are sent (IEC 61966-2-1).
double linear(double c) {
    return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4);
}

class Scene {
  public:
    explicit Scene(const std::string& partName) {
        m_json["asset"] = {{"version", "2.0"}, {"generator", "Good Curve"}};
        m_json["scene"] = 0;
        m_json["scenes"] = Json::array({{{"name", partName}, {"nodes", Json::array()}}});
    }

    void add(const NamedBody& body, const TriangleMesh& mesh) {
        const int points = addVectors(mesh.points, 1e-3, true), normals = addVectors(mesh.normals, 1, false);
        std::size_t count = 0;
        const std::size_t from = m_bytes.size();
        for (const auto& t : mesh.triangles) {
            if (isNothing(mesh, t)) continue;
            for (const std::uint32_t k : t) put(m_bytes, k);
            count += 3;
        }
        const int indices = addAccessor(from, kIndices, kUnsigned, "SCALAR", count);
        const Json where{{"POSITION", points}, {"NORMAL", normals}};
        Json primitive{{"attributes", where}, {"indices", indices}};
        if (const auto rgb = rgbOf(body.colour)) {
            primitive["material"] = m_json["materials"].size();
            m_json["materials"].push_back(
                {{"name", body.name},
                 {"pbrMetallicRoughness",
                  {{"baseColorFactor", {linear((*rgb)[0]), linear((*rgb)[1]), linear((*rgb)[2]), 1}},
                   {"metallicFactor", 0},
                   {"roughnessFactor", 0.6}}}});
        }
        m_json["scenes"][0]["nodes"].push_back(m_json["nodes"].size());
        m_json["nodes"].push_back({{"name", body.name}, {"mesh", m_json["meshes"].size()}});
        m_json["meshes"].push_back({{"name", body.name}, {"primitives", Json::array({primitive})}});
    }

    std::string content() {
        m_json["buffers"] = Json::array({{{"byteLength", m_bytes.size()}}});
        std::string words = m_json.dump(-1, ' ', false, Json::error_handler_t::replace);
        words.resize((words.size() + 3) / 4 * 4, ' ');
        m_bytes.resize((m_bytes.size() + 3) / 4 * 4, '\0');
        std::string out;
        put(out, kMagic);
        put(out, 2);
        put(out, static_cast<std::uint32_t>(12 + 8 + words.size() + 8 + m_bytes.size()));
        put(out, static_cast<std::uint32_t>(words.size()));
        put(out, kJson);
        out += words;
        put(out, static_cast<std::uint32_t>(m_bytes.size()));
        put(out, kBinary);
        return out + m_bytes;
    }

  private:
    int addVectors(const std::vector<Vec3>& vectors, double scale, bool bounded) {
        const std::size_t from = m_bytes.size();
        std::array<float, 3> low{1e30F, 1e30F, 1e30F}, high{-1e30F, -1e30F, -1e30F};
        for (const Vec3& v : vectors) {
            const auto p = turned(v, scale);
            for (std::size_t k = 0; k < 3; ++k)
                low[k] = std::min(low[k], p[k]), high[k] = std::max(high[k], p[k]);
            put(m_bytes, p);
        }
        const int number = addAccessor(from, kPoints, kFloat, "VEC3", vectors.size());
        if (bounded) {
            m_json["accessors"][static_cast<std::size_t>(number)]["min"] = low;
            m_json["accessors"][static_cast<std::size_t>(number)]["max"] = high;
        }
        return number;
    }

    int addAccessor(std::size_t from, int target, int type, const char* shape, std::size_t count) {
        m_json["bufferViews"].push_back(
            {{"buffer", 0}, {"byteOffset", from}, {"byteLength", m_bytes.size() - from}, {"target", target}});
        m_json["accessors"].push_back({{"bufferView", m_json["bufferViews"].size() - 1},
                                       {"componentType", type},
                                       {"count", count},
                                       {"type", shape}});
        return static_cast<int>(m_json["accessors"].size()) - 1;
    }

    Json m_json;
    std::string m_bytes;
};

} // namespace

Result<Notes> writeGlb(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options) {
    Notes notes;
    Scene scene(partName);
    for (const NamedBody& b : bodies) {
        const auto mesh = trianglesFor(b, options, notes);
        if (!mesh) return mesh.error();
        if (mesh->triangles.empty()) continue;
        scene.add(b, *mesh);
    }
    if (const auto done = writeFileAtomically(path, scene.content()); !done) return done.error();
    return notes;
}

} // namespace gc
