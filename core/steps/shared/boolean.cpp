#include "core/steps/shared/boolean.hpp"

#include <BRepAlgoAPI_BooleanOperation.hxx>
#include <TopExp_Explorer.hxx>

namespace gc {

namespace {

int solidsIn(const TopoDS_Shape& shape) {
    int count = 0;
    for (TopExp_Explorer x(shape, TopAbs_SOLID); x.More(); x.Next()) ++count;
    return count;
}

BOPAlgo_Operation operationOf(Combine how) {
    return how == Combine::Add ? BOPAlgo_FUSE : how == Combine::Take ? BOPAlgo_CUT : BOPAlgo_COMMON;
}

/// Did the operation do anything to the body? Every face of it as it was: they are apart, or only touch.
bool leftAlone(const NamedShape& body, BRepAlgoAPI_BooleanOperation& operation) {
    for (int i = 1; i <= body.faces.Extent(); ++i)
        if (operation.IsDeleted(body.faces(i)) || !operation.Modified(body.faces(i)).IsEmpty()) return false;
    return true;
}

std::optional<Error> whatIsWrong(const NamedShape& body, BRepAlgoAPI_BooleanOperation& operation,
                                 Combine how) {
    const int solids = solidsIn(operation.Shape());
    if (solids == 0)
        return how == Combine::Common
                   ? errorOf("combine.apart", "The two have nothing in common, so nothing would be left.")
                   : errorOf("combine.nothing", "Nothing of the body would be left.");
    if (how == Combine::Take && leftAlone(body, operation))
        return errorOf("combine.apart", "It does not reach the body, so nothing would be taken away.");
    if (how == Combine::Add && solids > solidsIn(body.shape))
        return leftAlone(body, operation)
                   ? errorOf("combine.apart", "It does not reach the body, so they would stay two pieces.")
                   : errorOf("combine.touches",
                             "It only touches the body along a line or in a point. Let it reach "
                             "a little into the body.");
    return std::nullopt;
}

} // namespace

Result<Body> combine(const Body& body, const NamedTool& tool, Combine how) {
    return guarded("combine.failed", "The two bodies cannot be combined here.", [&]() -> Result<Body> {
        const NamedShape& before = body.shape();
        TopTools_ListOfShape objects, tools;
        objects.Append(before.shape);
        tools.Append(tool.shape);
        BRepAlgoAPI_BooleanOperation operation;
        operation.SetArguments(objects);
        operation.SetTools(tools);
        operation.SetOperation(operationOf(how));
        operation.SetNonDestructive(true); // else the kernel widens the tolerances of what it is given
        operation.SetRunParallel(false);
        operation.Build();
        if (!operation.IsDone() || operation.HasErrors())
            return errorOf(
                "combine.failed",
                "The two bodies cannot be combined here: their faces lie too nearly on each other. Move "
                "one a little.");
        if (auto wrong = whatIsWrong(before, operation, how)) return *wrong;
        NameBuilder names(onlySolid(operation.Shape()));
        names.carry(before, operation);
        names.frame(tool.step, tool.frame);
        for (const auto& [face, name] : tool.names) {
            const auto now = toVector(operation.Modified(face));
            for (const TopoDS_Shape& f : now) names.add(f, name);
            if (now.empty()) names.add(face, name);
        }
        return names.finish();
    });
}

} // namespace gc
