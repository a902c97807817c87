// Borders that are used up when the faces beside them are moved, and those that take their place.

#include "core/steps/shell/followed.hpp"

#include "core/base/tolerance.hpp"

#include <BRep_Tool.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// What hangs together at a corner where it is now.
struct CornerNow {
    std::vector<BorderEnd> ends;
    std::vector<int> faces;
};

CornerNow cornerNow(std::deque<FollowedBorder>& borders, const TopoDS_Vertex& at) {
    CornerNow out;
    for (FollowedBorder& b : borders)
        for (const bool end : {false, true}) {
            if (b.gone || !b.ends[end].IsSame(at)) continue;
            out.ends.emplace_back(&b, end);
            for (const int f : b.faces)
                if (std::find(out.faces.begin(), out.faces.end(), f) == out.faces.end())
                    out.faces.push_back(f);
        }
    return out;
}

bool mayTurn(const FollowedBorder& b) {
    if (b.gone || !b.via.empty() || b.faces[0] == b.faces[1]) return false;
    const auto ends = endsAlong(b);
    return ends && isUsedUp(b, *ends);
}

/// Where a face is near a corner, by its parameters; of borders that were there before.
std::optional<gp_Pnt2d> nearOn(const CornerNow& corner, int face, const MovedFace& moved) {
    for (const auto& [border, end] : corner.ends)
        if (!border->edge.IsNull() && (border->faces[0] == face || border->faces[1] == face))
            return BRep_Tool::Parameters(cornerBefore(*border, end), moved.face);
    return std::nullopt;
}

/// One border that is to give way to another.
class Turn {
  public:
    Turn(const std::vector<MovedFace>& faces, std::deque<FollowedBorder>& borders, FollowedBorder& old,
         double wall)
        : m_faces(faces), m_borders(borders), m_old(old),
          m_wall(wall), m_at{cornerNow(borders, old.ends[0]), cornerNow(borders, old.ends[1])} {}

    bool make() {
        for (std::size_t end = 0; end < 2; ++end) {
            const CornerNow& corner = m_at[end];
            if (corner.faces.size() != 3 || corner.ends.size() != 3) return false;
            for (const int f : corner.faces)
                if (f != m_old.faces[0] && f != m_old.faces[1]) m_beyond[end] = f;
        }
        if (m_beyond[0] == m_beyond[1]) return false;
        for (std::size_t side = 0; side < 2; ++side)
            if (!findCorner(side)) return false;
        if (!makeBorder()) return false;
        m_old.gone = true;
        for (const CornerNow& corner : m_at)
            for (const auto& [border, end] : corner.ends) {
                if (border != &m_old) border->ends[end] = m_fresh.ends[isBeside(*border, 0) ? 0 : 1];
            }
        m_borders.push_back(std::move(m_fresh));
        return true;
    }

  private:
    const MovedFace& faceOf(int number) const { return m_faces[static_cast<std::size_t>(number) - 1]; }

    /// Where the two faces beyond the ends meet one of those beside the old border.
    bool findCorner(std::size_t side) {
        constexpr double kFar = 20; // walls
        const int numbers[3] = {m_beyond[0], m_beyond[1], m_old.faces[side]};
        std::vector<const MovedFace*> faces;
        std::vector<gp_Pnt2d> uv;
        for (std::size_t i = 0; i < 3; ++i) {
            const auto near = nearOn(m_at[i == 1 ? 1 : 0], numbers[i], faceOf(numbers[i]));
            if (!near) return false;
            faces.push_back(&faceOf(numbers[i]));
            uv.push_back(*near);
        }
        const gp_Pnt a = BRep_Tool::Pnt(m_old.ends[0]), b = BRep_Tool::Pnt(m_old.ends[1]);
        const auto now = movedCorner(gp_Pnt((a.XYZ() + b.XYZ()) / 2), faces, uv, endsBeside(side));
        if (!now || now->off > kMovedShare * m_wall || now->at.Distance(a) > kFar * m_wall) return false;
        BRep_Builder().MakeVertex(m_fresh.ends[side], now->at, kKernelPoint + now->off);
        if (!wantedBeside(faces, now->at, uv)) return false;
        m_uv[0][side] = uv[0], m_uv[1][side] = uv[1];
        return true;
    }

    /// The ends there of the borders between a face beside the old border and those beyond its ends.
    std::vector<BorderEnd> endsBeside(std::size_t side) const {
        std::vector<BorderEnd> out;
        for (const CornerNow& corner : m_at)
            for (const BorderEnd& e : corner.ends)
                if (e.first != &m_old && isBeside(*e.first, side)) out.push_back(e);
        return out;
    }
    bool isBeside(const FollowedBorder& b, std::size_t side) const {
        return b.faces[0] == m_old.faces[side] || b.faces[1] == m_old.faces[side];
    }

    bool makeBorder() {
        constexpr double kRunsOn = 0.02; // rad
        const std::array<gp_Pnt, 2> ends{BRep_Tool::Pnt(m_fresh.ends[0]), BRep_Tool::Pnt(m_fresh.ends[1])};
        if (ends[0].Distance(ends[1]) < kMovedShare / 10 * m_wall) return false;
        m_fresh.faces[0] = m_beyond[0], m_fresh.faces[1] = m_beyond[1];
        m_fresh.moves.emplace(faceOf(m_beyond[0]), faceOf(m_beyond[1]), ends, m_uv);
        return std::min(m_fresh.moves->kinkAt(false), m_fresh.moves->kinkAt(true)) > kRunsOn;
    }

    const std::vector<MovedFace>& m_faces;
    std::deque<FollowedBorder>& m_borders;
    FollowedBorder& m_old;
    double m_wall;
    std::array<CornerNow, 2> m_at; ///< at the ends of the old border
    int m_beyond[2] = {0, 0};      ///< the face beyond each of them
    FollowedBorder m_fresh;
    std::array<std::array<gp_Pnt2d, 2>, 2> m_uv; ///< of its ends, for either face
};

} // namespace

std::optional<std::array<double, 2>> endsAlong(const FollowedBorder& border) {
    const MovedBorder& m = *border.moves;
    std::array<double, 2> out{m.first(), m.last()};
    for (std::size_t i = 0; i < 2; ++i) {
        // The plane square to a fitted edge is turned a little: over a wall that is nearly folded that is
        // far.
        const gp_Pnt at = BRep_Tool::Pnt(border.ends[i]);
        if (const auto end = m.place(out[i]); end && end->at.Distance(at) < kMet) continue;
        const auto along = m.parameterAt(at, out[i]);
        if (!along) return std::nullopt;
        out[i] = *along;
    }
    return out;
}

bool isUsedUp(const FollowedBorder& border, const std::array<double, 2>& ends) {
    constexpr double kLeast = 1e-3; // of the border
    return ends[1] - ends[0] < kLeast * (border.moves->last() - border.moves->first());
}

bool turnUsedUp(const std::vector<MovedFace>& faces, std::deque<FollowedBorder>& borders, double wall) {
    const std::size_t most = 2 * borders.size(); // a turn may use up the next border; never without an end
    std::size_t turns = 0;
    for (; turns < most; ++turns) {
        const auto next = std::find_if(borders.begin(), borders.end(), [&](FollowedBorder& b) {
            return mayTurn(b) && Turn(faces, borders, b, wall).make();
        });
        if (next == borders.end()) break;
    }
    return turns > 0;
}

} // namespace gc
