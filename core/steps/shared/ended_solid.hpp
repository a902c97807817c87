#pragma once
/// \file For .cpp files: an area moved or turned along, and what is left of it where something ends it.

#include "core/steps/shared/boolean.hpp"

#include <BRepAlgoAPI_Splitter.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Vec.hxx>

#include <memory>
#include <utility>

namespace gc {

/// The solid over one area, before anything ends it.
struct Swept {
    TopoDS_Shape solid;
    TopoDS_Face start, end;                                  ///< its caps; null where a turn closes in itself
    std::vector<std::pair<TopoDS_Shape, std::string>> sides; ///< with their roles
    gp_Vec along; ///< of what is moved along: from its start to its end
    /// Why it goes less far than it should: its sides lean together.
    std::optional<Error> cutShort{};
};

/// Share of the area that may be left open: what rounding makes of a border.
inline constexpr double kCovered = 1e-6;

class EndedSolid {
  public:
    explicit EndedSolid(Swept whole) : m_whole(std::move(whole)) {}

    const Swept& whole() const { return m_whole; }

    /// Keeps what is left on the side where it begins. \return the share of the area on which nothing ends
    /// it; nothing where the kernel fails
    std::optional<double> cut(const std::vector<TopoDS_Shape>& tools);
    /// Keeps the pieces in which one of the places lies. \return false where there is none
    bool cutAround(const std::vector<TopoDS_Shape>& tools, const std::vector<gp_Pnt>& places);

    /// Is a part of its far cap still there?
    bool keepsEnd();

    /// Puts all of it among the solids, with the names of its faces: "start", "end" and its sides'.
    void addWhole(int step, TopoDS_Compound& solids, NamedTool& tool) const;
    /// Puts what was kept among the solids. What the tools made of it is the end.
    /// \param starts those of the tools that it begins at, where it does not begin at its own start
    void addKept(int step, TopoDS_Compound& solids, NamedTool& tool,
                 const std::vector<TopoDS_Shape>& starts = {});

  private:
    Swept m_whole;
    std::unique_ptr<NearOnly<BRepAlgoAPI_Splitter>> m_cut;
    std::vector<TopoDS_Shape> m_kept;

    bool split(const std::vector<TopoDS_Shape>& tools);
    std::vector<TopoDS_Shape> imagesOf(const TopoDS_Shape& face);
};

} // namespace gc
