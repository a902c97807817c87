#include "core/steps/fillet/parted_walls.hpp"

#include "core/steps/shared/parted_at_jumps.hpp"
#include "core/steps/shared/rounded.hpp"

#include <BRep_Tool.hxx>
#include <Geom_BSplineCurve.hxx>

#include <algorithm>

namespace gc {

namespace {

/// The curve's bend at a place, 1/mm, as a vector (do Carmo, Differential geometry of curves and
/// surfaces, 1.5).
gp_Vec bendAt(const Geom_BSplineCurve& curve, double u) {
    gp_Pnt p;
    gp_Vec d, dd;
    curve.D2(u, p, d, dd);
    const double l = d.SquareMagnitude();
    return l > 0 ? (dd - d * (dd * d / l)) / l : gp_Vec();
}

/// Fitted curves are not quite smooth at their knots: only a jump by a good share of the bend is one.
bool jumps(const Geom_BSplineCurve& curve) {
    constexpr double kShare = 0.1, kBeside = 1e-7; // of the bend; of the curve's parameters
    const double off = kBeside * (curve.LastParameter() - curve.FirstParameter());
    for (int k = curve.FirstUKnotIndex() + 1; k < curve.LastUKnotIndex(); ++k) {
        const gp_Vec before = bendAt(curve, curve.Knot(k) - off), after = bendAt(curve, curve.Knot(k) + off);
        if ((after - before).Magnitude() > kShare * std::max(before.Magnitude(), after.Magnitude()) &&
            (after - before).Magnitude() > kShare / 1000)
            return true;
    }
    return false;
}

} // namespace

bool bendJumpsAlong(const std::vector<EdgeChain>& chains) {
    return std::any_of(chains.begin(), chains.end(), [](const EdgeChain& c) {
        return std::any_of(c.edges.begin(), c.edges.end(), [](const TopoDS_Edge& e) {
            double a = 0, b = 0;
            const auto curve = Handle(Geom_BSplineCurve)::DownCast(BRep_Tool::Curve(e, a, b));
            return !curve.IsNull() && jumps(*curve);
        });
    });
}

std::optional<Body> roundedParted(const Body& body, const std::vector<EdgeChain>& chains, int step) {
    const NamedShape& s = body.shape();
    const bool jumps = std::any_of(chains.begin(), chains.end(), [&](const EdgeChain& c) {
        return std::any_of(c.edges.begin(), c.edges.end(), [&](const TopoDS_Edge& e) {
            const auto beside = facesBeside(s, e);
            return std::any_of(beside.begin(), beside.end(), bendJumpsOn);
        });
    });
    if (!jumps) return std::nullopt;
    const auto made = guarded("fillet.too-large", "It cannot be rounded there.", [&]() -> Result<Body> {
        const auto apart = partedAtJumps(s);
        if (!apart || !checkBody(apart->body).faults.empty())
            return errorOf("fillet.too-large", "It cannot be rounded there.");
        std::vector<EdgeChain> pieces = chains;
        for (EdgeChain& c : pieces) {
            std::vector<TopoDS_Edge> edges;
            for (const TopoDS_Edge& e : c.edges)
                for (const TopoDS_Edge& piece : apart->piecesOf(e)) edges.push_back(piece);
            c.edges = std::move(edges);
        }
        return rounded(apart->body, pieces, step);
    });
    return made ? std::optional(*made) : std::nullopt;
}

} // namespace gc
