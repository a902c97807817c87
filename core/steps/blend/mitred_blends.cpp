#include "core/steps/blend/mitred_blends.hpp"

#include "core/steps/shared/boolean.hpp"

#include <TopExp.hxx>
#include <TopoDS_Vertex.hxx>

#include <algorithm>

namespace gc {

bool meetPlainly(const NamedShape& shape, const std::vector<EdgeChain>& chains) {
    const bool hollow = isHollow(shape, chains.front().edges.front());
    TopTools_IndexedMapOfShape corners;
    for (const EdgeChain& c : chains)
        for (const TopoDS_Edge& e : c.edges) {
            if (isHollow(shape, e) != hollow) return false;
            TopExp::MapShapes(e, TopAbs_VERTEX, corners);
        }
    return std::all_of(corners.cbegin(), corners.cend(), [&](const TopoDS_Shape& corner) {
        const auto around = edgesAround(shape, corner);
        return std::all_of(around.begin(), around.end(), [&](const TopoDS_Edge& e) {
            return isSmooth(shape, e) || isHollow(shape, e) == hollow;
        });
    });
}

bool haveCornersInCommon(const std::vector<EdgeChain>& chains) {
    TopTools_IndexedMapOfShape before;
    for (const EdgeChain& c : chains) {
        TopTools_IndexedMapOfShape own;
        for (const TopoDS_Edge& e : c.edges) TopExp::MapShapes(e, TopAbs_VERTEX, own);
        for (int i = 1; i <= own.Extent(); ++i)
            if (before.Contains(own(i))) return true;
        for (int i = 1; i <= own.Extent(); ++i) before.Add(own(i));
    }
    return false;
}

Result<Body> mitredBlends(const Body& body, const std::vector<EdgeChain>& chains, int step,
                          const std::function<Result<Body>(const EdgeChain&)>& alone) {
    const bool hollow = isHollow(body.shape(), chains.front().edges.front());
    std::optional<Body> now;
    for (const EdgeChain& c : chains) {
        auto one = alone(c);
        if (one && now) one = combine(*now, toolOf(*one, step), hollow ? Combine::Add : Combine::Common);
        if (!one) return one;
        now = std::move(*one);
    }
    return *now;
}

} // namespace gc
