#include "core/steps/shared/below_rim.hpp"

#include "core/steps/shared/beside_line.hpp"
#include "core/steps/shared/exchanged.hpp"
#include "core/steps/shared/laying.hpp"
#include "core/steps/shared/lowered_wall.hpp"

#include <BRepCheck_Analyzer.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>

#include <algorithm>

namespace gc {

namespace {

class Stepping {
  public:
    Stepping(const FoundItems& picked, const Rim& rim, int step, const std::string& kind,
             const BelowRim& wish)
        : m_picked(picked), m_rim(rim), m_step(step), m_kind(kind), m_wish(wish), m_tool(step, rim.plane) {}

    std::optional<Body> run(const std::vector<TopoDS_Wire>& borders) {
        NamedTool out = toolOf(m_picked.body, m_step);
        out.from = m_picked.body;
        m_outer = m_rim.outer, m_inner = m_rim.inner;
        for (const TopoDS_Wire& border : borders)
            if (isPlain(border) || !stepBeside(border)) return std::nullopt;
        addRest();
        std::optional<TopoDS_Solid> solid = withInstead(m_picked.body.shape().shape, m_rim.face, m_instead);
        std::erase_if(out.names, [&](const auto& n) { return n.first.IsSame(m_rim.face); });
        for (const auto& [was, now] : m_walls) {
            if (!solid) return std::nullopt;
            solid = withInstead(*solid, was, {now});
            for (auto& n : out.names)
                if (n.first.IsSame(was)) n.first = now;
        }
        if (!solid || !BRepCheck_Analyzer(*solid).IsValid()) return std::nullopt;
        out.shape = *solid;
        out.names.insert(out.names.end(), m_names.begin(), m_names.end());
        auto made = bodyOf(out);
        if (!made || !isCombined(m_picked.body, m_tool.whole(), *made, m_wish.how)) return std::nullopt;
        return *made;
    }

  private:
    bool takes() const { return m_wish.how == Combine::Take; }
    Vec3 down() const { return -m_rim.plane.normal(); }

    bool stepBeside(const TopoDS_Wire& border) {
        const auto wall = loweredWall(m_picked.body.shape(), m_rim.face, border, m_rim.plane, m_wish.height);
        if (!wall) return false;
        m_walls.insert(m_walls.end(), wall->faces.begin(), wall->faces.end());
        const double high = m_wish.drop.value_or(m_wish.height);
        const auto side =
            ringSolid(border, m_rim.plane, {0, m_wish.reach, m_wish.outward, down(), high, m_wish.lean});
        if (!side || side->farLine.IsNull()) return false;
        TopoDS_Wire end = side->farTop;
        for (const auto& f : side->faces)
            if (f.part == RingPart::Side) addFace(f, f.face, m_wish.drop ? "skirt" : nullptr);
        if (m_wish.drop) {
            const auto within = turnedDown(border, *side);
            if (!within) return false;
            end = *within;
        }
        addFlat(RingPart::Top, m_wish.height, end, wall->line, m_kind);
        std::replace_if(
            m_inner.begin(), m_inner.end(), [&](const TopoDS_Wire& w) { return w.IsSame(border); },
            side->farLine);
        if (m_outer.IsSame(border)) m_outer = side->farLine;
        return addToTool(border, wall->aside);
    }

    /// The inner side and the end of an edge that reaches down; gives the line at the underside.
    std::optional<TopoDS_Wire> turnedDown(const TopoDS_Wire& border, const RingSolid& side) {
        const auto within = ringSolid(
            border, m_rim.plane, {0, m_wish.reach - m_wish.height, m_wish.outward, down(), m_wish.height, 0});
        if (!within || within->farTop.IsNull()) return std::nullopt;
        BRepPrimAPI_MakePrism prism(within->farTop, directionIn(down()) * (*m_wish.drop - m_wish.height));
        const BRep_Builder builder;
        TopoDS_Wire end;
        builder.MakeWire(end);
        for (TopExp_Explorer x(within->farTop, TopAbs_EDGE); x.More(); x.Next())
            builder.Add(end, prism.LastShape(x.Current()));
        end.Closed(true);
        for (const auto& f : within->faces) {
            if (f.part != RingPart::Side) continue;
            // Below each of its sides one of the prism's faces goes on, and looks the other way.
            for (TopExp_Explorer x(f.face, TopAbs_EDGE); x.More(); x.Next())
                for (const TopoDS_Shape& made : toVector(prism.Generated(x.Current())))
                    if (made.ShapeType() == TopAbs_FACE)
                        addFace({made, RingPart::Wall, f.along}, lookingBack(made, f.face, x.Current()),
                                nullptr, "skirt");
        }
        addFlat(RingPart::Top, *m_wish.drop, side.farTop, end, "skirt");
        return within->farTop;
    }
    /// A face that goes on from another over an edge, so that its normal is against the other's there.
    static TopoDS_Shape lookingBack(const TopoDS_Shape& face, const TopoDS_Shape& from,
                                    const TopoDS_Shape& edge) {
        const auto sense = [&](const TopoDS_Shape& f) {
            for (TopExp_Explorer x(f, TopAbs_EDGE); x.More(); x.Next())
                if (x.Current().IsSame(edge)) return x.Current().Orientation();
            return TopAbs_FORWARD;
        };
        // Two faces of one side of a shell walk the edge between them one against the other.
        return sense(face) == sense(from) ? face : face.Reversed();
    }

    void addFace(const RingSolid::Face& f, const TopoDS_Shape& face, const char* also,
                 const std::string& kind = {}) {
        const TopoDS_Shape lies = takes() ? face.Reversed() : face;
        m_instead.push_back(lies);
        m_names.emplace_back(lies, ringName(m_picked, m_rim, m_step, kind.empty() ? m_kind : kind, f));
        if (also) m_names.emplace_back(lies, ringName(m_picked, m_rim, m_step, also, f));
    }
    /// At a level, between a line of the step and one nearer to the border.
    void addFlat(RingPart part, double depth, const TopoDS_Wire& far, const TopoDS_Wire& near,
                 const std::string& kind) {
        Plane level = m_rim.plane;
        level.origin = level.origin + down() * depth;
        const TopoDS_Face face = m_wish.outward ? flatFace(level, far, {near}) : flatFace(level, near, {far});
        addFace({face, part, {}}, face.Reversed(), nullptr, kind); // looks down, out of what is added
    }
    void addRest() {
        const TopoDS_Face rest = flatFace(m_rim.plane, m_outer, m_inner);
        m_instead.push_back(rest);
        for (const NamePtr name : m_picked.body.shape().namesOf(m_rim.face)) m_names.emplace_back(rest, name);
        if (!takes())
            m_names.emplace_back(rest, ringName(m_picked, m_rim, m_step, m_kind, {rest, RingPart::Foot, {}}));
    }
    /// What a boolean would have added or taken; it begins where the wall is at the level.
    bool addToTool(const TopoDS_Wire& border, double aside) {
        constexpr double kSpare = 0.01; // mm
        const double from = aside > kSpare ? -aside - kSpare : 0;
        std::vector<std::pair<Plane, RingWish>> rings{
            {m_rim.plane, {from, m_wish.reach, m_wish.outward, down(), m_wish.height, m_wish.lean}}};
        if (m_wish.drop) {
            const double thickness = m_wish.height;
            rings.push_back({m_rim.plane,
                             {m_wish.reach - thickness, m_wish.reach, m_wish.outward, down(),
                              *m_wish.drop - thickness, 0}});
        }
        for (std::size_t i = 0; i < rings.size(); ++i) {
            const auto ring = ringSolid(border, rings[i].first, rings[i].second);
            if (!ring) return false;
            gp_Trsf lower;
            lower.SetTranslation(directionIn(down()) * (i == 0 ? 0 : m_wish.height));
            const TopLoc_Location at(lower);
            BRep_Builder().Add(m_tool.solids, ring->solid.Moved(at));
            for (const auto& f : ring->faces)
                m_tool.tool.names.emplace_back(f.face.Moved(at),
                                               ringName(m_picked, m_rim, m_step, m_kind, f));
        }
        return true;
    }

    const FoundItems& m_picked;
    const Rim& m_rim;
    int m_step;
    std::string m_kind;
    BelowRim m_wish;
    ToolOfSolids m_tool;
    TopoDS_Wire m_outer;
    std::vector<TopoDS_Wire> m_inner;
    std::vector<TopoDS_Shape> m_instead;
    std::vector<std::pair<TopoDS_Shape, NamePtr>> m_names;
    std::vector<std::pair<TopoDS_Face, TopoDS_Face>> m_walls;
};

} // namespace

std::optional<Body> setBelowRim(const FoundItems& picked, const Rim& rim, int step, const std::string& kind,
                                const std::vector<TopoDS_Wire>& borders, const BelowRim& wish) {
    return Stepping(picked, rim, step, kind, wish).run(borders);
}

} // namespace gc
