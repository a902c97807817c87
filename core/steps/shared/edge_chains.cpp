#include "core/steps/shared/edge_chains.hpp"

#include <TopoDS.hxx>

namespace gc {

Result<Done> addChains(const Body& body, const std::vector<int>& edges, double first, double second,
                       bool backward, BRepFilletAPI_MakeFillet& asks, std::vector<EdgeChain>& out) {
    const NamedShape& s = body.shape();
    const int before = asks.NbContours();
    for (const int i : edges) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i + 1));
        const int already = asks.Contour(edge);
        if (already > before) continue;
        if (already > 0) {
            Error e =
                errorOf("fillet.twice",
                        "An edge is named twice with different radii: it runs on smoothly into one that "
                        "is named before. Let go of it in one of the two places.");
            e.place = middleOf(EdgeChain{{edge}});
            return e;
        }
        asks.Add(edge);
        const int c = asks.Contour(edge);
        if (c == 0) continue; // smooth already
        EdgeChain chain;
        chain.first = first;
        chain.second = second;
        chain.backward = backward;
        for (int k = 1; k <= asks.NbEdges(c); ++k) chain.edges.push_back(asks.Edge(c, k));
        out.push_back(std::move(chain));
    }
    return Done{};
}

} // namespace gc
