#include "core/steps/loft/section.hpp"

#include "core/base/least.hpp"
#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/frames.hpp"

#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>
#include <memory>

namespace gc {

LoftSection::LoftSection(std::string said, int maker, std::vector<PathPiece> pieces,
                         std::vector<TopoDS_Face> beyond)
    : m_said(std::move(said)), m_maker(maker), m_pieces(std::move(pieces)), m_beyond(std::move(beyond)) {
    measure();
}

void LoftSection::measure() {
    m_before.clear();
    m_length = 0;
    for (const PathPiece& p : m_pieces) {
        m_before.push_back(m_length);
        m_length += p.curve.length();
    }
    const std::size_t n = m_pieces.size();
    m_corners.assign(n, false);
    for (std::size_t i = 0; i < n; ++i) {
        const LengthCurve &before = m_pieces[(i + n - 1) % n].curve, &here = m_pieces[i].curve;
        m_corners[i] = before.tangent(before.length()).Angle(here.tangent(0)) > kCorner;
    }
    constexpr int kPlaces = 240;
    std::vector<gp_Pnt> places;
    gp_XYZ sum(0, 0, 0);
    for (int i = 0; i < kPlaces; ++i) {
        places.push_back(at(double(i) / kPlaces));
        sum += places.back().XYZ() / kPlaces;
    }
    m_middle = gp_Pnt(sum);
    gp_Vec area(0, 0, 0);
    m_size = 0;
    for (int i = 0; i < kPlaces; ++i) {
        const gp_Vec a(m_middle, places[static_cast<std::size_t>(i)]),
            b(m_middle, places[static_cast<std::size_t>((i + 1) % kPlaces)]);
        area += a.Crossed(b);
        m_size += a.Magnitude() / kPlaces;
    }
    if (area.Magnitude() > 1e-9 * m_size * m_size) m_normal = area.Normalized();
    m_uneven = 0;
    for (const gp_Pnt& p : places)
        m_uneven = std::max(m_uneven, std::fabs(gp_Vec(m_middle, p).Dot(m_normal)));
}

TopoDS_Face LoftSection::beyond(std::size_t piece) const {
    return m_beyond.empty() ? TopoDS_Face() : m_beyond[piece];
}

/// At a joint the piece that begins there, or, late, the one that ends.
std::size_t LoftSection::pieceAt(double share, bool late) const {
    if (late && share < 1e-9) return m_pieces.size() - 1;
    const double s = share * m_length, eps = 1e-9 * m_length * (late ? -1 : 1);
    const auto next = std::upper_bound(m_before.begin() + 1, m_before.end(), s + eps);
    return static_cast<std::size_t>(next - m_before.begin()) - 1;
}

double LoftSection::within(std::size_t piece, double share) const {
    return std::clamp(share * m_length - m_before[piece], 0.0, m_pieces[piece].curve.length());
}

gp_Pnt LoftSection::at(double share, bool late) const {
    if (isPoint()) return m_middle;
    const std::size_t i = pieceAt(share, late);
    return m_pieces[i].curve.at(within(i, late && share < 1e-9 ? 1 : share));
}

gp_Vec LoftSection::tangent(double share, bool late) const {
    if (isPoint()) return {0, 0, 0};
    const std::size_t i = pieceAt(share, late);
    return m_pieces[i].curve.tangent(within(i, late && share < 1e-9 ? 1 : share));
}

std::pair<double, double> LoftSection::nearest(const gp_Pnt& p) const {
    if (isPoint()) return {0, m_middle.Distance(p)};
    constexpr int kLooks = 60;
    double best = 0, least = 1e300;
    for (std::size_t i = 0; i < m_pieces.size(); ++i) {
        const LengthCurve& c = m_pieces[i].curve;
        for (int k = 0; k <= kLooks; ++k)
            if (const double d = c.at(c.length() * k / kLooks).Distance(p); d < least) {
                least = d;
                best = m_before[i] + c.length() * k / kLooks;
            }
    }
    const std::size_t i = pieceAt(best / m_length);
    // Within a piece, or across a joint that is smooth.
    const double step = m_pieces[i].curve.length() / kLooks;
    const auto away = [&](double s) { return at(wrapped(s / m_length)).SquareDistance(p); };
    const double nearer = leastWithin(best - step, best + step, away);
    const double s = away(best) <= away(nearer) ? best : nearer;
    return {wrapped(s / m_length), std::sqrt(away(s))};
}

LoftSection LoftSection::reversed() const {
    LoftSection out = *this;
    if (isPoint()) return out;
    const std::size_t n = m_pieces.size();
    for (std::size_t i = 0; i < n; ++i) {
        const PathPiece& p = m_pieces[n - 1 - i];
        out.m_pieces[i] = {p.curve.reversed(), p.item};
        if (!m_beyond.empty()) out.m_beyond[i] = m_beyond[n - 1 - i];
    }
    out.m_against = !m_against;
    out.measure();
    return out;
}

LoftSection LoftSection::besideDrawing() const {
    LoftSection out = *this;
    out.m_far = true;
    return out;
}

std::string LoftSection::roleOf(int item) const {
    return (m_far ? "far side " : "side ") + std::to_string(item) + " from " + std::to_string(m_maker);
}

std::optional<double> LoftSection::shareOfPlace(const Place& place) const {
    for (std::size_t i = 0; i < m_pieces.size(); ++i)
        if (m_pieces[i].item == place.item)
            return wrapped(
                (m_before[i] + m_pieces[i].curve.length() * (m_against ? 1 - place.share : place.share)) /
                m_length);
    return std::nullopt;
}

LoftSection::Place LoftSection::placeAt(double share) const {
    const std::size_t i = pieceAt(share, m_against);
    const double part = within(i, m_against && share < 1e-9 ? 1 : share) / m_pieces[i].curve.length();
    const double drawn = m_against ? 1 - part : part;
    return {m_pieces[i].item, drawn < 1e-9 ? 0 : drawn};
}

namespace {

Error notClosed(const std::string& said, int number, const gp_Pnt& at) {
    Error e =
        errorOf("loft.open", phrase("Section %1 does not close: %2 ends here. A loft goes through closed "
                                    "lines, and points at its ends.",
                                    std::to_string(number), marked(said)));
    e.culprits = {said};
    e.place = toVec(at);
    return e;
}

/// Round the outside of one face of a body, with what lies beyond each of its edges.
Result<LoftSection> aroundFace(const std::string& said, const FaceRef& face, int number, ModelReader& model) {
    const auto found = findFaces({toText(face)}, model);
    if (!found) return found.error();
    if (found->items.size() > 1) {
        Error e =
            errorOf("loft.faces", phrase("Section %1 goes round %2 faces; one is needed. Pick it in the "
                                         "stand.",
                                         std::to_string(number), std::to_string(found->items.size())));
        e.culprits = {said};
        return e;
    }
    const NamedShape& shape = found->body.shape();
    const TopoDS_Face round = TopoDS::Face(shape.faces(found->items.front() + 1));
    std::vector<PathPiece> pieces;
    std::vector<TopoDS_Face> beyond;
    for (BRepTools_WireExplorer x(BRepTools::OuterWire(round), round); x.More(); x.Next()) {
        const TopoDS_Edge& edge = x.Current();
        pieces.push_back({LengthCurve::of(edge), static_cast<int>(pieces.size()) + 1});
        beyond.push_back(faceAcross(shape, edge, round));
    }
    if (pieces.empty() || pieces.back().curve.end().Distance(pieces.front().curve.start()) > 1e-4)
        return errorOf("loft.seam",
                       phrase("%1 is closed in itself: nothing goes round it. Pick a face with a rim, "
                              "or draw the section.",
                              marked(toText(face))));
    return LoftSection(said, 0, std::move(pieces), std::move(beyond));
}

} // namespace

Result<LoftSection> findSection(const std::string& reference, int number, ModelReader& model) {
    const auto edges = parseEdgeRef(reference);
    if (!edges) {
        const auto point = findPoint(reference, model);
        if (!point) return point.error();
        return LoftSection(reference, gp_Pnt(point->x, point->y, point->z));
    }
    if (edges->kind == EdgeRef::Kind::RimOf) {
        FaceRef face = *edges->a;
        face.body = edges->body;
        return aroundFace(reference, face, number, model);
    }
    const auto path = findPath({reference}, model);
    if (!path) return path.error();
    if (!path->closed()) return notClosed(reference, number, path->pieces().back().curve.end());
    const bool drawn = edges->kind == EdgeRef::Kind::Chain || edges->kind == EdgeRef::Kind::Stroke;
    return LoftSection(reference, drawn ? edges->step : 0, path->pieces(), {});
}

void orient(std::vector<LoftSection>& sections) {
    gp_Vec ahead; // where the loft goes at the section before
    for (std::size_t i = 0; i < sections.size(); ++i) {
        LoftSection& s = sections[i];
        gp_Vec expected;
        if (i == 0) {
            expected = gp_Vec(s.middle(), sections[1].middle());
            // Beside each other in one plane, they may be the feet of an arch: either way is as good.
            if (std::fabs(expected.Dot(s.normal())) < 1e-6 * expected.Magnitude()) expected = s.normal();
        } else {
            const gp_Vec d(sections[i - 1].middle(), s.middle());
            const double c = d.SquareMagnitude();
            expected = c < 1e-18 ? ahead : d * (2 / c * d.Dot(ahead)) - ahead; // as along an arc
        }
        if (!s.isPoint() && s.normal().Dot(expected) < 0) s = s.reversed();
        ahead = s.isPoint() ? expected.Normalized() : s.normal();
    }
}

std::vector<FlatLoop> laidFlat(const std::vector<LoftSection>& sections) {
    std::vector<FlatLoop> out(sections.size());
    gp_Vec across;
    const LoftSection* before = nullptr;
    for (std::size_t i = 0; i < sections.size(); ++i) {
        const LoftSection& s = sections[i];
        if (s.isPoint()) continue;
        if (!before) {
            across = std::fabs(s.normal().X()) < 0.9 ? gp_Vec(1, 0, 0) : gp_Vec(0, 1, 0);
        } else {
            across = carried(before->middle(), before->normal(), across, s.middle(), s.normal());
        }
        across = (across - s.normal() * s.normal().Dot(across)).Normalized();
        const gp_Vec up = s.normal().Crossed(across);
        auto own = std::make_shared<const LoftSection>(s);
        out[i].at = [own, across, up](double share) {
            const gp_Vec d(own->middle(), own->at(share));
            return Vec2{d.Dot(across) / own->size(), d.Dot(up) / own->size()};
        };
        for (std::size_t k = 0; k < s.pieces().size(); ++k)
            if (s.cornerAt(k)) out[i].corners.push_back(s.shareOf(k));
        before = &s;
    }
    return out;
}

} // namespace gc
