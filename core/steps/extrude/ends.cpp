#include "core/steps/extrude/ends.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extended_face.hpp"
#include "core/shape/extremes.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"

#include <BOPTools_AlgoTools3D.hxx>
#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <IntTools_Context.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Ax3.hxx>
#include <gp_Lin.hxx>

#include <algorithm>
#include <memory>

namespace gc {

namespace {

gp_Dir normalOf(const Plane& plane) {
    const Vec3 n = plane.normal();
    return {n.x, n.y, n.z};
}

/// The box of a shape along the directions of a plane: z is how far before it.
Box boxAlong(const TopoDS_Shape& shape, const Plane& plane) {
    gp_Trsf toPlane;
    const Vec3& o = plane.origin;
    toPlane.SetTransformation(
        gp_Ax3({o.x, o.y, o.z}, normalOf(plane), {plane.across.x, plane.across.y, plane.across.z}));
    const TopoDS_Shape there = shape.Moved(toPlane);
    TopTools_IndexedMapOfShape edges, faces;
    TopExp::MapShapes(there, TopAbs_EDGE, edges);
    TopExp::MapShapes(there, TopAbs_FACE, faces);
    Box box;
    for (int i = 1; i <= edges.Extent(); ++i) addExtremes(box, TopoDS::Edge(edges(i)));
    for (int i = 1; i <= faces.Extent(); ++i) addInnerExtremes(box, TopoDS::Face(faces(i)));
    return box;
}

/// The way that the sides run. Of a line that is turned the other way the same is meant.
Result<Vec3> slantOf(const Arguments& args, ModelReader& model, const Plane& plane) {
    constexpr double kFlattest = 0.05; // of the sine: nearer to the drawing's plane it would be a smear
    if (args.text("sides") != "along") return plane.normal();
    const References& line = args.references("line");
    if (line.empty())
        return errorOf("extrude.line",
                       "Pick the straight edge or drawn line that its sides should run along.");
    const auto edge = findCurve(line.front(), model);
    if (!edge) return edge.error();
    const BRepAdaptor_Curve curve(*edge);
    if (curve.GetType() != GeomAbs_Line)
        return errorOf("extrude.line", phrase("%1 is not straight. Pick a straight edge or a drawn line.",
                                              marked(line.front())));
    const gp_Dir d = curve.Line().Direction();
    const Vec3 way{d.X(), d.Y(), d.Z()};
    const double rise = dot(way, plane.normal());
    if (std::fabs(rise) < kFlattest)
        return errorOf(
            "extrude.line",
            phrase("%1 lies in the plane of the drawing, or nearly so: nothing can be extruded along "
                   "it. Pick a line that leaves the plane.",
                   marked(line.front())));
    return way * (1 / rise);
}

/// The length is measured along the sides.
Result<Reach> byLength(const Arguments& args, Reach r) {
    const double rise = 1 / length(r.slant), length = args.number("length") * rise;
    const std::string& way = args.text("way");
    if (way == "backward") {
        r.to = r.from - length;
    } else if (way == "both ways together") {
        r.from -= length / 2;
        r.to = r.from + length;
    } else {
        r.to = r.from + length;
        if (way == "forward, and back by") r.from -= args.number("second") * rise;
    }
    return r;
}

Result<Reach> toLevel(const Arguments& args, ModelReader& model, const Plane& plane, Reach r) {
    const References& point = args.references("point");
    if (point.empty())
        return errorOf("extrude.point", "Pick the point that it should reach to, a corner or a node.");
    const auto at = findPoint(point.front(), model);
    if (!at) return at.error();
    r.to = plane.before(*at);
    if (std::fabs(r.to - r.from) < kSamePoint)
        return errorOf("extrude.flat",
                       phrase("%1 lies at the level where it begins, so it would have no thickness.",
                              marked(point.front())));
    return r;
}

/// The bodies that it may run into: the one that is worked on, else all that there are.
Result<std::vector<TopoDS_Shape>> inTheWay(ModelReader& model, std::optional<ThingId> target) {
    std::vector<TopoDS_Shape> out;
    for (const ThingId id : target ? std::vector{*target} : model.bodies())
        if (const Body* body = model.body(id)) out.push_back(body->shape().shape);
    if (out.empty())
        return errorOf("extrude.alone", "There is no body yet that it could end at. Give it a length.");
    return out;
}

Error behind(const std::string& what) {
    return errorOf("extrude.behind",
                   phrase("%1 lies behind where it begins. Turn it round, or begin further back.", what));
}

/// How far the shapes reach that way, counted from the plane.
double farthest(const std::vector<TopoDS_Shape>& shapes, const Plane& plane, double sense) {
    double far = -1e300;
    for (const TopoDS_Shape& s : shapes) {
        const Box box = boxAlong(s, plane);
        far = std::max(far, sense > 0 ? box.high.z : -box.low.z);
    }
    return far;
}

/// The widest that the shapes are, for what must reach past them.
double sizeOf(const std::vector<TopoDS_Shape>& shapes, const Plane& plane) {
    Box all;
    for (const TopoDS_Shape& s : shapes) {
        const Box box = boxAlong(s, plane);
        all.add(box.low), all.add(box.high);
    }
    return length(all.size());
}

Result<Reach> toBodies(const Arguments& args, ModelReader& model, const Plane& plane, Reach r,
                       std::optional<ThingId> target, double sense) {
    constexpr double kPast = 1; // mm: what is taken away leaves no skin
    const auto bodies = inTheWay(model, target);
    if (!bodies) return bodies.error();
    const double far = farthest(*bodies, plane, sense);
    if (far <= sense * r.from + kSamePoint) return behind("the body");
    const bool next = args.text("end") == "to the next wall";
    const bool takes = args.text("does") == "taking from" || args.text("does") == "common with";
    r.to = sense * (far + (next || takes ? kPast : 0));
    if (next) r.ends = *bodies;
    return r;
}

Result<Reach> toFaces(const Arguments& args, ModelReader& model, const Plane& plane, Reach r, double sense) {
    const References& faces = args.references("face");
    if (faces.empty()) return errorOf("extrude.face", "Pick the face that it should end at in the stand.");
    const auto found = findFaces(faces, model);
    if (!found) return found.error();
    for (const int item : found->items) r.ends.push_back(found->body.shape().faces(item + 1));
    r.faces = true;
    r.said = faces.front();
    const std::string& end = args.text("end");
    r.gap = end == "short of" ? args.number("gap") : end == "beyond" ? -args.number("gap") : 0;
    // Far past the faces, and as far again as they may be continued.
    const std::vector<TopoDS_Shape> body{found->body.shape().shape};
    const double size = sizeOf(body, plane);
    r.to = sense * (std::max(farthest(body, plane, sense), sense * r.from) + 2 * size + std::fabs(r.gap));
    return r;
}

// ---- the solid

double areaOf(const TopoDS_Shape& face) {
    GProp_GProps props;
    BRepGProp::SurfaceProperties(face, props);
    return props.Mass();
}

/// A prism of one area from one level to another, and what is left of it where tools cut it.
class EndedPrism {
  public:
    EndedPrism(const Profile& profile, const Reach& reach)
        : m_profile(profile), m_reach(reach), m_slant(reach.slant.x, reach.slant.y, reach.slant.z),
          m_moved(profile.face, lift(reach.from), true),
          m_prism(m_moved.Shape(), m_slant * (reach.to - reach.from)) {}

    const TopoDS_Shape& whole() { return m_prism.Shape(); }

    /// What is left on the side where it begins. \return the share of the area on which nothing ends it
    std::optional<double> cut(const std::vector<TopoDS_Shape>& tools) {
        m_cut = std::make_unique<BRepAlgoAPI_Splitter>();
        TopTools_ListOfShape arguments, list;
        arguments.Append(whole());
        for (const TopoDS_Shape& t : tools) list.Append(t);
        m_cut->SetArguments(arguments);
        m_cut->SetTools(list);
        m_cut->SetNonDestructive(true);
        m_cut->SetRunParallel(false);
        m_cut->Build();
        if (!m_cut->IsDone() || m_cut->HasErrors()) return std::nullopt;
        m_kept.clear();
        double open = 0;
        const auto starts = imagesOf(m_prism.FirstShape()), fars = imagesOf(m_prism.LastShape());
        TopTools_IndexedMapOfShape solids;
        TopExp::MapShapes(m_cut->Shape(), TopAbs_SOLID, solids);
        for (int i = 1; i <= solids.Extent(); ++i) {
            TopTools_IndexedMapOfShape faces;
            TopExp::MapShapes(solids(i), TopAbs_FACE, faces);
            const auto has = [&](const TopoDS_Shape& f) { return faces.Contains(f); };
            if (std::none_of(starts.begin(), starts.end(), has)) continue;
            m_kept.push_back(solids(i));
            for (const TopoDS_Shape& f : fars)
                if (has(f)) open += areaOf(f);
        }
        return open / areaOf(m_prism.LastShape());
    }

    /// What the surface of a face does to a line from within the area: does its normal look back along it?
    bool looksBack(const TopoDS_Face& face) {
        gp_Pnt from;
        gp_Pnt2d unused;
        const Handle(IntTools_Context) context = new IntTools_Context;
        if (BOPTools_AlgoTools3D::PointInFace(TopoDS::Face(m_moved.Shape()), from, unused, context) != 0)
            return true;
        IntCurvesFace_ShapeIntersector crossing;
        crossing.Load(face, kKernelPoint);
        crossing.PerformNearest(gp_Lin(from, way()), 0, far());
        const BRepAdaptor_Surface surface(face);
        const bool met = crossing.IsDone() && crossing.NbPnt() > 0;
        const double u = met ? crossing.UParameter(1)
                             : (surface.FirstUParameter() + surface.LastUParameter()) / 2,
                     v = met ? crossing.VParameter(1)
                             : (surface.FirstVParameter() + surface.LastVParameter()) / 2;
        gp_Pnt at;
        gp_Vec du, dv;
        surface.D1(u, v, at, du, dv);
        return du.Crossed(dv).Dot(gp_Vec(way())) < 0;
    }

    /// On what share of the area nothing of the tools lies in the way, by rays from within it.
    double shareMissed(const std::vector<TopoDS_Shape>& tools) {
        constexpr int kRays = 50; // each way
        const TopoDS_Face foot = TopoDS::Face(m_moved.Shape());
        BRepTopAdaptor_FClass2d inside(foot, kKernelPoint);
        const BRepAdaptor_Surface surface(foot);
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(foot, u0, u1, v0, v1);
        std::vector<std::unique_ptr<IntCurvesFace_ShapeIntersector>> crossings;
        for (const TopoDS_Shape& t : tools) {
            crossings.push_back(std::make_unique<IntCurvesFace_ShapeIntersector>());
            crossings.back()->Load(t, kKernelPoint);
        }
        int all = 0, missed = 0;
        for (int i = 0; i < kRays; ++i)
            for (int j = 0; j < kRays; ++j) {
                const double u = u0 + (u1 - u0) * (i + 0.5) / kRays, v = v0 + (v1 - v0) * (j + 0.5) / kRays;
                if (inside.Perform({u, v}) != TopAbs_IN) continue;
                ++all;
                const gp_Lin ray(surface.Value(u, v), way());
                missed += std::none_of(crossings.begin(), crossings.end(), [&](const auto& crossing) {
                    crossing->PerformNearest(ray, 0, far());
                    return crossing->IsDone() && crossing->NbPnt() > 0;
                });
            }
        return all > 0 ? double(missed) / all : 1;
    }

    void nameAll(int step, NamedTool& tool) {
        tool.names.emplace_back(m_prism.FirstShape(), internName(step, "start"));
        tool.names.emplace_back(m_prism.LastShape(), internName(step, "end"));
        for (const ProfileEdge& edge : m_profile.edges)
            for (const TopoDS_Shape& face : sidesOf(edge))
                for (const std::string& role : edge.roles)
                    tool.names.emplace_back(face, internName(step, role));
    }

    /// Puts what was kept among the solids. What the tools made of it is the end.
    void nameKept(int step, TopoDS_Compound& solids, NamedTool& tool) {
        TopTools_MapOfShape kept, named;
        for (const TopoDS_Shape& solid : m_kept) {
            BRep_Builder().Add(solids, solid);
            TopExp::MapShapes(solid, kept);
        }
        const auto name = [&](const TopoDS_Shape& face, const std::string& role) {
            for (const TopoDS_Shape& now : imagesOf(face)) {
                if (!kept.Contains(now)) continue;
                named.Add(now);
                tool.names.emplace_back(now, internName(step, role));
            }
        };
        name(m_prism.FirstShape(), "start");
        for (const ProfileEdge& edge : m_profile.edges)
            for (const TopoDS_Shape& face : sidesOf(edge))
                for (const std::string& role : edge.roles) name(face, role);
        for (const TopoDS_Shape& solid : m_kept)
            for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next())
                if (!named.Contains(x.Current()))
                    tool.names.emplace_back(x.Current(), internName(step, "end"));
    }

  private:
    const Profile& m_profile;
    const Reach& m_reach;
    gp_Vec m_slant;
    // Moved once, edges and face together: two moves give places that are not the same place.
    BRepBuilderAPI_Transform m_moved;
    BRepPrimAPI_MakePrism m_prism;
    std::unique_ptr<BRepAlgoAPI_Splitter> m_cut;
    std::vector<TopoDS_Shape> m_kept;

    gp_Dir way() const { return m_slant * (m_reach.to - m_reach.from); }
    /// How long its sides are.
    double far() const { return m_slant.Magnitude() * std::fabs(m_reach.to - m_reach.from); }
    gp_Trsf lift(double by) const {
        gp_Trsf t;
        t.SetTranslation(m_slant * by);
        return t;
    }
    std::vector<TopoDS_Shape> sidesOf(const ProfileEdge& edge) {
        return toVector(m_prism.Generated(m_moved.ModifiedShape(edge.edge)));
    }
    std::vector<TopoDS_Shape> imagesOf(const TopoDS_Shape& face) {
        auto images = toVector(m_cut->Modified(face));
        if (images.empty() && !m_cut->IsDeleted(face)) images.push_back(face);
        return images;
    }
};

constexpr double kCovered =
    1e-6; ///< share of the area that may be left open: what rounding makes of a border

/// The faces at the distance that was asked for.
Result<std::vector<TopoDS_Shape>> endFaces(EndedPrism& prism, const Reach& reach) {
    constexpr double kFit = 1e-4; // mm, of walls that stay short of a freeform face
    if (std::fabs(reach.gap) < kSamePoint) return reach.ends;
    std::vector<TopoDS_Shape> out;
    for (const TopoDS_Shape& end : reach.ends) {
        const TopoDS_Face face = TopoDS::Face(end);
        const bool back = prism.looksBack(extendedFace(face, std::fabs(reach.to)));
        const auto moved = offsetFace(face, back ? reach.gap : -reach.gap, kFit);
        if (!moved)
            return errorOf("extrude.gap", phrase("%1 is curved too closely to be kept at that distance. Take "
                                                 "a smaller one.",
                                                 marked(reach.said)));
        out.push_back(*moved);
    }
    return out;
}

Error noEnd(const Reach& reach, double open) {
    if (open == 1)
        return reach.faces ? behind(marked(reach.said))
                           : errorOf("extrude.no-end", "No wall lies in its way. Give it a length, or let it "
                                                       "go the other way.");
    const std::string share = formatNumber(std::max(100 * open, 0.1), open < 0.1 ? 1 : 0);
    return errorOf("extrude.no-end",
                   reach.faces
                       ? phrase("On %1 % of the drawing %2 does not end it, even if continued. Make the "
                                "drawing smaller, or choose another face.",
                                share, marked(reach.said))
                       : phrase("On %1 % of the drawing no wall lies in its way. Make the drawing "
                                "smaller, or give it a length.",
                                share));
}

} // namespace

Result<Reach> reachOf(const Arguments& args, ModelReader& model, const Outline& outline,
                      std::optional<ThingId> target) {
    Reach r;
    const auto slant = slantOf(args, model, outline.plane);
    if (!slant) return slant.error();
    r.slant = *slant;
    if (args.text("begin") != "the drawing") r.from = args.number("level");
    const std::string& end = args.text("end");
    if (end == "by") return byLength(args, r);
    if (end == "to the level of") return toLevel(args, model, outline.plane, r);
    const double sense = args.text("sense") == "backward" ? -1 : 1;
    if (end == "to the next wall" || end == "to the far side")
        return toBodies(args, model, outline.plane, r, target, sense);
    return toFaces(args, model, outline.plane, r, sense);
}

std::optional<Error> addSolid(const Profile& profile, const Plane& plane, const Reach& reach, int step,
                              TopoDS_Compound& solids, NamedTool& tool) {
    EndedPrism prism(profile, reach);
    if (reach.ends.empty()) {
        BRep_Builder().Add(solids, prism.whole());
        prism.nameAll(step, tool);
        return std::nullopt;
    }
    const auto faces = endFaces(prism, reach);
    if (!faces) return faces.error();
    std::vector<TopoDS_Shape> tools = *faces;
    auto open = prism.cut(tools);
    if (reach.faces && (!open || *open > kCovered)) { // they need not cover it: their surfaces go on
        const double by = std::fabs(reach.to) + length(boxAlong(profile.face, plane).size());
        for (TopoDS_Shape& f : tools) f = extendedFace(TopoDS::Face(f), by);
        open = prism.cut(tools);
    }
    if (!open) return errorOf("extrude.failed", "The drawing cannot be extruded up to there.");
    if (*open > kCovered) return noEnd(reach, prism.shareMissed(tools));
    prism.nameKept(step, solids, tool);
    return std::nullopt;
}

} // namespace gc
