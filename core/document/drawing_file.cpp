#include "core/document/drawing_file.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/repeats.hpp"

#include <cmath>
#include <set>

namespace gc {

namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t kMost = 50000;
constexpr double kFarthest = 1e6; ///< mm

Json pair(Vec2 v) {
    return Json::array({v.x, v.y});
}

struct Fault {
    std::string sentence;
};

constexpr double kMostRepeated = 400;

struct RepeatKey {
    std::string key;
    Repeat::Kind kind;
};
const std::vector<RepeatKey>& repeatKeys() {
    static const std::vector<RepeatKey> all{
        {"rows", Repeat::Kind::Rows}, {"around", Repeat::Kind::Around}, {"along", Repeat::Kind::Along}};
    return all;
}

/// Reads entries and throws a Fault at the first that makes no sense.
class DrawingReader {
  public:
    Drawing read(const Json& j) {
        if (!j.is_object()) throw Fault{"A drawing should be an object."};
        for (const Json& p : list(j, "points")) readPoint(p);
        for (const Json& s : list(j, "strokes")) readStroke(s);
        checkFollowers();
        for (const Json& r : list(j, "relations")) readRelation(r);
        for (const Json& r : list(j, "repeats")) readRepeat(r);
        for (const Json& t : list(j, "texts")) readText(t);
        m_d.nextId =
            std::max(m_last + 1, static_cast<int>(j.contains("next_id") ? whole(j["next_id"], 1, 1e9) : 1));
        holdLonePoints();
        if (j.contains("picture")) readPicture(j["picture"]);
        m_d.sized = j.contains("sized") && truth(j["sized"]);
        return std::move(m_d);
    }

  private:
    /// A point that no stroke uses could be neither seen nor taken hold of: it becomes a point by itself.
    void holdLonePoints() {
        std::set<int> used;
        for (const Stroke& s : m_d.strokes) used.insert(s.points.begin(), s.points.end());
        for (const DrawnPoint& p : m_d.points) {
            if (used.count(p.id)) continue;
            Stroke alone;
            alone.id = m_d.nextId++;
            alone.kind = StrokeKind::Point;
            alone.points = {p.id};
            m_d.strokes.push_back(std::move(alone));
        }
    }

    /// Only now are all strokes known.
    void checkFollowers() const {
        for (const Stroke& s : m_d.strokes) {
            if (s.kind != StrokeKind::Beside) continue;
            const Stroke* source = sourceOf(m_d, s);
            if (!source || !canBeFollowed(*source))
                throw Fault{"A stroke of the drawing follows one that is not there or cannot be followed."};
            if (s.points.size() == 1 && source->kind != StrokeKind::Ellipse)
                throw Fault{"A stroke of the drawing that goes all round follows one that does not."};
        }
    }

    Drawing m_d;
    std::set<int> m_ids;
    int m_last = 0;

    static const Json& list(const Json& j, const char* key) {
        static const Json none = Json::array();
        const auto it = j.find(key);
        if (it == j.end()) return none;
        if (!it->is_array()) throw Fault{std::string("\"") + key + "\" of the drawing should be a list."};
        if (it->size() > kMost) throw Fault{std::string("The drawing has too many ") + key + "."};
        return *it;
    }
    static double real(const Json& j) {
        if (!j.is_number() || !(std::fabs(j.get<double>()) <= kFarthest))
            throw Fault{"A coordinate of the drawing is no number of millimetres within a kilometre."};
        return j.get<double>();
    }
    static double whole(const Json& j, double least, double most) {
        if (!j.is_number_integer() || !(j.get<double>() >= least) || !(j.get<double>() <= most))
            throw Fault{"A number of the drawing should be whole and not that large."};
        return j.get<double>();
    }
    static bool truth(const Json& j) {
        if (!j.is_boolean()) throw Fault{"A yes or no of the drawing is neither."};
        return j.get<bool>();
    }
    static std::string text(const Json& j) {
        if (!j.is_string()) throw Fault{"A word of the drawing is no text."};
        return j.get<std::string>();
    }
    static Vec2 place(const Json& j) {
        if (!j.is_array() || j.size() != 2) throw Fault{"A place in the drawing needs two numbers."};
        return {real(j[0]), real(j[1])};
    }
    /// Ids rise within each list; points, strokes and relations share them.
    template <class List>
    int newId(const Json& j, const List& list) {
        const int id = static_cast<int>(whole(j, 1, 1e9));
        if (!m_ids.insert(id).second || (!list.empty() && list.back().id >= id))
            throw Fault{"Two things in the drawing have the same number, or their order is lost."};
        m_last = std::max(m_last, id);
        return id;
    }
    static const Json& need(const Json& j, const char* key) {
        if (!j.is_object() || !j.contains(key))
            throw Fault{std::string("\"") + key + "\" is missing in the drawing."};
        return j[key];
    }

    template <class List>
    static const typename List::value_type* byKey(const List& list, const std::string& key,
                                                  const char* what) {
        const auto it = std::find_if(list.begin(), list.end(), [&](const auto& w) { return w.key == key; });
        if (it == list.end())
            throw Fault{std::string("This version does not know a ") + what + " of kind \"" + key + "\"."};
        return &*it;
    }

    void readPoint(const Json& j) {
        if (!j.is_array() || j.size() != 3)
            throw Fault{"A point of the drawing needs its number and two coordinates."};
        const int id = newId(j[0], m_d.points);
        m_d.points.push_back({id, {real(j[1]), real(j[2])}});
    }

    void readStroke(const Json& j) {
        Stroke s;
        s.id = newId(need(j, "id"), m_d.strokes);
        const std::string kind = text(need(j, "kind"));
        const StrokeWords* words = byKey(allStrokeWords(), kind, "stroke");
        s.kind = words->kind;
        for (const Json& p : list(j, "points")) {
            s.points.push_back(static_cast<int>(whole(p, 1, 1e9)));
            if (!m_d.findPoint(s.points.back()))
                throw Fault{"A stroke of the drawing lacks one of its points."};
        }
        for (const Json& v : list(j, "sizes")) s.sizes.push_back(real(v));
        for (const Json& v : list(j, "held")) s.held.push_back(truth(v));
        if (j.contains("name")) s.name = text(j["name"]);
        if (j.contains("helper")) s.helper = truth(j["helper"]);
        if (j.contains("beside")) s.beside = static_cast<int>(whole(j["beside"], 1, 1e9));
        if (j.contains("right")) s.right = truth(j["right"]);
        if (j.contains("cut_from")) s.cutFrom = static_cast<int>(whole(j["cut_from"], 1, 1e9));
        if (s.cutFrom >= s.id)
            throw Fault{"A stroke of the drawing was cut from one that is younger than it."};
        const int n = static_cast<int>(s.points.size());
        const bool spline = s.kind == StrokeKind::Spline;
        if (n < words->leastPoints || (words->mostPoints >= 0 && n > words->mostPoints) || (spline && n % 2))
            throw Fault{"A stroke of kind \"" + kind + "\" has the wrong number of points."};
        const std::size_t sizes = spline ? s.points.size() / 2 - 1 : static_cast<std::size_t>(words->sizes);
        if (s.sizes.size() != sizes)
            throw Fault{"A stroke of kind \"" + kind + "\" has the wrong number of sizes."};
        for (const double v : s.sizes)
            if (!(v > 0 || (v == 0 && s.kind == StrokeKind::Beside)) ||
                (s.kind == StrokeKind::Conic && v >= 1))
                throw Fault{"A size of a stroke of kind \"" + kind + "\" is out of its range."};
        m_d.strokes.push_back(std::move(s));
    }

    void readPicture(const Json& j) {
        TracedPicture p;
        p.file = text(need(j, "file"));
        p.at = place(need(j, "at"));
        p.width = real(need(j, "width"));
        p.height = real(need(j, "height"));
        p.strength = j.contains("strength") ? real(j["strength"]) : p.strength;
        if (!(p.width > 0) || !(p.height > 0) || !(p.strength >= 0) || !(p.strength <= 1))
            throw Fault{"The picture of the drawing has a size or a strength that makes no sense."};
        m_d.picture = std::move(p);
    }

    void readRelation(const Json& j) {
        Relation r;
        r.id = newId(need(j, "id"), m_d.relations);
        const std::string kind = text(need(j, "kind"));
        const auto& all = allRelationWords();
        const auto words =
            std::find_if(all.begin(), all.end(), [&](const RelationWords& w) { return w.key == kind; });
        if (words == all.end())
            throw Fault{"This version does not know a relation of kind \"" + kind + "\"."};
        r.kind = words->kind;
        for (const Json& of : list(j, "of")) r.of.push_back(static_cast<int>(whole(of, kAxisLine, 1e9)));
        if (j.contains("size")) r.expression = text(j["size"]);
        if (j.contains("name")) r.name = text(j["name"]);
        if (j.contains("read_only")) r.readOnly = truth(j["read_only"]);
        if (j.contains("quiet")) r.quiet = truth(j["quiet"]);
        if (j.contains("sense")) r.sense = whole(j["sense"], -1, 1) < 0 ? -1 : 1;
        if (j.contains("turned")) r.turned = truth(j["turned"]);
        for (const Json& p : list(j, "where")) r.where.push_back(place(p));
        if (j.contains("source")) r.source = text(j["source"]);
        if (j.contains("piece")) r.piece = static_cast<int>(whole(j["piece"], 0, 1e6));
        if (j.contains("pieces")) r.pieces = static_cast<int>(whole(j["pieces"], 1, 1e6));
        if (j.contains("label")) r.label = place(j["label"]);
        if (j.contains("over_all")) r.overAll = truth(j["over_all"]);
        if (!whyNot(m_d, r, false).empty())
            throw Fault{"A relation of kind \"" + kind + "\" joins things that it cannot join."};
        m_d.relations.push_back(std::move(r));
    }

    int idOr0(const Json& j, const char* key) const {
        return j.contains(key) ? static_cast<int>(whole(j[key], kAxisLine, 1e9)) : 0;
    }
    /// Ids of strokes that there are; 0 where a copy lacks one.
    std::vector<int> strokesIn(const Json& j, const char* key, bool mayLack) const {
        std::vector<int> out;
        for (const Json& s : list(j, key)) {
            out.push_back(static_cast<int>(whole(s, mayLack ? 0 : 1, 1e9)));
            if (out.back() && !m_d.findStroke(out.back()))
                throw Fault{"What was repeated in the drawing lacks one of its strokes."};
        }
        return out;
    }

    /// What was written, with the strokes of its letters.
    void readText(const Json& j) {
        DrawnText t;
        t.id = newId(need(j, "id"), m_d.texts);
        t.words = text(need(j, "words")), t.font = text(need(j, "font"));
        t.height = text(need(j, "height"));
        if (j.contains("spacing")) t.spacing = text(j["spacing"]);
        t.base = idOr0(j, "base"), t.along = idOr0(j, "along");
        const Stroke* base = m_d.findStroke(t.base);
        if (!base || base->kind != StrokeKind::Line || (t.along && !m_d.findStroke(t.along)))
            throw Fault{"A text in the drawing lacks the line that it stands on."};
        for (const Json& l : list(j, "letters")) {
            t.letters.emplace_back();
            if (!l.is_array()) throw Fault{"A text in the drawing lacks its letters."};
            for (const Json& s : l) {
                t.letters.back().push_back(static_cast<int>(whole(s, 0, 1e9)));
                if (t.letters.back().back() && !m_d.findStroke(t.letters.back().back()))
                    throw Fault{"A text in the drawing lacks one of its strokes."};
            }
        }
        m_d.texts.push_back(std::move(t));
    }

    /// How strokes were repeated.
    void readRepeat(const Json& j) {
        Repeat r;
        r.id = newId(need(j, "id"), m_d.repeats);
        r.kind = byKey(repeatKeys(), text(need(j, "how")), "repeat")->kind;
        r.of = strokesIn(j, "of", false);
        r.helpers = j.contains("helpers") ? static_cast<int>(whole(j["helpers"], 0, kMost)) : 0;
        r.lead = idOr0(j, "lead"), r.about = idOr0(j, "about");
        r.columns = static_cast<int>(whole(need(j, "columns"), 1, kMostRepeated));
        if (j.contains("rows")) r.rows = static_cast<int>(whole(j["rows"], 1, kMostRepeated));
        r.firstPitch = idOr0(j, "first_pitch"), r.upPitch = idOr0(j, "up_pitch");
        if (j.contains("turning")) r.turning = truth(j["turning"]);
        if (j.contains("backwards")) r.backwards = truth(j["backwards"]);
        const bool about = r.kind == Repeat::Kind::Rows     ? r.about == 0
                           : r.kind == Repeat::Kind::Around ? isPoint(m_d, r.about)
                                                            : m_d.findStroke(r.about) != nullptr;
        if (!about || !hasItsLead(m_d, r) || static_cast<int>(r.of.size()) <= r.helpers)
            throw Fault{"What was repeated in the drawing lacks what it is repeated about."};
        for (const Json& c : list(j, "copies")) {
            Repeat::Copy copy;
            copy.across = static_cast<int>(whole(need(c, "across"), 0, kMostRepeated));
            copy.up = c.contains("up") ? static_cast<int>(whole(c["up"], 0, kMostRepeated)) : 0;
            copy.strokes = strokesIn(c, "strokes", true);
            copy.lead = idOr0(c, "lead"), copy.keeper = idOr0(c, "keeper");
            const bool sound =
                copy.across < r.columns && copy.up < r.rows && copy.strokes.size() == r.of.size() &&
                (!copy.lead || m_d.findPoint(copy.lead)) && (!copy.keeper || m_d.findStroke(copy.keeper));
            if (!sound) throw Fault{"A copy in the drawing does not match what was repeated."};
            r.copies.push_back(std::move(copy));
        }
        for (int* pitch : {&r.firstPitch, &r.upPitch})
            if (!m_d.findRelation(*pitch)) *pitch = 0;
        m_d.repeats.push_back(std::move(r));
    }
};

Json textToJson(const DrawnText& t) {
    Json j = {{"id", t.id},         {"words", t.words}, {"font", t.font},
              {"height", t.height}, {"base", t.base},   {"letters", t.letters}};
    if (!t.spacing.empty()) j["spacing"] = t.spacing;
    if (t.along) j["along"] = t.along;
    return j;
}

Json repeatToJson(const Repeat& r) {
    const auto& keys = repeatKeys();
    const auto key = std::find_if(keys.begin(), keys.end(), [&](const auto& k) { return k.kind == r.kind; });
    Json j = {{"id", r.id}, {"how", key->key}, {"of", r.of}, {"lead", r.lead}, {"columns", r.columns}};
    if (r.helpers) j["helpers"] = r.helpers;
    if (r.about) j["about"] = r.about;
    if (r.rows > 1) j["rows"] = r.rows;
    if (r.firstPitch) j["first_pitch"] = r.firstPitch;
    if (r.upPitch) j["up_pitch"] = r.upPitch;
    if (r.turning) j["turning"] = true;
    if (r.backwards) j["backwards"] = true;
    Json copies = Json::array();
    for (const Repeat::Copy& c : r.copies) {
        Json copy = {{"across", c.across}, {"strokes", c.strokes}};
        if (c.up) copy["up"] = c.up;
        if (c.lead) copy["lead"] = c.lead;
        if (c.keeper) copy["keeper"] = c.keeper;
        copies.push_back(std::move(copy));
    }
    j["copies"] = std::move(copies);
    return j;
}

} // namespace

Json drawingToJson(const Drawing& d) {
    Json points = Json::array(), strokes = Json::array(), relations = Json::array();
    for (const DrawnPoint& p : d.points) points.push_back({p.id, p.at.x, p.at.y});
    for (const Stroke& s : d.strokes) {
        Json j = {{"id", s.id}, {"kind", wordsOf(s.kind).key}, {"points", s.points}};
        if (!s.sizes.empty()) j["sizes"] = s.sizes;
        if (!s.held.empty()) j["held"] = s.held;
        if (s.beside) j["beside"] = s.beside;
        if (s.right) j["right"] = true;
        if (s.cutFrom) j["cut_from"] = s.cutFrom;
        if (!s.name.empty()) j["name"] = s.name;
        if (s.helper) j["helper"] = true;
        strokes.push_back(std::move(j));
    }
    for (const Relation& r : d.relations) {
        Json j = {{"id", r.id}, {"kind", wordsOf(r.kind).key}, {"of", r.of}};
        if (!r.expression.empty()) j["size"] = r.expression;
        if (!r.name.empty()) j["name"] = r.name;
        if (r.readOnly) j["read_only"] = true;
        if (r.quiet) j["quiet"] = true;
        if (r.sense < 0) j["sense"] = -1;
        if (r.turned) j["turned"] = true;
        for (const Vec2 p : r.where) j["where"].push_back(pair(p));
        if (!r.source.empty()) j["source"] = r.source;
        if (r.piece > 0) j["piece"] = r.piece;
        if (r.pieces > 1) j["pieces"] = r.pieces;
        if (!(r.label == Vec2{})) j["label"] = pair(r.label);
        if (r.overAll) j["over_all"] = true;
        relations.push_back(std::move(j));
    }
    Json out = {{"points", points}, {"strokes", strokes}, {"relations", relations}, {"next_id", d.nextId}};
    if (d.picture)
        out["picture"] = {{"file", d.picture->file},
                          {"at", pair(d.picture->at)},
                          {"width", d.picture->width},
                          {"height", d.picture->height},
                          {"strength", d.picture->strength}};
    for (const Repeat& r : d.repeats) out["repeats"].push_back(repeatToJson(r));
    for (const DrawnText& t : d.texts) out["texts"].push_back(textToJson(t));
    if (d.sized) out["sized"] = true;
    return out;
}

std::optional<std::string> readDrawing(const Json& json, Drawing& drawing) {
    try {
        drawing = DrawingReader().read(json);
    } catch (const Fault& fault) {
        return fault.sentence;
    }
    return std::nullopt;
}

} // namespace gc
