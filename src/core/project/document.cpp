#include "project/document.h"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <filesystem>

#include "base/utf8.h"
#include "io/formats.h"
#include "project/scan_file.h"

namespace lostline::project {

const char* plane_name(DatumPlane plane) {
  switch (plane) {
    case DatumPlane::Xy:
      return "xy";
    case DatumPlane::Xz:
      return "xz";
    case DatumPlane::Yz:
      return "yz";
    case DatumPlane::Free:
      return "plane";
  }
  return "";
}

Placement datum_placement(DatumPlane plane) {
  Placement p;
  switch (plane) {
    case DatumPlane::Xy:
    case DatumPlane::Free:
      break;
    case DatumPlane::Xz:  // x to the right and z up, as on a front view
      p.y = Vec3::UnitZ();
      p.normal = -Vec3::UnitY();
      break;
    case DatumPlane::Yz:
      p.x = Vec3::UnitY();
      p.y = Vec3::UnitZ();
      p.normal = Vec3::UnitX();
      break;
  }
  return p;
}

const Fit* Document::find_fit(Id id) const {
  for (const auto& f : fits) {
    if (f->id == id) return f.get();
  }
  return nullptr;
}
const TracedSketch* Document::find_sketch(Id id) const {
  for (const auto& s : sketches) {
    if (s->id == id) return s.get();
  }
  return nullptr;
}
const model::Step* Document::find_step(Id id) const {
  const auto it =
      std::find_if(steps.begin(), steps.end(), [&](const model::Step& s) { return s.id == id; });
  return it == steps.end() ? nullptr : &*it;
}
const Dimension* Document::find_dimension(Id id) const {
  const auto it = std::find_if(dimensions.begin(), dimensions.end(),
                               [&](const Dimension& d) { return d.id == id; });
  return it == dimensions.end() ? nullptr : &*it;
}

Transform Document::to_part() const { return frame ? frame->frame.to_part : Transform::Identity(); }

const fit::SurfaceFit* Document::fit_of(const FitRef& ref) const {
  if (ref.fit != 0) {
    const Fit* f = find_fit(ref.fit);
    return f != nullptr ? &f->result : nullptr;
  }
  if (ref.region == 0 || !survey || ref.region > survey->regions.size()) return nullptr;
  const auto& region = survey->regions[ref.region - 1];
  return region.fit ? &*region.fit : nullptr;
}

std::string Document::name_of(const FitRef& ref) const {
  if (ref.fit != 0) {
    const Fit* f = find_fit(ref.fit);
    return f != nullptr ? f->name : "missing fit";
  }
  if (ref.region == 0) return "";
  const fit::SurfaceFit* f = fit_of(ref);
  return std::string(f != nullptr ? fit::kind_name(f->surface.kind) : "region") + " " +
         std::to_string(ref.region);
}

double Document::tolerance_of(const std::string& face) const {
  const auto it = face_tolerances.find(face);
  return it == face_tolerances.end() ? tolerance : it->second;
}

std::string face_title(const Document& document, const std::string& face) {
  // "s12:side:34@3fa29c": step 12, what it made there, a piece of it; "s20:inner:s12:side:34": what
  // step 20 made of that.
  if (face.size() < 2 || face[0] != 's') return face;
  const std::size_t colon = face.find(':');
  if (colon == std::string::npos) return face;
  const model::Step* step = document.find_step(std::strtoull(face.c_str() + 1, nullptr, 10));
  if (step == nullptr) return face;
  std::string what = face.substr(colon + 1);
  if (const std::size_t nested = what.find(":s");
      nested != std::string::npos &&
      std::isdigit(static_cast<unsigned char>(what[nested + 2])) != 0)
    return what.substr(0, nested) + " of " + face_title(document, what.substr(nested + 1));
  if (const std::size_t mark = what.find_first_of("@#"); mark != std::string::npos)
    what = what.substr(0, mark) + " piece";
  // A round or bevel is marked by its faces in six hexadecimal digits, which say nothing to a
  // reader.
  for (const std::string role : {"fillet:", "chamfer:"}) {
    if (what.starts_with(role) && what.size() >= role.size() + 6)
      what = role.substr(0, role.size() - 1);
  }
  std::replace(what.begin(), what.end(), ':', ' ');
  return what + " of " + step->name;
}

std::map<Id, model::PlacedSketch> Document::placed_sketches() const {
  std::map<Id, model::PlacedSketch> placed;
  for (const auto& s : sketches) placed[s->id] = {s->sketch, s->base, s->level, s->on.face};
  return placed;
}

Result<std::shared_ptr<const Scan>> prepare_scan(scan::Mesh mesh, const std::string& name,
                                                 const std::string& source, Unit unit,
                                                 const Task& task,
                                                 std::optional<FromPoints> points) {
  if (mesh.triangles.empty())
    return Error{ErrorCode::InvalidInput, source + " holds no triangles."};
  auto scan = std::make_shared<Scan>();
  scan->points = std::move(points);
  scan->name = as_utf8(name);
  scan->source = source;
  scan->unit = unit;
  scan->mesh = std::make_shared<const scan::Mesh>(std::move(mesh));
  scan->topology = scan::build_topology(*scan->mesh);
  task.report(0.3);
  if (task.stopped()) return cancelled();
  Result<scan::Health> health = scan::examine(*scan->mesh, scan->topology, task.part(0.3, 0.6));
  if (!health) return health.error();
  scan->health = *health;
  scan->index = std::make_shared<const scan::MeshIndex>(*scan->mesh);
  task.report(0.8);
  if (task.stopped()) return cancelled();
  scan->sections = std::make_shared<const section::SectionIndex>(scan->mesh);
  const double extent = scan->health.box.sizes().maxCoeff() / mm_per(unit);
  scan->guess = scan::guess_unit(extent, scan->health.spacing / mm_per(unit));
  task.report(1.0);
  return std::shared_ptr<const Scan>(std::move(scan));
}

namespace {

/// With lengths in mm instead of a file's unit.
FromPoints in_millimetres(FromPoints from, double factor) {
  for (double* length : {&from.options.spacing, &from.spacing, &from.noise}) *length *= factor;
  if (from.u && factor != 1) {
    std::vector<float> u = *from.u;
    for (float& value : u) value *= static_cast<float>(factor);
    from.u = std::make_shared<const std::vector<float>>(std::move(u));
  }
  return from;
}

}  // namespace

Result<std::shared_ptr<const Scan>> open_scan(const std::string& path, std::optional<Unit> unit,
                                              const Task& task) {
  Result<ScanFile> file = read_scan_file(path, {}, task.part(0, 0.4));
  if (!file) return file.error();
  if (file->loaded.in_millimetres && !unit) unit = Unit::Millimetre;  // the file says so
  scan::Mesh mesh = (*std::move(file)).loaded.mesh;
  if (mesh.triangles.empty())
    return Error{ErrorCode::InvalidInput, path + " holds no usable triangles."};
  if (!unit) {
    const Box3 box = scan::bounds(mesh);
    double spacing = 0;
    const std::size_t stride = std::max<std::size_t>(1, mesh.triangles.size() / 1000);
    std::vector<double> edges;
    for (std::size_t t = 0; t < mesh.triangles.size(); t += stride)
      edges.push_back((mesh.corner(t, 1) - mesh.corner(t, 0)).norm());
    std::nth_element(edges.begin(), edges.begin() + static_cast<std::ptrdiff_t>(edges.size() / 2),
                     edges.end());
    spacing = edges[edges.size() / 2];
    unit = scan::guess_unit(box.sizes().maxCoeff(), spacing).unit;
  }
  if (*unit != Unit::Millimetre)
    mesh = scan::transformed(mesh, Transform(Eigen::Scaling(mm_per(*unit))));
  std::optional<FromPoints> from;
  if (file->from) from = in_millimetres(*std::move(file->from), mm_per(*unit));
  return prepare_scan(std::move(mesh), std::filesystem::path(path).stem().string(), path, *unit,
                      task.part(0.4, 1.0), std::move(from));
}

}  // namespace lostline::project
