/// \file Shells of made-up bodies: what lies nearer than the wall to a kept face is solid, all else is
/// hollow. Told by points, against the faces of the body as it was.

#include "core/shape/mesh.hpp"
#include "core/steps/shell/hollowing.hpp"
#include "core/units/amount.hpp"
#include "tests/support/alone.hpp"
#include "tests/support/raw_bodies.hpp"
#include "tests/support/seeded.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS_Compound.hxx>

#include <catch2/catch.hpp>

#include <map>
#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

/// A block, a stud or an L, with a boss, a pocket or a step, its uprights and perhaps its floor rounded.
TopoDS_Shape randomBody(Chance& chance) {
    const double a = chance.between(30, 50), b = chance.between(24, 40), h = chance.between(14, 26);
    const unsigned kind = chance.upTo(3);
    TopoDS_Shape body =
        kind == 0 ? boxAt(0, 0, 0, a, b, h)
        : kind == 1
            ? cylinderAt(0, 0, 0, b / 2, h)
            : prismOf({{-a / 2, -b / 2}, {a / 2, -b / 2}, {a / 2, 0}, {0, 0}, {0, b / 2}, {-a / 2, b / 2}},
                      h);
    const double rounds = chance.between(1, 6);
    if (kind != 1) {
        BRepFilletAPI_MakeFillet uprights(body);
        for (const TopoDS_Edge& e : edgesOf(body, atLevel(h / 2))) uprights.Add(rounds, e);
        uprights.Build();
        if (uprights.IsDone()) body = onlySolid(uprights.Shape());
    }
    if (chance.upTo(2)) {
        BRepFilletAPI_MakeFillet floor(body);
        for (const TopoDS_Edge& e : edgesOf(body, atLevel(0)))
            floor.Add(std::min(rounds, chance.between(0.5, 4)), e);
        floor.Build();
        if (floor.IsDone()) body = onlySolid(floor.Shape());
    }
    const double x = -a / 4, y = -b / 5;
    switch (chance.upTo(4)) {
    case 0:
        return joinedRaw(body, cylinderAlong({x, y, 2}, {1, 0, 0.2}, chance.between(2, 4), a));
    case 1:
        return cutRaw(body, ballAt(x, -b / 2, h / 2, chance.between(3, 6)));
    case 2:
        return cutRaw(body, boxAt(0, -b / 2, h / 3, a / 4, 6, h));
    default:
        return body;
    }
}

/// By the solid angle that all triangles together take up as seen from there (Van Oosterom and Strackee
/// 1983).
bool isInside(const TriangleMesh& mesh, const Vec3& p) {
    double angle = 0;
    for (const auto& t : mesh.triangles) {
        const Vec3 a = mesh.points[t[0]] - p, b = mesh.points[t[1]] - p, c = mesh.points[t[2]] - p;
        const double la = length(a), lb = length(b), lc = length(c);
        angle += 2 * std::atan2(dot(a, cross(b, c)),
                                la * lb * lc + dot(a, b) * lc + dot(b, c) * la + dot(c, a) * lb);
    }
    return angle > 2 * std::numbers::pi;
}

struct Shelling {
    TopoDS_Shape body;
    double offset = 0; ///< negative inward
    bool open = true;  ///< its top
};

/// "good", or what is wrong or was said.
std::string outcomeOf(const Shelling& s, unsigned seed) {
    const Body body = bodyOf(s.body);
    const NamedShape& before = body.shape();
    std::vector<int> open;
    TopoDS_Compound kept;
    BRep_Builder builder;
    builder.MakeCompound(kept);
    double top = -1e300;
    for (int i = 1; i <= before.faces.Extent(); ++i) {
        const BRepAdaptor_Surface f(TopoDS::Face(before.faces(i)), false);
        if (f.GetType() == GeomAbs_Plane && std::fabs(f.Plane().Axis().Direction().Z()) > 0.999)
            top = std::max(top, f.Plane().Location().Z());
    }
    for (int i = 1; i <= before.faces.Extent(); ++i) {
        const BRepAdaptor_Surface f(TopoDS::Face(before.faces(i)), false);
        const bool isTop = f.GetType() == GeomAbs_Plane &&
                           std::fabs(f.Plane().Axis().Direction().Z()) > 0.999 &&
                           std::fabs(f.Plane().Location().Z() - top) < 1e-6;
        if (isTop && s.open)
            open.push_back(i - 1);
        else
            builder.Add(kept, before.faces(i));
    }
    const auto made = hollowed(body, {open, s.offset, {}, 0}, 2, Progress());
    if (!made) return "refused " + made.error().code;
    const Box box = looseEnvelope(*made);
    const double wall = std::fabs(s.offset), doubt = 0.05 * wall;
    Chance chance(seed);
    MeshOptions fine;
    fine.deviation = 0.01 * wall;
    const auto was = makeMesh(body, fine), is = makeMesh(*made, fine);
    REQUIRE((was && is));
    constexpr int kPoints = 400;
    for (int i = 0; i < kPoints; ++i) {
        const gp_Pnt p(chance.between(box.low.x, box.high.x), chance.between(box.low.y, box.high.y),
                       chance.between(box.low.z, box.high.z));
        const bool within = isInside(*was, toVec(p)), inward = s.offset < 0;
        const BRepExtrema_DistShapeShape away(BRepBuilderAPI_MakeVertex(p).Vertex(), kept);
        if (std::fabs(away.Value() - wall) < doubt || away.Value() < doubt) continue;
        if (inward && away.Value() > wall && away.Value() < 1.5 * wall) continue; // corners may stay sharp
        // Outward a wall ends at its opening in a way of its own, and sharp corners reach further.
        if (!inward && (p.Z() > top - wall || (!within && away.Value() > wall))) continue;
        const bool solid = inward == within && away.Value() < wall;
        if (isInside(*is, toVec(p)) != solid)
            return "wrong at " + formatNumber(p.X(), 2) + ", " + formatNumber(p.Y(), 2) + ", " +
                   formatNumber(p.Z(), 2);
    }
    return "good";
}

} // namespace

TEST_CASE("Shells of made-up bodies are solid as far as the wall from every kept face, and hollow beyond") {
    const int all = std::getenv("GC_DEEP") ? 72 : 10;
    Chance chance(seeded(71)());
    std::map<std::string, int> count;
    for (int i = 0; i < all; ++i) {
        const Shelling s{randomBody(chance), chance.between(0.8, 3) * (i % 9 < 5 ? -1 : 1), true};
        const auto [ended, said] = alone([&] { return outcomeOf(s, static_cast<unsigned>(i)); });
        const std::string outcome = ended ? said : "crashed";
        INFO(i << " by " << s.offset << ": " << outcome);
        CHECK_FALSE(outcome.starts_with("wrong"));
        ++count[(s.offset < 0 ? "inward " : "outward ") + outcome];
    }
    std::string list;
    for (const auto& [what, n] : count) list += "\n  " + what + ": " + std::to_string(n);
    WARN(all << " shells:" << list);
}
