# The measures that a brief can ask for. A measure, or a few that are taken together, is a folder: words.cpp (free
# of the kernel, part of the document), take.cpp, its test. This line is all that registers it.

set(GC_MEASURES "")
# Puts a measure's words into gc_document, how it is taken into gc_measures, its test into measures_test.
macro(gc_measure measure)
  list(APPEND GC_MEASURES ${measure})
  list(APPEND GC_MEASURE_WORDS measures/${measure}/words.cpp)
  list(APPEND GC_MEASURE_TAKES measures/${measure}/take.cpp)
  list(APPEND GC_MEASURE_TESTS measures/${measure}/${measure}_test.cpp)
endmacro()

# In the order in which they are offered.
gc_measure(mass)
gc_measure(fill)
gc_measure(extent)
gc_measure(wall)
gc_measure(lean)
gc_measure(edges)
gc_measure(pieces)
gc_measure(deviation)
gc_measure(between)

set(measures "")
set(measures_declared "")
set(takes "")
set(takes_declared "")
foreach(measure ${GC_MEASURES})
  gc_capitalised(${measure} named)
  string(APPEND measures_declared "std::vector<MeasureWords> ${measure}Measures();\n")
  string(APPEND measures "${measure}Measures(), ")
  string(APPEND takes_declared "MeasureFunction take${named};\nstd::vector<MeasureWords> ${measure}Measures();\n")
  string(APPEND takes "    for (const MeasureWords& m : ${measure}Measures()) all[m.key] = take${named};\n")
endforeach()
file(CONFIGURE OUTPUT measure_words.cpp @ONLY CONTENT
[[// Made by core/measures/measures.cmake.
#include "core/document/measure_words.hpp"

namespace gc {
@measures_declared@
const std::vector<MeasureWords>& allMeasures() {
    static const std::vector<MeasureWords> all = [] {
        std::vector<MeasureWords> out;
        for (const auto& some : std::initializer_list<std::vector<MeasureWords>>{@measures@})
            out.insert(out.end(), some.begin(), some.end());
        return out;
    }();
    return all;
}
} // namespace gc
]])
file(CONFIGURE OUTPUT measure_takes.cpp @ONLY CONTENT
[[// Made by core/measures/measures.cmake.
#include "core/measures/measure.hpp"

#include <map>

namespace gc {
@takes_declared@
MeasureFunction* findMeasureTake(const std::string& key) {
    static const auto byKey = [] {
        std::map<std::string, MeasureFunction*> all;
@takes@        return all;
    }();
    const auto it = byKey.find(key);
    return it == byKey.end() ? nullptr : it->second;
}
} // namespace gc
]])
