// What else than sound solids STEP files hold: surfaces, assemblies in assemblies, shapes that are broken.

#include "core/exchange/healing.hpp"
#include "core/exchange/step_file.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/mesh.hpp"
#include "tests/support/importing.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <TDataStd_Name.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

std::string stepOf(const TopoDS_Shape& shape) {
    const Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
    XCAFDoc_DocumentTool::ShapeTool(document->Main())->AddShape(shape, false);
    return stepText(document);
}

/// A shell of all faces of a shape but those that the filter takes out.
template <class LeavesOut>
TopoDS_Shell without(const TopoDS_Shape& shape, LeavesOut&& leavesOut) {
    TopoDS_Shell shell;
    BRep_Builder builder;
    builder.MakeShell(shell);
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next())
        if (!leavesOut(TopoDS::Face(x.Current()))) builder.Add(shell, x.Current());
    return shell;
}

double middleHeight(const TopoDS_Face& face) {
    GProp_GProps props;
    BRepGProp::SurfaceProperties(face, props);
    return props.CentreOfMass().Z();
}

/// Closed where it is open.
RegenResult closing(const std::string& content) {
    return importing(content, text("open", "closed where it is open"));
}

std::string notesOf(const RegenResult& r) {
    std::string out;
    for (const gc::Message& m : r.steps.back().notes) out += m.text() + "\n";
    return out;
}

double volumeIn(const RegenResult& r) {
    const auto mass = massProperties(r.state.body("imported"), Density(1e-3));
    return mass ? mass->volume : 0;
}

} // namespace

TEST_CASE("A surface comes in, says where it is open, and is closed by a flat face") {
    const TopoDS_Shape box = BRepPrimAPI_MakeBox(10, 20, 30).Shape();
    const std::string file = stepOf(without(box, [](const TopoDS_Face& f) { return middleHeight(f) > 29; }));
    const auto open = importing(file);
    INFO(notesOf(open));
    REQUIRE(allFine(open));
    CHECK(faceCount(open.state.body("imported")) == 5);
    CHECK(checkBody(open.state.body("imported")).openEdges == 4);
    CHECK(notesOf(open).find("open at 4 edges") != std::string::npos);
    const auto mesh = makeMesh(open.state.body("imported"));
    REQUIRE(mesh.ok());
    CHECK(meshArea(*mesh) == Approx(200 + 2 * 30 * 30));
    const auto closed = closing(file);
    INFO(notesOf(closed));
    REQUIRE(allFine(closed));
    CHECK(checkBody(closed.state.body("imported")).faults.empty());
    CHECK(volumeIn(closed) == Approx(6000));
}

TEST_CASE("A border that lies in no plane is closed by a filling, and two borders by two faces") {
    // A cylinder with a round groove across its top, without the groove's face.
    gp_Trsf across;
    across.SetRotation(gp_Ax1({0, 0, 0}, {1, 0, 0}), 1.5707963267948966);
    across.SetTranslationPart({0, 50, 30});
    const TopoDS_Shape bar =
        BRepBuilderAPI_Transform(BRepPrimAPI_MakeCylinder(15, 100).Shape(), across).Shape();
    const TopoDS_Shape cut = BRepAlgoAPI_Cut(BRepPrimAPI_MakeCylinder(10, 30).Shape(), bar).Shape();
    const auto isTop = [](const TopoDS_Face& f) { return middleHeight(f) > 14; };
    const auto saddle = closing(stepOf(without(cut, isTop)));
    INFO(notesOf(saddle));
    REQUIRE(allFine(saddle));
    CHECK(checkBody(saddle.state.body("imported")).faults.empty());
    CHECK(volumeIn(saddle) > 3.14159 * 100 * 15); // at least what lies below the groove
    CHECK(volumeIn(saddle) < 3.14159 * 100 * 26);
    const TopoDS_Shape tube = BRepPrimAPI_MakeCylinder(10, 30).Shape();
    const auto both = closing(
        stepOf(without(tube, [](const TopoDS_Face& f) { return std::fabs(middleHeight(f) - 15) > 1; })));
    INFO(notesOf(both));
    REQUIRE(allFine(both));
    CHECK(volumeIn(both) == Approx(3.14159265358979 * 100 * 30));
}

TEST_CASE("Loose faces that meet are sewn to a solid; those that do not are surfaces of their own") {
    TopoDS_Compound loose;
    BRep_Builder builder;
    builder.MakeCompound(loose);
    // Each face with edges of its own.
    for (TopExp_Explorer x(BRepPrimAPI_MakeBox(10, 20, 30).Shape(), TopAbs_FACE); x.More(); x.Next())
        builder.Add(loose, BRepBuilderAPI_Transform(x.Current(), gp_Trsf(), true).Shape());
    const auto r = importing(stepOf(loose));
    INFO(notesOf(r));
    REQUIRE(allFine(r));
    REQUIRE(r.state.bodies.size() == 1);
    CHECK(checkBody(r.state.body("imported")).faults.empty());
    CHECK(volumeIn(r) == Approx(6000));
}

TEST_CASE("Faces that a file lists as things of their own are one surface where they meet") {
    const Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
    const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
    for (TopExp_Explorer x(BRepPrimAPI_MakeBox(10, 20, 30).Shape(), TopAbs_FACE); x.More(); x.Next())
        if (middleHeight(TopoDS::Face(x.Current())) < 29)
            shapes->AddShape(BRepBuilderAPI_Transform(x.Current(), gp_Trsf(), true).Shape(), false);
    const auto r = importing(stepText(document));
    INFO(notesOf(r));
    REQUIRE(allFine(r));
    REQUIRE(r.state.bodies.size() == 1);
    CHECK(faceCount(r.state.body("imported")) == 5);
    CHECK(checkBody(r.state.body("imported")).openEdges == 4);
    // Apart they stay apart; what many have in common is said once.
    TopoDS_Compound loose;
    BRep_Builder builder;
    builder.MakeCompound(loose);
    for (int i = 0; i < 5; ++i) {
        gp_Trsf there;
        there.SetTranslation(gp_Vec(40. * i, 0, 0));
        const TopExp_Explorer x(BRepPrimAPI_MakeBox(10, 20, 30).Shape(), TopAbs_FACE);
        builder.Add(loose, BRepBuilderAPI_Transform(x.Current(), there, true).Shape());
    }
    const auto apart = importing(stepOf(loose));
    REQUIRE(allFine(apart));
    CHECK(apart.state.bodies.size() == 5);
    CHECK(notesOf(apart).find("5 bodies alike: it is a surface, open at 4 edges") != std::string::npos);
}

TEST_CASE("Bodies are called by their places in the assemblies below the whole") {
    const Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
    const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
    const auto named = [](const TDF_Label& label, const char* name) {
        TDataStd_Name::Set(label, name);
        return label;
    };
    const TDF_Label box = named(shapes->AddShape(BRepPrimAPI_MakeBox(10, 20, 30).Shape(), false), "lid"),
                    pin = named(shapes->AddShape(BRepPrimAPI_MakeCylinder(2, 9).Shape(), false), "pin"),
                    housing = named(shapes->NewShape(), "housing"),
                    whole = named(shapes->NewShape(), "timer");
    gp_Trsf aside;
    aside.SetTranslationPart({50, 0, 0});
    shapes->AddComponent(housing, box, TopLoc_Location());
    shapes->AddComponent(whole, housing, TopLoc_Location(aside));
    shapes->AddComponent(whole, pin, TopLoc_Location());
    shapes->UpdateAssemblies();
    const auto bodies = readStep(stepText(document), 3);
    REQUIRE(bodies.ok());
    std::map<std::string, double> left;
    for (const NamedBody& b : *bodies) left[b.name] = envelope(b.body).low.x;
    REQUIRE(left.size() == 2);
    CHECK(left.at("housing / lid") == Approx(50));
    CHECK(left.at("pin") == Approx(-2).margin(1e-6));
}

TEST_CASE("What meets coarsely says so") {
    // The last face of a box stands off by 0.05 mm, and is sewn to the others all the same.
    BRepBuilderAPI_Sewing sewing(0.1);
    int number = 0;
    for (TopExp_Explorer x(BRepPrimAPI_MakeBox(10, 20, 30).Shape(), TopAbs_FACE); x.More(); x.Next()) {
        gp_Trsf off;
        if (++number == 6) off.SetTranslation(gp_Vec(0, 0, 0.05));
        sewing.Add(BRepBuilderAPI_Transform(x.Current(), off, true).Shape());
    }
    sewing.Perform();
    const auto r = importing(stepOf(sewing.SewedShape()));
    INFO(notesOf(r));
    REQUIRE(allFine(r));
    CHECK(volumeIn(r) == Approx(6000).epsilon(2e-3));
    CHECK(notesOf(r).find("its faces meet within 0.05") != std::string::npos);
}

TEST_CASE("What is invalid is put right, and said; what cannot be stays as it is") {
    TopoDS_Shell shell;
    BRep_Builder builder;
    builder.MakeShell(shell);
    int number = 0;
    for (TopExp_Explorer x(BRepPrimAPI_MakeBox(10, 20, 30).Shape(), TopAbs_FACE); x.More(); x.Next())
        builder.Add(shell, ++number == 3 ? x.Current().Reversed() : x.Current());
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    REQUIRE_FALSE(BRepCheck_Analyzer(solid).IsValid());
    const Healed mended = healed(solid);
    CHECK(BRepCheck_Analyzer(mended.shape).IsValid());
    REQUIRE(mended.notes.size() == 1);
    CHECK(mended.notes.front().text().find("it was put right") == 0);
    // A prism over an outline that crosses itself.
    BRepBuilderAPI_MakePolygon bow(gp_Pnt(0, 0, 0), gp_Pnt(10, 10, 0), gp_Pnt(10, 0, 0), gp_Pnt(0, 10, 0),
                                   true);
    const TopoDS_Shape crossed =
        BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(bow.Wire(), true).Face(), gp_Vec(0, 0, 5)).Shape();
    const Healed kept = healed(crossed);
    CHECK(kept.shape.IsSame(crossed));
    CHECK(kept.notes.empty());
}
