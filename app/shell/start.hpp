#pragma once
/// \file What every program with our window does first.

namespace gc::app {

/// Before the QApplication: OpenGL 3.3 core with depth and stencil.
void setSurfaceFormat();
/// After it: names, style, fonts.
void dressApplication();

} // namespace gc::app
