#pragma once
/// \file Stations from tables: what people paste from a spreadsheet or a note.

#include "core/document/part.hpp"

namespace gc {

struct StationsFromText {
    Stations rows;
    std::vector<RowFault> faults; ///< lines that were left out, from 0, with the reason
};

/// Reads lines of height and diameter, with "inside" or "outside" and a tolerance if wanted, parted by tabs,
/// semicolons or commas. A first line of headings is recognised: "height", "diameter", "outside", "inside",
/// "tolerance" in any order. With semicolons or tabs a comma is a decimal sign. Empty lines are passed over.
StationsFromText readStations(const std::string& text);

/// The table as tab-separated text with headings.
std::string writeStations(const Stations& rows);

} // namespace gc
