#pragma once
/// \file Files for other programs: which formats there are, and writing bodies to one of them.

#include "core/exchange/step_file.hpp"
#include "core/shape/mesh.hpp"

#include <functional>

namespace gc {

struct ExportOptions {
    double deviation = 0.02; ///< mm, for formats of triangles
    double angle = 0.2;      ///< rad
};

struct ExportFormat {
    std::string ending;  ///< ".stl"
    std::string name;    ///< "STL"
    std::string forWhom; ///< "triangles in mm, for most printers"
    Result<Done> (*write)(const std::vector<NamedBody>&, const std::string& partName,
                          const std::filesystem::path&, const ExportOptions&);
};
const std::vector<ExportFormat>& exportFormats();

/// Writes by the ending of the path. Errors: "export.format", "export.empty", and those of the writers.
Result<Done> exportBodies(const std::vector<NamedBody>& bodies, const std::string& partName,
                          const std::filesystem::path& path, const ExportOptions& options = {});

/// Binary STL in mm; the header says so, for the format has no field for it.
Result<Done> writeStl(const std::vector<NamedBody>& bodies, const std::string& partName,
                      const std::filesystem::path& path, const ExportOptions& options);
/// 3MF in mm, one named object a body.
Result<Done> write3mf(const std::vector<NamedBody>& bodies, const std::string& partName,
                      const std::filesystem::path& path, const ExportOptions& options);

} // namespace gc
