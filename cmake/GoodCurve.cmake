# Compiler settings and the two helpers by which every folder says what it builds.

set(CMAKE_CXX_STANDARD 20)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
set(CMAKE_RUNTIME_OUTPUT_DIRECTORY "${CMAKE_BINARY_DIR}/bin")

find_program(GC_CCACHE ccache)
if(GC_CCACHE)
  # What precompiled headers need to be kept in the cache.
  set(CMAKE_CXX_COMPILER_LAUNCHER "${CMAKE_COMMAND};-E;env;CCACHE_SLOPPINESS=pch_defines,time_macros;${GC_CCACHE}")
  add_compile_options(-fpch-preprocess)
endif()
find_program(GC_MOLD mold)
if(GC_MOLD)
  add_link_options(-fuse-ld=mold)
endif()

add_library(gc_flags INTERFACE)
# What is left out cry at std::string of this compiler where its headers are precompiled; the sanitizers
# look for the same, and find it only where it is.
target_compile_options(gc_flags INTERFACE -Wall -Wextra -Wshadow -Wno-restrict -Wno-stringop-overflow -Wno-stringop-overread -Wno-array-bounds -Wnon-virtual-dtor -Woverloaded-virtual)
if(GC_WARNINGS_AS_ERRORS)
  target_compile_options(gc_flags INTERFACE -Werror)
endif()
if(GC_SANITIZE)
  add_compile_options(-fsanitize=${GC_SANITIZE} -fno-omit-frame-pointer)
  add_link_options(-fsanitize=${GC_SANITIZE})
endif()
target_include_directories(gc_flags INTERFACE "${CMAKE_SOURCE_DIR}")

find_package(Threads REQUIRED)
find_package(Eigen3 3.4 REQUIRED NO_MODULE)
find_package(TBB REQUIRED)
find_package(OpenCASCADE REQUIRED)
find_package(nlohmann_json 3.11 REQUIRED)

# gc_layer(NAME SOURCES ... USES ...): one static library a layer of core/.
function(gc_layer name)
  cmake_parse_arguments(A "" "" "SOURCES;USES" ${ARGN})
  add_library(${name} STATIC ${A_SOURCES})
  target_link_libraries(${name} PUBLIC gc_flags ${A_USES})
  gc_precompile(${name} ${A_USES})
endfunction()

# gc_together(NAMES...): several sources are read by the compiler in one go, as the headers take it longer than what
# they are included in. Names in anonymous namespaces are then shared by the sources of a library. What every kind or
# measure calls the same (words.cpp) stays apart.
function(gc_together)
  foreach(name ${ARGN})
    if(NOT TARGET ${name})
      continue()
    endif()
    set_target_properties(${name} PROPERTIES UNITY_BUILD ON UNITY_BUILD_BATCH_SIZE 6)
  endforeach()
endfunction()

# Large headers are read once for all that use them: those of the kernel where it is used, else what every file
# includes.
set(GC_KERNEL_USERS gc_shape gc_inspect gc_exchange gc_measures gc_model gc_steps gc_regen gc_kernel)
function(gc_precompile name)
  set(sort common)
  foreach(use ${ARGN} ${name})
    if(use IN_LIST GC_KERNEL_USERS)
      set(sort kernel)
    endif()
  endforeach()
  get_target_property(type ${name} TYPE)
  set(maker gc_precompiled_${sort})
  if(type STREQUAL EXECUTABLE) # tests: other options, so another precompiled header
    string(APPEND maker _tests)
  endif()
  if(NOT TARGET ${maker}) # a library of its own: what a library defines for itself would be in it
    file(CONFIGURE OUTPUT ${maker}.cpp CONTENT "")
    add_library(${maker} OBJECT "${CMAKE_CURRENT_BINARY_DIR}/${maker}.cpp")
    target_link_libraries(${maker} PRIVATE gc_flags)
    if(sort STREQUAL kernel)
      target_include_directories(${maker} SYSTEM PRIVATE "${OpenCASCADE_INCLUDE_DIR}")
    endif()
    if(type STREQUAL EXECUTABLE)
      target_compile_options(${maker} PRIVATE -O1)
    endif()
    target_precompile_headers(${maker} PRIVATE "${CMAKE_SOURCE_DIR}/cmake/precompiled/${sort}.hpp")
    if(type STREQUAL EXECUTABLE)
      target_precompile_headers(${maker} PRIVATE <catch2/catch.hpp>)
    endif()
  endif()
  target_precompile_headers(${name} REUSE_FROM ${maker})
endfunction()

# gc_tests(NAME SOURCES ... USES ... [SHARES n]): one Catch2 program, registered with ctest; a long one in shares, which
# run beside each other and before the short ones.
function(gc_tests name)
  if(NOT GC_TESTS)
    return()
  endif()
  cmake_parse_arguments(A "" "SHARES" "SOURCES;USES" ${ARGN})
  add_executable(${name} ${A_SOURCES})
  target_link_libraries(${name} PRIVATE gc_catch_main ${A_USES})
  # What is tested is built as it is shipped; the tests themselves only have to be built soon.
  target_compile_options(${name} PRIVATE -O1)
  gc_precompile(${name} ${A_USES})
  set_target_properties(${name} PROPERTIES RUNTIME_OUTPUT_DIRECTORY "${CMAKE_BINARY_DIR}/tests")
  if(NOT A_SHARES)
    add_test(NAME ${name} COMMAND ${name} WORKING_DIRECTORY "${CMAKE_SOURCE_DIR}")
    return()
  endif()
  foreach(share RANGE 1 ${A_SHARES})
    add_test(NAME ${name}_${share} COMMAND ${name} WORKING_DIRECTORY "${CMAKE_SOURCE_DIR}")
    set_tests_properties(${name}_${share} PROPERTIES COST 1000 ENVIRONMENT "GC_SHARE=${share}/${A_SHARES}")
  endforeach()
endfunction()

if(GC_TESTS)
  enable_testing()
  add_library(gc_catch_session STATIC "${CMAKE_SOURCE_DIR}/tests/support/catch_session.cpp")
  target_link_libraries(gc_catch_session PUBLIC gc_flags)
  target_compile_options(gc_catch_session PRIVATE -O0 -fno-sanitize=all) # with them it takes minutes
  add_library(gc_catch_main STATIC "${CMAKE_SOURCE_DIR}/tests/support/catch_main.cpp")
  target_link_libraries(gc_catch_main PUBLIC gc_catch_session)
endif()

# The geometry kernel, found once. Its headers are only for .cpp files of the layers that list gc_kernel.
add_library(gc_kernel INTERFACE)
target_include_directories(gc_kernel SYSTEM INTERFACE "${OpenCASCADE_INCLUDE_DIR}")
target_link_libraries(gc_kernel INTERFACE
  TKernel TKMath TKG2d TKG3d TKGeomBase TKGeomAlgo TKBRep TKTopAlgo TKPrim TKBO TKBool TKShHealing
  TKFillet TKOffset TKFeat TKMesh TKXSBase TKSTEP TKSTEPBase TKSTEPAttr TKSTEP209 TKXDESTEP TKXCAF TKLCAF TKCAF TKCDF)

# "shell" as "Shell", for the functions that a folder is found by.
function(gc_capitalised word out)
  string(SUBSTRING ${word} 0 1 first)
  string(TOUPPER ${first} first)
  string(SUBSTRING ${word} 1 -1 rest)
  set(${out} "${first}${rest}" PARENT_SCOPE)
endfunction()
