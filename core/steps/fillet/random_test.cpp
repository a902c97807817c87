/// \file Rounds on bodies that are made up of bosses, pockets, slots and holes, each within 0.55 of what its
/// edge takes by itself.

#include "core/steps/fillet/corpus_cases.hpp"
#include "core/steps/fillet/rounding.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/rounded.hpp"
#include "tests/support/alone.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

#include <map>
#include <random>

using namespace gc;
using namespace gc::test;

namespace {

class MadeUp {
  public:
    explicit MadeUp(unsigned seed) : m_random(seeded(seed)) {}

    TopoDS_Shape body() {
        TopoDS_Shape out;
        switch (whole(0, 3)) {
        case 0:
            out = boxAt(0, 0, 0, 40, 30, 15);
            break;
        case 1: {
            const double in = 2 * 15 * std::tan(tenth(1, 4) * std::numbers::pi / 180);
            out = frustum(oblong(40, 30), oblong(40 - in, 30 - in), 0, 15);
            break;
        }
        case 2:
            out = cylinderAt(0, 0, 0, 20, 15);
            break;
        default:
            out = prismOf({{-20, -15}, {20, -15}, {20, 5}, {2, 5}, {2, 15}, {-20, 15}}, 15);
        }
        for (int n = whole(1, 4); n > 0; --n) out = withDetail(out);
        return out;
    }
    double between(double a, double b) { return std::uniform_real_distribution<double>(a, b)(m_random); }
    int whole(int a, int b) { return std::uniform_int_distribution<int>(a, b)(m_random); }
    std::mt19937& random() { return m_random; }

  private:
    double tenth(double a, double b) { return std::round(10 * between(a, b)) / 10; }
    TopoDS_Shape withDetail(const TopoDS_Shape& on) {
        const double x = tenth(-13, 10), y = tenth(-9, 3);
        switch (whole(0, 6)) {
        case 0:
            return joinedRaw(on, boxAt(x, y, 14, tenth(5, 14), tenth(5, 12), tenth(4, 8)));
        case 1:
            return joinedRaw(on, cylinderAt(x, y, 14, tenth(2.5, 6), tenth(4, 9)));
        case 2:
            return cutRaw(on, boxAt(x, y, tenth(4, 11), tenth(6, 14), tenth(6, 12), 20));
        case 3:
            return cutRaw(on, cylinderAt(x, y, tenth(4, 11), tenth(2.5, 6), 30));
        case 4:
            return cutRaw(on, boxAt(0, y, tenth(8, 12), 60, tenth(5, 10), 20));
        case 5:
            return cutRaw(on, boxAt(tenth(10, 20), 0, tenth(6, 11), tenth(8, 16), 60, 20));
        default: {
            const double a = tenth(8, 12), b = tenth(8, 12), h = tenth(5, 8), in = 2 * h * std::tan(0.05);
            std::vector<Vec2> low = oblong(a, b), high = oblong(a - in, b - in);
            for (auto* ring : {&low, &high})
                for (Vec2& c : *ring) c = c + Vec2{x, y};
            return joinedRaw(on, frustum(low, high, 15, h));
        }
        }
    }

    std::mt19937 m_random;
};

/// The largest radius that a chain takes by itself, within a twentieth; 0 where it takes none.
double largestAlone(const Body& body, EdgeChain chain) {
    double low = 0, high = 9;
    for (int i = 0; i < 7; ++i) {
        chain.first = chain.second = 0.5 * (low + high);
        (rounded(body, {chain}, 2) ? low : high) = chain.first;
    }
    return low;
}

bool shareFace(const NamedShape& s, const EdgeChain& a, const EdgeChain& b) {
    for (const TopoDS_Edge& e : a.edges)
        for (const TopoDS_Shape& f : facesBeside(s, e))
            for (const TopoDS_Edge& g : b.edges)
                for (const TopoDS_Shape& h : facesBeside(s, g))
                    if (f.IsSame(h)) return true;
    return false;
}

/// Some chains with radii that fit; fewer than two where the body has none.
std::vector<EdgeChain> asked(const Body& body, MadeUp& made) {
    RawEdges edges = edgesOf(body.shape().shape, anyEdge());
    std::shuffle(edges.begin(), edges.end(), made.random());
    edges.resize(std::min<std::size_t>(edges.size(), std::size_t(made.whole(3, 12))));
    BRepFilletAPI_MakeFillet asks(body.shape().shape);
    std::vector<int> numbers;
    for (const TopoDS_Edge& e : edges) numbers.push_back(body.shape().edges.FindIndex(e) - 1);
    std::vector<EdgeChain> chains;
    if (!addChains(body, numbers, 1, 1, false, asks, chains)) return {};
    std::vector<double> limits;
    for (std::size_t i = 0; i < chains.size(); ++i) {
        bool shares = false;
        for (std::size_t k = 0; k < chains.size(); ++k)
            shares = shares || (k != i && shareFace(body.shape(), chains[i], chains[k]));
        limits.push_back(largestAlone(body, chains[i]) * (shares ? 0.5 : 1));
    }
    const bool mixed = made.whole(0, 1) == 1;
    const double least = limits.empty() ? 0 : *std::min_element(limits.begin(), limits.end());
    std::vector<EdgeChain> out;
    for (std::size_t i = 0; i < chains.size(); ++i) {
        const double r = std::floor(10 * std::min(4.0, 0.55 * (mixed ? limits[i] : least))) / 10;
        if (r < 0.2) continue;
        chains[i].first = chains[i].second = r;
        out.push_back(chains[i]);
    }
    return out;
}

std::string outcomeOfMadeUp(unsigned seed) {
    MadeUp made(seed);
    const Body body = bodyOf(made.body());
    if (solidsIn(body.shape().shape) != 1) return "none";
    const auto chains = asked(body, made);
    if (chains.size() < 2) return "none";
    const auto raw = rounded(body, chains, 2);
    const std::string before = raw && meshAgrees(*raw) ? "raw " : "";
    const auto worked = roundEdges(body, chains, 2, Progress());
    if (!worked) return before + "refused " + worked.error().sentence.text();
    if (!meshAgrees(worked->body)) return before + "wrong";
    return before + (worked->left.empty() ? "whole"
                                          : "partly, left " + std::to_string(worked->left.size()) + " of " +
                                                std::to_string(chains.size()));
}

} // namespace

TEST_CASE("Bodies with many details take rounds that fit; what is left of some is named, none is wrong") {
    const int wanted = std::getenv("GC_DEEP") ? 120 : 6;
    std::map<std::string, int> count;
    int raw = 0, tried = 0;
    for (unsigned seed = 1; tried < wanted && seed < 10 * unsigned(wanted); ++seed) {
        auto [ended, said] = alone([&] { return outcomeOfMadeUp(seed); }, 240);
        if (ended && said == "none") continue;
        ++tried;
        const bool good = said.starts_with("raw ");
        if (good) said = said.substr(4);
        const std::string outcome = !ended ? "crashed" : said.substr(0, said.find_first_of(" ,"));
        INFO(seed << ": " << said);
        raw += good;
        ++count[outcome];
        CHECK(outcome != "wrong");
        CHECK(outcome != "crashed");
        if (good) CHECK(outcome == "whole");
        if (std::getenv("GC_DEEP") && outcome != "whole") WARN(seed << ": " << said);
    }
    std::string list;
    for (const auto& [what, n] : count) list += "\n  " + what + ": " + std::to_string(n);
    WARN(tried << " bodies, " << raw << " good in one go; in the end" << list);
    CHECK(count["whole"] >= 0.8 * tried);
}
