#include "core/steps/shell/hollowing.hpp"

#include "core/model/arguments.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/defeatured.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/lifted_rounds.hpp"
#include "core/steps/shell/checked_wall.hpp"
#include "core/steps/shell/eased_rounds.hpp"
#include "core/steps/shell/folds.hpp"
#include "core/steps/shell/hollow.hpp"
#include "core/steps/shell/joined_walls.hpp"
#include "core/steps/shell/parted_at_folds.hpp"
#include "core/steps/shell/studs.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>
#include <functional>

namespace gc {

namespace {

/// For all ways of making a wall, one after the other.
constexpr std::chrono::seconds kPatienceInAll{60};

/// The kept faces that fold over. They may still have an answer, where they are used up and their neighbours
/// meet; when there is none, the first is the culprit.
struct Folds {
    TopTools_IndexedMapOfShape faces;
    std::optional<Error> error;
};
Folds foldsOf(const ShellPlan& plan, const Body& body) {
    Folds out;
    for (int i = 1; i <= plan.before->faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(plan.before->faces(i));
        if (plan.opened.Contains(face)) continue;
        const auto radius = foldsOver(face, plan.offsetOf(i));
        if (!radius) continue;
        out.faces.Add(face);
        if (out.error) continue;
        const std::string words = body.shape().wordsFor(face);
        Error e =
            errorOf("shell.too-thick",
                    phrase("The wall is too thick for %1: its tightest radius is %2, so a wall of %3 would "
                           "fold over.",
                           words.empty() ? "a face" : marked(words), formatAmount(*radius, "mm", 2),
                           formatAmount(std::fabs(plan.offsetOf(i)), "mm", 2)));
        e.culprits = {words};
        out.error = std::move(e);
    }
    return out;
}

/// Is one of the walls of no simple form?
bool isFree(const ShellPlan& plan, const TopoDS_Shape& face) {
    if (plan.opened.Contains(face)) return false;
    const auto kind = BRepAdaptor_Surface(TopoDS::Face(face), false).GetType();
    return kind == GeomAbs_BSplineSurface || kind == GeomAbs_SurfaceOfExtrusion ||
           kind == GeomAbs_OtherSurface;
}

/// Do walls of free form meet in a crease, and is it one whose angle fades? There the kernel tries for a long
/// time, and fails.
struct Creases {
    bool any = false, fading = false;
};
Creases creasesOf(const ShellPlan& plan) {
    constexpr double kSmooth = 0.02; // rad
    const NamedShape& s = *plan.before;
    Creases out;
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
        const auto faces = facesBeside(s, edge);
        if (faces.size() != 2 || !isFree(plan, faces[0]) || !isFree(plan, faces[1])) continue;
        double least = 10, most = 0;
        for (const double share : {0.002, 0.25, 0.5, 0.75, 0.998}) {
            const auto kink = kinkAt(s, edge, share);
            if (!kink) continue;
            least = std::min(least, *kink);
            most = std::max(most, *kink);
        }
        out.any = out.any || most > kSmooth;
        out.fading = out.fading || (least < kFadedKink && most > kClearKink);
    }
    return out;
}

/// The same plan for a body without some of its faces; nothing where an opened one is not there any more.
std::optional<ShellPlan> planWithout(const ShellPlan& plan, const Body& without) {
    ShellPlan out = plan;
    out.before = &without.shape();
    out.opened.Clear();
    for (int i = 1; i <= out.before->faces.Extent(); ++i)
        for (int k = 1; k <= plan.opened.Extent(); ++k)
            if (out.before->namesOf(out.before->faces(i)) == plan.before->namesOf(plan.opened(k)))
                out.opened.Add(out.before->faces(i));
    return out.opened.Extent() == plan.opened.Extent() ? std::optional(out) : std::nullopt;
}

/// Rounds that are tighter than the wall leave their inside corners sharp: the wall of the body without them,
/// as far as it lies within the body; outward, as far as it lies outside of it.
Result<Body> throughSharp(const ShellPlan& plan, const Body& body, const TopTools_IndexedMapOfShape& rounds,
                          int step) {
    const Error failed = noWall(plan.offset);
    return guarded("shell.failed", failed.sentence, [&]() -> Result<Body> {
        const auto sharp = withoutFaces(body, rounds, patienceOf(plan)->Start());
        if (!sharp) return failed;
        const auto other = planWithout(plan, *sharp);
        if (!other) return failed;
        for (const Joining joining : {Joining::Quick, Joining::Thorough}) {
            const auto wall = plainWall(*other, step, joining);
            if (!wall) continue;
            const bool inward = plan.offset < 0;
            auto made = inward ? combine(body, toolOf(*wall, step), Combine::Common)
                               : combine(*wall, toolOf(body, step), Combine::Take);
            if (made && isTheWall(plan, *made)) return made;
        }
        return failed;
    });
}

Message roundNote(double radius) {
    return phrase("What is bent more tightly than the wall is thick becomes a round of %1 on the other side.",
                  formatAmount(radius, "mm", 2));
}

/// A body with its opened faces called rims.
Result<Body> withRims(const Body& made, const ShellPlan& plan, int step) {
    NameBuilder names(made.shape().shape);
    names.inherit(made.shape());
    for (int i = 1; i <= made.shape().faces.Extent(); ++i) {
        const TopoDS_Shape& face = made.shape().faces(i);
        const NameList& own = made.shape().namesOf(face);
        bool rim = false;
        for (int k = 1; k <= plan.opened.Extent(); ++k)
            rim = rim || plan.before->namesOf(plan.opened(k)) == own;
        for (const NamePtr n : own) names.add(face, rim ? internName(step, "rim of", {n}) : n);
    }
    return names.finish();
}

/// The hollow of the body with wider rounds, taken from what it is.
Result<Body> fromEased(const ShellPlan& plan, const Body& body, const EasedBody& eased, int step) {
    const Error failed = noWall(plan.offset);
    const auto other = planWithout(plan, eased.body);
    if (!other) return failed;
    for (const Joining joining : {Joining::Quick, Joining::Thorough}) {
        const auto wall = plainWall(*other, step, joining);
        if (!wall) continue;
        const auto hollow = combine(eased.body, toolOf(*wall, step), Combine::Take);
        if (!hollow) continue;
        const auto cut = combine(body, toolOf(*hollow, step), Combine::Take);
        if (!cut) continue;
        auto made = withRims(*cut, plan, step);
        if (made && isTheWall(plan, *made, eased.fills)) return made;
    }
    return failed;
}

/// The wall of the body without the rounds that are tighter than it, and these on that again. Only where all
/// of a chain are: else the inside has rounds there, too.
Result<Body> throughBare(const ShellPlan& plan, const SharpBody& sharp, int step) {
    const Error failed = noWall(plan.offset);
    return guarded("shell.failed", failed.sentence, [&]() -> Result<Body> {
        const auto isTighter = [&](const RoundedEdge& e) {
            const auto radius = rolledRadius(e.round);
            return radius && *radius <= std::fabs(plan.offset);
        };
        if (!std::all_of(sharp.edges.begin(), sharp.edges.end(), isTighter)) return failed;
        const auto other = planWithout(plan, sharp.body);
        if (!other || !foldsOf(*other, sharp.body).faces.IsEmpty()) return failed;
        for (const Joining joining : {Joining::Quick, Joining::Thorough}) {
            const auto wall = plainWall(*other, step, joining);
            if (!wall) continue;
            const auto made = roundedBack(plan, sharp, *wall, step);
            if (made && isTheWall(plan, *made)) return *made;
        }
        return failed;
    });
}

/// Chains of rounds that are tighter than the wall here and there, and wider elsewhere: made wider before;
/// all alike, where the kernel cannot follow what they are moved to.
Result<Body> throughEased(const ShellPlan& plan, const Body& body, const TopTools_IndexedMapOfShape& tight,
                          int step, std::vector<Message>* notes) {
    const Error failed = noWall(plan.offset);
    std::optional<SharpBody> sharp;
    const auto found = guarded("shell.failed", failed.sentence, [&]() -> Result<Done> {
        sharp = sharpBody(plan, body, tight);
        return Done{};
    });
    if (found && sharp)
        if (auto made = throughBare(plan, *sharp, step)) return made;
    for (const bool evenly : {false, true}) {
        if (!found || !sharp || plan.left().count() <= 0 || (plan.stop && plan.stop())) break;
        auto made = guarded("shell.failed", failed.sentence, [&]() -> Result<Body> {
            const auto eased = easedRounds(plan, *sharp, evenly);
            if (!eased) return failed;
            auto out = fromEased(plan, body, *eased, step);
            if (out && notes) notes->push_back(roundNote(eased->least));
            return out;
        });
        if (made) return made;
    }
    return failed;
}

/// Is every wall flat or of free form?
bool isAllFree(const ShellPlan& plan) {
    const auto& faces = plan.before->faces;
    return std::all_of(faces.cbegin(), faces.cend(), [&](const TopoDS_Shape& face) {
        return plan.opened.Contains(face) || isFree(plan, face) ||
               BRepAdaptor_Surface(TopoDS::Face(face), false).GetType() == GeomAbs_Plane;
    });
}

/// May it be moved face by face at all? It takes some hundredths of a second a border. Closed hollows within
/// other bodies than lofts are left to the kernel: where it fails one would have to find its way between
/// walls that are there already.
bool canBeFollowed(const ShellPlan& plan) {
    constexpr int kMostFaces = 150;
    return plan.before->faces.Extent() <= kMostFaces && (!plan.opened.IsEmpty() || isAllFree(plan));
}

/// What would fold over becomes a round; a larger one, if what came of it is no wall.
Result<Body> withRounds(const ShellPlan& plan, int step, std::vector<Message>* notes,
                        const JoinedWalls* joined) {
    Result<Body> made = noWall(plan.offset);
    for (const double least : kFoldRadii) {
        std::optional<double> radius;
        made = checkedWall(plan, [&] {
            auto hollow = followedRound(plan, step, least, joined);
            if (hollow) radius = hollow->round;
            return hollow;
        });
        if (made && radius > 0.0 && notes) notes->push_back(roundNote(*radius));
        if (made || !radius) break;
    }
    return made;
}

/// The same, where what would fold over reaches into the next wall: these are made one before.
Result<Body> withRoundsJoined(const ShellPlan& plan, const TopTools_IndexedMapOfShape& tight, int step,
                              std::vector<Message>* notes) {
    const Error failed = noWall(plan.offset);
    return guarded("shell.failed", failed.sentence, [&]() -> Result<Body> {
        const auto joined = joinedWalls(plan, tight);
        return joined ? withRounds(plan, step, notes, &*joined) : failed;
    });
}

bool anyFree(const ShellPlan& plan, const TopTools_IndexedMapOfShape& faces) {
    return std::any_of(faces.cbegin(), faces.cend(),
                       [&](const TopoDS_Shape& face) { return isFree(plan, face); });
}

/// All ways to make a wall, in the order in which they are tried.
std::vector<std::function<Result<Body>()>>
waysFor(const ShellPlan& plan, const Body& body, const Folds& folds, std::vector<Message>* notes, int step) {
    std::vector<std::function<Result<Body>()>> out;
    const auto follow = [&](bool inParts) {
        out.emplace_back([&plan, step, inParts] {
            return checkedWall(plan, [&] { return followedShell(plan, step, inParts); });
        });
    };
    // Where a face folds over the quick way may come out wrong without a word.
    const bool tight = !folds.faces.IsEmpty(), can = canBeFollowed(plan), follows = !tight && can;
    const Creases creases = can ? creasesOf(plan) : Creases();
    // Outward it leaves corners sharp, so it comes first only where nothing else would do.
    const bool followsFirst = follows && (plan.offset > 0 ? creases.fading : creases.any);
    if (tight && can) {
        out.emplace_back(
            [&plan, &folds, step, notes] { return withRoundsJoined(plan, folds.faces, step, notes); });
        out.emplace_back([&plan, step, notes] { return withRounds(plan, step, notes, nullptr); });
    }
    if (followsFirst) follow(false);
    // The kernel joins free walls at creases only by chance: it tries for a minute, and fails. Of the lofts
    // and sweeps of the corpora it made none inward that was not made face by face, or by its quick way.
    if (plan.offset < 0 && creases.any && isAllFree(plan)) {
        if (tight) return out;
        out.emplace_back([&plan, step] { return plainWall(plan, step, Joining::Quick); });
        follow(true);
        return out;
    }
    // The kernel's own rounds of one radius are left to it: it lets those vanish that are tighter than the
    // wall.
    if (!plan.quickly && plan.offset < 0 && plan.others.empty() && anyFree(plan, folds.faces))
        out.emplace_back([&plan, &body, &folds, step, notes] {
            return throughEased(plan, body, folds.faces, step, notes);
        });
    for (const Joining joining : {tight ? Joining::Thorough : Joining::Quick,
                                  tight ? Joining::Quick : Joining::Thorough, Joining::Sharp}) {
        if (plan.quickly && joining == Joining::Sharp) return out;
        out.emplace_back([&plan, step, joining] { return plainWall(plan, step, joining); });
        // Outward it leaves corners sharp.
        if (!follows || joining != (plan.offset < 0 ? Joining::Quick : Joining::Sharp)) continue;
        if (!followsFirst) follow(false);
        follow(true);
    }
    for (const Joining joining : {Joining::Thorough, Joining::Sharp})
        if (!plan.opened.IsEmpty())
            out.emplace_back([&plan, step, joining] {
                return checkedWall(plan, [&] { return wholeShell(plan, step, joining); });
            });
    // Last: taking faces away changes what the kernel keeps of the others.
    if (tight && plan.others.empty())
        out.emplace_back(
            [&plan, &body, &folds, step] { return throughSharp(plan, body, folds.faces, step); });
    return out;
}

Result<Body> hollowedBy(const ShellPlan& plan, const Body& body, int step, std::vector<Message>* notes);

/// What stands out of a flat face by less than the wall has nothing hollow in it: the wall of the body
/// without it, and it on that.
Result<Body> besideStuds(const ShellPlan& plan, const Body& body, int step, std::vector<Message>* notes) {
    const Error failed = noWall(plan.offset);
    const auto studs = lowStuds(plan);
    if (plan.offset > 0 || !plan.others.empty() || studs.empty()) return failed;
    return guarded("shell.failed", failed.sentence, [&]() -> Result<Body> {
        TopTools_IndexedMapOfShape faces;
        double reach = 0;
        std::vector<Message> told;
        for (const Stud& s : studs) {
            for (const TopoDS_Face& f : s.faces) faces.Add(f);
            reach = std::max(reach, s.reach);
            told.push_back(phrase("What stands out of %1 by less than the wall stays solid.",
                                  marked(body.shape().wordsFor(plan.before->faces(s.from)))));
        }
        const auto bare = withoutFaces(body, faces, patienceOf(plan)->Start());
        const auto other = bare ? planWithout(plan, *bare) : std::nullopt;
        if (!other) return failed;
        const auto wall = hollowedBy(*other, *bare, step, &told);
        if (!wall) return wall.error();
        const auto standing = combine(body, toolOf(*bare, step), Combine::Take);
        if (!standing) return failed;
        auto made = combine(*wall, toolOf(*standing, step), Combine::Add);
        if (!made || !isTheWall(plan, *made, reach)) return failed;
        if (notes) notes->insert(notes->end(), told.begin(), told.end());
        return made;
    });
}

/// By the first way that makes it, within the plan's time.
Result<Body> hollowedBy(const ShellPlan& plan, const Body& body, int step, std::vector<Message>* notes) {
    const auto stopped = [&] { return plan.stop && plan.stop(); };
    const Folds folds = foldsOf(plan, body);
    std::optional<Error> fault = folds.error;
    auto ways = waysFor(plan, body, folds, notes, step);
    if (!plan.quickly) ways.emplace_back([&] { return besideStuds(plan, body, step, notes); });
    for (const auto& way : ways) {
        if (stopped() || plan.left().count() <= 0) break;
        auto made = way();
        if (made) return made;
        if (!fault) fault = made.error();
    }
    if (stopped()) return stoppedError();
    return fault.value_or(noWall(plan.offset));
}

} // namespace

Result<Body> hollowed(const Body& body, const ShellWish& wish, int step, const Progress& progress,
                      std::vector<Message>* notes) {
    ShellPlan plan;
    plan.before = &body.shape();
    plan.offset = wish.offset;
    plan.stop = progress.stop();
    plan.quickly = wish.quickly;
    plan.until = std::chrono::steady_clock::now() + kPatienceInAll;
    for (const int i : wish.open) plan.opened.Add(plan.before->faces(i + 1));
    for (const int i : wish.others)
        if (!plan.opened.Contains(plan.before->faces(i + 1))) plan.others[i + 1] = wish.otherOffset;
    // No place of it is farther from its faces: nothing would be hollow, however long the kernel tries.
    if (-plan.offset > length(looseEnvelope(body).size()) / 2)
        return errorOf(
            "shell.too-thick",
            phrase("A wall of %1 is thicker than the whole body, so nothing of it would be hollow. Make "
                   "it thinner.",
                   formatAmount(-plan.offset, "mm", 2)));
    return hollowedBy(plan, body, step, notes);
}

} // namespace gc
