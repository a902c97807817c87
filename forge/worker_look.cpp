#include "forge/worker.hpp"

// What the window draws beside the bodies, and what it may pick and follow.

namespace gc {

namespace {

using Json = nlohmann::json;

Json frameJson(const Plane& p) {
    return {p.origin.x, p.origin.y, p.origin.z, p.across.x, p.across.y, p.across.z, p.up.x, p.up.y, p.up.z};
}

} // namespace

/// Planes and drawings, as they lie in space.
void Worker::sendGuides(int revision) {
    Json planes = Json::array(), drawings = Json::array();
    std::vector<float> points;
    for (const PlaneGuide& g : planeGuides(m_regen.state))
        planes.push_back({{"name", g.name}, {"frame", frameJson(g.plane)}});
    for (const DrawingGuide& g : drawingGuides(m_regen.state)) {
        Json strokes = Json::array();
        for (const StrokeGuide& s : g.strokes) {
            strokes.push_back(
                {{"ref", s.reference}, {"first", points.size() / 3}, {"count", s.points.size()}});
            for (const Vec3& p : s.points) put(points, p);
        }
        drawings.push_back({{"step", g.step}, {"frame", frameJson(g.plane)}, {"strokes", strokes}});
    }
    m_send({{{"type", "guides"}, {"revision", revision}, {"planes", planes}, {"drawings", drawings}},
            {blobOf(points)}});
}

/// What the window asked to see besides.
void Worker::sendLook(int revision) {
    if (!m_look.places && !m_look.traces) return;
    Json look = {{"type", "look"}, {"revision", revision}, {"traces_of", m_look.traces}};
    look["places"] = Json::array();
    look["traces"] = Json::array();
    if (m_look.places)
        for (const PlaceOnBody& p : pickablePlaces(m_regen.state))
            look["places"].push_back({{"at", {p.at.x, p.at.y, p.at.z}}, {"refs", p.refs}});
    if (m_look.traces)
        for (const Trace& t : followable(m_part, m_regen, m_look.traces)) {
            Json at = Json::array();
            for (const Vec2 p : t.at) at.push_back({p.x, p.y});
            look["traces"].push_back({{"source", t.source},
                                      {"piece", t.piece},
                                      {"pieces", t.pieces},
                                      {"kind", wordsOf(t.kind).key},
                                      {"at", at},
                                      {"sizes", t.sizes}});
        }
    m_send({look, {}});
}

} // namespace gc
