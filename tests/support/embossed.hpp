#pragma once
/// \file Drawings embossed on walls.

#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/letters.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>
#include <catch2/catch.hpp>

namespace gc::test {

/// A step that embosses a drawing on its own plane. \return its index
inline std::size_t addEmboss(Part& p, const Drawing& d, const std::string& plane, const std::string& wall,
                             const Slots& more = {}) {
    const std::string name = "label " + std::to_string(p.steps.size());
    add(p, "draw", {{"name", name}, {"plane", plane}, {"drawing", DrawingSlot(d)}});
    Slots slots{{"outline", name}, {"wall", References{wall}}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "emboss", slots);
    return p.steps.size() - 1;
}

/// A plane 60 before the front one.
inline void addBefore(Part& p) {
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("60 mm")}});
}

inline const Body& bodyOf(const RegenResult& r) {
    return r.state.bodies.begin()->second.value;
}
inline void checkSound(const RegenResult& r) {
    const auto found = checkBody(bodyOf(r));
    for (const auto& f : found.faults) UNSCOPED_INFO(f.text());
    CHECK(found.faults.empty());
}

/// Those of a role that begins so.
inline std::vector<TopoDS_Face> facesCalled(const Body& body, const std::string& role) {
    std::vector<TopoDS_Face> out;
    for (int i = 0; i < faceCount(body); ++i) {
        const TopoDS_Face f = TopoDS::Face(body.shape().faces(i + 1));
        for (const NamePtr n : body.shape().namesOf(f))
            if (n->role.starts_with(role)) {
                out.push_back(f);
                break;
            }
    }
    return out;
}

/// How far the distances of far faces to the wall as it was leave the height, at places spread over them.
inline double offHeight(const Body& now, const TopoDS_Shape& wall, const std::string& role, double height) {
    double out = 0;
    int seen = 0;
    for (const TopoDS_Face& f : facesCalled(now, role)) {
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(f, u0, u1, v0, v1);
        const BRepTopAdaptor_FClass2d inside(TopoDS::Face(f.Oriented(TopAbs_FORWARD)), 1e-7);
        const auto surface = BRep_Tool::Surface(f);
        for (int i = 1; i < 6; ++i)
            for (int j = 1; j < 6; ++j) {
                const gp_Pnt2d uv(u0 + (u1 - u0) * i / 6, v0 + (v1 - v0) * j / 6);
                if (inside.Perform(uv) != TopAbs_IN) continue;
                BRepExtrema_DistShapeShape d(BRepBuilderAPI_MakeVertex(surface->Value(uv.X(), uv.Y())), wall);
                out = std::max(out, std::fabs(d.Value() - height));
                ++seen;
            }
    }
    REQUIRE(seen > 3);
    return out;
}

} // namespace gc::test
