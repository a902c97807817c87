#include "core/units/amount.hpp"

#include <array>
#include <cmath>
#include <cstdio>
#include <numbers>

namespace gc {

namespace {

constexpr double kDegree = std::numbers::pi / 180;

// Lengths, angles and masses first in each group: the one the program writes itself.
constexpr std::array kUnits{
    Unit{"mm", 1, kLength},      Unit{"cm", 10, kLength},
    Unit{"m", 1000, kLength},    Unit{"µm", 1e-3, kLength},
    Unit{"um", 1e-3, kLength},   Unit{"in", 25.4, kLength}, // exact by definition (international inch, 1959)
    Unit{"inch", 25.4, kLength}, Unit{"\"", 25.4, kLength},
    Unit{"ft", 304.8, kLength},  Unit{"thou", 0.0254, kLength},
    Unit{"°", kDegree, kAngle},  Unit{"deg", kDegree, kAngle},
    Unit{"rad", 1, kAngle},      Unit{"g", 1, kMass},
    Unit{"kg", 1000, kMass},     Unit{"oz", 28.349523125, kMass}, // international avoirdupois ounce, exact
    Unit{"mm²", 1, kArea},       Unit{"mm2", 1, kArea},
    Unit{"cm²", 100, kArea},     Unit{"cm2", 100, kArea},
    Unit{"mm³", 1, kVolume},     Unit{"mm3", 1, kVolume},
    Unit{"cm³", 1000, kVolume},  Unit{"cm3", 1000, kVolume},
    Unit{"ml", 1000, kVolume},   Unit{"l", 1e6, kVolume},
    Unit{"pcs", 1, kNumber}, // said of a count, so that it is no length
};

} // namespace

std::optional<Unit> findUnit(std::string_view symbol) {
    for (const Unit& u : kUnits)
        if (u.symbol == symbol) return u;
    return std::nullopt;
}

std::string dimensionInWords(Dimension d) {
    if (d == kNumber) return "plain number";
    if (d == kLength) return "length";
    if (d == kArea) return "area";
    if (d == kVolume) return "volume";
    if (d == kAngle) return "angle";
    if (d == kMass) return "mass";
    return "mixed size";
}

std::string formatNumber(double v, int decimals) {
    char buffer[64];
    std::snprintf(buffer, sizeof buffer, "%.*f", decimals, v);
    std::string s = buffer;
    if (s.find('.') != std::string::npos) {
        while (s.back() == '0') s.pop_back();
        if (s.back() == '.') s.pop_back();
    }
    return s == "-0" ? "0" : s;
}

std::string formatAmount(double internal, std::string_view unitSymbol, int decimals) {
    const auto unit = findUnit(unitSymbol);
    const double shown = internal / (unit ? unit->factor : 1.0);
    // As fine as so many decimals of a millimetre: in coarser units it takes more of them.
    const bool coarse = unit && unit->dimension == kLength && unit->factor > 1;
    std::string s =
        formatNumber(shown, decimals + (coarse ? static_cast<int>(std::ceil(std::log10(unit->factor))) : 0));
    if (unitSymbol.empty()) return s;
    if (unitSymbol != "°") s += ' ';
    return s += unitSymbol;
}

} // namespace gc
