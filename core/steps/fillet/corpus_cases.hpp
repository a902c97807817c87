#pragma once
/// \file For .cpp files: bodies of moulded parts with edges to be rounded, from harmless radii to far too
/// large ones.

#include "core/units/amount.hpp"
#include "tests/support/raw_bodies.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <GeomAPI_PointsToBSpline.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TopExp_Explorer.hxx>

#include <initializer_list>

namespace gc::test {

struct Case {
    std::string name;
    TopoDS_Shape shape;
    std::vector<std::pair<RawEdges, double>> rows; ///< edges, radius
};

using Cases = std::vector<Case>;

inline void addAll(Cases& out, const std::string& name, const TopoDS_Shape& shape, const EdgePick& pick,
                   std::initializer_list<double> radii) {
    for (const double r : radii)
        out.push_back({name + " " + formatNumber(r, 2), shape, {{edgesOf(shape, pick), r}}});
}

inline void addPairs(Cases& out, const std::string& name, const TopoDS_Shape& shape, const EdgePick& a,
                     std::initializer_list<double> ofA, const EdgePick& b,
                     std::initializer_list<double> ofB) {
    for (const double p : ofA)
        for (const double q : ofB)
            out.push_back({name + " " + formatNumber(p, 2) + "/" + formatNumber(q, 2),
                           shape,
                           {{edgesOf(shape, a), p}, {edgesOf(shape, b), q}}});
}

inline void addBlocks(Cases& out) {
    const TopoDS_Shape box = boxAt(0, 0, 0, 40, 30, 20);
    addAll(out, "box", box, anyEdge(), {0.5, 2, 5, 9, 9.99, 10, 12});
    addAll(out, "box rim", box, atLevel(20), {1, 5, 14.9, 15, 18});
    addPairs(out, "box uprights and rim", box, atLevel(10), {2, 5, 10}, atLevel(20), {1, 2, 5, 8});
    const TopoDS_Shape ell = prismOf({{0, 0}, {60, 0}, {60, 20}, {20, 20}, {20, 60}, {0, 60}}, 30);
    addAll(out, "L", ell, anyEdge(), {1, 4, 9, 10, 14});
    addAll(out, "L rim", ell, atLevel(30), {1, 4, 9, 15});
    addAll(out, "L uprights", ell, atLevel(15), {2, 6});
    const TopoDS_Shape steps = prismOf({{0, 0}, {20, 0}, {20, 20}, {40, 20}, {40, 40}, {0, 40}}, 10);
    addAll(out, "steps", steps, anyEdge(), {0.5, 2, 4.9});
    const TopoDS_Shape stair = joinedRaw(boxAt(0, 0, 0, 40, 40, 10), boxAt(-10, 0, 10, 20, 40, 10));
    addAll(out, "stair", stair, anyEdge(), {1, 3, 4.9, 6});
    addAll(out, "stair hollow", stair, near({0, 0, 10}, 0.1), {1, 4, 9});
    addAll(out, "star rim", prismOf(star(5, 18, 8), 6), atLevel(6), {0.5, 1, 2.5});
    addAll(out, "star", prismOf(star(5, 18, 8), 6), anyEdge(), {0.3, 1});
    for (const double degrees : {10., 20., 40.}) {
        const double t = degrees * std::numbers::pi / 180;
        const TopoDS_Shape wedge = prismOf({{0, 0}, {40, 0}, {40 * std::cos(t), 40 * std::sin(t)}}, 20);
        addAll(out, "wedge " + formatNumber(degrees, 0), wedge, near({0, 0, 10}, 0.1), {0.5, 3});
        addAll(out, "wedge all " + formatNumber(degrees, 0), wedge, anyEdge(), {0.5});
    }
}

inline void addRound(Cases& out) {
    const TopoDS_Shape stud = cylinderAt(0, 0, 0, 10, 15);
    addAll(out, "stud", stud, anyEdge(), {1, 5, 7.4, 7.5, 9, 10});
    addAll(out, "stud top", stud, atLevel(15), {9, 9.99, 10});
    for (const double h : {3., 8.}) {
        const TopoDS_Shape boss = joinedRaw(boxAt(0, 0, 0, 50, 50, 5), cylinderAt(0, 0, 5, 6, h));
        const EdgePick foot = within(atLevel(5), 7);
        addAll(out, "boss foot " + formatNumber(h, 0), boss, foot, {1, 3, 10, 18});
        addPairs(out, "boss foot and top " + formatNumber(h, 0), boss, foot, {0.5, 1.5, 2.5, 4},
                 atLevel(5 + h), {0.5, 2});
    }
    for (const double d : {6., 10., 14.})
        addAll(out, "tee " + formatNumber(d, 0),
               joinedRaw(cylinderAt(0, 0, 0, 8, 40), cylinderAlong({0, 0, 20}, {1, 0, 0}, d / 2, 25)),
               betweenCurved(), {0.5, 1.5, 3});
    addAll(out, "cross hole",
           cutRaw(cylinderAt(0, 0, 0, 10, 40), cylinderAlong({-30, 0, 20}, {1, 0, 0}, 4, 60)),
           betweenCurved(), {0.5, 1, 2});
    addAll(out, "dimple", cutRaw(boxAt(0, 0, 0, 30, 30, 10), ballAt(0, 0, 11.5, 4)), within(atLevel(10), 5),
           {0.5, 2, 5});
    addAll(out, "bump", joinedRaw(boxAt(0, 0, 0, 30, 30, 10), ballAt(0, 0, 8.5, 4)), within(atLevel(10), 5),
           {0.5, 2, 5});
    const TopoDS_Shape two = joinedRaw(joinedRaw(boxAt(0, 0, 0, 50, 30, 5), cylinderAt(-6, 0, 5, 5, 8)),
                                       cylinderAt(6, 0, 5, 5, 8));
    addAll(out, "two bosses", two, within(atLevel(5), 12), {0.5, 0.99, 1, 1.5, 3});
}

inline void addHollow(Cases& out) {
    const TopoDS_Shape pocket = cutRaw(boxAt(0, 0, 0, 50, 40, 15), boxAt(0, 0, 5, 30, 20, 12));
    const EdgePick uprights = within(atLevel(10), 19), floor = within(atLevel(5), 19),
                   rim = within(atLevel(15), 19);
    addAll(out, "pocket floor", pocket, floor, {1, 3, 6, 9.9, 10});
    addPairs(out, "pocket uprights and floor", pocket, uprights, {2, 5}, floor, {1, 2, 5, 7});
    addAll(out, "pocket rim", pocket, rim, {1, 3, 4.9, 5, 6});
    for (const double r : {1., 3., 4.9})
        out.push_back(
            {"pocket all " + formatNumber(r, 1),
             pocket,
             {{edgesOf(pocket, uprights), r}, {edgesOf(pocket, floor), r}, {edgesOf(pocket, rim), r}}});
    TopoDS_Shape plate = boxAt(0, 0, 0, 60, 20, 3);
    for (int i = 0; i < 6; ++i) plate = cutRaw(plate, cylinderAt(-25 + 10 * i, 0, -1, 3, 9));
    addAll(out, "holes", plate, curvedEdges(), {0.3, 1, 1.49, 1.5});
    const TopoDS_Shape ribs = joinedRaw(joinedRaw(boxAt(0, 0, 0, 60, 40, 3), boxAt(-10, 0, 3, 2, 40, 12)),
                                        boxAt(0, -18.5, 3, 60, 3, 15));
    addAll(out, "ribs", ribs, anyEdge(), {0.3, 0.9});
    addAll(out, "rib tops", ribs, atLevel(15), {0.5, 0.95, 1});
}

// ---- turned, lofted, hollow and lettered bodies

/// Rounds of an earlier step.
inline TopoDS_Shape roundedRaw(const TopoDS_Shape& shape, const EdgePick& pick, double radius) {
    BRepFilletAPI_MakeFillet work(shape);
    for (const TopoDS_Edge& e : edgesOf(shape, pick)) work.Add(radius, e);
    work.Build();
    return onlySolid(work.Shape());
}
/// A wire through points of a plane at a level.
inline TopoDS_Wire ringAt(const std::vector<Vec2>& corners, double z) {
    BRepBuilderAPI_MakePolygon wire;
    for (const Vec2 c : corners) wire.Add(gp_Pnt(c.x, c.y, z));
    wire.Close();
    return wire.Wire();
}
inline std::vector<Vec2> oblong(double a, double b) {
    return {{-a / 2, -b / 2}, {a / 2, -b / 2}, {a / 2, b / 2}, {-a / 2, b / 2}};
}
/// Straight between two outlines with as many corners.
inline TopoDS_Shape frustum(const std::vector<Vec2>& low, const std::vector<Vec2>& high, double z, double h) {
    BRepOffsetAPI_ThruSections loft(true, true, 1e-6);
    loft.AddWire(ringAt(low, z));
    loft.AddWire(ringAt(high, z + h));
    loft.Build();
    return onlySolid(loft.Shape());
}
/// A turned spline, 90 high, from a foot of 25 to a neck of 15.
inline TopoDS_Shape turned() {
    TColgp_Array1OfPnt p(1, 5);
    const double at[5][2] = {{25, 0}, {30, 22}, {26, 48}, {17, 70}, {15, 90}};
    for (int i = 0; i < 5; ++i) p(i + 1) = gp_Pnt(at[i][0], 0, at[i][1]);
    const Handle(Geom_BSplineCurve) wall = GeomAPI_PointsToBSpline(p, 3, 8, GeomAbs_C2, 1e-6).Curve();
    BRepBuilderAPI_MakeWire line(BRepBuilderAPI_MakeEdge(gp_Pnt(0, 0, 0), p(1)).Edge(),
                                 BRepBuilderAPI_MakeEdge(wall).Edge(),
                                 BRepBuilderAPI_MakeEdge(p(5), gp_Pnt(0, 0, 90)).Edge());
    line.Add(BRepBuilderAPI_MakeEdge(gp_Pnt(0, 0, 90), gp_Pnt(0, 0, 0)).Edge());
    return onlySolid(
        BRepPrimAPI_MakeRevol(BRepBuilderAPI_MakeFace(line.Wire()).Face(), gp_Ax1(gp::Origin(), gp::DZ()))
            .Shape());
}
/// Through an oval, a larger and a smaller one: smooth walls.
inline TopoDS_Shape ovalLoft() {
    BRepOffsetAPI_ThruSections loft(true, false, 1e-6);
    const double at[3][3] = {{26, 20, 0}, {30, 22, 40}, {20, 16, 90}};
    for (const auto& s : at)
        loft.AddWire(
            BRepBuilderAPI_MakeWire(
                BRepBuilderAPI_MakeEdge(gp_Elips(gp_Ax2(gp_Pnt(0, 0, s[2]), gp::DZ()), s[0], s[1])).Edge())
                .Wire());
    loft.Build();
    return onlySolid(loft.Shape());
}
/// Hollow by a wall inward, open at a level.
inline TopoDS_Shape hollowRaw(const TopoDS_Shape& shape, double wall, double level) {
    TopTools_ListOfShape open;
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) {
        const BRepAdaptor_Surface s(TopoDS::Face(x.Current()));
        if (s.GetType() == GeomAbs_Plane && std::fabs(s.Plane().Location().Z() - level) < 1e-6 &&
            std::fabs(s.Plane().Axis().Direction().Z()) > 0.99)
            open.Append(x.Current());
    }
    BRepOffsetAPI_MakeThickSolid hollow;
    hollow.MakeThickSolidByJoin(shape, open, -wall, 1e-6, BRepOffset_Skin, true, false, GeomAbs_Arc);
    return onlySolid(hollow.Shape());
}
inline EdgePick both(const EdgePick& a, const EdgePick& b) {
    return [=](const gp_Pnt& p, const TopoDS_Edge& e, const std::vector<TopoDS_Shape>& f) {
        return a(p, e, f) && b(p, e, f);
    };
}
inline EdgePick either(const EdgePick& a, const EdgePick& b) {
    return [=](const gp_Pnt& p, const TopoDS_Edge& e, const std::vector<TopoDS_Shape>& f) {
        return a(p, e, f) || b(p, e, f);
    };
}
inline EdgePick inside(Vec3 low, Vec3 high) {
    return [=](const gp_Pnt& p, const TopoDS_Edge&, const auto&) {
        return p.X() > low.x && p.X() < high.x && p.Y() > low.y && p.Y() < high.y && p.Z() > low.z &&
               p.Z() < high.z;
    };
}

inline void addTurned(Cases& out) {
    const TopoDS_Shape pot = turned();
    addAll(out, "turned top", pot, atLevel(90), {1, 4, 8, 13, 14});
    addAll(out, "turned foot", pot, atLevel(0), {2, 8, 20, 24});
    const TopoDS_Shape cup = hollowRaw(pot, 2, 90);
    addAll(out, "cup lip", cup, atLevel(90), {0.3, 0.9, 0.99, 1, 1.1});
    addAll(out, "cup floor", cup, atLevel(2), {1, 5, 10});
    out.push_back(
        {"cup all",
         cup,
         {{edgesOf(cup, atLevel(90)), 0.9}, {edgesOf(cup, atLevel(2)), 3}, {edgesOf(cup, atLevel(0)), 4}}});
    for (const double degrees : {0., 25.}) {
        const double t = degrees * std::numbers::pi / 180;
        const TopoDS_Shape spout =
            joinedRaw(pot, cylinderAlong({20, 0, 25}, {std::cos(t), 0, std::sin(t)}, 5, 25));
        addAll(out, "spout " + formatNumber(degrees, 0), spout,
               both(betweenCurved(), inside({20, -9, 10}, {40, 9, 60})), {1, 2.5, 4});
    }
    const TopoDS_Shape ring =
        joinedRaw(pot, BRepPrimAPI_MakeTorus(gp_Ax2(gp_Pnt(25, 0, 40), gp::DY()), 16, 3).Shape());
    addAll(out, "handle", ring, both(betweenCurved(), inside({-40, -9, 1}, {60, 9, 89})), {0.5, 1, 2, 3});
}

inline void addLofted(Cases& out) {
    const TopoDS_Shape loft = ovalLoft();
    addAll(out, "loft top", loft, atLevel(90), {1, 3, 8, 13});
    addAll(out, "loft foot", loft, atLevel(0), {1, 4, 10, 16});
    const auto beside = both(betweenCurved(), inside({18, -12, 20}, {42, 12, 60}));
    addAll(out, "boss on loft", joinedRaw(loft, cylinderAlong({20, 0, 40}, {1, 0, 0}, 6, 25)), beside,
           {1, 2, 4});
    const TopoDS_Shape pocket = cutRaw(loft, cylinderAlong({20, 0, 40}, {1, 0, 0}, 6, 35));
    addAll(out, "pocket in loft", pocket, beside, {0.5, 1.5, 3});
    addAll(out, "its floor", pocket, both(curvedEdges(), inside({19.9, -12, 20}, {20.1, 12, 60})),
           {0.5, 2, 4});
    const TopoDS_Shape leaning = frustum(oblong(40, 30), oblong(34, 24), 0, 15);
    addAll(out, "leaning", leaning, anyEdge(), {0.5, 2, 5, 7});
    addAll(out, "leaning rim", leaning, atLevel(15), {1, 4, 9, 11});
    for (const int n : {4, 5, 6}) {
        std::vector<Vec2> low, high;
        for (int i = 0; i < n; ++i) {
            const double a = 2 * std::numbers::pi * i / n;
            low.push_back({15 * std::cos(a), 15 * std::sin(a)});
            high.push_back({6 * std::cos(a), 6 * std::sin(a)});
        }
        addAll(out, "stump " + std::to_string(n), frustum(low, high, 0, 18), anyEdge(), {0.5, 2});
    }
}

inline void addMoulded(Cases& out) {
    const TopoDS_Shape tray = hollowRaw(frustum(oblong(60, 40), oblong(62.6, 42.6), 0, 15), 2, 15);
    addAll(out, "tray", tray, anyEdge(), {0.5, 0.9, 1, 2, 4});
    addAll(out, "tray floor", tray, atLevel(2), {1, 3, 6});
    addAll(out, "tray rim", tray, atLevel(15), {0.5, 0.9, 0.99, 1});
    const TopoDS_Shape box = boxAt(0, 0, 0, 40, 30, 20);
    for (const double upright : {3., 8.})
        addAll(out, "rim of rounded box " + formatNumber(upright, 0), roundedRaw(box, atLevel(10), upright),
               atLevel(20), {1, 3, 5, 9});
    const TopoDS_Shape pocket = cutRaw(boxAt(0, 0, 0, 50, 40, 15), boxAt(0, 0, 5, 30, 20, 12));
    for (const double upright : {3., 5.})
        addAll(out, "floor of rounded pocket " + formatNumber(upright, 0),
               roundedRaw(pocket, within(atLevel(10), 19), upright), within(atLevel(5), 19), {1, 3, 4, 6});
    const TopoDS_Shape drafted =
        cutRaw(boxAt(0, 0, 0, 50, 40, 15), frustum(oblong(30, 20), oblong(31.5, 21.5), 5, 12));
    addAll(out, "leaning pocket floor", drafted, within(atLevel(5), 19), {1, 3, 5});
    addAll(out, "leaning pocket", drafted, inside({-18, -13, 4.9}, {18, 13, 16}), {1, 2, 3});
    for (const double x : {19., 22., 25.})
        addAll(out, "boss at edge " + formatNumber(x, 0),
               joinedRaw(boxAt(0, 0, 0, 50, 50, 5), cylinderAt(x, 0, 5, 4, 8)),
               both(curvedEdges(), inside({10, -9, 4.9}, {24.9, 9, 5.1})), {1, 2.5});
    const TopoDS_Shape ribs = joinedRaw(joinedRaw(boxAt(0, 0, 0, 60, 40, 3), boxAt(-10, 0, 3, 2, 40, 12)),
                                        boxAt(0, -18.5, 3, 60, 3, 15));
    addAll(out, "rib meets wall", ribs,
           either(inside({-29, -19, 2.9}, {29, 19, 3.1}), inside({-29, -17.1, 3.1}, {29, -16.9, 19})),
           {0.5, 1, 2});
    const TopoDS_Shape corner = joinedRaw(boxAt(0, 0, 0, 40, 40, 4), boxAt(-18, 0, 4, 4, 40, 20));
    BRepBuilderAPI_MakePolygon web(gp_Pnt(-16, -1.5, 4), gp_Pnt(0, -1.5, 4), gp_Pnt(-16, -1.5, 18), true);
    const TopoDS_Shape gusset = joinedRaw(
        corner, BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(web.Wire()).Face(), gp_Vec(0, 3, 0)).Shape());
    addAll(out, "gusset", gusset, inside({-17, -19, 3.9}, {1, 19, 30}), {0.5, 1, 1.4, 2});
    const TopoDS_Shape wall = joinedRaw(joinedRaw(boxAt(0, 0, 0, 50, 30, 5), cylinderAt(0, 0, 5, 5, 8)),
                                        boxAt(10, 0, 5, 4, 30, 10));
    addAll(out, "boss beside wall", wall, inside({-10, -14.9, 4.9}, {9, 14.9, 5.1}), {1, 1.4, 1.6, 2.5});
}

inline void addLettered(Cases& out) {
    for (const double s : {0.6, 1.2}) {
        const std::vector<Vec2> e{{0, 0}, {4, 0}, {4, 1}, {1, 1}, {1, 2}, {3, 2},
                                  {3, 3}, {1, 3}, {1, 4}, {4, 4}, {4, 5}, {0, 5}};
        std::vector<Vec2> placed;
        for (const Vec2 c : e) placed.push_back({(c.x - 2) * s, (c.y - 2.5) * s});
        gp_Trsf up;
        up.SetTranslation(gp_Vec(0, 0, 3));
        const TopoDS_Shape letter =
            joinedRaw(boxAt(0, 0, 0, 20, 20, 3), prismOf(placed, 0.8).Moved(TopLoc_Location(up)));
        const EdgePick top = atLevel(3.8), foot = within(atLevel(3), 9),
                       upright = inside({-9, -9, 3.1}, {9, 9, 3.7});
        for (const double r : {0.1, 0.2, 0.29, 0.35}) {
            const std::string size = formatNumber(s, 1);
            addAll(out, "letter top " + size, letter, top, {r});
            addAll(out, "letter foot " + size, letter, foot, {r});
            addAll(out, "letter " + size, letter, either(either(top, foot), upright), {r});
        }
    }
    const TopoDS_Shape slot =
        cutRaw(boxAt(0, 0, 0, 40, 20, 4),
               roundedRaw(boxAt(0, 0, -1, 24, 7.9, 9), inside({-20, -9, 1}, {20, 9, 5}), 3.9));
    addAll(out, "slot rims", slot,
           either(inside({-19, -9, 3.9}, {19, 9, 4.1}), inside({-19, -9, -0.1}, {19, 9, 0.1})),
           {0.5, 1, 1.9});
}

inline Cases filletCorpus() {
    Cases out;
    addBlocks(out);
    addRound(out);
    addHollow(out);
    addTurned(out);
    addLofted(out);
    addMoulded(out);
    addLettered(out);
    return out;
}

} // namespace gc::test
