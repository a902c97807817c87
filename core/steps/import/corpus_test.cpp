// Made-up STEP files: assemblies of solids of every sort, hollow ones, surfaces, loose tolerances, inches.
// What comes in has the volume that the kernel finds in what went out, and its triangles are closed and as
// near as asked.

#include "tests/support/importing.hpp"
#include "tests/support/raw_bodies.hpp"
#include "tests/support/seeded.hpp"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <BRepPrimAPI_MakeWedge.hxx>
#include <BRep_Builder.hxx>
#include <GC_MakeCircle.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_PointsToBSpline.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Interface_Static.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TDataStd_Name.hxx>
#include <TopExp_Explorer.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace gc;
using namespace gc::test;

namespace {

class MadeUpFile {
  public:
    explicit MadeUpFile(std::mt19937& random) : m_random(random) {}
    double between(double a, double b) { return std::uniform_real_distribution<double>(a, b)(m_random); }
    int upTo(int n) { return std::uniform_int_distribution<int>(0, n)(m_random); }

    /// One of the sorts of solids that parts are of.
    TopoDS_Shape solid() {
        switch (upTo(11)) {
        case 0:
            return boxAt(0, 0, 0, between(2, 60), between(2, 60), between(1, 40));
        case 1:
            return cylinderAt(0, 0, 0, between(1, 30), between(1, 60));
        case 2:
            return BRepPrimAPI_MakeCone(between(5, 20), between(0, 4.5), between(5, 30)).Shape();
        case 3:
            return ballAt(0, 0, 0, between(2, 25));
        case 4:
            return BRepPrimAPI_MakeTorus(between(12, 30), between(1, 9)).Shape();
        case 5:
            return BRepPrimAPI_MakeWedge(between(5, 30), between(5, 30), between(5, 30), between(1, 4))
                .Shape();
        case 6: // drilled through
            return cutRaw(boxAt(0, 0, 0, 40, 30, between(5, 20)),
                          cylinderAt(between(-9, 9), 3, -1, between(1, 9), 40));
        case 7: // hollow within
            return BRepAlgoAPI_Cut(boxAt(0, 0, 0, 40, 40, 40), ballAt(0, 0, 20, between(4, 18))).Shape();
        case 8:
            return rounded();
        case 9:
            return lofted();
        case 10:
            return turned();
        default:
            return prismOf(star(3 + upTo(5), between(12, 20), between(5, 9)), between(2, 20));
        }
    }
    /// A body without one of its faces.
    TopoDS_Shape surface() {
        const TopoDS_Shape whole = boxAt(0, 0, 0, between(5, 40), between(5, 40), between(5, 40));
        BRep_Builder builder;
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        int left = upTo(5);
        for (TopExp_Explorer x(whole, TopAbs_FACE); x.More(); x.Next())
            if (left-- != 0) builder.Add(shell, x.Current());
        return shell;
    }
    gp_Trsf somewhere() {
        gp_Trsf turn, shift;
        turn.SetRotation(gp_Ax1({0, 0, 0}, gp_Dir(between(-1, 1), between(-1, 1), between(0.1, 1))),
                         between(0, 6));
        shift.SetTranslation(gp_Vec(between(-200, 200), between(-200, 200), between(-200, 200)));
        return shift * turn;
    }
    /// As careless programs write them.
    void loosen(const TopoDS_Shape& shape) {
        BRep_Builder builder;
        const double tolerance = std::pow(10, between(-5, -1));
        for (TopExp_Explorer x(shape, TopAbs_EDGE); x.More(); x.Next())
            if (upTo(2) == 0) builder.UpdateEdge(TopoDS::Edge(x.Current()), tolerance);
        for (TopExp_Explorer x(shape, TopAbs_VERTEX); x.More(); x.Next())
            builder.UpdateVertex(TopoDS::Vertex(x.Current()), tolerance);
    }

  private:
    TopoDS_Shape rounded() {
        const TopoDS_Shape box = boxAt(0, 0, 0, 30, 20, 12);
        BRepFilletAPI_MakeFillet round(box);
        int k = 0;
        const double radius = between(0.1, 3);
        for (TopExp_Explorer x(box, TopAbs_EDGE); x.More(); x.Next(), ++k)
            if (k % 2 == 0) round.Add(radius, TopoDS::Edge(x.Current()));
        round.Build();
        return round.IsDone() ? round.Shape() : box;
    }
    TopoDS_Shape lofted() {
        BRepOffsetAPI_ThruSections loft(true, upTo(1) == 0);
        for (int i = 0; i < 3; ++i) {
            const gp_Ax2 at(gp_Pnt(between(-3, 3), between(-3, 3), 15 * i), gp::DZ());
            loft.AddWire(BRepBuilderAPI_MakeWire(
                BRepBuilderAPI_MakeEdge(GC_MakeCircle(at, between(5, 15)).Value()).Edge()));
        }
        loft.Build();
        return loft.Shape();
    }
    TopoDS_Shape turned() {
        TColgp_Array1OfPnt through(1, 5);
        for (int i = 1; i <= 5; ++i) through(i) = gp_Pnt(between(8, 20), 0, 10 * i);
        const Handle(Geom_BSplineCurve) side = GeomAPI_PointsToBSpline(through).Curve();
        const gp_Pnt low(0, 0, 10), high(0, 0, 50);
        BRepBuilderAPI_MakeWire wire(BRepBuilderAPI_MakeEdge(low, through(1)).Edge(),
                                     BRepBuilderAPI_MakeEdge(Handle(Geom_Curve)(side)).Edge(),
                                     BRepBuilderAPI_MakeEdge(through(5), high).Edge(),
                                     BRepBuilderAPI_MakeEdge(high, low).Edge());
        return BRepPrimAPI_MakeRevol(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(),
                                     gp_Ax1(gp::Origin(), gp::DZ()))
            .Shape();
    }

    std::mt19937& m_random;
};

/// By the kernel's own quadrature; it is the same in its place.
double kernelVolume(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape, props, 1e-9);
    return props.Mass();
}

/// The largest distance of triangles and polylines from what they stand for, of a share of them, mm.
double farthest(const Body& body, const TriangleMesh& mesh, std::mt19937& random) {
    constexpr std::size_t kEach = 12;
    const NamedShape& s = body.shape();
    double out = 0;
    const auto look = [&](const Vec3& p, const TopoDS_Shape& from) {
        const BRepExtrema_DistShapeShape apart(BRepBuilderAPI_MakeVertex(gp_Pnt(p.x, p.y, p.z)).Shape(),
                                               from);
        if (apart.IsDone()) out = std::max(out, apart.Value());
    };
    for (std::size_t f = 0; f < mesh.faces.size(); ++f) {
        const MeshFace& face = mesh.faces[f];
        for (std::size_t k = 0; k < std::min<std::size_t>(kEach, face.triangleCount); ++k) {
            const auto& t = mesh.triangles[face.firstTriangle + random() % face.triangleCount];
            look((mesh.points[t[0]] + mesh.points[t[1]] + mesh.points[t[2]]) / 3,
                 s.faces(static_cast<int>(f) + 1));
        }
    }
    for (std::size_t e = 0; e < mesh.edges.size(); ++e) {
        const auto& line = mesh.edges[e].points;
        for (std::size_t k = 0; k < 4 && line.size() > 1; ++k) {
            const std::size_t i = random() % (line.size() - 1);
            look((line[i] + line[i + 1]) / 2, s.edges(static_cast<int>(e) + 1));
        }
    }
    return out;
}

struct Tally {
    int bodies = 0, faces = 0, byKernel = 0;
    double worstVolume = 0, worstDeviation = 0;
};

void checkBodyIn(const Body& body, std::optional<double> volume, std::mt19937& random, Tally& tally) {
    const double deviation = std::max(0.002 * length(looseEnvelope(body).size()), 0.02);
    const auto mesh = makeMesh(body, {deviation, 0.35, {}});
    REQUIRE(mesh.ok());
    ++tally.bodies;
    tally.faces += faceCount(body);
    tally.byKernel += mesh->byKernel;
    CHECK(mesh->missing.empty());
    const double away = farthest(body, *mesh, random) / deviation;
    tally.worstDeviation = std::max(tally.worstDeviation, away);
    CHECK(away < 1.05);
    if (!volume) return;
    CHECK(openMeshEdges(*mesh) == 0);
    const auto mass = massProperties(body, Density(1e-3));
    REQUIRE(mass.ok());
    const double off = std::fabs(mass->volume / *volume - 1);
    tally.worstVolume = std::max(tally.worstVolume, off);
    CHECK(off < 1e-6);
    CHECK(checkBody(body).faults.empty());
}

} // namespace

TEST_CASE("Made-up STEP files come in whole: volumes, closed triangles, as near as asked") {
    auto random = seeded(1642);
    MadeUpFile make(random);
    Tally tally;
    for (int round = 0; round < rounds(6); ++round) {
        INFO("file " << round);
        Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
        const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
        const TDF_Label whole = shapes->NewShape();
        TDataStd_Name::Set(whole, "whole");
        std::vector<std::optional<double>> volumes; ///< nothing: of a surface
        for (int k = 0, n = 1 + make.upTo(4); k < n; ++k) {
            const bool open = make.upTo(7) == 0;
            const TopoDS_Shape shape = open ? make.surface() : make.solid();
            if (make.upTo(3) == 0) make.loosen(shape);
            const TDF_Label label = shapes->AddShape(shape, false);
            TDataStd_Name::Set(label, ("piece " + std::to_string(k)).c_str());
            shapes->AddComponent(whole, label, TopLoc_Location(make.somewhere()));
            volumes.push_back(open ? std::nullopt : std::optional(kernelVolume(shape)));
        }
        shapes->UpdateAssemblies();
        const bool inches = make.upTo(3) == 0;
        Interface_Static::SetCVal("write.step.unit", inches ? "INCH" : "MM");
        const std::string text = stepText(document);
        Interface_Static::SetCVal("write.step.unit", "MM");
        const auto r = importing(text);
        INFO(faults(r));
        REQUIRE(allFine(r));
        REQUIRE(r.state.bodies.size() == volumes.size());
        for (const auto& [id, body] : r.state.bodies) {
            INFO("piece " << id.ordinal << (inches ? ", in inches" : ""));
            checkBodyIn(body.value, volumes[static_cast<std::size_t>(id.ordinal)], random, tally);
        }
    }
    WARN(tally.bodies << " bodies, " << tally.faces << " faces, " << tally.byKernel
                      << " by the kernel's mesher, volumes within " << tally.worstVolume
                      << ", deviation at most " << tally.worstDeviation << " of what was asked");
}
