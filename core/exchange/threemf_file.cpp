#include "core/base/file.hpp"
#include "core/exchange/export.hpp"
#include "core/exchange/lib3mf.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <unistd.h>
#include <unordered_map>

namespace gc {

namespace {

using namespace NMR;

struct ThreemfPoints {
    std::vector<MODELMESHVERTEX> points;
    std::vector<MODELMESHTRIANGLE> triangles;
};

/// One vertex for each point in space, as the format wants it.
ThreemfPoints weld(const TriangleMesh& mesh) {
    ThreemfPoints w;
    std::unordered_map<std::uint32_t, DWORD> number;
    std::vector<DWORD> at(mesh.points.size());
    for (std::size_t i = 0; i < mesh.points.size(); ++i) {
        const auto [it, fresh] = number.emplace(mesh.shared[i], static_cast<DWORD>(w.points.size()));
        if (fresh) {
            const Vec3 p = mesh.points[i];
            w.points.push_back({{static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(p.z)}});
        }
        at[i] = it->second;
    }
    for (const auto& t : mesh.triangles)
        if (at[t[0]] != at[t[1]] && at[t[1]] != at[t[2]] && at[t[2]] != at[t[0]])
            w.triangles.push_back({{at[t[0]], at[t[1]], at[t[2]]}});
    return w;
}

std::optional<std::array<BYTE, 3>> bytesOf(const std::string& colour) {
    const auto rgb = rgbOf(colour);
    if (!rgb) return std::nullopt;
    const auto byte = [&](std::size_t k) { return static_cast<BYTE>(std::lround((*rgb)[k] * 255)); };
    return std::array{byte(0), byte(1), byte(2)};
}

/// The colour is a material of that name, as printers show it.
bool paint(PLib3MFModelMeshObject* object, const NamedBody& body, PLib3MFModelBaseMaterial* materials) {
    const auto rgb = bytesOf(body.colour);
    if (!rgb) return true;
    Owned<PLib3MFDefaultPropertyHandler> handler;
    DWORD group = 0, index = 0;
    return lib3mf_basematerial_addmaterialutf8(materials, body.name.c_str(), (*rgb)[0], (*rgb)[1], (*rgb)[2],
                                               &index) == LIB3MF_OK &&
           lib3mf_basematerial_getresourceid(materials, &group) == LIB3MF_OK &&
           lib3mf_object_createdefaultpropertyhandler(object, &handler.object) == LIB3MF_OK &&
           lib3mf_defaultpropertyhandler_setbasematerial(handler.object, group, index) == LIB3MF_OK;
}

bool addBody(PLib3MFModel* model, PLib3MFModelBaseMaterial* materials, const NamedBody& body,
             const TriangleMesh& mesh) {
    Owned<PLib3MFModelMeshObject> object;
    Owned<PLib3MFModelBuildItem> item;
    ThreemfPoints w = weld(mesh);
    return lib3mf_model_addmeshobject(model, &object.object) == LIB3MF_OK &&
           lib3mf_object_setnameutf8(object.object, body.name.c_str()) == LIB3MF_OK &&
           lib3mf_meshobject_setgeometry(object.object, w.points.data(), static_cast<DWORD>(w.points.size()),
                                         w.triangles.data(),
                                         static_cast<DWORD>(w.triangles.size())) == LIB3MF_OK &&
           paint(object.object, body, materials) &&
           lib3mf_model_addbuilditem(model, object.object, nullptr, &item.object) == LIB3MF_OK;
}

} // namespace

Result<Notes> write3mf(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options) {
    Error failed;
    failed.code = "3mf.unwritable";
    failed.sentence = phrase("The 3MF file \"%1\" cannot be written. Choose another place.", path.string());
    Owned<PLib3MFModel> model;
    if (lib3mf_createmodel(&model.object) != LIB3MF_OK ||
        lib3mf_model_setunit(model.object, MODELUNIT_MILLIMETER) != LIB3MF_OK)
        return failed;
    lib3mf_model_addmetadatautf8(model.object, "Title", partName.c_str());
    lib3mf_model_addmetadatautf8(model.object, "Application", "Good Curve");
    Notes notes;
    Owned<PLib3MFModelBaseMaterial> materials;
    const bool coloured = std::any_of(bodies.begin(), bodies.end(),
                                      [](const NamedBody& b) { return bytesOf(b.colour).has_value(); });
    if (coloured && lib3mf_model_addbasematerialgroup(model.object, &materials.object) != LIB3MF_OK)
        return failed;
    for (const NamedBody& b : bodies) {
        const auto mesh = trianglesFor(b, options, notes);
        if (!mesh) return mesh.error();
        if (!addBody(model.object, materials.object, b, *mesh)) return failed;
    }
    Owned<PLib3MFModelWriter> writer;
    std::string aside = (std::filesystem::temp_directory_path() / "good-curve-3mf-XXXXXX").string();
    const int fd = ::mkstemp(aside.data());
    if (fd < 0) return failed;
    ::close(fd);
    const bool written = lib3mf_model_querywriter(model.object, "3mf", &writer.object) == LIB3MF_OK &&
                         lib3mf_writer_writetofileutf8(writer.object, aside.c_str()) == LIB3MF_OK;
    auto content = written ? readFile(aside) : Result<std::string>(failed);
    ::unlink(aside.c_str());
    if (!content) return failed;
    if (const auto done = writeFileAtomically(path, *content); !done) return done.error();
    return notes;
}

} // namespace gc
