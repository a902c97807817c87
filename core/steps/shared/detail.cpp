#include "core/steps/shared/detail.hpp"

#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

#include <algorithm>
#include <set>

namespace gc {

namespace {

/// A round or a chamfer of a face that is one of them already.
bool belongsTo(const NamedShape& s, const TopoDS_Shape& face, const std::set<NamePtr>& names) {
    for (const NamePtr n : s.namesOf(face))
        if (n->parents.size() == 2 && (n->role == "fillet" || n->role == "chamfer" || n->role == "blend"))
            for (const NamePtr p : n->parents)
                if (names.count(p)) return true;
    return false;
}

Error atBorder(const NamedShape& s, const TopoDS_Edge& edge, const TopoDS_Shape& host) {
    Error e = errorOf("repeat.border",
                      "The detail does not stand within one face: it runs out at the face's border, or what "
                      "it ends at is not picked with it. Pick all of its faces, or repeat the strokes "
                      "of its drawing on the table.");
    const BRepAdaptor_Curve c(edge);
    e.place = toVec(c.Value(0.5 * (c.FirstParameter() + c.LastParameter())));
    e.culprits.push_back(s.wordsFor(host));
    return e;
}

bool goesRound(const NamedShape& s, const TopTools_IndexedMapOfShape& own, const TopoDS_Face& face) {
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge edge = TopoDS::Edge(x.Current());
        if (BRep_Tool::Degenerated(edge)) continue;
        const auto beside = facesBeside(s, edge);
        if (std::none_of(beside.begin(), beside.end(), [&](const auto& f) { return own.Contains(f); }))
            return false;
    }
    return true;
}

/// Faces beside a detail; those that it goes round are its own.
TopTools_IndexedMapOfShape hostsOf(const NamedShape& s, TopTools_IndexedMapOfShape& own) {
    TopTools_IndexedMapOfShape hosts, within;
    const TopTools_IndexedMapOfShape beside = besideOf(s, own);
    for (int k = 1; k <= beside.Extent(); ++k)
        (goesRound(s, own, TopoDS::Face(beside(k))) ? within : hosts).Add(beside(k));
    for (int k = 1; k <= within.Extent(); ++k) own.Add(within(k));
    return hosts;
}

/// Faces that a face leads to which later steps made, as long as all that is around them is that or the
/// detail's own; none where they go on to something else.
std::vector<TopoDS_Shape> standingFrom(const NamedShape& s, const TopTools_IndexedMapOfShape& own,
                                       const TopoDS_Shape& first, int latest) {
    TopTools_IndexedMapOfShape found;
    const auto isLater = [&](const TopoDS_Shape& f) {
        const NameList names = s.namesOf(f);
        return !names.empty() &&
               std::all_of(names.begin(), names.end(), [&](NamePtr n) { return n->step > latest; });
    };
    if (!isLater(first)) return {};
    found.Add(first);
    for (int k = 1; k <= found.Extent(); ++k)
        for (TopExp_Explorer x(found(k), TopAbs_EDGE); x.More(); x.Next())
            for (const TopoDS_Shape& f : facesBeside(s, TopoDS::Edge(x.Current()))) {
                if (own.Contains(f)) continue;
                if (!isLater(f)) return {};
                found.Add(f);
            }
    return {found.cbegin(), found.cend()};
}

/// What later steps set onto the detail and nothing else goes with it, like the thread of a stud.
void addStanding(const NamedShape& s, TopTools_IndexedMapOfShape& own, int latest) {
    const TopTools_IndexedMapOfShape beside = besideOf(s, own);
    for (int k = 1; k <= beside.Extent(); ++k)
        if (!own.Contains(beside(k)))
            for (const TopoDS_Shape& more : standingFrom(s, own, beside(k), latest)) own.Add(more);
}

bool sameSurface(const TopoDS_Face& a, const TopoDS_Face& b) {
    TopLoc_Location la, lb;
    return BRep_Tool::Surface(a, la) == BRep_Tool::Surface(b, lb) && la.IsEqual(lb);
}

} // namespace

TopTools_IndexedMapOfShape besideOf(const NamedShape& s, const TopTools_IndexedMapOfShape& faces) {
    TopTools_IndexedMapOfShape out;
    for (int k = 1; k <= faces.Extent(); ++k)
        for (TopExp_Explorer x(faces(k), TopAbs_EDGE); x.More(); x.Next())
            for (const TopoDS_Shape& f : facesBeside(s, TopoDS::Edge(x.Current())))
                if (!faces.Contains(f)) out.Add(f);
    return out;
}

TopTools_IndexedMapOfShape withWhatBelongs(const NamedShape& s, const std::vector<int>& faces) {
    TopTools_IndexedMapOfShape out;
    std::set<NamePtr> names;
    const auto take = [&](const TopoDS_Shape& f) {
        out.Add(f);
        for (const NamePtr n : s.namesOf(f)) names.insert(n);
    };
    int latest = 0;
    for (const int i : faces) {
        take(s.faces(i + 1));
        for (const NamePtr n : s.namesOf(s.faces(i + 1))) latest = std::max(latest, n->step);
    }
    for (int k = 1; k <= out.Extent(); ++k)
        for (TopExp_Explorer x(out(k), TopAbs_EDGE); x.More(); x.Next())
            for (const TopoDS_Shape& f : facesBeside(s, TopoDS::Edge(x.Current())))
                if (!out.Contains(f) && belongsTo(s, f, names)) take(f);
    addStanding(s, out, latest);
    return out;
}

Result<Detail> detailOf(const NamedShape& s, const std::vector<int>& faces) {
    TopTools_IndexedMapOfShape own = withWhatBelongs(s, faces);
    const int asked = own.Extent();
    const TopTools_IndexedMapOfShape hosts = hostsOf(s, own);
    Detail out;
    for (int k = 1; k <= own.Extent(); ++k) {
        const TopoDS_Face& face = out.faces.emplace_back(TopoDS::Face(own(k)));
        const auto onIt = [&](const TopoDS_Shape& host) { return sameSurface(TopoDS::Face(host), face); };
        if (k > asked && std::any_of(hosts.cbegin(), hosts.cend(), onIt)) out.islands.push_back(face);
    }
    for (int h = 1; h <= hosts.Extent(); ++h) {
        const TopoDS_Face host = TopoDS::Face(hosts(h).Oriented(TopAbs_FORWARD));
        for (TopoDS_Iterator w(host, false); w.More(); w.Next()) {
            const TopoDS_Wire loop = TopoDS::Wire(w.Value());
            int in = 0, all = 0;
            TopoDS_Edge border;
            for (TopoDS_Iterator e(loop, false); e.More(); e.Next()) {
                ++all;
                for (const TopoDS_Shape& f : facesBeside(s, TopoDS::Edge(e.Value())))
                    if (own.Contains(f)) {
                        ++in;
                        border = TopoDS::Edge(e.Value());
                    }
            }
            if (in == 0) continue;
            if (in != all || loop.IsSame(BRepTools::OuterWire(host))) return atBorder(s, border, hosts(h));
            out.mouths.push_back({TopoDS::Face(hosts(h)), loop});
        }
    }
    if (out.mouths.empty())
        return errorOf("repeat.whole",
                       "These faces are a whole body, with nothing that they stand in or on. Repeat the body "
                       "instead.");
    return out;
}

} // namespace gc
