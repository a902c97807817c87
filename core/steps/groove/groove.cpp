// Groove: a section along a line that is laid on walls, led by their normal.

#include "core/base/angles.hpp"
#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/shape/places.hpp"
#include "core/steps/groove/groove_section.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/on_faces.hpp"
#include "core/steps/shared/runs.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRep_Tool.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <TopExp_Explorer.hxx>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

/// The walls, and what is above them.
class GrooveWalls {
  public:
    GrooveWalls(Body body, std::vector<int> items) : m_body(std::move(body)), m_items(std::move(items)) {
        for (const TopoDS_Face& f : faces()) m_known.push_back({FaceSurface(f), BRep_Tool::Surface(f)});
    }
    std::vector<TopoDS_Face> faces() const {
        std::vector<TopoDS_Face> out;
        for (const int i : m_items) out.push_back(TopoDS::Face(m_body.shape().faces(i + 1)));
        return out;
    }
    gp_Vec normal(const gp_Pnt& at) const { return nearestTo(at).normal; }
    /// How far the walls fall away beside a place, mm.
    double fallBeside(const gp_Pnt& at, const gp_Vec& aside) const {
        const gp_Pnt there = at.Translated(aside);
        return gp_Vec(nearestTo(there).at, there).Dot(normal(at));
    }
    /// Does the line end on a border of the walls? There a groove goes on over it.
    bool isOnBorder(const gp_Pnt& at) const {
        constexpr double kOn = 1e-3; // mm
        const NamedShape& s = m_body.shape();
        const TopoDS_Shape place = BRepBuilderAPI_MakeVertex(at).Shape();
        for (const TopoDS_Face& f : faces())
            for (TopExp_Explorer x(f, TopAbs_EDGE); x.More(); x.Next()) {
                const TopoDS_Face next = faceAcross(s, TopoDS::Edge(x.Current()), f);
                const int there = next.IsNull() ? 0 : s.faces.FindIndex(next);
                if (there == 0 || std::count(m_items.begin(), m_items.end(), there - 1) > 0) continue;
                const BRepExtrema_DistShapeShape apart(place, x.Current());
                if (apart.IsDone() && apart.Value() < kOn) return true;
            }
        return false;
    }

  private:
    struct OnWall {
        gp_Pnt at;
        gp_Vec normal;
    };
    OnWall nearestTo(const gp_Pnt& p) const {
        for (Known& k : m_known)
            if (const auto foot = k.hint ? footPoint(k.surface.surface(), p, *k.hint) : std::nullopt)
                if (const auto out = k.surface.outward(*foot); out && isNear(foot->at.Distance(p))) {
                    k.hint = foot->uv;
                    return {foot->at, *out};
                }
        const auto nearest = nearestOnFaces(m_body, m_items, toVec(p));
        if (!nearest) return {p, gp_Vec(0, 0, 1)};
        const OnWall out{{nearest->at.x, nearest->at.y, nearest->at.z},
                         {nearest->normal.x, nearest->normal.y, nearest->normal.z}};
        for (Known& k : m_known) k.hint = ShapeAnalysis_Surface(k.handle).ValueOfUV(out.at, kKernelPoint);
        return out;
    }
    /// From a place of one wall alone the next one is found by steps; between several only on one of them.
    bool isNear(double distance) const {
        constexpr double kOn = 1e-4; // mm
        return m_known.size() == 1 || distance < kOn;
    }

    Body m_body;
    std::vector<int> m_items;
    struct Known {
        FaceSurface surface;
        Handle(Geom_Surface) handle;
        std::optional<gp_Pnt2d> hint{};
    };
    mutable std::vector<Known> m_known;
};

Path pathOf(std::vector<LengthCurve> curves, bool closed) {
    std::vector<PathPiece> pieces;
    for (LengthCurve& c : curves) pieces.push_back({std::move(c), static_cast<int>(pieces.size()) + 1});
    return {std::move(pieces), closed};
}

LengthCurve straight(const gp_Pnt& from, const gp_Pnt& to) {
    return LengthCurve::of(BRepBuilderAPI_MakeEdge(from, to).Edge());
}

/// One end of an open line.
struct GrooveEnd {
    bool over = false;  ///< it goes on over a border of the walls
    bool round = false; ///< it is turned about the wall's normal there
};

class Grooving {
  public:
    Grooving(const Arguments& args, GrooveWalls walls, Path line, std::optional<DrawnSection> drawn)
        : m_args(args), m_walls(std::move(walls)), m_line(std::move(line)),
          m_cut(args.text("does") == "cut") {
        const std::string& profile = args.text("profile");
        m_section.shape = profile == "round"  ? GrooveShape::Round
                          : profile == "flat" ? GrooveShape::Flat
                                              : GrooveShape::Vee;
        m_section.width = drawn ? drawn->width : args.number("width");
        m_section.depth = drawn ? drawn->depth : args.number("depth");
        m_section.margin = margin();
        if (!drawn) return;
        m_section.shape = GrooveShape::Drawn;
        m_section.drawn = std::move(*drawn);
        m_section.drawn.sink(m_section.margin);
    }

    bool cuts() const { return m_cut; }

    Result<NamedTool> tool(const Progress& progress) {
        std::array<GrooveEnd, 2> ends;
        if (!m_line.closed())
            for (std::size_t i = 0; i < 2; ++i) {
                ends[i].over =
                    m_cut && m_walls.isOnBorder(i == 0 ? m_line.start() : m_line.at(m_line.length()));
                ends[i].round = !ends[i].over && m_args.text("ends") == "round";
            }
        auto way = wayFor(ends);
        if (!way) return way.error();
        const gp_Ax3 at = frameAt(way->start(), way->tangent(0));
        SweepLaw law;
        if (isBent(at)) law.leads = [this](double, const gp_Pnt& p) { return m_walls.normal(p); };
        auto made = sweepAlong(profileOf(m_section, at, up()), *way, gp_Vec(at.XDirection()), law, true,
                               std::nullopt, m_args.id(), Plane{});
        for (std::size_t i = 0; made && i < 2; ++i) {
            if (progress.stopped()) return stoppedError();
            if (ends[i].round) made = withRoundEnd(std::move(*made), *way, i);
        }
        return made;
    }

    void showHandles(ModelReader& model) const {
        if (m_section.shape == GrooveShape::Drawn) return;
        const auto at = [&](double share) { return m_line.at(share * m_line.length()); };
        const gp_Ax3 deep = frameAt(at(0.7), m_line.tangent(0.7 * m_line.length())),
                     wide = frameAt(at(0.3), m_line.tangent(0.3 * m_line.length()));
        const gp_Vec out(deep.XDirection()), aside(wide.YDirection());
        model.show(sizeHandle("depth", toVec(at(0.7)), toWay(m_cut ? -out : out), m_section.depth));
        model.show(sizeHandle("width", toVec(at(0.3).Translated(aside * (-0.5 * m_section.width))),
                              toWay(aside), m_section.width));
    }

  private:
    /// z along the line, x above the wall.
    gp_Ax3 frameAt(const gp_Pnt& p, const gp_Vec& along) const {
        const gp_Vec n = m_walls.normal(p), out = n - along * n.Dot(along);
        return {p, gp_Dir(along), gp_Dir(out.Magnitude() > 1e-6 ? out : n)};
    }
    /// Does the normal turn along the line? If not the kernel's own sweeps are exact.
    bool isBent(const gp_Ax3& start) const {
        constexpr int kLooks = 48;
        constexpr double kTurn = 1e-7; // rad
        const gp_Vec first = m_walls.normal(start.Location());
        for (int i = 0; i <= kLooks; ++i)
            if (m_walls.normal(m_line.at(m_line.length() * i / kLooks)).Angle(first) > kTurn) return true;
        return false;
    }
    double up() const { return m_cut ? 1 : -1; }

    /// A groove goes on above the wall by some of its width; a bead goes down as far as the wall falls away
    /// beside it.
    double margin() const {
        constexpr int kLooks = 48;
        constexpr double kRoot = 0.05, kMost = 0.3; // mm; of the width
        if (m_cut) return kMost * m_section.width;
        double most = 0;
        for (int i = 0; i <= kLooks; ++i) {
            const double s = m_line.length() * i / kLooks;
            const gp_Ax3 at = frameAt(m_line.at(s), m_line.tangent(s));
            for (const double side : {-0.5, 0.5})
                most = std::max(most, m_walls.fallBeside(m_line.at(s),
                                                         gp_Vec(at.YDirection()) * (side * m_section.width)));
        }
        return std::min(kRoot + 1.2 * most, kMost * m_section.width + kRoot);
    }

    /// What the section is carried along: the line, over the borders of the walls, up and out of them.
    Result<Path> wayFor(const std::array<GrooveEnd, 2>& ends) const {
        std::vector<LengthCurve> curves;
        for (const PathPiece& p : m_line.pieces()) curves.push_back(p.curve);
        if (!m_line.closed() && m_args.text("ends") == "running out over") {
            auto lifted = liftedOut(ends);
            if (!lifted) return lifted.error();
            curves = std::move(*lifted);
        }
        const double more = m_section.reach() + m_section.depth;
        if (ends[0].over) {
            const gp_Pnt p = curves.front().start();
            curves.insert(curves.begin(), straight(p.Translated(curves.front().tangent(0) * -more), p));
        }
        if (ends[1].over) {
            const LengthCurve& last = curves.back();
            curves.push_back(straight(last.end(), last.end().Translated(last.tangent(last.length()) * more)));
        }
        return pathOf(std::move(curves), m_line.closed());
    }

    double runOut() const { return std::min(m_args.number("run-out"), m_line.length() / 2); }
    /// How far above its place on the wall the line is carried, of the depth.
    double liftAt(double s, const std::array<GrooveEnd, 2>& ends) const {
        constexpr double kClear = 1.15; // at its end it has left the wall
        const double over = runOut();
        const auto lift = [&](double fromEnd) {
            const double x = std::clamp(1 - fromEnd / over, 0.0, 1.0);
            return kClear * x * x * (3 - 2 * x);
        };
        return (ends[0].over ? 0 : lift(s)) + (ends[1].over ? 0 : lift(m_line.length() - s));
    }
    /// The wall's normal about there, weighted by a raised cosine: where the wall's own bend jumps a line
    /// lifted along the normal itself would have a corner.
    gp_Vec liftWay(double s) const {
        constexpr int kEach = 4; // to either side, over the width of the groove
        gp_Vec sum;
        for (int i = -kEach; i <= kEach; ++i) {
            const double share = static_cast<double>(i) / (kEach + 1);
            const double there = std::clamp(s + share * m_section.width, 0.0, m_line.length());
            sum += m_walls.normal(m_line.at(there)) * (1 + std::cos(kPi * share));
        }
        return sum.Normalized();
    }
    Result<std::vector<LengthCurve>> liftedOut(const std::array<GrooveEnd, 2>& ends) const {
        constexpr double kFit = 1e-4; // mm
        const double over = runOut();
        std::vector<LengthCurve> out;
        double before = 0;
        for (const PathPiece& p : m_line.pieces()) {
            std::vector<double> breaks = p.curve.breaks();
            for (const double s : {over - before, m_line.length() - over - before})
                if (s > 1e-3 && s < p.curve.length() - 1e-3) breaks.push_back(s);
            std::sort(breaks.begin(), breaks.end());
            breaks.erase(
                std::unique(breaks.begin(), breaks.end(), [](double a, double b) { return b - a < 1e-6; }),
                breaks.end());
            const auto place = [&](double s) {
                const gp_Pnt at = p.curve.at(s);
                const double lift = liftAt(before + s, ends);
                return lift > 0 ? at.Translated(liftWay(before + s) * (up() * m_section.depth * lift)) : at;
            };
            const auto direction = directionFor(
                breaks, [&](double s) { return std::vector{place(s)}; }, kFit);
            if (!direction)
                return errorOf("groove.uneven",
                               "The walls are too uneven for the groove to run out on. Give it "
                               "round or square ends.");
            std::vector<gp_Pnt> places;
            for (const double s : direction->points()) places.push_back(place(s));
            if (places.size() == 2)
                out.push_back(straight(places.front(), places.back()));
            else {
                const auto curve = curveThroughPlaces(*direction, places);
                out.emplace_back(curve, curve->FirstParameter(), curve->LastParameter());
            }
            before += p.curve.length();
        }
        return out;
    }

    /// Half the section turned about the wall's normal, as a round cutter leaves it.
    Result<NamedTool> withRoundEnd(NamedTool tool, const Path& way, std::size_t end) const {
        const double s = end == 0 ? 0 : way.length();
        const gp_Ax3 at = frameAt(way.at(s), end == 0 ? -way.tangent(s) : way.tangent(s));
        // From the right of the way over its front to its left.
        BRepPrimAPI_MakeRevol turned(halfFaceOf(m_section, at, up()), gp_Ax1(way.at(s), at.XDirection()),
                                     kPi);
        NamedTool cap;
        cap.step = tool.step;
        cap.frame = tool.frame;
        cap.shape = turned.Shape();
        const NamePtr name = internName(tool.step, end == 0 ? "round start" : "round end");
        for (TopExp_Explorer x(cap.shape, TopAbs_FACE); x.More(); x.Next())
            cap.names.emplace_back(x.Current(), name);
        const auto body = bodyOf(tool);
        if (!body) return body.error();
        const auto both = combine(*body, cap, Combine::Add);
        if (!both) return both.error();
        return toolOf(*both, tool.step);
    }

    const Arguments& m_args;
    GrooveWalls m_walls;
    Path m_line;
    bool m_cut;
    GrooveSection m_section;
};

/// The drawn profile; none where it is one of the simple ones.
Result<std::optional<DrawnSection>> drawnBy(const Arguments& args, ModelReader& model, bool closed) {
    if (args.text("profile") != "drawn") return std::optional<DrawnSection>();
    if (!closed && args.text("ends") == "round") {
        Error e =
            errorOf("groove.round", "A drawn profile may be another on its other side, so its ends cannot be "
                                    "round. Give it square ends, or let it run out.");
        e.remedies.push_back({args.id(), "ends", "square", "Square ends", false});
        return e;
    }
    const auto outline = drawingFor(args, model, "groove");
    if (!outline) return outline.error();
    auto section = drawnSection(**outline, "groove.profile", true);
    if (!section) return section.error();
    return std::optional(std::move(*section));
}

} // namespace

Result<StepChange> runGroove(const Arguments& args, ModelReader& model, const Progress& progress) {
    if (args.references("faces").empty())
        return errorOf("groove.faces", "Pick the walls that the groove runs on.");
    const auto found = findFaces(args.references("faces"), model);
    if (!found) return found.error();
    return guarded("groove.failed", "The groove cannot be made there.", [&]() -> Result<StepChange> {
        const GrooveWalls walls(found->body, found->items);
        auto laid = laidBy(args, walls.faces(), model);
        if (!laid) return laid.error();
        auto drawn = drawnBy(args, model, laid->closed);
        if (!drawn) return drawn.error();
        Grooving grooving(args, walls, pathOf(std::move(laid->curves), laid->closed), std::move(*drawn));
        asAid([&] { grooving.showHandles(model); });
        const auto tool = grooving.tool(progress);
        if (!tool) return tool.error();
        if (progress.stopped()) return stoppedError();
        if (auto shown = bodyOf(*tool)) model.show(*shown, grooving.cuts());
        auto made = combine(found->body, *tool, grooving.cuts() ? Combine::Take : Combine::Add);
        if (!made) return made.error();
        StepChange change(ChangedBody{found->id, std::move(*made)});
        change.notes = found->notes;
        return change;
    });
}

} // namespace gc
