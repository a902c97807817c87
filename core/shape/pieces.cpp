// What belongs together and in which order: pieces of one name, along the frames of the steps that made them.

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>
#include <gp_Vec.hxx>

#include <algorithm>
#include <numeric>

namespace gc {

namespace {

/// The frame of a later step is taken before that of an earlier one that tells pieces as well: it is the one
/// that parted them.
constexpr double kLaterCounts = 3;

/// Groups of items that share something.
class Groups {
  public:
    explicit Groups(std::size_t count) : m_parent(count) { std::iota(m_parent.begin(), m_parent.end(), 0); }
    void join(std::size_t a, std::size_t b) { m_parent[root(a)] = root(b); }
    std::size_t root(std::size_t i) {
        while (m_parent[i] != i) i = m_parent[i] = m_parent[m_parent[i]];
        return i;
    }

  private:
    std::vector<std::size_t> m_parent;
};

double along(const Plane& frame, Order::Along axis, Vec3 p) {
    const Vec3 way = axis == Order::Along::Across ? frame.across
                     : axis == Order::Along::Up   ? frame.up
                                                  : frame.normal();
    return dot(p - frame.origin, way);
}

/// Places along an axis in ascending order with the pieces that they belong to, and the smallest step.
struct Row {
    std::vector<std::pair<double, std::size_t>> places;
    double gap = 1e300;
};

Row rowAlong(const Plane& frame, Order::Along axis, const std::vector<Vec3>& middles) {
    Row row;
    for (std::size_t i = 0; i < middles.size(); ++i)
        row.places.emplace_back(along(frame, axis, middles[i]), i);
    std::sort(row.places.begin(), row.places.end());
    for (std::size_t i = 1; i < row.places.size(); ++i)
        row.gap = std::min(row.gap, row.places[i].first - row.places[i - 1].first);
    return row;
}

} // namespace

std::vector<std::vector<int>> NamedShape::piecesOf(const std::vector<int>& items, bool edgesNotFaces) const {
    const TopTools_IndexedMapOfShape& map = edgesNotFaces ? edges : faces;
    const TopAbs_ShapeEnum joint = edgesNotFaces ? TopAbs_VERTEX : TopAbs_EDGE;
    Groups groups(items.size());
    NCollection_DataMap<TopoDS_Shape, int, TopTools_ShapeMapHasher> seen;
    for (std::size_t i = 0; i < items.size(); ++i)
        for (TopExp_Explorer x(map(items[i] + 1), joint); x.More(); x.Next()) {
            if (const int* other = seen.Seek(x.Current()))
                groups.join(i, static_cast<std::size_t>(*other));
            else
                seen.Bind(x.Current(), static_cast<int>(i));
        }
    std::map<std::size_t, std::vector<int>> byRoot;
    for (std::size_t i = 0; i < items.size(); ++i) byRoot[groups.root(i)].push_back(items[i]);
    std::vector<std::vector<int>> out;
    for (auto& [root, piece] : byRoot) out.push_back(std::move(piece));
    std::sort(out.begin(), out.end());
    return out;
}

Vec3 NamedShape::middleOf(const std::vector<int>& piece, bool edgesNotFaces) const {
    GProp_GProps whole;
    for (const int i : piece) {
        GProp_GProps one;
        if (edgesNotFaces)
            BRepGProp::LinearProperties(edges(i + 1), one);
        else
            BRepGProp::SurfaceProperties(faces(i + 1), one);
        whole.Add(one);
    }
    return toVec(whole.CentreOfMass());
}

std::optional<std::vector<int>> NamedShape::pieceAt(const Order& order,
                                                    const std::vector<std::vector<int>>& pieces,
                                                    bool edgesNotFaces) const {
    const auto frame = frames.find(order.step);
    if (frame == frames.end() || static_cast<int>(pieces.size()) != order.count) return std::nullopt;
    std::vector<Vec3> spots;
    for (const auto& p : pieces) spots.push_back(middleOf(p, edgesNotFaces));
    const Row row = rowAlong(frame->second, order.along, spots);
    if (row.gap < kOrderApart) return std::nullopt;
    return pieces[row.places[static_cast<std::size_t>(order.number - 1)].second];
}

std::optional<Order> NamedShape::orderOf(std::size_t piece, const std::vector<std::vector<int>>& pieces,
                                         bool edgesNotFaces) const {
    std::vector<Vec3> spots;
    for (const auto& p : pieces) spots.push_back(middleOf(p, edgesNotFaces));
    std::optional<Order> best;
    double bestGap = kOrderApart;
    for (auto frame = frames.rbegin(); frame != frames.rend(); ++frame)
        for (const auto axis : {Order::Along::Across, Order::Along::Up, Order::Along::Through}) {
            const Row row = rowAlong(frame->second, axis, spots);
            if (row.gap <= bestGap * (best && best->step != frame->first ? kLaterCounts : 1.001)) continue;
            bestGap = row.gap;
            Order o;
            o.count = static_cast<int>(pieces.size());
            o.along = axis;
            o.step = frame->first;
            for (std::size_t k = 0; k < row.places.size(); ++k)
                if (row.places[k].second == piece) o.number = static_cast<int>(k) + 1;
            best = o;
        }
    return best;
}

bool NamedShape::isInPlace(const FaceRef& ordered, const TopoDS_Shape& face) const {
    const std::string text = toText(ordered);
    const int number = faces.FindIndex(face) - 1;
    const auto holds = [&](const std::vector<int>& list) {
        return std::binary_search(list.begin(), list.end(), number);
    };
    {
        const std::lock_guard lock(placing);
        if (const auto known = placed.find(text); known != placed.end()) return holds(known->second);
    }
    std::vector<int> items;
    for (int i = 1; i <= faces.Extent(); ++i)
        if (fitsFace(*ordered.a, faces(i))) items.push_back(i - 1);
    const auto piece = pieceAt(ordered.order, piecesOf(items, false), false);
    const std::lock_guard lock(placing);
    return holds(placed[text] = piece.value_or(std::vector<int>()));
}

} // namespace gc
