#pragma once
/// \file For .cpp files of this folder: strokes gathered from a file, seen through a transform.

#include "core/exchange/drawings/drawing_files.hpp"
#include "core/sketch/curve2.hpp"

#include <array>

namespace gc {

/// x' = a x + c y + e, y' = b x + d y + f.
struct Affine {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
    Vec2 operator()(Vec2 p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    Vec2 direction(Vec2 v) const { return {a * v.x + c * v.y, b * v.x + d * v.y}; }
    /// First the other, then this one.
    Affine operator*(const Affine& o) const {
        return {a * o.a + c * o.b, b * o.a + d * o.b,     a * o.c + c * o.d,
                b * o.c + d * o.d, a * o.e + c * o.f + e, b * o.e + d * o.f + f};
    }
};

class PathCollector {
  public:
    Affine through;

    void line(Vec2 from, Vec2 to);
    void cubic(const std::array<Vec2, 4>& poles);
    void quadratic(Vec2 from, Vec2 apex, Vec2 to);
    /// A conic with that weight of its apex, ends weighing 1.
    void conic(Vec2 from, Vec2 apex, Vec2 to, double weight);
    /// From angle `from` by `turn` (signed) about a centre with the two conjugate half axes; a full one when
    /// the turn is a whole.
    void ellipse(Vec2 centre, Vec2 axis, Vec2 other, double from, double turn);
    void point(Vec2 at);
    /// A row of nodes with the derivative by the parameter at each, spans between them.
    void spline(const std::vector<Vec2>& nodes, const std::vector<Vec2>& derivatives,
                const std::vector<double>& spans);
    /// So many poles of an evenly knotted cubic.
    void poles(const std::vector<Vec2>& at);

    /// An element of the file was looked at: again for each time that it is reused.
    void visit() { ++m_visits; }
    /// No more is taken: there are too many strokes, or elements that are reused without end.
    bool full() const {
        return m_drawing.strokes.size() >= kMostImported || m_drawing.points.size() >= kMostImportedPoints ||
               endless();
    }
    bool endless() const { return m_visits >= kMostVisits; }
    bool empty() const { return m_drawing.strokes.empty(); }
    /// With all strokes held together.
    Drawing take();

  private:
    /// Elements that make nothing count, too: ten that reuse ten that reuse ten are a million after six
    /// levels.
    static constexpr std::size_t kMostVisits = 200000;

    void add(StrokeKind kind, const std::vector<Vec2>& at, std::vector<double> sizes = {});
    Drawing m_drawing;
    std::size_t m_visits = 0;
};

/// What was collected, or why there is nothing to use. \param code "svg": of the errors
Result<ImportedDrawing> imported(PathCollector& collector, std::vector<Message> notes,
                                 const std::string& code);

} // namespace gc
