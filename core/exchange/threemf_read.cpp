// Bodies out of 3MF files.

#include "core/base/utf8.hpp"
#include "core/exchange/lib3mf.hpp"
#include "core/exchange/threemf_file.hpp"

#include <zip.h>

#include <algorithm>
#include <cstdint>
#include <cstring>
#include <optional>

namespace gc {

namespace {

using namespace NMR;

/// A place and what it is turned by, as the format has it: rows that a row vector is multiplied with.
struct Placing {
    float m[4][3] = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, 0}};

    explicit Placing(const MODELTRANSFORM& t) {
        for (int i = 0; i < 4; ++i)
            for (int k = 0; k < 3; ++k) m[i][k] = t.m_fFields[k][i];
    }
    Placing() = default;
    Vec3 of(const Vec3& p) const {
        const auto c = [&](int k) {
            return p.x * double(m[0][k]) + p.y * double(m[1][k]) + p.z * double(m[2][k]) + double(m[3][k]);
        };
        return {c(0), c(1), c(2)};
    }
    bool mirrors() const {
        const auto row = [&](int i) { return Vec3{double(m[i][0]), double(m[i][1]), double(m[i][2])}; };
        return dot(row(0), cross(row(1), row(2))) < 0;
    }
};

double unitOf(PLib3MFModel* model) {
    DWORD unit = MODELUNIT_MILLIMETER;
    lib3mf_model_getunit(model, &unit);
    switch (unit) {
    case MODELUNIT_MICROMETER:
        return 1e-3;
    case MODELUNIT_CENTIMETER:
        return 10;
    case MODELUNIT_INCH:
        return 25.4;
    case MODELUNIT_FOOT:
        return 304.8;
    case MODELUNIT_METER:
        return 1000;
    default:
        return 1;
    }
}

class ThreemfReader {
  public:
    explicit ThreemfReader(PLib3MFModel* model) : m_model(model), m_unit(unitOf(model)) {}

    /// False where the library does not say what it should.
    bool all() {
        Owned<PLib3MFModelBuildItemIterator> items;
        if (lib3mf_model_getbuilditems(m_model, &items.object) != LIB3MF_OK) return false;
        BOOL more = 0;
        while (lib3mf_builditemiterator_movenext(items.object, &more) == LIB3MF_OK && more) {
            Owned<PLib3MFModelBuildItem> item;
            Owned<PLib3MFModelObjectResource> object;
            if (lib3mf_builditemiterator_getcurrent(items.object, &item.object) != LIB3MF_OK ||
                lib3mf_builditem_getobjectresource(item.object, &object.object) != LIB3MF_OK)
                return false;
            MODELTRANSFORM t{};
            BOOL placed = 0;
            std::vector<Placing> where;
            if (lib3mf_builditem_hasobjecttransform(item.object, &placed) == LIB3MF_OK && placed &&
                lib3mf_builditem_getobjecttransform(item.object, &t) == LIB3MF_OK)
                where.emplace_back(t);
            if (!add(object.object, where, {}, 0)) return false;
        }
        return true;
    }
    std::vector<TriangleObject> objects;

  private:
    /// \param where the innermost first
    bool add(PLib3MFModelObjectResource* object, const std::vector<Placing>& where, const std::string& within,
             int depth) {
        constexpr int kDeepest = 40;
        if (depth > kDeepest) return false;
        BOOL isMesh = 0;
        if (lib3mf_object_ismeshobject(object, &isMesh) != LIB3MF_OK) return false;
        const std::string own = nameOf(object);
        const std::string name = own.empty() ? within : own;
        if (isMesh) return addMesh(object, where, name);
        DWORD count = 0;
        if (lib3mf_componentsobject_getcomponentcount(object, &count) != LIB3MF_OK) return false;
        for (DWORD i = 0; i < count; ++i) {
            Owned<PLib3MFModelComponent> component;
            Owned<PLib3MFModelObjectResource> part;
            MODELTRANSFORM t{};
            BOOL placed = 0;
            if (lib3mf_componentsobject_getcomponent(object, i, &component.object) != LIB3MF_OK ||
                lib3mf_component_getobjectresource(component.object, &part.object) != LIB3MF_OK ||
                lib3mf_component_hastransform(component.object, &placed) != LIB3MF_OK)
                return false;
            std::vector<Placing> there;
            if (placed && lib3mf_component_gettransform(component.object, &t) == LIB3MF_OK)
                there.emplace_back(t);
            there.insert(there.end(), where.begin(), where.end());
            if (!add(part.object, there, name, depth + 1)) return false;
        }
        return true;
    }

    bool addMesh(PLib3MFModelMeshObject* mesh, const std::vector<Placing>& where, const std::string& name) {
        DWORD points = 0, triangles = 0;
        if (lib3mf_meshobject_getvertexcount(mesh, &points) != LIB3MF_OK ||
            lib3mf_meshobject_gettrianglecount(mesh, &triangles) != LIB3MF_OK)
            return false;
        m_count += triangles;
        TriangleObject out{name, colourOf(mesh)};
        if (m_count > kMostRead) { // told by their number alone
            out.triangles.resize(m_count);
            objects.push_back(std::move(out));
            return true;
        }
        bool turned = false;
        for (const Placing& p : where) turned ^= p.mirrors();
        std::vector<Vec3> at(points);
        for (DWORD i = 0; i < points; ++i) {
            MODELMESHVERTEX v{};
            if (lib3mf_meshobject_getvertex(mesh, i, &v) != LIB3MF_OK) return false;
            at[i] = {double(v.m_fPosition[0]), double(v.m_fPosition[1]), double(v.m_fPosition[2])};
            for (const Placing& p : where) at[i] = p.of(at[i]);
            at[i] = at[i] * m_unit;
            if (!isPlace(at[i])) return false;
        }
        for (DWORD i = 0; i < triangles; ++i) {
            MODELMESHTRIANGLE t{};
            if (lib3mf_meshobject_gettriangle(mesh, i, &t) != LIB3MF_OK) return false;
            const DWORD a = t.m_nIndices[0], b = t.m_nIndices[turned ? 2 : 1],
                        c = t.m_nIndices[turned ? 1 : 2];
            if (std::max({a, b, c}) >= points) return false;
            out.triangles.push_back({at[a], at[b], at[c]});
        }
        objects.push_back(std::move(out));
        return true;
    }

    static std::string nameOf(PLib3MFModelObjectResource* object) {
        ULONG needed = 0;
        if (lib3mf_object_getnameutf8(object, nullptr, 0, &needed) != LIB3MF_OK || needed == 0) return {};
        constexpr ULONG kLongest = 4000;
        std::string name(std::min(needed, kLongest) + 1, '\0');
        if (lib3mf_object_getnameutf8(object, name.data(), static_cast<ULONG>(name.size()), &needed) !=
            LIB3MF_OK)
            return {};
        name.resize(std::strlen(name.c_str()));
        for (char& c : name)
            if (static_cast<unsigned char>(c) < 0x20 || c == '|') c = ' ';
        return name;
    }

    std::string colourOf(PLib3MFModelObjectResource* object) const {
        Owned<PLib3MFDefaultPropertyHandler> handler;
        Owned<PLib3MFModelBaseMaterial> materials;
        DWORD group = 0, index = 0;
        BYTE r = 0, g = 0, b = 0, a = 0;
        if (lib3mf_object_createdefaultpropertyhandler(object, &handler.object) != LIB3MF_OK ||
            lib3mf_defaultpropertyhandler_getbasematerial(handler.object, &group, &index) != LIB3MF_OK ||
            group == 0 || lib3mf_model_getbasematerialbyid(m_model, group, &materials.object) != LIB3MF_OK ||
            lib3mf_basematerial_getdisplaycolor(materials.object, index, &r, &g, &b, &a) != LIB3MF_OK)
            return {};
        std::string out = "#";
        for (const int byte : {int(r), int(g), int(b)})
            for (const int digit : {byte / 16, byte % 16}) out += "0123456789abcdef"[digit];
        return out;
    }

    PLib3MFModel* m_model;
    double m_unit;
    std::size_t m_count = 0;
};

/// What its parts say that they unpack to, in bytes. Nothing where it cannot be opened.
std::optional<std::uint64_t> unpackedSize(const std::string& s) {
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* source = zip_source_buffer_create(s.data(), s.size(), 0, &error);
    zip_t* archive = source ? zip_open_from_source(source, ZIP_RDONLY, &error) : nullptr;
    if (!archive && source) zip_source_free(source);
    zip_error_fini(&error);
    if (!archive) return std::nullopt;
    std::uint64_t sum = 0;
    for (zip_int64_t i = 0, n = zip_get_num_entries(archive, 0); i < n; ++i) {
        zip_stat_t entry;
        if (zip_stat_index(archive, static_cast<zip_uint64_t>(i), 0, &entry) == 0 &&
            (entry.valid & ZIP_STAT_SIZE) != 0)
            sum += entry.size;
    }
    zip_discard(archive);
    return sum;
}

} // namespace

bool isPacked(const std::string& content) {
    return content.starts_with("PK");
}

Result<std::vector<NamedBody>> read3mf(const std::string& content, int stepId) {
    const Error broken =
        errorOf("3mf.syntax", "This is not a 3MF file that can be read. It may be cut off; export it anew.");
    constexpr std::uint64_t kMost = 300'000'000; // bytes: far more than so many triangles take
    const auto size = unpackedSize(content);
    if (!size) return broken;
    if (*size > kMost)
        return errorOf("3mf.large", "The 3MF file would unpack to more than 300 MB. Export it coarser.");
    Owned<PLib3MFModel> model;
    Owned<PLib3MFModelReader> reader;
    std::string bytes = content;
    if (lib3mf_createmodel(&model.object) != LIB3MF_OK ||
        lib3mf_model_queryreader(model.object, "3mf", &reader.object) != LIB3MF_OK ||
        lib3mf_reader_readfrombuffer(reader.object, reinterpret_cast<BYTE*>(bytes.data()), bytes.size()) !=
            LIB3MF_OK)
        return broken;
    ThreemfReader read(model.object);
    if (!read.all()) return broken;
    return bodiesOfTriangles(read.objects, stepId, "3MF");
}

} // namespace gc
