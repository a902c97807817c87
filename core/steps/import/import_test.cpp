#include "core/base/file.hpp"
#include "core/exchange/export.hpp"
#include "core/inspect/mass.hpp"
#include "tests/support/probe.hpp"
#include "tests/support/temporary_folder.hpp"

#include <catch2/catch.hpp>

#include <filesystem>
#include <unistd.h>

using namespace gc;
using namespace gc::test;

namespace {

std::string cupAsStep() {
    const auto r = Engine().regenerate(cup());
    const TemporaryFolder folder;
    const auto path = folder.path() / "cup.step";
    REQUIRE(exportBodies({{"cup", r.state.body("cup")}}, "cup", path).ok());
    const std::string content = *readFile(path);
    return content;
}

const ProbeOf probe("import", [] {
    Probe p;
    const std::string step = cupAsStep();
    p.part.attachments = {{"a.step", step}, {"b.step", step + "\n"}};
    p.step = add(p.part, "import", {{"file", std::string("a.step")}}).id;
    p.shows = {{"file", text("file", "b.step")}};
    return p;
});

} // namespace

TEST_CASE("What comes in has the volume of what went out, and can be worked on") {
    const auto out = Engine().regenerate(cup());
    Part p;
    p.attachments = {{"a.step", cupAsStep()}};
    add(p, "import", {{"file", std::string("a.step")}});
    const auto in = Engine().regenerate(p);
    INFO(faults(in));
    REQUIRE(allFine(in));
    CHECK(massProperties(in.state.body("imported"), Density(1e-3))->volume ==
          Approx(massProperties(out.state.body("cup"), Density(1e-3))->volume).epsilon(1e-8));
}
