#pragma once

#include <filesystem>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "io/cloud_files.h"
#include "io/mesh_files.h"
#include "io/read_curves.h"
#include "model/model.h"
#include "section/section.h"
#include "sketch/sketch.h"

namespace lostline::io {

enum class Carries { Mesh, Points, Model, Curves, Project, Table, Report };

/// A file format: its name, its extensions, what it carries, and how that is read and written. What
/// a format cannot do is null. Dialogs, drops, conversions, help and messages follow from the list.
/// Projects, tables and reports are read and written by the modules that know their content.
struct Format {
  const char* name;                     ///< as engineers say it: "STEP"
  std::vector<const char*> extensions;  ///< lower case with the dot; the first is the usual one
  Carries carries;
  /// Tells the format by the first bytes of a file, whatever its name; null when they do not tell.
  bool (*recognises)(std::string_view head) = nullptr;
  Result<LoadedMesh> (*read_mesh)(const std::filesystem::path&, const Task&) = nullptr;
  Status (*write_mesh)(const std::filesystem::path&, const scan::Mesh&) = nullptr;
  Result<LoadedCloud> (*read_points)(const std::filesystem::path&, const Task&) = nullptr;
  Status (*write_points)(const std::filesystem::path&, const scan::PointCloud&) = nullptr;
  Result<model::Model> (*read_model)(const std::filesystem::path&) = nullptr;
  Status (*write_model)(const std::filesystem::path&, const model::Model&,
                        const std::string& part) = nullptr;
  /// Triangles of each body with its name and colour; where it is null, bodies are written as one.
  Status (*write_bodies)(const std::filesystem::path&, const std::vector<BodyMesh>&) = nullptr;
  Status (*write_curves)(const std::filesystem::path&, const sketch::Sketch&,
                         const section::Section&) = nullptr;
  Result<PlaneCurves> (*read_curves)(const std::filesystem::path&) = nullptr;
  bool space_curves = false;  ///< curves keep their places in space
};

std::span<const Format> formats();
/// By the extension, in upper or lower case; null for one that is not known.
const Format* format_of(const std::filesystem::path& path);
bool carries(const std::filesystem::path& path, Carries what);
/// In lower case, with the dot.
std::string extension_of(const std::filesystem::path& path);

using Can = bool (*)(const Format&);
inline bool reads_mesh(const Format& f) { return f.read_mesh != nullptr; }
inline bool writes_mesh(const Format& f) { return f.write_mesh != nullptr; }
inline bool reads_points(const Format& f) { return f.read_points != nullptr; }
inline bool writes_points(const Format& f) { return f.write_points != nullptr; }
inline bool reads_model(const Format& f) { return f.read_model != nullptr; }
inline bool writes_model(const Format& f) { return f.write_model != nullptr; }
inline bool writes_curves(const Format& f) { return f.write_curves != nullptr; }
inline bool reads_curves(const Format& f) { return f.read_curves != nullptr; }
inline bool is_project(const Format& f) { return f.carries == Carries::Project; }

/// "STL, PLY and 3MF" of the formats that can do one of these.
std::string format_names(std::initializer_list<Can> can, const char* last_joint = " and ");
/// ".stl, .ply or .3mf": the usual extensions.
std::string format_extensions(std::initializer_list<Can> can);
/// "*.stl *.STL *.ply *.PLY": for a file dialog, in which case may matter.
std::string format_patterns(std::initializer_list<Can> can);

/// Reads a mesh of any format, told by its content where that tells, else by its name; equal
/// vertices are welded.
/// @errors Io           missing, unreadable, a folder;  InvalidInput  empty, truncated, garbled, or
/// not a mesh: the message says where;
///         Unsupported  another format or a point cloud;  Cancelled.
Result<LoadedMesh> read_mesh(const std::filesystem::path& path, const Task& task = {});
/// Reads points of any format that has some, the vertices of a mesh among them.
/// @errors as read_mesh;  Unsupported  a file without points.
Result<LoadedCloud> read_points(const std::filesystem::path& path, const Task& task = {});
/// By extension. @errors Unsupported  a format in which no points are written;  as the format's.
Status write_points(const std::filesystem::path& path, const scan::PointCloud& cloud);
/// Reads a model of any format, told as for a mesh.
/// @errors as the format's;  Unsupported  a file that is no model.
Result<model::Model> read_model(const std::filesystem::path& path);
/// By extension. @errors Unsupported  a format in which no meshes are written;  as the format's.
Status write_mesh(const std::filesystem::path& path, const scan::Mesh& mesh);
/// By extension: a model exactly, or the triangles of its solids and surfaces.
/// @errors Unsupported  a format that carries neither;  InvalidInput  an empty model;  as the
/// format's.
Status write_model(const std::filesystem::path& path, const model::Model& model,
                   const std::string& part);
/// By extension: the curves of a file, in one plane.
/// @errors Unsupported;  as the format's.
Result<PlaneCurves> read_curves(const std::filesystem::path& path);
/// By extension: a sketch and the section it was drawn over.
/// @errors Unsupported;  as the format's.
Status write_curves(const std::filesystem::path& path, const sketch::Sketch& sketch,
                    const section::Section& section);

}  // namespace lostline::io
