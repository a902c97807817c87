#include "core/steps/groove/groove_section.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <Geom_BezierCurve.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <array>
#include <cmath>

namespace gc {

namespace {

/// A border in space, from corner to corner.
class GrooveBorder {
  public:
    GrooveBorder(const gp_Ax3& at, double up) : m_at(at), m_up(up) {}
    void begin(const gp_Pnt2d& p) { m_first = m_last = BRepBuilderAPI_MakeVertex(place(p)).Vertex(); }
    void go(const gp_Pnt2d& to, const std::optional<gp_Pnt2d>& by, std::vector<std::string> roles) {
        const TopoDS_Vertex next = BRepBuilderAPI_MakeVertex(place(to)).Vertex();
        add(next, by, std::move(roles));
    }
    /// By the poles after the last corner.
    void goCubic(const std::array<gp_Pnt2d, 3>& poles, std::vector<std::string> roles) {
        TColgp_Array1OfPnt all(1, 4);
        all(1) = pointOf(m_last);
        for (int i = 0; i < 3; ++i) all(i + 2) = place(poles[static_cast<std::size_t>(i)]);
        const TopoDS_Vertex next = BRepBuilderAPI_MakeVertex(all(4)).Vertex();
        m_edges.push_back(
            {BRepBuilderAPI_MakeEdge(new Geom_BezierCurve(all), m_last, next).Edge(), std::move(roles)});
        m_last = next;
    }
    void close(std::vector<std::string> roles) { add(m_first, std::nullopt, std::move(roles)); }

    Profile profile() const {
        BRepBuilderAPI_MakeWire wire;
        for (const ProfileEdge& e : m_edges) wire.Add(e.edge);
        return {
            BRepBuilderAPI_MakeFace(gp_Pln(gp_Ax3(m_at.Location(), m_at.Direction())), wire.Wire()).Face(),
            m_edges};
    }

  private:
    gp_Pnt place(const gp_Pnt2d& p) const {
        return m_at.Location().Translated(gp_Vec(m_at.YDirection()) * p.X() +
                                          gp_Vec(m_at.XDirection()) * (m_up * p.Y()));
    }
    static gp_Pnt pointOf(const TopoDS_Vertex& v) { return BRep_Tool::Pnt(v); }
    void add(const TopoDS_Vertex& next, const std::optional<gp_Pnt2d>& by, std::vector<std::string> roles) {
        const TopoDS_Edge edge =
            by ? BRepBuilderAPI_MakeEdge(
                     GC_MakeArcOfCircle(pointOf(m_last), place(*by), pointOf(next)).Value(), m_last, next)
                     .Edge()
               : BRepBuilderAPI_MakeEdge(m_last, next).Edge();
        m_edges.push_back({edge, std::move(roles)});
        m_last = next;
    }

    gp_Ax3 m_at;
    double m_up;
    TopoDS_Vertex m_first, m_last;
    std::vector<ProfileEdge> m_edges;
};

gp_Pnt2d mirrored(const gp_Pnt2d& p) {
    return {-p.X(), p.Y()};
}

} // namespace

std::vector<GrooveSection::Piece> GrooveSection::half() const {
    const double w = width / 2;
    if (shape == GrooveShape::Flat) return {{{w, -depth}}, {{w, margin}}};
    if (shape == GrooveShape::Vee) return {{{w * (1 + margin / depth), margin}}};
    if (depth > w) {
        const double h = w * std::sqrt(0.5);
        return {{{w, w - depth}, gp_Pnt2d(h, w - depth - h)}, {{w, margin}}};
    }
    // The circle through the borders of the groove and its bottom goes on above the wall.
    const double r = (w * w + depth * depth) / (2 * depth), centre = r - depth;
    const double turn = std::acos(std::clamp((centre - margin) / r, -1.0, 1.0));
    const auto on = [&](double a) { return gp_Pnt2d(r * std::sin(a), centre - r * std::cos(a)); };
    return {{on(turn), on(turn / 2)}};
}

double GrooveSection::reach() const {
    if (shape == GrooveShape::Drawn) return drawn.sunkWidth / 2;
    double out = width / 2;
    for (const Piece& p : half()) out = std::max(out, p.to.X());
    return out;
}

namespace {

Profile drawnProfile(const GrooveSection& section, const gp_Ax3& at, double up) {
    const auto placed = [](const Vec2& v) { return gp_Pnt2d(v.x, -v.y); };
    GrooveBorder border(at, up);
    const auto& pieces = section.drawn.pieces;
    border.begin(placed(pieces.front().poles.front()));
    for (const SectionPiece& p : pieces) {
        std::vector<std::string> roles{"line " + std::to_string(p.stroke)};
        if (p.poles.size() == 2)
            border.go(placed(p.poles.back()), std::nullopt, std::move(roles));
        else
            border.goCubic({placed(p.poles[1]), placed(p.poles[2]), placed(p.poles[3])}, std::move(roles));
    }
    border.close({"side 4"});
    return border.profile();
}

} // namespace

Profile profileOf(const GrooveSection& section, const gp_Ax3& at, double up) {
    if (section.shape == GrooveShape::Drawn) return drawnProfile(section, at, up);
    const auto half = section.half();
    const gp_Pnt2d bottom(0, -section.depth);
    GrooveBorder border(at, up);
    border.begin(mirrored(half.back().to));
    for (std::size_t i = half.size(); i-- > 1;) {
        const auto& by = half[i].by;
        border.go(mirrored(half[i - 1].to), by ? std::optional(mirrored(*by)) : std::nullopt, {"side 1"});
    }
    if (section.shape == GrooveShape::Vee) {
        border.go(bottom, std::nullopt, {"side 1"});
        border.go(half.front().to, std::nullopt, {"side 3"});
    } else {
        border.go(half.front().to, half.front().by ? std::optional(bottom) : std::nullopt, {"side 2"});
    }
    for (std::size_t i = 1; i < half.size(); ++i) border.go(half[i].to, half[i].by, {"side 3"});
    border.close({"side 4"});
    return border.profile();
}

TopoDS_Face halfFaceOf(const GrooveSection& section, const gp_Ax3& at, double up) {
    GrooveBorder border(at, up);
    border.begin({0, section.margin});
    border.go({0, -section.depth}, std::nullopt, {});
    for (const auto& piece : section.half()) border.go(piece.to, piece.by, {});
    border.close({});
    return border.profile().face;
}

} // namespace gc
