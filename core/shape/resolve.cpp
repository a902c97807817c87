// References onto a body: which faces and edges a sentence means, and which sentence means a picked item.

#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepClass_FaceExplorer.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomLProp_SLProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Dir.hxx>

#include <algorithm>
#include <functional>
#include <numeric>
#include <set>

namespace gc {

namespace {

std::vector<int> facesFitting(const NamedShape& s, const FaceRef& ref) {
    std::vector<int> out;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        if (s.fitsFace(ref, s.faces(i))) out.push_back(i - 1);
    }
    return out;
}

/// \param cause may be empty
Error lost(bool edge, const std::string& reference, const Message& cause) {
    const std::string about = marked(reference);
    const char* plain = edge ? "There is no edge %1 any more." : "There is no %1 any more.";
    const char* why = edge ? "There is no edge %1 any more: %2." : "There is no %1 any more: %2.";
    Error e = errorOf("reference.lost", cause.empty() ? phrase(plain, about) : phrase(why, about, cause));
    e.culprits = {reference};
    return e;
}

/// The outward normal of a face at a point of one of its edges.
gp_Vec normalAt(const TopoDS_Face& face, const TopoDS_Edge& edge, double t) {
    double a = 0, b = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, a, b);
    if (curve.IsNull()) return {};
    const gp_Pnt2d uv = curve->Value(t);
    GeomLProp_SLProps props(BRep_Tool::Surface(face), uv.X(), uv.Y(), 1, 1e-9);
    if (!props.IsNormalDefined()) return {};
    gp_Vec n(props.Normal());
    return face.Orientation() == TopAbs_REVERSED ? -n : n;
}

enum class Corner { Smooth, Outside, Inside };

/// Is the body convex or hollow across this edge? By the side on which the second face's normal lies.
Corner cornerOf(const NamedShape& s, const TopoDS_Edge& edge) {
    const auto around = toVector(s.facesOfEdge.FindFromKey(edge));
    if (around.size() != 2) return Corner::Smooth;
    const TopoDS_Face f = TopoDS::Face(around[0]), g = TopoDS::Face(around[1]);
    const BRepAdaptor_Curve curve(edge);
    const double t = 0.5 * (curve.FirstParameter() + curve.LastParameter());
    gp_Pnt p;
    gp_Vec tangent;
    curve.D1(t, p, tangent);
    const gp_Vec n1 = normalAt(f, edge, t), n2 = normalAt(g, edge, t);
    if (n1.Crossed(n2).Magnitude() < 0.02) return Corner::Smooth;
    // Along the edge as f runs it, f's material side is n1 x tangent; the edge is convex when g's normal
    // points away from it.
    for (TopExp_Explorer x(f.Oriented(TopAbs_FORWARD), TopAbs_EDGE); x.More(); x.Next())
        if (x.Current().IsSame(edge)) {
            const bool against =
                (x.Current().Orientation() == TopAbs_REVERSED) != (f.Orientation() == TopAbs_REVERSED);
            if (against) tangent.Reverse();
            break;
        }
    return n1.Crossed(tangent).Dot(n2) < 0 ? Corner::Outside : Corner::Inside;
}

std::vector<int> edgesWhere(const NamedShape& s, const std::function<bool(const TopoDS_Edge&)>& wanted) {
    std::vector<int> out;
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge e = TopoDS::Edge(s.edges(i));
        if (s.isRealEdge(e) && wanted(e)) out.push_back(i - 1);
    }
    return out;
}

bool meets(const NamedShape& s, const TopoDS_Edge& e, const EdgeRef& ref) {
    const auto around = toVector(s.facesOfEdge.FindFromKey(e));
    if (around.size() != 2) return false;
    const bool pair = (s.fitsFace(*ref.a, around[0]) && s.fitsFace(*ref.b, around[1])) ||
                      (s.fitsFace(*ref.b, around[0]) && s.fitsFace(*ref.a, around[1]));
    if (!pair || !ref.at) return pair;
    TopoDS_Vertex ends[2];
    TopExp::Vertices(e, ends[0], ends[1]);
    for (const TopoDS_Vertex& v : ends)
        for (const TopoDS_Shape& f : s.facesOfVertex.FindFromKey(v))
            if (!f.IsSame(around[0]) && !f.IsSame(around[1]) && s.fitsFace(*ref.at, f)) return true;
    return false;
}

/// Edges around the faces: of each face's outer loop, or of all its loops.
std::vector<int> edgesAround(const NamedShape& s, const std::vector<int>& faces, bool outerOnly) {
    TopTools_IndexedMapOfShape wanted;
    for (const int f : faces) {
        const TopoDS_Face face = TopoDS::Face(s.faces(f + 1));
        const TopoDS_Shape from = outerOnly ? TopoDS_Shape(BRepTools::OuterWire(face)) : TopoDS_Shape(face);
        TopExp::MapShapes(from, TopAbs_EDGE, wanted);
    }
    return edgesWhere(s, [&](const TopoDS_Edge& e) { return wanted.Contains(e); });
}

/// The edges of a rim that a shell left: on both sides of the wall, but not of what was cut into it later.
std::vector<int> edgesOfRim(const NamedShape& s, const FaceRef& rim) {
    const auto faces = facesFitting(s, rim);
    auto edges = edgesAround(s, faces, false);
    int left = 0; // the step that left it
    for (const int f : faces)
        for (const NamePtr n : s.namesOf(s.faces(f + 1)))
            if (fits(rim, *n)) left = std::max(left, n->step);
    std::erase_if(edges, [&](int e) {
        const auto around = toVector(s.facesOfEdge.FindFromKey(s.edges(e + 1)));
        return std::any_of(around.begin(), around.end(), [&](const TopoDS_Shape& f) {
            const NameList& names = s.namesOf(f);
            return std::all_of(names.begin(), names.end(),
                               [&](NamePtr n) { return n->steps.front() > left; });
        });
    });
    return edges;
}

std::vector<int> edgesAroundRef(const NamedShape& s, const FaceRef& ref, bool outerOnly) {
    if (const auto faces = facesFitting(s, ref); !faces.empty()) return edgesAround(s, faces, outerOnly);
    // The face was opened by a shell: what is left of it is its rim.
    const FaceRef rim = derivedFrom("rim of", std::make_shared<FaceRef>(ref));
    return outerOnly ? edgesOfRim(s, rim) : edgesAround(s, facesFitting(s, rim), false);
}

int originOf(const NamedShape& s, const TopoDS_Shape& face) {
    const NameList& names = s.namesOf(face);
    return names.empty() ? 0 : names.front()->step;
}

std::vector<int> edgesOfSteps(const NamedShape& s, const EdgeRef& ref) {
    return edgesWhere(s, [&](const TopoDS_Edge& e) {
        const auto around = toVector(s.facesOfEdge.FindFromKey(e));
        if (around.size() != 2) return false;
        const int a = originOf(s, around[0]), b = originOf(s, around[1]);
        if (ref.kind == EdgeRef::Kind::Between)
            return (a == ref.step && b == ref.otherStep) || (b == ref.step && a == ref.otherStep);
        if (a != ref.step || b != ref.step) return false;
        const Corner corner = cornerOf(s, e);
        return ref.kind == EdgeRef::Kind::Corners          ? corner != Corner::Smooth
               : ref.kind == EdgeRef::Kind::OutsideCorners ? corner == Corner::Outside
                                                           : corner == Corner::Inside;
    });
}

std::string missingFace(const NamedShape& s, const FaceRefPtr& ref) {
    return ref && facesFitting(s, *ref).empty() ? toText(*ref) : std::string();
}

/// "three", for the start of a sentence.
std::string numberWord(std::size_t n) {
    constexpr const char* kWords[] = {"No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight"};
    return n < std::size(kWords) ? kWords[n] : std::to_string(n);
}

/// Several are as good: only a person can say which is meant.
Error asked(const std::string& about, const Message& sentence, std::vector<std::string> answers) {
    Error e = errorOf("reference.tie", sentence);
    e.culprits = {about};
    e.question = Question{about, std::move(answers)};
    return e;
}

std::vector<std::string> ownReferences(const Body& body, const std::vector<std::vector<int>>& pieces,
                                       bool edges) {
    std::vector<std::string> out;
    for (const auto& piece : pieces) {
        std::string own =
            edges ? ownReferenceOfEdge(body, piece.front()) : ownReferenceOfFace(body, piece.front());
        if (!own.empty()) out.push_back(std::move(own));
    }
    return out;
}

Error whichPiece(const Body& body, const std::string& about, const std::string& plain,
                 const std::vector<std::vector<int>>& pieces, bool edges) {
    return asked(about,
                 phrase(edges ? "%1 pieces match the edge %2. Which one?" : "%1 pieces match %2. Which one?",
                        numberWord(pieces.size()), plain),
                 ownReferences(body, pieces, edges));
}

/// One piece is left. It is the one that is meant, without a word, where the step that parted it is gone from
/// the body; where that step is still there, the piece that was meant may be the one that went.
bool wholeAgain(const NamedShape& s, std::vector<int> told, const std::vector<int>& plain) {
    std::erase_if(told, [&](int step) { return std::binary_search(plain.begin(), plain.end(), step); });
    return std::any_of(told.begin(), told.end(),
                       [&](int step) { return !std::binary_search(s.steps.begin(), s.steps.end(), step); });
}

Error onlyPiece(const Body& body, const std::string& about, const std::string& plain,
                const std::vector<std::vector<int>>& pieces, bool edges) {
    return asked(
        about,
        phrase(edges ? "Only one piece of the edge %1 is left, and it may be another than was meant. Is "
                       "it the one?"
                     : "Only one piece of %1 is left, and it may be another than was meant. Is it the one?",
               plain),
        ownReferences(body, pieces, edges));
}

constexpr std::size_t kMostAnswers = 8;

/// Faces that stand in for one that was said by its place: the other copies, the other faces of the file, the
/// nearest first.
std::vector<int> standIns(const NamedShape& s, const FaceRef& ref) {
    std::vector<std::pair<double, int>> found;
    for (int i = 1; i <= s.faces.Extent(); ++i)
        for (const NamePtr n : s.namesOf(s.faces(i)))
            if (const auto far = distanceOfPlaces(ref, *n)) {
                found.emplace_back(*far, i - 1);
                break;
            }
    std::sort(found.begin(), found.end());
    std::vector<int> out;
    for (const auto& [far, item] : found) out.push_back(item);
    return out;
}

std::vector<std::vector<int>> each(std::vector<int> items) {
    if (items.size() > kMostAnswers) items.resize(kMostAnswers);
    std::vector<std::vector<int>> out;
    for (const int i : items) out.push_back({i});
    return out;
}

/// Strictly nothing fits a reference to a face.
Result<Resolution> facesOtherwise(const Body& body, const FaceRef& ref) {
    const NamedShape& s = body.shape();
    const FaceRefPtr plain = bare(std::make_shared<FaceRef>(ref));
    const auto items = facesFitting(s, *plain);
    const auto pieces = s.piecesOf(items, false);
    if (pieces.size() == 1 && wholeAgain(s, stepsIn(ref), stepsIn(*plain))) return Resolution{items, 1, {}};
    if (pieces.size() == 1) return onlyPiece(body, toText(ref), marked(toText(*plain)), pieces, false);
    if (!pieces.empty()) return whichPiece(body, toText(ref), marked(toText(*plain)), pieces, false);
    if (const auto others = standIns(s, *plain); !others.empty())
        return asked(
            toText(ref),
            phrase("There is no %1 any more, and others are like it. Which one?", marked(toText(*plain))),
            ownReferences(body, each(others), false));
    return lost(false, toText(ref), {});
}

std::vector<int> edgesMeeting(const NamedShape& s, const EdgeRef& ref) {
    return edgesWhere(s, [&](const TopoDS_Edge& e) { return meets(s, e, ref); });
}

/// Strictly nothing fits a reference to where two faces meet.
Result<Resolution> meetingOtherwise(const Body& body, const EdgeRef& ref) {
    const NamedShape& s = body.shape();
    const EdgeRef plain = bare(ref);
    const auto items = edgesMeeting(s, plain);
    const auto pieces = s.piecesOf(items, true);
    if (pieces.size() == 1 && wholeAgain(s, stepsIn(ref), stepsIn(plain))) return Resolution{items, 1, {}};
    if (pieces.size() == 1) return onlyPiece(body, toText(ref), marked(toText(plain)), pieces, true);
    if (!pieces.empty()) return whichPiece(body, toText(ref), marked(toText(plain)), pieces, true);
    // One of the two may be a face that others stand in for: what is asked about is the face.
    std::vector<int> near;
    for (const auto& both : {std::pair{plain.a, plain.b}, {plain.b, plain.a}}) {
        const auto &gone = both.first, &there = both.second;
        if (!facesFitting(s, *gone).empty()) continue;
        const auto others = standIns(s, *gone); // the likeliest first
        for (const int other : others) {
            const auto beside = edgesWhere(s, [&](const TopoDS_Edge& e) {
                const auto around = toVector(s.facesOfEdge.FindFromKey(e));
                if (around.size() != 2) return false;
                for (const std::size_t k : {0U, 1U})
                    if (s.faces.FindIndex(around[k]) - 1 == other && s.fitsFace(*there, around[1 - k]))
                        return true;
                return false;
            });
            near.insert(near.end(), beside.begin(), beside.end());
        }
    }
    if (!near.empty())
        return asked(
            toText(ref),
            phrase("There is no edge %1 any more, and others are like it. Which one?", marked(toText(plain))),
            ownReferences(body, each(near), true));
    return lost(true, toText(ref), {});
}

/// Copies are several on purpose.
bool manyOnPurpose(const NamedShape& s, const std::vector<int>& faces) {
    return std::any_of(faces.begin(), faces.end(), [&](int f) {
        const NameList& names = s.namesOf(s.faces(f + 1));
        return std::any_of(names.begin(), names.end(), [](NamePtr n) {
            const auto ref = referenceTo(*n);
            return ref && ref->kind == FaceRef::Kind::Copy;
        });
    });
}

Resolution resolved(const NamedShape& s, std::vector<int> items, bool edges, const Message& words) {
    Resolution r;
    const auto pieces = s.piecesOf(items, edges);
    r.pieces = static_cast<int>(pieces.size());
    if (r.pieces > 1 && !words.empty())
        r.note = phrase("%1 is %2 pieces; all are used.", words, std::to_string(r.pieces));
    r.items = std::move(items);
    return r;
}

} // namespace

Result<Resolution> resolveFaces(const Body& body, const FaceRef& ref) {
    const NamedShape& s = body.shape();
    auto items = facesFitting(s, ref);
    if (items.empty()) return facesOtherwise(body, ref);
    const bool rule = ref.kind == FaceRef::Kind::Role && ref.role == kEverything;
    const bool noted = !rule && !manyOnPurpose(s, items);
    return resolved(s, std::move(items), false, noted ? Message(marked(toText(ref))) : Message());
}

Result<Resolution> resolveEdges(const Body& body, const EdgeRef& ref) {
    const NamedShape& s = body.shape();
    std::vector<int> items;
    Message noted;
    switch (ref.kind) {
    case EdgeRef::Kind::Meets: {
        items = edgesMeeting(s, ref);
        if (ref.order && !items.empty()) {
            const auto pieces = s.piecesOf(items, true);
            const auto one = s.pieceAt(*ref.order, pieces, true);
            const std::string plain = marked(toText(bare(ref)));
            if (!one && pieces.size() == 1 && !wholeAgain(s, stepsIn(ref), stepsIn(bare(ref))))
                return onlyPiece(body, toText(ref), plain, pieces, true);
            if (!one && pieces.size() > 1) return whichPiece(body, toText(ref), plain, pieces, true);
            if (one) items = *one;
        }
        const auto several = [&](const FaceRefPtr& f) { return manyOnPurpose(s, facesFitting(s, *f)); };
        if (items.size() > 1 && !several(ref.a) && !several(ref.b))
            noted = phrase("The edge %1", marked(toText(ref)));
        break;
    }
    case EdgeRef::Kind::RimOf:
        items = edgesAroundRef(s, *ref.a, true);
        break;
    case EdgeRef::Kind::AllEdgesOf:
        items = edgesAroundRef(s, *ref.a, false);
        break;
    default:
        items = edgesOfSteps(s, ref);
        break;
    }
    if (!items.empty()) return resolved(s, std::move(items), true, noted);
    if (ref.kind == EdgeRef::Kind::Meets) {
        auto otherwise = meetingOtherwise(body, ref);
        if (otherwise || otherwise.error().question) return otherwise;
    }
    std::string missing = missingFace(s, ref.a);
    if (missing.empty()) missing = missingFace(s, ref.b);
    const bool pair = ref.kind == EdgeRef::Kind::Meets;
    Message cause;
    if (!missing.empty())
        cause = phrase("no face is %1 here", marked(missing));
    else if (pair)
        cause = "the two faces no longer meet";
    Error e = lost(pair, toText(ref), cause);
    if (!missing.empty()) e.culprits.push_back(missing);
    return e;
}

bool restsOnStep(const Body& body, int step) {
    const std::vector<int>& steps = body.shape().steps;
    return std::binary_search(steps.begin(), steps.end(), step);
}

int faceCount(const Body& body) {
    return body.empty() ? 0 : body.shape().faces.Extent();
}

std::size_t bytesOf(const Body& body) {
    return body.empty() ? 0 : body.shape().bytes;
}

} // namespace gc
