// Files of triangles: what comes in, in pieces, with hollows and open, and what goes out, read by other
// means.

#include "core/exchange/export.hpp"
#include "core/exchange/obj_file.hpp"
#include "core/exchange/stl_file.hpp"
#include "core/exchange/threemf_file.hpp"
#include "core/inspect/mass.hpp"
#include "tests/support/block.hpp"
#include "tests/support/built.hpp"
#include "tests/support/importing.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/stl_text.hpp"
#include "tests/support/tub.hpp"

#include <nlohmann/json.hpp>
#include <zip.h>

#include <cstring>

using namespace gc;
using namespace gc::test;

namespace {

double volumeOf(const Body& body) {
    const auto mass = massProperties(body, Density(1e-3));
    return mass ? mass->volume : 0;
}

std::string facet(const Vec3& a, const Vec3& b, const Vec3& c) {
    std::string out = "facet normal 0 0 0\nouter loop\n";
    for (const Vec3& v : {a, b, c})
        out += "vertex " + formatNumber(v.x) + " " + formatNumber(v.y) + " " + formatNumber(v.z) + "\n";
    return out + "endloop\nendfacet\n";
}

/// A box as triangles, looking outward, or inward. \param sides how many of the six it has
std::string box(const Vec3& low, double size, bool inward = false, int sides = 6) {
    const auto at = [&](int i) { return low + Vec3{i & 1 ? size : 0, i & 2 ? size : 0, i & 4 ? size : 0}; };
    const int quads[6][4] = {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4},
                             {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}};
    std::string out;
    for (int s = 0; s < sides; ++s) {
        const auto& q = quads[s];
        for (const auto& t : {std::array{q[0], q[1], q[2]}, std::array{q[0], q[2], q[3]}})
            out += inward ? facet(at(t[0]), at(t[2]), at(t[1])) : facet(at(t[0]), at(t[1]), at(t[2]));
    }
    return out;
}

std::string solid(const std::string& facets) {
    return "solid thing\n" + facets + "endsolid\n";
}

std::string inBase64(const std::string& bytes) {
    static const char* kDigits = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string out;
    for (std::size_t i = 0; i < bytes.size(); i += 3) {
        std::uint32_t n = 0;
        for (std::size_t k = 0; k < 3; ++k)
            n = n << 8 | (i + k < bytes.size() ? static_cast<unsigned char>(bytes[i + k]) : 0U);
        for (std::size_t k = 0; k < 4; ++k)
            out += i + k > bytes.size() ? '=' : kDigits[n >> (18 - 6 * k) & 63U];
    }
    return out;
}

std::vector<NamedBody> twoBodies() {
    const auto a = Engine().regenerate(brick()), b = Engine().regenerate(cup());
    return {{"lid", a.state.bodies.begin()->second.value, "#c08a6b"}, {"cup", b.state.body("cup"), ""}};
}

std::string written(const std::vector<NamedBody>& bodies, const char* name) {
    const TemporaryFolder folder;
    const auto path = folder.path() / name;
    const auto done = exportBodies(bodies, "two things", path);
    REQUIRE(done.ok());
    CHECK(done->empty());
    return *readFile(path);
}

const std::string kCube = "v 0 0 0\nv 6 0 0\nv 6 6 0\nv 0 6 0\nv 0 0 6\nv 6 0 6\nv 6 6 6\nv 0 6 6\n"
                          "f 4 3 2 1\nf 5/1 6/2/3 7//4 8\nf -8 -7 -3 -4\nf 3 4 8 7\nf 1 5 8 4\nf 2 3 7 6\n";

} // namespace

TEST_CASE("An STL file comes in as a body of flat faces, in bytes or in words") {
    const auto r = Engine().regenerate(brick());
    const std::string bytes = written({{"block", r.state.bodies.begin()->second.value}}, "block.stl");
    const auto bodies = readStl(bytes, 4);
    REQUIRE(bodies.ok());
    const Body body = bodies->front().body;
    CHECK(faceCount(body) == 6); // triangles in one plane are one face
    CHECK(volumeOf(body) == Approx(40 * 30 * 20).epsilon(1e-6));
    CHECK(checkBody(body).faults.empty());
    CHECK(referencesForFace(body, 0).front().find("flat face") == 0);
    const Vec3 p[] = {{0, 0, 0}, {6, 0, 0}, {0, 6, 0}, {0, 0, 6}};
    std::string tetrahedron;
    for (const auto& t : {std::array{0, 2, 1}, {0, 1, 3}, {1, 2, 3}, {0, 3, 2}})
        tetrahedron += facet(p[t[0]], p[t[1]], p[t[2]]);
    const std::string words = solid(tetrahedron);
    const auto in = importing(words);
    INFO(faults(in));
    REQUIRE(allFine(in));
    CHECK(volumeOf(in.state.body("imported")) == Approx(36));
    CHECK(in.steps.back().notes.front().text().find("It is made of triangles: 4 flat faces") == 0);
    // Bad ones say why.
    CHECK(readStl("nonsense", 1).error().code == "stl.syntax");
    CHECK(readStl(bytes.substr(0, bytes.size() - 7), 1).error().code == "stl.syntax");
    CHECK(readStl(solid(""), 1).error().code == "stl.syntax");
    // What is of no kind is not called one of them.
    const auto neither = importing("nonsense");
    REQUIRE(neither.steps.back().error);
    CHECK(neither.steps.back().error->sentence.text().find("neither a STEP nor an STL") != std::string::npos);
    auto random = seeded(32U);
    for (int k = 0; k < 200; ++k) {
        std::string bad = k % 2 ? bytes : words;
        for (int n = 0; n < 4; ++n) bad[random() % bad.size()] = static_cast<char>(random() % 256);
        const auto read = readStl(bad, 1);
        if (!read) CHECK_FALSE(read.error().sentence.text().empty());
    }
}

TEST_CASE("Pieces of a file are bodies, hollows are within them, and what looks inward is turned") {
    // A box with a hollow, in that a loose box that looks inward; beside it one that looks inward.
    const auto r = importing(solid(box({0, 0, 0}, 10) + box({2, 2, 2}, 6, true) + box({4, 4, 4}, 2, true) +
                                   box({20, 0, 0}, 3, true)));
    INFO(faults(r));
    REQUIRE(allFine(r));
    std::multiset<long> volumes;
    for (const auto& [id, body] : r.state.bodies) {
        CHECK(checkBody(body.value).faults.empty());
        volumes.insert(std::lround(volumeOf(body.value)));
    }
    CHECK(volumes == std::multiset<long>{8, 27, 1000 - 216});
    // Two boxes that share an edge hang together by four triangles there: each is a body.
    const auto touching = importing(solid(box({0, 0, 0}, 4) + box({4, 4, 0}, 4)));
    CHECK(allFine(touching));
    CHECK(touching.state.bodies.size() == 2);
}

TEST_CASE("What does not close comes in as a surface, says how open it is, and is not weighed") {
    const auto r = importing(solid(box({0, 0, 0}, 10, false, 5)));
    INFO(faults(r));
    REQUIRE(allFine(r));
    const Body body = r.state.body("imported");
    CHECK(checkBody(body).openEdges == 4);
    CHECK(envelope(body).size().x == Approx(10));
    const auto& notes = r.steps.back().notes;
    CHECK(std::any_of(notes.begin(), notes.end(),
                      [](const gc::Message& m) { return m.text().find("open") != std::string::npos; }));
}

TEST_CASE("OBJ: faces of many sides, numbers counted back, groups, remarks; lines that are wrong are named") {
    const auto cube = readObj("# made by hand\nmtllib x.mtl\no dice\nusemtl red\n" + kCube, 3);
    REQUIRE(cube.ok());
    REQUIRE(cube->size() == 1);
    CHECK(cube->front().name == "dice");
    CHECK(volumeOf(cube->front().body) == Approx(216));
    CHECK(faceCount(cube->front().body) == 6);
    // An L of six corners, upright walls: only its ears make 5 by 2 and 2 by 3.
    std::string ell;
    const Vec2 corners[] = {{0, 0}, {5, 0}, {5, 2}, {2, 2}, {2, 5}, {0, 5}};
    for (const double z : {0., 4.})
        for (const Vec2& c : corners)
            ell += "v " + formatNumber(c.x) + " " + formatNumber(c.y) + " " + formatNumber(z) + "\n";
    ell += "f 6 5 4 3 \\\n 2 1\nf 7 8 9 10 11 12\n";
    for (int i = 0; i < 6; ++i) {
        const int j = (i + 1) % 6;
        ell += "f " + std::to_string(i + 1) + " " + std::to_string(j + 1) + " " + std::to_string(j + 7) +
               " " + std::to_string(i + 7) + "\n";
    }
    const auto el = readObj(ell, 3);
    REQUIRE(el.ok());
    CHECK(volumeOf(el->front().body) == Approx((5 * 2 + 2 * 3) * 4));
    CHECK(faceCount(el->front().body) == 8);
    // Groups that only close together are one body.
    std::string parted = kCube;
    parted.insert(parted.find("f 3 4"), "g other half\n");
    const auto joined = readObj(parted, 3);
    REQUIRE(joined.ok());
    CHECK(joined->size() == 1);
    CHECK(volumeOf(joined->front().body) == Approx(216));
    const auto bad = readObj("v 0 0 0\nv 1 0 0\nf 1 2 7\n", 3);
    REQUIRE_FALSE(bad.ok());
    CHECK(bad.error().sentence.text().find("Line 3 of the OBJ file") == 0);
    CHECK(readObj("v 0 0\n", 3).error().code == "obj.syntax");
    CHECK(readObj("v nan 0 0\n", 3).error().code == "obj.syntax");
    CHECK(readObj("", 3).error().code == "triangles.empty");
    // As bytes in a part, as the window keeps it, and as text.
    for (const std::string& held : {kCube, inBase64(kCube)}) {
        const auto r = importing(held);
        INFO(faults(r));
        REQUIRE(allFine(r));
        CHECK(volumeOf(r.state.body("imported")) == Approx(216));
    }
    auto random = seeded(33U);
    for (int k = 0; k < 300; ++k) {
        std::string garbled = kCube;
        for (int n = 0; n < 3; ++n) garbled[random() % garbled.size()] = static_cast<char>(random() % 256);
        const auto read = readObj(garbled, 1);
        if (!read) CHECK_FALSE(read.error().sentence.text().empty());
    }
}

TEST_CASE("3MF: what went out comes in with its names, colours and volumes; garbled files are refused") {
    const auto bodies = twoBodies();
    const std::string file = written(bodies, "two.3mf");
    const auto in = read3mf(file, 5);
    INFO((in ? std::string() : in.error().sentence.text()));
    REQUIRE(in.ok());
    REQUIRE(in->size() == 2);
    CHECK((*in)[0].name == "lid");
    CHECK((*in)[0].colour == "#c08a6b");
    CHECK(volumeOf((*in)[0].body) == Approx(40 * 30 * 20).epsilon(1e-6));
    CHECK((*in)[1].name == "cup");
    CHECK(volumeOf((*in)[1].body) == Approx(volumeOf(bodies[1].body)).epsilon(5e-3)); // chords of rounds
    const auto r = importing(inBase64(file));
    INFO(faults(r));
    REQUIRE(allFine(r));
    CHECK(r.steps.back().notes.size() == 2);
    CHECK(read3mf("PK", 5).error().code == "3mf.syntax");
    auto random = seeded(34U);
    for (int k = 0; k < 60; ++k) {
        std::string bad = file;
        if (k % 2)
            bad.resize(random() % bad.size());
        else
            for (int n = 0; n < 6; ++n) bad[random() % bad.size()] = static_cast<char>(random() % 256);
        const auto read = read3mf(bad, 1);
        if (!read) CHECK_FALSE(read.error().sentence.text().empty());
    }
    // A file that would unpack to half a gigabyte is not unpacked.
    const TemporaryFolder folder;
    const std::string bomb = (folder.path() / "bomb.3mf").string();
    zip_t* archive = zip_open(bomb.c_str(), ZIP_CREATE, nullptr);
    REQUIRE(archive);
    const std::string nothing(500'000'000, ' '); // NOLINT(bugprone-string-constructor): a bomb is large
    zip_file_add(archive, "3D/3dmodel.model", zip_source_buffer(archive, nothing.data(), nothing.size(), 0),
                 0);
    REQUIRE(zip_close(archive) == 0);
    CHECK(read3mf(*readFile(bomb), 1).error().code == "3mf.large");
}

TEST_CASE("OBJ and GLB hold each body by its name, in their units, closed") {
    const auto bodies = twoBodies();
    const auto back = readObj(written(bodies, "two.obj"), 2);
    REQUIRE(back.ok());
    REQUIRE(back->size() == 2);
    CHECK((*back)[0].name == "lid");
    CHECK(volumeOf((*back)[0].body) == Approx(24000).epsilon(1e-6));
    CHECK((*back)[1].name == "cup");
    CHECK(checkBody((*back)[1].body).faults.empty());
    const std::string glb = written(bodies, "two.glb");
    const auto number = [&](std::size_t at) {
        std::uint32_t n = 0;
        std::memcpy(&n, glb.data() + at, 4);
        return n;
    };
    REQUIRE(glb.size() > 20);
    CHECK(glb.substr(0, 4) == "glTF");
    CHECK(number(8) == glb.size());
    const auto json = nlohmann::json::parse(glb.substr(20, number(12)));
    const std::string bytes = glb.substr(28 + number(12));
    CHECK(json["buffers"][0]["byteLength"].get<std::size_t>() <= bytes.size());
    REQUIRE(json["nodes"].size() == 2);
    CHECK(json["nodes"][1]["name"] == "cup");
    const auto material = json["materials"][0]["pbrMetallicRoughness"]["baseColorFactor"];
    CHECK(material[0].get<double>() == Approx(std::pow((0xc0 / 255. + 0.055) / 1.055, 2.4)));
    // The volume of the first, by the divergence theorem over its numbers: cubic metres, y up.
    const auto primitive = json["meshes"][0]["primitives"][0];
    const auto view = [&](int accessor) {
        const auto& a = json["accessors"][static_cast<std::size_t>(accessor)];
        return bytes.data() +
               json["bufferViews"][a["bufferView"].get<std::size_t>()]["byteOffset"].get<std::size_t>();
    };
    const int positions = primitive["attributes"]["POSITION"], indices = primitive["indices"];
    const auto count = json["accessors"][static_cast<std::size_t>(indices)]["count"].get<std::size_t>();
    const auto corner = [&](std::size_t i) {
        std::uint32_t k = 0;
        float p[3];
        std::memcpy(&k, view(indices) + 4 * i, 4);
        std::memcpy(p, view(positions) + 12 * std::size_t{k}, 12);
        return Vec3{double(p[0]), double(p[1]), double(p[2])};
    };
    double sum = 0;
    for (std::size_t i = 0; i < count; i += 3) sum += dot(corner(i), cross(corner(i + 1), corner(i + 2))) / 6;
    CHECK(sum == Approx(24000e-9).epsilon(1e-5));
    const auto& bounds = json["accessors"][static_cast<std::size_t>(positions)];
    CHECK(bounds["max"][1].get<double>() == Approx(0.020));
    CHECK(bounds["min"][2].get<double>() == Approx(-0.030));
}

TEST_CASE("Of the triangles of a file those are counted that are taken") {
    const auto r =
        importing(stlText({{{0, 0, 0}, {4, 3, 1}}, {{9, 0, 0}, {14, 3, 2}}}), text("which", "body 2"));
    REQUIRE(r.steps.back().ok);
    CHECK(r.state.bodies.size() == 1);
    CHECK(volumeOf(r) == Approx(5 * 3 * 2));
    std::string said;
    for (const Message& note : r.steps.back().notes) said += note.text() + " ";
    CHECK(said.find("triangles: 6 flat faces") != std::string::npos);
    CHECK(said.find("1 of the 2 bodies") != std::string::npos);
}
