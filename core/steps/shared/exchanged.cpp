#include "core/steps/shared/exchanged.hpp"

#include <BRep_Builder.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>

namespace gc {

std::optional<Body> exchanged(const Body& body, const std::vector<FacesInstead>& all, int step,
                              const std::optional<Plane>& frame) {
    const NamedShape& before = body.shape();
    if (before.shape.ShapeType() != TopAbs_SOLID) return std::nullopt;
    const auto insteadOf = [&](const TopoDS_Shape& face) {
        return std::find_if(all.begin(), all.end(), [&](const FacesInstead& f) { return f.of.IsSame(face); });
    };
    const BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    for (TopoDS_Iterator shells(before.shape); shells.More(); shells.Next()) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (TopoDS_Iterator f(shells.Value()); f.More(); f.Next()) {
            const auto given = insteadOf(f.Value());
            if (given == all.end()) builder.Add(shell, f.Value());
            if (given == all.end()) continue;
            for (const auto& [face, names] : given->faces) builder.Add(shell, face);
        }
        shell.Closed(true);
        builder.Add(solid, shell);
    }
    NameBuilder names(solid);
    names.inherit(before);
    if (frame) names.frame(step, *frame);
    for (int i = 1; i <= before.faces.Extent(); ++i)
        if (insteadOf(before.faces(i)) == all.end())
            names.add(before.faces(i), before.namesOf(before.faces(i)));
    for (const FacesInstead& one : all)
        for (const auto& [face, called] : one.faces) names.add(face, called);
    auto made = names.finish();
    if (!made || !checkBody(*made, {&body}).faults.empty()) return std::nullopt;
    return *made;
}

} // namespace gc
