#include "core/steps/sweep/size_law.hpp"

#include <algorithm>
#include <vector>

namespace gc {

namespace {

constexpr int kLooks = 400;

/// The height of a curve as it goes, at even steps of its parameter.
std::vector<double> heightsOf(const BSpline2& curve) {
    std::vector<double> out;
    for (int i = 0; i <= kLooks; ++i) out.push_back(curve.at(double(i) / kLooks).y);
    return out;
}

/// Where it has that height: from the table, then by Newton's rule.
double parameterAt(const BSpline2& curve, const std::vector<double>& heights, double y) {
    const auto next = std::lower_bound(heights.begin() + 1, heights.end() - 1, y);
    const auto i = static_cast<std::size_t>(next - heights.begin());
    double t = (double(i) - 1 + (y - heights[i - 1]) / (heights[i] - heights[i - 1])) / kLooks;
    for (int k = 0; k < 4; ++k)
        if (const double rise = curve.at(t, 1).y; rise > 0)
            t = std::clamp(t - (curve.at(t).y - y) / rise, 0.0, 1.0);
    return t;
}

} // namespace

Result<std::function<double(double share)>> sizesBy(const Arguments& args, ModelReader& model) {
    const auto id = model.outlineIn("shape");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    const auto no = [](Message sentence) { return errorOf("sweep.shape", std::move(sentence)); };
    const std::string& called = args.label("shape");
    if (!outline)
        return no(called.empty()
                      ? phrase("Choose the stations that say how large the section is on its way: an "
                               "outline through heights and diameters.")
                      : phrase("There is no outline called \"%1\" before this step.", called));
    if (outline->drawn())
        return no(
            phrase("\"%1\" is a drawing. How large the section is on its way is said by an outline through "
                   "stations: heights along the path, and diameters.",
                   called));
    const BSpline2 curve = outline->wall.curve;
    const auto heights = heightsOf(curve);
    if (!std::is_sorted(heights.begin(), heights.end(), std::less_equal<>()))
        return no(
            phrase("The outline \"%1\" turns back on its way up, so it does not say one size for each place. "
                   "Let its stations rise.",
                   called));
    const double first = curve.at(0).x;
    for (int i = 0; i <= kLooks; ++i)
        if (curve.at(double(i) / kLooks).x < 1e-3 * first || first <= 0)
            return no(phrase(
                "The outline \"%1\" comes to its axis, where the section would shrink to nothing. Keep "
                "its diameters above 0.",
                called));
    return std::function<double(double)>([curve, heights, first](double share) {
        const double y = heights.front() + std::clamp(share, 0.0, 1.0) * (heights.back() - heights.front());
        return curve.at(parameterAt(curve, heights, y)).x / first;
    });
}

} // namespace gc
