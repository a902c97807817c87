#include "core/steps/shell/parted_at_folds.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/steps/shared/laid_line.hpp"
#include "core/steps/shared/moved_borders.hpp"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepFeat_SplitShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Precision.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// What folds over of one face, with the lines that part it from the rest.
struct FoldOnFace {
    TopoDS_Face face;
    std::shared_ptr<FoldRound> round;
    double from[2]{}, to[2]{}; ///< w, of each line as far as it lies on the face
    bool within[2]{};          ///< does it end on the face?
};

/// The part of the plane of a face's parameters in which it lies.
struct Bounds {
    double low[2], high[2];

    explicit Bounds(const TopoDS_Face& face) { BRepTools::UVBounds(face, low[0], high[0], low[1], high[1]); }
    /// The side over which a place is outside; 0 within it.
    int side(const gp_Pnt2d& uv) const {
        for (const int k : {0, 1}) {
            if (uv.Coord(k + 1) < low[k]) return 2 * k + 1;
            if (uv.Coord(k + 1) > high[k]) return 2 * k + 2;
        }
        return 0;
    }
};

/// How far a line lies on the face from a place of it on. \param step to the next place that is looked at
/// \param side over which it leaves the face; 0 where it ends on it
std::optional<double> endOnFace(const FoldRound& round, int line, const Bounds& bounds, double from,
                                double step, int& side) {
    double last = from;
    side = 0;
    for (double w = from; w > 0 && w < round.last();) {
        w = std::clamp(w + step, 0.0, round.last());
        const auto uv = round.lineAt(line, w);
        if (!uv) return std::nullopt;
        side = bounds.side(*uv);
        if (side == 0) {
            last = w;
            continue;
        }
        double in = last, out = w;
        for (int half = 0; half < 50; ++half) {
            const double middle = 0.5 * (in + out);
            const auto there = round.lineAt(line, middle);
            if (!there) return std::nullopt;
            (bounds.side(*there) == 0 ? in : out) = middle;
        }
        return in;
    }
    return last;
}

/// Where most of it folds over between two places that are on the face; null where there is none: then what
/// the faces beside it are moved to cuts all of it off.
const CreasePlace* mostOnFace(const FoldCrease& crease, const Bounds& bounds) {
    const CreasePlace* most = nullptr;
    for (const CreasePlace& p : crease.places)
        if (bounds.side(p.uv[0]) == 0 && bounds.side(p.uv[1]) == 0 && (!most || p.excess > most->excess))
            most = &p;
    return most;
}

/// False where the lines do not lead from border to border, or end well within the face.
bool layLines(FoldOnFace& fold) {
    const FoldCrease& crease = fold.round->crease();
    const Bounds bounds(fold.face);
    const CreasePlace* most = mostOnFace(crease, bounds);
    const double middle = fold.round->near(gp_Pnt2d((most->uv[0].XY() + most->uv[1].XY()) / 2)).X();
    const double step = fold.round->last() / 200;
    int sides[2][2] = {{0, 0}, {0, 0}};
    for (const int line : {0, 1}) {
        const auto begin = fold.round->lineAt(line, middle);
        if (!begin || bounds.side(*begin) != 0) return false;
        const auto from = endOnFace(*fold.round, line, bounds, middle, -step, sides[line][0]),
                   to = endOnFace(*fold.round, line, bounds, middle, step, sides[line][1]);
        if (!from || !to) return false;
        fold.from[line] = *from, fold.to[line] = *to;
    }
    for (const int end : {0, 1}) {
        fold.within[end] = sides[0][end] == 0;
        if (sides[0][end] != sides[1][end] || (fold.within[end] && !crease.within[end])) return false;
    }
    return true;
}

/// The lines of a fold as edges on a face.
class FoldEdges {
  public:
    /// \param corners of all folds: where one goes on from another they share them
    FoldEdges(const FoldOnFace& fold, const TopoDS_Face& face, std::vector<TopoDS_Vertex>& corners)
        : m_fold(fold), m_face(face), m_surface(fold.round->wall()), m_corners(corners) {}

    /// The wires that part it from the rest of the face; empty where they cannot be fitted.
    std::vector<TopoDS_Wire> wires() {
        const FoldCrease& crease = m_fold.round->crease();
        TopoDS_Edge lines[2], ends[2];
        for (const int line : {0, 1}) {
            const double from = m_fold.from[line], to = m_fold.to[line];
            // Over all of its length: what becomes of it may lie beyond the face.
            lines[line] = edge([&](double w) { return m_fold.round->lineAt(line, w); }, m_fold.round->last(),
                               {vertexAt(line, 0), from}, {vertexAt(line, 1), to});
        }
        for (const int end : {0, 1})
            if (m_fold.within[end]) {
                const CreasePlace& p = end == 0 ? crease.places.front() : crease.places.back();
                ends[end] = edge(
                    [&](double t) {
                        return std::optional(gp_Pnt2d(p.uv[0].XY() * (1 - t) + p.uv[1].XY() * t));
                    },
                    1, {vertexAt(0, end), 0}, {vertexAt(1, end), 1});
            }
        for (const TopoDS_Edge& e : {lines[0], lines[1]})
            if (e.IsNull()) return {};
        for (const int end : {0, 1})
            if (m_fold.within[end] && ends[end].IsNull()) return {};
        if (ends[0].IsNull() && ends[1].IsNull()) return {wire({lines[0]}), wire({lines[1]})};
        if (ends[0].IsNull()) return {wire({lines[0], ends[1], TopoDS::Edge(lines[1].Reversed())})};
        if (ends[1].IsNull()) return {wire({TopoDS::Edge(lines[0].Reversed()), ends[0], lines[1]})};
        return {
            wire({lines[0], ends[1], TopoDS::Edge(lines[1].Reversed()), TopoDS::Edge(ends[0].Reversed())})};
    }

  private:
    TopoDS_Vertex vertexAt(int line, int end) {
        TopoDS_Vertex& v = m_vertices[line][end];
        if (!v.IsNull()) return v;
        const auto uv = m_fold.round->lineAt(line, end == 0 ? m_fold.from[line] : m_fold.to[line]);
        if (!uv) return v;
        const gp_Pnt at = m_surface->Value(uv->X(), uv->Y());
        const auto known = std::find_if(m_corners.begin(), m_corners.end(), [&](const TopoDS_Vertex& c) {
            return BRep_Tool::Pnt(c).Distance(at) < kOff;
        });
        if (known != m_corners.end()) return v = *known;
        BRep_Builder().MakeVertex(v, at, kKernelPoint);
        m_corners.push_back(v);
        return v;
    }
    using End = std::pair<TopoDS_Vertex, double>;
    /// \param last parameter of the line, from 0; the edge may be a part of it
    TopoDS_Edge edge(const std::function<std::optional<gp_Pnt2d>(double)>& line, double last, const End& from,
                     const End& to) {
        const auto places = [&](double at) -> std::optional<std::vector<gp_Pnt>> {
            const auto uv = line(at);
            if (!uv) return std::nullopt;
            return std::vector<gp_Pnt>{m_surface->Value(uv->X(), uv->Y()), gp_Pnt(uv->X(), uv->Y(), 0)};
        };
        const auto fitted = curvesAlong({0, last}, 2, places, {1e-6, 1e-5, 1e-4}, 300);
        TopoDS_Edge out;
        if (fitted.empty() || from.first.IsNull() || to.first.IsNull()) return out;
        BRep_Builder build;
        build.MakeEdge(out, fitted[0], kOff);
        build.UpdateEdge(out, inParameters(fitted[1], {1, 1}), m_face, kOff);
        build.Add(out, from.first.Oriented(TopAbs_FORWARD));
        build.Add(out, to.first.Oriented(TopAbs_REVERSED));
        for (const auto& [v, at] : {from, to}) build.UpdateVertex(v, 2 * kOff);
        build.Range(out, from.second, to.second);
        build.SameParameter(out, true);
        build.SameRange(out, true);
        return out;
    }
    static TopoDS_Wire wire(const std::vector<TopoDS_Edge>& edges) {
        TopoDS_Wire out;
        BRep_Builder build;
        build.MakeWire(out);
        for (const TopoDS_Edge& e : edges) build.Add(out, e);
        return out;
    }

    static constexpr double kOff = 1e-4; // mm: what they are fitted to
    const FoldOnFace& m_fold;
    TopoDS_Face m_face;
    Handle(Geom_Surface) m_surface;
    std::vector<TopoDS_Vertex>& m_corners;
    TopoDS_Vertex m_vertices[2][2];
};

/// What folds over at a place of a face, as a round of one radius. Nothing where it cannot be made round; a
/// null round where what the faces beside it are moved to cuts it off. \param radius as a share of the wall
std::optional<FoldOnFace> foldOf(const TopoDS_Face& face, const Sheet& sheet, const gp_Pnt2d& place,
                                 double radius) {
    const FoldSheets sheets = foldSheets(sheet, radius);
    auto crease = creaseFrom(sheets, place);
    if (!crease) return std::nullopt;
    FoldOnFace fold{face, nullptr};
    if (!mostOnFace(*crease, Bounds(face))) return fold;
    fold.round = std::make_shared<FoldRound>(sheets, std::move(*crease));
    return fold.round->fit() && layLines(fold) ? std::optional(fold) : std::nullopt;
}

/// By the first radius that does.
std::optional<FoldOnFace> foldFrom(const TopoDS_Face& face, const Sheet& sheet, const gp_Pnt2d& place,
                                   double least) {
    for (const double radius : kFoldRadii)
        if (radius >= least)
            if (auto fold = foldOf(face, sheet, place, radius)) return fold;
    if (least > kFoldRadii.front()) return std::nullopt;
    return foldOf(face, sheet, place, kSmallFoldRadius);
}

/// What a face lies on, as far as it goes on beyond it: a crease would run round and round what has a period,
/// and along what is drawn out without an end. \param beyond mm
Handle(Geom_Surface) around(const TopoDS_Face& face, const Handle(Geom_Surface) & surface, double beyond) {
    const Bounds bounds(face);
    Bounds to(face);
    surface->Bounds(to.low[0], to.high[0], to.low[1], to.high[1]);
    gp_Pnt p;
    gp_Vec ways[2];
    surface->D1((bounds.low[0] + bounds.high[0]) / 2, (bounds.low[1] + bounds.high[1]) / 2, p, ways[0],
                ways[1]);
    bool parted = false;
    for (const int k : {0, 1}) {
        const double more = beyond / std::max(ways[k].Magnitude(), kNoDirection);
        const bool turns = k == 0 ? surface->IsUPeriodic() : surface->IsVPeriodic();
        const bool endless = Precision::IsInfinite(to.low[k]) || Precision::IsInfinite(to.high[k]);
        if (!endless && (!turns || bounds.high[k] - bounds.low[k] + 2 * more >= to.high[k] - to.low[k]))
            continue;
        to.low[k] = bounds.low[k] - more, to.high[k] = bounds.high[k] + more;
        parted = true;
    }
    if (!parted) return surface;
    return new Geom_RectangularTrimmedSurface(surface, to.low[0], to.high[0], to.low[1], to.high[1]);
}

/// Nothing where one of them cannot be made round.
std::optional<std::vector<FoldOnFace>> foldsOn(const ShellPlan& plan, double least) {
    std::vector<FoldOnFace> out;
    for (int i = 1; i <= plan.before->faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(plan.before->faces(i));
        if (plan.opened.Contains(face)) continue;
        const double by = plan.offsetOf(i);
        const std::size_t before = out.size();
        for (const gp_Pnt2d& place : foldedPlaces(face, by)) {
            if (std::any_of(out.begin() + static_cast<std::ptrdiff_t>(before), out.end(),
                            [&](const FoldOnFace& f) { return f.round->covers(place); }))
                continue;
            if (plan.stop && plan.stop()) return std::nullopt;
            Sheet sheet = sheetOf(face, by);
            const double beyond = 2 * std::fabs(plan.offset);
            sheet.surface = around(face, movedFace(face, by, beyond).surface, beyond);
            auto fold = foldFrom(face, sheet, place, least);
            if (!fold) return std::nullopt;
            if (fold->round) out.push_back(std::move(*fold));
        }
    }
    return out;
}

} // namespace

std::optional<PartedAtFolds> partedAtFolds(const ShellPlan& plan, double least) {
    const auto folds = foldsOn(plan, least);
    if (!folds) return std::nullopt;
    if (folds->empty()) return PartedAtFolds{};
    const NamedShape& shape = *plan.before;
    // Its edges are its own: what the body before shares with others must not change.
    BRepBuilderAPI_Copy copy(shape.shape);
    BRepFeat_SplitShape split(copy.Shape());
    std::vector<TopoDS_Vertex> corners;
    for (const FoldOnFace& fold : *folds) {
        const TopoDS_Face face = TopoDS::Face(copy.ModifiedShape(fold.face));
        const auto wires = FoldEdges(fold, face, corners).wires();
        if (wires.empty()) return std::nullopt;
        for (const TopoDS_Wire& wire : wires) split.Add(wire, face);
    }
    split.Build();
    if (!split.IsDone()) return std::nullopt;
    PartedAtFolds out;
    NameBuilder names(onlySolid(split.Shape()));
    names.inherit(shape);
    for (int i = 1; i <= shape.faces.Extent(); ++i) {
        out.pieces.emplace_back();
        const TopoDS_Shape before = copy.ModifiedShape(shape.faces(i));
        auto pieces = toVector(split.Modified(before));
        if (pieces.empty()) pieces.push_back(before);
        for (const TopoDS_Shape& piece : pieces) {
            out.pieces.back().push_back(TopoDS::Face(piece));
            if (names.has(piece)) names.add(piece, shape.namesOf(shape.faces(i)));
        }
    }
    auto made = names.finish();
    if (!made) return std::nullopt;
    out.body = std::move(*made);
    for (const FoldOnFace& fold : *folds) {
        const double middle = 0.25 * (fold.from[0] + fold.from[1] + fold.to[0] + fold.to[1]);
        const auto a = fold.round->lineAt(0, middle), b = fold.round->lineAt(1, middle);
        if (!a || !b) return std::nullopt;
        const gp_Pnt2d between((a->XY() + b->XY()) / 2);
        for (const TopoDS_Face& piece :
             out.pieces[static_cast<std::size_t>(shape.faces.FindIndex(fold.face)) - 1])
            if (BRepTopAdaptor_FClass2d(piece, 1e-9).Perform(between) == TopAbs_IN)
                out.rounds[out.body.shape().faces.FindIndex(piece)] = fold.round;
    }
    return out.rounds.size() == folds->size() ? std::optional(std::move(out)) : std::nullopt;
}

} // namespace gc
