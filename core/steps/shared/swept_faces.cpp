#include "core/steps/shared/swept_faces.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/steps/shared/iso_lines.hpp"
#include "core/steps/shared/lean_face.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <Geom_Plane.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

namespace gc {

namespace {

/// The faces of one loop of the section over all pieces of the path.
class LoopFaces {
  public:
    LoopFaces(const std::vector<SectionEdge>& edges, const std::vector<PathPiece>& pieces, bool closed,
              const Frames& frames)
        : m_edges(edges), m_pieces(pieces), m_closed(closed), m_frames(frames) {}

    /// False where it cannot be fitted.
    bool fit(const std::vector<std::optional<GridDirection>>& lengths);
    void build(TopoDS_Shell& shell, Swept& out);
    TopoDS_Wire capWire(bool end) const;

  private:
    std::size_t joints() const { return m_pieces.size() + (m_closed ? 0 : 1); }
    double lengthOf(std::size_t piece) const { return m_pieces[piece].curve.length(); }
    void makeVertices();
    void makeSectionEdges();
    void makeRails();

    const std::vector<SectionEdge>& m_edges;
    const std::vector<PathPiece>& m_pieces;
    bool m_closed;
    const Frames& m_frames;
    std::vector<std::vector<Handle(Geom_BSplineSurface)>> m_surfaces; ///< by edge, by piece
    std::vector<std::vector<TopoDS_Vertex>> m_vertices;               ///< by edge: where it begins; by joint
    std::vector<std::vector<TopoDS_Edge>> m_sections;                 ///< by edge, by joint
    std::vector<std::vector<TopoDS_Edge>> m_rails;                    ///< by edge: where it begins; by piece
};

bool LoopFaces::fit(const std::vector<std::optional<GridDirection>>& lengths) {
    for (const SectionEdge& e : m_edges) {
        GridDirection u{0, e.curve.length(), std::nullopt};
        if (!e.curve.isStraight()) {
            auto found = directionFor(
                e.curve.breaks(), [&](double s) { return std::vector{e.curve.at(s)}; }, kSweepFit / 2);
            if (!found) return false;
            u = std::move(*found);
        }
        std::vector<gp_Vec> local;
        for (const double s : u.points()) local.push_back(m_frames.local(e.curve.at(s)));
        m_surfaces.emplace_back();
        for (std::size_t k = 0; k < m_pieces.size(); ++k) {
            const GridDirection& v = *lengths[k];
            std::vector<std::vector<gp_Pnt>> places(local.size());
            for (const double s : v.points()) {
                const PathFrame f = m_frames.at(k, s);
                for (std::size_t i = 0; i < local.size(); ++i) places[i].push_back(f.place(local[i]));
            }
            m_surfaces.back().push_back(surfaceThrough(u, v, places));
        }
    }
    return true;
}

void LoopFaces::makeVertices() {
    for (std::size_t i = 0; i < m_edges.size(); ++i) {
        m_vertices.emplace_back();
        for (std::size_t j = 0; j < joints(); ++j) {
            const bool last = j == m_pieces.size();
            const auto& s = m_surfaces[i][last ? j - 1 : j];
            m_vertices.back().push_back(BRepBuilderAPI_MakeVertex(s->Value(0, last ? lengthOf(j - 1) : 0)));
        }
    }
}

void LoopFaces::makeSectionEdges() {
    BRep_Builder builder;
    for (std::size_t i = 0; i < m_edges.size(); ++i) {
        const std::size_t next = (i + 1) % m_edges.size();
        m_sections.emplace_back();
        for (std::size_t j = 0; j < joints(); ++j) {
            const bool last = j == m_pieces.size();
            const double v = last ? lengthOf(j - 1) : 0;
            const auto& s = m_surfaces[i][last ? j - 1 : j];
            TopoDS_Edge e =
                edgeOn(s->VIso(v), m_vertices[i][j], m_vertices[next][j], 0, m_edges[i].curve.length());
            const bool seam = m_closed && m_pieces.size() == 1; // a ring of one piece ends in itself
            if (seam)
                builder.UpdateEdge(e, across(0), across(lengthOf(0)), s, TopLoc_Location(), kKernelPoint);
            else
                builder.UpdateEdge(e, across(v), s, TopLoc_Location(), kKernelPoint);
            const std::size_t before = j > 0 ? j - 1 : m_pieces.size() - 1;
            if (!seam && !last && (j > 0 || m_closed))
                builder.UpdateEdge(e, across(lengthOf(before)), m_surfaces[i][before], TopLoc_Location(),
                                   kKernelPoint);
            m_sections.back().push_back(e);
        }
    }
}

void LoopFaces::makeRails() {
    BRep_Builder builder;
    for (std::size_t i = 0; i < m_edges.size(); ++i) {
        const std::size_t before = (i + m_edges.size() - 1) % m_edges.size();
        m_rails.emplace_back();
        for (std::size_t k = 0; k < m_pieces.size(); ++k) {
            const auto &s = m_surfaces[i][k], &t = m_surfaces[before][k];
            TopoDS_Edge e =
                edgeOn(s->UIso(0), m_vertices[i][k], m_vertices[i][(k + 1) % joints()], 0, lengthOf(k));
            const double end = m_edges[before].curve.length();
            if (i == before) {
                builder.UpdateEdge(e, along(end), along(0), s, TopLoc_Location(), kKernelPoint);
            } else {
                builder.UpdateEdge(e, along(0), s, TopLoc_Location(), kKernelPoint);
                builder.UpdateEdge(e, along(end), t, TopLoc_Location(), kKernelPoint);
            }
            m_rails.back().push_back(e);
        }
    }
}

void LoopFaces::build(TopoDS_Shell& shell, Swept& out) {
    makeVertices();
    makeSectionEdges();
    makeRails();
    BRep_Builder builder;
    for (std::size_t i = 0; i < m_edges.size(); ++i) {
        const std::size_t next = (i + 1) % m_edges.size();
        for (std::size_t k = 0; k < m_pieces.size(); ++k) {
            TopoDS_Face face;
            builder.MakeFace(face, m_surfaces[i][k], kKernelPoint);
            TopoDS_Wire wire;
            builder.MakeWire(wire);
            builder.Add(wire, m_sections[i][k]);
            builder.Add(wire, m_rails[next][k]);
            builder.Add(wire, m_sections[i][(k + 1) % joints()].Reversed());
            builder.Add(wire, m_rails[i][k].Reversed());
            wire.Closed(true);
            builder.Add(face, wire);
            builder.Add(shell, face);
            for (const std::string& role : m_edges[i].roles)
                out.sides.emplace_back(face, sweptRole(role, m_pieces[k].item));
        }
    }
}

TopoDS_Wire LoopFaces::capWire(bool end) const {
    BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    for (const auto& ofEdge : m_sections) builder.Add(wire, end ? ofEdge.back() : ofEdge.front());
    wire.Closed(true);
    return wire;
}

/// Knots along each piece, by some places of the section that lie far from the path.
std::optional<std::vector<std::optional<GridDirection>>>
alongPieces(const Section& section, const std::vector<PathPiece>& pieces, const Frames& frames) {
    std::vector<gp_Vec> local;
    for (const gp_Pnt& p : section.border(4)) local.push_back(frames.local(p));
    std::vector<gp_Vec> far; // the furthest in eight directions
    for (int k = 0; k < 8; ++k) {
        const gp_Vec way(std::cos(k * M_PI / 4), std::sin(k * M_PI / 4), 0);
        far.push_back(*std::max_element(local.begin(), local.end(), [&](const gp_Vec& a, const gp_Vec& b) {
            return a.Dot(way) < b.Dot(way);
        }));
    }
    std::vector<std::optional<GridDirection>> out;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
        const auto curves = [&](double s) {
            const PathFrame f = frames.at(k, s);
            std::vector<gp_Pnt> places;
            for (const gp_Vec& p : far) places.push_back(f.place(p));
            return places;
        };
        auto found = directionFor(pieces[k].curve.breaks(), curves, kSweepFit / 2);
        if (!found) return std::nullopt;
        out.emplace_back(std::move(*found));
    }
    return out;
}

/// The plane of the section, which need not stand square to the path, where a frame puts it.
gp_Pln planeOf(const Section& section, const Frames& frames, const PathFrame& frame) {
    const gp_Pnt at = section.loops.front().front().curve.start();
    const gp_Ax2 own(at, gp_Dir(section.normal()));
    const auto put = [&](const gp_Dir& by) { return frame.place(frames.local(at.Translated(gp_Vec(by)))); };
    const gp_Pnt origin = frame.place(frames.local(at));
    const gp_Vec x(origin, put(own.XDirection())), y(origin, put(own.YDirection()));
    return {origin, gp_Dir(x.Crossed(y))};
}

TopoDS_Face capFace(const std::vector<LoopFaces>& loops, const gp_Pln& plane, bool end) {
    BRep_Builder builder;
    TopoDS_Face face;
    builder.MakeFace(face, new Geom_Plane(plane), kKernelPoint);
    for (const LoopFaces& l : loops) builder.Add(face, l.capWire(end));
    return end ? face : TopoDS::Face(face.Reversed());
}

} // namespace

std::string sweptRole(const std::string& ofEdge, int ofPiece) {
    return ofEdge + " along " + std::to_string(ofPiece);
}

Result<Swept> sweptFaces(const Section& section, const std::vector<PathPiece>& pieces, bool closed,
                         const Frames& frames) {
    const Error uneven =
        errorOf("sweep.uneven", "The path or the section is too uneven to be swept. Draw it with "
                                "fewer nodes, or turn it less.");
    const auto lengths = alongPieces(section, pieces, frames);
    if (!lengths) return uneven;
    std::vector<LoopFaces> loops;
    for (const auto& edges : section.loops) {
        loops.emplace_back(edges, pieces, closed, frames);
        if (!loops.back().fit(*lengths)) return uneven;
    }
    Swept out;
    BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (LoopFaces& l : loops) {
        l.build(shell, out);
        if (!closed) continue; // each loop is a shell of its own
        shell.Closed(true);
        builder.Add(solid, shell);
        builder.MakeShell(shell);
    }
    if (!closed) {
        out.start = capFace(loops, planeOf(section, frames, frames.start()), false);
        out.end = capFace(loops, planeOf(section, frames, frames.end()), true);
        builder.Add(shell, out.start);
        builder.Add(shell, out.end);
        shell.Closed(true);
        builder.Add(solid, shell);
    }
    BRepLib::SameParameter(solid, kSurfaceFit, true);
    BRepLib::UpdateTolerances(solid, true);
    out.solid = solid;
    return out;
}

} // namespace gc
