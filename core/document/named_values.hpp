#pragma once
/// \file Named values and named dimensions: where each is used, and renaming with everything that uses it.

#include "core/document/part.hpp"

namespace gc {

/// Where a value is used, in words, in the order of the brief and the sheet: "value depth",
/// "step 3, Shell: wall", "step 1, profile: length of line 3", "target mass".
std::vector<std::string> usesOfValue(const Part& part, const std::string& name);

/// Renames a value and every use of it: in other values, slots, stations, drawings, targets, the fill line.
/// \return why not, in a sentence; empty when it was done
std::string renameValue(Part& part, const std::string& from, const std::string& to);

/// Gives a dimension of a drawing a name, another name, or none, with every use of it in that drawing.
/// \return why not, in a sentence; empty when it was done
std::string nameDimension(Drawing& drawing, int relation, const std::string& name, const Values& values);

/// "wall = 2 mm" as a name and an expression; without a single "=", all of it is the expression.
struct NamedExpression {
    std::optional<std::string> name;
    std::string expression;
};
NamedExpression splitName(const std::string& typed);

} // namespace gc
