/// \file Every relation alone and in pairs, held against its meaning.

#include "core/sketch/solve/clash.hpp"
#include "tests/support/pen.hpp"
#include "tests/support/rank.hpp"

#include <catch2/catch.hpp>

#include <functional>

using namespace gc;
using namespace gc::test;

namespace {

/// One thing of each sort that a relation may join, in general position.
struct Scene : Pen {
    int a = line({0, 0}, {20, 3}), b = line({5, 12}, {22, 30}), c = line({-10, 5}, {-14, 25});
    int round = circle({30, 10}, 6), other = circle({44, 22}, 4), bow = arc({-25, -5}, 7, 0.3, 2.2);
    int p = dot({8, -9}), q = dot({17, -14});
};

struct Try {
    const char* name;
    K kind;
    std::function<std::vector<int>(const Scene&)> of;
    double value = 0;
    /// How far the relation is from holding, worked out from its meaning.
    std::function<double(const Scene&)> miss;
};

double sine(Vec2 u, Vec2 v) {
    return cross(u, v) / (length(u) * length(v));
}

const std::vector<Try>& tries() {
    static const std::vector<Try> all{
        {"coincident", K::Coincident,
         [](const Scene& s) {
             return std::vector{s.p, s.q};
         },
         0, [](const Scene& s) { return length(s.at(s.p) - s.at(s.q)); }},
        {"on a line", K::OnStroke,
         [](const Scene& s) {
             return std::vector{s.p, s.b};
         },
         0, [](const Scene& s) { return heightOver(s, s.b, s.at(s.p)); }},
        {"on a circle", K::OnStroke,
         [](const Scene& s) {
             return std::vector{s.q, s.round};
         },
         0, [](const Scene& s) { return length(s.at(s.q) - s.at(s.centre(s.round))) - s.radius(s.round); }},
        {"level", K::Horizontal, [](const Scene& s) { return std::vector{s.a}; }, 0,
         [](const Scene& s) { return s.along(s.a).y; }},
        {"points level", K::Horizontal,
         [](const Scene& s) {
             return std::vector{s.p, s.q};
         },
         0, [](const Scene& s) { return s.at(s.p).y - s.at(s.q).y; }},
        {"upright", K::Vertical, [](const Scene& s) { return std::vector{s.c}; }, 0,
         [](const Scene& s) { return s.along(s.c).x; }},
        {"parallel", K::Parallel,
         [](const Scene& s) {
             return std::vector{s.a, s.b};
         },
         0, [](const Scene& s) { return sine(s.along(s.a), s.along(s.b)); }},
        {"square", K::Perpendicular,
         [](const Scene& s) {
             return std::vector{s.b, s.c};
         },
         0,
         [](const Scene& s) {
             return dot(s.along(s.b), s.along(s.c)) / (length(s.along(s.b)) * length(s.along(s.c)));
         }},
        {"tangent line and circle", K::Tangent,
         [](const Scene& s) {
             return std::vector{s.b, s.round};
         },
         0,
         [](const Scene& s) {
             return std::fabs(heightOver(s, s.b, s.at(s.centre(s.round)))) - s.radius(s.round);
         }},
        {"tangent circles", K::Tangent,
         [](const Scene& s) {
             return std::vector{s.round, s.other};
         },
         0,
         [](const Scene& s) {
             return length(s.at(s.centre(s.round)) - s.at(s.centre(s.other))) - s.radius(s.round) -
                    s.radius(s.other);
         }},
        {"tangent arc and line", K::Tangent,
         [](const Scene& s) {
             return std::vector{s.bow, s.c};
         },
         0,
         [](const Scene& s) {
             return std::fabs(heightOver(s, s.c, s.at(s.centre(s.bow)))) - s.radius(s.bow);
         }},
        {"equal lines", K::Equal,
         [](const Scene& s) {
             return std::vector{s.a, s.c};
         },
         0, [](const Scene& s) { return length(s.along(s.a)) - length(s.along(s.c)); }},
        {"equal circles", K::Equal,
         [](const Scene& s) {
             return std::vector{s.round, s.bow};
         },
         0, [](const Scene& s) { return s.radius(s.round) - s.radius(s.bow); }},
        {"concentric", K::Concentric,
         [](const Scene& s) {
             return std::vector{s.other, s.bow};
         },
         0, [](const Scene& s) { return length(s.at(s.centre(s.other)) - s.at(s.centre(s.bow))); }},
        {"midpoint", K::Midpoint,
         [](const Scene& s) {
             return std::vector{s.p, s.c};
         },
         0, [](const Scene& s) { return length(s.at(s.p) - (s.at(s.from(s.c)) + s.at(s.to(s.c))) * 0.5); }},
        {"symmetric points", K::Symmetric,
         [](const Scene& s) {
             return std::vector{s.p, s.q, s.b};
         },
         0,
         [](const Scene& s) { // mirror one and compare
             const Vec2 u = s.along(s.b) * (1 / length(s.along(s.b))), o = s.at(s.from(s.b)),
                        d = s.at(s.p) - o;
             return length(o + u * (2 * dot(d, u)) - d - s.at(s.q));
         }},
        {"in line", K::Collinear,
         [](const Scene& s) {
             return std::vector{s.a, s.b};
         },
         0,
         [](const Scene& s) {
             return std::max(std::fabs(heightOver(s, s.a, s.at(s.from(s.b)))),
                             std::fabs(heightOver(s, s.a, s.at(s.to(s.b)))));
         }},
        {"length", K::Distance, [](const Scene& s) { return std::vector{s.a}; }, 31,
         [](const Scene& s) { return length(s.along(s.a)) - 31; }},
        {"point to line", K::Distance,
         [](const Scene& s) {
             return std::vector{s.p, s.a};
         },
         14, [](const Scene& s) { return std::fabs(heightOver(s, s.a, s.at(s.p))) - 14; }},
        {"point to point", K::Distance,
         [](const Scene& s) {
             return std::vector{s.p, s.q};
         },
         5, [](const Scene& s) { return length(s.at(s.p) - s.at(s.q)) - 5; }},
        {"across", K::Across, [](const Scene& s) { return std::vector{s.b}; }, 25,
         [](const Scene& s) { return s.along(s.b).x - 25; }},
        {"up", K::Along,
         [](const Scene& s) {
             return std::vector{s.q, s.p};
         },
         9, [](const Scene& s) { return s.at(s.p).y - s.at(s.q).y - 9; }},
        {"radius", K::Radius, [](const Scene& s) { return std::vector{s.round}; }, 8,
         [](const Scene& s) { return s.radius(s.round) - 8; }},
        {"diameter", K::Diameter, [](const Scene& s) { return std::vector{s.bow}; }, 11,
         [](const Scene& s) { return 2 * s.radius(s.bow) - 11; }},
        {"about the axis", K::DiameterAboutAxis, [](const Scene& s) { return std::vector{s.to(s.b)}; }, 50,
         [](const Scene& s) { return 2 * std::fabs(s.at(s.to(s.b)).x) - 50; }},
        {"angle", K::AngleBetween,
         [](const Scene& s) {
             return std::vector{s.a, s.b};
         },
         1.1,
         [](const Scene& s) {
             return std::acos(dot(s.along(s.a), s.along(s.b)) /
                              (length(s.along(s.a)) * length(s.along(s.b)))) -
                    1.1;
         }},
        {"arc length", K::ArcLength, [](const Scene& s) { return std::vector{s.bow}; }, 16,
         [](const Scene& s) { // by chords
             const Vec2 o = s.at(s.centre(s.bow)), f = s.at(s.from(s.bow)) - o, t = s.at(s.to(s.bow)) - o;
             double turn = std::atan2(t.y, t.x) - std::atan2(f.y, f.x);
             if (turn < 0) turn += 2 * kPi;
             return length(f) * turn - 16;
         }},
        {"ratio", K::Ratio,
         [](const Scene& s) {
             return std::vector{s.b, s.a};
         },
         1.5, [](const Scene& s) { return length(s.along(s.b)) - 1.5 * length(s.along(s.a)); }},
        {"same step", K::SameStep,
         [](const Scene& s) {
             return std::vector{s.p, s.q, s.from(s.c), s.to(s.b)};
         },
         0,
         [](const Scene& s) { return length(s.at(s.q) - s.at(s.p) - s.at(s.to(s.b)) + s.at(s.from(s.c))); }},
        {"turned", K::Turned,
         [](const Scene& s) {
             return std::vector{s.p, s.q, s.to(s.a)};
         },
         0.7,
         [](const Scene& s) { // equally far from the centre, and the angle by its cosine
             const Vec2 u = s.at(s.p) - s.at(s.to(s.a)), v = s.at(s.q) - s.at(s.to(s.a));
             if (length(u) + length(v) < 1e-9) return 0.0; // what lies on the centre turns on the spot
             return std::fabs(length(u) - length(v)) +
                    std::fabs(std::acos(std::clamp(dot(u, v) / (length(u) * length(v)), -1.0, 1.0)) - 0.7);
         }},
        {"wall between rounds", K::Distance,
         [](const Scene& s) {
             return std::vector{s.bow, s.other};
         },
         1.25, [](const Scene& s) { return s.radius(s.bow) - s.radius(s.other) - 1.25; }},
    };
    return all;
}

} // namespace

TEST_CASE("Every relation alone is met, by its meaning, and takes the freedoms that it should") {
    for (const Try& t : tries()) {
        INFO(t.name);
        Scene s;
        const int before = countFreedoms(s.d, s.v);
        CHECK(before == freedomsByDifferences(s.d, s.v));
        REQUIRE(whyNot(s.d, t.kind, t.of(s)).empty());
        s.size(t.kind, t.of(s), t.value);
        if (!wordsOf(t.kind).sized) s.v.clear();
        const Settlement r = s.settle();
        CHECK(r.solved);
        CHECK(r.residual < kGood);
        CHECK(std::fabs(t.miss(s)) < 1e-8);
        CHECK(countFreedoms(s.d, s.v) == freedomsByDifferences(s.d, s.v));
        CHECK(countFreedoms(s.d, s.v) < before);
    }
}

TEST_CASE("Every pair of relations is met together, or is said to clash") {
    int met = 0, clashing = 0;
    for (std::size_t i = 0; i < tries().size(); ++i)
        for (std::size_t j = i + 1; j < tries().size(); ++j) {
            const Try &t = tries()[i], &u = tries()[j];
            INFO(t.name << " and " << u.name);
            Scene s;
            for (const Try* one : {&t, &u}) {
                const int id = s.d.relate(one->kind, one->of(s));
                if (wordsOf(one->kind).sized) s.v[id] = one->value;
            }
            const Settlement r = s.settle();
            if (r.solved && r.senseKept) {
                CHECK(std::fabs(t.miss(s)) < 1e-8);
                CHECK(std::fabs(u.miss(s)) < 1e-8);
                CHECK(countFreedoms(s.d, s.v) == freedomsByDifferences(s.d, s.v));
                ++met;
            } else {
                const Diagnosis d = diagnose(s.d, s.v);
                CHECK(d.clashes.size() == 1);
                ++clashing;
            }
        }
    CHECK(met + clashing == 465);
    CHECK(clashing <= 8); // points that are one cannot be 5 mm apart, and the like
}
