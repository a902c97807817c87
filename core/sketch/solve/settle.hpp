#pragma once
/// \file Settling a drawing: moving it as little as possible until its relations and dimensions hold.

#include "core/sketch/solve/component.hpp"
#include "core/sketch/solve/sense.hpp"

#include <memory>
#include <set>

namespace gc {

struct SettleOptions {
    double tolerance = 1e-10; ///< mm: what a solve aims at
    double accept = 1e-9;     ///< mm: what counts as solved
    int mostSteps = 60;       ///< Newton steps of one solve
    double stepCap = 0.1;     ///< no unknown moves further in one step, as a part of the drawing's size
    double damping = 1e-13;   ///< d of Component
    int mostHalvings = 7;     ///< how often a change of sizes is halved to keep the drawing's sense
};

/// What a solve came to.
struct Settlement {
    bool solved = false;
    bool senseKept = true;  ///< false: a way was found, but something would have turned over
    double residual = 0;    ///< the largest left, mm
    int steps = 0;          ///< Newton steps
    std::vector<int> unmet; ///< relations that do not hold, by the size of their miss
};

/// A drawing made ready to be solved, over and over while something is dragged.
///
/// The drawing keeps its sense: a solve never moves a tangent circle to the other side of its line, turns an
/// arc or a closed region inside out, or lets a size become negative, unless there is no other way; then it
/// says so and leaves the drawing as it was.
class Settler {
  public:
    explicit Settler(const Drawing& drawing, const DimensionValues& values = {}, SettleOptions options = {});

    /// Meets all relations from where the drawing lies.
    Settlement settle();
    /// Meets them with other sizes for some dimensions, in as many parts as it takes to keep its sense.
    Settlement change(const DimensionValues& values);

    /// Grabs points. They are pulled to the pointer, less strongly than relations hold.
    void grab(const std::vector<int>& pointIds);
    /// Grabs the radius of a circle or an arc.
    void grabSize(int strokeId);
    /// Moves what is grabbed by that much from where it was grabbed. The rest moves as little as possible
    /// from where it lay then, whatever the way the pointer took.
    Settlement drag(Vec2 by);
    /// Makes the grabbed stroke's radius that large, as far as relations let it.
    Settlement dragSize(double radius);

    /// The drawing as it lies now.
    const Drawing& drawing() const { return m_drawing; }
    void writeTo(Drawing& drawing) const { m_system->write(m_z, drawing); }
    const System& system() const { return *m_system; }
    Vec2 point(int id) const { return m_system->point(m_z, id); }

  private:
    void compileNow(const DimensionValues& values);
    Settlement solveAll(const std::vector<double>& anchor);
    /// \param eager with steps as long as they come, and without a pull to where it began
    bool solve(Component& part, const std::vector<double>& anchor, Settlement& out, bool eager);
    bool project(Component& part, Eigen::VectorXd& z, Settlement& out);
    double cap(Eigen::VectorXd& step) const;
    void prepareDrag(const std::set<int>& classes);
    Settlement pull(const std::vector<std::pair<int, double>>& targets);
    void report(Settlement& out);
    std::vector<double> expanded(std::span<const double> z) const;
    bool addGuards();
    void dropGuards();
    void splitAgain();
    Settlement settleOnce(const std::vector<double>& before);
    void holdShape(bool on);
    void followMade();

    SettleOptions m_options;
    Drawing m_drawing;
    DimensionValues m_values;
    std::unique_ptr<System> m_system;
    std::vector<Component> m_components;
    std::vector<double> m_z;
    std::vector<double> m_weight;
    double m_size = 1;
    std::vector<Component::Spring> m_springs;
    Sense m_sense;
    // While dragging.
    std::vector<int> m_grabbed; ///< coordinates
    std::vector<double> m_dragStart;
    std::vector<int> m_dragged; ///< components that hold what is grabbed
};

/// Moves a drawing as little as possible until its dimensions have these sizes, in as many parts as it takes
/// to keep its sense. What cannot be leaves it as it was.
Settlement settleTo(Drawing& drawing, const DimensionValues& values);

/// The same after what it follows of a body has moved: see renewTraces. \param before as it lay then
Settlement settleTraces(Drawing& drawing, const Drawing& before, const DimensionValues& values);

/// Scales a drawing about its origin so that the dimension measures what is wanted: what a first real size
/// does, so that the shape that was drawn stays. Angles stay; places of fixed points scale too.
void scaleDrawing(Drawing& drawing, double factor);

} // namespace gc
