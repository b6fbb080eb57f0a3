#include "project/probed.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "fit/surface_kind.h"
#include "model/steps/space_curve/space_curve.h"
#include "project/model_target.h"

namespace lostline::project {
namespace {

/// The scan as something to lay touches on: its regions are the faces.
datum::Target scan_target(const Document& document) {
  datum::Target target;
  target.mesh = *document.scan->mesh;
  target.triangle_face = document.survey->triangle_region;  // 0: of no region
  target.faces.resize(document.survey->regions.size() + 1);
  for (const survey::Region& r : document.survey->regions) {
    if (r.fit) target.faces[r.id] = r.fit->surface;
  }
  target.settle();
  return target;
}

/// Area that places are spread over, mm2: a square of their spread.
double area_of(const std::vector<Vec3>& places) {
  Box3 box;
  for (const Vec3& p : places) box.extend(p);
  return 0.5 * box.diagonal().squaredNorm();
}

Vec3 middle_of(const std::vector<Vec3>& places) {
  Vec3 sum = Vec3::Zero();
  for (const Vec3& p : places) sum += p;
  return sum / static_cast<double>(places.size());
}

bool is_surface(const ProbedFeature& f) {
  return f.fitted.fit && !fit::is_curve(f.fitted.fit->surface.kind);
}

fit::SurfaceFit moved(const fit::SurfaceFit& fit, const Transform& motion) {
  fit::SurfaceFit placed = fit;
  placed.surface = fit::transformed(fit.surface, motion);
  placed.centroid = motion * fit.centroid;
  return placed;
}

/// A row for a size, with what the scan says of it where it does.
Dimension row_of(const std::string& what, standards::Quantity quantity, double probed, double u,
                 const std::optional<std::pair<double, double>>& scanned) {
  Dimension row;
  row.name = what;
  row.quantity = quantity;
  const bool scan_wins = scanned && scanned->second > 0 && scanned->second < u;
  row.reading = scan_wins ? scanned->first : probed;
  row.u = scan_wins ? scanned->second : u;
  row.source = scan_wins ? "scan; U smaller than the probe's" : "touch probe";
  if (scan_wins)
    row.typed.push_back({probed, u, "touch probe"});
  else if (scanned)
    row.typed.push_back({scanned->first, scanned->second, "scan"});
  return row;
}

}  // namespace

Result<std::vector<datum::Candidate>> place_probed(const Document& document,
                                                   const std::vector<ProbedFeature>& features,
                                                   const Task& task) {
  if (!document.scan || !document.survey || document.survey->regions.empty())
    return Error{ErrorCode::Degenerate,
                 "The scan has no regions to match the probed features with. Split it into regions "
                 "first."};
  std::vector<datum::Found> found;
  datum::Cloud cloud;
  double noise = 0;
  for (const ProbedFeature& f : features) {
    if (!is_surface(f)) continue;
    const fit::Surface& surface = f.fitted.fit->surface;
    found.push_back({surface, area_of(f.fitted.places), middle_of(f.fitted.places), 1});
    noise = std::max(noise, f.fitted.fit->sigma);
    for (const Vec3& p : f.fitted.places) {
      cloud.points.push_back(p);
      cloud.normals.push_back(surface.normal_at(p));
      cloud.weight.push_back(1);
    }
  }
  constexpr std::size_t kFewest = 30;  // points that a best fit asks for
  if (cloud.points.size() < kFewest)
    return Error{
        ErrorCode::Degenerate,
        "Probe more before it is matched with the scan: " + std::to_string(cloud.points.size()) +
            " places on surfaces so far, " + std::to_string(kFewest) +
            " are needed; or say which features belong "
            "together."};
  datum::PlaceOptions options;
  options.fit.noise = std::max({noise, 0.5 * document.survey->noise_sigma, 1e-4});
  return datum::place_on(scan_target(document), found, cloud, options, task);
}

Result<datum::Candidate> place_probed_by(const Document& document,
                                         const std::vector<ProbedFeature>& features,
                                         const std::vector<ProbedPair>& pairs) {
  std::vector<datum::Pair> both;
  for (const ProbedPair& pair : pairs) {
    const fit::SurfaceFit* fit = document.fit_of(pair.fit);
    if (pair.feature >= features.size() || fit == nullptr || !features[pair.feature].fitted.fit)
      return Error{ErrorCode::InvalidInput, "A feature or a fit that was paired is not there."};
    both.push_back({features[pair.feature].fitted.fit->surface, fit->surface});
  }
  Box3 box;
  for (const ProbedFeature& f : features) {
    for (const Vec3& p : f.fitted.places) box.extend(p);
  }
  const auto placed = datum::place_by_pairs(both, box.isEmpty() ? 1.0 : box.diagonal().norm());
  if (!placed) return placed.error();
  return datum::Candidate{*placed, 1};
}

std::uint32_t region_under(const Document& document, const ProbedFeature& feature,
                           const Transform& to_scan) {
  if (!document.scan || !document.survey || !feature.fitted.fit) return 0;
  const fit::Surface& probed = feature.fitted.fit->surface;
  std::map<std::uint32_t, std::size_t> votes;
  for (const Vec3& p : feature.fitted.places) {
    const auto nearest = document.scan->index->nearest(to_scan * p);
    if (nearest) ++votes[document.survey->triangle_region[nearest->triangle]];
  }
  std::uint32_t best = 0;
  std::size_t most = 0;
  for (const auto& [region, count] : votes) {
    const fit::SurfaceFit* fit = document.fit_of({region, 0});
    if (region == 0 || fit == nullptr || count <= most) continue;
    // A circle is touched on the wall of a cylinder, at one height.
    const bool alike =
        fit->surface.kind == probed.kind ||
        (probed.kind == fit::Kind::Circle && fit->surface.kind == fit::Kind::Cylinder);
    if (!alike || fit->surface.hollow != probed.hollow) continue;
    best = region;
    most = count;
  }
  return 2 * most >= feature.fitted.places.size() ? best : 0;
}

Result<Document> add_probed(const Document& document, const std::vector<ProbedFeature>& features,
                            const Transform& to_scan) {
  Document next = document;
  for (const ProbedFeature& f : features) {
    Dimension row;
    std::vector<Vec3> places;
    for (const Vec3& p : f.fitted.places) places.emplace_back(to_scan * p);
    if (f.fitted.fit) {
      Fit fit;
      fit.id = next.next_id++;
      fit.name = "probed " + f.name;
      fit.result = fit.alone = moved(*f.fitted.fit, to_scan);
      fit.triangles = std::make_shared<const std::vector<std::uint32_t>>();
      fit.points = places;
      next.fits.push_back(std::make_shared<const Fit>(fit));
      const fit::SizeInfo* size = fit::about(fit.result.surface.kind).size();
      if (size == nullptr) continue;
      const FitRef region{region_under(document, f, to_scan), 0};
      const fit::SurfaceFit* scanned = document.fit_of(region);
      std::optional<std::pair<double, double>> said;
      if (scanned != nullptr) said = {size->said(scanned->surface), size->said_u(*scanned)};
      const bool angle = size->unit == fit::SizeInfo::Unit::Angle;
      row = row_of(std::string(angle ? "half angle " : "\u2300 ") + fit.name,
                   angle ? standards::Quantity::Angle : standards::Quantity::Diameter,
                   size->said(fit.result.surface), size->said_u(fit.result), said);
      row.hole = fit.result.surface.hollow;
      row.owner.fits = {{0, fit.id}};
    } else if (f.fitted.slot) {
      row = row_of("width of probed " + f.name, standards::Quantity::Length,
                   2 * f.fitted.slot->radius, 2 * f.fitted.slot->u_radius, std::nullopt);
      row.hole = true;
      row.owner.points = places;
    } else {
      model::SpaceCurve curve;
      for (const Vec3& p : places) curve.path.corners.emplace_back(next.to_part() * p);
      next = add_step(next, curve, "probed " + f.name, {}).document;
      continue;  // it has no size
    }
    row.id = next.next_id++;
    next.dimensions.push_back(std::move(row));
  }
  return next;
}

}  // namespace lostline::project
