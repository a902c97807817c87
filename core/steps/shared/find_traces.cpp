#include "core/steps/shared/find_traces.hpp"

#include "core/base/tolerance.hpp"
#include "core/document/trace_source.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/traced_edge.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBndLib.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GeomAPI_IntCS.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <limits>
#include <set>

namespace gc {

namespace {

constexpr double kOnEdge = 1e-4; ///< mm: how near to an edge of the face a cut through it ends

/// Does a shape reach to both sides of the plane?
bool straddles(const TopoDS_Shape& shape, const Plane& plane) {
    Bnd_Box box;
    BRepBndLib::Add(shape, box);
    if (box.IsVoid()) return false;
    double x[2], y[2], z[2], low = 1e300, high = -1e300;
    box.Get(x[0], y[0], z[0], x[1], y[1], z[1]);
    for (int k = 0; k < 8; ++k) {
        const double h = plane.before({x[k & 1], y[(k >> 1) & 1], z[k >> 2]});
        low = std::min(low, h);
        high = std::max(high, h);
    }
    return low <= 1e-7 && high >= -1e-7;
}

/// A piece of a cut through a face.
struct CutPiece {
    Trace trace;
    TopoDS_Edge edge;
    TopoDS_Face face;
    /// The words for what lies beyond its two ends, the lesser text first; none where it closes on itself or
    /// runs out at a face without words. See findEnds.
    std::vector<std::string> ends{};
};

/// The words for the face on the other side of the edge on which a cut ends.
std::string beyond(const NamedShape& s, const TopoDS_Face& face, const TopoDS_Vertex& end) {
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
        Bnd_Box box;
        BRepBndLib::Add(x.Current(), box);
        box.Enlarge(kOnEdge);
        if (box.IsOut(BRep_Tool::Pnt(end))) continue;
        BRepExtrema_DistShapeShape far(end, x.Current());
        if (!far.IsDone() || far.Value() > kOnEdge) continue;
        for (const TopoDS_Shape& other : s.facesOfEdge.FindFromKey(x.Current()))
            if (!other.IsSame(face))
                if (std::string words = s.wordsFor(other); !words.empty()) return words;
    }
    return {};
}

void findEnds(const NamedShape& s, CutPiece& piece) {
    TopoDS_Vertex first, last;
    TopExp::Vertices(piece.edge, first, last);
    if (first.IsNull() || last.IsNull() || first.IsSame(last)) return;
    piece.ends = {beyond(s, piece.face, first), beyond(s, piece.face, last)};
    std::sort(piece.ends.begin(), piece.ends.end());
    if (piece.ends[0].empty()) piece.ends.clear();
}

std::vector<CutPiece> cuts(const TopoDS_Face& face, const Plane& plane) {
    std::vector<CutPiece> out;
    if (!straddles(face, plane)) return out;
    for (const TopoDS_Edge& edge : cutThrough(face, plane))
        out.push_back({projected(edge, plane), edge, face});
    return out;
}

std::vector<Trace> meetingsWith(const TopoDS_Edge& edge, const Plane& plane) {
    std::vector<Trace> out;
    if (!straddles(edge, plane)) return out;
    const BRepAdaptor_Curve curve(edge);
    double from = 0, to = 0;
    const Handle(Geom_Curve) whole = BRep_Tool::Curve(edge, from, to);
    if (whole.IsNull()) return out;
    GeomAPI_IntCS meet(whole, kernelPlane(plane));
    for (int i = 1; meet.IsDone() && i <= meet.NbPoints(); ++i) {
        double u = 0, v = 0, t = 0;
        meet.Parameters(i, u, v, t);
        if (whole->IsPeriodic())
            while (t < from - 1e-9) t += whole->Period();
        if (t < from - 1e-9 || t > to + 1e-9) continue;
        const Vec2 at = plane.foot(toVec(meet.Point(i)));
        const bool known = std::any_of(out.begin(), out.end(), [&](const Trace& other) {
            return length(other.at[0] - at) < kKernelPoint;
        });
        if (!known) out.push_back({{}, 0, 1, StrokeKind::Point, {at}, {}});
    }
    return out;
}

std::vector<Trace> meetingsWith(const std::vector<TopoDS_Edge>& edges, const Plane& plane) {
    std::vector<Trace> out;
    for (const TopoDS_Edge& e : edges)
        for (Trace& t : meetingsWith(e, plane)) out.push_back(std::move(t));
    return out;
}

std::vector<Trace> projected(const std::vector<TopoDS_Edge>& edges, const Plane& plane) {
    std::vector<Trace> out;
    for (const TopoDS_Edge& e : edges) out.push_back(projected(e, plane));
    return out;
}

/// Numbers what one source leaves, from left to right, then upwards.
void number(std::vector<Trace>& list, const std::string& source) {
    const auto middle = [](const Trace& t) {
        Vec2 sum;
        for (const Vec2 p : t.at) sum = sum + p;
        return sum * (1.0 / static_cast<double>(t.at.size()));
    };
    std::sort(list.begin(), list.end(), [&](const Trace& s, const Trace& t) {
        const Vec2 a = middle(s), b = middle(t);
        return std::fabs(a.x - b.x) > kKernelPoint ? a.x < b.x : a.y < b.y;
    });
    for (std::size_t i = 0; i < list.size(); ++i) {
        list[i].source = source;
        list[i].piece = static_cast<int>(i);
        list[i].pieces = static_cast<int>(list.size());
    }
}

/// \param leastForEnds how many pieces there have to be for their ends to be looked for: it takes time
Result<std::vector<CutPiece>> cutsOf(const std::string& reference, const Plane& plane, ModelReader& model,
                                     std::size_t leastForEnds) {
    const auto found = findFaces({reference}, model);
    if (!found) return found.error();
    std::vector<CutPiece> out;
    const NamedShape& s = found->body.shape();
    for (const int item : found->items) {
        const auto some = cuts(TopoDS::Face(s.faces(item + 1)), plane);
        out.insert(out.end(), some.begin(), some.end());
    }
    if (out.size() >= leastForEnds)
        for (CutPiece& piece : out) findEnds(s, piece);
    return out;
}

/// The pieces that a source means.
Result<std::vector<Trace>> cutTraces(const TraceSource& source, const Plane& plane, ModelReader& model) {
    const bool told = !source.ends.empty();
    const auto pieces =
        cutsOf(source.reference, plane, model, told ? 1 : std::numeric_limits<std::size_t>::max());
    if (!pieces) return pieces.error();
    std::vector<Trace> out;
    for (const CutPiece& p : *pieces)
        if (!told || source.ends == p.ends) out.push_back(p.trace);
    if (out.empty() && !pieces->empty()) // one that is left may be another than was meant
        return errorOf("trace.ends",
                       phrase("No piece of the cut through %1 ends between %2 and %3 any more. Pick it "
                              "anew on the table.",
                              marked(source.reference), marked(source.ends[0]), marked(source.ends[1])));
    return out;
}

/// Every piece, each by the faces at its ends where these tell it from the others, else by its number.
std::vector<Trace> cutsToOffer(const std::string& reference, const Plane& plane, ModelReader& model) {
    const auto pieces = cutsOf(reference, plane, model, 2);
    if (!pieces) return {};
    std::vector<Trace> out, numbered;
    const auto alike = [&](const CutPiece& p) {
        return std::count_if(pieces->begin(), pieces->end(),
                             [&](const CutPiece& other) { return other.ends == p.ends; });
    };
    for (const CutPiece& p : *pieces) numbered.push_back(p.trace);
    number(numbered, toText(TraceSource{TraceSource::Kind::Cut, reference, {}}));
    if (pieces->size() < 2) return numbered;
    for (const CutPiece& p : *pieces) {
        if (p.ends.empty() || alike(p) > 1) continue;
        out.push_back(p.trace);
        out.back().source = toText(TraceSource{TraceSource::Kind::Cut, reference, p.ends});
        std::erase_if(numbered, [&](const Trace& t) { return t.at == p.trace.at; });
    }
    out.insert(out.end(), numbered.begin(), numbered.end());
    return out;
}

} // namespace

Result<std::vector<Trace>> tracesOf(const std::string& text, const Plane& plane, ModelReader& model) {
    const auto source = parseTraceSource(text);
    if (!source)
        return errorOf("trace.source", phrase("\"%1\" says nothing that a drawing could follow.", text));
    return guarded("trace.failed", "What \"" + text + "\" leaves in the plane cannot be worked out.",
                   [&]() -> Result<std::vector<Trace>> {
                       std::vector<Trace> out;
                       if (source->kind == TraceSource::Kind::Cut) {
                           auto some = cutTraces(*source, plane, model);
                           if (!some) return some.error();
                           out = std::move(*some);
                       } else {
                           const auto edges = findCurvePieces(source->reference, model);
                           if (!edges) return edges.error();
                           out = source->kind == TraceSource::Kind::Meeting ? meetingsWith(*edges, plane)
                                                                            : projected(*edges, plane);
                       }
                       if (out.empty())
                           return errorOf("trace.nothing",
                                          phrase("%1 does not reach the plane.", marked(source->reference)));
                       number(out, text);
                       return out;
                   });
}

std::vector<Trace> tracesFor(const Drawing& drawing, const Plane& plane, ModelReader& model,
                             std::vector<Message>& faults) {
    std::set<std::string> sources;
    for (const Relation& r : drawing.relations)
        if (!r.source.empty()) sources.insert(r.source);
    std::vector<Trace> out;
    for (const std::string& s : sources) {
        auto some = tracesOf(s, plane, model);
        if (some)
            out.insert(out.end(), some->begin(), some->end());
        else
            faults.push_back(some.error().sentence);
    }
    return out;
}

std::vector<Trace> allTraces(const Plane& plane, ModelReader& model, const std::vector<ThingId>& drawings,
                             const std::vector<ThingId>& curves) {
    std::vector<Trace> out;
    std::set<std::string> cut;
    const auto take = [&](TraceSource::Kind kind, const std::string& reference, const auto& find) {
        const std::string source = toText(TraceSource{kind, reference, {}});
        auto some = guarded("trace.failed", "", [&]() -> Result<std::vector<Trace>> { return find(); });
        if (!some) return; // it cannot be followed; the rest can
        number(*some, source);
        out.insert(out.end(), some->begin(), some->end());
    };
    for (const ThingId id : drawings) {
        const Outline* drawn = model.outline(id);
        if (!drawn || !drawn->drawn()) continue;
        for (const auto& [stroke, pieces] : drawn->strokes) {
            if (drawn->helpers.count(stroke)) continue;
            const std::string own =
                "stroke " + std::to_string(stroke) + " of step " + std::to_string(id.step);
            const auto edge = findCurve(own, model);
            if (!edge) continue; // it was cut into pieces, which are there themselves
            take(TraceSource::Kind::Projection, own, [&] { return std::vector{projected(*edge, plane)}; });
            take(TraceSource::Kind::Meeting, own, [&] { return meetingsWith(*edge, plane); });
        }
    }
    for (const ThingId id : curves) {
        const std::string own = "curve of step " + std::to_string(id.step);
        const auto edges = findCurvePieces(own, model);
        if (!edges) continue;
        take(TraceSource::Kind::Projection, own, [&] { return projected(*edges, plane); });
        take(TraceSource::Kind::Meeting, own, [&] { return meetingsWith(*edges, plane); });
    }
    for (const ThingId id : model.bodies()) {
        const Body& body = *model.body(id);
        const NamedShape& s = body.shape();
        for (int i = 1; i <= s.edges.Extent(); ++i) {
            const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
            if (!s.isRealEdge(edge)) continue;
            const std::string own = ownReferenceOfEdge(body, i - 1);
            if (own.empty()) continue;
            take(TraceSource::Kind::Projection, own, [&] { return std::vector{projected(edge, plane)}; });
            take(TraceSource::Kind::Meeting, own, [&] { return meetingsWith(edge, plane); });
        }
        for (int i = 1; i <= s.faces.Extent(); ++i) {
            if (!straddles(s.faces(i), plane)) continue;
            const std::string words = s.wordsFor(s.faces(i));
            if (words.empty() || !cut.insert(words).second) continue; // faces of one name are cut together
            const auto some = guarded("trace.failed", "", [&]() -> Result<std::vector<Trace>> {
                return cutsToOffer(words, plane, model);
            });
            if (some) out.insert(out.end(), some->begin(), some->end());
        }
    }
    return out;
}

} // namespace gc
