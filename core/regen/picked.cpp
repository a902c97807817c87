#include "core/regen/picked.hpp"

#include "core/shape/space_pieces.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/path.hpp"

namespace gc {

namespace {

Result<PickedThing> itemsOf(PickedThing::Kind kind, const Result<FoundItems>& found) {
    if (!found) return found.error();
    return PickedThing{kind, {}, found->body, found->items};
}

/// A drawn line, what goes on from it, or a curve in space.
Result<PickedThing> curveOf(const std::string& reference, ModelReader& model) {
    const auto path = findPath({reference}, model);
    if (!path) return path.error();
    auto pieces = std::make_shared<SpacePieces>();
    for (const PathPiece& p : path->pieces()) pieces->curves.push_back(p.curve);
    pieces->closed = path->closed();
    return PickedThing{PickedThing::Kind::Curve, {}, {}, {}, SpaceCurve(std::move(pieces))};
}

} // namespace

Result<PickedThing> pickedThing(const ModelState& state, const std::string& text) {
    FreeReader reader(state);
    const auto after = [&](const char* word) -> std::optional<std::string> {
        const std::string begin = std::string(word) + ": ";
        return text.starts_with(begin) ? std::optional(text.substr(begin.size())) : std::nullopt;
    };
    if (const auto point = after("point")) {
        const auto at = findPoint(*point, reader);
        return at ? Result<PickedThing>(PickedThing{PickedThing::Kind::Point, *at}) : at.error();
    }
    if (const auto edge = after("edge")) return itemsOf(PickedThing::Kind::Edges, findEdges({*edge}, reader));
    if (const auto face = after("face")) return itemsOf(PickedThing::Kind::Faces, findFaces({*face}, reader));
    if (const auto curve = after("curve")) return curveOf(*curve, reader);
    if (const auto body = after("body")) {
        const auto id = state.bodyNamed(*body);
        if (!id) return errorOf("body.lost", phrase("There is no body called \"%1\" now.", *body));
        return PickedThing{PickedThing::Kind::Body, {}, state.bodies.at(*id).value};
    }
    return errorOf("picked.unknown", phrase("\"%1\" cannot be measured: it is not understood.", text));
}

Result<std::vector<Reading>> readingsOf(const ModelState& state, const std::vector<std::string>& picked) {
    std::vector<PickedThing> things;
    for (const std::string& text : picked) {
        auto thing = pickedThing(state, text);
        if (!thing) return thing.error();
        things.push_back(std::move(*thing));
    }
    if (things.empty()) return std::vector<Reading>();
    return things.size() == 1 ? readingsOf(things[0]) : readingsOf(things[0], things[1]);
}

std::string readingText(const Reading& r, const UnitSystem& units) {
    if (r.key == "volume") return formatAmount(r.value, units.volume, 3);
    if (r.key == "angle") return formatAmount(r.value, units.angle, 2);
    if (r.key != "area") return formatAmount(r.value, units.length, 3);
    const double unit = units.factorFor(kLength);
    return formatNumber(r.value / (unit * unit), 2) + " " + units.length + "²";
}

} // namespace gc
