#pragma once
/// \file For .cpp files: one section of a loft: a closed line in space, or a point at an end.

#include "core/steps/loft/matching.hpp"
#include "core/steps/shared/path.hpp"

#include <TopoDS_Face.hxx>

#include <optional>

namespace gc {

class LoftSection {
  public:
    /// \param pieces that close
    LoftSection(std::string said, int maker, std::vector<PathPiece> pieces, std::vector<TopoDS_Face> beyond);
    LoftSection(std::string said, const gp_Pnt& point) : m_said(std::move(said)), m_middle(point) {}

    const std::string& said() const { return m_said; } ///< as a reference
    /// "side 12 from 5" of its stroke or piece 12; where it runs beside the drawing, "far side 12 from 5".
    std::string roleOf(int item) const;
    int maker() const { return m_maker; } ///< the step whose drawing it is in; 0: none
    LoftSection besideDrawing() const;    ///< the same, as a line that runs beside what was drawn
    bool isPoint() const { return m_pieces.empty(); }
    const gp_Pnt& middle() const { return m_middle; }
    const gp_Vec& normal() const { return m_normal; } ///< it runs counter-clockwise about that; of length 1
    double size() const { return m_size; }            ///< the mean distance from the middle, mm
    double length() const { return m_length; }
    double unevenness() const { return m_uneven; } ///< how far it leaves its plane, mm

    const std::vector<PathPiece>& pieces() const { return m_pieces; }
    double shareOf(std::size_t piece) const { return m_before[piece] / m_length; } ///< where it begins
    bool cornerAt(std::size_t piece) const { return m_corners[piece]; }            ///< is there one?
    /// A place by the item of its piece, and the share of that from where it begins as it was drawn: the same
    /// whichever way the section is walked.
    struct Place {
        int item = 0;
        double share = 0;
    };
    std::optional<double> shareOfPlace(const Place& place) const;
    Place placeAt(double share) const;
    /// The face beyond a piece, seen from the face that the section goes round; null for a drawing.
    TopoDS_Face beyond(std::size_t piece) const;
    bool beyondNothing() const { return m_beyond.empty(); }

    /// By the share of the length in [0, 1]. \param late at a joint: as the piece that ends there has it
    gp_Pnt at(double share, bool late = false) const;
    gp_Vec tangent(double share, bool late = false) const; ///< of length 1
    std::size_t pieceAt(double share, bool late = false) const;
    /// The share of the place that is nearest to a point, and how far that is, mm.
    std::pair<double, double> nearest(const gp_Pnt& p) const;

    LoftSection reversed() const;

  private:
    void measure();
    double within(std::size_t piece, double share) const;

    std::string m_said;
    int m_maker = 0;
    std::vector<PathPiece> m_pieces;
    std::vector<TopoDS_Face> m_beyond; ///< one for each piece, or none
    bool m_far = false;                ///< it runs beside the drawing
    bool m_against = false;            ///< it is walked against the way in which it was drawn
    std::vector<bool> m_corners;
    std::vector<double> m_before;
    double m_length = 0, m_size = 0, m_uneven = 0;
    gp_Pnt m_middle;
    gp_Vec m_normal{0, 0, 1};
};

/// What a reference means as a section: a closed chain of strokes, a closed curve, the rim of a face, a
/// point. Errors: "loft.open" where it does not close, and those of findPath, findFaces and findPoint. \param
/// number its place among the sections, from 1
Result<LoftSection> findSection(const std::string& reference, int number, ModelReader& model);

/// So that all of them go round the same way, seen along the loft.
void orient(std::vector<LoftSection>& sections);

/// Each laid flat for the matching with its neighbours: their x axes are carried from one to the next with
/// least turning. Points are left empty.
std::vector<FlatLoop> laidFlat(const std::vector<LoftSection>& sections);

} // namespace gc
