#pragma once
/// \file For .cpp files of this folder: turns strokes and relations into equations. What each relation means
/// is in compiler.cpp; what tangents and splines mean, in compile_curves.cpp; what following another stroke
/// means, in compile_beside.cpp.

#include "core/sketch/solve/reduce.hpp"
#include "core/sketch/solve/system.hpp"

#include <functional>
#include <unordered_map>

namespace gc {

/// Where the ends of the two lines of every drawing stand among the coordinates.
inline constexpr int kLevelEndAt = 2, kAxisEndAt = 4;

/// One end of a stroke as the tangent there sees it: a direction between two points, as drawn or turned by a
/// right angle.
struct EndDirection {
    int from = 0, to = 0; ///< x coordinates of two points
    bool turned = false;
    bool known = true;
};

class Compiler {
  public:
    Compiler(const Drawing& drawing, const DimensionValues& values) : m_d(drawing), m_values(values) {}

    System compile(const std::vector<int>& without);

  private:
    const Drawing& m_d;
    const DimensionValues& m_values;
    System m_s;
    Equalities* m_equalities = nullptr;
    int m_relation = 0;
    std::unordered_multimap<int, int> m_heldOn; ///< by round stroke: x coordinates of points held on it

    void layOut();

    int pt(int id) const { return m_s.pointAt.at(id); }
    int size(int id) const { return m_s.sizeAt.at(id); }
    /// A point itself, or the centre of a stroke.
    int middle(int id) const { return pt(isPoint(m_d, id) ? id : centrePoint(*m_d.findStroke(id))); }
    Vec2 place(int at) const {
        const auto i = static_cast<std::size_t>(at);
        return {m_s.start[i], m_s.start[i + 1]};
    }

    Equation& add(EquationKind kind, const std::vector<int>& coordinates, double value = 0, double sense = 1,
                  double scale = 1) {
        Equation e;
        e.kind = kind;
        e.first = static_cast<int>(m_s.operands.size());
        e.count = static_cast<int>(coordinates.size());
        e.value = value;
        e.sense = sense;
        e.scale = scale;
        e.relation = m_relation;
        m_s.operands.insert(m_s.operands.end(), coordinates.begin(), coordinates.end());
        m_s.equations.push_back(e);
        return m_s.equations.back();
    }
    void constants(Equation& e, const std::vector<double>& k) {
        e.extra = static_cast<int>(m_s.constants.size());
        e.extras = static_cast<int>(k.size());
        m_s.constants.insert(m_s.constants.end(), k.begin(), k.end());
    }
    /// Coordinates of points, given by their x.
    static std::vector<int> xy(std::initializer_list<int> points);
    static std::vector<int> with(std::vector<int> list, std::initializer_list<int> more);
    void fix(int coordinate, double value) { add(EquationKind::Fix, {coordinate}, value); }
    void differ(int u, int v, double value = 0) { add(EquationKind::Differ, {u, v}, value); }
    void samePoint(int p, int q) { differ(p, q), differ(p + 1, q + 1); }
    void linear(const std::vector<int>& coordinates, const std::vector<double>& weights) {
        constants(add(EquationKind::Linear, coordinates), weights);
    }

    struct Ends {
        int from = 0, to = 0;
    };
    Ends line(int id) const {
        if (id == kLevelLine) return {0, kLevelEndAt};
        if (id == kAxisLine) return {0, kAxisEndAt};
        const Stroke& s = *m_d.findStroke(id);
        return {pt(s.points[0]), pt(s.points[1])};
    }
    /// A length that makes an angle's residual comparable with a distance's.
    double scaleOf(Ends a, Ends b) const {
        return std::max(0.5 * (length(place(a.to) - place(a.from)) + length(place(b.to) - place(b.from))),
                        1e-3);
    }

    std::unordered_map<int, std::vector<std::pair<int, int>>> m_footAndWay; ///< by follower, at each end

    void strokeItself(const Stroke& s);
    void followerItself(const Stroke& s);
    void onFollower(int point, const Stroke& s);
    void carried(const Relation& r);
    void distanceBeside(const Relation& r, double wanted);
    struct Source {
        EquationKind at, slope;
        std::vector<int> unknowns;
        std::vector<double> constants;
    };
    Source sourceWritten(const Stroke& source) const;
    std::pair<int, int> besideSource(const Stroke& follower, const Stroke& source, int point, int t);
    std::vector<double> rowOf(const Stroke& fair) const;
    int auxiliary(Vec2 at);
    void relateLines(const Relation& r);

    void onRound(int p, const Stroke& s) {
        add(EquationKind::OnCircle, with(xy({p, pt(centrePoint(s))}), {size(s.id)}));
    }
    void onEllipse(int p, const Stroke& s) {
        add(EquationKind::OnEllipse, with(xy({p, pt(s.points[0]), pt(s.points[1])}), {size(s.id)}));
    }

    double sizeOf(const Relation& r) const {
        const auto it = m_values.find(r.id);
        return it == m_values.end() ? measured(m_d, r) : it->second;
    }

    void emit(const Relation& r);
    void equal(const Relation& r);
    void concentric(const Relation& r);
    void midpoint(const Relation& r);
    void emitSized(const Relation& r, double size);
    void emitDistance(const Relation& r, double size);
    void emitOverAll(const Relation& r, double size);
    void emitAboutAxis(const Relation& r, double size);
    void emitRatio(const Relation& r, double size);
    void onStroke(int point, int id);
    void onStroke(int point, const Stroke& s);
    void fixed(const Relation& r);
    void together(const Relation& r);
    void tangent(const Relation& r);
    bool tangentAtEnds(const Stroke& a, const Stroke& b);
    bool tangentWhereHeld(Ends line, const Stroke& round);
    void tangentToSpline(const Stroke& spline, int other);
    void smooth(const Relation& r);
    void symmetric(const Relation& r);
    bool sharedEnds(const Stroke& a, const Stroke& b, int& endOfA, int& endOfB);
    EndDirection directionAt(const Stroke& s, int end) const;
    std::vector<int> curvatureEnd(const Stroke& s, int end, CurvatureEnd& kind, double& factor);

    /// A new coordinate for where along a spline something happens.
    int parameter(double t) {
        m_s.start.push_back(t);
        return static_cast<int>(m_s.start.size()) - 1;
    }
    std::vector<int> splinePoints(const Stroke& s) const {
        std::vector<int> out;
        for (const int p : s.points) out.insert(out.end(), {pt(p), pt(p) + 1});
        return out;
    }
    Vec2 splineAt(const Stroke& s, double t, int k) const;
    double bestParameter(const Stroke& s, const std::function<double(Vec2, Vec2)>& miss) const;

    void tie(Equalities& equalities);
    void finish(Equalities& equalities);
};

} // namespace gc
