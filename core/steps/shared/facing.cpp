#include "core/steps/shared/facing.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/face_normal.hpp"
#include "core/steps/shared/over_face.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Lin.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kAnywhere = 1e6; // mm: past everything

} // namespace

Ahead::Ahead(const TopoDS_Shape& body) : m_body(body) {
    for (TopExp_Explorer x(body, TopAbs_FACE); x.More(); x.Next()) {
        Face f{TopoDS::Face(x.Current()), {}, false, nullptr, nullptr};
        f.flat = BRepAdaptor_Surface(f.face, false).GetType() == GeomAbs_Plane;
        BRepBndLib::Add(f.face, f.box, false);
        m_faces.push_back(std::move(f));
    }
}

Ahead& Ahead::of(const Body& body) {
    constexpr std::size_t kKept = 4;
    thread_local std::vector<std::unique_ptr<Ahead>> known; // the latest first
    const TopoDS_Shape& shape = body.shape().shape;
    auto found =
        std::find_if(known.begin(), known.end(), [&](const auto& one) { return one->m_body.IsEqual(shape); });
    if (found == known.end()) {
        if (known.size() == kKept) known.pop_back();
        known.push_back(std::make_unique<Ahead>(shape));
        found = known.end() - 1;
    }
    std::rotate(known.begin(), found, found + 1);
    return *known.front();
}

std::optional<double> Ahead::distance(const gp_Pnt& from, const gp_Dir& way, double far) {
    // A line within a wall, from a place on it, does not cross that; and one that runs nearly along a wall is
    // slow.
    const bool mayLieOn =
        std::any_of(m_faces.begin(), m_faces.end(), [&](const Face& f) { return !f.box.IsOut(from); });
    if (mayLieOn && holds(from, true)) return 0;
    const Crossing first = nearest(gp_Lin(from, way), -kKernelPoint, kAnywhere);
    if (first.at < kKernelPoint || first.leaves) return 0;
    if (first.unsure && !mayLieOn && holds(from, true)) return 0;
    return first.at > far ? std::nullopt : std::optional(first.at);
}

std::optional<double> Ahead::crossing(const gp_Pnt& from, const gp_Dir& way, double far) {
    const Crossing first = nearest(gp_Lin(from, way), 0, far);
    return first.at > far ? std::nullopt : std::optional(first.at);
}

bool Ahead::holds(const gp_Pnt& p, bool onIt) {
    // A line in no direction that walls are likely to run in tells in most cases, and soon.
    static const gp_Dir kAskew(0.3141, 0.5926, 0.7419);
    const Crossing first = nearest(gp_Lin(p, kAskew), -kKernelPoint, kAnywhere);
    if (first.at < kKernelPoint) return onIt;
    if (!first.unsure) return first.leaves;
    if (!m_inside) m_inside.emplace(m_body);
    m_inside->Perform(p, kKernelPoint);
    return m_inside->State() == TopAbs_IN || (onIt && m_inside->State() != TopAbs_OUT);
}

void Ahead::take(Crossing& nearest, double at, double along) {
    constexpr double kGrazing = 1e-6; // cosine
    const bool unsure = std::fabs(along) < kGrazing;
    // Through an edge: the two faces beside it may say otherwise.
    const bool same = std::fabs(at - nearest.at) < kKernelPoint;
    nearest.unsure = unsure || (same && (nearest.unsure || nearest.leaves != (along > 0)));
    nearest.leaves = along > 0 && !nearest.unsure;
    nearest.at = same ? std::min(at, nearest.at) : at;
}

bool Ahead::meetsFlat(Face& f, const gp_Lin& line, double low, double far, Crossing& nearest) {
    if (!f.outline) f.outline = std::make_unique<FlatOutline>(f.face);
    const gp_Dir way = outOf(f.face);
    const double along = way.Dot(line.Direction());
    if (std::fabs(along) < kNoDirection) return false;
    const double at = gp_Vec(line.Location(), f.outline->plane().Location()).Dot(way) / along;
    if (at < low || at > far) return true;
    switch (f.outline->where(line.Location().Translated(gp_Vec(line.Direction()) * at))) {
    case FlatOutline::Where::In:
        take(nearest, at, along);
        return true;
    case FlatOutline::Where::Out:
        return true;
    case FlatOutline::Where::Near:
        break;
    }
    return false;
}

Ahead::Crossing Ahead::nearest(const gp_Lin& line, double low, double far) {
    Crossing out;
    for (Face& f : m_faces) {
        if (f.box.IsOut(line)) continue;
        const double last = std::min(far, out.at + kKernelPoint);
        if (f.flat && meetsFlat(f, line, low, last, out)) continue;
        if (!f.meets) f.meets = std::make_unique<IntCurvesFace_Intersector>(f.face, kKernelPoint);
        f.meets->Perform(line, low, last);
        for (int i = 1; f.meets->IsDone() && i <= f.meets->NbPnt(); ++i) {
            const double at = f.meets->WParameter(i);
            if (at > far || at > out.at + kKernelPoint) continue;
            gp_Pnt on;
            const auto n =
                outwardNormal(BRepAdaptor_Surface(f.face, false), f.face.Orientation() == TopAbs_REVERSED,
                              gp_Pnt2d(f.meets->UParameter(i), f.meets->VParameter(i)), on);
            take(out, at, n ? n->Dot(line.Direction()) : 0);
        }
    }
    return out;
}

gp_Dir outOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face, false);
    gp_Dir way = surface.Plane().Axis().Direction();
    if (!surface.Plane().Direct()) way.Reverse();
    if (face.Orientation() == TopAbs_REVERSED) way.Reverse();
    return way;
}

double widthOf(const TopoDS_Face& face) {
    const FaceSpan s = spanOf(face);
    return std::min(s.u1 - s.u0, s.v1 - s.v0);
}

std::vector<TopoDS_Face> flatFacesOf(const NamedTool& tool) {
    std::vector<TopoDS_Face> out;
    for (TopExp_Explorer x(tool.shape, TopAbs_FACE); x.More(); x.Next())
        if (const TopoDS_Face face = TopoDS::Face(x.Current());
            BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane)
            out.push_back(face);
    return out;
}

std::vector<Wall> wallsOf(const Body& body) {
    std::vector<Wall> out;
    for (int i = 1; i <= body.shape().faces.Extent(); ++i) {
        Wall w;
        BRepBndLib::Add(body.shape().faces(i), w.box, false);
        const BRepAdaptor_Surface surface(TopoDS::Face(body.shape().faces(i)), false);
        if (surface.GetType() == GeomAbs_Plane) w.plane = surface.Plane();
        out.push_back(std::move(w));
    }
    return out;
}

namespace {

constexpr double kNear = 0.5; // of a face's width: a wall further away is another matter

/// Looks from a few places first, which settles most faces: the body is far from one of them, or the face
/// lies within it. Odd, so that the middle is among them: where something is symmetric to a silhouette it is
/// met there.
Gap gapOf(const TopoDS_Face& face, Ahead& body) {
    constexpr double kBorder = 1e-4; // of the width: as near to its border as that
    constexpr double kWithin = 0.05; // of the width, within what is not a rectangle
    Gap g;
    g.face = face;
    g.way = outOf(face);
    const double far = kNear * widthOf(face);
    constexpr double kWellAway = 1; // mm: no sliver, and not meant to touch
    for (int looks : {3, 15}) {
        if (looks > 3 && g.least > kWellAway) looks = 7;
        auto places = placesOver(face, looks, kBorder);
        if (places.size() < static_cast<std::size_t>(looks * looks)) // no rectangle: its border is elsewhere
            for (const gp_Pnt& p : placesOver(face, looks + 2, kWithin)) places.push_back(p);
        for (const gp_Pnt& p : places) {
            const auto away = body.distance(p, g.way, far);
            g.least = std::min(g.least, away.value_or(g.least));
            g.most = std::max(g.most, away.value_or(g.most));
            (away ? g.within : g.without) |= !away || *away == 0;
            if (g.without && g.within) break; // a corner of it came out: that is told apart later
        }
        g.everywhere = !places.empty() && !g.without;
        if (!g.everywhere || g.most == 0) break;
        const gp_Pnt m = places[places.size() / 2];
        g.middle = {m.X(), m.Y(), m.Z()};
    }
    return g;
}

/// Is there a wall near enough that the face could end short of, or come out of? Not one that it lies in, nor
/// a flat one that is square to it: nothing ahead of the face ever meets that.
bool mayEndAt(const TopoDS_Face& face, const std::vector<Wall>& walls) {
    constexpr double kSquare = 1e-9; // cosine
    Bnd_Box about;
    BRepBndLib::Add(face, about, false);
    about.Enlarge(kNear * widthOf(face));
    const gp_Pln plane = BRepAdaptor_Surface(face, false).Plane();
    const gp_Dir& way = plane.Axis().Direction();
    return std::any_of(walls.begin(), walls.end(), [&](const Wall& w) {
        if (w.box.IsOut(about)) return false;
        if (!w.plane) return true;
        const double along = std::fabs(w.plane->Axis().Direction().Dot(way));
        if (along < kSquare) return false;
        return along < 1 - kSquare || plane.Distance(w.plane->Location()) > kMatters;
    });
}

} // namespace

std::vector<Gap> gapsOf(const Body& body, const NamedTool& tool) {
    const auto walls = wallsOf(body);
    Ahead* ahead = nullptr; // costs as much as all else, and is seldom asked
    std::vector<Gap> out;
    for (const TopoDS_Face& face : flatFacesOf(tool)) {
        if (!mayEndAt(face, walls)) continue;
        if (!ahead) ahead = &Ahead::of(body);
        if (Gap g = gapOf(face, *ahead); g.everywhere || g.within) out.push_back(std::move(g));
    }
    return out;
}

std::vector<NamePtr> namesIn(const NamedTool& tool, const TopoDS_Shape& face) {
    std::vector<NamePtr> out;
    for (const auto& [f, name] : tool.names)
        if (f.IsSame(face)) out.push_back(name);
    return out;
}

std::string wordsFor(const NamedTool& tool, const TopoDS_Shape& face) {
    const auto names = namesIn(tool, face);
    const auto ref = names.empty() ? nullptr : referenceTo(*names.front());
    return ref ? toText(*ref) : std::string();
}

} // namespace gc
