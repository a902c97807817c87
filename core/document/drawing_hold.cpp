#include "core/document/drawing_hold.hpp"

#include "core/units/quantity.hpp"

#include <cmath>
#include <sstream>

namespace gc {

std::string toText(const PointHold& hold) {
    const Vec2 at = hold.trace.at.front();
    return "hold point " + std::to_string(hold.point) + " at " + formatNumber(at.x, 9) + " " +
           formatNumber(at.y, 9) + " piece " + std::to_string(hold.trace.piece) + " of " +
           std::to_string(hold.trace.pieces) + " of " + hold.trace.source;
}

std::optional<PointHold> parsePointHold(const std::string& text) {
    std::istringstream in(text);
    std::string hold, point, at, piece, of, again;
    PointHold out;
    Vec2 place;
    out.trace.kind = StrokeKind::Point;
    if (!(in >> hold >> point >> out.point >> at >> place.x >> place.y >> piece >> out.trace.piece >> of >>
          out.trace.pieces >> again))
        return std::nullopt;
    if (hold != "hold" || point != "point" || at != "at" || piece != "piece" || of != "of" || again != "of" ||
        !std::isfinite(place.x) || !std::isfinite(place.y))
        return std::nullopt;
    std::getline(in >> std::ws, out.trace.source);
    if (out.trace.source.empty()) return std::nullopt;
    out.trace.at = {place};
    return out;
}

} // namespace gc
