#include "core/sketch/solve/system.hpp"

#include "core/sketch/solve/compiler.hpp"

namespace gc {

double System::residual(const Equation& e, std::span<const double> z, double* gradient) const {
    double few[24];
    std::vector<double> many;
    double* x = few;
    if (e.count > 24) {
        many.resize(static_cast<std::size_t>(e.count));
        x = many.data();
    }
    for (int j = 0; j < e.count; ++j) x[j] = coordinate(z, operands[static_cast<std::size_t>(e.first + j)]);
    return evaluate(e, constants.data() + e.extra, x, gradient);
}

void System::write(std::span<const double> z, Drawing& drawing) const {
    for (DrawnPoint& p : drawing.points) p.at = point(z, p.id);
    for (Stroke& s : drawing.strokes)
        if (const auto it = sizeAt.find(s.id); it != sizeAt.end())
            for (std::size_t k = 0; k < s.sizes.size(); ++k)
                s.sizes[k] = coordinate(z, it->second + static_cast<int>(k));
}

System compile(const Drawing& drawing, const DimensionValues& values, const std::vector<int>& without) {
    return Compiler(drawing, values).compile(without);
}

} // namespace gc
