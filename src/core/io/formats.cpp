#include "io/formats.h"

#include <algorithm>
#include <cctype>
#include <map>

#include "io/curve_models.h"
#include "io/files.h"
#include "io/section_files.h"
#include "io/step.h"

namespace lostline::io {
namespace {

Status plain_ply(const std::filesystem::path& path, const scan::Mesh& mesh) {
  return write_ply(path, mesh);
}
Status plain_3mf(const std::filesystem::path& path, const scan::Mesh& mesh) {
  return write_3mf(path, mesh);
}
bool starts_as_ply(std::string_view head) { return head.starts_with("ply"); }
bool starts_as_step(std::string_view head) { return head.starts_with("ISO-10303-21"); }

bool starts_as_e57(std::string_view head) { return head.starts_with("ASTM-E57"); }

std::vector<const Format*> those_that(std::initializer_list<Can> can) {
  std::vector<const Format*> list;
  for (const Format& f : formats()) {
    if (std::any_of(can.begin(), can.end(), [&](Can able) { return able(f); })) list.push_back(&f);
  }
  return list;
}

std::string joined(const std::vector<std::string>& parts, const char* last_joint) {
  std::string text;
  for (std::size_t i = 0; i < parts.size(); ++i) {
    if (i > 0) text += i + 1 == parts.size() ? last_joint : ", ";
    text += parts[i];
  }
  return text;
}

}  // namespace

std::span<const Format> formats() {
  static const std::vector<Format> list{
      {.name = "STEP",
       .extensions = {".step", ".stp"},
       .carries = Carries::Model,
       .recognises = starts_as_step,
       .read_model = read_step,
       .write_model = write_step,
       .write_curves = write_curves_step,
       .read_curves = read_curves_step,
       .space_curves = true},
      {.name = "IGES",
       .extensions = {".igs", ".iges"},
       .carries = Carries::Curves,
       .write_curves = write_curves_iges,
       .read_curves = read_curves_iges,
       .space_curves = true},
      {.name = "STL",
       .extensions = {".stl"},
       .carries = Carries::Mesh,
       .read_mesh = read_stl,
       .write_mesh = write_stl},
      {.name = "PLY",
       .extensions = {".ply"},
       .carries = Carries::Mesh,
       .recognises = starts_as_ply,
       .read_mesh = read_ply,
       .write_mesh = plain_ply,
       .read_points = read_ply_points,
       .write_points = write_ply_points},
      {.name = "OBJ", .extensions = {".obj"}, .carries = Carries::Mesh, .read_mesh = read_obj},
      {.name = "OFF", .extensions = {".off"}, .carries = Carries::Mesh, .read_mesh = read_off},
      {.name = "3MF",
       .extensions = {".3mf"},
       .carries = Carries::Mesh,
       .read_mesh = read_3mf,
       .write_mesh = plain_3mf,
       .write_bodies = write_3mf_bodies},
      {.name = "XYZ",
       .extensions = {".xyz", ".asc", ".txt", ".pts"},
       .carries = Carries::Points,
       .read_points = read_text_points,
       .write_points = write_xyz},
      {.name = "PTX", .extensions = {".ptx"}, .carries = Carries::Points, .read_points = read_ptx},
      {.name = "E57",
       .extensions = {".e57"},
       .carries = Carries::Points,
       .recognises = starts_as_e57,
       .read_points = read_e57},
      {.name = "DXF",
       .extensions = {".dxf"},
       .carries = Carries::Curves,
       .write_curves = write_dxf,
       .read_curves = read_dxf},
      {.name = "SVG",
       .extensions = {".svg"},
       .carries = Carries::Curves,
       .write_curves = write_svg},
      {.name = "Lost Line project", .extensions = {".lostline"}, .carries = Carries::Project},
      {.name = "CSV", .extensions = {".csv"}, .carries = Carries::Table},
      {.name = "PDF", .extensions = {".pdf"}, .carries = Carries::Report},
      {.name = "HTML", .extensions = {".html"}, .carries = Carries::Report},
  };
  return list;
}

std::string extension_of(const std::filesystem::path& path) {
  std::string extension = path.extension().string();
  std::transform(extension.begin(), extension.end(), extension.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return extension;
}

const Format* format_of(const std::filesystem::path& path) {
  const std::string extension = extension_of(path);
  for (const Format& f : formats()) {
    if (std::find(f.extensions.begin(), f.extensions.end(), extension) != f.extensions.end())
      return &f;
  }
  return nullptr;
}

bool carries(const std::filesystem::path& path, Carries what) {
  const Format* format = format_of(path);
  return format != nullptr && format->carries == what;
}

std::string format_names(std::initializer_list<Can> can, const char* last_joint) {
  std::vector<std::string> names;
  for (const Format* f : those_that(can)) names.emplace_back(f->name);
  return joined(names, last_joint);
}

std::string format_extensions(std::initializer_list<Can> can) {
  std::vector<std::string> extensions;
  for (const Format* f : those_that(can)) extensions.emplace_back(f->extensions.front());
  return joined(extensions, " or ");
}

std::string format_patterns(std::initializer_list<Can> can) {
  std::string patterns;
  for (const Format* f : those_that(can)) {
    for (const std::string extension : f->extensions) {
      std::string upper = extension;
      std::transform(upper.begin(), upper.end(), upper.begin(),
                     [](unsigned char c) { return static_cast<char>(std::toupper(c)); });
      patterns += (patterns.empty() ? "*" : " *") + extension + " *" + upper;
    }
  }
  return patterns;
}

namespace {

/// By content where that tells, else by name; null for one that is not known.
/// @errors Io, InvalidInput  as MappedFile::open.
Result<const Format*> format_inside(const std::filesystem::path& path) {
  const Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  for (const Format& f : formats()) {
    if (f.recognises != nullptr && f.recognises(file->text())) return &f;
  }
  return format_of(path);
}

}  // namespace

Result<LoadedMesh> read_mesh(const std::filesystem::path& path, const Task& task) {
  const auto format = format_inside(path);
  if (!format) return format.error();
  if (*format != nullptr && (*format)->read_mesh != nullptr)
    return (*format)->read_mesh(path, task);
  const std::string readable = format_names({reads_mesh});
  if (*format != nullptr && (*format)->read_model != nullptr)
    return Error{ErrorCode::Unsupported, path.string() + " is a model (" + (*format)->name +
                                             "), not a scan. Scans are read from " + readable +
                                             "."};
  if (*format != nullptr && (*format)->read_points != nullptr)
    return Error{ErrorCode::Unsupported, path.string() + " is a cloud of points (" +
                                             (*format)->name +
                                             "). Mesh it first and open the mesh."};
  return Error{ErrorCode::Unsupported, path.string() + " is none of " + readable +
                                           ". Export the scan as one of them and open that."};
}

Result<LoadedCloud> read_points(const std::filesystem::path& path, const Task& task) {
  const auto format = format_inside(path);
  if (!format) return format.error();
  if (*format != nullptr && (*format)->read_points != nullptr)
    return (*format)->read_points(path, task);
  if (*format != nullptr && (*format)->read_mesh != nullptr) {
    auto mesh = (*format)->read_mesh(path, task);
    if (!mesh) return mesh.error();
    LoadedCloud loaded;
    loaded.cloud.normals = scan::vertex_normals(mesh->mesh);
    loaded.cloud.points = std::move(mesh->mesh.vertices);
    loaded.in_millimetres = mesh->in_millimetres;
    return loaded;
  }
  return Error{ErrorCode::Unsupported, path.string() + " holds no points. Points are read from " +
                                           format_names({reads_points, reads_mesh}) + "."};
}

Status write_points(const std::filesystem::path& path, const scan::PointCloud& cloud) {
  const Format* format = format_of(path);
  if (format != nullptr && format->write_points != nullptr)
    return format->write_points(path, cloud);
  return Error{ErrorCode::Unsupported, path.string() + ": points are written as " +
                                           format_extensions({writes_points}) + "."};
}

Result<model::Model> read_model(const std::filesystem::path& path) {
  const auto format = format_inside(path);
  if (!format) return format.error();
  if (*format != nullptr && (*format)->read_model != nullptr) return (*format)->read_model(path);
  return Error{ErrorCode::Unsupported, path.string() + " is no model. Models are read from " +
                                           format_names({reads_model}) + "."};
}

Status write_mesh(const std::filesystem::path& path, const scan::Mesh& mesh) {
  const Format* format = format_of(path);
  if (format != nullptr && format->write_mesh != nullptr) return format->write_mesh(path, mesh);
  return Error{ErrorCode::Unsupported,
               path.string() + ": meshes are written as " + format_extensions({writes_mesh}) + "."};
}

Status write_model(const std::filesystem::path& path, const model::Model& model,
                   const std::string& part) {
  const Format* format = format_of(path);
  if (format != nullptr && format->write_model != nullptr)
    return format->write_model(path, model, part);
  if (format == nullptr || format->write_mesh == nullptr)
    return Error{ErrorCode::Unsupported, path.string() + ": models are written as " +
                                             format_extensions({writes_model, writes_mesh}) + "."};
  if (model.empty())
    return Error{ErrorCode::InvalidInput,
                 "There is no model to write yet. Build at least one step."};
  const auto tessellation = model::tessellate(model);
  if (!tessellation) return tessellation.error();
  if (format->write_bodies == nullptr) return format->write_mesh(path, tessellation->mesh);
  std::vector<BodyMesh> bodies;
  for (std::size_t b = 0; b < model.body_count(); ++b) {
    BodyMesh body{model.body(b).name, model.body(b).colour, {}};
    std::map<std::uint32_t, std::uint32_t> number;
    for (std::size_t t = 0; t < tessellation->mesh.triangles.size(); ++t) {
      if (model.body_of_face(tessellation->triangle_face[t]) != b) continue;
      scan::Triangle triangle = tessellation->mesh.triangles[t];
      for (std::uint32_t& v : triangle) {
        const auto [at, fresh] =
            number.emplace(v, static_cast<std::uint32_t>(body.mesh.vertices.size()));
        if (fresh) body.mesh.vertices.push_back(tessellation->mesh.vertices[v]);
        v = at->second;
      }
      body.mesh.triangles.push_back(triangle);
    }
    if (body.name.empty())
      body.name = model.body_count() > 1 ? part + " " + std::to_string(b + 1) : part;
    if (!body.mesh.triangles.empty()) bodies.push_back(std::move(body));
  }
  return format->write_bodies(path, bodies);
}

Result<PlaneCurves> read_curves(const std::filesystem::path& path) {
  const Format* format = format_of(path);
  if (format != nullptr && format->read_curves != nullptr) return format->read_curves(path);
  return Error{ErrorCode::Unsupported,
               path.string() + ": curves are read from " + format_extensions({reads_curves}) + "."};
}

Status write_curves(const std::filesystem::path& path, const sketch::Sketch& sketch,
                    const section::Section& section) {
  const Format* format = format_of(path);
  if (format != nullptr && format->write_curves != nullptr)
    return format->write_curves(path, sketch, section);
  return Error{ErrorCode::Unsupported, path.string() + ": sketches and sections are written as " +
                                           format_extensions({writes_curves}) + "."};
}

}  // namespace lostline::io
