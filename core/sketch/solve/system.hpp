#pragma once
/// \file A drawing as unknowns and equations, reduced: what is tied by a plain equality shares one unknown.

#include "core/base/result.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/solve/equation.hpp"

#include <map>
#include <span>
#include <unordered_map>

namespace gc {

/// Sizes of the driving dimensions by relation id: mm, rad or plain.
using DimensionValues = std::map<int, double>;

/// All coordinates and sizes of a drawing, and the equations on them.
///
/// Coordinate i is unknown classOf[i] plus offset[i]; class -1 is the ground, where the offset is the value.
/// Fix and Differ are worked into the classes (an affine union-find) and are not among the equations.
struct System {
    std::vector<double> start;    ///< every coordinate as drawn
    std::vector<int> classOf;     ///< by coordinate; -1: constant
    std::vector<double> offset;   ///< by coordinate
    std::vector<int> copies;      ///< coordinates that go after others more easily than those after them
    std::vector<double> unknowns; ///< by class: the values that the drawing has now
    std::vector<Equation> equations;
    std::vector<int> operands;            ///< coordinates, by Equation::first
    std::vector<double> constants;        ///< by Equation::extra
    std::unordered_map<int, int> pointAt; ///< id of a point: its x; y is the next
    std::unordered_map<int, int> sizeAt;  ///< id of a stroke: its first size

    /// A plain equality that the others already imply, or that contradicts them.
    struct Repeated {
        int relation = 0;
        bool clashes = false;
        double missedBy = 0;      ///< mm
        std::vector<int> because; ///< the relations that tie the two already
    };
    std::vector<Repeated> repeated;

    /// A plain equality that was worked in: of two coordinates, or of one and the ground (-1).
    struct Tied {
        int first = 0, second = -1;
        int relation = 0;
    };
    std::vector<Tied> tied;

    double coordinate(std::span<const double> z, int i) const {
        const auto at = static_cast<std::size_t>(i);
        return classOf[at] < 0 ? offset[at] : z[static_cast<std::size_t>(classOf[at])] + offset[at];
    }
    Vec2 point(std::span<const double> z, int pointId) const {
        const int i = pointAt.at(pointId);
        return {coordinate(z, i), coordinate(z, i + 1)};
    }
    /// Gathers an equation's unknowns and evaluates it; the gradient is by coordinate, as in `operands`.
    double residual(const Equation& e, std::span<const double> z, double* gradient = nullptr) const;
    /// Writes unknowns back into a drawing of the same points and strokes.
    void write(std::span<const double> z, Drawing& drawing) const;
};

/// Compiles. Read-only dimensions are left out; a driving one without a value is held at what it measures.
/// \param without relations to leave out
System compile(const Drawing& drawing, const DimensionValues& values, const std::vector<int>& without = {});

} // namespace gc
