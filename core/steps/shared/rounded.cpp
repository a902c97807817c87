#include "core/steps/shared/rounded.hpp"

#include "core/base/monotone_cubic.hpp"
#include "core/shape/length_curve.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/supports.hpp"
#include "core/steps/shared/worked_names.hpp"
#include "core/units/amount.hpp"

#include <BRep_Tool.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace gc {

namespace {

Error tooLarge(Message sentence) {
    return errorOf("fillet.too-large", std::move(sentence));
}

Error filletFailed(const Body& body, BRepFilletAPI_MakeFillet& fillet, double radius) {
    Error e = tooLarge(
        phrase("A radius of %1 does not fit: the faces beside the edge are too narrow or too curved for it.",
               formatAmount(radius, "mm", 2)));
    const NamedShape& s = body.shape();
    for (int c = 1; c <= fillet.NbFaultyContours(); ++c)
        for (int k = 1; k <= fillet.NbEdges(fillet.FaultyContour(c)); ++k) {
            const TopoDS_Edge& edge = fillet.Edge(fillet.FaultyContour(c), k);
            const auto refs = referencesForEdge(body, s.edges.FindIndex(edge) - 1);
            if (!refs.empty()) e.culprits.push_back(refs.back());
            if (!e.place) e.place = middleOf(EdgeChain{{edge}});
        }
    return e;
}

/// The radii along a chain, by the share of its way: nowhere larger or smaller than what was asked.
MonotoneCubic radiiOf(const EdgeChain& chain) {
    std::vector<double> shares{0}, radii{chain.first};
    for (const RadiusPlace& p : chain.via) {
        shares.push_back(p.share);
        radii.push_back(p.radius);
    }
    shares.push_back(1);
    radii.push_back(chain.second);
    return {std::move(shares), std::move(radii)};
}

/// The radii of a contour by places on the way, edge by edge.
void setRadiiAlong(BRepFilletAPI_MakeFillet& fillet, int contour, const EdgeChain& chain, bool ahead) {
    constexpr int kPieces = 8; // of an edge: between them the kernel's own spline strays by less than 0.1 %
    const MonotoneCubic radius = radiiOf(chain);
    std::vector<double> ends{0};
    for (int k = 1; k <= fillet.NbEdges(contour); ++k)
        ends.push_back(ends.back() + LengthCurve::of(fillet.Edge(contour, k)).length());
    for (int k = 1; k <= fillet.NbEdges(contour); ++k) {
        TColgp_Array1OfPnt2d radii(0, kPieces);
        const double from = ends[static_cast<std::size_t>(k - 1)], to = ends[static_cast<std::size_t>(k)];
        for (int i = 0; i <= kPieces; ++i) {
            const double u = static_cast<double>(i) / kPieces, share = (from + u * (to - from)) / ends.back();
            radii(i) = gp_Pnt2d(u, radius.at(ahead ? share : 1 - share));
        }
        fillet.SetRadius(radii, contour, k);
    }
}

/// Of the ends of a contour the one that it grows from: the lower, else the one in front, else the left one.
bool beginsThere(const BRepFilletAPI_MakeFillet& fillet, int contour) {
    constexpr double kLevel = 1e-6; // mm
    const gp_Pnt a = BRep_Tool::Pnt(fillet.FirstVertex(contour)),
                 b = BRep_Tool::Pnt(fillet.LastVertex(contour));
    const double d[] = {b.Z() - a.Z(), b.Y() - a.Y(), b.X() - a.X()};
    for (const double up : d)
        if (std::fabs(up) > kLevel) return up > 0;
    return true;
}

void setRadii(BRepFilletAPI_MakeFillet& fillet, int contour, const EdgeChain& chain, bool changes) {
    if (!changes) {
        fillet.SetRadius(chain.first, contour, 1);
        return;
    }
    const bool ahead = beginsThere(fillet, contour) != chain.backward;
    if (!chain.via.empty())
        setRadiiAlong(fillet, contour, chain, ahead);
    else
        fillet.SetRadius(ahead ? chain.first : chain.second, ahead ? chain.second : chain.first, contour, 1);
}

} // namespace

Result<Body> rounded(const Body& body, const std::vector<EdgeChain>& chains, int step,
                     BRepFilletAPI_MakeFillet* added) {
    const NamedShape& s = body.shape();
    const double radius = largestOf(chains.front());
    const Message unfit =
        phrase("A radius of %1 does not fit at these edges.", formatAmount(radius, "mm", 2));
    return guarded("fillet.too-large", unfit.text(), [&]() -> Result<Body> {
        std::optional<BRepFilletAPI_MakeFillet> own;
        BRepFilletAPI_MakeFillet& fillet = added ? *added : own.emplace(s.shape);
        std::map<int, double> even; // by contour
        for (const EdgeChain& chain : chains)
            for (const TopoDS_Edge& e : chain.edges) {
                if (fillet.Contour(e) == 0) fillet.Add(e);
                const int c = fillet.Contour(e);
                if (c == 0 || even.count(c) > 0) continue;
                const bool changes = chain.first != chain.second || !chain.via.empty();
                even[c] = changes ? 0 : chain.first;
                setRadii(fillet, c, chain, changes);
            }
        if (fillet.NbContours() == 0)
            return errorOf("fillet.smooth",
                           "The edges are smooth already: the faces beside them do not meet at an angle.");
        fillet.Build();
        if (!fillet.IsDone()) return filletFailed(body, fillet, radius);
        auto made = bodyOfWork(body, fillet, step, "fillet", chains);
        if (!made) return made.error();
        // A radius that uses up a face often gives a body that is not sound, and no error.
        const BodyCheck check = checkBody(*made, {&body});
        if (!check.faults.empty() || check.solids != solidsIn(s.shape))
            return tooLarge(
                phrase("A radius of %1 does not fit at these edges: the faces beside them are used up.",
                       formatAmount(radius, "mm", 2)));
        if (!touchesBothSides(fillet, s, made->shape().shape, [&](int c) { return even[c]; }))
            return tooLarge(
                phrase("A radius of %1 does not fit at these edges: it would not touch the faces on "
                       "both sides.",
                       formatAmount(radius, "mm", 2)));
        return made;
    });
}

} // namespace gc
