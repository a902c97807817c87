#include "core/steps/shared/drawn_section.hpp"

#include "core/base/angles.hpp"
#include "core/sketch/chain.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kLevel = 1e-6; // mm

/// A curve as cubics with its places and directions at their ends: of arcs within 4e-6 of their radius.
void addPieces(const Curve2& c, int stroke, std::vector<SectionPiece>& out) {
    if (c.kind == Curve2::Kind::Line) {
        out.push_back({{c.at(0), c.at(1)}, stroke});
        return;
    }
    const int count = c.kind == Curve2::Kind::Cubic ? 1
                      : c.kind == Curve2::Kind::Ellipse
                          ? static_cast<int>(std::ceil(std::fabs(c.turn) / (kPi / 16) - 1e-9))
                          : 16;
    for (int i = 0; i < count; ++i) {
        const double t = double(i) / count, u = double(i + 1) / count;
        const Vec2 a = c.at(t), b = c.at(u);
        out.push_back(
            {{a, a + c.slope(t) * (1.0 / (3 * count)), b - c.slope(u) * (1.0 / (3 * count)), b}, stroke});
    }
}

void turnRound(std::vector<SectionPiece>& pieces) {
    std::reverse(pieces.begin(), pieces.end());
    for (SectionPiece& p : pieces) std::reverse(p.poles.begin(), p.poles.end());
}

/// A piece from another parameter on: beyond its beginning it goes on as it is.
std::vector<Vec2> from(const std::vector<Vec2>& poles, double t) {
    // De Casteljau: the last poles of each round are those of what is from there to the end.
    std::vector<Vec2> round = poles, out{poles.back()};
    while (round.size() > 1) {
        for (std::size_t i = 0; i + 1 < round.size(); ++i) round[i] = round[i] * (1 - t) + round[i + 1] * t;
        round.pop_back();
        out.push_back(round.back());
    }
    std::reverse(out.begin(), out.end());
    return out;
}

/// Its beginning goes on down to a level; straight down where it would not get there soon.
void goDown(std::vector<SectionPiece>& pieces, double level) {
    constexpr double kFarthest = -1; // of its own length
    constexpr int kHalvings = 60;
    auto& poles = pieces.front().poles;
    const auto heightAt = [&](double t) { return from(poles, t).front().y; };
    double low = kFarthest, high = 0;
    if (heightAt(low) > level) {
        const Vec2 foot = poles.front();
        pieces.insert(pieces.begin(), {{{foot.x, level}, foot}, 0});
        return;
    }
    for (int i = 0; i < kHalvings; ++i) {
        const double middle = 0.5 * (low + high);
        (heightAt(middle) > level ? high : low) = middle;
    }
    poles = from(poles, 0.5 * (low + high));
    poles.front().y = level;
}

} // namespace

void DrawnSection::sink(double below) {
    for (int side = 0; side < 2; ++side) {
        goDown(pieces, -below);
        turnRound(pieces);
    }
    sunkWidth = 2 * std::max(-pieces.front().poles.front().x, pieces.back().poles.back().x);
}

namespace {

/// About the middle of the feet, over their level. \return the lowest place, mm
double placed(DrawnSection& section) {
    const Vec2 low = section.pieces.front().poles.front(), high = section.pieces.back().poles.back();
    const Vec2 middle{0.5 * (low.x + high.x), low.y};
    section.width = high.x - low.x;
    double least = 0;
    for (SectionPiece& p : section.pieces)
        for (Vec2& v : p.poles) {
            v = v - middle;
            section.depth = std::max(section.depth, v.y);
            least = std::min(least, v.y);
        }
    return least;
}

} // namespace

Result<DrawnSection> drawnSection(const Outline& outline, const char* code, bool hanging) {
    std::set<int> left;
    for (const auto& [id, curves] : outline.strokes)
        if (!curves.empty() && outline.helpers.count(id) == 0) left.insert(id);
    const Error wanted =
        errorOf(code, "A profile is one open line, from its foot at the left over its crest to its "
                      "foot at the right. Draw it so, by itself.");
    if (left.empty() || !outline.drawn()) return wanted;
    const Chain chain = chainOf(outline.strokes, outline.helpers, *left.begin());
    if (chain.closed || chain.links.size() != left.size()) return wanted;
    DrawnSection out;
    for (const ChainLink& link : chain.links) {
        std::vector<Curve2> curves = outline.strokes.at(link.stroke);
        if (link.against) std::reverse(curves.begin(), curves.end());
        for (const Curve2& c : curves) addPieces(link.against ? c.part(1, 0) : c, link.stroke, out.pieces);
    }
    if (out.pieces.front().poles.front().x > out.pieces.back().poles.back().x) turnRound(out.pieces);
    const double apart = std::fabs(out.pieces.front().poles.front().y - out.pieces.back().poles.back().y);
    if (apart > kLevel)
        return errorOf(code,
                       phrase("Both ends of a profile lie where its foot is on the wall, and these are %1 "
                              "apart in height. Make them level.",
                              formatAmount(apart, "mm", 2)));
    double least = placed(out);
    if (hanging && least < -kLevel && out.depth < kLevel) {
        for (SectionPiece& p : out.pieces)
            for (Vec2& v : p.poles) v.y = -v.y;
        least = placed(out);
    }
    if (least < -kLevel || out.depth < kLevel || out.width < kLevel)
        return errorOf(
            code, hanging
                      ? "A profile lies all on one side of the level of its two ends, and these are not in "
                        "one place. Move what is on the other side."
                      : "The profile of a thread stands over the level of its two ends. Nothing of it may "
                        "lie lower, and the ends may not be in one place.");
    return out;
}

} // namespace gc
