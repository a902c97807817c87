#pragma once
/// \file What the forge has sent, as the window keeps it: triangles, lines, values. No geometry is computed
/// here.

#include "core/base/plane.hpp"
#include "core/base/thing.hpp"
#include "core/sketch/trace.hpp"

#include <QString>
#include <QStringList>
#include <QVector3D>

#include <cstdint>
#include <map>
#include <optional>
#include <vector>

namespace gc::app {

struct EdgeLine {
    std::uint32_t first = 0, count = 0; ///< points in BodyMesh::lines
    bool smooth = false;
};

/// A surface that is put together from the patches of its faces.
struct Surface {
    std::vector<QVector3D> points, normals;
    std::vector<std::uint32_t> triangles, faceOf; ///< corners; the face of each vertex
};

struct BodyMesh : Surface {
    QString name;
    QString offeredName, offeredColour; ///< by the file that it came from
    std::uint64_t content = 0;          ///< of the body: what items are called depends on it alone
    std::vector<bool> flatFaces;
    std::vector<EdgeLine> edges;
    std::vector<QVector3D> lines;
    /// How it bends, 1/mm: at every vertex, bulging positive; at every point of the lines, towards the
    /// centre.
    std::vector<float> bends;
    std::vector<QVector3D> lineBends;
};

/// A face or an edge of a body on the stand.
struct BodyItem {
    ThingId body;
    bool edge = false;
    int item = -1; ///< from 0; -1: nothing
    friend auto operator<=>(const BodyItem&, const BodyItem&) = default;
};

/// A size of a step as it lies in space: see core/model/aids.hpp.
struct HandleView {
    QString slot;
    bool turns = false;
    QVector3D from, direction, arm;
    double value = 0, way = 1; ///< mm, rad, or a factor
    bool loose = false;
    QString turnsRound, turnsInto;
    bool counts = false;  ///< its slot is how many
    double whole = 0;     ///< of which the value is a share; 0: the value is a number of gaps
    int more = 0;         ///< of things than of gaps
    bool reaches = false; ///< its end may be put to a face or a corner
    bool factor = false;  ///< a number without a unit, though an arrow
};

/// A line between two sections, and where its ends could be pulled: see core/model/aids.hpp.
struct ThreadView {
    struct Place {
        QVector3D at;
        QString says;
    };
    QVector3D from, to;
    bool pulled = false;
    std::vector<Place> starts, ends;
    QString slot, choice, chosen;
};

/// One of the bodies in a file: see core/model/aids.hpp.
struct FileBodyView {
    QString name, size;
    bool taken = true;
    std::vector<QVector3D> points; ///< of its picture; none: it has none
    std::vector<std::uint32_t> triangles;
};

/// What is shown of a step while it is filled in, or chosen in the sheet.
struct AidsView {
    int step = 0;
    std::vector<HandleView> handles;
    std::vector<ThreadView> threads;
    BodyMesh tool; ///< the solid that it takes away, or cannot add; one face
    bool takes = false;
    std::vector<FileBodyView> fileBodies;
};

/// A plane to draw on, as slots name it.
struct PlaneView {
    QString name;
    Plane plane;
};

/// An axis that a step made, as long as it is drawn.
struct AxisView {
    QString name;
    QVector3D from, to;
};

/// A stroke of a drawing, in space.
struct StrokeView {
    QString ref, chain; ///< of it alone, and of what goes on from it, too
    std::vector<QVector3D> points;
};

/// An area that a drawing encloses.
struct AreaView {
    QString area;                              ///< as slots name it
    std::vector<std::vector<QVector3D>> loops; ///< its border, then its holes
};

struct DrawingView {
    Plane plane;
    std::vector<StrokeView> strokes;
    std::vector<AreaView> areas;
};

/// A point that can be picked.
struct PlaceView {
    QVector3D at;
    QStringList refs;
};

/// What clicks in the stand may pick. Curves are single edges and strokes of drawings; sections are strokes
/// with all that goes on from them, faces for their rims, and points; axes are these, round faces and axes
/// that steps made. Anything: points, edges or faces, to be measured.
enum class Picking { Nothing, Faces, Edges, Curves, Sections, Points, Planes, Axes, Bodies, Areas, Anything };

/// What a click picked.
struct Pick {
    Picking kind = Picking::Nothing;
    QStringList refs;     ///< what it may mean, rules first
    QString spot;         ///< of a face: the very place, as a point
    int drawing = 0;      ///< of an area: the step that drew it
    bool pending = false; ///< what the item under it is called is still asked
};

struct Histogram {
    bool any = false;
    double min = 0, max = 0, low = 0, high = 1;
    std::vector<double> areas;
};

/// Wall and lean on a fine surface of their own.
struct BodyField : Surface {
    std::vector<float> ray, ball, lean; ///< mm, mm, degrees; negative thickness or NaN: not measured
    Histogram rayHistogram, ballHistogram;
    std::vector<float> away;                  ///< mm from an imported body: outside of it more than nothing
    std::optional<ThingId> awayFrom;          ///< that body; nothing: there is none
    double inside = 0, outside = 0, most = 0; ///< mm: the farthest, and on nearly all of the area
};

struct TargetView {
    QString measure, label, allowed, verdict, where, note, body, text;
    QString ofBody; ///< the one body that it is about; empty: all
    std::optional<double> value, least, most;
    std::optional<QVector3D> at;
    int since = 0; ///< id of the step since which it does not hold; 0: it holds, or that is not known yet
};

/// What picked things measure.
struct ReadingView {
    QString key, text;
    double value = 0; ///< mm, mm², rad
    std::optional<QVector3D> at, to;
};

struct RemedyView {
    int step = 0;
    QString slot, value, sentence;
    QStringList then; ///< "mass 91.2 g"
    bool tried = true;
    std::optional<int> before{}; ///< the step goes before that one; 0: to the end
    friend bool operator==(const RemedyView&, const RemedyView&) = default;
};

/// What a step cannot decide: which of several a reference of it means.
struct QuestionView {
    QString about;
    QStringList answers; ///< references, the likeliest first
    friend bool operator==(const QuestionView&, const QuestionView&) = default;
};

struct StepView {
    bool known = false, ok = true, off = false, later = false, cached = false;
    double milliseconds = 0;
    QString error;
    QString doubt; ///< of a step that is ok: why it is hardly meant so
    QStringList notes;
    int errorPosition = -1;
    std::vector<RemedyView> remedies;
    std::optional<QuestionView> question;
    std::optional<QVector3D> place;     ///< where it is wrong, or where what is lost was
    bool gone = false;                  ///< what is lost was there
    bool asksPick = false;              ///< nothing was picked yet of what it works on
    std::optional<double> volumeChange; ///< mm^3
    bool trying = false;                ///< a remedy is being looked for
    friend bool operator==(const StepView&, const StepView&) = default;
};

struct OutlineView {
    std::vector<float> curve; ///< radius, height pairs, mm
    std::vector<double> residuals;
};

} // namespace gc::app
