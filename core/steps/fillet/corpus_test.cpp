/// \file Rounds on many bodies with radii from harmless to far too large. None may be silently wrong: each
/// result is held against the ball's distance from both faces by the step itself, and here against the mesh:
/// its volume, and that it does not run through itself.

#include "core/steps/fillet/corpus_more.hpp"
#include "core/steps/fillet/rounding.hpp"
#include "core/steps/shared/rounded.hpp"
#include "tests/support/alone.hpp"

#include <catch2/catch.hpp>

#include <map>

using namespace gc;
using namespace gc::test;

namespace {

/// As the step does it, and whether the mesh says the same as the exact volume: "whole", "partly", "refused"
/// or "wrong"; after "raw " where it is good in one go.
std::string outcomeOf(const Case& c) {
    const Body body = bodyOf(c.shape);
    BRepFilletAPI_MakeFillet asks(body.shape().shape);
    std::vector<EdgeChain> chains;
    for (const auto& [edges, radius] : c.rows) {
        if (edges.empty()) return "empty";
        std::vector<int> numbers;
        for (const TopoDS_Edge& e : edges) numbers.push_back(body.shape().edges.FindIndex(e) - 1);
        if (!addChains(body, numbers, radius, radius, false, asks, chains)) return "refused";
    }
    const auto raw = rounded(body, chains, 2);
    const std::string before = raw && meshAgrees(*raw) ? "raw " : "";
    const auto worked = roundEdges(body, chains, 2, Progress());
    if (!worked) return before + "refused";
    if (!meshAgrees(worked->body)) return before + "wrong";
    return before + (worked->left.empty() ? "whole" : "partly");
}

} // namespace

TEST_CASE("Rounds of every size on many bodies are whole, partly done, or refused; none is wrong") {
    auto cases = filletCorpus();
    for (Case& c : moreForTheFilletCorpus()) cases.push_back(std::move(c));
    const std::size_t every = std::getenv("GC_DEEP") ? 1 : 17;
    std::map<std::string, int> count;
    int raw = 0;
    const char* only = std::getenv("GC_CASE"); // one of them, by its name
    for (std::size_t i = 0; i < cases.size(); i += only ? 1 : every) {
        if (only && cases[i].name != only) continue;
        const auto [ended, said] = alone([&] { return outcomeOf(cases[i]); });
        const bool good = said.starts_with("raw ");
        const std::string outcome = !ended ? "crashed" : good ? said.substr(4) : said;
        INFO(cases[i].name << ": " << outcome);
        raw += good;
        ++count[outcome];
        CHECK(outcome != "wrong");
        CHECK(outcome != "empty");
        if (good) CHECK(outcome == "whole");
        if (std::getenv("GC_DEEP") && outcome != "whole") WARN(cases[i].name << ": " << outcome);
    }
    std::string list;
    for (const auto& [what, n] : count) list += "\n  " + what + ": " + std::to_string(n);
    WARN(cases.size() << " cases, " << raw << " good in one go; in the end" << list);
}

TEST_CASE("Where a small round makes way for a larger one, other edges between the same faces stay sharp") {
    // A notch parts the top of a block, and the upper edge of its front, in two; both parts of the top have
    // one name.
    const TopoDS_Shape shape = cutRaw(boxAt(0, 0, 0, 40, 30, 20), boxAt(0, 0, 12, 10, 60, 20));
    NameBuilder names(shape);
    for (int i = 1; i <= names.faces().Extent(); ++i) {
        const BRepAdaptor_Surface f(TopoDS::Face(names.faces()(i)), false);
        const bool top = std::fabs(f.Plane().Axis().Direction().Z()) > 0.9 && f.Plane().Location().Z() > 19;
        names.add(names.faces()(i), internName(1, top ? "end" : "side " + std::to_string(i)));
    }
    const Body body = *names.finish();
    const auto chainsAt = [](const Body& b, const std::vector<Vec3>& middles, double radius) {
        BRepFilletAPI_MakeFillet asks(b.shape().shape);
        std::vector<EdgeChain> out;
        for (const Vec3& at : middles) {
            const auto edges =
                edgesOf(b.shape().shape, [&](const gp_Pnt& p, const TopoDS_Edge&, const auto&) {
                    return length(toVec(p) - at) < 1;
                });
            REQUIRE(edges.size() == 1);
            REQUIRE(addChains(b, {b.shape().edges.FindIndex(edges[0]) - 1}, radius, radius, false, asks, out)
                        .ok());
        }
        return out;
    };
    const auto small = chainsAt(body, {{-12.5, -15, 20}}, 1);
    auto large = chainsAt(body, {{-20, 0, 20}, {-20, -15, 10}}, 4);
    const auto first = rounded(body, small, 2);
    REQUIRE(first.ok());
    // The rim of the left wall, round the end of the small round, by more than that.
    const auto second = roundEdges(*first, chainsAt(*first, {{-20, 0.5, 20}}, 4), 3, Progress());
    REQUIRE(second.ok());
    CHECK(second->left.empty());
    large.insert(large.end(), small.begin(), small.end());
    const auto together = rounded(body, large, 2);
    REQUIRE(together.ok());
    const auto volume = [](const Body& b) { return massProperties(b, Density(1e-3))->volume; };
    CHECK(volume(second->body) == Approx(volume(*together)).epsilon(1e-9));
}
