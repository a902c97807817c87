#include "core/document/drawing_sizes.hpp"

#include "core/sketch/drawing_words.hpp"
#include "core/sketch/solve/settle.hpp"

#include <algorithm>

namespace gc {

namespace {

class Sizes {
  public:
    Sizes(const Drawing& drawing, const UnitSystem& units, const Values& values)
        : m_d(drawing), m_units(units), m_values(values) {}

    Result<DimensionValues> all() {
        for (const Relation& r : m_d.relations) {
            if (!wordsOf(r.kind).sized || r.readOnly) continue;
            if (!size(r)) return *m_error;
        }
        return std::move(m_sizes);
    }

  private:
    const Drawing& m_d;
    const UnitSystem& m_units;
    const Values& m_values;
    DimensionValues m_sizes;
    std::vector<const Relation*> m_open; ///< being evaluated: one inside the other
    std::optional<Error> m_error;

    void fail(const Relation& r, const char* code, const std::string& sentence) {
        if (m_error) return; // the innermost says most
        Error e;
        e.code = code;
        e.culprits = {std::to_string(r.id)};
        e.sentence = sentence;
        m_error = std::move(e);
    }
    /// What a dimension is called: without its size.
    std::string called(const Relation& r) const {
        Relation plain = r;
        plain.expression = "?";
        const std::string s = sentenceOf(m_d, plain, m_units);
        return "The " + s.substr(0, s.rfind(" = "));
    }

    std::optional<double> size(const Relation& r) {
        if (const auto it = m_sizes.find(r.id); it != m_sizes.end()) return it->second;
        if (std::find(m_open.begin(), m_open.end(), &r) != m_open.end()) {
            fail(r, "dimension.circle",
                 called(r) + " is worked out from itself. Type a size into one of the circle.");
            return std::nullopt;
        }
        const Dimension dimension = wordsOf(r.kind).dimension;
        if (r.expression.empty()) return m_sizes[r.id] = measured(m_d, r);
        m_open.push_back(&r);
        const auto lookup = [&](const std::string& name) -> std::optional<Amount> {
            // The drawing's own names come first: a value of the part that is made later changes nothing
            // here.
            for (const Relation& other : m_d.relations)
                if (other.name == name && !other.readOnly) {
                    if (const auto v = size(other)) return Amount{*v, wordsOf(other.kind).dimension};
                    return std::nullopt;
                }
            const auto it = m_values.find(name);
            return it == m_values.end() ? std::nullopt : std::optional<Amount>(it->second);
        };
        const auto amount = evaluate(r.expression, dimension, m_units, lookup);
        m_open.pop_back();
        if (!amount) {
            fail(r, "dimension.expression", phrase("%1: %2", called(r), amount.error().sentence));
            return std::nullopt;
        }
        const bool mayBeNothing = r.kind == RelationKind::Across || r.kind == RelationKind::Along ||
                                  (r.kind == RelationKind::Distance && r.of.size() == 2) ||
                                  r.kind == RelationKind::AngleBetween ||
                                  r.kind == RelationKind::DiameterAboutAxis;
        if (amount->value < 0 || (amount->value == 0 && !mayBeNothing)) {
            fail(r, "dimension.range",
                 called(r) + " must be " + (mayBeNothing ? "at least " : "more than ") +
                     (dimension == kNumber ? "0" : formatAmount(0, m_units.symbolFor(dimension))) + ".");
            return std::nullopt;
        }
        if (r.kind == RelationKind::Ratio && r.of.size() == 1 && amount->value >= 1) {
            fail(r, "dimension.range", called(r) + " must be less than 1: 0.5 is a piece of a parabola.");
            return std::nullopt;
        }
        return m_sizes[r.id] = amount->value;
    }
};

} // namespace

Result<DimensionValues> dimensionSizes(const Drawing& drawing, const UnitSystem& units,
                                       const Values& values) {
    return Sizes(drawing, units, values).all();
}

Values namesWithin(const Drawing& drawing, const UnitSystem& units, const Values& values) {
    Values out = values;
    const auto sizes = dimensionSizes(drawing, units, values);
    for (const Relation& r : drawing.relations) {
        if (r.name.empty()) continue;
        if (r.readOnly) {
            out[r.name] = {measured(drawing, r), wordsOf(r.kind).dimension};
        } else if (sizes) {
            if (const auto it = sizes->find(r.id); it != sizes->end())
                out[r.name] = {it->second, wordsOf(r.kind).dimension};
        }
    }
    return out;
}

void scaleWithFigures(Drawing& drawing, double factor, int but, const UnitSystem& units,
                      const Values& values) {
    const auto sizes = dimensionSizes(drawing, units, values);
    scaleDrawing(drawing, factor);
    if (!sizes) return;
    constexpr int kDecimals = 6;
    for (Relation& r : drawing.relations) {
        const auto size = sizes->find(r.id);
        if (r.id == but || size == sizes->end() || wordsOf(r.kind).dimension != kLength) continue;
        if (isPlainNumber(r.expression))
            r.expression = sizeInWords(size->second * factor, kLength, units, kDecimals);
    }
}

std::string freeDimensionName(const Drawing& drawing, const Values& values) {
    return freeName(drawing, "d", [&](const std::string& name) { return values.count(name) > 0; });
}

} // namespace gc
