#include "reading/step_reading.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "base/median.h"
#include "model/faces.h"

namespace lostline::reading {

using namespace project;  // the document and its edits
namespace {

constexpr std::size_t kSamples = 240;  // places looked at over a face
constexpr double kFacing = 0.7;        // cosine of how far the scan may lean from the face

/// A place on a face, with the scan's surface that lies before or behind it.
struct FaceSample {
  Vec3 at;      ///< on the face, part coordinates
  Vec3 normal;  ///< of the face, outwards
  Vec3 hit;     ///< on the scan, part coordinates
  std::uint32_t triangle;
};

class Evidence : public model::ScanEvidence {
 public:
  explicit Evidence(const Document& document)
      : document_(document), to_part_(document.to_part()), to_scan_(to_part_.inverse()) {}

  [[nodiscard]] std::optional<Behind> behind_face(const model::Model& model,
                                                  std::size_t face) const override {
    const std::vector<FaceSample> samples = over(model, face);
    if (samples.size() < 10) return std::nullopt;
    const auto fit = surface_of(model, face, samples);
    if (!fit) return std::nullopt;
    Behind behind;
    // A region's normals point out of the material, as the face's do.
    behind.normal = fit->surface.normal_at(samples[samples.size() / 2].hit);
    behind.u_slope = std::hypot(fit->u_angle, fit->u_half_angle);
    for (const FaceSample& s : samples)
      behind.shift -= fit->surface.distance(s.at) / static_cast<double>(samples.size());
    behind.u_shift = std::hypot(fit->u_offset, fit->u_radius);
    return behind;
  }

 private:
  /// The survey's surface that most samples lie on, else a plane through them.
  [[nodiscard]] std::optional<fit::SurfaceFit> surface_of(
      const model::Model& model, std::size_t face, const std::vector<FaceSample>& samples) const {
    std::map<std::uint32_t, std::size_t> votes;
    if (document_.survey)
      for (const FaceSample& s : samples) ++votes[document_.survey->triangle_region[s.triangle]];
    for (const auto& [region, count] : votes) {
      const fit::SurfaceFit* fit = document_.fit_of({region, 0});
      if (fit == nullptr || 2 * count < samples.size()) continue;
      fit::SurfaceFit placed = *fit;
      placed.surface = fit::transformed(fit->surface, to_part_);
      placed.centroid = to_part_ * fit->centroid;
      return placed;
    }
    return plane_of(model, face, samples);
  }

 public:
  [[nodiscard]] std::optional<Wall> wall_under(const model::Model& model,
                                               std::size_t face) const override {
    const Scan& scan = *document_.scan;
    std::vector<double> walls;
    for (const FaceSample& s : over(model, face)) {
      // Begins behind the skin that was met, and ends at the first one that faces the other way.
      const Vec3 inwards = to_scan_.linear() * -s.normal;
      const auto far = scan.index->first_hit(
          to_scan_ * s.hit + 2 * std::max(scan.health.spacing, 1e-6) * inwards, inwards);
      if (!far) continue;
      if (scan.mesh->area_vector(far->triangle).normalized().dot(inwards) < kFacing) continue;
      walls.push_back((to_part_ * far->point - s.hit).dot(-s.normal));
    }
    if (walls.size() < 10) return std::nullopt;
    const double middle = median(walls);
    std::vector<double> off;
    off.reserve(walls.size());
    for (const double w : walls) off.push_back(std::abs(w - middle));
    // Two skins, each with the scan's noise at least; the samples lie several spacings apart.
    const double scatter =
        std::max(1.4826 * median(off), std::numbers::sqrt2 * scan.health.noise_sigma);
    return Wall{middle, 2 * scatter / std::sqrt(static_cast<double>(walls.size()))};
  }

  [[nodiscard]] std::optional<Covered> covered(const model::Reference& reference) const override {
    const FitRef ref{reference.region, reference.fit};
    const fit::SurfaceFit* fit = document_.fit_of(ref);
    if (fit == nullptr) return std::nullopt;
    Covered covered;
    covered.fit = *fit;
    covered.fit.surface = fit::transformed(fit->surface, to_part_);
    covered.fit.centroid = to_part_ * fit->centroid;
    const scan::Mesh& mesh = *document_.scan->mesh;
    const Fit* kept = ref.fit != 0 ? document_.find_fit(ref.fit) : nullptr;
    if (kept != nullptr)
      for (const Vec3& p : kept->points) covered.points.push_back(to_part_ * p);
    const std::vector<std::uint32_t> own =
        ref.region != 0 && document_.survey  ? survey::triangles_of(*document_.survey, ref.region)
        : kept != nullptr && kept->triangles ? *kept->triangles
                                             : std::vector<std::uint32_t>{};
    for (const std::uint32_t t : own)
      for (int k = 0; k < 3; ++k) covered.points.push_back(to_part_ * mesh.corner(t, k));
    if (covered.points.empty()) return std::nullopt;
    covered.u = document_.scan->health.spacing;
    return covered;
  }
  [[nodiscard]] std::optional<Round> round_along(const model::Model& model,
                                                 const model::EdgeRef& edge) const override {
    const model::Tessellation* shape = tessellation(model);
    if (shape == nullptr) return std::nullopt;
    const auto reading = read_edge_radius(document_, model, edge, shape);
    if (!reading) return std::nullopt;
    return Round{reading->radius, reading->u};
  }
  [[nodiscard]] std::optional<Reached> box() const override {
    if (!document_.survey) return std::nullopt;
    const survey::Survey& survey = *document_.survey;
    // Islands of the scanner's are surveyed too: what is small does not tell where the part ends.
    constexpr double kCounts = 0.002;  // of the area
    double area = 0;
    for (const survey::Region& r : survey.regions) area += r.area;
    Reached reached;
    const scan::Mesh& mesh = *document_.scan->mesh;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      const std::uint32_t region = survey.triangle_region[t];
      if (region != 0 && survey.regions[region - 1].area > kCounts * area)
        reached.box.extend(Vec3(to_part_ * mesh.corner(t, 0)));
    }
    if (reached.box.isEmpty()) return std::nullopt;
    // The outermost of many points stands out by some of the noise.
    reached.u = 4 * document_.scan->health.noise_sigma;
    return reached;
  }

 private:
  [[nodiscard]] std::vector<FaceSample> over(const model::Model& model, std::size_t face) const {
    std::vector<FaceSample> samples;
    const model::Tessellation* shape = tessellation(model);
    if (shape == nullptr) return samples;
    const auto exact = model::surface_of_face(model, face);
    double area = 0;
    for (std::size_t t = 0; t < shape->triangle_face.size(); ++t) {
      if (shape->triangle_face[t] == face) area += shape->mesh.area_vector(t).norm();
    }
    for (std::size_t t = 0; t < shape->triangle_face.size(); ++t) {
      if (shape->triangle_face[t] != face) continue;
      const double share = shape->mesh.area_vector(t).norm() / area;
      // Evenly over the triangle: n rows of a grid in its two edges.
      const int rows = std::max(
          1, static_cast<int>(std::ceil(std::sqrt(share * static_cast<double>(kSamples)))));
      const scan::Triangle& corner = shape->mesh.triangles[t];
      const Vec3 chord = shape->mesh.area_vector(t).normalized();
      for (int i = 0; i < rows; ++i) {
        for (int j = 0; j < rows - i; ++j) {
          const double a = (i + 1.0 / 3) / rows;
          const double b = (j + 1.0 / 3) / rows;
          Vec3 at = (1 - a - b) * shape->mesh.vertices[corner[0]] +
                    a * shape->mesh.vertices[corner[1]] + b * shape->mesh.vertices[corner[2]];
          Vec3 normal = chord;
          if (exact) {  // a chord lies off the face
            normal = exact->normal_at(at);
            at -= exact->distance(at) * normal;
          }
          if (const auto met = meet(at, normal))
            samples.push_back({at, normal, met->first, met->second});
        }
      }
    }
    return samples;
  }

  /// The nearer skin along the normal, outwards or inwards, that faces as the normal does.
  [[nodiscard]] std::optional<std::pair<Vec3, std::uint32_t>> meet(const Vec3& at,
                                                                   const Vec3& normal) const {
    const Scan& scan = *document_.scan;
    const Vec3 origin = to_scan_ * at;
    const Vec3 out = to_scan_.linear() * normal;
    std::optional<std::pair<Vec3, std::uint32_t>> best;
    double nearest = 1e300;
    for (const Vec3& way : {out, Vec3(-out)}) {
      const auto hit = scan.index->first_hit(origin, way);
      if (!hit || hit->t >= nearest) continue;
      if (scan.mesh->area_vector(hit->triangle).normalized().dot(out) < kFacing) continue;
      nearest = hit->t;
      best = {to_part_ * hit->point, hit->triangle};
    }
    return best;
  }

  /// Where the survey has no surface: a plane through the scan behind a flat face.
  [[nodiscard]] std::optional<fit::SurfaceFit> plane_of(
      const model::Model& model, std::size_t face, const std::vector<FaceSample>& samples) const {
    const auto flat = model::surface_of_face(model, face);
    if (!flat || !fit::is_flat(flat->kind)) return std::nullopt;
    Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(samples.size()));
    for (std::size_t i = 0; i < samples.size(); ++i)
      points.col(static_cast<Eigen::Index>(i)) = samples[i].hit;
    fit::SurfaceFitOptions options;
    options.least_sigma = document_.scan->health.noise_sigma;
    fit::Surface start = *flat;
    start.point = points.rowwise().mean();
    const auto fit =
        fit::fit_surface(fit::Kind::Plane, points, Eigen::Matrix3Xd(3, 0), start, options);
    if (!fit) return std::nullopt;
    fit::SurfaceFit facing = *fit;
    if (facing.surface.axis.dot(flat->axis) < 0) facing.surface.axis = -facing.surface.axis;
    return facing;
  }

  const model::Tessellation* tessellation(const model::Model& model) const {
    if (!shape_) {
      auto made = model::tessellate(model, fine_for(document_, model));
      if (!made) return nullptr;
      shape_ = *std::move(made);
    }
    return &*shape_;
  }

  const Document& document_;
  Transform to_part_;
  Transform to_scan_;
  mutable std::optional<model::Tessellation> shape_;  // of the one model asked about
};

}  // namespace

std::vector<FieldReading> read_step(const Document& document, const model::Feature& feature,
                                    const model::Model& before, Id id, const Task& task) {
  std::vector<FieldReading> readings;
  if (!document.scan || feature.kind().read == nullptr || task.stopped()) return readings;
  model::Step step;
  step.id = id;
  step.feature = feature;
  const auto sketches = document.placed_sketches();
  const model::Setting setting{sketches, document.steps};
  model::Feature fields = feature;
  const auto list = model::fields_of(fields);
  for (const model::NumberReading& r :
       feature.kind().read(feature, {step, setting, before, before}, Evidence(document))) {
    const bool angle = std::any_of(list.begin(), list.end(), [&](const model::Field& f) {
      return std::string(f.info.name) == r.field && f.info.is_angle();
    });
    const double scale = angle ? 180 / std::numbers::pi : 1;
    const std::optional<double> value = r.value * scale;
    readings.push_back({r.field, r.chosen ? std::nullopt : value, r.u * scale, r.source,
                        r.chosen ? value : std::nullopt});
  }
  return readings;
}

}  // namespace lostline::reading
