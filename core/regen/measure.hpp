#pragma once
/// \file The part's measures and their verdicts against the brief.

#include "core/inspect/fill.hpp"
#include "core/inspect/lean.hpp"
#include "core/inspect/mass.hpp"
#include "core/inspect/wall.hpp"
#include "core/process/material.hpp"
#include "core/regen/engine.hpp"

namespace gc {

/// ✓ holds, ▲ watch, ■ fails, … measuring, – not asked or not measurable.
enum class Verdict { Holds, Watch, Fails, Measuring, None };
std::string verdictWord(Verdict v); ///< "holds", "watch", "fails", "measuring", "none"
std::string verdictSign(Verdict v); ///< "✓"

/// Everything about one body that does not depend on the targets.
struct BodyMeasures {
    ThingId id;
    std::string name;
    std::string material;
    std::uint64_t content = 0;
    MassProperties mass;
    BodyCheck check;
    Box box;
    std::shared_ptr<const TriangleMesh> mesh;      ///< what was measured on
    std::shared_ptr<const SampledSurface> surface; ///< where the fields below have their values
    WallField ray, ball;
    LeanField lean;
    FillResult brim, line;
    std::optional<Error> error; ///< why a measure could not be taken
};

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
    std::string note;
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
    std::map<ThingId, std::pair<Key, BodyMeasures>> m_last;
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
