/// \file A file that another one takes the place of: what referred to its faces finds them again, or asks.

#include "core/base/angles.hpp"
#include "core/exchange/export.hpp"
#include "core/regen/found_anew.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/built.hpp"
#include "tests/support/importing.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const Body& onlyBody(const RegenResult& r) {
    return r.state.bodies.rbegin()->second.value;
}
std::string asStep(const Part& part) {
    const TemporaryFolder folder;
    const auto path = folder.path() / "thing.step";
    REQUIRE(exportBodies({{"thing", onlyBody(built(part))}}, "thing", path).ok());
    return *readFile(path);
}
std::string nameOfEdge(const Body& body, int edge) {
    for (const std::string& r : referencesForEdge(body, edge))
        if (r.starts_with("where ")) return r;
    FAIL("an edge without a name of its own");
    return {};
}
/// The edge whose middle is nearest to a place.
int edgeAt(const Body& body, const Vec3& at) {
    int best = 0;
    double least = 1e300;
    for (int i = 0; i < body.shape().edges.Extent(); ++i)
        if (const double d = length(body.shape().middleOf({i}, true) - at); d < least) least = d, best = i;
    return best;
}
void rounded(Part& p, const std::string& edge) {
    add(p, "fillet", {{"edges", References{edge}}, {"radius", std::string("1.5 mm")}});
}

} // namespace

TEST_CASE("After a chamfer more in the file every edge is right, or the right one is asked for first") {
    Part before = gc::test::block(), after = gc::test::block();
    const Body plain = onlyBody(built(before));
    const int cut = edgeAt(plain, {20, 0, 20});
    add(after, "chamfer", {{"edges", References{nameOfEdge(plain, cut)}}, {"size", std::string("4 mm")}});
    Part p;
    p.attachments = {{"old.step", asStep(before)}, {"new.step", asStep(after)}};
    add(p, "import", {{"file", std::string("old.step")}});
    const Body old = onlyBody(built(p));
    const Body native = onlyBody(built(after));
    int right = 0, asked = 0;
    for (int i = 0; i < old.shape().edges.Extent(); ++i) {
        const Vec3 middle = old.shape().middleOf({i}, true);
        Part q = p;
        rounded(q, nameOfEdge(old, i));
        REQUIRE(allFine(Engine().regenerate(q)));
        q.steps.front().slots["file"] = std::string("new.step");
        auto r = Engine().regenerate(q);
        INFO("edge at " << middle.x << " " << middle.y << " " << middle.z << ": " << faults(r));
        if (!r.steps.back().ok) {
            REQUIRE(r.steps.back().error->question);
            const Question& question = *r.steps.back().error->question;
            REQUIRE_FALSE(question.answers.empty());
            ++asked;
            if (length(middle - Vec3{20, 0, 20}) < 1e-6) continue; // it is gone: nothing is right
            q.steps.back().slots["edges"] = References{question.answers.front()};
            r = Engine().regenerate(q);
            REQUIRE(allFine(r));
        } else
            ++right;
        Part truth = after;
        rounded(truth, nameOfEdge(native, edgeAt(native, middle)));
        CHECK(volumeOf(r) == Approx(volumeOf(built(truth))).epsilon(1e-9));
    }
    CHECK(right + asked == 12);
    CHECK(right >= 1); // where neither face was cut
}

TEST_CASE("A face that is another in the new file is asked for: nothing is taken silently") {
    Part before = gc::test::block(), after = gc::test::block();
    after.steps.back().slots["length"] = std::string("24 mm");
    Part p;
    p.attachments = {{"old.step", asStep(before)}, {"new.step", asStep(after)}};
    add(p, "import", {{"file", std::string("old.step")}});
    const std::string top = "flat face 34.64 at 0.00 0.00 20.00 of step 1";
    add(p, "shell", {{"open", References{top}}, {"wall", std::string("2 mm")}});
    CHECK(volumeOf(built(p)) == Approx(40 * 30 * 20 - 36 * 26 * 18));
    p.steps.front().slots["file"] = std::string("new.step");
    const auto r = Engine().regenerate(p);
    REQUIRE(r.steps.back().error);
    const Error& e = *r.steps.back().error;
    REQUIRE(e.question);
    CHECK(e.question->about == top);
    p.steps.back().slots["open"] = References{e.question->answers.front()};
    CHECK(volumeOf(built(p)) == Approx(40 * 30 * 24 - 36 * 26 * 22));
}

TEST_CASE("An edge both of whose faces are others is found by both, and shown where it lies") {
    Part before = gc::test::block(), after = gc::test::block();
    after.steps.back().slots["length"] = std::string("24 mm"); // all but the floor are others
    Part p;
    p.attachments = {{"old.step", asStep(before)}, {"new.step", asStep(after)}};
    add(p, "import", {{"file", std::string("old.step")}});
    const Body old = onlyBody(built(p));
    rounded(p, nameOfEdge(old, edgeAt(old, {20, 15, 10})));
    p.steps.front().slots["file"] = std::string("new.step");
    const Error e = faultOf(p);
    CHECK(e.sentence.text().find("another one now") != std::string::npos);
    REQUIRE(e.place);
    CHECK(length(*e.place - Vec3{20, 15, 12}) < 1e-6);
    REQUIRE(e.question);
    p.steps.back().slots["edges"] = References{e.question->answers.front()};
    CHECK(volumeOf(built(p)) == Approx(40 * 30 * 24 - (1 - kPi / 4) * 2.25 * 24));
}

TEST_CASE("What rests on no file is not looked for in one") {
    Part p = gc::test::block();
    const auto r = built(p);
    CHECK(foundAnew("end of step 2", p, r.state).empty());
    CHECK(foundAnew("flat face 34.64 at 0.00 0.00 21.00 of step 2", p, r.state).empty());
}
