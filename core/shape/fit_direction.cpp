#include "core/shape/fit_direction.hpp"

#include <BSplCLib.hxx>

#include <algorithm>

namespace gc {

FitDirection::FitDirection(std::vector<double> breaks, const std::vector<int>& smooth)
    : m_breaks(std::move(breaks)) {
    for (const int s : smooth) m_smooth.push_back(std::clamp(s, 0, kDegree - 1));
    build();
}

void FitDirection::refine() {
    m_parts *= 2;
    build();
}

std::vector<double> FitDirection::middles() const {
    std::vector<double> out;
    for (std::size_t i = 0; i + 1 < m_points.size(); ++i)
        out.push_back(0.5 * (m_points[i] + m_points[i + 1]));
    return out;
}

bool FitDirection::solve(std::vector<double>& rows, std::size_t width) const {
    TColStd_Array1OfReal parameters(1, poles());
    TColStd_Array1OfInteger contact(1, poles());
    for (int i = 1; i <= poles(); ++i) {
        parameters(i) = m_points[static_cast<std::size_t>(i - 1)];
        contact(i) = 0;
    }
    int problem = 0;
    BSplCLib::Interpolate(kDegree, *m_flat, parameters, contact, static_cast<int>(width), rows.front(),
                          problem);
    return problem == 0;
}

void FitDirection::build() {
    std::vector<double> knots;
    std::vector<int> multiplicities;
    for (std::size_t i = 0; i + 1 < m_breaks.size(); ++i)
        for (int k = 0; k < m_parts; ++k) {
            knots.push_back(m_breaks[i] + (m_breaks[i + 1] - m_breaks[i]) * k / m_parts);
            multiplicities.push_back(k == 0 ? kDegree - m_smooth[i] : 1);
        }
    knots.push_back(m_breaks.back());
    multiplicities.push_back(kDegree + 1);
    multiplicities.front() = kDegree + 1;
    const int n = static_cast<int>(knots.size());
    m_knots = std::make_unique<TColStd_Array1OfReal>(1, n);
    m_multiplicities = std::make_unique<TColStd_Array1OfInteger>(1, n);
    int flat = 0;
    for (int i = 1; i <= n; ++i) {
        m_knots->SetValue(i, knots[static_cast<std::size_t>(i - 1)]);
        m_multiplicities->SetValue(i, multiplicities[static_cast<std::size_t>(i - 1)]);
        flat += m_multiplicities->Value(i);
    }
    m_flat = std::make_unique<TColStd_Array1OfReal>(1, flat);
    BSplCLib::KnotSequence(*m_knots, *m_multiplicities, *m_flat);
    TColStd_Array1OfReal at(1, poles());
    BSplCLib::BuildSchoenbergPoints(kDegree, *m_flat, at);
    m_points.clear();
    for (int i = 1; i <= poles(); ++i) m_points.push_back(at(i));
}

} // namespace gc
