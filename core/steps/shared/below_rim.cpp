#include "core/steps/shared/below_rim.hpp"

#include "core/steps/shared/beside_line.hpp"
#include "core/steps/shared/exchanged.hpp"
#include "core/steps/shared/laying.hpp"
#include "core/steps/shared/lowered_wall.hpp"

#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>

namespace gc {

namespace {

class Stepping {
  public:
    Stepping(const FoundItems& picked, const Rim& rim, int step, const std::string& kind,
             const BelowRim& wish)
        : m_picked(picked), m_rim(rim), m_step(step), m_kind(kind), m_wish(wish),
          m_tool(step, rim.plane), m_instead{{rim.face, {}}} {}

    std::optional<Body> run(const std::vector<TopoDS_Wire>& borders) {
        for (const TopoDS_Wire& border : borders)
            if (isPlain(border) || !stepBeside(border)) return std::nullopt;
        addRest();
        auto made = exchanged(m_picked.body, m_instead, m_step, m_rim.plane);
        return made && isCombined(m_picked.body, m_tool.whole(), *made, m_wish.how) ? made : std::nullopt;
    }

  private:
    bool takes() const { return m_wish.how == Combine::Take; }
    Vec3 down() const { return -m_rim.plane.normal(); }

    bool stepBeside(const TopoDS_Wire& border) {
        const auto wall = loweredWall(m_picked.body.shape(), m_rim.face, border, m_rim.plane, m_wish.height);
        if (!wall) return false;
        for (const auto& [was, now] : wall->faces)
            m_instead.push_back({was, {{now, m_picked.body.shape().namesOf(was)}}});
        const double high = m_wish.drop.value_or(m_wish.height);
        const auto side =
            ringSolid(border, m_rim.plane, {0, m_wish.reach, m_wish.outward, down(), high, m_wish.lean});
        if (!side || side->farLine.IsNull()) return false;
        TopoDS_Wire end = side->farTop;
        for (const auto& f : side->faces)
            if (f.part == RingPart::Side) {
                NameList names{nameOf(f, m_kind)};
                if (m_wish.drop) names.push_back(nameOf(f, "skirt"));
                addFace(f.face, names);
            }
        if (m_wish.drop) {
            const auto within = turnedDown(border, *side);
            if (!within) return false;
            end = *within;
        }
        addFlat(m_wish.height, end, wall->line, m_kind);
        m_lines.emplace_back(border, side->farLine);
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
                        addFace(lookingBack(made, f.face, x.Current()),
                                {nameOf({made, RingPart::Wall, f.along}, "skirt")});
        }
        addFlat(*m_wish.drop, side.farTop, end, "skirt");
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

    NamePtr nameOf(const RingSolid::Face& f, const std::string& kind) const {
        return ringName(m_picked, m_rim, m_step, kind, f);
    }
    /// In the rim's place. \param face as it lies in what is added
    void addFace(const TopoDS_Shape& face, const NameList& names) {
        m_instead.front().faces.emplace_back(takes() ? face.Reversed() : face, names);
    }
    /// At a level, between a line of the step and one nearer to the border.
    void addFlat(double depth, const TopoDS_Wire& far, const TopoDS_Wire& near, const std::string& kind) {
        Plane level = m_rim.plane;
        level.origin = level.origin + down() * depth;
        const TopoDS_Face face = m_wish.outward ? flatFace(level, far, {near}) : flatFace(level, near, {far});
        addFace(face.Reversed(),
                {nameOf({face, RingPart::Top, {}}, kind)}); // looks down, out of what is added
    }
    void addRest() {
        const TopoDS_Face rest = restOf(m_rim, m_lines);
        NameList names = m_picked.body.shape().namesOf(m_rim.face);
        if (!takes()) names.push_back(nameOf({rest, RingPart::Foot, {}}, m_kind));
        m_instead.front().faces.emplace_back(rest, names);
    }
    /// What a boolean would have added or taken; it begins where the wall is at the level.
    bool addToTool(const TopoDS_Wire& border, double aside) {
        constexpr double kSpare = 0.01; // mm
        const double from = aside > kSpare ? -aside - kSpare : 0, high = m_wish.height;
        std::vector<std::pair<double, RingWish>> rings{
            // by their depth
            {0, {from, m_wish.reach, m_wish.outward, down(), high, m_wish.lean}}};
        if (m_wish.drop)
            rings.push_back(
                {high, {m_wish.reach - high, m_wish.reach, m_wish.outward, down(), *m_wish.drop - high, 0}});
        for (const auto& [depth, wish] : rings) {
            const auto ring = ringSolid(border, m_rim.plane, wish);
            if (!ring) return false;
            gp_Trsf lower;
            lower.SetTranslation(directionIn(down()) * depth);
            BRep_Builder().Add(m_tool.solids, ring->solid.Moved(lower));
            for (const auto& f : ring->faces)
                m_tool.tool.names.emplace_back(f.face.Moved(lower), nameOf(f, m_kind));
        }
        return true;
    }

    const FoundItems& m_picked;
    const Rim& m_rim;
    int m_step;
    std::string m_kind;
    BelowRim m_wish;
    ToolOfSolids m_tool;
    std::vector<FacesInstead> m_instead; ///< first the rim's
    std::vector<std::pair<TopoDS_Wire, TopoDS_Wire>> m_lines;
};

} // namespace

std::optional<Body> setBelowRim(const FoundItems& picked, const Rim& rim, int step, const std::string& kind,
                                const std::vector<TopoDS_Wire>& borders, const BelowRim& wish) {
    return Stepping(picked, rim, step, kind, wish).run(borders);
}

} // namespace gc
