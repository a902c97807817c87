#pragma once
/// \file For .cpp files: a line that the wall of a loft has to follow.

#include "core/steps/loft/section.hpp"

namespace gc {

/// A path with one length along all of it.
class LoftLine {
  public:
    explicit LoftLine(Path path);
    double length() const { return m_length; }
    gp_Pnt at(double s) const;
    gp_Vec tangent(double s) const;
    const Path& path() const { return m_path; }
    /// Where its pieces join, and where splines are less smooth; its ends included.
    std::vector<double> breaks() const;
    /// Which piece, and where in it.
    std::pair<std::size_t, double> pieceAt(double s) const;

  private:
    Path m_path;
    std::vector<double> m_before;
    double m_length = 0;
};

struct LoftGuide {
    LoftLine line;
    std::vector<double> along; ///< where it meets each section, mm from its beginning; ascending
    std::vector<double> at;    ///< and where on the section: the share of that
};

/// A guide that misses a section by more than that is refused, mm.
inline constexpr double kGuideMeets = 1e-3;

/// \param number among the guides, from 1. Errors: "loft.guide-misses" with the section, how far and where;
/// "loft.guide-order" where it meets the sections in another order.
/// The first offers to hold the guide where it would meet.
Result<LoftGuide> guideThrough(const Path& path, const std::vector<LoftSection>& sections, int number,
                               const std::string& said, ModelReader& model);

/// Where a spine passes the plane of each section, or is nearest to a point, mm along it. Errors:
/// "loft.spine-misses", "loft.spine-order".
struct LoftSpine {
    LoftLine line;
    std::vector<double> along;
};
Result<LoftSpine> spineThrough(const Path& path, const std::vector<LoftSection>& sections);

} // namespace gc
