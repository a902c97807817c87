// Repeat: a detail of a body again and again.

#include "core/base/angles.hpp"
#include "core/shape/extremes.hpp"
#include "core/steps/repeat/bodies.hpp"
#include "core/steps/repeat/on_form.hpp"
#include "core/steps/repeat/surgery.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/runs_through_itself.hpp"
#include "core/steps/shared/size_handles.hpp"
#include "core/steps/shared/turned_seam.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <gp.hxx>

#include <algorithm>

namespace gc {

namespace {

constexpr std::size_t kManyCopies = 60; // from there on the kernel's own check takes most of the time
constexpr std::size_t kManyOnForm = 24; // the same, where every loop is a curve of many poles

std::string number(std::size_t n) {
    return std::to_string(n);
}

using Fits = std::function<bool(const std::vector<Placement>&)>;

/// How many there may be, the detail included: as many as have room on the faces, beside one another.
int largestCount(const Arguments& args, const CopyLayout& layout, const LeftOut& without, const Fits& fits) {
    CopyLayout tried = layout;
    int low = 1, high = layout.motionsFor ? static_cast<int>(layout.motions.size()) + 1
                        : layout.axis     ? layout.turns
                                          : layout.rows.front().count;
    while (high - low > 1) {
        const int count = (low + high) / 2;
        if (layout.motionsFor) {
            tried.motions = layout.motionsFor(count);
        } else if (tried.axis) {
            tried.turns = count;
            tried.step = stepRound(args, count, layout.step);
        } else {
            tried.rows.front().count = count;
            tried.rows.front().pitch = pitchOf(args, "", count, layout.rows.front().pitch);
        }
        (fits(placementsOf(tried, without)) ? low : high) = count;
    }
    return low;
}

/// How far apart as many as are asked for have room, mm; nothing where they have none. \param grain rounded
/// up to that
std::optional<double> leastPitch(const CopyLayout& layout, std::size_t row, const LeftOut& without,
                                 const Fits& fits, double grain) {
    constexpr double kWider = 1.25; // of a try to the next
    constexpr int kTries = 12;
    CopyLayout tried = layout;
    double& pitch = tried.rows[row].pitch;
    const auto fitBy = [&](double p) {
        pitch = p;
        return fits(placementsOf(tried, without));
    };
    double low = pitch, high = 0;
    for (int k = 0; k < kTries && high == 0; ++k) {
        const double next = low * kWider;
        (fitBy(next) ? high : low) = next;
    }
    if (high == 0) return std::nullopt;
    while (high - low > 0.25 * grain) {
        const double middle = 0.5 * (low + high);
        (fitBy(middle) ? high : low) = middle;
    }
    const double rounded = std::ceil(high / grain) * grain;
    return fitBy(rounded) ? std::optional(rounded) : std::nullopt;
}

/// How far apart they fit along each direction: all of them, or, where both ways are too near, those of one.
std::vector<Remedy> roomier(const Arguments& args, const CopyLayout& layout, const LeftOut& without,
                            const Fits& fits, double grain) {
    std::vector<Remedy> out;
    for (std::size_t row = 0; row < layout.rows.size(); ++row) {
        const std::string after = row == 0 ? "" : " 2";
        if (args.text("spacing" + after) != "every") continue;
        auto pitch = leastPitch(layout, row, without, fits, grain);
        const bool all = pitch.has_value();
        if (!all && layout.rows.size() > 1) {
            CopyLayout alone = layout;
            alone.rows[1 - row].count = 1;
            if (!fits(placementsOf(alone, without))) pitch = leastPitch(alone, row, without, fits, grain);
        }
        if (!pitch) continue;
        const std::string far = formatAmount(*pitch, "mm", 2);
        const Message says = all ? phrase("All fit every %1", far)
                                 : phrase(row == 0 ? "In a row they fit every %1" : "Rows fit every %1", far);
        out.push_back({args.id(), "pitch" + after, far, says, false});
        if (all) break;
    }
    return out;
}

/// What would do is told: how many fit as far apart as they are, and how far apart all fit.
/// \param slowly a look takes long, as on free forms: how far apart is told roughly, and of one row only
Error withRoom(Error e, const Arguments& args, const CopyLayout& layout, const LeftOut& without,
               const Fits& fits, bool slowly) {
    const int most = layout.countSlot.empty() ? 0 : largestCount(args, layout, without, fits);
    if (most >= 2)
        e.remedies.push_back({args.id(), layout.countSlot, std::to_string(most),
                              phrase("%1 fit", std::to_string(most)), false});
    constexpr double kFine = 0.1, kRough = 0.5; // mm
    if (e.code == "repeat.overlap" && !(slowly && layout.rows.size() > 1))
        for (Remedy& r : roomier(args, layout, without, fits, slowly ? kRough : kFine))
            e.remedies.push_back(std::move(r));
    return e;
}

Error overlapping(const Misfits& m, const std::vector<Placement>& placements) {
    const auto called = [&](int k) {
        return k < 0 ? std::string("the detail itself") : placements[std::size_t(k)].place;
    };
    const auto& [a, b] = m.overlapping.front();
    if (m.overlapping.size() == 1)
        return errorOf("repeat.overlap",
                       phrase("Two copies would overlap: %1 and %2.", called(a), called(b)));
    return errorOf("repeat.overlap", phrase("%1 pairs of copies would overlap, first of all %2 and %3.",
                                            number(m.overlapping.size()), called(a), called(b)));
}

Error fallenOff(const Misfits& m, const std::vector<Placement>& placements, Vec3 at) {
    Error e = errorOf("repeat.off",
                      phrase("%1 of %2 copies would lie beside the face that the detail is in, first of "
                             "all the one at %3.",
                             number(m.off.size()), number(placements.size()),
                             placements[static_cast<std::size_t>(m.off.front())].place));
    const gp_Pnt p =
        gp_Pnt(at.x, at.y, at.z).Transformed(placements[static_cast<std::size_t>(m.off.front())].by);
    e.place = toVec(p);
    return e;
}

/// Do the boxes around copies meet one another, or faces beside the detail's and those that it stands in?
bool mayMeet(const NamedShape& s, const Detail& detail, const std::vector<Bnd_Box>& copies) {
    TopTools_IndexedMapOfShape own;
    for (const TopoDS_Face& f : detail.faces) own.Add(f);
    for (const Mouth& m : detail.mouths) own.Add(m.host);
    std::vector<Bnd_Box> boxes{boxOf(detail.faces)}, others;
    boxes.insert(boxes.end(), copies.begin(), copies.end());
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (!own.Contains(s.faces(i))) BRepBndLib::Add(s.faces(i), others.emplace_back(), false);
    for (std::size_t i = 0; i < boxes.size(); ++i) {
        for (std::size_t j = 0; j < i; ++j)
            if (!boxes[i].IsOut(boxes[j])) return true;
        for (const Bnd_Box& o : others)
            if (i > 0 && !boxes[i].IsOut(o)) return true;
    }
    return false;
}

/// On the body with its seams out of the way; nothing where that cannot be.
std::optional<Body> setIntoTurned(Body body, std::vector<int> faces, const std::vector<Placement>& placements,
                                  int step) {
    constexpr int kMost = 4; // walls that a detail goes through
    for (int turned = 0; turned <= kMost; ++turned) {
        const auto detail = detailOf(body.shape(), faces);
        if (!detail) return std::nullopt;
        const auto seam = MouthPlan(*detail).seamInTheWay(placements);
        if (!seam) return setInto(body.shape(), *detail, placements, step);
        auto other = seam->angle != 0
                         ? withSeamTurned(body, body.shape().faces.FindIndex(seam->host) - 1, seam->angle)
                         : std::nullopt;
        if (!other) return std::nullopt;
        for (int& f : faces) f = other->faces[static_cast<std::size_t>(f)];
        body = std::move(other->body);
    }
    return std::nullopt;
}

/// Copies that add something beside the body, as round another axis than was meant.
std::optional<Error> whyApart(const Body& before, const Body& made) {
    const int more = solidsIn(made.shape().shape) - solidsIn(before.shape().shape);
    if (more <= 0) return std::nullopt;
    return errorOf("repeat.apart",
                   phrase("%1 of the copies would not touch the body. Check the axis or the direction, "
                          "and how far apart they are.",
                          std::to_string(more)));
}

struct Repeated {
    Body body;
    bool setIn = false; ///< without a boolean
};

Result<Repeated> repeated(const Body& body, const std::vector<int>& faces, const Detail& detail,
                          const std::vector<Placement>& placements, const Misfits& misfits, int step) {
    if (misfits.none())
        if (auto made = setIntoTurned(body, faces, placements, step)) return Repeated{std::move(*made), true};
    auto made = addedOrTaken(body, detail, placements, step);
    if (!made) return made.error();
    if (!takesAway(detail))
        if (auto e = whyApart(body, *made)) return *e;
    return Repeated{std::move(*made)};
}

bool touchesAny(const NamedShape& s, const TopoDS_Face& face, const TopTools_IndexedMapOfShape& faces) {
    if (faces.Contains(face)) return false;
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
        for (const TopoDS_Shape& f : facesBeside(s, TopoDS::Edge(x.Current())))
            if (faces.Contains(f)) return true;
    return false;
}

/// What is repeated, on a body whose seams do not run through it.
struct Standing {
    Body body;
    std::vector<int> faces;
    Detail detail;
};

/// A round wall that the detail lies in where it closes up has its seam turned to the other side.
Result<Standing> standingOf(const Body& body, const std::vector<int>& faces) {
    auto detail = detailOf(body.shape(), faces);
    if (detail) return Standing{body, faces, std::move(*detail)};
    const TopTools_IndexedMapOfShape own = withWhatBelongs(body.shape(), faces);
    for (int i = 0; i < faceCount(body); ++i) {
        const TopoDS_Face face = TopoDS::Face(body.shape().faces(i + 1));
        if (!turnAxisOf(face) || !touchesAny(body.shape(), face, own)) continue;
        for (const double angle : {kPi, 0.5 * kPi, 1.5 * kPi, 0.8 * kPi, 1.2 * kPi}) {
            auto turned = withSeamTurned(body, i, angle);
            if (!turned) continue;
            std::vector<int> now;
            for (const int f : faces) now.push_back(turned->faces[static_cast<std::size_t>(f)]);
            auto found = detailOf(turned->body.shape(), now);
            if (found) return Standing{std::move(turned->body), std::move(now), std::move(*found)};
        }
    }
    return detail.error();
}

/// Where the copies go, and the arrow by which the first direction is pulled.
struct Asked {
    CopyLayout layout;
    LeftOut without;
};
Result<Asked> askedFor(const Arguments& args, ModelReader& model, const TopoDS_Shape& detail, const Box& box,
                       const std::optional<Vec3>& foot = {}) {
    const Vec3 at = (box.low + box.high) * 0.5;
    auto layout = layoutBy(
        args, model, [&](const Vec3& d) { return widthAlong(detail, d); }, at, foot.value_or(at));
    if (!layout) return layout.error();
    showPulls(
        args, *layout, [&](const Vec3& d) { return widthAlong(detail, d); }, box, model);
    auto without = leftOutBy(args);
    if (!without) return without.error();
    return Asked{std::move(*layout), std::move(*without)};
}

/// Where the detail runs out at a border, like a notch in a rim; nothing where the body has no shape without
/// it.
std::optional<Result<StepChange>> repeatAtBorder(const Arguments& args, ModelReader& model,
                                                 const FoundItems& found, const Progress& progress) {
    const TopTools_IndexedMapOfShape faces = withWhatBelongs(found.body.shape(), found.items);
    const AtBorder detail = atBorder(found.body, faces, args.id());
    const auto whole = detail.whole();
    if (!whole || progress.stopped()) return std::nullopt;
    const Box box = extentOf(*whole);
    const Vec3 at = (box.low + box.high) * 0.5;
    const auto asked = askedFor(args, model, *whole, box);
    if (!asked) return asked.error();
    const auto placements = changed(args, placementsOf(asked->layout, asked->without),
                                    gp_Ax1(gp_Pnt(at.x, at.y, at.z), gp::DZ()));
    if (!placements) return placements.error();
    auto made = copiedAtBorder(found.body, faces, detail, *placements, args.id());
    if (!made) return made.error();
    if (std::none_of(detail.solids.begin(), detail.solids.end(), [](const auto& s) { return s.takes; }))
        if (auto e = whyApart(found.body, made->body)) return *e;
    StepChange change(ChangedBody{found.id, std::move(made->body)});
    change.notes = found.notes;
    if (!made->alike)
        change.notes.push_back(
            Message("Not every copy adds or takes as much as the detail: some run into one "
                    "another, or stand where the body is another."));
    return change;
}

Message overBorder(std::size_t some, std::size_t all) {
    return phrase("%1 of %2 copies run out over the border of the face.", number(some), number(all));
}

Error meeting() {
    return errorOf("repeat.meets", "Inside the material copies would run into one another or into another "
                                   "face. Move them apart.");
}

/// On a wall that is another one where the copies stand.
Result<StepChange> repeatOnForm(const Arguments& args, const FoundItems& found, const Standing& standing,
                                const Asked& asked, const Vec3& at, const Progress& progress) {
    const auto form = OnForm::of(standing.body, standing.faces, args.text("stand") == "square");
    if (!form) return form.error();
    const auto laidFor = [&](const std::vector<Placement>& some) {
        return changed(args, some, form->stand());
    };
    const auto placements = laidFor(placementsOf(asked.layout, asked.without));
    if (!placements) return placements.error();
    const OnForm::Laid laid = form->lay(*placements, false, progress);
    if (progress.stopped()) return stoppedError();
    const auto fits = [&](const std::vector<Placement>& some) {
        const auto all = laidFor(some);
        if (!all) return false;
        const Misfits m = form->lay(*all, true, progress).misfits;
        return m.off.empty() && m.overlapping.empty();
    };
    if (!laid.misfits.overlapping.empty())
        return withRoom(overlapping(laid.misfits, *placements), args, asked.layout, asked.without, fits,
                        true);
    if (!laid.misfits.off.empty())
        return withRoom(fallenOff(laid.misfits, *placements, at), args, asked.layout, asked.without, fits,
                        true);
    auto made = form->set(laid, args.id());
    if (!made) return made.error();
    std::vector<Bnd_Box> boxes;
    for (const auto& [p, copy] : laid.copies) boxes.push_back(boxOf(copy.faces));
    if (mayMeet(standing.body.shape(), form->detail(), boxes) && runsThroughItself(*made)) return meeting();
    StepChange change(ChangedBody{found.id, std::move(*made)});
    change.checked = laid.tools.empty() && placements->size() > kManyOnForm;
    change.notes = found.notes;
    if (!laid.misfits.across.empty())
        change.notes.push_back(overBorder(laid.misfits.across.size(), placements->size()));
    return change;
}

Result<StepChange> repeatDetail(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto found = findFaces(args.references("what"), model);
    if (!found) return found.error();
    const auto standing = standingOf(found->body, found->items);
    if (!standing) {
        auto made = standing.error().code == "repeat.border" ? repeatAtBorder(args, model, *found, progress)
                                                             : std::nullopt;
        return made ? std::move(*made) : Result<StepChange>(standing.error());
    }
    const Detail& detail = standing->detail;
    const TopoDS_Compound whole = together(detail.faces);
    const Box box = extentOf(whole);
    const Vec3 at = (box.low + box.high) * 0.5;
    const Stand own = standOf(detail);
    const auto asked = askedFor(args, model, whole, box, toVec(own.at));
    if (!asked) return asked.error();
    const auto placements = changed(args, placementsOf(asked->layout, asked->without), {own.at, own.up});
    if (!placements) return placements.error();
    if (needsFitting(detail, *placements)) return repeatOnForm(args, *found, *standing, *asked, at, progress);
    const MouthPlan plan(detail);
    const Misfits misfits = plan.misfits(*placements);
    const auto fits = [&](const std::vector<Placement>& some) {
        const auto all = changed(args, some, {own.at, own.up});
        return all && plan.misfits(*all, true).none();
    };
    if (!misfits.overlapping.empty())
        return withRoom(overlapping(misfits, *placements), args, asked->layout, asked->without, fits, false);
    if (!misfits.off.empty())
        return withRoom(fallenOff(misfits, *placements, at), args, asked->layout, asked->without, fits,
                        false);
    if (progress.stopped()) return stoppedError();
    auto made = repeated(standing->body, standing->faces, detail, *placements, misfits, args.id());
    if (!made) return made.error();
    std::vector<Bnd_Box> boxes;
    for (const Placement& p : *placements) boxes.push_back(boxOf(detail.faces).Transformed(p.by));
    if (mayMeet(standing->body.shape(), detail, boxes) && runsThroughItself(made->body)) return meeting();
    StepChange change(ChangedBody{found->id, std::move(made->body)});
    // The kernel holds every loop of a face against every other; these were, before they were set in.
    change.checked = made->setIn && placements->size() > kManyCopies;
    change.notes = found->notes;
    if (!misfits.across.empty())
        change.notes.push_back(overBorder(misfits.across.size(), placements->size()));
    return change;
}

} // namespace

Result<StepChange> runRepeat(const Arguments& args, ModelReader& model, const Progress& progress) {
    return guarded("repeat.failed", "It cannot be repeated there.", [&] {
        return args.text("subject") == "the body" ? repeatBody(args, model, progress)
                                                  : repeatDetail(args, model, progress);
    });
}

} // namespace gc
