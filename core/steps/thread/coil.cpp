#include "core/steps/thread/coil.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

std::vector<CoilStrip> drawnStrips(const Coil& c) {
    std::vector<CoilStrip> out;
    for (const SectionPiece& p : c.drawn.pieces) {
        CoilStrip& s = out.emplace_back(CoilStrip{p.stroke > 0  ? "side " + std::to_string(p.stroke)
                                                  : out.empty() ? "lower flank"
                                                                : "upper flank",
                                                  {},
                                                  {}});
        for (const Vec2& v : p.poles) s.poles.push_back({v.y, v.x});
    }
    CoilPlace &low = out.front().poles.front(), &high = out.back().poles.back();
    low.sunk = high.sunk = true;
    const CoilStrip foot{"foot", {high, low}, {}};
    out.push_back(foot);
    return out;
}

std::vector<CoilStrip> stripsOf(const Coil& c) {
    if (c.profile == ThreadProfile::Drawn) return drawnStrips(c);
    const CoilPlace low{-c.sunk(), -1, true}, high{-c.sunk(), 1, true};
    const double h = c.depth;
    if (c.profile != ThreadProfile::Rounded)
        return {{"lower flank", {low, {h, -1}}, {}},
                {"crest", {{h, -1}, {h, 1}}, {}},
                {"upper flank", {{h, 1}, high}, {}},
                {"foot", {high, low}, {}}};
    // A cubic that goes on from both flanks and has its top at the full depth.
    const double from = 0.5 * h, pole = from + (h - from) * 4 / 3;
    return {{"lower flank", {low, {from, -1}}, {}},
            {"crest", {{from, -1}, {pole, -1}, {pole, 1}, {from, 1}}, {}},
            {"upper flank", {{from, 1}, high}, {}},
            {"foot", {high, low}, {}}};
}

/// Across a polynomial by its poles, along the curves of these: all have the same knots.
Handle(Geom_BSplineSurface) surfaceOver(const std::vector<Handle(Geom_BSplineCurve)>& curves) {
    const int across = static_cast<int>(curves.size());
    const auto& model = curves.front();
    TColgp_Array2OfPnt poles(1, across, 1, model->NbPoles());
    for (int i = 1; i <= across; ++i)
        for (int k = 1; k <= model->NbPoles(); ++k)
            poles(i, k) = curves[static_cast<std::size_t>(i - 1)]->Pole(k);
    TColStd_Array1OfReal knots(1, 2);
    knots(1) = 0;
    knots(2) = 1;
    TColStd_Array1OfInteger multiplicities(1, 2);
    multiplicities(1) = multiplicities(2) = across;
    return new Geom_BSplineSurface(poles, knots, model->Knots(), multiplicities, model->Multiplicities(),
                                   across - 1, model->Degree());
}

} // namespace

CoilShape::CoilShape(const Coil& coil) : m_coil(coil), m_strips(stripsOf(coil)) {
    const Vec3 d = coil.wall.axis.direction, o = coil.wall.axis.origin;
    m_frame = gp_Ax2(gp_Pnt(o.x, o.y, o.z), gp_Dir(d.x, d.y, d.z));
}

std::optional<CoilShape> CoilShape::of(const Coil& coil) {
    constexpr int kMost = 2000; // poles
    CoilShape out(coil);
    // All lines at once, so that they share their knots.
    const auto lines = [&](double turned) {
        std::vector<gp_Pnt> at;
        for (const CoilStrip& s : out.m_strips)
            for (const CoilPlace& p : s.poles) at.push_back(out.at(turned, out.depthAt(turned, p), p.side));
        return at;
    };
    const auto direction = directionFor(out.breaks(), lines, kSurfaceFit, kMost);
    if (!direction) return std::nullopt;
    const auto curves = curvesThrough(*direction, lines);
    auto next = curves.begin();
    for (CoilStrip& s : out.m_strips) {
        const auto end = next + static_cast<std::ptrdiff_t>(s.poles.size());
        s.surface = surfaceOver({next, end});
        next = end;
    }
    return out;
}

std::vector<double> CoilShape::breaks() const {
    constexpr double kApart = 1e-3; // rad
    std::vector<double> out{0};
    for (const double at : {m_coil.runout, all() - m_coil.runout, all()})
        if (at > out.back() + kApart) out.push_back(at);
    out.back() = all();
    return out;
}

double CoilShape::depthAt(double turned, const CoilPlace& p) const {
    const double sunk = m_coil.sunk(),
                 share = (m_coil.depthAt(turned) + 0.5 * sunk) / (m_coil.depth + 0.5 * sunk);
    // Running out everything sinks to half of what is within the wall.
    return p.sunk ? p.depth : -0.5 * sunk + (p.depth + 0.5 * sunk) * share;
}

gp_Pnt CoilShape::at(double turned, double depth, double side) const {
    const double level = m_coil.level + m_coil.pitch * turned / (2 * kPi) +
                         (m_coil.profile == ThreadProfile::Drawn ? side : side * m_coil.halfWidth(depth));
    const bool away = m_coil.wall.outside != m_coil.cut;
    const double radius = m_coil.wall.radiusAt(level) + (away ? depth : -depth);
    const double angle = m_coil.angle + (m_coil.left ? -turned : turned);
    const gp_Vec out = gp_Vec(m_frame.XDirection()) * (radius * std::cos(angle)) +
                       gp_Vec(m_frame.YDirection()) * (radius * std::sin(angle));
    return m_frame.Location().Translated(out + gp_Vec(m_frame.Direction()) * level);
}

std::string Coil::suffix() const {
    return number > 1 ? " " + std::to_string(number) : "";
}

double Coil::halfWidth(double depthThere) const {
    if (profile == ThreadProfile::Drawn) return (depthThere < 0 ? drawn.sunkWidth : drawn.width) / 2;
    constexpr double kPoint = 0.04; // of the base: no thread is sharp
    const double top = profile == ThreadProfile::Trapezoid    ? crest
                       : profile == ThreadProfile::Triangular ? kPoint * base
                                                              : base / 3;
    const double slope = (base - top) / (2 * depth);
    return 0.5 * base - slope * (depthThere + clearance) + clearance * std::sqrt(1 + slope * slope);
}

double Coil::depthAt(double turned) const {
    const double toEnd = std::min(turned, turns * 2 * kPi - turned);
    if (toEnd >= runout || runout <= 0) return depth;
    const double x = toEnd / runout, share = x * x * (3 - 2 * x);
    return -0.5 * sunk() + (depth + 0.5 * sunk()) * share;
}

double Coil::sunk() const {
    return std::min(0.2, 0.35 * depth);
}

std::optional<NamedTool> solidOf(const CoilShape& shape, int step) {
    BRepBuilderAPI_Sewing sewing(1e-5);
    std::vector<std::pair<TopoDS_Shape, std::string>> faces;
    std::vector<Handle(Geom_Curve)> first, last;
    for (const CoilStrip& strip : shape.strips()) {
        faces.emplace_back(BRepBuilderAPI_MakeFace(strip.surface, 1e-6).Face(), strip.role);
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        strip.surface->Bounds(u0, u1, v0, v1);
        first.push_back(strip.surface->VIso(v0));
        last.push_back(strip.surface->VIso(v1));
    }
    for (const auto& [curves, role] : {std::pair{&first, "beginning"}, {&last, "ending"}}) {
        BRepBuilderAPI_MakeWire wire;
        for (const auto& c : *curves) wire.Add(BRepBuilderAPI_MakeEdge(c).Edge());
        faces.emplace_back(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(), role);
    }
    for (const auto& [face, role] : faces) sewing.Add(face);
    sewing.Perform();
    TopExp_Explorer shell(sewing.SewedShape(), TopAbs_SHELL);
    if (!shell.More()) return std::nullopt;
    TopoDS_Shape solid = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shell.Current())).Solid();
    GProp_GProps props;
    BRepGProp::VolumeProperties(solid, props);
    if (props.Mass() < 0) solid.Reverse();
    NamedTool tool;
    tool.shape = solid;
    tool.step = step;
    for (const auto& [face, role] : faces)
        tool.names.emplace_back(sewing.IsModified(face) ? sewing.Modified(face) : face,
                                internName(step, role + shape.coil().suffix()));
    return tool;
}

} // namespace gc
