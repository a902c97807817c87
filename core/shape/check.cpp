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

namespace {

Box plainBox(const Bnd_Box& box) {
    Box out;
    if (box.IsVoid()) return out;
    double x0 = 0, y0 = 0, z0 = 0, x1 = 0, y1 = 0, z1 = 0;
    const double gap = box.GetGap();
    box.Get(x0, y0, z0, x1, y1, z1);
    out.low = {x0 + gap, y0 + gap, z0 + gap};
    out.high = {x1 - gap, y1 - gap, z1 - gap};
    return out;
}

bool within(const Box& inner, const Box& outer) {
    return inner.low.x >= outer.low.x && inner.low.y >= outer.low.y && inner.low.z >= outer.low.z &&
           inner.high.x <= outer.high.x && inner.high.y <= outer.high.y && inner.high.z <= outer.high.z;
}

} // namespace

/// The kernel's tight box of a freeform face is dear (70 ms each on the herb pot), its loose one nothing:
/// faces that lie within what the larger ones already take up are passed over.
Box envelope(const Body& body, const Stop& stop) {
    const NamedShape& s = body.shape();
    struct Loose {
        int face;
        Box box;
    };
    std::vector<Loose> faces;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        Bnd_Box box;
        BRepBndLib::Add(s.faces(i), box, false);
        faces.push_back({i, plainBox(box)});
    }
    std::sort(faces.begin(), faces.end(),
              [](const Loose& a, const Loose& b) { return length(a.box.size()) > length(b.box.size()); });
    Box out;
    for (const Loose& f : faces) {
        if (stop && stop()) return out;
        if (!out.empty() && within(f.box, out)) continue;
        Bnd_Box tight;
        BRepBndLib::AddOptimal(s.faces(f.face), tight, false, false);
        const Box box = plainBox(tight);
        if (box.empty()) continue;
        out.add(box.low);
        out.add(box.high);
    }
    return out;
}

} // namespace gc
