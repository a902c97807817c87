// What else than sound solids STEP files hold: surfaces, assemblies in assemblies, shapes that are broken.

#include "core/base/file.hpp"
#include "core/exchange/step_file.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/mesh.hpp"
#include "tests/support/probe.hpp"
#include "tests/support/temporary_folder.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <ShapeFix_ShapeTolerance.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Shell.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

std::string stepOf(const Handle(TDocStd_Document) & document) {
    STEPCAFControl_Writer writer;
    writer.Transfer(document);
    const TemporaryFolder folder;
    const auto path = folder.path() / "thing.step";
    writer.Write(path.c_str());
    return *readFile(path);
}

std::string stepOf(const TopoDS_Shape& shape) {
    const Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
    XCAFDoc_DocumentTool::ShapeTool(document->Main())->AddShape(shape, false);
    return stepOf(document);
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

RegenResult takenIn(const std::string& content, const char* open = "as it is") {
    Part p;
    p.attachments = {{"a.step", content}};
    add(p, "import", {{"file", std::string("a.step")}, {"open", std::string(open)}});
    return Engine().regenerate(p);
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
    const auto open = takenIn(file);
    INFO(notesOf(open));
    REQUIRE(allFine(open));
    CHECK(faceCount(open.state.body("imported")) == 5);
    CHECK(checkBody(open.state.body("imported")).openEdges == 4);
    CHECK(notesOf(open).find("open at 4 edges") != std::string::npos);
    const auto mesh = makeMesh(open.state.body("imported"));
    REQUIRE(mesh.ok());
    CHECK(meshArea(*mesh) == Approx(200 + 2 * 30 * 30));
    const auto closed = takenIn(file, "closed where it is open");
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
    const auto saddle = takenIn(stepOf(without(cut, isTop)), "closed where it is open");
    INFO(notesOf(saddle));
    REQUIRE(allFine(saddle));
    CHECK(checkBody(saddle.state.body("imported")).faults.empty());
    CHECK(volumeIn(saddle) > 3.14159 * 100 * 15); // at least what lies below the groove
    CHECK(volumeIn(saddle) < 3.14159 * 100 * 26);
    const TopoDS_Shape tube = BRepPrimAPI_MakeCylinder(10, 30).Shape();
    const auto both = takenIn(
        stepOf(without(tube, [](const TopoDS_Face& f) { return std::fabs(middleHeight(f) - 15) > 1; })),
        "closed where it is open");
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
    const auto r = takenIn(stepOf(loose));
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
    const auto r = takenIn(stepOf(document));
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
    const auto apart = takenIn(stepOf(loose));
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
    const auto bodies = readStep(stepOf(document), 3);
    REQUIRE(bodies.ok());
    std::map<std::string, double> left;
    for (const NamedBody& b : *bodies) left[b.name] = envelope(b.body).low.x;
    REQUIRE(left.size() == 2);
    CHECK(left.at("housing / lid") == Approx(50));
    CHECK(left.at("pin") == Approx(-2).margin(1e-6));
}

TEST_CASE("What meets coarsely says so") {
    TopoDS_Shape box = BRepPrimAPI_MakeBox(10, 20, 30).Shape();
    ShapeFix_ShapeTolerance().SetTolerance(box, 0.08);
    const auto r = takenIn(stepOf(box));
    INFO(notesOf(r));
    REQUIRE(allFine(r));
    CHECK(volumeIn(r) == Approx(6000));
}
