#pragma once
/// \file For .cpp files only: a curve of the kernel by the length along it.

#include <Geom_Curve.hxx>
#include <TopoDS_Edge.hxx>
#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>

#include <vector>

namespace gc {

/// A piece of a curve with unit speed: the parameter s is the length from its beginning, mm.
class LengthCurve {
  public:
    /// From one parameter to another; it runs against the curve where the second is the lesser.
    LengthCurve(const Handle(Geom_Curve) & curve, double from, double to);
    /// An edge in its own direction, or against it.
    static LengthCurve of(const TopoDS_Edge& edge, bool against = false);

    double length() const { return m_nodes.back().along; }
    gp_Pnt at(double s) const;
    gp_Vec tangent(double s) const; ///< of length 1
    gp_Vec bend(double s) const;    ///< second derivative by length: towards the centre, 1 / radius
    gp_Pnt start() const { return at(0); }
    gp_Pnt end() const { return at(length()); }
    /// Beginning, end, and between them the knots of splines.
    const std::vector<double>& knots() const { return m_knots; }
    /// Of these, ends included, where not even four derivatives are continuous.
    const std::vector<double>& breaks() const { return m_breaks; }
    bool isStraight() const;
    bool isRound() const; ///< a circle or a piece of one
    LengthCurve reversed() const { return {m_curve, m_to, m_from}; }
    const Handle(Geom_Curve) & curve() const { return m_curve; }
    double from() const { return m_from; }
    double to() const { return m_to; }
    double parameterAt(double s) const; ///< of the curve

  private:
    double between(double a, double b) const; ///< length from one parameter to another

    struct Node {
        double parameter = 0, along = 0;
    };
    Handle(Geom_Curve) m_curve;
    double m_from, m_to;
    std::vector<Node> m_nodes;
    std::vector<double> m_knots, m_breaks;
};

} // namespace gc
