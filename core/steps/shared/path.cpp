#include "core/steps/shared/path.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/space_pieces.hpp"
#include "core/sketch/chain.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/find_items.hpp"

#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

Path::Path(std::vector<PathPiece> pieces, bool closed) : m_pieces(std::move(pieces)), m_closed(closed) {
    for (const PathPiece& p : m_pieces) {
        m_before.push_back(m_length);
        m_length += p.curve.length();
    }
}

std::pair<std::size_t, double> Path::pieceAt(double s) const {
    s = std::clamp(s, 0.0, m_length);
    const auto next = std::upper_bound(m_before.begin() + 1, m_before.end(), s);
    const auto i = static_cast<std::size_t>(next - m_before.begin()) - 1;
    return {i, std::min(s - m_before[i], m_pieces[i].curve.length())};
}

gp_Pnt Path::at(double s) const {
    const auto [i, within] = pieceAt(s);
    return m_pieces[i].curve.at(within);
}

gp_Vec Path::tangent(double s) const {
    const auto [i, within] = pieceAt(s);
    return m_pieces[i].curve.tangent(within);
}

std::vector<double> Path::breaks() const {
    std::vector<double> out;
    for (std::size_t i = 0; i < m_before.size(); ++i)
        for (const double b : m_pieces[i].curve.breaks()) out.push_back(m_before[i] + b);
    return out;
}

double Path::turnAfter(std::size_t piece) const {
    const LengthCurve &a = m_pieces[piece].curve, &b = m_pieces[(piece + 1) % m_pieces.size()].curve;
    return a.tangent(a.length()).Angle(b.tangent(0));
}

Path Path::reversed() const {
    std::vector<PathPiece> back;
    for (auto p = m_pieces.rbegin(); p != m_pieces.rend(); ++p)
        back.push_back({p->curve.reversed(), p->item});
    return {std::move(back), m_closed};
}

namespace {

constexpr double kMeet = 1e-4; // mm: as near as edges of a body end to each other

Result<Done> addChain(const EdgeRef& ref, const std::string& text, ModelReader& model,
                      std::vector<PathPiece>& out) {
    const Outline* drawn = model.outline({ref.step, 0});
    const Chain chain = drawn ? chainOf(drawn->strokes, drawn->helpers, ref.item) : Chain();
    if (chain.links.empty()) return notDrawn(text, ref.step);
    for (const ChainLink& l : chain.links) {
        EdgeRef one;
        one.kind = EdgeRef::Kind::Stroke;
        one.step = ref.step;
        one.item = l.stroke;
        const auto edge = findCurve(toText(one), model);
        if (!edge) return edge.error();
        out.push_back({LengthCurve::of(*edge, l.against), l.stroke});
    }
    return Done{};
}

Result<Done> addPieces(const std::string& text, ModelReader& model, std::vector<PathPiece>& out) {
    const auto ref = parseEdgeRef(text);
    if (!ref) return ref.error();
    if (ref->kind == EdgeRef::Kind::Chain) return addChain(*ref, text, model, out);
    if (ref->kind == EdgeRef::Kind::Curve) {
        const SpaceCurve* curve = model.curve({ref->step, 0});
        if (!curve) {
            Error e =
                errorOf("reference.lost", phrase("There is no curve of %1 any more.", markedStep(ref->step)));
            e.culprits = {text};
            return e;
        }
        for (const LengthCurve& c : curve->pieces().curves) out.push_back({c, 0});
        return Done{};
    }
    if (ref->kind == EdgeRef::Kind::Stroke) {
        const auto edge = findCurve(text, model);
        if (!edge) return edge.error();
        out.push_back({LengthCurve::of(*edge), ref->item});
        return Done{};
    }
    const auto found = findEdges({text}, model);
    if (!found) return found.error();
    for (const int item : found->items)
        out.push_back(
            {LengthCurve::of(TopoDS::Edge(found->body.shape().edges(item + 1).Oriented(TopAbs_FORWARD))), 0});
    return Done{};
}

bool near(const gp_Pnt& a, const gp_Pnt& b) {
    return a.Distance(b) < kMeet;
}

/// How many of the pieces end at a place.
int endsAt(const std::vector<PathPiece>& pieces, const gp_Pnt& at) {
    int count = 0;
    for (const PathPiece& p : pieces) count += near(p.curve.start(), at) + near(p.curve.end(), at);
    return count;
}

/// One after the other, from the free end that is nearest in the list.
Result<Path> inOrder(std::vector<PathPiece> pieces) {
    std::vector<PathPiece> chain;
    const auto take = [&](std::size_t i, bool against) {
        PathPiece p = pieces[i];
        if (against) p.curve = p.curve.reversed();
        pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(i));
        chain.push_back(std::move(p));
    };
    for (const PathPiece& p : pieces)
        if (endsAt(pieces, p.curve.start()) > 2 || endsAt(pieces, p.curve.end()) > 2)
            return errorOf("path.branch",
                           "More than two pieces of the path meet in one place, so it is open which "
                           "way it goes on. Let go of those that are not meant.");
    std::size_t first = 0;
    bool against = false;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const bool begins = endsAt(pieces, pieces[i].curve.start()) == 1,
                   ends = endsAt(pieces, pieces[i].curve.end()) == 1;
        if (!begins && !ends) continue;
        first = i;
        against = !begins;
        break;
    }
    take(first, against);
    while (!pieces.empty()) {
        const gp_Pnt end = chain.back().curve.end();
        const auto next = std::find_if(pieces.begin(), pieces.end(), [&](const PathPiece& p) {
            return near(p.curve.start(), end) || near(p.curve.end(), end);
        });
        if (next == pieces.end()) {
            double least = 1e300;
            for (const PathPiece& p : pieces)
                least = std::min({least, p.curve.start().Distance(end), p.curve.end().Distance(end)});
            Error e = errorOf("path.gap",
                              phrase("The path falls into pieces: where it ends the next piece is %1 away. "
                                     "Join them, or let go of what is not meant.",
                                     formatAmount(least, "mm", 2)));
            e.place = toVec(end);
            return e;
        }
        take(static_cast<std::size_t>(next - pieces.begin()), !near(next->curve.start(), end));
    }
    const bool closed = near(chain.back().curve.end(), chain.front().curve.start());
    for (std::size_t i = 0; i < chain.size(); ++i)
        if (chain[i].item == 0) chain[i].item = static_cast<int>(i) + 1;
    return Path(std::move(chain), closed);
}

} // namespace

Result<Path> findPath(const References& references, ModelReader& model) {
    std::vector<PathPiece> pieces;
    for (const std::string& text : references)
        if (auto done = addPieces(text, model, pieces); !done) return done.error();
    if (pieces.empty())
        return errorOf("path.none", "Pick the path in the stand: strokes of a drawing, or edges.");
    for (const PathPiece& p : pieces)
        if (p.curve.length() < kSamePoint)
            return errorOf("path.short", "A piece of the path has no length. Let go of it.");
    return inOrder(std::move(pieces));
}

} // namespace gc
