#pragma once
/// \file How long work is stopped from outside and shows that it lives.

#include <functional>
#include <utility>

namespace gc {

/// Asked at every turn of a long loop; true: leave off, the result is not wanted any more. Being asked is
/// also the sign that the work goes on: whoever hands it in may count the calls.
using Stop = std::function<bool()>;

/// What a step's run is given to ask whether it should go on. Cheap enough for inner loops of a millisecond.
class Progress {
  public:
    Progress() = default;
    explicit Progress(Stop stop) : m_stop(std::move(stop)) {}
    /// Should the work be left off? Also tells that it goes on.
    bool stopped() const { return m_stop && m_stop(); }
    const Stop& stop() const { return m_stop; }

  private:
    Stop m_stop;
};

} // namespace gc
