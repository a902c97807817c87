// Chamfer: edges cut off flat.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/face_normal.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/size_handles.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepTools.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

enum class Sizing { Even, Lengths, Angle };

/// The face beside an edge that is called so; the one that comes first where none is.
TopoDS_Face sideOf(const NamedShape& s, const TopoDS_Edge& edge, NamePtr name) {
    const auto faces = facesBeside(s, edge);
    for (const TopoDS_Shape& f : faces)
        if (firstName(s, f) == name) return TopoDS::Face(f);
    return TopoDS::Face(faces.front());
}

/// Of the faces beside a chain the one that is beside most of it; of two the one that looks up more, else
/// more to the front, else more to the left.
NamePtr commonSide(const NamedShape& s, const EdgeChain& chain) {
    std::map<NamePtr, int> count;
    std::map<NamePtr, TopoDS_Shape> faces;
    for (const TopoDS_Edge& e : chain.edges)
        for (const TopoDS_Shape& f : facesBeside(s, e)) {
            ++count[firstName(s, f)];
            faces.emplace(firstName(s, f), f);
        }
    const auto looks = [](const TopoDS_Shape& shape) {
        const TopoDS_Face face = TopoDS::Face(shape);
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(face, u0, u1, v0, v1);
        gp_Pnt p;
        const gp_Vec n =
            outwardNormal(BRepAdaptor_Surface(face, false), face.Orientation() == TopAbs_REVERSED,
                          {0.5 * (u0 + u1), 0.5 * (v0 + v1)}, p)
                .value_or(gp_Vec());
        constexpr double kEven = 1e6;
        return std::tuple{std::round(n.Z() * kEven), std::round(-n.Y() * kEven), std::round(-n.X() * kEven)};
    };
    return std::max_element(count.begin(), count.end(),
                            [&](const auto& a, const auto& b) {
                                return a.second != b.second ? a.second < b.second
                                                            : looks(faces[a.first]) < looks(faces[b.first]);
                            })
        ->first;
}

/// The first length on the face that it is measured on, the second on the other.
void showSizes(const NamedShape& s, const EdgeChain& chain, Sizing sizing, ModelReader& model) {
    const auto there = atEdge(s, chain.edges.front());
    if (!there) return;
    const auto faces = facesBeside(s, chain.edges.front());
    const std::size_t on = firstName(s, faces[1]) == chain.side && firstName(s, faces[0]) != chain.side;
    model.show(sizeHandle("size", there->at, there->into[on], chain.first));
    if (sizing == Sizing::Lengths)
        model.show(sizeHandle("second", there->at, there->into[1 - on], chain.second));
}

Error tooLarge(double size) {
    return errorOf("chamfer.too-large",
                   phrase("A chamfer of %1 does not fit at these edges: the faces beside them are too narrow "
                          "or too curved for it.",
                          formatAmount(size, "mm", 2)));
}

/// All of them in one go.
Result<Body> chamfered(const Body& body, const std::vector<EdgeChain>& chains, Sizing sizing, int step) {
    const NamedShape& s = body.shape();
    const Error no = tooLarge(chains.front().first);
    return guarded("chamfer.too-large", no.sentence.text(), [&]() -> Result<Body> {
        BRepFilletAPI_MakeChamfer chamfer(s.shape);
        for (const EdgeChain& chain : chains)
            for (const TopoDS_Edge& e : chain.edges) {
                if (chamfer.Contour(e) != 0) continue;
                const TopoDS_Face side = sideOf(s, e, chain.side);
                if (sizing == Sizing::Even)
                    chamfer.Add(chain.first, e);
                else if (sizing == Sizing::Lengths)
                    chamfer.Add(chain.first, chain.second, e, side);
                else
                    chamfer.AddDA(chain.first, chain.second, e, side);
            }
        chamfer.Build();
        if (!chamfer.IsDone()) return no;
        auto made = bodyOfWork(body, chamfer, step, "chamfer", chains);
        if (!made) return made.error();
        const BodyCheck check = checkBody(*made);
        if (!check.faults.empty() || check.solids != solidsIn(s.shape)) return no;
        return made;
    });
}

/// The chains that these edges belong to, each with the side on which the first length is.
Result<std::vector<EdgeChain>> chainsOf(const Arguments& args, const FoundItems& found, Sizing sizing,
                                        ModelReader& model) {
    const NamedShape& s = found.body.shape();
    std::set<NamePtr> picked;
    if (sizing != Sizing::Even && !args.references("face").empty()) {
        const auto faces = findFacesOn(found.id, args.references("face"), model);
        if (!faces) return faces.error();
        for (const int i : faces->items) picked.insert(firstName(s, s.faces(i + 1)));
    }
    const bool turned = args.text("where") == "beside";
    BRepFilletAPI_MakeChamfer asks(s.shape);
    std::vector<EdgeChain> out;
    for (const int i : found.items) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i + 1));
        if (asks.Contour(edge) != 0) continue;
        asks.Add(1, edge);
        const int c = asks.Contour(edge);
        if (c == 0) continue; // smooth already
        EdgeChain chain;
        chain.first = args.number("size");
        chain.second = sizing == Sizing::Lengths ? args.number("second")
                       : sizing == Sizing::Angle ? args.number("angle")
                                                 : chain.first;
        for (int k = 1; k <= asks.NbEdges(c); ++k) chain.edges.push_back(asks.Edge(c, k));
        const auto faces = facesBeside(s, edge);
        const auto isPicked = [&](const TopoDS_Shape& f) { return picked.count(firstName(s, f)) > 0; };
        const auto one = std::find_if(faces.begin(), faces.end(), isPicked);
        if (!picked.empty() && one == faces.end()) {
            Error e =
                errorOf("chamfer.side", "The face that the length is measured on does not lie beside this "
                                        "edge. Pick one that does, or let go of it.");
            e.place = middleOf(chain);
            e.culprits = saidOf(chain, found.body);
            return e;
        }
        chain.side = one != faces.end() ? firstName(s, *one) : commonSide(s, chain);
        if (turned)
            for (const TopoDS_Shape& f : faces)
                if (firstName(s, f) != chain.side) {
                    chain.side = firstName(s, f);
                    break;
                }
        out.push_back(std::move(chain));
    }
    if (out.empty())
        return errorOf("chamfer.smooth",
                       "The edges are smooth already: the faces beside them do not meet at an angle.");
    return out;
}

} // namespace

Result<StepChange> runChamfer(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto found = findEdges(args.references("edges"), model);
    if (!found) return found.error();
    const std::string& how = args.text("how");
    const Sizing sizing = how == "by two lengths,"             ? Sizing::Lengths
                          : how == "by a length and an angle," ? Sizing::Angle
                                                               : Sizing::Even;
    return guarded("chamfer.failed", "These edges cannot be chamfered.", [&]() -> Result<StepChange> {
        const auto chains = chainsOf(args, *found, sizing, model);
        if (!chains) return chains.error();
        asAid([&] { showSizes(found->body.shape(), chains->front(), sizing, model); });
        auto worked = workEdges(
            found->body, *chains,
            [&](const Body& body, const std::vector<EdgeChain>& some) {
                return chamfered(body, some, sizing, args.id());
            },
            progress, args.onlyWhole());
        if (!worked) return worked.error();
        const std::string all = std::to_string(chains->size());
        if (!worked->left.empty() && !isMostlyDone(*worked, chains->size()))
            return leftOver(
                *worked, found->body, "chamfer.too-large", [&](const auto& left, const auto& list) {
                    return phrase(
                        "A chamfer of %1 does not fit at %2 of %3 edges: %4. Make it smaller, or let go of "
                        "what does not take it.",
                        formatAmount(args.number("size"), "mm", 2), left, all, list);
                });
        StepChange change(ChangedBody{found->id, worked->body});
        change.checked = true;
        change.notes = found->notes;
        for (const auto& n : worked->nudged)
            change.notes.push_back(
                phrase("Chamfered by %1 instead of %2, which would just meet another edge.",
                       formatAmount(n.made, "mm", 4), formatAmount(n.asked, "mm", 4)));
        if (!worked->left.empty())
            change.doubt =
                leftOver(*worked, found->body, "edges.left", [&](const auto& left, const auto& list) {
                    return phrase(
                        "%1 of %2 edges could not be chamfered and stay as they are: %3. The others are "
                        "done.",
                        left, all, list);
                });
        return change;
    });
}

} // namespace gc
