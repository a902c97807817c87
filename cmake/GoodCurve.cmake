# Compiler settings and the two helpers by which every folder says what it builds.

set(CMAKE_CXX_STANDARD 20)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
set(CMAKE_RUNTIME_OUTPUT_DIRECTORY "${CMAKE_BINARY_DIR}/bin")

find_program(GC_CCACHE ccache)
if(GC_CCACHE)
  set(CMAKE_CXX_COMPILER_LAUNCHER "${GC_CCACHE}")
endif()
find_program(GC_MOLD mold)
if(GC_MOLD)
  add_link_options(-fuse-ld=mold)
endif()

add_library(gc_flags INTERFACE)
target_compile_options(gc_flags INTERFACE -Wall -Wextra -Wshadow -Wno-restrict -Wnon-virtual-dtor -Woverloaded-virtual)
if(GC_WARNINGS_AS_ERRORS)
  target_compile_options(gc_flags INTERFACE -Werror)
endif()
if(GC_SANITIZE)
  add_compile_options(-fsanitize=address,undefined -fno-omit-frame-pointer)
  add_link_options(-fsanitize=address,undefined)
endif()
target_include_directories(gc_flags INTERFACE "${CMAKE_SOURCE_DIR}")

find_package(Threads REQUIRED)
find_package(Eigen3 3.4 REQUIRED NO_MODULE)
find_package(TBB REQUIRED)
find_package(nlohmann_json 3.11 REQUIRED)

# gc_layer(NAME SOURCES ... USES ...): one static library a layer of core/.
function(gc_layer name)
  cmake_parse_arguments(A "" "" "SOURCES;USES" ${ARGN})
  add_library(${name} STATIC ${A_SOURCES})
  target_link_libraries(${name} PUBLIC gc_flags ${A_USES})
endfunction()

# gc_tests(NAME SOURCES ... USES ...): one Catch2 program, registered with ctest.
function(gc_tests name)
  if(NOT GC_TESTS)
    return()
  endif()
  cmake_parse_arguments(A "" "" "SOURCES;USES" ${ARGN})
  add_executable(${name} ${A_SOURCES})
  target_link_libraries(${name} PRIVATE gc_catch_main ${A_USES})
  # What is tested is built as it is shipped; the tests themselves only have to be built soon.
  target_compile_options(${name} PRIVATE -O1)
  set_target_properties(${name} PROPERTIES RUNTIME_OUTPUT_DIRECTORY "${CMAKE_BINARY_DIR}/tests")
  add_test(NAME ${name} COMMAND ${name} WORKING_DIRECTORY "${CMAKE_SOURCE_DIR}")
endfunction()

if(GC_TESTS)
  enable_testing()
  add_library(gc_catch_main STATIC "${CMAKE_SOURCE_DIR}/tests/support/catch_main.cpp")
  target_link_libraries(gc_catch_main PUBLIC gc_flags)
endif()

# The geometry kernel, found once. Its headers are only for .cpp files of the layers that list gc_kernel.
find_package(OpenCASCADE REQUIRED)
add_library(gc_kernel INTERFACE)
target_include_directories(gc_kernel SYSTEM INTERFACE "${OpenCASCADE_INCLUDE_DIR}")
target_link_libraries(gc_kernel INTERFACE
  TKernel TKMath TKG2d TKG3d TKGeomBase TKGeomAlgo TKBRep TKTopAlgo TKPrim TKBO TKBool TKShHealing
  TKFillet TKOffset TKFeat TKMesh TKXSBase TKSTEP TKSTEPBase TKSTEPAttr TKSTEP209 TKXDESTEP TKXCAF TKLCAF TKCAF TKCDF)
