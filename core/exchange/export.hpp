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

/// What a person has to know of a file that was written.
using Notes = std::vector<Message>;

struct ExportFormat {
    std::string ending;  ///< ".stl"
    std::string name;    ///< "STL"
    std::string forWhom; ///< "triangles in mm, for most printers"
    Result<Notes> (*write)(const std::vector<NamedBody>&, const std::string& partName,
                           const std::filesystem::path&, const ExportOptions&);
};
const std::vector<ExportFormat>& exportFormats();

/// Writes by the ending of the path. Faces that cannot be cut into triangles are left out of formats of
/// triangles, and named in the notes. Errors: "export.format", "export.empty", and those of the writers.
Result<Notes> exportBodies(const std::vector<NamedBody>& bodies, const std::string& partName,
                           const std::filesystem::path& path, const ExportOptions& options = {});

/// The triangles of a body for a file. \param notes gets what is missing in them
Result<TriangleMesh> trianglesFor(const NamedBody& body, const ExportOptions& options, Notes& notes);
/// Has the triangle no area, as at a pole?
bool isNothing(const TriangleMesh& mesh, const std::array<std::uint32_t, 3>& triangle);
/// Red, green and blue from "#rrggbb", 0 to 1 each; nothing where it is none.
std::optional<std::array<double, 3>> rgbOf(const std::string& colour);

/// Binary STL in mm; the header says so, for the format has no field for it.
Result<Notes> writeStl(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options);
/// OBJ in mm, one named object a body, with the exact normals.
Result<Notes> writeObj(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options);
/// glTF 2.0 in one file (.glb): metres, y up, one named and coloured node a body.
Result<Notes> writeGlb(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options);
/// 3MF in mm, one named object a body.
Result<Notes> write3mf(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options);

} // namespace gc
