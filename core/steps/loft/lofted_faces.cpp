#include "core/steps/loft/lofted_faces.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/steps/shared/iso_lines.hpp"
#include "core/steps/shared/lean_face.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <Geom_Plane.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <map>
#include <set>

namespace gc {

namespace {

/// Does a function of a parameter run straight and evenly from one value to another?
bool runsStraight(double from, double to, const std::function<std::vector<gp_Pnt>(double)>& curves) {
    const auto a = curves(from), b = curves(to);
    for (const double t : {0.13, 0.37, 0.5, 0.71, 0.9}) {
        const auto now = curves(from + t * (to - from));
        for (std::size_t i = 0; i < now.size(); ++i)
            if (now[i].Distance(gp_Pnt(a[i].XYZ() * (1 - t) + b[i].XYZ() * t)) > kSamePoint / 10)
                return false;
    }
    return true;
}

class LoftFaces {
  public:
    explicit LoftFaces(const Skin& skin) : m_skin(skin) {}

    /// False where it cannot be fitted.
    bool fit();
    void build(TopoDS_Shell& shell, bool inner, Swept& out);
    TopoDS_Wire rim(bool end) const;

  private:
    struct Side {
        Handle(Geom_BSplineSurface) surface;
        Handle(Geom_Plane) plane; ///< where it is flat
        bool straight = false;    ///< and straight both ways: its border is lines
        bool flat() const { return !plane.IsNull(); }
    };
    /// On a flat side the kernel needs no curve for an edge.
    static void lay(const TopoDS_Edge& edge, const Handle(Geom2d_Line) & line, const Side& side) {
        if (!side.flat())
            BRep_Builder().UpdateEdge(edge, line, side.surface, TopLoc_Location(), kKernelPoint);
    }
    static void layTwice(const TopoDS_Edge& edge, const Handle(Geom2d_Line) & a,
                         const Handle(Geom2d_Line) & b, const Side& side) {
        BRep_Builder().UpdateEdge(edge, a, b, side.surface, TopLoc_Location(), kKernelPoint);
    }
    const LoftPlan& plan() const { return m_skin.plan(); }
    std::size_t rows() const { return plan().straight ? m_skin.stops().size() - 1 : 1; }
    std::size_t joints() const { return rows() + (plan().closed ? 0 : 1); }
    std::size_t spans() const { return m_skin.spans().size(); }
    double levelOf(std::size_t joint) const {
        return plan().straight ? m_skin.stops()[joint]
               : joint == 0    ? m_skin.stops().front()
                               : m_skin.stops().back();
    }
    bool poleAt(std::size_t joint) const;
    bool fitAlong();
    std::optional<GridDirection> fitAcross(std::size_t span) const;
    void flatten(std::size_t span, std::size_t row);
    void makeVertices();
    void makeSectionEdges();
    void makeRails();
    TopoDS_Face sideFace(std::size_t span, std::size_t row);
    void name(Swept& out, const std::vector<std::vector<TopoDS_Face>>& faces) const;
    std::set<int> itemsOver(std::size_t span, std::size_t section) const;

    const Skin& m_skin;
    std::optional<GridDirection> m_v;
    std::vector<std::vector<Side>> m_sides;             ///< by span, by row
    std::vector<std::vector<TopoDS_Vertex>> m_vertices; ///< where each span begins, by joint
    std::vector<std::vector<TopoDS_Edge>> m_sections;   ///< by span, by joint
    std::vector<std::vector<TopoDS_Edge>> m_rails;      ///< where each span begins, by row
};

bool LoftFaces::poleAt(std::size_t joint) const {
    if (plan().closed) return false;
    const std::size_t section = plan().straight ? joint : joint == 0 ? 0 : plan().sections.size() - 1;
    return plan().sections[section].isPoint();
}

/// Cubic splines are met exactly by knots at the sections; what guides and spines do is approached.
bool LoftFaces::fitAlong() {
    const auto& stops = m_skin.stops();
    if (plan().straight) return true;
    std::vector<Skin::Across> looks;
    for (std::size_t k = 0; k < spans(); ++k) {
        const LoftSpan& s = m_skin.spans()[k];
        const int parts = std::max(2, static_cast<int>(24 / spans()));
        for (int i = 0; i < parts; ++i)
            looks.push_back(m_skin.across(k, s.from + (s.to - s.from) * (i + 0.03) / parts));
    }
    const auto curves = [&](double v) {
        const auto here = m_skin.along(v);
        std::vector<gp_Pnt> out;
        for (const auto& l : looks) out.push_back(Skin::at(l, here));
        return out;
    };
    if (runsStraight(stops.front(), stops.back(), curves)) {
        m_v = GridDirection{stops.front(), stops.back(), std::nullopt};
        return true;
    }
    if (plan().guides.empty() && !plan().spine) {
        m_v = GridDirection{stops.front(), stops.back(),
                            FitDirection(stops, std::vector<int>(stops.size(), 2))};
        return true;
    }
    m_v = directionFor(m_skin.breaksAlong(), curves, kLoftFit / 2);
    return m_v.has_value();
}

std::optional<GridDirection> LoftFaces::fitAcross(std::size_t span) const {
    const LoftSpan& s = m_skin.spans()[span];
    std::vector<double> levels = m_skin.stops();
    if (m_v && m_v->fit) {
        levels = m_v->points();
        while (levels.size() > 24) { // every second
            std::vector<double> fewer;
            for (std::size_t i = 0; i < levels.size(); i += 2) fewer.push_back(levels[i]);
            levels = std::move(fewer);
        }
    }
    std::vector<Skin::Along> here;
    for (const double v : levels) here.push_back(m_skin.along(v));
    const auto curves = [&](double u) {
        const auto look = m_skin.across(span, u);
        std::vector<gp_Pnt> out;
        for (const auto& a : here) out.push_back(Skin::at(look, a));
        return out;
    };
    if (runsStraight(s.from, s.to, curves)) return GridDirection{s.from, s.to, std::nullopt};
    const bool rim = !plan().sections.front().beyondNothing() || !plan().sections.back().beyondNothing();
    const double fit = rim ? kLoftRimFit : m_skin.spans().size() > 1 ? kLoftCornerFit : kLoftFit;
    return directionFor(s.breaks, curves, fit / 2);
}

bool LoftFaces::fit() {
    if (!fitAlong()) return false;
    for (std::size_t k = 0; k < spans(); ++k) {
        const auto u = fitAcross(k);
        if (!u) return false;
        std::vector<Skin::Across> looks;
        for (const double at : u->points()) looks.push_back(m_skin.across(k, at));
        m_sides.emplace_back();
        for (std::size_t r = 0; r < rows(); ++r) {
            const GridDirection v =
                m_v ? GridDirection{m_v->from, m_v->to, std::nullopt}
                    : GridDirection{m_skin.stops()[r], m_skin.stops()[r + 1], std::nullopt};
            const GridDirection& used = m_v && m_v->fit ? *m_v : v;
            std::vector<Skin::Along> levels;
            for (const double at : used.points()) levels.push_back(m_skin.along(at));
            std::vector<std::vector<gp_Pnt>> places;
            for (const auto& look : looks) {
                places.emplace_back();
                for (const auto& level : levels) places.back().push_back(Skin::at(look, level));
            }
            m_sides.back().push_back({surfaceThrough(*u, used, places), nullptr});
            flatten(k, r);
        }
    }
    return true;
}

/// With all its poles in one plane it is a piece of that.
void LoftFaces::flatten(std::size_t span, std::size_t row) {
    Side& side = m_sides[span][row];
    const auto& s = side.surface;
    const int m = s->NbUPoles(), n = s->NbVPoles();
    const gp_Pnt a = s->Pole(1, 1);
    // Twice its area, summed up round the border.
    gp_Vec sum(0, 0, 0);
    std::vector<gp_Pnt> border;
    for (int i = 1; i < m; ++i) border.push_back(s->Pole(i, 1));
    for (int j = 1; j < n; ++j) border.push_back(s->Pole(m, j));
    for (int i = m; i > 1; --i) border.push_back(s->Pole(i, n));
    for (int j = n; j > 1; --j) border.push_back(s->Pole(1, j));
    for (std::size_t k = 1; k + 1 < border.size(); ++k)
        sum += gp_Vec(a, border[k]).Crossed(gp_Vec(a, border[k + 1]));
    if (sum.Magnitude() < 1e-9) return;
    const gp_Vec normal = sum.Normalized();
    for (int i = 1; i <= m; ++i)
        for (int j = 1; j <= n; ++j)
            if (std::fabs(gp_Vec(a, s->Pole(i, j)).Dot(normal)) > kSamePoint / 10) return;
    side.plane = new Geom_Plane(a, gp_Dir(normal));
    side.straight = s->UDegree() == 1 && s->VDegree() == 1;
}

void LoftFaces::makeVertices() {
    for (std::size_t k = 0; k < spans(); ++k) {
        m_vertices.emplace_back();
        for (std::size_t j = 0; j < joints(); ++j) {
            if (poleAt(j) && k > 0) {
                m_vertices.back().push_back(m_vertices.front()[j]);
                continue;
            }
            const auto& s = m_sides[k][std::min(j, rows() - 1)].surface;
            m_vertices.back().push_back(
                BRepBuilderAPI_MakeVertex(s->Value(m_skin.spans()[k].from, levelOf(j))));
        }
    }
}

void LoftFaces::makeSectionEdges() {
    for (std::size_t k = 0; k < spans(); ++k) {
        const LoftSpan& span = m_skin.spans()[k];
        const std::size_t next = (k + 1) % spans();
        m_sections.emplace_back();
        for (std::size_t j = 0; j < joints(); ++j) {
            const bool last = j == rows();
            const std::size_t above = last ? j - 1 : j;
            const std::size_t below = j > 0 ? j - 1 : rows() - 1;
            const bool two = (!last && j > 0) || plan().closed;
            const Side &here = m_sides[k][above], &there = m_sides[k][below];
            const bool flat = here.straight && (!two || there.straight);
            const auto& s = here.surface;
            const double v = levelOf(last ? j : above);
            if (poleAt(j)) {
                m_sections.back().push_back(edgeAtPole(s, m_vertices[k][j], v, span.from, span.to));
                continue;
            }
            if (flat) {
                m_sections.back().push_back(BRepBuilderAPI_MakeEdge(m_vertices[k][j], m_vertices[next][j]));
                continue;
            }
            const TopoDS_Edge e =
                edgeOn(s->VIso(v), m_vertices[k][j], m_vertices[next][j], span.from, span.to);
            const double end = m_skin.stops()[plan().straight ? below + 1 : m_skin.stops().size() - 1];
            if (two && below == above) { // a ring of one row ends in itself
                layTwice(e, across(v), across(end), here);
            } else {
                lay(e, across(v), here);
                if (two) lay(e, across(end), there);
            }
            m_sections.back().push_back(e);
        }
    }
}

void LoftFaces::makeRails() {
    for (std::size_t k = 0; k < spans(); ++k) {
        const std::size_t before = (k + spans() - 1) % spans();
        m_rails.emplace_back();
        for (std::size_t r = 0; r < rows(); ++r) {
            const Side &here = m_sides[k][r], &there = m_sides[before][r];
            const TopoDS_Vertex &a = m_vertices[k][r], &b = m_vertices[k][(r + 1) % joints()];
            if (here.straight && there.straight) {
                m_rails.back().push_back(BRepBuilderAPI_MakeEdge(a, b));
                continue;
            }
            const double from = plan().straight ? m_skin.stops()[r] : m_skin.stops().front();
            const double to = plan().straight ? m_skin.stops()[r + 1] : m_skin.stops().back();
            const double u = m_skin.spans()[k].from, end = m_skin.spans()[before].to;
            TopoDS_Edge e = edgeOn(here.surface->UIso(u), a, b, from, to);
            if (k == before) {
                layTwice(e, along(end), along(u), here);
            } else {
                lay(e, along(u), here);
                lay(e, along(end), there);
            }
            m_rails.back().push_back(e);
        }
    }
}

TopoDS_Face LoftFaces::sideFace(std::size_t span, std::size_t row) {
    const std::size_t next = (span + 1) % spans(), over = (row + 1) % joints();
    const Side& side = m_sides[span][row];
    const bool flat = side.flat();
    BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    if (!(flat && poleAt(row))) builder.Add(wire, m_sections[span][row]);
    builder.Add(wire, m_rails[next][row]);
    if (!(flat && poleAt(over))) builder.Add(wire, m_sections[span][over].Reversed());
    builder.Add(wire, m_rails[span][row].Reversed());
    wire.Closed(true);
    TopoDS_Face face;
    if (flat)
        builder.MakeFace(face, side.plane, kKernelPoint);
    else
        builder.MakeFace(face, side.surface, kKernelPoint);
    builder.Add(face, wire);
    return face;
}

TopoDS_Wire LoftFaces::rim(bool end) const {
    BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    for (const auto& ofSpan : m_sections) builder.Add(wire, end ? ofSpan.back() : ofSpan.front());
    wire.Closed(true);
    return wire;
}

std::set<int> LoftFaces::itemsOver(std::size_t span, std::size_t section) const {
    const LoftSpan& s = m_skin.spans()[span];
    const LoftSection& line = plan().sections[section];
    std::set<int> out;
    constexpr int kSpots = 48;
    for (int i = 0; i < kSpots; ++i) {
        const double share =
            wrapped(m_skin.shareAt(span, section, s.from + (s.to - s.from) * (i + 0.5) / kSpots));
        out.insert(line.pieces()[line.pieceAt(share)].item);
    }
    return out;
}

/// By every stroke that a side lies on; first by one that has it alone.
void LoftFaces::name(Swept& out, const std::vector<std::vector<TopoDS_Face>>& faces) const {
    std::map<std::string, int> count;
    std::vector<std::pair<TopoDS_Face, std::vector<std::string>>> all;
    for (std::size_t k = 0; k < spans(); ++k)
        for (std::size_t r = 0; r < rows(); ++r) {
            std::vector<std::string> roles;
            const std::size_t n = plan().sections.size();
            for (std::size_t i = 0; i < n; ++i) {
                const bool mine = !plan().straight || i == r || (plan().sections[r].isPoint() && i == r + 1);
                if (!mine || plan().sections[i].isPoint()) continue;
                for (const int item : itemsOver(k, i)) {
                    roles.push_back(plan().sections[i].roleOf(item));
                    ++count[roles.back()];
                }
            }
            all.emplace_back(faces[k][r], std::move(roles));
        }
    for (auto& [face, roles] : all) {
        std::stable_sort(roles.begin(), roles.end(), [&](const std::string& a, const std::string& b) {
            return (count[a] == 1) > (count[b] == 1);
        });
        for (const std::string& role : roles) out.sides.emplace_back(face, role);
    }
}

/// All of its sides, and edges for its caps.
void LoftFaces::build(TopoDS_Shell& shell, bool inner, Swept& out) {
    makeVertices();
    makeSectionEdges();
    makeRails();
    BRep_Builder builder;
    std::vector<std::vector<TopoDS_Face>> faces;
    for (std::size_t k = 0; k < spans(); ++k) {
        faces.emplace_back();
        for (std::size_t r = 0; r < rows(); ++r) {
            faces.back().push_back(sideFace(k, r));
            builder.Add(shell, inner ? faces.back().back().Reversed() : faces.back().back());
        }
    }
    name(out, faces);
}

Error uncapped(const LoftSection& s) {
    Error e = errorOf("loft.uncapped",
                      phrase("The loft cannot be closed at %1: that does not lie in a plane. Begin "
                             "and end at flat sections, or at points.",
                             marked(s.said())));
    e.culprits = {s.said()};
    return e;
}

/// The flat face at an end, looking out.
Result<TopoDS_Face> capOf(const std::vector<LoftFaces>& walls, const LoftSection& s, bool end) {
    if (s.unevenness() > kLoftFit) return uncapped(s);
    BRep_Builder builder;
    TopoDS_Face face;
    builder.MakeFace(face, new Geom_Plane(s.middle(), gp_Dir(s.normal())), kKernelPoint);
    for (const LoftFaces& w : walls)
        builder.Add(face, &w == &walls.front() ? w.rim(end) : TopoDS::Wire(w.rim(end).Reversed()));
    return end ? face : TopoDS::Face(face.Reversed());
}

} // namespace

Result<Swept> loftedFaces(const std::vector<Skin>& skins) {
    std::vector<LoftFaces> walls;
    for (const Skin& skin : skins) {
        walls.emplace_back(skin);
        if (!walls.back().fit())
            return errorOf("loft.uneven",
                           "The sections or guides are too uneven to be lofted. Draw them with fewer "
                           "nodes.");
    }
    const LoftPlan& plan = skins.front().plan();
    BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    Swept out;
    for (LoftFaces& w : walls) {
        w.build(shell, &w != &walls.front(), out);
        if (!plan.closed || &w == &walls.back()) continue; // each wall is a shell of its own
        shell.Closed(true);
        builder.Add(solid, shell);
        builder.MakeShell(shell);
    }
    for (const bool end : {false, true}) {
        const LoftSection& s = end ? plan.sections.back() : plan.sections.front();
        if (plan.closed || s.isPoint()) continue;
        const auto flat = capOf(walls, s, end);
        if (!flat) return flat.error();
        (end ? out.end : out.start) = *flat;
        builder.Add(shell, *flat);
    }
    shell.Closed(true);
    builder.Add(solid, shell);
    BRepLib::SameParameter(solid, kSurfaceFit, true);
    BRepLib::UpdateTolerances(solid, true);
    BRepLib::OrientClosedSolid(solid);
    out.solid = solid;
    return out;
}

} // namespace gc
