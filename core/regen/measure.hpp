#pragma once
/// \file The part's measures and their verdicts against the brief.

#include "core/measures/body_measures.hpp"
#include "core/process/material.hpp"
#include "core/regen/engine.hpp"

namespace gc {

/// ✓ holds, ▲ watch, ■ fails, … measuring, – not asked or not measurable.
enum class Verdict { Holds, Watch, Fails, Measuring, None };
std::string verdictWord(Verdict v); ///< "holds", "watch", "fails", "measuring", "none"
std::string verdictSign(Verdict v); ///< "✓"

/// One target of the brief, measured.
struct MeasuredTarget {
    Target target;
    std::string label;
    Dimension dimension;
    std::optional<double> value; ///< internal units
    AllowedRange allowed;
    Verdict verdict = Verdict::None;
    std::optional<Vec3> at;
    std::string body;
    std::string where; ///< face or words
    Message note;
    bool understood = true; ///< false: what it allows cannot be read, or its body is not there
};

struct PartMeasures {
    std::vector<BodyMeasures> bodies;
    std::vector<MeasuredTarget> targets;
    double volume = 0, mass = 0;
};

struct MeasureOptions {
    bool walls = true; ///< wall, lean and fill too; mass, envelope and pieces are always there
    Stop stop;
};

/// Measures bodies and keeps what did not change. Not for several threads at once.
class Measurer {
  public:
    /// Error "measure.material" when the brief or a body names a material that is not in the list.
    Result<PartMeasures> measure(const Part& part, const ModelState& state,
                                 const std::vector<Material>& materials, const MeasureOptions& options = {});

  private:
    struct Key {
        std::uint64_t content = 0;
        std::string settings;
        bool walls = false;
        friend auto operator<=>(const Key&, const Key&) = default;
    };
    /// What was worked out of the body last time, or is worked out now. Nothing when it was stopped.
    std::optional<BodyMeasures> prepare(ThingId id, const Entity<Body>& body, const Material& material,
                                        const struct MeasuredPart& part, const MeasureOptions& options);

    /// How the bodies lie from an imported one, where there is one.
    void compare(const Part& part, const ModelState& state, std::vector<BodyMeasures>& bodies,
                 const Stop& stop);

    std::map<ThingId, std::pair<Key, BodyMeasures>> m_last;
    struct Scan {
        std::uint64_t content = 0;
        std::shared_ptr<const TriangleMesh> mesh; ///< null: it has none
    };
    Scan m_scan;
    struct Compared {
        std::shared_ptr<const SampledSurface> surface; ///< what was measured on
        std::uint64_t scan = 0;                        ///< content of the imported body
        std::shared_ptr<const DeviationField> field;
    };
    std::map<ThingId, Compared> m_deviations;
};

/// holds; watch when inside but within a tenth of a two-sided range, or 2 % of a one-sided limit, of failing.
Verdict judge(double value, const AllowedRange& allowed, Dimension dimension);

/// A value with its unit for people: "98.7 g", "702 ml", "0.6°".
std::string formatMeasure(double value, Dimension dimension, const UnitSystem& units);

/// A tried way to make a failing target hold: one number of one step, found by the secant rule.
struct TargetRemedy {
    Remedy remedy;
    std::vector<std::pair<std::string, std::string>> then; ///< what the other targets come to: label, value
    int othersFailing = 0;
};
/// Tries the numbers that are likely to help, each by building and measuring. \param builds how many at most
std::vector<TargetRemedy> findTargetRemedies(const Part& part, std::size_t target, Engine& engine,
                                             Measurer& measurer, const std::vector<Material>& materials,
                                             const Stop& stop, int builds = 14);

} // namespace gc
