#pragma once
/// \file A size whose dimension is known only when the program runs: what an expression gives.

#include <optional>
#include <string>
#include <string_view>

namespace gc {

/// The dimension of an Amount as powers of length, angle and mass.
struct Dimension {
    int length = 0, angle = 0, mass = 0;
    friend bool operator==(const Dimension&, const Dimension&) = default;
    bool none() const { return *this == Dimension{}; }
};
inline constexpr Dimension kNumber{0, 0, 0};
inline constexpr Dimension kLength{1, 0, 0};
inline constexpr Dimension kArea{2, 0, 0};
inline constexpr Dimension kVolume{3, 0, 0};
inline constexpr Dimension kAngle{0, 1, 0};
inline constexpr Dimension kMass{0, 0, 1};

/// A value in mm, rad and g with its dimension.
struct Amount {
    double value = 0;
    Dimension dimension;
};

/// A unit that a user can write: "mm", "in", "°", "ml".
struct Unit {
    std::string_view symbol;
    double factor; ///< how many mm, rad, g, mm^3 one of it is
    Dimension dimension;
};

/// The unit written as symbol, or nothing. Every accepted spelling is in the table of amount.cpp.
std::optional<Unit> findUnit(std::string_view symbol);

/// "length", "angle", "plain number": for messages.
std::string dimensionInWords(Dimension d);

/// The number in the given unit with at most the given decimals, trailing zeros dropped, a space and the
/// unit's symbol: "2.4 mm", "360°". A unit that is not in the table is a programming error.
std::string formatAmount(double internal, std::string_view unitSymbol, int decimals = 3);

/// A number with at most the given decimals and no trailing zeros; never "-0".
std::string formatNumber(double v, int decimals = 3);

} // namespace gc
