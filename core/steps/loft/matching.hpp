#pragma once
/// \file Which place of one closed section goes to which of the next: the matching of least twist. Free of
/// the kernel.

#include "core/base/vec.hpp"

#include <functional>
#include <optional>
#include <vector>

namespace gc {

/// A closed section laid flat: its middle at the origin, its mean distance from there 1. Places are told by
/// their share of its length, in [0, 1).
struct FlatLoop {
    std::function<Vec2(double share)> at;
    std::vector<double> corners; ///< ascending
    bool smooth() const { return corners.empty(); }
};

/// A place of the first section, and the one of the second that it goes to.
struct MatchedPair {
    double a = 0, b = 0;
    friend bool operator==(const MatchedPair&, const MatchedPair&) = default;
};

struct Matching {
    std::vector<MatchedPair> pairs; ///< ascending in a; b goes round once with them
    /// What is least: the sum of the squared distances between what is matched, with both laid flat.
    double twist = 0;
    double turn = 0; ///< the mean angle from a to b, seen against the normal, rad
};

/// Every corner of both is matched. Where both have corners, as many as the one with fewer has go from corner
/// to corner, in order; what is left of the other's goes to where it lies between its neighbours, by length.
/// Corners against a smooth section go to its nearest places. Two smooth sections are matched in one pair.
/// \param given pairs that have to be kept
/// \return the best first, and others that are as good within 1e-6 (a square over one turned by half a right
/// angle); nothing where the given pairs do not follow each other in the same order on both.
std::vector<Matching> leastTwist(const FlatLoop& a, const FlatLoop& b, std::vector<MatchedPair> given = {});

/// The twist of a matching, summed over its pairs.
double twistOf(const FlatLoop& a, const FlatLoop& b, const std::vector<MatchedPair>& pairs);

/// Where a place of the first goes: between two pairs by length.
double matched(const std::vector<MatchedPair>& pairs, double a);

/// Do the pairs follow each other in the same order on both, going round once?
bool followInOrder(std::vector<MatchedPair> pairs);

/// From one share forward to another, in (0, 1].
double forward(double from, double to);
/// A share in [0, 1).
double wrapped(double share);

} // namespace gc
