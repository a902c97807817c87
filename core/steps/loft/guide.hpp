#pragma once
/// \file For .cpp files: a line that the wall of a loft has to follow.

#include "core/steps/loft/section.hpp"

namespace gc {

struct LoftGuide {
    Path line;
    /// Where it meets each section, mm from its beginning; ascending. Of a closed line, on past its end.
    std::vector<double> along;
    std::vector<double> at; ///< and where on the section: the share of that
};

/// A guide that misses a section by more than that is refused, mm.
inline constexpr double kGuideMeets = 1e-3;

/// \param number among the guides, from 1. Errors: "loft.guide-misses" with the section, how far and where;
/// "loft.guide-order" where it meets the sections in another order, "loft.guide-ends" of a line that ends
/// where the loft goes round. The first offers to hold the guide where it would meet. \param round the loft
/// closes, and so does the line
Result<LoftGuide> guideThrough(const Path& path, const std::vector<LoftSection>& sections, bool round,
                               int number, const std::string& said, ModelReader& model);

/// The place of a section that lies beside a place of another: its corner beside a corner, else as near as
/// may be.
double shareBeside(const LoftSection& drawn, const LoftSection& wall, double share);
/// The same for all places where a guide meets the sections.
LoftGuide guideBeside(const LoftGuide& guide, const std::vector<LoftSection>& drawn,
                      const std::vector<LoftSection>& wall);

/// Where a spine passes the plane of each section, or is nearest to a point, mm along it. Errors:
/// "loft.spine-misses", "loft.spine-order".
struct LoftSpine {
    Path line;
    std::vector<double> along;
};
Result<LoftSpine> spineThrough(const Path& path, const std::vector<LoftSection>& sections);

} // namespace gc
