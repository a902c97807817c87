#include "core/exchange/healing.hpp"

#include "core/base/figure.hpp"
#include "core/exchange/place_names.hpp"

#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_MakeFilling.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Message_Msg.hxx>
#include <ShapeAnalysis_FreeBounds.hxx>
#include <ShapeAnalysis_ShapeTolerance.hxx>
#include <ShapeExtend_DataMapOfShapeListOfMsg.hxx>
#include <ShapeExtend_MsgRegistrator.hxx>
#include <ShapeFix_Shape.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Iterator.hxx>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace gc {

namespace {

/// What the kernel says that it did, in words; the rest is "its faces and edges".
std::set<std::string> mended(const Handle(ShapeExtend_MsgRegistrator) & told) {
    constexpr std::array<std::pair<const char*, const char*>, 9> kWords{
        {{"Reorder", "the order of edges"},
         {"Small", "edges without length"},
         {"Gap", "gaps between edges"},
         {"Seam", "seams of round faces"},
         {"Orientation", "borders the wrong way round"},
         {"SelfInter", "borders that cross themselves"},
         {"Intersect", "borders that cross themselves"},
         {"Degenerated", "edges at poles"},
         {"Lacking", "edges that were missing"}}};
    std::set<std::string> out;
    for (ShapeExtend_DataMapOfShapeListOfMsg::Iterator shape(told->MapShape()); shape.More(); shape.Next())
        for (const Message_Msg& m : shape.Value()) {
            const std::string key = m.Original().IsEmpty()
                                        ? std::string()
                                        : std::string(TCollection_AsciiString(m.Original(), '?').ToCString());
            for (const auto& [part, words] : kWords)
                if (key.find(part) != std::string::npos) out.insert(words);
        }
    return out;
}

double volumeWithin(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape, props);
    return props.Mass();
}

/// A closed shell as a solid, turned outward.
TopoDS_Shape solidOf(const TopoDS_Shell& shell) {
    BRepBuilderAPI_MakeSolid made(shell);
    TopoDS_Solid solid = made.Solid();
    if (volumeWithin(solid) < 0) solid = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shell.Reversed())).Solid();
    return solid;
}

double areaOf(const std::vector<TopoDS_Shape>& shapes) {
    double sum = 0;
    for (const TopoDS_Shape& s : shapes) {
        GProp_GProps props;
        BRepGProp::SurfaceProperties(s, props);
        sum += std::fabs(props.Mass());
    }
    return sum;
}

/// Each as a shell of its own.
std::vector<TopoDS_Shape> apart(const std::vector<TopoDS_Shape>& faces) {
    std::vector<TopoDS_Shape> out;
    BRep_Builder builder;
    for (const TopoDS_Shape& f : faces) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        builder.Add(shell, f);
        out.push_back(shell);
    }
    return out;
}

std::vector<TopoDS_Shape> sewn(const std::vector<TopoDS_Shape>& faces, double within) {
    BRepBuilderAPI_Sewing sewing(within);
    for (const TopoDS_Shape& f : faces) sewing.Add(f);
    sewing.Perform();
    std::vector<TopoDS_Shape> out;
    const TopoDS_Shape all = sewing.SewedShape();
    if (all.IsNull()) return out;
    for (TopExp_Explorer x(all, TopAbs_SHELL); x.More(); x.Next()) {
        const TopoDS_Shell shell = TopoDS::Shell(x.Current());
        out.push_back(BRep_Tool::IsClosed(shell) ? solidOf(shell) : TopoDS_Shape(shell));
    }
    std::vector<TopoDS_Shape> loose; // those that touch none
    for (TopExp_Explorer x(all, TopAbs_FACE, TopAbs_SHELL); x.More(); x.Next()) loose.push_back(x.Current());
    for (const TopoDS_Shape& s : apart(loose)) out.push_back(s);
    return out;
}

constexpr double kSewn = 0.01; // mm: what is nearer was meant to meet

/// A face over a closed border; none where nothing fits.
TopoDS_Shape lidOver(const TopoDS_Wire& border) {
    BRepBuilderAPI_MakeFace flat(border, true);
    if (flat.IsDone()) return flat.Shape();
    BRepOffsetAPI_MakeFilling filling;
    for (TopExp_Explorer x(border, TopAbs_EDGE); x.More(); x.Next())
        filling.Add(TopoDS::Edge(x.Current()), GeomAbs_C0);
    filling.Build();
    return filling.IsDone() ? filling.Shape() : TopoDS_Shape();
}

} // namespace

Healed healed(const TopoDS_Shape& shape) {
    Healed out{shape, {}};
    if (!BRepCheck_Analyzer(shape).IsValid()) {
        const auto fixed = guarded("heal.failed", "It cannot be put right.", [&]() -> Result<Healed> {
            ShapeFix_Shape fix(shape);
            const Handle(ShapeExtend_MsgRegistrator) told = new ShapeExtend_MsgRegistrator;
            fix.SetMsgRegistrator(told);
            fix.Perform();
            if (fix.Shape().IsNull() || !BRepCheck_Analyzer(fix.Shape()).IsValid()) return out;
            std::string words;
            for (const std::string& w : mended(told)) words += (words.empty() ? "" : ", ") + w;
            return Healed{fix.Shape(),
                          {phrase("it was put right when it came in: %1.",
                                  words.empty() ? std::string("its faces and edges") : words)}};
        });
        if (fixed) out = *fixed; // else as it is: its faults are told
    }
    constexpr double kCoarse = 0.01; // mm: more than that is seen and felt
    ShapeAnalysis_ShapeTolerance tolerance;
    const double most = tolerance.Tolerance(out.shape, 1);
    if (most > kCoarse)
        out.notes.push_back(
            phrase("its faces meet within %1 mm only, as the file has them.", figureOf(most, 2)));
    return out;
}

std::vector<TopoDS_Shape> surfacesIn(const TopoDS_Shape& shape) {
    std::vector<TopoDS_Shape> faces;
    Bnd_Box box;
    double tolerance = 0;
    for (TopExp_Explorer x(shape, TopAbs_FACE, TopAbs_SOLID); x.More(); x.Next()) {
        faces.push_back(x.Current());
        BRepBndLib::Add(x.Current(), box, false);
        tolerance = std::max(tolerance, ShapeAnalysis_ShapeTolerance().Tolerance(x.Current(), 1));
    }
    if (faces.empty()) return faces;
    // As coarsely as the file says that they meet, if that is small beside the whole; else finely. Sewing may
    // swallow faces: then they are left as they are.
    constexpr double kShare = 2e-3, kMore = 1.2, kLost = 1e-3;
    const double size = std::sqrt(box.SquareExtent()), area = areaOf(faces);
    for (const double within : {std::clamp(kMore * tolerance, kSewn, std::max(kSewn, kShare * size)), kSewn})
        if (auto together = sewn(faces, within); areaOf(together) > (1 - kLost) * area) return together;
    return apart(faces);
}

Result<Body> closedBody(const Body& body, int stepId) {
    return guarded("close.shape", "It cannot be closed.", [&]() -> Result<Body> {
        const TopoDS_Shape& shape = body.shape().shape;
        std::vector<TopoDS_Shape> faces;
        for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) faces.push_back(x.Current());
        const ShapeAnalysis_FreeBounds bounds(shape, kSewn, false, false);
        if (TopoDS_Iterator(bounds.GetOpenWires()).More())
            return errorOf("close.border",
                           "It cannot be closed: a border of it does not go all the way round.");
        for (TopoDS_Iterator w(bounds.GetClosedWires()); w.More(); w.Next()) {
            const TopoDS_Shape lid = lidOver(TopoDS::Wire(w.Value()));
            if (lid.IsNull()) {
                int edges = 0;
                for (TopExp_Explorer x(w.Value(), TopAbs_EDGE); x.More(); x.Next()) ++edges;
                return errorOf(
                    "close.border",
                    phrase("It cannot be closed: no face fits a border of %1 edges.", std::to_string(edges)));
            }
            for (TopExp_Explorer x(lid, TopAbs_FACE); x.More(); x.Next()) faces.push_back(x.Current());
        }
        const auto made = sewn(faces, kSewn);
        if (made.size() != 1 || made.front().ShapeType() != TopAbs_SOLID ||
            !BRepCheck_Analyzer(made.front()).IsValid())
            return errorOf("close.shape", "It cannot be closed: with its borders filled it makes no solid.");
        NameBuilder names(made.front());
        names.frame(stepId, Plane{{}, {1, 0, 0}, {0, 1, 0}});
        nameByPlace(names, stepId);
        return names.finish();
    });
}

} // namespace gc
