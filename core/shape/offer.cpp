// The words for what a person points at: which references mean a face or an edge, rules first.

#include "core/shape/kernel.hpp"

#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>

#include <algorithm>

namespace gc {

namespace {

void offer(std::vector<std::string>& list, const std::string& text) {
    if (!text.empty() && std::find(list.begin(), list.end(), text) == list.end()) list.push_back(text);
}

/// The rule that takes in all that the same step made.
FaceRefPtr everythingWith(const NamedShape& s, const TopoDS_Shape& face) {
    const NameList& names = s.namesOf(face);
    if (names.empty()) return nullptr;
    FaceRef ref;
    ref.role = kEverything;
    ref.step = names.front()->step;
    return std::make_shared<FaceRef>(ref);
}

/// References for the primary name first, then for aliases.
std::vector<FaceRefPtr> referencesTo(const NamedShape& s, const TopoDS_Shape& face) {
    std::vector<FaceRefPtr> out;
    for (const NamePtr n : s.namesOf(face))
        if (auto ref = referenceTo(*n)) out.push_back(std::move(ref));
    return out;
}

std::vector<int> facesNamed(const NamedShape& s, const FaceRef& ref) {
    std::vector<int> out;
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (s.fitsFace(ref, s.faces(i))) out.push_back(i - 1);
    return out;
}

FaceRefPtr nextTo(const FaceRefPtr& a, const FaceRefPtr& b) {
    FaceRef ref;
    ref.kind = FaceRef::Kind::NextTo;
    ref.a = a;
    ref.b = b;
    return std::make_shared<FaceRef>(ref);
}

/// What stands beside a piece and not beside all the others of its name, from the earliest step on: what was
/// there first goes last.
std::vector<FaceRefPtr> tellingNeighbours(const NamedShape& s, const std::vector<int>& piece) {
    std::vector<std::pair<int, FaceRefPtr>> found;
    std::vector<std::string> known;
    for (const int item : piece)
        for (TopExp_Explorer x(s.faces(item + 1), TopAbs_EDGE); x.More(); x.Next())
            for (const TopoDS_Shape& near : s.facesOfEdge.FindFromKey(x.Current())) {
                if (std::binary_search(piece.begin(), piece.end(), s.faces.FindIndex(near) - 1)) continue;
                for (const NamePtr n : s.namesOf(near)) {
                    const auto ref = referenceTo(*n);
                    if (!ref || std::find(known.begin(), known.end(), n->text) != known.end()) continue;
                    known.push_back(n->text);
                    found.emplace_back(n->step, ref);
                }
            }
    std::stable_sort(found.begin(), found.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<FaceRefPtr> out;
    for (auto& [step, ref] : found) out.push_back(std::move(ref));
    return out;
}

constexpr std::size_t kMostNeighbours = 12; ///< that are tried for telling a piece: more tell nothing new

/// One piece of several of one name: by what it touches, else by its place.
FaceRefPtr pieceReference(const NamedShape& s, const FaceRefPtr& name,
                          const std::vector<std::vector<int>>& pieces, std::size_t mine) {
    auto beside = tellingNeighbours(s, pieces[mine]);
    if (beside.size() > kMostNeighbours) beside.resize(kMostNeighbours);
    const auto tells = [&](const FaceRefPtr& ref) { return facesNamed(s, *ref) == pieces[mine]; };
    for (const FaceRefPtr& one : beside)
        if (const auto ref = nextTo(name, one); tells(ref)) return ref;
    if (const auto order = s.orderOf(mine, pieces, false)) {
        FaceRef ref;
        ref.kind = FaceRef::Kind::Ordered;
        ref.a = name;
        ref.order = *order;
        return std::make_shared<FaceRef>(ref);
    }
    for (std::size_t i = 0; i < beside.size(); ++i)
        for (std::size_t k = i + 1; k < beside.size(); ++k)
            if (const auto ref = nextTo(nextTo(name, beside[i]), beside[k]); tells(ref)) return ref;
    return nullptr;
}

/// The reference that means the piece in which a face lies and no other.
FaceRefPtr ownFace(const NamedShape& s, int face) {
    FaceRefPtr told;
    for (const FaceRefPtr& name : referencesTo(s, s.faces(face + 1))) {
        const auto pieces = s.piecesOf(facesNamed(s, *name), false);
        if (pieces.size() == 1) return name;
        if (told) continue;
        for (std::size_t k = 0; k < pieces.size(); ++k)
            if (std::binary_search(pieces[k].begin(), pieces[k].end(), face))
                told = pieceReference(s, name, pieces, k);
    }
    return told;
}

/// The two faces beside an edge; nothing where there are not two.
std::optional<std::pair<TopoDS_Shape, TopoDS_Shape>> sidesOf(const NamedShape& s, const TopoDS_Edge& e) {
    const auto around = toVector(s.facesOfEdge.FindFromKey(e));
    if (around.size() != 2) return std::nullopt;
    return std::pair{around[0], around[1]};
}

EdgeRef meeting(const FaceRefPtr& a, const FaceRefPtr& b) {
    EdgeRef ref;
    ref.a = a;
    ref.b = b;
    return ref;
}

/// The names of the two faces that mean this edge and no other. Faces may have several names: of many like
/// holes "bore" means all, "copy 3 of bore" one.
std::optional<EdgeRef> pairOfItsOwn(const NamedShape& s, const TopoDS_Shape& f, const TopoDS_Shape& g) {
    for (const NamePtr a : s.namesOf(f))
        for (const NamePtr b : s.namesOf(g)) {
            if (s.edgesBetween(a, b).size() != 1) continue;
            const auto first = referenceTo(*a), second = referenceTo(*b);
            if (first && second) return meeting(first, second);
        }
    return std::nullopt;
}

/// Edges of one pair are told apart by a third face at one of their ends.
std::vector<EdgeRef> withThirdFace(const Body& body, const TopoDS_Edge& e, const EdgeRef& meet,
                                   const std::pair<TopoDS_Shape, TopoDS_Shape>& sides) {
    const NamedShape& s = body.shape();
    std::vector<EdgeRef> out;
    for (const TopoDS_Vertex& end : {TopExp::FirstVertex(e), TopExp::LastVertex(e)})
        for (const TopoDS_Shape& f : s.facesOfVertex.FindFromKey(end)) {
            if (f.IsSame(sides.first) || f.IsSame(sides.second)) continue;
            for (const FaceRefPtr& third : referencesTo(s, f)) {
                EdgeRef at = meet;
                at.at = third;
                const auto one = resolveEdges(body, at);
                if (one && one->pieces == 1) {
                    out.push_back(at);
                    break;
                }
            }
        }
    return out;
}

/// One of several edges of a pair, by its place.
std::optional<EdgeRef> inPlace(const NamedShape& s, int edge, const EdgeRef& meet) {
    const auto all = [&] {
        std::vector<int> out;
        for (int i = 1; i <= s.edges.Extent(); ++i) {
            const TopoDS_Edge e = TopoDS::Edge(s.edges(i));
            const auto sides = s.isRealEdge(e) ? sidesOf(s, e) : std::nullopt;
            if (sides && ((s.fitsFace(*meet.a, sides->first) && s.fitsFace(*meet.b, sides->second)) ||
                          (s.fitsFace(*meet.b, sides->first) && s.fitsFace(*meet.a, sides->second))))
                out.push_back(i - 1);
        }
        return out;
    }();
    const auto pieces = s.piecesOf(all, true);
    for (std::size_t k = 0; k < pieces.size(); ++k) {
        if (!std::binary_search(pieces[k].begin(), pieces[k].end(), edge)) continue;
        EdgeRef one = meet;
        if (pieces.size() == 1) return one;
        one.order = s.orderOf(k, pieces, true);
        if (one.order) return one;
    }
    return std::nullopt;
}

/// By pieces of the two faces, each told apart from its likes, and by their order where that leaves several.
std::optional<EdgeRef> betweenPieces(const NamedShape& s, int edge,
                                     const std::pair<TopoDS_Shape, TopoDS_Shape>& sides) {
    const auto a = ownFace(s, s.faces.FindIndex(sides.first) - 1);
    const auto b = ownFace(s, s.faces.FindIndex(sides.second) - 1);
    return a && b ? inPlace(s, edge, meeting(a, b)) : std::nullopt;
}

} // namespace

std::vector<std::string> referencesForFace(const Body& body, int face) {
    const NamedShape& s = body.shape();
    std::vector<std::string> out;
    if (face < 0 || face >= s.faces.Extent()) return out;
    for (const FaceRefPtr& ref : referencesTo(s, s.faces(face + 1))) offer(out, toText(*ref));
    offer(out, ownReferenceOfFace(body, face));
    if (const auto all = everythingWith(s, s.faces(face + 1))) offer(out, toText(*all));
    return out;
}

std::string ownReferenceOfFace(const Body& body, int face) {
    const auto own = ownFace(body.shape(), face);
    return own ? toText(*own) : std::string();
}

std::vector<std::string> referencesForEdge(const Body& body, int edge) {
    const NamedShape& s = body.shape();
    std::vector<std::string> out;
    if (edge < 0 || edge >= s.edges.Extent()) return out;
    const TopoDS_Edge e = TopoDS::Edge(s.edges(edge + 1));
    const auto sides = sidesOf(s, e);
    if (!sides) return out;
    const auto a = referencesTo(s, sides->first), b = referencesTo(s, sides->second);
    EdgeRef ref;
    // Rules first: the rim of the face that a shell opened takes in this edge and its partner.
    ref.kind = EdgeRef::Kind::RimOf;
    for (const auto* side : {&a, &b})
        for (const FaceRefPtr& f : *side)
            if (f->kind == FaceRef::Kind::Derived && f->role == "rim of") {
                ref.a = f->a;
                offer(out, toText(ref));
            }
    if (!a.empty() && !b.empty()) {
        const EdgeRef meet = meeting(a.front(), b.front());
        const bool several =
            s.edgesBetween(s.namesOf(sides->first).front(), s.namesOf(sides->second).front()).size() > 1;
        if (several)
            for (const EdgeRef& at : withThirdFace(body, e, meet, *sides)) offer(out, toText(at));
        offer(out, toText(meet));
        if (several) offer(out, ownReferenceOfEdge(body, edge));
    }
    for (const auto* side : {&a, &b})
        if (!side->empty() && side->front()->kind == FaceRef::Kind::Role) {
            ref.kind = EdgeRef::Kind::AllEdgesOf;
            ref.a = side->front();
            offer(out, toText(ref));
        }
    for (const TopoDS_Shape& side : {sides->first, sides->second})
        if (const auto all = everythingWith(s, side)) {
            ref.kind = EdgeRef::Kind::AllEdgesOf;
            ref.a = all;
            offer(out, toText(ref));
        }
    return out;
}

std::string ownReferenceOfEdge(const Body& body, int edge) {
    const NamedShape& s = body.shape();
    const TopoDS_Edge e = TopoDS::Edge(s.edges(edge + 1));
    const auto sides = sidesOf(s, e);
    if (!sides) return {};
    if (const auto own = pairOfItsOwn(s, sides->first, sides->second)) return toText(*own);
    const auto a = referencesTo(s, sides->first), b = referencesTo(s, sides->second);
    if (a.empty() || b.empty()) return {};
    for (const EdgeRef& at : withThirdFace(body, e, meeting(a.front(), b.front()), *sides)) {
        const auto all = resolveEdges(body, at);
        if (all && all->items.size() == 1) return toText(at);
    }
    if (const auto pieces = betweenPieces(s, edge, *sides)) return toText(*pieces);
    if (const auto placed = inPlace(s, edge, meeting(a.front(), b.front()))) return toText(*placed);
    return {};
}

bool isMadeBy(const Body& body, bool edge, int item, int step) {
    const NamedShape& s = body.shape();
    if (step == 0 || item < 0 || item >= (edge ? s.edges : s.faces).Extent()) return false;
    std::vector<TopoDS_Shape> faces;
    if (!edge)
        faces.push_back(s.faces(item + 1));
    else if (const auto* beside = s.facesOfEdge.Seek(s.edges(item + 1)))
        faces = toVector(*beside);
    return std::any_of(faces.begin(), faces.end(), [&](const TopoDS_Shape& f) {
        const NameList& names = s.namesOf(f);
        return !names.empty() &&
               std::all_of(names.begin(), names.end(), [&](NamePtr n) { return n->step == step; });
    });
}

} // namespace gc
