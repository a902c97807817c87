#pragma once
/// \file For .cpp files: more bodies with edges to be rounded: cones, balls, rings, honeycombs, ledges,
/// slots, leaning studs, and walls that were made hollow.

#include "core/steps/fillet/corpus_cases.hpp"

#include <BRepPrimAPI_MakeCone.hxx>

namespace gc::test {

inline TopoDS_Shape coneAt(double z, double low, double high, double h) {
    return BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(0, 0, z), gp::DZ()), low, high, h).Shape();
}
inline std::vector<Vec2> regular(int n, double r, Vec2 at = {}) {
    std::vector<Vec2> out;
    for (int i = 0; i < n; ++i) {
        const double a = 2 * std::numbers::pi * i / n;
        out.push_back({at.x + r * std::cos(a), at.y + r * std::sin(a)});
    }
    return out;
}

inline void addCones(Cases& out) {
    const TopoDS_Shape cone = coneAt(0, 16, 8, 20);
    addAll(out, "cone", cone, anyEdge(), {0.5, 2, 5, 7.9});
    addAll(out, "cone top", cone, atLevel(20), {1, 4, 7, 12});
    const TopoDS_Shape stud = joinedRaw(boxAt(0, 0, 0, 40, 40, 4), coneAt(4, 9, 6, 12));
    addAll(out, "leaning stud foot", stud, within(atLevel(4), 10), {0.5, 2, 5, 9, 14});
    addAll(out, "leaning stud top", stud, atLevel(16), {1, 3, 5.5});
    const TopoDS_Shape funnel = cutRaw(coneAt(0, 10, 24, 20), coneAt(2, 9.4, 22.4, 20));
    addAll(out, "funnel lip", funnel, atLevel(20), {0.2, 0.5, 0.7});
    addAll(out, "funnel floor", funnel, atLevel(2), {1, 4, 8});
    const TopoDS_Shape spike = joinedRaw(cylinderAt(0, 0, 0, 6, 30), coneAt(30, 6, 0.5, 24));
    addAll(out, "spike", spike, atLevel(30), {2, 10, 40});
    addAll(out, "spike tip", spike, atLevel(54), {0.2, 0.45});
}

inline void addBalls(Cases& out) {
    const TopoDS_Shape bowl = cutRaw(ballAt(0, 0, 0, 20), boxAt(0, 0, 4, 60, 60, 40));
    addAll(out, "bowl rim", bowl, atLevel(4), {0.5, 3, 8});
    const TopoDS_Shape hollow = cutRaw(bowl, ballAt(0, 0, 0, 18));
    addAll(out, "hollow bowl rim", hollow, atLevel(4), {0.3, 0.8, 0.99});
    const TopoDS_Shape knob = joinedRaw(cylinderAt(0, 0, 0, 4, 16), ballAt(0, 0, 20, 8));
    addAll(out, "knob's neck", knob, betweenCurved(), {0.5, 1.5, 3});
    const TopoDS_Shape drilled = cutRaw(ballAt(0, 0, 0, 16), cylinderAlong({-30, 0, 0}, {1, 0, 0}, 5, 60));
    addAll(out, "drilled ball", drilled, betweenCurved(), {0.5, 2, 5});
    const TopoDS_Shape ring = BRepPrimAPI_MakeTorus(gp_Ax2(gp_Pnt(0, 0, 6), gp::DZ()), 14, 4).Shape();
    const TopoDS_Shape seated = joinedRaw(boxAt(0, 0, 0, 44, 44, 5), ring);
    addAll(out, "ring on a plate", seated, within(atLevel(5), 20), {0.3, 0.8, 2});
}

inline void addRows(Cases& out) {
    TopoDS_Shape comb = boxAt(0, 0, 0, 50, 44, 8);
    for (int i = -1; i < 2; ++i)
        for (int j = -1; j < 2; ++j)
            comb = cutRaw(comb, [&] {
                gp_Trsf up;
                up.SetTranslation(gp_Vec(14.0 * i, 12.5 * j, 2));
                return prismOf(regular(6, 5.5), 10).Moved(TopLoc_Location(up));
            }());
    addAll(out, "comb rims", comb, within(atLevel(8), 20), {0.3, 0.8, 1.2});
    addAll(out, "comb floors", comb, within(atLevel(2), 20), {0.3, 1, 3});
    TopoDS_Shape rail = boxAt(0, 0, 0, 60, 12, 6);
    for (int i = 0; i < 5; ++i) rail = cutRaw(rail, boxAt(-24 + 12 * i, 0, 3, 6, 20, 6));
    addAll(out, "teeth", rail, atLevel(6), {0.3, 1, 2.9});
    addAll(out, "tooth gaps", rail, atLevel(3), {0.3, 1, 2.5});
    addAll(out, "rail", rail, anyEdge(), {0.3, 0.9});
    const TopoDS_Shape ledges = joinedRaw(joinedRaw(boxAt(0, 0, 0, 40, 40, 6), boxAt(0, 0, 6, 30, 30, 6)),
                                          boxAt(0, 0, 12, 20, 20, 6));
    addAll(out, "ledges", ledges, anyEdge(), {0.5, 2, 2.9});
    addPairs(out, "ledges in turn", ledges, either(atLevel(18), atLevel(12)), {1, 2}, atLevel(6), {1, 3});
    const TopoDS_Shape tilted =
        joinedRaw(boxAt(0, 0, 0, 50, 50, 6), cylinderAlong({0, 0, 3}, {0.5, 0, 1}, 6, 24));
    addAll(out, "tilted stud", tilted, within(atLevel(6), 18), {0.5, 1.5, 4, 8});
}

inline void addMadeHollow(Cases& out) {
    const TopoDS_Shape drum = hollowRaw(cylinderAt(0, 0, 0, 18, 24), 2, 24);
    addAll(out, "drum lip", drum, atLevel(24), {0.3, 0.9, 0.99});
    addAll(out, "drum floor", drum, atLevel(2), {1, 6, 15});
    const TopoDS_Shape spout = joinedRaw(drum, cylinderAlong({17, 0, 12}, {1, 0, 0.4}, 4, 20));
    addAll(out, "spout on a drum", spout, both(betweenCurved(), inside({15, -9, 3}, {40, 9, 23})),
           {0.5, 1.5, 3});
    const TopoDS_Shape hex = hollowRaw(prismOf(regular(6, 20), 16), 1.6, 16);
    addAll(out, "six-sided cup lip", hex, atLevel(16), {0.3, 0.75});
    addAll(out, "six-sided cup", hex, anyEdge(), {0.3, 0.7, 2});
    const TopoDS_Shape rounded = hollowRaw(roundedRaw(boxAt(0, 0, 0, 50, 36, 18), atLevel(9), 6), 2, 18);
    addAll(out, "rounded tub lip", rounded, atLevel(18), {0.4, 0.9});
    addAll(out, "rounded tub floor", rounded, atLevel(2), {1, 3.9, 4, 6});
    addPairs(out, "rounded tub", rounded, atLevel(0), {1, 3, 5}, atLevel(2), {0.5, 2});
    const TopoDS_Shape slotted = cutRaw(rounded, boxAt(0, -16, 8, 10, 12, 20));
    addAll(out, "slotted tub", slotted, inside({-6, -19, 7.9}, {6, -15, 17}), {0.3, 0.8, 2});
    addAll(out, "lofted cup lip", hollowRaw(ovalLoft(), 1.5, 90), atLevel(90), {0.3, 0.7});
}

inline void addCrossed(Cases& out) {
    gp_Trsf up;
    up.SetTranslation(gp_Vec(0, 0, 5));
    const TopoDS_Shape nut =
        joinedRaw(boxAt(0, 0, 0, 40, 40, 5), prismOf(regular(6, 9), 8).Moved(TopLoc_Location(up)));
    addAll(out, "six-sided boss foot", nut, within(atLevel(5), 10), {0.5, 2, 5});
    addAll(out, "six-sided boss top", nut, atLevel(13), {1, 3});
    addAll(out, "six-sided boss", nut, inside({-10, -10, 4.9}, {10, 10, 14}), {0.5, 1.5});
    BRepBuilderAPI_MakePolygon vee(gp_Pnt(-40, -6, 12.1), gp_Pnt(-40, 6, 12.1), gp_Pnt(-40, 0, 5), true);
    const TopoDS_Shape grooved =
        cutRaw(boxAt(0, 0, 0, 50, 30, 12),
               BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(vee.Wire()).Face(), gp_Vec(80, 0, 0)).Shape());
    addAll(out, "groove's bottom", grooved, inside({-24, -1, 4}, {24, 1, 6}), {0.5, 2, 6});
    addAll(out, "groove's rims", grooved, inside({-24, -8, 11}, {24, 8, 12.5}), {0.5, 2});
    const TopoDS_Shape cross = joinedRaw(boxAt(0, 0, 0, 50, 12, 10), boxAt(0, 0, 0, 12, 50, 10));
    addAll(out, "cross within", cross, near({6, 6, 5}, 0.1), {1, 4, 9});
    addAll(out, "cross", cross, anyEdge(), {0.5, 2});
    const TopoDS_Shape keyhole =
        cutRaw(cutRaw(boxAt(0, 0, 0, 40, 30, 6), cylinderAt(0, 0, -1, 6, 9)), boxAt(9, 0, -1, 10, 5, 9));
    addAll(out, "keyhole", keyhole, within(atLevel(6), 14.5), {0.3, 0.8, 2});
    const TopoDS_Shape slanted =
        cutRaw(boxAt(0, 0, 0, 50, 40, 15), cylinderAlong({0, 0, 6}, {0.4, 0.2, 1}, 7, 30));
    addAll(out, "slanting hole", slanted, atLevel(15), {0.5, 1.5, 3});
}

inline Cases moreForTheFilletCorpus() {
    Cases out;
    addCones(out);
    addBalls(out);
    addRows(out);
    addMadeHollow(out);
    addCrossed(out);
    return out;
}

} // namespace gc::test
