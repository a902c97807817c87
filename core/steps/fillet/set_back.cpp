#include "core/steps/fillet/set_back.hpp"

#include "core/base/angles.hpp"
#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/shape/length_curve.hpp"
#include "core/steps/fillet/corner_patch.hpp"
#include "core/steps/fillet/parted_corner.hpp"
#include "core/steps/fillet/places_on_face.hpp"
#include "core/steps/shared/laying.hpp"
#include "core/steps/shared/runs_through_itself.hpp"
#include "core/steps/shared/worked_names.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Section.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BezierCurve.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kOnRail = 1e-3; // mm: of the ends of an arc

Error setBackError(Message sentence, const gp_Pnt& at) {
    Error e = errorOf("fillet.set-back", std::move(sentence));
    e.place = toVec(at);
    return e;
}

/// Where the plane across an edge goes through a border of its round.
struct RailPlace {
    TopoDS_Edge rail;
    TopoDS_Face beside; ///< on the other side of it than the round
    gp_Pnt at;
    gp_Vec inward; ///< along the rail towards the corner, of length 1
};

/// A rounded edge that runs into a corner.
struct Arm {
    TopoDS_Edge edge;
    gp_Pnt at; ///< of the edge, at the distance
    gp_Vec away;
    NamePtr round = nullptr;
    std::vector<std::pair<TopoDS_Face, RailPlace>> rails{}; ///< by the face beside the edge, as it was
};

std::optional<RailPlace> crossingOf(const TopoDS_Edge& rail, const gp_Pnt& at, const gp_Vec& away) {
    constexpr int kPlaces = 48, kHalvings = 50;
    const BRepAdaptor_Curve c(rail);
    const double from = c.FirstParameter(), to = c.LastParameter();
    const auto ahead = [&](double t) { return gp_Vec(at, c.Value(t)).Dot(away); };
    std::optional<RailPlace> best;
    for (int i = 0; i < kPlaces; ++i) {
        double low = from + (to - from) * i / kPlaces, high = from + (to - from) * (i + 1) / kPlaces;
        if ((ahead(low) < 0) == (ahead(high) < 0)) continue;
        const bool grows = ahead(low) < 0;
        for (int k = 0; k < kHalvings; ++k) {
            const double middle = 0.5 * (low + high);
            ((ahead(middle) < 0) == grows ? low : high) = middle;
        }
        RailPlace found{rail, {}, {}, {}};
        c.D1(0.5 * (low + high), found.at, found.inward);
        if (found.inward.Magnitude() < 1e-12) continue;
        found.inward.Normalize();
        if (found.inward.Dot(away) > 0) found.inward.Reverse();
        if (!best || found.at.Distance(at) < best->at.Distance(at)) best = found;
    }
    return best;
}

bool isCalled(const NamedShape& s, const TopoDS_Shape& face, NamePtr name) {
    const NameList& names = s.namesOf(face);
    return std::find(names.begin(), names.end(), name) != names.end();
}

/// Corners are left out where an edge is not rounded, and where only two faces meet.
class Corner {
  public:
    Corner(const NamedShape& before, const std::vector<EdgeChain>& chains, double distance, int step,
           const TopoDS_Vertex& corner)
        : m_before(before), m_chains(chains), m_distance(distance), m_step(step), m_corner(corner),
          m_at(BRep_Tool::Pnt(corner)) {
        for (const TopoDS_Edge& e : edgesAround(m_before, corner))
            if (!isSmooth(m_before, e)) m_edges.push_back(e);
    }

    bool isMeant() const {
        return m_edges.size() > 2 && std::all_of(m_edges.begin(), m_edges.end(), [&](const TopoDS_Edge& e) {
                   TopoDS_Vertex a, b;
                   TopExp::Vertices(e, a, b);
                   return !a.IsSame(b) && isRounded(e);
               });
    }

    Result<Body> setBack(const Body& now) {
        for (const TopoDS_Edge& e : m_edges)
            if (auto error = addArm(e)) return *error;
        NameList around;
        std::vector<ArmEnd> ends;
        std::vector<TopoDS_Edge> between;
        std::vector<TopoDS_Face> whole;
        for (Arm& arm : m_arms) {
            if (!findRails(arm, now.shape())) return tooNear(now.shape());
            ends.push_back({arcOf(arm, now.shape()), arm.away});
            if (ends.back().across.IsNull()) return tooNear(now.shape());
        }
        for (const TopoDS_Shape& f : toVector(m_before.facesOfVertex.FindFromKey(m_corner))) {
            const auto rails = railsOn(TopoDS::Face(f));
            if (rails.size() != 2) return unlike();
            // In a hollow corner of it nothing of the face is taken.
            if (const auto curve = curveOn(TopoDS::Face(f), *rails[0], *rails[1]); !curve.IsNull())
                between.push_back(curve);
            else
                whole.push_back(rails[0]->beside);
            around.push_back(firstName(m_before, f));
        }
        std::sort(around.begin(), around.end());
        return filled(now, ends, between, whole, internName(m_step, "fillet corner", around));
    }

  private:
    bool isRounded(const TopoDS_Edge& edge) const {
        return std::any_of(m_chains.begin(), m_chains.end(), [&](const EdgeChain& c) {
            return std::any_of(c.edges.begin(), c.edges.end(),
                               [&](const TopoDS_Edge& e) { return e.IsSame(edge); });
        });
    }

    std::optional<Error> addArm(const TopoDS_Edge& edge) {
        LengthCurve along = LengthCurve::of(edge);
        if (along.start().Distance(m_at) > along.end().Distance(m_at)) along = along.reversed();
        TopoDS_Vertex a, b;
        TopExp::Vertices(edge, a, b);
        const Corner other(m_before, m_chains, m_distance, m_step,
                           TopoDS::Vertex(a.IsSame(m_corner) ? b : a));
        const double room = other.isMeant() ? along.length() / 2 : along.length();
        if (m_distance >= room)
            return setBackError(phrase("Corners cannot be set back by %1: an edge that runs into one has "
                                       "room for less than %2. Make it less.",
                                       formatAmount(m_distance, "mm", 2), formatAmount(room, "mm", 2)),
                                along.at(along.length() / 2));
        m_arms.push_back({edge, along.at(m_distance), along.tangent(m_distance),
                          nameAlong(m_before, edge, m_step, "fillet", m_chains)});
        return std::nullopt;
    }

    bool findRails(Arm& arm, const NamedShape& now) const {
        for (const TopoDS_Shape& f : facesBeside(m_before, arm.edge)) {
            std::optional<RailPlace> best;
            for (const int i : now.edgesBetween(arm.round, firstName(m_before, f))) {
                const auto found = crossingOf(TopoDS::Edge(now.edges(i + 1)), arm.at, arm.away);
                if (found && (!best || found->at.Distance(arm.at) < best->at.Distance(arm.at))) best = found;
            }
            if (!best) return false;
            for (const TopoDS_Shape& side : facesBeside(now, best->rail))
                if (!isCalled(now, side, arm.round)) best->beside = TopoDS::Face(side);
            arm.rails.emplace_back(TopoDS::Face(f), *best);
        }
        return arm.rails.size() == 2;
    }

    /// What the plane across the edge cuts out of its round, from rail to rail.
    static TopoDS_Edge arcOf(const Arm& arm, const NamedShape& now) {
        for (const TopoDS_Shape& face : facesBeside(now, arm.rails[0].second.rail)) {
            if (!isCalled(now, face, arm.round)) continue;
            BRepAlgoAPI_Section section(face, gp_Pln(arm.at, gp_Dir(arm.away)), false);
            section.Approximation(true);
            section.Build();
            if (!section.IsDone()) return {};
            for (TopExp_Explorer x(section.Shape(), TopAbs_EDGE); x.More(); x.Next()) {
                const BRepAdaptor_Curve c(TopoDS::Edge(x.Current()));
                const gp_Pnt a = c.Value(c.FirstParameter()), b = c.Value(c.LastParameter()),
                             &p = arm.rails[0].second.at, &q = arm.rails[1].second.at;
                if (std::min(a.Distance(p) + b.Distance(q), a.Distance(q) + b.Distance(p)) < kOnRail)
                    return TopoDS::Edge(x.Current());
            }
        }
        return {};
    }

    std::vector<const RailPlace*> railsOn(const TopoDS_Face& face) const {
        std::vector<const RailPlace*> out;
        for (const Arm& a : m_arms)
            for (const auto& [f, rail] : a.rails)
                if (f.IsSame(face)) out.push_back(&rail);
        return out;
    }

    /// On a face between two edges, from the rail of the one to that of the other, along both of them. Null
    /// where that leaves the face.
    static TopoDS_Edge curveOn(const TopoDS_Face& face, const RailPlace& a, const RailPlace& b) {
        const gp_Vec to(a.at, b.at);
        // Where the two tangents come nearest to each other.
        const double c = a.inward.Dot(b.inward), det = 1 - c * c;
        double s = 0.6 * to.Magnitude(), t = s;
        if (det > 1e-3) {
            const double p = to.Dot(a.inward), q = to.Dot(b.inward), far = 4 * to.Magnitude();
            if (const double k = (p - c * q) / det, l = (c * p - q) / det;
                k > 0 && l > 0 && k < far && l < far)
                s = k, t = l;
        }
        constexpr double kFullness = 0.6; // of the way to where they meet: about round
        TColgp_Array1OfPnt poles(1, 4);
        poles(1) = a.at;
        poles(2) = a.at.Translated(a.inward * (kFullness * s));
        poles(3) = b.at.Translated(b.inward * (kFullness * t));
        poles(4) = b.at;
        const Handle(Geom_BezierCurve) curve = new Geom_BezierCurve(poles);
        return staysWithin(*curve, a.beside) ? laidOn(face, curve, a, b) : TopoDS_Edge();
    }

    static bool staysWithin(const Geom_BezierCurve& curve, const TopoDS_Face& face) {
        constexpr int kPlaces = 24;
        const PlacesOnFace places(face);
        for (int i = 1; i < kPlaces; ++i)
            if (!places.holds(curve.Value(double(i) / kPlaces))) return false;
        return true;
    }

    static TopoDS_Edge laidOn(const TopoDS_Face& face, const Handle(Geom_BezierCurve) & curve,
                              const RailPlace& a, const RailPlace& b) {
        if (BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane)
            return BRepBuilderAPI_MakeEdge(curve).Edge();
        constexpr int kPlaces = 40;
        const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
        const Handle(TColgp_HArray1OfPnt) feet = new TColgp_HArray1OfPnt(1, kPlaces + 1);
        gp_Pnt2d near = ShapeAnalysis_Surface(surface).ValueOfUV(a.at, kKernelPoint);
        for (int i = 0; i <= kPlaces; ++i) {
            const auto foot = footPoint(*surface, curve->Value(double(i) / kPlaces), near);
            if (!foot) return {};
            near = foot->uv;
            feet->SetValue(i + 1, foot->at);
        }
        GeomAPI_Interpolate through(feet, false, 1e-7);
        through.Load(a.inward, -b.inward, true);
        through.Perform();
        return through.IsDone() ? BRepBuilderAPI_MakeEdge(through.Curve()).Edge() : TopoDS_Edge();
    }

    /// The corner's piece taken out, and a smooth face put there.
    Result<Body> filled(const Body& now, const std::vector<ArmEnd>& ends,
                        const std::vector<TopoDS_Edge>& between, const std::vector<TopoDS_Face>& whole,
                        NamePtr name) const {
        constexpr double kOff = 2e-3, kKink = 0.5 * kPi / 180; // mm, rad
        const auto parted = PartedCorner::of(now, ends, between, whole);
        if (!parted) return tooNear(now.shape());
        const auto patch = fairPatch(parted->places());
        if (!patch) return unlike();
        if (patch->off > kOff || patch->kink > kKink) return unlike();
        auto made = parted->closedBy(*patch, name);
        if (!made) return unlike();
        const BodyCheck check = checkBody(*made, {&now});
        if (!check.faults.empty() || check.solids != 1) return unlike();
        return made;
    }

    Error unlike() const {
        return setBackError("One smooth face does not fit over this corner: what runs into it turns too far. "
                            "Set it back by another length, or let corners be rolled.",
                            m_at);
    }

    /// The ball rolls over the corner as far as the borders of its rounds begin.
    Error tooNear(const NamedShape& now) const {
        double rolled = 0;
        for (const Arm& a : m_arms)
            for (const TopoDS_Shape& f : facesBeside(m_before, a.edge)) {
                double least = 1e300;
                for (const int i : now.edgesBetween(a.round, firstName(m_before, f))) {
                    const BRepAdaptor_Curve c(TopoDS::Edge(now.edges(i + 1)));
                    for (const double t : {c.FirstParameter(), c.LastParameter()})
                        least = std::min(least, std::fabs(gp_Vec(m_at, c.Value(t)).Dot(a.away)));
                }
                if (least < 1e300) rolled = std::max(rolled, least);
            }
        return setBackError(
            phrase("Corners set back by %1 would end within what the ball rolls over here. Set "
                   "them back by more than %2.",
                   formatAmount(m_distance, "mm", 2), formatAmount(rolled, "mm", 2)),
            m_at);
    }

    const NamedShape& m_before;
    const std::vector<EdgeChain>& m_chains;
    double m_distance;
    int m_step;
    TopoDS_Vertex m_corner;
    gp_Pnt m_at;
    std::vector<TopoDS_Edge> m_edges;
    std::vector<Arm> m_arms;
};

} // namespace

Result<Body> withSetBackCorners(const Body& before, const std::vector<EdgeChain>& chains, const Body& rounded,
                                double distance, int step) {
    Body now = rounded;
    bool any = false;
    for (int i = 1; i <= before.shape().vertices.Extent(); ++i) {
        Corner corner(before.shape(), chains, distance, step, TopoDS::Vertex(before.shape().vertices(i)));
        if (!corner.isMeant()) continue;
        any = true;
        auto made = corner.setBack(now);
        if (!made) return made;
        now = std::move(*made);
    }
    if (!any)
        return setBackError(
            "No three of these edges meet in a corner where all that meets is rounded, so there "
            "is nothing to set back. Add the edges that run into a corner, or let corners be "
            "rolled.",
            placeIn(middleOf(chains.front())));
    return now;
}

} // namespace gc
