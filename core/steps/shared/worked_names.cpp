#include "core/steps/shared/worked_names.hpp"

#include <TopoDS.hxx>

#include <set>

namespace gc {

namespace {

NameList primaryNames(const NamedShape& s, const TopTools_ListOfShape& faces) {
    std::set<NamePtr> names;
    for (const TopoDS_Shape& f : toVector(faces))
        if (!s.namesOf(f).empty()) names.insert(s.namesOf(f).front());
    return {names.begin(), names.end()};
}

} // namespace

NamePtr nameAlong(const NamedShape& before, const TopoDS_Edge& edge, int step, const std::string& role,
                  const std::vector<EdgeChain>& chains) {
    for (const EdgeChain& c : chains)
        for (const TopoDS_Edge& e : c.edges)
            if (c.called && e.IsSame(edge)) return c.called;
    return internName(step, role, primaryNames(before, before.facesOfEdge.FindFromKey(edge)));
}

std::vector<TopoDS_Shape> whatBecameOf(const TopoDS_Shape& face, BRepBuilderAPI_MakeShape& operation) {
    auto now = toVector(operation.Modified(face));
    if (now.empty()) now.push_back(face);
    return now;
}

Result<Body> bodyOfWork(const Body& before, BRepFilletAPI_LocalOperation& work, int step,
                        const std::string& role, const std::vector<EdgeChain>& chains) {
    const NamedShape& s = before.shape();
    NameBuilder names(onlySolid(work.Shape()));
    names.carry(s, work);
    for (int c = 1; c <= work.NbContours(); ++c)
        for (int k = 1; k <= work.NbEdges(c); ++k) {
            const TopoDS_Edge edge = work.Edge(c, k);
            if (!s.facesOfEdge.Contains(edge)) continue;
            const NamePtr name = nameAlong(s, edge, step, role, chains);
            for (const TopoDS_Shape& f : toVector(work.Generated(edge)))
                if (names.has(f)) names.add(f, name);
        }
    for (int v = 1; v <= s.vertices.Extent(); ++v)
        for (const TopoDS_Shape& f : toVector(work.Generated(s.vertices(v))))
            if (names.has(f) && !names.named(f))
                names.add(f, internName(step, role + " corner",
                                        primaryNames(s, s.facesOfVertex.FindFromKey(s.vertices(v)))));
    return names.finish();
}

bool isMostlyDone(const WorkedEdges& worked, std::size_t of) {
    return 2 * worked.left.size() < of;
}

Error leftOver(const WorkedEdges& worked, const Body& before, const char* code, const SaysLeft& says) {
    Error e;
    e.code = code;
    std::string list;
    std::set<std::string> listed; // pieces of one edge are called the same
    for (const EdgeChain& c : worked.left) {
        const auto said = saidOf(c, before);
        if (!said.empty() && listed.insert(said.front()).second)
            list += (list.empty() ? "" : ", ") + marked(said.front());
        e.culprits.insert(e.culprits.end(), said.begin(), said.end());
    }
    e.place = middleOf(worked.left.front());
    e.sentence =
        says(std::to_string(worked.left.size()), list.empty() ? phrase("see the mark") : Message(list));
    return e;
}

} // namespace gc
