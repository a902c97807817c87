// Shell: a body hollowed to an even wall.

#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/size_handles.hpp"
#include "core/steps/shell/hollowing.hpp"

#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The wall, as it will be seen at the border of an opening.
void showWall(const NamedShape& s, const ShellWish& wish, bool both, ModelReader& model) {
    constexpr double kSteep = 0.2; // sine of the angle between opening and wall: flatter ones say little
    const auto isOpen = [&](const TopoDS_Shape& face) {
        return std::find(wish.open.begin(), wish.open.end(), s.faces.FindIndex(face) - 1) != wish.open.end();
    };
    for (const int i : wish.open)
        for (TopExp_Explorer x(s.faces(i + 1), TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(x.Current());
            const auto faces = facesBeside(s, edge);
            const auto there = atEdge(s, edge);
            if (!there || (isOpen(faces[0]) && isOpen(faces[1])) || std::sin(there->turn) < kSteep) continue;
            const Vec3 into = there->into[isOpen(faces[0]) ? 0 : 1];
            const double grows = wish.offset < 0 ? 1 : -1, share = both ? 0.5 : 1;
            model.show(sizeHandle("wall", there->at, into * grows, std::fabs(wish.offset),
                                  share / std::sin(there->turn)));
            return;
        }
}

} // namespace

Result<StepChange> runShell(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto id = model.bodyIn("body");
    const Body* before = id ? model.body(*id) : nullptr;
    if (!before)
        return errorOf("shell.body",
                       phrase("There is no body called \"%1\" before this step.", args.label("body")));
    StepChange change;
    ShellWish wish;
    const auto faces = [&](const char* slot, std::vector<int>& out) -> std::optional<Error> {
        if (args.references(slot).empty()) return std::nullopt;
        auto found = findFacesOn(*id, args.references(slot), model);
        if (!found) return found.error();
        out = found->items;
        change.notes.insert(change.notes.end(), found->notes.begin(), found->notes.end());
        return std::nullopt;
    };
    if (auto fault = faces("open", wish.open)) return *fault;
    const double sense = args.text("side") == "outward" ? 1 : -1;
    wish.offset = sense * args.number("wall");
    if (args.text("rest") == "but") {
        if (auto fault = faces("others", wish.others)) return *fault;
        wish.otherOffset = sense * args.number("other wall");
    }
    wish.quickly = args.onlyWhole();
    const bool both = args.text("side") == "half each way";
    asAid([&] { showWall(before->shape(), wish, both, model); });
    auto body = both ? hollowedBothWays(*before, wish, args.id(), progress, &change.notes)
                     : hollowed(*before, wish, args.id(), progress, &change.notes);
    if (!body) return body.error();
    if (args.text("becomes") == "as new body")
        change.list.push_back(MadeBody{std::move(*body)});
    else
        change.list.push_back(ChangedBody{*id, std::move(*body)});
    change.checked = true;
    return change;
}

} // namespace gc
