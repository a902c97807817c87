#include "core/steps/shared/boolean.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/borders.hpp"
#include "core/shape/dexels.hpp"
#include "core/shape/kernel_clock.hpp"

#include <BRepAlgoAPI_BooleanOperation.hxx>
#include <BRepBndLib.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>

#include <algorithm>

namespace gc {

int solidsIn(const TopoDS_Shape& shape) {
    int count = 0;
    for (TopExp_Explorer x(shape, TopAbs_SOLID); x.More(); x.Next()) ++count;
    return count;
}

namespace {

BOPAlgo_Operation operationOf(Combine how) {
    return how == Combine::Add ? BOPAlgo_FUSE : how == Combine::Take ? BOPAlgo_CUT : BOPAlgo_COMMON;
}

/// Did the operation do anything to the body? Every face of it as it was: they are apart, or only touch.
bool leftAlone(const NamedShape& body, BRepAlgoAPI_BooleanOperation& operation) {
    for (int i = 1; i <= body.faces.Extent(); ++i)
        if (operation.IsDeleted(body.faces(i)) || !operation.Modified(body.faces(i)).IsEmpty()) return false;
    return true;
}

bool isWanted(Combine how, bool inA, bool inB) {
    return how == Combine::Add ? inA || inB : how == Combine::Take ? inA && !inB : inA && inB;
}

Error tooNear() {
    return errorOf(
        "combine.wrong",
        "The two bodies cannot be combined here: their walls lie so nearly on each other that the result "
        "would be wrong. Move one a little, or turn it.");
}

/// Does a free face of one come near anything of the other? Walls that are all flat or round are met exactly:
/// of 1,500 random pairs none went wrong without one.
bool freeFacesMeet(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    constexpr double kNear = 0.2; // mm
    const auto hasFree = [](const TopoDS_Shape& shape) {
        for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next())
            if (isFreeFace(x.Current())) return true;
        return false;
    };
    if (!hasFree(a) && !hasFree(b)) return false;
    const auto boxesOf = [](const TopoDS_Shape& shape) {
        std::vector<std::pair<Bnd_Box, bool>> out;
        for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) {
            Bnd_Box box;
            BRepBndLib::Add(x.Current(), box, false);
            box.Enlarge(kNear);
            out.emplace_back(box, isFreeFace(x.Current()));
        }
        return out;
    };
    const auto inA = boxesOf(a), inB = boxesOf(b);
    for (const auto& [p, free] : inA)
        for (const auto& [q, alsoFree] : inB)
            if ((free || alsoFree) && !p.IsOut(q)) return true;
    return false;
}

/// Where walls of the two nearly lie on each other the kernel can be silently wrong, with a result that it
/// calls valid. Columns of material, taken from triangles of all three, tell (docs/kernel.md).
/// \param result nothing where nothing is said to be left
bool isWrong(const Body& body, const NamedTool& tool, const Body* result, Combine how) {
    constexpr double kFine = 0.0004; // deviation as a share of the smaller one's diagonal
    // Of 1,500 random pairs good results differ by up to 0.15 of deviation x area, wrong ones by 14 and more;
    // a thin ring that was lost made 0.97.
    constexpr double kAllowed = 0.4;
    if (!freeFacesMeet(body.shape().shape, tool.shape)) return false;
    const KernelProof counted;
    const auto other = bodyOf(tool);
    if (!other) return false;
    MeshOptions options;
    options.angle = 0.7;
    options.deviation =
        kFine * std::min(length(looseEnvelope(body).size()), length(looseEnvelope(*other).size()));
    const auto a = makeMesh(body, options), b = makeMesh(*other, options);
    const auto r = result ? makeMesh(*result, options) : Result<TriangleMesh>(TriangleMesh());
    if (!a || !b || !r) return false; // what cannot be meshed is found by the step's own checks
    if (result && wrongBorder(*result, *r)) return true;
    // Wrong volumes are at least the allowed share of the whole: some 50 columns of this grid.
    constexpr int kColumns = 110;
    const DexelGrid grid = gridOver({&*a, &*b, &*r}, kColumns);
    const Dexels inA(*a, grid), inB(*b, grid), inResult(*r, grid);
    const double allowed = kAllowed * options.deviation * (meshArea(*a) + meshArea(*b));
    const auto asWanted = [how](bool p, bool q, bool is) { return is == isWanted(how, p, q); };
    return Dexels::breaking(inA, inB, inResult, asWanted) > allowed || inResult.wronglyWound() > allowed;
}

/// Why there is no result; that nothing is left, or nothing was met, is made sure of.
std::optional<Error> whyNone(const Body& whole, const NamedTool& tool,
                             BRepAlgoAPI_BooleanOperation& operation, Combine how) {
    const NamedShape& body = whole.shape();
    const int solids = solidsIn(operation.Shape());
    if (solids == 0 && isWrong(whole, tool, nullptr, how)) return tooNear();
    if (solids == 0)
        return how == Combine::Common
                   ? errorOf("combine.apart", "The two have nothing in common, so nothing would be left.")
                   : errorOf("combine.nothing", "Nothing of the body would be left.");
    if (how == Combine::Take && leftAlone(body, operation))
        return isWrong(whole, tool, &whole, how)
                   ? tooNear()
                   : errorOf("combine.apart", "It does not reach the body, so nothing would be taken away.");
    if (how == Combine::Add && solids > solidsIn(body.shape) && isWrong(whole, tool, &whole, Combine::Take))
        return tooNear();
    if (how != Combine::Add || solids <= solidsIn(body.shape)) return std::nullopt;
    if (leftAlone(body, operation))
        return errorOf("combine.apart", "It does not reach the body, so they would stay two pieces.");
    Error e = errorOf("combine.touches", "It only touches the body along a line or in a point. Let it reach "
                                         "a little into the body.");
    const BRepExtrema_DistShapeShape touch(body.shape, tool.shape);
    if (touch.IsDone() && touch.NbSolution() > 0) e.place = toVec(touch.PointOnShape1(1));
    return e;
}

} // namespace

Result<Body> combine(const Body& body, const NamedTool& tool, Combine how) {
    return guarded("combine.failed", "The two bodies cannot be combined here.", [&]() -> Result<Body> {
        const NamedShape& before = body.shape();
        KernelOwned<NearOnly<BRepAlgoAPI_BooleanOperation>> owned;
        auto& operation = *owned;
        operation.setUp(before.shape, {tool.shape});
        operation.keepApart(tool.apart, tool.apartFrom);
        operation.SetOperation(operationOf(how));
        inKernel([&] { operation.build(); });
        if (!operation.IsDone() || operation.HasErrors())
            return errorOf(
                "combine.failed",
                "The two bodies cannot be combined here: their faces lie too nearly on each other. Move "
                "one a little.");
        if (auto wrong = whyNone(body, tool, operation, how)) return *wrong;
        NameBuilder names(onlySolid(operation.Shape()));
        names.carry(before, operation);
        names.frame(tool.step, tool.frame);
        for (const auto& [face, name] : tool.names) {
            const auto now = toVector(operation.Modified(face));
            for (const TopoDS_Shape& f : now) names.add(f, name);
            if (now.empty()) names.add(face, name);
        }
        if (!tool.from.empty()) names.inherit(tool.from.shape());
        auto result = names.finish();
        if (result && isWrong(body, tool, &*result, how)) return tooNear();
        return result;
    });
}

Result<Body> bodyOf(const NamedTool& tool) {
    NameBuilder names(onlySolid(tool.shape));
    if (!tool.from.empty()) names.inherit(tool.from.shape());
    names.frame(tool.step, tool.frame);
    for (const auto& [face, name] : tool.names) names.add(face, name);
    return names.finish();
}

std::unique_ptr<NearOnly<BRepAlgoAPI_Splitter>> splitBy(const TopoDS_Shape& solid,
                                                        const std::vector<TopoDS_Shape>& tools) {
    auto splitter = std::make_unique<NearOnly<BRepAlgoAPI_Splitter>>();
    splitter->setUp(solid, tools);
    inKernel([&] { splitter->build(); });
    return splitter->IsDone() && !splitter->HasErrors() ? std::move(splitter) : nullptr;
}

ToolOfSolids::ToolOfSolids(int step, const Plane& frame) {
    BRep_Builder().MakeCompound(solids);
    tool.step = step;
    tool.frame = frame;
}

NamedTool ToolOfSolids::whole() const {
    NamedTool out = tool;
    out.shape = onlySolid(solids);
    return out;
}

bool boxesMeet(const Box& a, const Box& b) {
    constexpr double kNear = 0.01; // mm: what touches counts, too
    return a.low.x < b.high.x + kNear && b.low.x < a.high.x + kNear && a.low.y < b.high.y + kNear &&
           b.low.y < a.high.y + kNear && a.low.z < b.high.z + kNear && b.low.z < a.high.z + kNear;
}

bool holdsAny(const TopoDS_Shape& solid, const std::vector<gp_Pnt>& places) {
    BRepClass3d_SolidClassifier inside(solid);
    return std::any_of(places.begin(), places.end(), [&](const gp_Pnt& p) {
        inside.Perform(p, kKernelPoint);
        return inside.State() == TopAbs_IN;
    });
}

bool isCombined(const Body& body, const NamedTool& tool, const Body& made, Combine how) {
    return !isWrong(body, tool, &made, how);
}

NamedTool toolOf(const Body& body, int step) {
    NamedTool tool;
    tool.shape = body.shape().shape;
    tool.step = step;
    tool.from = body;
    const auto frame = body.shape().frames.find(step);
    if (frame != body.shape().frames.end()) tool.frame = frame->second;
    for (int i = 1; i <= body.shape().faces.Extent(); ++i)
        for (const NamePtr name : body.shape().namesOf(body.shape().faces(i)))
            tool.names.emplace_back(body.shape().faces(i), name);
    return tool;
}

} // namespace gc
