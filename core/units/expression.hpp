#pragma once
/// \file What a user may type into any number field.
///
/// Accepted: numbers ("2.8", "2,8", ".5"), fractions and mixed fractions ("7/64", "3 3/8"), units of
/// amount.cpp after a number ("7/64 in", "45°", "3 3/8 in"), + - * / ^ and brackets (also × · ÷ −), pi,
/// sqrt abs min max round floor ceil sin cos tan asin acos atan, and names of values ("wall + 0.4 mm").
/// "6 pcs" is a plain number, so that a named value can be a count.
/// A unit binds tighter than a sign or operator but looser than a fraction of two plain literals, so
/// "7/64 in" is 7/64 of an inch.
/// A number without unit takes the other side's unit when it is added to a size ("wall + 0.4" means
/// 0.4 mm in a part in millimetres) and the field's unit when it stands alone.

#include "core/base/result.hpp"
#include "core/units/amount.hpp"

#include <functional>
#include <map>
#include <set>

namespace gc {

/// Units that numbers without a unit are read in.
struct UnitSystem {
    std::string length = "mm";
    std::string angle = "°";
    std::string mass = "g";
    std::string volume = "ml";
    /// The symbol for a dimension; empty for a plain number.
    std::string symbolFor(Dimension d) const;
    /// How many internal units one of that symbol is; 1 for a plain number.
    double factorFor(Dimension d) const;
};

/// Finds the value of a name; nothing when there is none of that name.
using NameLookup = std::function<std::optional<Amount>(const std::string&)>;

/// Evaluates a text. Errors carry the position (in bytes) and say what was expected.
/// \param wanted the dimension that the field needs; a bare number is read in units' symbol for it.
Result<Amount> evaluate(std::string_view text, Dimension wanted, const UnitSystem& units,
                        const NameLookup& names = {});

/// The same text with the units said that were only understood, where another system of units would
/// understand others: "24" in millimetres is "24 mm" for a part in inches. A text that is in error stays as
/// it is.
std::string sayUnits(std::string_view text, Dimension wanted, const UnitSystem& was, const UnitSystem& now,
                     const NameLookup& names = {});

/// The names of values that a text uses (also when it has errors elsewhere).
std::set<std::string> namesUsed(std::string_view text);

/// True when the text is just a number with an optional unit, so that dragging may change it in place.
bool isPlainNumber(std::string_view text);

/// A number or a fraction as it was typed, with its unit, or with that one where it has none: "7/64 in".
/// Nothing for what is worked out.
std::optional<std::string> plainFigure(std::string_view text, const std::string& unit);

/// The unit that a text ends with ("mm" of "3 + 2 mm"); empty for none.
std::string unitAtEnd(std::string_view text);

/// The text with every use of the name replaced by another name.
std::string renameIn(std::string_view text, const std::string& from, const std::string& to);

/// May this be the name of a value? Letters, digits and underscores, a letter first, no unit or function.
bool isGoodName(std::string_view name);

/// One named value of a part: "wall = 2.4 mm".
struct NamedValue {
    std::string name;
    std::string expression;
    std::string note;
    friend bool operator==(const NamedValue&, const NamedValue&) = default;
};

/// All named values evaluated in the order of their dependence; an error names the circle or the bad row.
Result<std::map<std::string, Amount>> evaluateValues(const std::vector<NamedValue>& values,
                                                     const UnitSystem& units);

} // namespace gc
