#include "core/shape/extremes.hpp"
#include "core/shape/kernel.hpp"

#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

void Box::add(Vec3 p) {
    low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
    high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
}

int countOpenEdges(const NamedShape& s) {
    int open = 0;
    for (int i = 1; i <= s.facesOfEdge.Extent(); ++i) {
        const TopoDS_Edge e = TopoDS::Edge(s.facesOfEdge.FindKey(i));
        if (BRep_Tool::Degenerated(e) || s.facesOfEdge(i).Extent() != 1) continue;
        open += !BRep_Tool::IsClosed(e, TopoDS::Face(s.facesOfEdge(i).First()));
    }
    return open;
}

BodyCheck checkBody(const Body& body) {
    BodyCheck check;
    if (body.empty()) {
        check.faults.push_back("there is no body");
        return check;
    }
    const NamedShape& s = body.shape();
    for (TopExp_Explorer x(s.shape, TopAbs_SOLID); x.More(); x.Next()) ++check.solids;
    for (TopExp_Explorer x(s.shape, TopAbs_SHELL); x.More(); x.Next()) ++check.shells;
    check.openEdges = countOpenEdges(s);
    check.valid = BRepCheck_Analyzer(s.shape).IsValid();
    // The kernel calls an empty compound valid: ask for more.
    if (!check.valid) check.faults.push_back("the kernel finds its geometry invalid");
    if (check.solids == 0) check.faults.push_back("it holds no solid");
    if (check.openEdges > 0)
        check.faults.push_back(phrase("%1 edges are open", std::to_string(check.openEdges)));
    return check;
}

Box looseEnvelope(const Body& body) {
    Bnd_Box loose;
    BRepBndLib::Add(body.shape().shape, loose, false);
    Box out;
    if (loose.IsVoid()) return out;
    const gp_Pnt low = loose.CornerMin(), high = loose.CornerMax();
    out.add({low.X(), low.Y(), low.Z()});
    out.add({high.X(), high.Y(), high.Z()});
    return out;
}

Box envelope(const Body& body, const Stop& stop) {
    return extentOf(body.shape().shape, stop);
}

} // namespace gc
