/// \file How far a part lies from the scan of a made one, in the real window.

#include "tests/support/stl_text.hpp"
#include "tests/window/finish_hand.hpp"

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

/// A block of 60 by 40, 30 high, in triangles; its top lies higher by so much, mm.
std::string scanOf(double higher) {
    return stlText({{{-30, -20, 0}, {30, 20, 30 + higher}}});
}
void scanned(Part& p) {
    largeBlock(p);
    p.attachments.push_back({"scan.stl", SharedText(scanOf(0.4))});
    test::add(p, "import", {{"file", std::string("scan.stl")}, {"body", std::string("scan")}});
    p.brief.targets.push_back({"deviation", "≤ 0.3 mm"});
}
QPushButton* buttonOf(Stand* stand) {
    for (QPushButton* b : stand->findChildren<QPushButton*>())
        if (b->accessibleName() == QStringLiteral("Deviation")) return b;
    return nullptr;
}

} // namespace

TEST_CASE(
    "How far the part lies from a scan is seen in colours, read at the pointer, and judged by a target") {
    FinishBench t(scanned);
    Stand* stand = t.window.stand();
    REQUIRE(Hand::wait([&] { return buttonOf(stand) && buttonOf(stand)->isVisible(); }, 30000));
    REQUIRE(t.quiet());
    t.hand->click(buttonOf(stand), {20, 12});
    CHECK(stand->overlay() == Overlay::Deviation);
    // The top lies 0.4 below that of the scan; the scan itself does not hide it.
    REQUIRE(Hand::steady([&] { return t.at({0, 0, 30}); }));
    t.hand->moveTo(stand, t.at({4, 0, 30}));
    CHECK(Hand::wait([&] { return stand->reading() == QStringLiteral("0.4 mm inside of it"); }, 5000));
    t.hand->moveTo(stand, t.at({0, -20, 12}));
    CHECK(Hand::wait([&] { return stand->reading().startsWith(QStringLiteral("0 mm")); }, 5000));
    const auto& targets = t.window.forge()->targets();
    REQUIRE(Hand::wait([&] { return !targets.empty() && targets.back().verdict == QStringLiteral("fails"); },
                       20000));
    CHECK(targets.back().text == QStringLiteral("0.4 mm"));
}

TEST_CASE("Without an imported body nothing is offered to compare with") {
    FinishBench t(largeBlock);
    REQUIRE(t.quiet());
    REQUIRE(Hand::wait([&] { return t.window.forge()->wallsKnown(); }, 30000));
    REQUIRE(buttonOf(t.window.stand()));
    CHECK_FALSE(buttonOf(t.window.stand())->isVisible());
}
