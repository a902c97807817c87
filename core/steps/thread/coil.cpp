#include "core/steps/thread/coil.hpp"

#include "core/base/angles.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Ax3.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr int kPerTurn = 48; // places that the curves go through: within r theta^4 / 384 of the true ones

/// A place of the profile: how deep at full depth, on the lower (-1) or upper (1) flank or, of a drawn one,
/// how far from its middle along the axis; within the wall it stays.
struct Place {
    double depth;
    double side;
    bool sunk = false;
};

/// One face along the thread: the poles across it, one after the other.
struct Strip {
    std::string role;
    std::vector<Place> poles;
};

std::vector<Strip> drawnStrips(const Coil& c) {
    std::vector<Strip> out;
    for (const SectionPiece& p : c.drawn.pieces) {
        Strip& s = out.emplace_back(Strip{p.stroke > 0  ? "side " + std::to_string(p.stroke)
                                          : out.empty() ? "lower flank"
                                                        : "upper flank",
                                          {}});
        for (const Vec2& v : p.poles) s.poles.push_back({v.y, v.x});
    }
    Place &low = out.front().poles.front(), &high = out.back().poles.back();
    low.sunk = high.sunk = true;
    const Strip foot{"foot", {high, low}};
    out.push_back(foot);
    return out;
}

std::vector<Strip> stripsOf(const Coil& c) {
    if (c.profile == ThreadProfile::Drawn) return drawnStrips(c);
    const Place low{-c.sunk(), -1, true}, high{-c.sunk(), 1, true};
    const double h = c.depth;
    if (c.profile != ThreadProfile::Rounded)
        return {{"lower flank", {low, {h, -1}}},
                {"crest", {{h, -1}, {h, 1}}},
                {"upper flank", {{h, 1}, high}},
                {"foot", {high, low}}};
    // A cubic that goes on from both flanks and has its top at the full depth.
    const double from = 0.5 * h, pole = from + (h - from) * 4 / 3;
    return {{"lower flank", {low, {from, -1}}},
            {"crest", {{from, -1}, {pole, -1}, {pole, 1}, {from, 1}}},
            {"upper flank", {{from, 1}, high}},
            {"foot", {high, low}}};
}

class Builder {
  public:
    explicit Builder(const Coil& coil) : m_coil(coil), m_all(coil.turns * 2 * kPi) {
        const Vec3 d = coil.wall.axis.direction, o = coil.wall.axis.origin;
        m_frame = gp_Ax2(gp_Pnt(o.x, o.y, o.z), gp_Dir(d.x, d.y, d.z));
    }

    std::optional<NamedTool> run(int step) {
        BRepBuilderAPI_Sewing sewing(1e-5);
        std::vector<std::pair<TopoDS_Shape, std::string>> faces;
        std::vector<Handle(Geom_Curve)> first, last;
        for (const Strip& strip : stripsOf(m_coil)) {
            const auto surface = surfaceOf(strip);
            if (surface.IsNull()) return std::nullopt;
            faces.emplace_back(BRepBuilderAPI_MakeFace(surface, 1e-6).Face(), strip.role);
            double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
            surface->Bounds(u0, u1, v0, v1);
            first.push_back(surface->VIso(v0));
            last.push_back(surface->VIso(v1));
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
        const std::string number = m_coil.number > 1 ? " " + std::to_string(m_coil.number) : "";
        for (const auto& [face, role] : faces)
            tool.names.emplace_back(sewing.IsModified(face) ? sewing.Modified(face) : face,
                                    internName(step, role + number));
        return tool;
    }

  private:
    gp_Pnt at(double turned, const Place& p) const {
        const double sunk = m_coil.sunk(),
                     share = (m_coil.depthAt(turned) + 0.5 * sunk) / (m_coil.depth + 0.5 * sunk);
        // Running out everything sinks to half of what is within the wall.
        const double depth = p.sunk ? p.depth : -0.5 * sunk + (p.depth + 0.5 * sunk) * share;
        const double level =
            m_coil.level + m_coil.pitch * turned / (2 * kPi) +
            (m_coil.profile == ThreadProfile::Drawn ? p.side : p.side * m_coil.halfWidth(depth));
        const bool away = m_coil.wall.outside != m_coil.cut;
        const double radius = m_coil.wall.radiusAt(level) + (away ? depth : -depth);
        const double angle = m_coil.angle + (m_coil.left ? -turned : turned);
        const gp_Vec out = gp_Vec(m_frame.XDirection()) * (radius * std::cos(angle)) +
                           gp_Vec(m_frame.YDirection()) * (radius * std::sin(angle));
        return m_frame.Location().Translated(out + gp_Vec(m_frame.Direction()) * level);
    }

    Handle(Geom_BSplineCurve) curveOf(const Place& p) const {
        const int n = std::max(static_cast<int>(std::ceil(m_coil.turns * kPerTurn)), 8);
        Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, n + 1);
        Handle(TColStd_HArray1OfReal) parameters = new TColStd_HArray1OfReal(1, n + 1);
        for (int i = 0; i <= n; ++i) {
            parameters->SetValue(i + 1, m_all * i / n);
            points->SetValue(i + 1, at(m_all * i / n, p));
        }
        constexpr double kStep = 1e-4; // rad
        GeomAPI_Interpolate curve(points, parameters, false, 1e-9);
        curve.Load(gp_Vec(at(0, p), at(kStep, p)) / kStep, gp_Vec(at(m_all - kStep, p), at(m_all, p)) / kStep,
                   false);
        curve.Perform();
        return curve.IsDone() ? curve.Curve() : Handle(Geom_BSplineCurve)();
    }

    /// Across a polynomial by its poles, along the curves of these: all have the same knots.
    Handle(Geom_BSplineSurface) surfaceOf(const Strip& strip) const {
        const int across = static_cast<int>(strip.poles.size());
        std::vector<Handle(Geom_BSplineCurve)> curves;
        for (const Place& p : strip.poles) {
            curves.push_back(curveOf(p));
            if (curves.back().IsNull()) return {};
        }
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

    const Coil& m_coil;
    double m_all; // rad
    gp_Ax2 m_frame;
};

} // namespace

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

std::optional<NamedTool> solidOf(const Coil& coil, int step) {
    return Builder(coil).run(step);
}

} // namespace gc
