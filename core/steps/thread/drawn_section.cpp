#include "core/steps/thread/drawn_section.hpp"

#include "core/base/angles.hpp"
#include "core/sketch/chain.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kLevel = 1e-6; // mm

/// A curve as cubics with its places and directions at their ends: of arcs within 4e-6 of their radius.
void addPieces(const Curve2& c, const std::string& role, std::vector<SectionPiece>& out) {
    if (c.kind == Curve2::Kind::Line) {
        out.push_back({{c.at(0), c.at(1)}, role});
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
            {{a, a + c.slope(t) * (1.0 / (3 * count)), b - c.slope(u) * (1.0 / (3 * count)), b}, role});
    }
}

Error unfit(Message sentence) {
    return errorOf("thread.profile", std::move(sentence));
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
void sink(std::vector<SectionPiece>& pieces, double level, const char* role) {
    constexpr double kFarthest = -1; // of its own length
    constexpr int kHalvings = 60;
    auto& poles = pieces.front().poles;
    const auto heightAt = [&](double t) { return from(poles, t).front().y; };
    double low = kFarthest, high = 0;
    if (heightAt(low) > level) {
        const Vec2 foot = poles.front();
        pieces.insert(pieces.begin(), {{{foot.x, level}, foot}, role});
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

double sunkOf(double depth) {
    return std::min(0.2, 0.35 * depth);
}

Result<DrawnSection> drawnSection(const Outline& outline) {
    std::set<int> left;
    for (const auto& [id, curves] : outline.strokes)
        if (!curves.empty() && outline.helpers.count(id) == 0) left.insert(id);
    const Message wanted =
        "The profile of a thread is one open line, from its foot at the left over its crest to "
        "its foot at the right.";
    if (left.empty() || !outline.drawn()) return unfit(wanted);
    const Chain chain = chainOf(outline.strokes, outline.helpers, *left.begin());
    if (chain.closed || chain.links.size() != left.size()) return unfit(wanted);
    DrawnSection out;
    for (const ChainLink& link : chain.links) {
        std::vector<Curve2> curves = outline.strokes.at(link.stroke);
        if (link.against) std::reverse(curves.begin(), curves.end());
        for (const Curve2& c : curves)
            addPieces(link.against ? c.part(1, 0) : c, outline.rolesOf(link.stroke).front(), out.pieces);
    }
    if (out.pieces.front().poles.front().x > out.pieces.back().poles.back().x) turnRound(out.pieces);
    const Vec2 low = out.pieces.front().poles.front(), high = out.pieces.back().poles.back();
    if (std::fabs(low.y - high.y) > kLevel)
        return unfit(
            phrase("Both ends of a thread's profile lie where its foot is on the wall, and these are %1 "
                   "apart in height. Make them level.",
                   formatAmount(std::fabs(low.y - high.y), "mm", 2)));
    out.width = high.x - low.x;
    const Vec2 middle{0.5 * (low.x + high.x), low.y};
    double least = 0;
    for (SectionPiece& p : out.pieces)
        for (Vec2& v : p.poles) {
            v = v - middle;
            out.depth = std::max(out.depth, v.y);
            least = std::min(least, v.y);
        }
    if (least < -kLevel || out.depth < kLevel || out.width < kLevel)
        return unfit(
            "The profile of a thread stands over the level of its two ends. Nothing of it may lie lower, "
            "and the ends may not be in one place.");
    const double level = -sunkOf(out.depth);
    sink(out.pieces, level, "lower flank");
    turnRound(out.pieces);
    sink(out.pieces, level, "upper flank");
    turnRound(out.pieces);
    out.sunkWidth = 2 * std::max(-out.pieces.front().poles.front().x, out.pieces.back().poles.back().x);
    return out;
}

} // namespace gc
