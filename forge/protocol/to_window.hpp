#pragma once
/// \file What the forge says to the window.

#include "forge/protocol/words.hpp"

#include <variant>

namespace gc::say {

/// A sign of life, several times a second while there is work, and at the beginning of each piece of it.
struct Alive {
    static constexpr const char* kType = "alive";
    std::string doing; ///< "build", "mesh", "measure", "since", "remedy", "export", "solve", "look"
    template <class V>
    void fields(V& v) {
        v("doing", doing);
    }
};

struct StepStarted {
    static constexpr const char* kType = "step-started";
    int revision = 0, id = 0;
    bool trying = false; ///< a remedy is looked for
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("id", id), v("trying", trying);
    }
};

struct StepFared {
    static constexpr const char* kType = "step";
    int revision = 0, id = 0, number = 0;
    bool off = false, later = false, ok = true, cached = false;
    double milliseconds = 0;
    std::vector<Words> notes;
    std::optional<Fault> fault; ///< of a step that is ok: why it is hardly meant so
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("id", id), v("number", number), v("off", off), v("later", later),
            v("ok", ok), v("cached", cached), v("milliseconds", milliseconds), v("notes", notes),
            v("fault", fault);
    }
};

struct StationsFared {
    static constexpr const char* kType = "outline";
    int revision = 0, step = 0;
    std::vector<double> residuals;
    double energy = 0;
    std::vector<float> curve; ///< radius, height pairs
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("step", step), v("residuals", residuals), v("energy", energy),
            v.blob("curve", curve);
    }
    std::string wrong() const { return curve.size() % 2 == 0 ? "" : "a point lacks its height"; }
};

/// A body's surface cut up by its faces. A patch that the other side holds from the last surface of the same
/// body and level is only named by its key.
struct Patches {
    std::vector<std::uint64_t> keys; ///< of every patch, in the order of the faces
    std::vector<std::uint32_t>
        counts; ///< three for every patch: is it in here (1, 0), its vertices, triangles
    std::vector<float> points, normals;   ///< three for every vertex of what is in here
    std::vector<std::uint32_t> triangles; ///< three numbers of vertices of the patch
    template <class V>
    void fields(V& v) {
        v.blob("keys", keys), v.blob("counts", counts), v.blob("points", points), v.blob("normals", normals),
            v.blob("triangles", triangles);
    }
    std::string wrong() const;
    /// Vertices of all patches that are in here.
    std::size_t vertices() const { return points.size() / 3; }
};

struct BodySurface {
    static constexpr const char* kType = "surface";
    int revision = 0;
    BodyId body;
    std::uint64_t content = 0; ///< of the body: equal contents have equal faces and edges
    bool fine = false;
    Patches faces;
    std::vector<std::uint8_t> flat;       ///< of every face: does it lie in a plane?
    std::vector<std::uint32_t> edgeSizes; ///< of every edge: how many points; 0 for seams
    std::vector<std::uint8_t> edgeSmooth;
    std::vector<float> lines; ///< three for every point of the edges
    /// How they bend, 1/mm: of every vertex that is in here, bulging positive; of every point of the edges
    /// three numbers, towards the centre.
    std::vector<float> bends, lineBends;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("body", body), v("content", content), v("fine", fine), v("faces", faces),
            v.blob("flat", flat), v.blob("edge_sizes", edgeSizes), v.blob("edge_smooth", edgeSmooth),
            v.blob("lines", lines), v.blob("bends", bends), v.blob("line_bends", lineBends);
    }
    std::string wrong() const;
};

struct HistogramBars {
    bool any = false;
    double least = 0, most = 0, low = 0, high = 1;
    std::vector<double> areas;
    template <class V>
    void fields(V& v) {
        v("any", any), v("least", least), v("most", most), v("low", low), v("high", high), v("areas", areas);
    }
};

/// Wall and lean on a fine surface of their own.
struct BodyValues {
    static constexpr const char* kType = "values";
    int revision = 0;
    BodyId body;
    Patches faces;
    /// Of every vertex that is in here: mm, mm, degrees; a negative wall or NaN: not measured.
    std::vector<float> ray, ball, lean;
    HistogramBars rayBars, ballBars;
    std::vector<float> away;                  ///< mm from an imported body; NaN where there is none
    std::optional<BodyId> awayFrom;           ///< that body
    double inside = 0, outside = 0, most = 0; ///< mm: the farthest, and for nearly all of the area
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("body", body), v("faces", faces), v.blob("ray", ray), v.blob("ball", ball),
            v.blob("lean", lean), v("ray_bars", rayBars), v("ball_bars", ballBars), v.blob("away", away),
            v("away_from", awayFrom), v("inside", inside), v("outside", outside), v("most", most);
    }
    std::string wrong() const;
};

struct BodyWords {
    BodyId id;
    std::string name;
    std::string offeredName, offeredColour; ///< by the file that it came from; empty: nothing
    template <class V>
    void fields(V& v) {
        v("id", id), v("name", name), v("offered_name", offeredName), v("offered_colour", offeredColour);
    }
};

/// All bodies that there are; others are gone.
struct BodiesShown {
    static constexpr const char* kType = "bodies";
    int revision = 0;
    std::vector<BodyWords> bodies;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("bodies", bodies);
    }
};

struct PlaneShown {
    std::string name;
    Plane frame;
    template <class V>
    void fields(V& v) {
        v("name", name), v("frame", frame);
    }
};
struct StrokeShown {
    std::string reference, chain;       ///< of it alone, and of what goes on from it, too
    std::uint32_t first = 0, count = 0; ///< among the points of the message
    template <class V>
    void fields(V& v) {
        v("reference", reference), v("chain", chain), v("first", first), v("count", count);
    }
};
struct AreaShown {
    std::string area;                 ///< as slots name it
    std::vector<std::uint32_t> loops; ///< first, count among the points of the message, of each border
    template <class V>
    void fields(V& v) {
        v("area", area), v("loops", loops);
    }
};
struct DrawingShown {
    int step = 0;
    Plane frame;
    std::vector<StrokeShown> strokes;
    std::vector<AreaShown> areas;
    template <class V>
    void fields(V& v) {
        v("step", step), v("frame", frame), v("strokes", strokes), v("areas", areas);
    }
};
struct AxisShown {
    std::string name;
    Vec3 from, to;
    template <class V>
    void fields(V& v) {
        v("name", name), v("from", from), v("to", to);
    }
};
/// Planes, axes and drawings as they lie in space.
struct GuidesShown {
    static constexpr const char* kType = "guides";
    int revision = 0;
    std::vector<PlaneShown> planes;
    std::vector<AxisShown> axes;
    std::vector<DrawingShown> drawings;
    std::vector<float> points;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("planes", planes), v("axes", axes), v("drawings", drawings),
            v.blob("points", points);
    }
    std::string wrong() const;
};

struct PlaceShown {
    Vec3 at;
    std::vector<std::string> references;
    template <class V>
    void fields(V& v) {
        v("at", at), v("references", references);
    }
};
struct TraceShown {
    std::string source, kind; ///< kind: key of the stroke
    int piece = 0, pieces = 1;
    std::vector<Vec2> at;
    std::vector<double> sizes;
    template <class V>
    void fields(V& v) {
        v("source", source), v("kind", kind), v("piece", piece), v("pieces", pieces), v("at", at),
            v("sizes", sizes);
    }
};
/// What LookFor asked for.
struct LookShown {
    static constexpr const char* kType = "looked";
    int revision = 0, tracesOf = 0;
    std::vector<PlaceShown> places;
    std::vector<TraceShown> traces;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("traces_of", tracesOf), v("places", places), v("traces", traces);
    }
};

struct HandleShown {
    std::string slot;
    bool turns = false;
    Vec3 from, direction, arm;
    double value = 0, way = 1;
    bool loose = false;
    std::string turnsRound, turnsInto;
    bool counts = false;
    double whole = 0;
    int more = 0;
    template <class V>
    void fields(V& v) {
        v("slot", slot), v("turns", turns), v("from", from), v("direction", direction), v("arm", arm),
            v("value", value), v("way", way), v("loose", loose), v("turns_round", turnsRound),
            v("turns_into", turnsInto), v("counts", counts), v("whole", whole), v("more", more);
    }
};
/// A line between two sections, and where its ends could be pulled (core/model/aids.hpp).
struct ThreadPlace {
    Vec3 at;
    std::string says;
    template <class V>
    void fields(V& v) {
        v("at", at), v("says", says);
    }
};
struct ThreadShown {
    Vec3 from, to;
    bool pulled = false;
    std::vector<ThreadPlace> starts, ends;
    std::string slot, choice, chosen;
    template <class V>
    void fields(V& v) {
        v("from", from), v("to", to), v("pulled", pulled), v("starts", starts), v("ends", ends),
            v("slot", slot), v("choice", choice), v("chosen", chosen);
    }
};
/// One of the bodies in a file, with how much of the points and triangles that follow is its picture.
struct FileBodyShown {
    std::string name, size; ///< "40 x 20 x 12 mm"
    bool taken = true;
    std::uint32_t points = 0, triangles = 0;
    template <class V>
    void fields(V& v) {
        v("name", name), v("size", size), v("taken", taken), v("points", points), v("triangles", triangles);
    }
};
/// What is shown of the step that LookFor named: sizes to drag (core/model/aids.hpp), and its solid.
struct AidsShown {
    static constexpr const char* kType = "aids";
    int revision = 0, step = 0;
    bool takes = false;
    std::vector<HandleShown> handles;
    std::vector<ThreadShown> threads;
    std::vector<float> points, normals;   ///< three for every vertex of the solid
    std::vector<std::uint32_t> triangles; ///< three vertices each
    std::vector<std::uint32_t> edgeSizes; ///< of every edge: how many points
    std::vector<float> lines;             ///< three for every point of the edges
    std::vector<FileBodyShown> fileBodies;
    std::vector<float> bodyPoints;            ///< three for every corner, of one body after the other
    std::vector<std::uint32_t> bodyTriangles; ///< three corners each, counted within the body
    template <class V>
    void fields(V& v) {
        v("file_bodies", fileBodies), v.blob("body_points", bodyPoints),
            v.blob("body_triangles", bodyTriangles);
        v("revision", revision), v("step", step), v("takes", takes), v("handles", handles),
            v("threads", threads), v.blob("points", points), v.blob("normals", normals),
            v.blob("triangles", triangles), v.blob("edge_sizes", edgeSizes), v.blob("lines", lines);
    }
    std::string wrong() const;
};

struct TargetFared {
    std::string measure, label, allowed, verdict, where, body, text;
    Words note;
    std::string ofBody; ///< the one body that the target is about; empty: all
    std::optional<double> value, least, most;
    std::optional<Vec3> at;
    template <class V>
    void fields(V& v) {
        v("measure", measure), v("label", label), v("allowed", allowed), v("verdict", verdict),
            v("where", where), v("note", note), v("body", body), v("text", text), v("of_body", ofBody),
            v("value", value), v("least", least), v("most", most), v("at", at);
    }
};
struct BodyWeighed {
    BodyId id;
    double mass = 0; ///< g
    std::string material;
    template <class V>
    void fields(V& v) {
        v("id", id), v("mass", mass), v("material", material);
    }
};
struct MeasuresTaken {
    static constexpr const char* kType = "measures";
    int revision = 0;
    bool walls = false;               ///< wall, lean and fill are known too
    std::vector<TargetFared> targets; ///< in the order of the brief
    double mass = 0, volume = 0;      ///< g, mm^3
    std::vector<BodyWeighed> bodies;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("walls", walls), v("targets", targets), v("mass", mass),
            v("volume", volume), v("bodies", bodies);
    }
};

struct StepMargin {
    int id = 0;
    double volume = 0; ///< what it added, mm^3
    template <class V>
    void fields(V& v) {
        v("id", id), v("volume", volume);
    }
};
struct MarginsTaken {
    static constexpr const char* kType = "margins";
    int revision = 0;
    std::vector<StepMargin> steps;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("steps", steps);
    }
};

/// A failing step's largest size that works, and other places in the sheet at which it works, found by
/// trying; without a remedy: none was found.
struct RemedyTried {
    static constexpr const char* kType = "remedy";
    int revision = 0, step = 0;
    std::optional<RemedyWords> remedy;
    std::vector<RemedyWords> orders;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("step", step), v("remedy", remedy), v("orders", orders);
    }
};

/// Since which step each target has its verdict; 0: it holds, or that is not known.
struct SinceFound {
    static constexpr const char* kType = "since";
    int revision = 0;
    std::vector<int> steps; ///< in the order of the brief's targets
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("steps", steps);
    }
};

struct Failed {
    static constexpr const char* kType = "failed";
    int revision = 0;
    Fault fault;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("fault", fault);
    }
};

/// Exactly one for each part.
struct Done {
    static constexpr const char* kType = "done";
    int revision = 0;
    bool superseded = false;
    template <class V>
    void fields(V& v) {
        v("revision", revision), v("superseded", superseded);
    }
};

} // namespace gc::say
