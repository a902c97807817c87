#include "core/steps/shared/exchanged.hpp"

#include <BRep_Builder.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>

namespace gc {

std::optional<TopoDS_Solid> withInstead(const TopoDS_Shape& solid, const TopoDS_Face& of,
                                        const std::vector<TopoDS_Shape>& instead) {
    if (solid.ShapeType() != TopAbs_SOLID) return std::nullopt;
    const BRep_Builder builder;
    TopoDS_Solid out;
    builder.MakeSolid(out);
    for (TopoDS_Iterator shells(solid); shells.More(); shells.Next()) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (TopoDS_Iterator f(shells.Value()); f.More(); f.Next()) {
            if (!f.Value().IsSame(of)) {
                builder.Add(shell, f.Value());
                continue;
            }
            for (const TopoDS_Shape& face : instead) builder.Add(shell, face);
        }
        shell.Closed(true);
        builder.Add(out, shell);
    }
    return out;
}

} // namespace gc
