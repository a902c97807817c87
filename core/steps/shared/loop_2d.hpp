#pragma once
/// \file For .cpp files: closed lines in the parameters of a face, as places along them.

#include <gp_Pnt2d.hxx>

#include <vector>

namespace gc {

using Outline2d = std::vector<gp_Pnt2d>;

/// Does the place lie within? By how often a line from it to one side crosses the border.
inline bool holds(const Outline2d& loop, const gp_Pnt2d& p) {
    bool in = false;
    for (std::size_t i = 0, j = loop.size() - 1; i < loop.size(); j = i++) {
        const gp_Pnt2d &a = loop[i], &b = loop[j];
        if ((a.Y() > p.Y()) != (b.Y() > p.Y()) &&
            p.X() < (b.X() - a.X()) * (p.Y() - a.Y()) / (b.Y() - a.Y()) + a.X())
            in = !in;
    }
    return in;
}

} // namespace gc
