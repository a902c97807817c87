#include "core/sketch/chain.hpp"

#include <algorithm>

namespace gc {

namespace {

constexpr double kMeet = 1e-5; // mm: ends that a drawing holds together

struct Ends {
    Vec2 begin, end;
};

class Walk {
  public:
    Walk(const std::map<int, std::vector<Curve2>>& strokes, const std::set<int>& helpers) {
        for (const auto& [id, curves] : strokes)
            if (!curves.empty() && !helpers.count(id))
                m_ends[id] = {curves.front().at(0), curves.back().at(1)};
    }

    bool has(int stroke) const { return m_ends.count(stroke) != 0; }
    bool loops(int stroke) const { return length(m_ends.at(stroke).begin - m_ends.at(stroke).end) < kMeet; }
    Vec2 endOf(const ChainLink& l) const {
        return l.against ? m_ends.at(l.stroke).begin : m_ends.at(l.stroke).end;
    }

    /// The one stroke that goes on where a link ends; nothing where none or several do.
    std::optional<ChainLink> after(const ChainLink& link) const {
        std::optional<ChainLink> found;
        const Vec2 at = endOf(link);
        for (const auto& [id, ends] : m_ends)
            for (const bool against : {false, true}) {
                if (length((against ? ends.end : ends.begin) - at) > kMeet) continue;
                if (id == link.stroke && against != link.against) continue; // its own end
                if (found) return std::nullopt;
                found = ChainLink{id, against};
            }
        return found;
    }

  private:
    std::map<int, Ends> m_ends;
};

} // namespace

int Chain::key() const {
    int least = 0;
    for (const ChainLink& l : links)
        if (least == 0 || l.stroke < least) least = l.stroke;
    return least;
}

Chain chainOf(const std::map<int, std::vector<Curve2>>& strokes, const std::set<int>& helpers, int stroke) {
    Chain out;
    const Walk walk(strokes, helpers);
    if (!walk.has(stroke)) return out;
    out.links = {{stroke, false}};
    if (walk.loops(stroke)) {
        out.closed = true;
        return out;
    }
    const auto goOn = [&](ChainLink from) {
        std::vector<ChainLink> more;
        for (auto next = walk.after(from); next; next = walk.after(*next)) {
            if (next->stroke == stroke) {
                out.closed = true;
                break;
            }
            more.push_back(*next);
            if (more.size() > strokes.size()) break;
        }
        return more;
    };
    const auto ahead = goOn({stroke, false});
    out.links.insert(out.links.end(), ahead.begin(), ahead.end());
    if (!out.closed)
        for (ChainLink l : goOn({stroke, true})) {
            l.against = !l.against;
            out.links.insert(out.links.begin(), l);
        }
    // As it was drawn: its first stroke ahead, and of a closed one first.
    const int key = out.key();
    const auto first =
        std::find_if(out.links.begin(), out.links.end(), [&](const ChainLink& l) { return l.stroke == key; });
    if (first->against) {
        std::reverse(out.links.begin(), out.links.end());
        for (ChainLink& l : out.links) l.against = !l.against;
    }
    if (out.closed)
        std::rotate(out.links.begin(),
                    std::find_if(out.links.begin(), out.links.end(),
                                 [&](const ChainLink& l) { return l.stroke == key; }),
                    out.links.end());
    return out;
}

} // namespace gc
