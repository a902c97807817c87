#include "core/steps/shared/find_items.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>
#include <TopoDS.hxx>

#include <set>

namespace gc {

namespace {

NameList primaryNames(const NamedShape& s, const TopTools_ListOfShape& faces) {
    std::set<NamePtr> names;
    for (const TopoDS_Shape& f : toVector(faces))
        if (!s.namesOf(f).empty()) names.insert(s.namesOf(f).front());
    return {names.begin(), names.end()};
}

Error filletFailed(const Body& body, BRepFilletAPI_MakeFillet& fillet, double radius) {
    Error e;
    e.code = "fillet.too-large";
    const NamedShape& s = body.shape();
    for (int c = 1; c <= fillet.NbFaultyContours(); ++c)
        for (int k = 1; k <= fillet.NbEdges(fillet.FaultyContour(c)); ++k) {
            const auto refs =
                referencesForEdge(body, s.edges.FindIndex(fillet.Edge(fillet.FaultyContour(c), k)) - 1);
            if (!refs.empty()) e.culprits.push_back(refs.back());
        }
    e.sentence =
        phrase("A radius of %1 does not fit: the faces beside the edge are too narrow or too curved for it.",
               formatAmount(radius, "mm", 2));
    return e;
}

} // namespace

Result<StepChange> runFillet(const Arguments& args, ModelReader& model, const Progress&) {
    auto found = findEdges(args.references("edges"), model);
    if (!found) return found.error();
    const NamedShape& s = found->body.shape();
    const double radius = args.number("radius");
    Error tooLarge;
    tooLarge.code = "fillet.too-large";
    return guarded(
        "fillet.too-large", "A radius of " + formatAmount(radius, "mm", 2) + " does not fit at these edges.",
        [&]() -> Result<StepChange> {
            BRepFilletAPI_MakeFillet fillet(s.shape);
            for (const int i : found->items) fillet.Add(radius, TopoDS::Edge(s.edges(i + 1)));
            if (fillet.NbContours() == 0) {
                Error e;
                e.code = "fillet.smooth";
                e.sentence = "The edges are smooth already: the faces beside them do not meet at an angle.";
                return e;
            }
            fillet.Build();
            if (!fillet.IsDone()) return filletFailed(found->body, fillet, radius);
            NameBuilder names(onlySolid(fillet.Shape()));
            names.carry(s, fillet);
            for (int c = 1; c <= fillet.NbContours(); ++c)
                for (int k = 1; k <= fillet.NbEdges(c); ++k) {
                    const TopoDS_Edge edge = fillet.Edge(c, k);
                    const auto* around = s.facesOfEdge.Seek(edge);
                    if (!around) continue;
                    const NamePtr name = internName(args.id(), "fillet", primaryNames(s, *around));
                    for (const TopoDS_Shape& f : toVector(fillet.Generated(edge))) names.add(f, name);
                }
            for (int v = 1; v <= s.vertices.Extent(); ++v)
                for (const TopoDS_Shape& f : toVector(fillet.Generated(s.vertices(v))))
                    if (!names.named(f))
                        names.add(f, internName(args.id(), "fillet corner",
                                                primaryNames(s, s.facesOfVertex.FindFromKey(s.vertices(v)))));
            auto body = names.finish();
            if (!body) return body.error();
            // A radius that uses up a face often gives a body that is not sound, and no error.
            const BodyCheck check = checkBody(*body);
            if (!check.faults.empty()) {
                tooLarge.sentence =
                    phrase("A radius of %1 does not fit at these edges: the faces beside them are used up.",
                           formatAmount(radius, "mm", 2));
                return tooLarge;
            }
            StepChange change(ChangedBody{found->id, *body});
            change.checked = check.solids == 1;
            change.notes = found->notes;
            return change;
        });
}

} // namespace gc
