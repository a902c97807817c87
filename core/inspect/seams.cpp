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

int orderOf(const FaceMeeting& m) {
    return m.kink > kTangent ? 0 : m.jump > kEven ? 1 : 2;
}

bool isWorse(const FaceMeeting& a, const Seam& b) {
    const int order = orderOf(a);
    if (order != b.order) return order < b.order;
    return order == 0 ? a.kink > b.kink : a.jump > b.jump;
}

/// Between two places of an edge, the one with the larger kink: by thirds, as it rises and falls once there.
std::optional<FaceMeeting> sharpestBetween(const EdgeMeeting& meeting, double low, double high) {
    constexpr int kThirds = 24;
    for (int k = 0; k < kThirds; ++k) {
        const double a = low + (high - low) / 3, b = high - (high - low) / 3;
        const auto m = meeting.at(a), n = meeting.at(b);
        if (!m || !n) break;
        (m->kink < n->kink ? low : high) = m->kink < n->kink ? a : b;
    }
    return meeting.at(0.5 * (low + high));
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
        const auto look = [&](const FaceMeeting& m) {
            const double angle = std::numbers::pi - m.kink;
            if (!m.hollow && (!out.sharpest || angle < out.sharpest->angle - 1e-9))
                out.sharpest = SharpEdge{angle, m.at, name()};
        };
        double kink = 0, from = 0, to = 1; // about the largest that was seen
        for (std::size_t k = 0; k < std::size(kPlaces); ++k) {
            const auto m = meeting.at(kPlaces[k]);
            if (!m) continue;
            if (m->kink > kMeantSmooth) {
                look(*m);
                if (m->hollow || m->kink <= kink) continue;
                kink = m->kink;
                from = k == 0 ? 0 : kPlaces[k - 1];
                to = k + 1 == std::size(kPlaces) ? 1 : kPlaces[k + 1];
            } else if (!out.worst || isWorse(*m, *out.worst)) {
                out.worst = Seam{orderOf(*m), m->kink, m->jump, m->at, name()};
            }
        }
        constexpr double kNearly = 0.2; // rad: it may be the sharpest of all between two places
        if (kink > 0 && out.sharpest && std::numbers::pi - kink < out.sharpest->angle + kNearly)
            if (const auto m = sharpestBetween(meeting, from, to); m && m->kink > kMeantSmooth) look(*m);
    }
    return out;
}

} // namespace gc
