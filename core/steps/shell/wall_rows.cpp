#include "core/steps/shell/wall_rows.hpp"

#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shell/folds.hpp"

#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>
#include <set>

namespace gc {

namespace {

class RowFinder {
  public:
    RowFinder(const ShellPlan& plan, const TopTools_IndexedMapOfShape& tight)
        : m_plan(plan), m_tight(tight), m_shape(*plan.before) {}

    std::optional<WallRows> find() {
        for (int i = 1; i <= m_shape.faces.Extent(); ++i) {
            const TopoDS_Face face = TopoDS::Face(m_shape.faces(i));
            if (m_plan.opened.Contains(face)) continue;
            if (auto patch = wallPatch(face, i)) m_out.patches.push_back(std::move(*patch));
        }
        for (const WallPatch& patch : m_out.patches) {
            if (m_plan.stop && m_plan.stop()) return std::nullopt;
            const auto axis = bendOf(patch);
            if (axis && !m_taken.contains(patch.number) && !addRow({&patch, 2 * *axis}, false))
                return std::nullopt;
        }
        for (WallRow& row : m_out.rows)
            if ((m_plan.stop && m_plan.stop()) || !row.fit()) return std::nullopt;
        return m_out.rows.empty() ? std::nullopt : std::optional(std::move(m_out));
    }

  private:
    /// The parameter along which a patch is bent where it folds over; nothing where it does not.
    std::optional<std::size_t> bendOf(const WallPatch& patch) const {
        if (!m_tight.Contains(patch.face)) return std::nullopt;
        const double by = m_plan.offsetOf(patch.number);
        const auto places = foldedPlaces(patch.face, by);
        if (places.empty()) return std::nullopt;
        const auto bend = foldAt(sheetOf(patch.face, by), places.front());
        if (!bend) return std::nullopt;
        const SurfacePlace p = placeOf(*patch.surface, places.front());
        const bool second =
            std::fabs(bend->across.Y()) * p.dv.Magnitude() > std::fabs(bend->across.X()) * p.du.Magnitude();
        return second ? 1 : 0;
    }

    const WallPatch* across(const WallPatch& patch, std::size_t side) const {
        const TopoDS_Face face = faceAcross(m_shape, patch.sides[side], patch.face);
        for (const WallPatch& p : m_out.patches)
            if (!face.IsNull() && p.face.IsSame(face)) return &p;
        return nullptr;
    }

    /// What a piece runs on to over the side where x is 1; nothing where that is no such wall.
    std::optional<RowPiece> next(const RowPiece& piece) const {
        const TopoDS_Edge& border = piece.patch->sides[piece.out()];
        const WallPatch* beyond = across(*piece.patch, piece.out());
        if (!beyond || m_plan.offsetOf(beyond->number) != m_plan.offsetOf(piece.patch->number)) return {};
        for (std::size_t side = 0; side < 4; ++side) {
            if (!beyond->sides[side].IsSame(border)) continue;
            for (const bool flipped : {false, true}) {
                const RowPiece on{beyond, side, flipped};
                if (runOnSmoothly(piece, on)) return on;
            }
        }
        return std::nullopt;
    }
    static RowPiece backwards(const RowPiece& piece) {
        // Seen from the other end y runs on as it did.
        return {piece.patch, piece.out(), piece.flipped};
    }

    /// \param forced a row of one is none that can be used. False where there must be a row, and is none.
    bool addRow(const RowPiece& start, bool forced) {
        WallRow row;
        row.pieces = {start};
        while (const auto on = next(row.pieces.back())) {
            row.ring = on->patch == start.patch;
            if (row.ring || m_taken.contains(on->patch->number)) break;
            row.pieces.push_back(*on);
        }
        while (!row.ring) {
            const auto on = next(backwards(row.pieces.front()));
            if (!on || m_taken.contains(on->patch->number)) break;
            row.pieces.insert(row.pieces.begin(), backwards(*on));
        }
        if (row.pieces.size() < 2) return !forced;
        for (const RowPiece& p : row.pieces) m_taken.insert(p.patch->number);
        if (row.ring) openRing(row);
        m_out.rows.push_back(row);
        return addBeside(row, false) && addBeside(row, true);
    }

    /// What lies beside more than one of its walls, and is not the same all along, must be a row itself.
    bool addBeside(const WallRow& row, bool high) {
        std::set<int> beside;
        for (const RowPiece& p : row.pieces) {
            const TopoDS_Face face = faceAcross(m_shape, p.patch->sides[p.along(high)], p.patch->face);
            if (face.IsNull()) return false;
            beside.insert(m_shape.faces.FindIndex(face));
        }
        if (beside.size() < 2) return true;
        const RowPiece& first = row.pieces.front();
        const WallPatch* other = across(*first.patch, first.along(high));
        if (!other) return false;
        if (m_taken.contains(other->number)) return true;
        for (std::size_t side = 0; side < 4; ++side)
            if (other->sides[side].IsSame(first.patch->sides[first.along(high)]))
                return addRow({other, side < 2 ? 2U : 0U}, true);
        return false;
    }

    /// A ring opens in the middle of what is widest of the walls that do not fold over, as its neighbours do.
    void openRing(WallRow& row) {
        const auto beside = [&](const RowPiece& p) {
            return std::any_of(m_opened.begin(), m_opened.end(), [&](const TopoDS_Edge& e) {
                return e.IsSame(p.patch->sides[p.along(false)]) || e.IsSame(p.patch->sides[p.along(true)]);
            });
        };
        const auto worth = [&](const RowPiece& p) {
            if (beside(p)) return 1e300;
            const double width = p.at(0, 0.5).Distance(p.at(1, 0.5));
            return m_tight.Contains(p.patch->face) ? width : 1e6 + width;
        };
        auto& pieces = row.pieces;
        const auto widest =
            std::max_element(pieces.begin(), pieces.end(),
                             [&](const RowPiece& a, const RowPiece& b) { return worth(a) < worth(b); });
        std::rotate(pieces.begin(), widest, pieces.end());
        RowPiece rest = pieces.front();
        pieces.front().from = rest.to = 0.5;
        pieces.push_back(rest);
        for (const bool high : {false, true}) m_opened.push_back(rest.patch->sides[rest.along(high)]);
    }

    const ShellPlan& m_plan;
    const TopTools_IndexedMapOfShape& m_tight;
    const NamedShape& m_shape;
    WallRows m_out;
    std::set<int> m_taken;
    std::vector<TopoDS_Edge> m_opened;
};

} // namespace

std::optional<WallRows> wallRows(const ShellPlan& plan, const TopTools_IndexedMapOfShape& tight) {
    return RowFinder(plan, tight).find();
}

} // namespace gc
