#include "named_fits.h"

#include <algorithm>

#include "datum/symmetry.h"
#include "project/datums.h"
#include "project/model_target.h"
#include "store/project_file.h"

namespace lostline::cli {
namespace {

using Type = project::Construction::Type;

/// The name of a datum feature in a file.
std::string key_of(Type type) {
  std::string key = project::construction_name(type);
  std::replace(key.begin(), key.end(), ' ', '_');
  return key;
}

}  // namespace

Result<NamedFits> NamedFits::open(const Common& common, const std::string& path,
                                  double sensitivity) {
  project::Document document;
  if (is_project(path)) {
    auto loaded = store::load_project(path, progress_task(common, "opening"));
    if (!loaded) return loaded.error();
    document = *std::move(loaded);
    if (!document.scan) return Error{ErrorCode::InvalidInput, path + " holds no scan to work on."};
    if (document.survey) return NamedFits(common, std::move(document));
  } else {
    auto mesh = read_scan(common, path);
    if (!mesh) return mesh.error();
    auto scan = project::prepare_scan(std::move(mesh->mesh), "scan", path, Unit::Millimetre);
    if (!scan) return scan.error();
    document.scan = *std::move(scan);
  }
  survey::SurveyOptions options;
  options.sensitivity = sensitivity;
  auto found = survey::split_into_regions(*document.scan->mesh, document.scan->topology, options,
                                          progress_task(common, "surveying"));
  if (!found) return found.error();
  document.survey = std::make_shared<const survey::Survey>(*std::move(found));
  return NamedFits(common, std::move(document));
}

Result<project::FitRef> NamedFits::region(std::uint32_t id) {
  const auto& regions = document_.survey->regions;
  if (id == 0 || id > regions.size())
    return Error{ErrorCode::InvalidInput, "There is no region " + std::to_string(id) +
                                              "; the survey found " +
                                              std::to_string(regions.size()) + "."};
  if (!regions[id - 1].fit)
    return Error{ErrorCode::InvalidInput,
                 "Region " + std::to_string(id) + " is free-form and fixes nothing."};
  regions_.insert(id);
  return project::FitRef{id, 0};
}

Result<project::FitRef> NamedFits::symmetry_plane(const std::vector<project::FitRef>& near) {
  std::optional<fit::Surface> guess;
  if (near.size() == 1) {
    guess = fit(near.front()).surface;
    if (!fit::is_flat(guess->kind))
      return Error{ErrorCode::InvalidInput,
                   "A plane of symmetry is looked for near a plane, or between two."};
  } else if (near.size() == 2) {
    const auto mid = project::construct(document_, {Type::Midplane, near});
    if (!mid) return mid.error();
    guess = mid->surface;
  } else if (near.size() > 2) {
    return Error{ErrorCode::InvalidInput,
                 "A plane of symmetry is looked for near one plane, between two, or anywhere."};
  }
  datum::Target scan;
  scan.mesh = *document_.scan->mesh;
  scan.settle();
  const auto cloud =
      datum::cloud_of(scan.mesh, project::trust_of(*document_.survey, scan.mesh), 40000);
  const auto planes = datum::find_symmetry(scan, cloud, project::found_of(*document_.survey), guess,
                                           progress_task(*common_, "mirroring"));
  if (!planes) return planes.error();
  project::Added added = project::add_symmetry(document_, planes->front().plane);
  document_ = std::move(added.document);
  return project::FitRef{0, added.id};
}

Result<project::FitRef> NamedFits::find(const Json& item) {
  if (item.contains("region") && item["region"].is_number_unsigned())
    return region(item["region"].get<std::uint32_t>());
  if (item.contains("near") && item["near"].is_array() && item["near"].size() == 3 &&
      std::all_of(item["near"].begin(), item["near"].end(),
                  [](const Json& number) { return number.is_number(); })) {
    const Vec3 near(item["near"][0].get<double>(), item["near"][1].get<double>(),
                    item["near"][2].get<double>());
    const scan::Mesh& mesh = *document_.scan->mesh;
    std::uint32_t id = 0;
    double best = 1e300;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      const double d = (mesh.centroid(t) - near).squaredNorm();
      if (d >= best || document_.survey->triangle_region[t] == 0) continue;
      best = d;
      id = document_.survey->triangle_region[t];
    }
    return region(id);
  }
  for (const Type type : {Type::Midplane, Type::AxisOfTwo, Type::CommonAxis, Type::BoltCircle,
                          Type::Intersection, Type::Symmetry}) {
    const std::string key = key_of(type);
    if (!item.contains(key) || !item[key].is_array()) continue;
    std::vector<project::FitRef> from;
    for (const Json& part : item[key]) {
      const auto found = find(part);
      if (!found) return found.error();
      from.push_back(*found);
    }
    project::FitRef ref;
    if (type == Type::Symmetry) {
      const auto plane = symmetry_plane(from);
      if (!plane) return plane.error();
      ref = *plane;
    } else {
      auto added = project::add_construction(document_, {type, from});
      if (!added) return added.error();
      ref = {0, added->id};
      document_ = added->document;
    }
    const fit::SurfaceFit& made = fit(ref);
    features_.push_back({{"feature", key},
                         {"type", fit::kind_name(made.surface.kind)},
                         {"params", surface_params(made.surface)},
                         {"u", surface_uncertainties(made)},
                         {"rms", made.rms},
                         {"form_error", made.form_error}});
    return ref;
  }
  return Error{ErrorCode::InvalidInput,
               "A fit is named by {\"region\": number}, {\"near\": [x, y, z]} or a datum feature "
               "such as {\"midplane\": [fit, fit]}; found " +
                   item.dump() + "."};
}

}  // namespace lostline::cli
