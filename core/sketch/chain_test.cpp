#include "core/sketch/chain.hpp"

#include <catch2/catch.hpp>

using namespace gc;

namespace {

class Strokes {
  public:
    int add(Vec2 a, Vec2 b) {
        Curve2 c;
        c.p[0] = a, c.p[1] = b;
        all[++m_last] = {c};
        return m_last;
    }
    Chain from(int stroke) const { return chainOf(all, helpers, stroke); }

    std::map<int, std::vector<Curve2>> all;
    std::set<int> helpers;

  private:
    int m_last = 0;
};

/// The strokes in the order of the walk; those walked against their direction below nothing.
std::vector<int> walk(const Chain& c) {
    std::vector<int> out;
    for (const ChainLink& l : c.links) out.push_back(l.against ? -l.stroke : l.stroke);
    return out;
}

} // namespace

TEST_CASE("A chain is the same from whichever of its strokes it is asked for") {
    Strokes s;
    const int second = s.add({10, 0}, {20, 0}), first = s.add({10, 0}, {0, 0}),
              third = s.add({30, 5}, {20, 0});
    const std::vector<int> wanted{-first, second, -third};
    for (const int stroke : {first, second, third}) {
        const Chain c = s.from(stroke);
        CHECK(walk(c) == wanted);
        CHECK_FALSE(c.closed);
        CHECK(c.key() == second); // the least of them
    }
    CHECK(s.from(99).links.empty());
}

TEST_CASE("A chain ends where strokes branch, and at helpers; one that closes begins with its first stroke") {
    Strokes s;
    const int a = s.add({0, 0}, {10, 0}), b = s.add({10, 0}, {20, 0}), up = s.add({10, 0}, {10, 9});
    CHECK(walk(s.from(a)) == std::vector{a});
    CHECK(walk(s.from(up)) == std::vector{up});
    s.helpers.insert(up);
    CHECK(walk(s.from(a)) == std::vector{a, b});
    CHECK(s.from(up).links.empty());
    Strokes ring;
    const int p = ring.add({0, 0}, {5, 0}), q = ring.add({0, 5}, {5, 0}), r = ring.add({0, 5}, {0, 0});
    for (const int stroke : {p, q, r}) {
        const Chain c = ring.from(stroke);
        CHECK(c.closed);
        CHECK(walk(c) == std::vector{p, -q, r});
    }
}
