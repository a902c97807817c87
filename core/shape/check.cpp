#include "core/shape/extremes.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/kernel_clock.hpp"

#include <BRepCheck_Analyzer.hxx>
#include <BRepCheck_ListOfStatus.hxx>
#include <BRepCheck_Shell.hxx>
#include <BRepCheck_Solid.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>

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

namespace {

bool isFine(const Handle(BRepCheck_Result) & result) {
    for (BRepCheck_ListOfStatus::Iterator status(result->Status()); status.More(); status.Next())
        if (status.Value() != BRepCheck_NoError) return false;
    return true;
}

/// Do the faces of each shell fit together, and the shells of each solid?
bool fitTogether(const TopoDS_Shape& shape) {
    for (TopExp_Explorer x(shape, TopAbs_SHELL); x.More(); x.Next()) {
        const Handle(BRepCheck_Shell) shell = new BRepCheck_Shell(TopoDS::Shell(x.Current()));
        if (!isFine(shell) || shell->Orientation() != BRepCheck_NoError) return false;
    }
    for (TopExp_Explorer x(shape, TopAbs_SOLID); x.More(); x.Next()) {
        const Handle(BRepCheck_Solid) solid = new BRepCheck_Solid(TopoDS::Solid(x.Current()));
        if (!isFine(solid)) return false;
    }
    return true;
}

bool isValid(const NamedShape& s, const std::vector<const Body*>& known) {
    TopoDS_Compound changed;
    BRep_Builder().MakeCompound(changed);
    int taken = 0;
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (std::any_of(known.begin(), known.end(),
                        [&](const Body* b) { return b->shape().faces.Contains(s.faces(i)); }))
            ++taken;
        else
            BRep_Builder().Add(changed, s.faces(i));
    return inKernel([&] {
        if (taken == 0) return bool(BRepCheck_Analyzer(s.shape).IsValid());
        return BRepCheck_Analyzer(changed).IsValid() && fitTogether(s.shape);
    });
}

} // namespace

BodyCheck checkBody(const Body& body) {
    return checkBody(body, {});
}

BodyCheck checkBody(const Body& body, const std::vector<const Body*>& known) {
    BodyCheck check;
    if (body.empty()) {
        check.faults.push_back("there is no body");
        return check;
    }
    const NamedShape& s = body.shape();
    for (TopExp_Explorer x(s.shape, TopAbs_SOLID); x.More(); x.Next()) ++check.solids;
    for (TopExp_Explorer x(s.shape, TopAbs_SHELL); x.More(); x.Next()) ++check.shells;
    check.openEdges = countOpenEdges(s);
    check.valid = isValid(s, known);
    // The kernel calls an empty compound valid: ask for more.
    if (!check.valid) check.faults.push_back("the kernel finds its geometry invalid");
    if (check.solids == 0) check.faults.push_back("it holds no solid");
    if (check.openEdges > 0)
        check.faults.push_back(phrase("%1 edges are open", std::to_string(check.openEdges)));
    return check;
}

Box looseEnvelope(const Body& body) {
    return looseExtentOf(body.shape().shape);
}

Box envelope(const Body& body, const Stop& stop) {
    return extentOf(body.shape().shape, stop);
}

} // namespace gc
