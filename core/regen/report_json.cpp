#include "core/regen/report_json.hpp"

namespace gc {

namespace {

std::vector<std::string> texts(const std::vector<Message>& messages) {
    return {messages.begin(), messages.end()};
}

using Json = nlohmann::ordered_json;

Json point(Vec3 p) {
    return Json::array({p.x, p.y, p.z});
}

Json wallJson(const WallField& f) {
    if (!f.any) return nullptr;
    return {{"min_mm", f.thinnest.value},
            {"max_mm", f.thickest.value},
            {"at", point(f.thinnest.at)},
            {"at_max", point(f.thickest.at)},
            {"error_bound_mm", f.errorBound}};
}

Json fillJson(const FillResult& f) {
    return {{"volume_mm3", f.volume}, {"level_mm", f.level}, {"note", f.note.text()}};
}

/// Null where there is no imported body to compare with.
Json deviationJson(const BodyMeasures& b) {
    if (!b.deviation) return nullptr;
    const DeviationField& d = *b.deviation;
    return {{"from", d.from},        {"inside_mm", -d.inside.value},    {"outside_mm", d.outside.value},
            {"within_mm", d.within}, {"inside_at", point(d.inside.at)}, {"outside_at", point(d.outside.at)}};
}

} // namespace

Json measuresJson(const Part&, const RegenResult& regen, const PartMeasures& measures) {
    Json root;
    root["bodies"] = Json::array();
    root["fill"] = Json::object();
    for (const BodyMeasures& b : measures.bodies) {
        root["bodies"].push_back({{"name", b.name},
                                  {"material", b.material},
                                  {"volume_mm3", b.mass.volume},
                                  {"area_mm2", b.mass.area},
                                  {"mass_g", b.mass.mass},
                                  {"centre_mm", point(b.mass.centre)},
                                  {"moments_g_mm2", b.mass.moments},
                                  {"pieces", b.check.solids},
                                  {"open_edges", b.check.openEdges},
                                  {"faults", texts(b.check.faults)},
                                  {"error", b.error ? Json(b.error->sentence) : Json(nullptr)},
                                  {"wall", {{"ray", wallJson(b.ray)}, {"ball", wallJson(b.ball)}}},
                                  {"deviation", deviationJson(b)}});
        root["fill"][b.name] = {{"brim", fillJson(b.brim)}, {"line", fillJson(b.line)}};
    }
    root["steps"] = Json::array();
    for (const StepReport& s : regen.steps)
        root["steps"].push_back({{"number", s.number},
                                 {"kind", s.kind},
                                 {"ok", s.ok},
                                 {"notes", texts(s.notes)},
                                 {"doubt", s.doubt ? Json(s.doubt->sentence) : Json(nullptr)},
                                 {"error", s.error ? Json(s.error->sentence) : Json(nullptr)}});
    return root;
}

Json targetsJson(const Part& part, const PartMeasures& measures) {
    Json root;
    root["targets"] = Json::array();
    for (const MeasuredTarget& t : measures.targets) {
        const UnitSystem& u = part.brief.units;
        root["targets"].push_back(
            {{"name", t.target.measure},
             {"body", t.target.body.empty() ? Json(nullptr) : Json(t.target.body)},
             {"of", t.target.of},
             {"measured", t.value ? Json(*t.value / u.factorFor(t.dimension)) : Json(nullptr)},
             {"unit", u.symbolFor(t.dimension)},
             {"allowed", t.target.allowed},
             {"verdict", verdictWord(t.verdict)},
             {"where", t.where},
             {"note", t.note.empty() ? Json(nullptr) : Json(t.note.text())}});
    }
    return root;
}

} // namespace gc
