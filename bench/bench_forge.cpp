/// How soon the forge answers while it works: what is pointed at, and a newer part. Ratios against raw work
/// in the same run, for machines are noisy. Build and run: cmake --build --preset release --target
/// bench_forge && build/release/bin/bench_forge

#include "tests/support/forge_hand.hpp"

#include <cstdio>

using namespace gc;
using namespace gc::test;
using namespace std::chrono_literals;

namespace {

using Clock = ForgeHand::Clock;

double msSince(Clock::time_point start) {
    return std::chrono::duration<double, std::milli>(Clock::now() - start).count();
}

/// Points at faces every 30 ms while the part is built and measured. \return the answers' times, ms,
/// ascending
std::vector<double> pointing(ForgeHand& forge, int& ask, int times) {
    std::vector<double> out;
    for (int k = 0; k < times; ++k) {
        say::FindItems m;
        m.ask = ++ask;
        m.references = {"wall of step 2"};
        const auto start = Clock::now();
        forge.post(m);
        if (!forge.wait<say::ItemsFound>([&](const say::ItemsFound& a) { return a.ask == m.ask; })) break;
        out.push_back(msSince(start));
        std::this_thread::sleep_for(30ms); // the pace of a hand
    }
    std::sort(out.begin(), out.end());
    return out;
}

void report(const char* what, const std::vector<double>& ms) {
    if (ms.empty()) return;
    std::printf("%s: median %.1f ms, longest %.1f ms of %zu\n", what, ms[ms.size() / 2], ms.back(),
                ms.size());
}

} // namespace

int main() {
    const auto pot = loadPart("demo/herb-pot.goodcurve");
    if (!pot) return 1;
    ForgeHand forge;
    int ask = 0, revision = 1;
    const auto start = Clock::now();
    forge.build(*pot, revision);
    forge.done(revision);
    const double whole = msSince(start);
    std::printf("the whole part, built and measured: %.0f ms\n", whole);
    report("pointed at while idle", pointing(forge, ask, 20));
    // Each wall is another part: everything behind the shell is made and measured anew.
    std::vector<double> busy;
    for (int k = 0; k < 6; ++k) {
        Part p = *pot;
        p.values[0].expression = std::to_string(2.1 + 0.07 * k) + " mm";
        forge.build(p, ++revision);
        const auto some = pointing(forge, ask, 20);
        busy.insert(busy.end(), some.begin(), some.end());
        forge.done(revision);
    }
    std::sort(busy.begin(), busy.end());
    report("pointed at while it builds and measures", busy);
    // A newer part while the older is built or measured: how soon its first step begins.
    std::vector<double> superseded;
    for (int k = 0; k < 12; ++k) {
        Part p = *pot;
        p.values[0].expression = std::to_string(2.0 + 0.031 * k) + " mm";
        forge.build(p, ++revision);
        std::this_thread::sleep_for(std::chrono::milliseconds(20 + 60 * k));
        p.values[0].expression = std::to_string(2.5 + 0.031 * k) + " mm";
        const auto asked = Clock::now();
        forge.build(p, ++revision);
        const int wanted = revision;
        forge.wait<say::StepFared>([&](const say::StepFared& s) { return s.revision == wanted; });
        superseded.push_back(msSince(asked));
        forge.done(revision);
        forge.forget();
    }
    std::sort(superseded.begin(), superseded.end());
    report("a newer part's first step", superseded);
    return 0;
}
