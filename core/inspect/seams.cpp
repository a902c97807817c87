#include "core/inspect/seams.hpp"

#include "core/inspect/corners.hpp"
#include "core/inspect/meeting.hpp"
#include "core/shape/kernel.hpp"

#include <BRep_Tool.hxx>
#include <TopoDS.hxx>

#include <cmath>
#include <numbers>

namespace gc {

namespace {

int orderOf(const Meeting& m) {
    return m.kink > kTangent ? 0 : m.jump > kEven ? 1 : 2;
}

bool isWorse(const Meeting& a, const Seam& b) {
    const int order = orderOf(a);
    if (order != b.order) return order < b.order;
    return order == 0 ? a.kink > b.kink : a.jump > b.jump;
}

} // namespace

SeamField seamsOf(const Body& body, const Stop& stop) {
    constexpr double kPlaces[] = {0.03, 0.2, 0.35, 0.5, 0.65, 0.8, 0.97};
    const NamedShape& s = body.shape();
    SeamField out;
    out.point = sharpestPoint(body, stop);
    for (int i = 1; i <= s.facesOfEdge.Extent(); ++i) {
        if (stop && stop()) return out;
        const TopoDS_Edge edge = TopoDS::Edge(s.facesOfEdge.FindKey(i));
        const auto faces = toVector(s.facesOfEdge(i));
        if (faces.size() != 2 || BRep_Tool::Degenerated(edge) || !s.isRealEdge(edge)) continue;
        const EdgeMeeting meeting(edge, TopoDS::Face(faces[0]), TopoDS::Face(faces[1]));
        if (!meeting.known()) continue;
        const auto name = [&] {
            const auto refs = referencesForEdge(body, s.edges.FindIndex(edge) - 1);
            return refs.empty() ? std::string() : refs.front();
        };
        for (const double share : kPlaces) {
            const auto m = meeting.at(share);
            if (!m) continue;
            if (m->kink > kMeantSmooth) {
                const double angle = std::numbers::pi - m->kink;
                if (!m->hollow && (!out.sharpest || angle < out.sharpest->angle - 1e-9))
                    out.sharpest = SharpEdge{angle, m->at, name()};
            } else if (!out.worst || isWorse(*m, *out.worst)) {
                out.worst = Seam{orderOf(*m), m->kink, m->jump, m->at, name()};
            }
        }
    }
    return out;
}

} // namespace gc
