#include "core/steps/shared/defeatured.hpp"

#include "core/steps/shared/unrounded.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <BRepAlgoAPI_Defeaturing.hxx>

namespace gc {

std::optional<Body> withoutFaces(const Body& body, const TopTools_IndexedMapOfShape& faces,
                                 const Message_ProgressRange& patience) {
    const NamedShape& s = body.shape();
    if (auto made = unrounded(body, faces)) return made;
    BRepAlgoAPI_Defeaturing sharp;
    sharp.SetShape(s.shape);
    for (int i = 1; i <= faces.Extent(); ++i) sharp.AddFaceToRemove(faces(i));
    sharp.Build(patience);
    if (!sharp.IsDone() || sharp.HasErrors() || sharp.HasWarnings()) return std::nullopt;
    NameBuilder names(onlySolid(sharp.Shape()));
    names.inherit(s);
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        for (const TopoDS_Shape& f : whatBecameOf(s.faces(i), sharp))
            if (names.has(f)) names.add(f, s.namesOf(s.faces(i)));
    }
    auto made = names.finish();
    if (!made || !checkBody(*made).faults.empty()) return std::nullopt;
    return *made;
}

} // namespace gc
