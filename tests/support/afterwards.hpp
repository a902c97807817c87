#pragma once
/// \file What is made of a form afterwards: how often it comes out well.

#include "core/base/angles.hpp"
#include "tests/support/alone.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/wound.hpp"

#include <map>

namespace gc::test {

inline std::string listed(const std::map<std::string, int>& counts) {
    std::string list;
    for (const auto& [what, count] : counts) list += "\n  " + what + ": " + std::to_string(count);
    return list;
}

/// Each try in a process of its own: the kernel may crash, as it may in the worker process.
class Afterwards {
  public:
    /// More steps upon a part: good where they are built and as large as their mesh says.
    void attempt(Part part, const std::string& what, const std::function<void(Part&)>& more) {
        more(part);
        ++m_tried;
        const auto [ended, said] = alone([&] {
            const auto r = Engine().regenerate(part);
            if (!r.steps.back().ok) return r.steps.back().error->code;
            const auto m = massProperties(lastBody(r), Density(1e-3));
            const auto [volume, twice] = meshOf(lastBody(r), 0.02);
            return std::string(m.ok() && std::fabs(volume - m->volume) < 0.02 * m->area ? "good" : "wrong");
        });
        INFO(what);
        CHECK(said != "wrong");
        if (said == "good")
            ++m_good;
        else
            m_refused[what + " " + (ended ? said : "crashed")] += 1;
    }
    /// A wall of 2 mm, open at the end of a step; a round of 1 mm at the rim of its start.
    void shellAndRound(const Part& part, int step) {
        const std::string of = " of step " + std::to_string(step);
        attempt(part, "shell", [&](Part& p) {
            add(p, "shell", {{"open", References{"end" + of}}, {"wall", std::string("2 mm")}});
        });
        attempt(part, "fillet", [&](Part& p) {
            add(p, "fillet", {{"edges", References{"rim of start" + of}}, {"radius", std::string("1 mm")}});
        });
    }
    /// All through it, square to the front plane.
    void hole(const Part& part, Vec2 at) {
        attempt(part, "hole", [&](Part& p) {
            addDrawing(p, circleLine(2, at), "front");
            add(p, "extrude",
                {{"length", std::string("200 mm")},
                 {"way", std::string("both ways together")},
                 {"does", std::string("taking from")}});
        });
    }

    int good() const { return m_good; }
    int tried() const { return m_tried; }
    std::string told() const {
        return std::to_string(m_good) + " of " + std::to_string(m_tried) +
               " good, refused:" + listed(m_refused);
    }

  private:
    std::map<std::string, int> m_refused;
    int m_good = 0, m_tried = 0;
};

} // namespace gc::test
