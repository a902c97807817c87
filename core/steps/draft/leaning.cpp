#include "core/steps/draft/leaning.hpp"
#include "core/steps/shared/worked_names.hpp"

#include "core/names/reference.hpp"
#include "core/steps/draft/leaning_loop.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/lean_of.hpp"
#include "core/steps/shared/lifted_rounds.hpp"
#include "core/steps/shared/rounded.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace gc {

namespace {

constexpr double kWall = 20 * std::numbers::pi / 180; // rad: what leans less than that is a wall

Error blaming(const char* code, Message sentence, const Body& body, const TopoDS_Face& face) {
    Error e = errorOf(code, std::move(sentence));
    if (const std::string words = body.shape().wordsFor(face); !words.empty()) e.culprits.push_back(words);
    gp_Pnt at;
    if (leanOf(face, gp::DZ(), at)) e.place = toVec(at);
    return e;
}

Message nameOf(const Body& body, const TopoDS_Face& face) {
    const std::string words = body.shape().wordsFor(face);
    return words.empty() ? phrase("A wall") : Message(marked(words));
}

/// Is one of the faces neither flat nor round? The kernel leans only those.
bool anyFreeform(const Body& body, const std::vector<int>& faces) {
    return std::any_of(faces.begin(), faces.end(), [&](int i) {
        const GeomAbs_SurfaceType t =
            BRepAdaptor_Surface(TopoDS::Face(body.shape().faces(i + 1)), false).GetType();
        return t != GeomAbs_Plane && t != GeomAbs_Cylinder && t != GeomAbs_Cone;
    });
}

Error doesNotGoAlong(const Body& body, const TopoDS_Face& face) {
    return blaming("draft.cannot",
                   phrase("%1 cannot lean: what lies beside it does not go along. Draft before the edges "
                          "beside it are rounded, or draft its neighbours with it.",
                          nameOf(body, face)),
                   body, face);
}

} // namespace

std::vector<int> wallsOf(const Body& body, const gp_Dir& pull) {
    const NamedShape& s = body.shape();
    std::vector<int> out;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        gp_Pnt at;
        const auto lean = leanOf(TopoDS::Face(s.faces(i)), pull, at);
        if (lean && std::fabs(lean->first) < kWall && std::fabs(lean->second) < kWall) out.push_back(i - 1);
    }
    return out;
}

namespace {

/// As the kernel does it. \param along chains of edges of the body, that go along
Result<Body> leaningInPlace(const Body& body, const std::vector<int>& faces, const gp_Dir& pull, double angle,
                            const gp_Pln& level, std::vector<EdgeChain>* along = nullptr) {
    const NamedShape& s = body.shape();
    BRepOffsetAPI_DraftAngle draft(s.shape);
    for (const int i : faces) {
        const TopoDS_Face face = TopoDS::Face(s.faces(i + 1));
        draft.Add(face, pull, angle, level);
        if (!draft.AddDone()) return doesNotGoAlong(body, face);
    }
    draft.Build();
    if (!draft.IsDone()) {
        const TopoDS_Shape culprit =
            draft.Status() == Draft_NoError ? TopoDS_Shape() : draft.ProblematicShape();
        if (!culprit.IsNull() && culprit.ShapeType() == TopAbs_FACE && s.faces.Contains(culprit))
            return doesNotGoAlong(body, TopoDS::Face(culprit));
        return leanTooLarge(angle);
    }
    NameBuilder names(onlySolid(draft.Shape()));
    names.carry(s, draft);
    for (int i = 1; i <= s.faces.Extent(); ++i)
        for (const TopoDS_Shape& now : toVector(draft.Generated(s.faces(i))))
            if (names.has(now)) names.add(now, s.namesOf(s.faces(i)));
    auto made = names.finish();
    if (!made) return made.error();
    const BodyCheck check = checkBody(*made);
    if (!check.faults.empty() || check.solids != solidsIn(s.shape)) return leanTooLarge(angle);
    for (const int i : faces) {
        auto now = toVector(draft.Generated(s.faces(i + 1)));
        if (now.empty()) now = toVector(draft.Modified(s.faces(i + 1)));
        for (const TopoDS_Shape& f : now) {
            const int number = made->shape().faces.FindIndex(f);
            if (number == 0) continue;
            gp_Pnt at;
            const auto lean = leanOf(TopoDS::Face(made->shape().faces(number)), pull, at);
            if (lean &&
                (std::fabs(lean->first - angle) > kTrueLean || std::fabs(lean->second - angle) > kTrueLean))
                return leanTooLarge(angle);
        }
    }
    if (along)
        for (EdgeChain& c : *along)
            for (TopoDS_Edge& e : c.edges) e = TopoDS::Edge(draft.ModifiedShape(e));
    return made;
}

/// Rounds that run along the walls' ends, and those that go on from them: the kernel leaves these as they
/// are.
Rounds roundsBeside(const NamedShape& s, const std::vector<int>& walls) {
    std::set<NamePtr> leaning;
    for (const int i : walls) leaning.insert(firstName(s, s.faces(i + 1)));
    Rounds all, out;
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (const auto round = roundAt(s, s.faces(i))) all.add(round->first, round->second);
    const auto leans = [&](NamePtr n) { return leaning.count(n) > 0; };
    for (const auto& [name, radius] : all) // uprights go along with their walls
        if (leans(name->parents[0]) && leans(name->parents[1])) leaning.insert(name);
    for (const auto& [name, radius] : all)
        if (!leans(name) && (leans(name->parents[0]) || leans(name->parents[1]))) out.add(name, radius);
    for (bool more = !out.empty(); more;) { // a rim is one: mitres of rounds cannot be parted
        more = false;
        for (int i = 1; i <= s.edges.Extent(); ++i) {
            const auto beside = facesBeside(s, TopoDS::Edge(s.edges(i)));
            if (beside.size() != 2) continue;
            for (const std::size_t k : {0U, 1U}) {
                const auto other = roundAt(s, beside[1 - k]);
                if (!other || !out.has(firstName(s, beside[k])) || leans(other->first) ||
                    out.has(other->first))
                    continue;
                out.add(other->first, other->second);
                more = true;
            }
        }
    }
    return out;
}

/// Without the rounds beside the walls, that are built anew when the walls lean.
Result<Body> leaningUnderRounds(const Body& body, const std::vector<int>& faces, const gp_Dir& pull,
                                double angle, const gp_Pln& level, const Error& without) {
    const NamedShape& s = body.shape();
    const Rounds rounds = roundsBeside(s, faces);
    auto sharp = rounds.empty() ? std::nullopt : withoutRounds(body, rounds);
    if (!sharp) return without;
    const NamedShape& now = sharp->body.shape();
    std::set<NamePtr> names;
    for (const int i : faces) names.insert(firstName(s, s.faces(i + 1)));
    std::vector<int> walls;
    for (int i = 1; i <= now.faces.Extent(); ++i)
        if (names.count(firstName(now, now.faces(i)))) walls.push_back(i - 1);
    const auto leant = leaningInPlace(sharp->body, walls, pull, angle, level, &sharp->chains);
    if (!leant) return leant.error();
    const auto made = workEdges(
        *leant, sharp->chains,
        [](const Body& b, const std::vector<EdgeChain>& some) { return rounded(b, some, 0); }, Progress());
    if (made && made->left.empty()) return made->body;
    Error e = errorOf("draft.rounds", "The walls can lean, but the rounds beside them do not fit there any "
                                      "more. Draft before these edges are rounded, or round them less.");
    e.place = middleOf(made ? made->left.front() : sharp->chains.front());
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (rounds.has(firstName(s, s.faces(i)))) e.culprits.push_back(s.wordsFor(s.faces(i)));
    return e;
}

} // namespace

Result<Body> leaning(const Body& body, const std::vector<int>& faces, const gp_Dir& pull, double angle,
                     const gp_Pln& level) {
    if (anyFreeform(body, faces)) return leaningLoop(body, faces, pull, angle, level, false);
    auto made = leaningInPlace(body, faces, pull, angle, level);
    if (made) return made;
    return leaningUnderRounds(body, faces, pull, angle, level, made.error());
}

namespace {

/// What the two halves of a parted body are called where they were parted.
NamePtr seamName() {
    return internName(0, "parting");
}

/// A half of a body that was parted, named, and its walls.
struct Half {
    Body body;
    std::vector<int> walls;
};
Result<Half> halfOf(const NamedShape& s, BRepAlgoAPI_Splitter& split, const TopoDS_Shape& solid,
                    const TopoDS_Face& tool, const std::vector<int>& faces) {
    NameBuilder names(solid);
    names.inherit(s);
    std::vector<TopoDS_Shape> walls;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        for (const TopoDS_Shape& f : whatBecameOf(s.faces(i), split)) {
            if (!names.has(f)) continue;
            names.add(f, s.namesOf(s.faces(i)));
            if (std::find(faces.begin(), faces.end(), i - 1) != faces.end()) walls.push_back(f);
        }
    }
    bool parted = false;
    for (const TopoDS_Shape& f : toVector(split.Modified(tool))) {
        if (!names.has(f)) continue;
        names.add(f, seamName());
        parted = true;
    }
    if (!parted)
        return errorOf("draft.level", "The level does not run through the body, so it cannot lean both ways "
                                      "from it. Choose a level between its ends, or lean one way.");
    const auto body = names.finish();
    if (!body) return body.error();
    Half out{*body, {}};
    for (const TopoDS_Shape& f : walls) out.walls.push_back(body->shape().faces.FindIndex(f) - 1);
    return out;
}

/// Halves sewn where they were parted, without the faces there. Nothing where they do not close.
std::optional<Result<Body>> sewnHalves(const NamedShape& before, const std::vector<Body>& halves) {
    BRepBuilderAPI_Sewing sewing(1e-4);
    std::vector<std::pair<TopoDS_Shape, NameList>> named;
    for (const Body& half : halves) {
        const NamedShape& s = half.shape();
        for (int i = 1; i <= s.faces.Extent(); ++i) {
            const NameList& list = s.namesOf(s.faces(i));
            if (list.front() == seamName()) continue;
            sewing.Add(s.faces(i));
            named.emplace_back(s.faces(i), list);
        }
    }
    sewing.Perform();
    TopExp_Explorer shells(sewing.SewedShape(), TopAbs_SHELL);
    if (!shells.More()) return std::nullopt;
    TopoDS_Solid solid = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shells.Current())).Solid();
    BRepLib::OrientClosedSolid(solid);
    NameBuilder names(solid);
    names.inherit(before);
    for (const auto& [face, list] : named)
        names.add(sewing.IsModified(face) ? sewing.Modified(face) : face, list);
    auto made = names.finish();
    if (!made) return made;
    const BodyCheck check = checkBody(*made);
    if (!check.faults.empty() || check.solids != 1) return std::nullopt;
    return made;
}

} // namespace

Result<Body> leaningBothWays(const Body& body, const std::vector<int>& faces, const gp_Dir& pull,
                             double angle, const gp_Pln& level) {
    if (anyFreeform(body, faces)) return leaningLoop(body, faces, pull, angle, level, true);
    // Leaned in place the kernel is silently wrong there: each half by itself, then joined where they part.
    const NamedShape& s = body.shape();
    const auto over = [&](const Body& b) { // of its middle, over the level
        const Vec3 at = looseEnvelope(b).centre();
        return gp_Vec(level.Location(), gp_Pnt(at.x, at.y, at.z)).Dot(gp_Vec(pull));
    };
    const Box box = looseEnvelope(body);
    const gp_Pnt middle(box.centre().x, box.centre().y, box.centre().z);
    const gp_Pln parting(middle.Translated(gp_Vec(pull) * -over(body)), pull);
    const double reach = length(box.size());
    const TopoDS_Face tool = BRepBuilderAPI_MakeFace(parting, -reach, reach, -reach, reach).Face();
    const auto split = splitBy(s.shape, {tool});
    if (!split) return leanTooLarge(angle);
    std::vector<Body> halves;
    for (TopExp_Explorer x(split->Shape(), TopAbs_SOLID); x.More(); x.Next()) {
        const auto half = halfOf(s, *split, x.Current(), tool, faces);
        if (!half) return half.error();
        auto leant =
            leaning(half->body, half->walls, over(half->body) > 0 ? pull : pull.Reversed(), angle, level);
        if (!leant) return leant.error();
        halves.push_back(std::move(*leant));
    }
    const auto made = halves.size() < 2 ? std::nullopt : sewnHalves(s, halves);
    return made ? *made : leanTooLarge(angle);
}

} // namespace gc
