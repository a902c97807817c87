#pragma once
/// \file For .cpp files: the lines along which a loft leads the places of its first section through the
/// others.

#include "core/steps/loft/section.hpp"

#include <string>

namespace gc {

struct LoftThread {
    std::vector<double> at; ///< the share on each section; of points 0
    bool corner = false;    ///< of one of the sections: the wall has an edge there
};

/// A thread that a person pulled from one section to a place of the next.
struct PulledThread {
    int section = 1; ///< from which, from 1
    LoftSection::Place from, to;
};

/// "1: 12 to 7; 2: 3 to 9 at 0.35": the sections, and the strokes that begin there. What is not understood is
/// left out.
std::vector<PulledThread> pulledIn(const std::string& text);
std::string toText(const std::vector<PulledThread>& pulled);

struct MatchedSections {
    std::vector<LoftThread> threads; ///< in order; at least one
    std::vector<Matching> between;   ///< each section and the next; empty where one is a point
    int lost = 0;                    ///< so many pulled threads begin or end nowhere any more
};

/// \param flat see laidFlat() \param guides where each guide meets the sections
/// Errors: "loft.crossing" where threads that are pulled, or guides, would cross each other.
Result<MatchedSections> matchSections(const std::vector<LoftSection>& sections,
                                      const std::vector<FlatLoop>& flat,
                                      const std::vector<std::vector<double>>& guides,
                                      const std::vector<PulledThread>& pulled);

} // namespace gc
