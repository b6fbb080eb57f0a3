#include <charconv>
#include <string_view>

#include "fit/surface_kind.h"
#include "mesh.h"
#include "project.h"
#include "project/cloud_scan.h"
#include "project/edits.h"
#include "project/fits.h"
#include "relate.h"
#include "survey/survey.h"

// What is done with the scan of a project itself: meshed anew from its points, fitted.

namespace lostline::cli {
namespace {

Result<Document> mesh_anew(const Common& common, const cloud::MeshingOptions& options,
                           const Document& d, Json& said) {
  if (!d.scan) return Error{ErrorCode::InvalidInput, "The project has no scan."};
  const auto cloud = project::points_of(*d.scan, progress_task(common, "reading"));
  if (!cloud) return cloud.error();
  const auto meshed =
      project::meshed_anew(*d.scan, *cloud, options, progress_task(common, "meshing"));
  if (!meshed) return meshed.error();
  const project::FromPoints& from = *(*meshed)->points;
  said = {{"points", from.count},
          {"columns", from.columns},
          {"dropped", from.dropped},
          {"cloud_spacing", from.spacing},
          {"noise_sigma", from.noise},
          {"vertices", (*meshed)->mesh->vertices.size()},
          {"open_edges", (*meshed)->topology.open_edges}};
  return project::with_changed_scan(d, *meshed);
}

struct FitArguments {
  std::string kind = "plane", held, of;
  std::vector<std::uint32_t> regions;
  std::vector<std::string> at;
  double grow = 0, value = 0;
  bool rim = false, points = false;
};

/// "region N" or the name of a kept fit.
Result<project::FitRef> fit_named(const Document& d, const std::string& text) {
  for (const auto& fit : d.fits)
    if (fit->name == text || "fit " + fit->name == text) return project::FitRef{0, fit->id};
  constexpr std::string_view kRegion = "region ";
  if (text.starts_with(kRegion)) {
    project::FitRef ref;
    const char* end = text.data() + text.size();
    const auto read = std::from_chars(text.data() + kRegion.size(), end, ref.region);
    if (read.ec == std::errc() && read.ptr == end && d.fit_of(ref) != nullptr) return ref;
  }
  std::string names;
  for (const auto& fit : d.fits) names += ", \"" + fit->name + "\"";
  return Error{ErrorCode::InvalidInput,
               "\"" + text + "\" is no fit here. Say \"region N\"" +
                   (names.empty() ? "." : " or one of" + names.substr(1) + ".")};
}

Result<std::vector<std::uint32_t>> area_of(const FitArguments& a, const Document& d,
                                           const std::vector<Vec3>& at) {
  std::vector<std::uint32_t> triangles;
  for (const std::uint32_t region : a.regions) {
    if (!d.survey || region == 0 || region > d.survey->regions.size())
      return Error{ErrorCode::InvalidInput, "There is no region " + std::to_string(region) +
                                                ". Survey the project, and see \"show\"."};
    const auto more = survey::triangles_of(*d.survey, region);
    triangles.insert(triangles.end(), more.begin(), more.end());
  }
  if (a.grow > 0) {
    for (const Vec3& place : at) {
      const auto seed = d.scan->index->nearest(place);
      const auto more = survey::grow_by_normal(*d.scan->mesh, d.scan->topology, seed->triangle,
                                               a.grow / kDegrees);
      triangles.insert(triangles.end(), more.begin(), more.end());
    }
  }
  std::sort(triangles.begin(), triangles.end());
  triangles.erase(std::unique(triangles.begin(), triangles.end()), triangles.end());
  return triangles;
}

Result<project::FitRequest> request_of(const FitArguments& a, const Document& d) {
  if (!d.scan) return Error{ErrorCode::InvalidInput, "The project has no scan."};
  project::FitRequest request;
  const fit::SurfaceKind* kind = fit::find_surface_kind(a.kind);
  if (kind == nullptr || kind->kind == fit::Kind::Point) {
    std::string names;
    for (const fit::SurfaceKind& k : fit::surface_kinds())
      if (k.kind != fit::Kind::Point) names += (names.empty() ? "" : ", ") + std::string(k.name);
    return Error{ErrorCode::InvalidInput, "\"" + a.kind + "\" cannot be fitted: " + names + "."};
  }
  request.kind = kind->kind;
  const auto typed = places(a.at);
  if (!typed) return typed.error();
  std::vector<Vec3> at = *typed;
  for (Vec3& place : at) place = d.to_part().inverse() * place;
  if (a.regions.empty() && at.empty())
    return Error{ErrorCode::InvalidInput, "Say with --region or --at where on the scan."};
  if (a.points) {
    for (const Vec3& place : at) request.points.push_back(d.scan->index->nearest(place)->point);
  } else {
    if (!at.empty() && a.grow <= 0 && !a.rim)
      return Error{ErrorCode::InvalidInput,
                   "Say what is meant by --at: --grow ANGLE, --points, or with --rim the border of "
                   "the area nearest to it."};
    auto triangles = area_of(a, d, at);
    if (!triangles) return triangles.error();
    if (a.rim) {
      if (at.empty())
        return Error{ErrorCode::InvalidInput, "Say with --at which border of the area is meant."};
      request.points = project::rim_of(*d.scan, *triangles, at.front());
      if (request.points.empty())
        return Error{ErrorCode::InvalidInput, "The area has no border that a rim could be."};
    } else {
      request.triangles = std::make_shared<const std::vector<std::uint32_t>>(*std::move(triangles));
    }
  }
  if (a.held.empty()) return request;
  const auto type = relation_types().find(a.held);
  if (type == relation_types().end() || fit::members_of(type->second) > 2) {
    std::string names;
    for (const auto& [name, t] : relation_types())
      if (fit::members_of(t) < 3) names += (names.empty() ? "" : ", ") + name;
    return Error{ErrorCode::InvalidInput, "A fit is not held \"" + a.held + "\": " + names + "."};
  }
  request.relation = type->second;
  const bool degrees = type->second == fit::RelationType::Angle ||
                       (type->second == fit::RelationType::Size && kind->kind == fit::Kind::Cone);
  request.value = degrees ? a.value / kDegrees : a.value;
  if (fit::members_of(type->second) < 2) return request;
  if (a.of.empty()) return Error{ErrorCode::InvalidInput, "Say with --of which fit it is held to."};
  const auto other = fit_named(d, a.of);
  if (!other) return other.error();
  request.relation_to = *other;
  return request;
}

Result<Document> fit_it(const Common& common, const FitArguments& a, const std::string& name,
                        const Document& d, Json& said) {
  const auto request = request_of(a, d);
  if (!request) return request.error();
  const auto tried = project::try_fit(d, *request, progress_task(common, "fitting"));
  if (!tried) return tried.error();
  project::FitTrial trial = *tried;
  if (!name.empty()) trial.fit.name = name;
  const fit::SurfaceFit& f = trial.fit.result;
  said["fit"] = {{"name", trial.fit.name},
                 {"type", fit::kind_name(f.surface.kind)},
                 {"params", surface_params(f.surface)},
                 {"u", surface_uncertainties(f)},
                 {"rms", f.rms},
                 {"form_error", f.form_error},
                 {"points", f.points},
                 {"used", f.used},
                 {"settled", f.settled}};
  if (trial.relation)
    said["fit"]["relation"] = cost_json(trial.relation->type, trial.relation->cost);
  return project::add_fit(d, trial).document;
}

}  // namespace

void add_project_scan(Common& common, const Declare& editing) {
  {
    const auto options = std::make_shared<cloud::MeshingOptions>();
    const auto [sub, a] =
        editing("mesh", "mesh the scan anew from the cloud that it came from",
                [&common, options](const Arguments&, const Document& d, Json& said) {
                  return mesh_anew(common, *options, d, said);
                });
    add_meshing_options(sub, *options);
  }
  const auto fit = std::make_shared<FitArguments>();
  const auto [sub, a] = editing("fit", "fit a surface or curve to a part of the scan and keep it",
                                [&common, fit](const Arguments& a, const Document& d, Json& said) {
                                  return fit_it(common, *fit, a.name, d, said);
                                });
  sub->add_option("--kind", fit->kind,
                  "plane, cylinder, cone, sphere, torus, line, circle or ellipse");
  sub->add_option("--region", fit->regions, "numbers of regions that it goes through together");
  sub->add_option("--at", fit->at, "x,y,z on the scan, part coordinates")->allow_extra_args(false);
  sub->add_option("--grow", fit->grow,
                  "degrees: the area about --at in which neighbouring normals differ less")
      ->check(CLI::Range(0.0, 45.0));
  sub->add_flag("--points", fit->points, "through the places of --at themselves");
  sub->add_flag("--rim", fit->rim, "through the border of the area nearest to the first --at");
  sub->add_option("--held", fit->held,
                  "parallel, perpendicular, coaxial, coplanar, \"equal size\", angle, distance or "
                  "size; a narrow strip that tells no axis is fitted about the other's");
  sub->add_option("--of", fit->of, "the fit it is held to: its name, or \"region N\"");
  sub->add_option("--value", fit->value, "mm or degrees, of an angle, a distance or a size");
  sub->add_option("--name", a->name, "of the fit");
}

}  // namespace lostline::cli
