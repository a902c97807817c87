#pragma once
/// \file Everything that the window and the forge say to each other (docs/forge-protocol.md). Lengths in mm,
/// angles in rad, volumes in mm^3 unless a field says otherwise. Each message lists its fields once, for both
/// ways.

#include "forge/protocol/answers.hpp"
#include "forge/protocol/to_forge.hpp"
#include "forge/protocol/to_window.hpp"

namespace gc::say {

using ToWindow =
    std::variant<Alive, StepStarted, StepFared, StationsFared, BodySurface, BodyValues, BodiesShown,
                 GuidesShown, LookShown, AidsShown, MeasuresTaken, MarginsTaken, RemedyTried, SinceFound,
                 Failed, Done, ItemNamed, ItemsFound, Exported, Solved, ReadingsTaken>;

Frame encode(const ToForge& message);
Frame encode(const ToWindow& message);
/// Errors "message.unknown" and "message.bad": what the other side said is not understood.
Result<ToForge> decodeToForge(const Frame& frame);
Result<ToWindow> decodeToWindow(const Frame& frame);

} // namespace gc::say
