#include "core/base/file.hpp"
#include "core/exchange/export.hpp"

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#include <Model/COM/NMR_DLLInterfaces.h>
#pragma GCC diagnostic pop

#include <unistd.h>
#include <unordered_map>

namespace gc {

namespace {

using namespace NMR;

/// Releases a library object at the end of its scope.
template <class T>
struct Owned {
    T* object = nullptr;
    ~Owned() {
        if (object) lib3mf_release(object);
    }
};

struct Welded {
    std::vector<MODELMESHVERTEX> points;
    std::vector<MODELMESHTRIANGLE> triangles;
};

/// One vertex for each point in space, as the format wants it.
Welded weld(const TriangleMesh& mesh) {
    Welded w;
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

bool addBody(PLib3MFModel* model, const NamedBody& body, const TriangleMesh& mesh) {
    Owned<PLib3MFModelMeshObject> object;
    Owned<PLib3MFModelBuildItem> item;
    Welded w = weld(mesh);
    return lib3mf_model_addmeshobject(model, &object.object) == LIB3MF_OK &&
           lib3mf_object_setnameutf8(object.object, body.name.c_str()) == LIB3MF_OK &&
           lib3mf_meshobject_setgeometry(object.object, w.points.data(), static_cast<DWORD>(w.points.size()),
                                         w.triangles.data(),
                                         static_cast<DWORD>(w.triangles.size())) == LIB3MF_OK &&
           lib3mf_model_addbuilditem(model, object.object, nullptr, &item.object) == LIB3MF_OK;
}

} // namespace

Result<Done> write3mf(const std::vector<NamedBody>& bodies, const std::string& partName,
                      const std::filesystem::path& path, const ExportOptions& options) {
    Error failed;
    failed.code = "3mf.unwritable";
    failed.sentence = "The 3MF file \"" + path.string() + "\" cannot be written. Choose another place.";
    Owned<PLib3MFModel> model;
    if (lib3mf_createmodel(&model.object) != LIB3MF_OK ||
        lib3mf_model_setunit(model.object, MODELUNIT_MILLIMETER) != LIB3MF_OK)
        return failed;
    lib3mf_model_addmetadatautf8(model.object, "Title", partName.c_str());
    lib3mf_model_addmetadatautf8(model.object, "Application", "Good Curve");
    for (const NamedBody& b : bodies) {
        const auto mesh = makeMesh(b.body, {options.deviation, options.angle});
        if (!mesh) return mesh.error();
        if (!addBody(model.object, b, *mesh)) return failed;
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
    return writeFileAtomically(path, *content);
}

} // namespace gc
