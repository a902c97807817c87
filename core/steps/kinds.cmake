# The kinds of step, in the order of the work. A kind is a folder: words.cpp (free of the kernel, part of the
# document), whatever else builds it, its test, its pictogram. This line is all that registers it.

set(GC_STEP_KINDS "")
# Puts a kind's derived roles (if it has any) into gc_names, its words into gc_document, its run into gc_steps, its test into steps_test.
macro(gc_step_kind kind)
  list(APPEND GC_STEP_KINDS ${kind})
  list(APPEND GC_KIND_WORDS steps/${kind}/words.cpp)
  file(GLOB sources CONFIGURE_DEPENDS RELATIVE "${CMAKE_CURRENT_SOURCE_DIR}" "steps/${kind}/*.cpp")
  foreach(source ${sources})
    if(source MATCHES "_test.cpp$")
      list(APPEND GC_KIND_TESTS ${source})
    elseif(source MATCHES "/roles.cpp$")
      list(APPEND GC_KIND_ROLES ${source})
      list(APPEND GC_KINDS_WITH_ROLES ${kind})
    elseif(NOT source MATCHES "/words.cpp$")
      list(APPEND GC_KIND_RUNS ${source})
    endif()
  endforeach()
endmacro()

gc_step_kind(outline)
gc_step_kind(draw)
gc_step_kind(extrude)
gc_step_kind(revolve)
gc_step_kind(sweep)
gc_step_kind(loft)
gc_step_kind(import)
gc_step_kind(plane)
gc_step_kind(axis)
gc_step_kind(curve)
gc_step_kind(draft)
gc_step_kind(shell)
gc_step_kind(fillet)
gc_step_kind(blend)
gc_step_kind(chamfer)
gc_step_kind(boss)
gc_step_kind(rib)
gc_step_kind(snap)
gc_step_kind(lip)
gc_step_kind(flange)
gc_step_kind(hole)
gc_step_kind(vent)
gc_step_kind(emboss)
gc_step_kind(groove)
gc_step_kind(thread)
gc_step_kind(twist)
gc_step_kind(repeat)
gc_step_kind(combine)
gc_step_kind(split)
gc_step_kind(move)
gc_step_kind(mirror)
gc_step_kind(end)

set_property(GLOBAL PROPERTY GC_STEP_KINDS "${GC_STEP_KINDS}")

# The two tables that find a kind by its key.
set(kinds "")
set(runs "")
set(runs_declared "")
set(kinds_declared "")
foreach(kind ${GC_STEP_KINDS})
  gc_capitalised(${kind} named)
  string(APPEND kinds_declared "StepKind ${kind}Kind();\n")
  string(APPEND kinds "        ${kind}Kind(),\n")
  string(APPEND runs_declared "StepFunction run${named};\n")
  string(APPEND runs "        {\"${kind}\", run${named}},\n")
endforeach()
file(CONFIGURE OUTPUT step_kinds.cpp @ONLY CONTENT
[[// Made by core/steps/kinds.cmake.
#include "core/document/step_kind.hpp"

namespace gc {
@kinds_declared@
const std::vector<StepKind>& allKinds() {
    static const std::vector<StepKind> all{
@kinds@    };
    return all;
}
} // namespace gc
]])
set(roles "")
set(roles_declared "")
foreach(kind ${GC_KINDS_WITH_ROLES})
  string(APPEND roles_declared "std::vector<DerivedRole> ${kind}Roles();\n")
  string(APPEND roles "${kind}Roles(), ")
endforeach()
file(CONFIGURE OUTPUT derived_roles.cpp @ONLY CONTENT
[[// Made by core/steps/kinds.cmake.
#include "core/names/derived_role.hpp"

namespace gc {
@roles_declared@
const std::vector<DerivedRole>& derivedRoles() {
    static const std::vector<DerivedRole> all = [] {
        std::vector<DerivedRole> out;
        for (auto list : std::initializer_list<std::vector<DerivedRole>>{@roles@}) out.insert(out.end(), list.begin(), list.end());
        return out;
    }();
    return all;
}
const DerivedRole* findDerivedRole(const std::string& role) {
    for (const DerivedRole& r : derivedRoles())
        if (r.role == role) return &r;
    return nullptr;
}
} // namespace gc
]])
file(CONFIGURE OUTPUT step_runs.cpp @ONLY CONTENT
[[// Made by core/steps/kinds.cmake.
#include "core/steps/step_run.hpp"

namespace gc {
@runs_declared@
const std::map<std::string, StepFunction*>& stepRuns() {
    static const std::map<std::string, StepFunction*> all{
@runs@    };
    return all;
}
} // namespace gc
]])
