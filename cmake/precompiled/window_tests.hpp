// What the tests of the window include, each of them: the window's library and the frame of the tests.
#include "cmake/precompiled/window.hpp"

#include <catch2/catch.hpp>
