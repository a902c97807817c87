#pragma once
/// \file A drawing as a plain value: points, the strokes between them, and the relations and dimensions that
/// tie them. Nothing here is solved; see solve/settle.hpp. Lengths are mm, angles rad.

#include "core/base/vec.hpp"
#include "core/units/amount.hpp"

#include <optional>
#include <string>
#include <vector>

namespace gc {

/// Ids that every drawing has without listing them: its origin, and the two lines through it.
inline constexpr int kOrigin = -1;
inline constexpr int kLevelLine = -2; ///< y = 0, running along +x
inline constexpr int kAxisLine = -3;  ///< x = 0, running along +y: what profiles are turned about

struct DrawnPoint {
    int id = 0;
    Vec2 at;
    friend bool operator==(const DrawnPoint&, const DrawnPoint&) = default;
};

/// What a stroke is. Its points, in order, and its sizes:
enum class StrokeKind {
    Point,      ///< a point by itself
    Line,       ///< start, end
    Arc,        ///< start, end, centre; size: radius. Counter-clockwise from start to end.
    Circle,     ///< centre; size: radius
    Ellipse,    ///< centre, end of the long half axis; size: the other half axis
    EllipseArc, ///< centre, end of the long half axis, start, end; size: the other half axis
    Conic,      ///< start, end, apex where its end tangents meet; size: shoulder ratio between 0 and 1
    Spline, ///< node, handle, node, handle …; sizes: the spans between nodes (no unknowns). See splines.hpp
    Poles,  ///< the poles of a cubic B-spline with even knots
    Fair,   ///< stations; size: how far the curve may pass by those between its ends, mm (no unknown)
    Beside, ///< start, end (start only, beside a closed one); size: distance from what it follows, mm; 0: it
            ///< runs along it. See beside.hpp
};

struct StrokeWords {
    StrokeKind kind;
    std::string key;  ///< "arc": in the file
    std::string noun; ///< "arc": what it is called in sentences
    int leastPoints;
    int mostPoints; ///< -1: any number
    int sizes;
};
const std::vector<StrokeWords>& allStrokeWords();
const StrokeWords& wordsOf(StrokeKind kind);

struct Stroke {
    int id = 0;
    StrokeKind kind = StrokeKind::Line;
    std::string name;    ///< given by the person; empty: see nameOf
    bool helper = false; ///< guides others and bounds nothing
    std::vector<int> points;
    std::vector<double> sizes;
    /// Spline: which nodes have a handle that the person set; the others follow for an even curvature.
    /// Beside: do its start and its end lie where those of its source do?
    std::vector<bool> held;
    int beside = 0;     ///< Beside: id of the stroke that it follows
    bool right = false; ///< Beside: to the right of the direction of that
    int cutFrom = 0;    ///< id of the stroke that it was a part of until that was split or trimmed; 0: none
    friend bool operator==(const Stroke&, const Stroke&) = default;
};

enum class RelationKind {
    // Relations without a size.
    Coincident,
    OnStroke,
    Horizontal,
    Vertical,
    Parallel,
    Perpendicular,
    Tangent,
    Equal,
    Concentric,
    Midpoint,
    Symmetric,
    Collinear,
    Smooth,
    Fixed,
    Together, ///< any number of strokes: their points keep their places to each other
    Carried,  ///< the second point is the first, carried along a stroke: from one share of its length to
              ///< another
    SameStep, ///< from the first point to the second as from the third to the fourth
    Follows,  ///< a stroke lies where a body's edge or cut is seen: see trace.hpp
    OnTrace,  ///< a point lies where a body's edge meets the plane
    // Dimensions.
    Distance, ///< of two rounds: how much larger one radius is, the wall between them where they are
              ///< concentric
    Across,   ///< along x
    Along,    ///< along y
    Radius,
    Diameter,
    DiameterAboutAxis,
    AngleBetween,
    ArcLength,
    Ratio,
    Turned, ///< the second point is the first turned about the third
};

struct RelationWords {
    RelationKind kind;
    std::string key;     ///< "tangent": in the file
    std::string label;   ///< "Tangent": in lists
    std::string phrase;  ///< "{0} touches {1}": read aloud; {n} is the n-th operand
    bool sized = false;  ///< it is a dimension
    Dimension dimension; ///< of its size
};
const std::vector<RelationWords>& allRelationWords();
const RelationWords& wordsOf(RelationKind kind);

/// One relation or dimension. Which of the several shapes that satisfy it is meant is frozen in `sense` and
/// `turned` when it is made (see freezeSense): a solve never jumps to another.
struct Relation {
    int id = 0;
    RelationKind kind = RelationKind::Coincident;
    std::vector<int> of;    ///< ids of points and strokes
    std::string expression; ///< dimensions: as typed
    std::string name;       ///< dimensions: how other expressions may call it; may be empty
    bool readOnly = false;  ///< dimensions: only measures
    bool quiet = false;     ///< dimensions: follows another; its figure is shown only when it clashes
    int sense = 1;          ///< +1 or -1: the side, the turn, or from outside (+1) or inside (-1)
    bool turned = false;    ///< angles: the second line is taken from its end to its start
    /// Fixed: the places that its points are held at; for a circle or an ellipse then its size, as x.
    /// Follows, OnTrace: the same, taken from the body.
    /// Carried: one pair, the shares. Turned, it turns with the stroke's direction.
    /// Together: the same for one stroke after the other, from the first point of the first.
    std::vector<Vec2> where;
    std::string source; ///< Follows, OnTrace: what of the body is followed, as trace_source.hpp reads it
    int piece = 0, pieces = 1; ///< which of the several that the source leaves, from left to right
    /// Lengths from or to circles and arcs: to the place of them that lies farthest out, not to the centre.
    bool overAll = false;
    Vec2 label; ///< dimensions: where the figure stands, from the middle of what it measures
    friend bool operator==(const Relation&, const Relation&) = default;
};

/// A picture to draw over: an attachment of the part, upright, by its lower left corner.
struct TracedPicture {
    std::string file; ///< the attachment's name
    Vec2 at;
    double width = 100, height = 100; ///< mm
    double strength = 0.5;            ///< 0: not seen; 1: as it is
    friend bool operator==(const TracedPicture&, const TracedPicture&) = default;
};

/// How strokes were repeated, so that it can be changed later: see edit/repeat.hpp.
struct Repeat {
    enum class Kind { Rows, Around, Along };
    struct Copy {
        int across = 0, up = 0;   ///< how many steps from the first; up: of rows only
        std::vector<int> strokes; ///< one for each of `of`; 0 where it is gone
        int lead = 0;             ///< its image of the lead
        int keeper = 0;           ///< a point that keeps its place when its strokes are gone; 0: none
        friend bool operator==(const Copy&, const Copy&) = default;
    };
    int id = 0;
    Kind kind = Kind::Rows;
    std::vector<int> of;       ///< the strokes that are repeated
    int helpers = 0;           ///< how many of them, the first, are repeated only because others follow them
    int lead = 0;              ///< the point of theirs by which places are counted
    int about = 0;             ///< Around: the centre, a point. Along: the stroke
    int columns = 1, rows = 1; ///< how many there are in all, across (or around, along) and up
    int firstPitch = 0, upPitch = 0; ///< the dimensions that carry the pitches, or the turn; 0: none
    bool turning = false;            ///< Along: they turn as the stroke does
    bool backwards = false;          ///< Along: the first stands at its end
    std::vector<Copy> copies;
    friend bool operator==(const Repeat&, const Repeat&) = default;
};

/// Letters that were written, so that they can be written anew: see edit/write.hpp.
struct DrawnText {
    int id = 0;
    std::string words, font;
    std::string height, spacing; ///< of capitals, and what is added between letters, as typed
    int base = 0;                ///< the helper line that they stand on
    int along = 0;               ///< the stroke that they were laid along; 0: they stand on their line
    /// The strokes of each letter, in its outline's order; none of a space, 0 where one is gone.
    std::vector<std::vector<int>> letters;
    friend bool operator==(const DrawnText&, const DrawnText&) = default;
};

/// Each list is in the order of ids: that is how they are found.
struct Drawing {
    std::vector<DrawnPoint> points;
    std::vector<Stroke> strokes;
    std::vector<Relation> relations;
    std::vector<Repeat> repeats;
    std::vector<DrawnText> texts;
    std::optional<TracedPicture> picture;
    int nextId = 1;     ///< of points, strokes, relations, repeats and texts alike
    bool sized = false; ///< a first real size was given (or declined): see firstSize

    int addPoint(Vec2 at);
    int addStroke(StrokeKind kind, std::vector<int> pointIds, std::vector<double> sizes = {});
    /// A stroke with points of its own at the given places.
    int draw(StrokeKind kind, const std::vector<Vec2>& at, std::vector<double> sizes = {});
    /// Freezes the sense from how the drawing lies now.
    int relate(RelationKind kind, std::vector<int> of, std::string expression = {});

    const DrawnPoint* findPoint(int id) const;
    DrawnPoint* findPoint(int id);
    const Stroke* findStroke(int id) const;
    Stroke* findStroke(int id);
    const Relation* findRelation(int id) const;
    Relation* findRelation(int id);
    /// Where a point is. The origin, too. An unknown id is a programming error.
    Vec2 at(int pointId) const;
    /// Removes strokes or relations, what hangs on them, and points that nothing uses any more. What else was
    /// repeated keeps its place: see repeats.hpp.
    void erase(const std::vector<int>& ids);
    friend bool operator==(const Drawing&, const Drawing&) = default;
};

/// The two ends of a line: of a stroke, or of one of the two lines that every drawing has.
struct LineEnds {
    Vec2 from, to;
};
LineEnds lineEnds(const Drawing& drawing, int lineId);
bool isLine(const Drawing& drawing, int id);
bool isPoint(const Drawing& drawing, int id);
/// A circle or an arc of one.
bool isRound(const Drawing& drawing, int id);
/// The point ids where a stroke ends; none for closed ones.
std::vector<int> endPoints(const Stroke& stroke);
/// Does it have a size that its points do not decide?
bool hasOwnSize(const Stroke& stroke);
/// Are its sizes for the solver to find? Not where they are the spans of a spline or a tolerance.
bool solvesSizes(const Stroke& stroke);
/// The middle of a circle, arc or ellipse.
int centrePoint(const Stroke& stroke);

/// Sets sense, turned and where from how the drawing lies.
void freezeSense(const Drawing& drawing, Relation& relation);

/// Why a relation of that kind cannot join these operands, in a sentence; empty when it can.
/// \param asItLies false: look only at what the operands are, not at where they lie
std::string whyNot(const Drawing& drawing, RelationKind kind, const std::vector<int>& of,
                   bool asItLies = true);
/// The same of a relation as it is.
std::string whyNot(const Drawing& drawing, const Relation& relation, bool asItLies = true);

} // namespace gc
