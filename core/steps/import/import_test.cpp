#include "core/exchange/export.hpp"
#include "core/exchange/step_file.hpp"
#include "core/inspect/mass.hpp"
#include "tests/support/importing.hpp"
#include "tests/support/seeded.hpp"

#include <BRepPrimAPI_MakeBox.hxx>
#include <Quantity_Color.hxx>
#include <TDataStd_Name.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
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

const ProbeOf importProbe("import", [] {
    Probe p;
    const std::string step = cupAsStep();
    p.part.attachments = {{"a.step", step}, {"b.step", step + "\n"}};
    p.step = add(p.part, "import", {{"file", std::string("a.step")}}).id;
    p.shows = {{"which of its bodies", text("which", "cup")},
               {"file", text("file", "b.step")},
               {"closing", text("open", "closed where it is open")}};
    p.hides = {{"unit of triangles", text("unit", "in inches")}};
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

namespace {

/// A file with two blocks of 10 by 20 by 30 mm, put there by an assembly, the second turned and moved.
std::string assembly() {
    Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
    const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
    const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(document->Main());
    const TDF_Label box = shapes->AddShape(BRepPrimAPI_MakeBox(10, 20, 30).Shape(), false);
    TDataStd_Name::Set(box, "foot");
    colours->SetColor(box, Quantity_Color(0.8, 0.1, 0.1, Quantity_TOC_sRGB), XCAFDoc_ColorSurf);
    const TDF_Label whole = shapes->NewShape();
    TDataStd_Name::Set(whole, "stand");
    gp_Trsf there;
    there.SetRotation(gp_Ax1({0, 0, 0}, {0, 0, 1}), 1.5707963267948966);
    there.SetTranslationPart({100, 0, 0});
    shapes->AddComponent(whole, box, TopLoc_Location());
    shapes->AddComponent(whole, box, TopLoc_Location(there));
    shapes->UpdateAssemblies();
    return stepText(document);
}

} // namespace

TEST_CASE("An assembly comes in as bodies where it puts them, with their names and colours") {
    const auto r = importing(assembly());
    INFO(faults(r));
    REQUIRE(allFine(r));
    REQUIRE(r.state.bodies.size() == 2);
    const ThingId first{r.steps[0].id, 0}, second{r.steps[0].id, 1};
    for (const ThingId id : {first, second}) {
        CHECK(r.state.offers.at(id).name == "foot");
        CHECK(r.state.offers.at(id).colour == "#cc1a1a");
        CHECK(massProperties(r.state.bodies.at(id).value, Density(1e-3))->volume == Approx(6000));
    }
    const Box a = envelope(r.state.bodies.at(first).value), b = envelope(r.state.bodies.at(second).value);
    CHECK(a.high.x == Approx(10));
    CHECK(b.low.x == Approx(80)); // turned by 90 degrees about the upright through 100, 0
    CHECK(b.high.x == Approx(100));
    CHECK(b.high.y == Approx(10));
}

TEST_CASE("Names and colours of a file are taken over, each name once") {
    Part p;
    p.attachments = {{"a.step", assembly()}};
    const int id = add(p, "import", {{"file", std::string("a.step")}}).id;
    takeOver(p, {id, 0}, "foot", "#cc1a1a");
    takeOver(p, {id, 1}, "foot", "");
    CHECK(nameOfBody(p, {id, 0}) == "foot");
    CHECK(nameOfBody(p, {id, 1}) == "foot 2");
    CHECK(colourOf(p, {id, 0}) == "#cc1a1a");
    takeOver(p, {id, 1}, "front", ""); // a plane is called so
    CHECK(nameOfBody(p, {id, 1}) == "front body");
    p.findStep(id)->slots["body"] = std::string("pedestal"); // typed by a person
    takeOver(p, {id, 0}, "foot", "");
    CHECK(nameOfBody(p, {id, 0}) == "pedestal");
}

TEST_CASE("Of a file's bodies those are taken that the sentence names, and each keeps its place") {
    const std::string file = assembly();
    const auto all = importing(file);
    REQUIRE(all.steps.back().ok);
    const auto& offered = all.steps.back().aids.fileBodies;
    REQUIRE(offered.size() == 2);
    CHECK(offered[0].name == "foot");
    CHECK(offered[1].name == "foot (2)");
    CHECK((offered[0].taken && offered[1].taken));
    REQUIRE(all.state.bodies.count({1, 1}) == 1);

    // The second alone is what it was among both: what refers to it stays right.
    const auto second = importing(file, text("which", "foot (2)"));
    REQUIRE(second.steps.back().ok);
    CHECK(second.state.bodies.size() == 1);
    REQUIRE(second.state.bodies.count({1, 1}) == 1);
    const auto centre = [](const RegenResult& r) {
        return massProperties(r.state.bodies.at({1, 1}).value, Density(1e-3))->centre;
    };
    CHECK(length(centre(second) - centre(all)) < 1e-9);
    CHECK_FALSE(second.steps.back().aids.fileBodies[0].taken);
    CHECK(second.steps.back().notes.back().text() == "1 of the 2 bodies in the file are taken.");

    const auto one = importing(file, text("which", "foot | lid"));
    REQUIRE(one.steps.back().ok);
    CHECK(one.state.bodies.size() == 1);
    CHECK(one.steps.back().notes.front().text().find("lid") != std::string::npos);

    const auto none = importing(file, text("which", "lid"));
    REQUIRE_FALSE(none.steps.back().ok);
    CHECK(none.steps.back().error->code == "import.which");
    CHECK(none.steps.back().aids.fileBodies.size() == 2); // to choose from
}

TEST_CASE("Lengths of a file come in as millimetres, whatever their unit") {
    std::string metres = cupAsStep();
    const auto at = metres.find(".MILLI.,.METRE.");
    REQUIRE(at != std::string::npos);
    metres.replace(at, 15, "$,.METRE.");
    const auto r = importing(metres), mm = importing(cupAsStep());
    REQUIRE(allFine(r));
    CHECK(envelope(r.state.body("imported")).size().z ==
          Approx(1000 * envelope(mm.state.body("imported")).size().z));
}

TEST_CASE("STEP files that are cut off or garbled are refused, and nothing breaks") {
    const std::string whole = assembly();
    auto random = seeded(31U);
    for (int k = 0; k < 60; ++k) {
        std::string bad = whole;
        if (k % 2)
            bad.resize(random() % bad.size());
        else
            for (int n = 0; n < 12; ++n) bad[random() % bad.size()] = static_cast<char>(33 + random() % 90);
        const auto read = readStep(bad, 1);
        if (!read) CHECK((read.error().code == "step.syntax" || read.error().code == "step.empty"));
    }
}
