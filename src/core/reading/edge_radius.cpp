#include <algorithm>
#include <cmath>
#include <functional>
#include <memory>
#include <numbers>

#include "base/median.h"
#include "fit/estimate.h"
#include "model/faces.h"
#include "reading/evidence.h"

namespace lostline::reading {

using namespace project;  // the document and its edits

namespace {

constexpr std::size_t kFewest = 40;  // points between the tangent lines that tell a radius
constexpr int kChoosing = 20;        // rounds in which strays are told apart; then the points stay
constexpr int kRounds = 80;
constexpr double kLeast = 2;        // spacings: rounds of smaller radius are not read
constexpr double kFlattest = 0.97;  // cosine between the sides of an edge: 14 degrees

/// One of the two surfaces that meet along an edge, in part coordinates.
struct Side {
  struct Foot {
    double distance;  ///< signed
    Vec3 normal;      ///< unit
  };
  std::function<Foot(const Vec3&)> foot;
  /// Expanded uncertainty of where the surface lies at a place.
  std::function<double(const Vec3&)> u_at;
};
using Sides = std::pair<Side, Side>;

/// A surveyed surface beside an edge.
struct Surveyed {
  fit::Surface surface;
  const fit::SurfaceFit* fit = nullptr;
  Vec3 centre = Vec3::Zero();  ///< of its evidence
  double area = 0;             ///< mm2
  double off = 0;              ///< greatest distance from the edge, mm

  [[nodiscard]] Side side() const {
    return {[s = surface](const Vec3& p) {
              return Side::Foot{s.distance(p), s.normal_at(p)};
            },
            [f = fit, c = centre](const Vec3& p) {
              return std::hypot(f->u_offset, f->u_angle * (p - c).norm(), f->u_radius);
            }};
  }
};

/// The two surfaces that meet along an edge: those nearest to all of it that cross each other
/// there; of surfaces equally near within the scan's noise the larger.
std::optional<Sides> sides_of(const Document& document, const std::vector<Vec3>& along) {
  const scan::Health& health = document.scan->health;
  // An edge of the model lies off the scan's by what its values were decided away from the
  // readings: a few spacings at most, or the drawing would show another part.
  const double reach = std::max(2.5 * health.spacing, 10 * health.noise_sigma);
  const double alike = std::max(health.noise_sigma, 0.1 * health.spacing);
  const Transform to_part = document.to_part();
  std::vector<Surveyed> sides;
  for (const survey::Region& r : document.survey->regions) {
    if (!r.fit) continue;
    Surveyed side{fit::transformed(r.fit->surface, to_part), &*r.fit, to_part * r.fit->centroid,
                  r.area};
    for (const Vec3& p : along) side.off = std::max(side.off, std::abs(side.surface.distance(p)));
    if (side.off <= reach) sides.push_back(side);
  }
  std::sort(sides.begin(), sides.end(), [&](const Surveyed& a, const Surveyed& b) {
    const double step_a = std::floor(a.off / alike);
    const double step_b = std::floor(b.off / alike);
    return step_a != step_b ? step_a < step_b : a.area > b.area;
  });
  const Vec3& middle = along[along.size() / 2];
  for (std::size_t i = 0; i < sides.size(); ++i) {
    for (std::size_t j = 0; j < i; ++j) {
      const double cosine =
          sides[i].surface.normal_at(middle).dot(sides[j].surface.normal_at(middle));
      if (std::abs(cosine) < kFlattest) return Sides{sides[j].side(), sides[i].side()};
    }
  }
  return std::nullopt;
}

/// A scan point by its signed distances from both surfaces.
struct Sample {
  Vec3 point;
  double da, db, cosine;  ///< cosine of the angle between the normals there
  double off;             ///< from the edge, mm
  bool beyond;            ///< it lies past an end of the edge
};

/// What one radius leaves: residuals with their slopes by the radius and by both surfaces.
struct Rows {
  std::vector<std::size_t> sample;
  std::vector<double> residual, by_radius, by_a, by_b;
};

/// @param side  1 where the ball rolls outside the material, -1 inside it.
/// @param held  the samples to take, whatever their residual; null: those between the tangent lines
/// with a residual within `gate`.
Rows rows_of(const std::vector<Sample>& samples, double radius, double side, double gate,
             const std::vector<std::size_t>* held) {
  Rows rows;
  const std::size_t count = held != nullptr ? held->size() : samples.size();
  for (std::size_t k = 0; k < count; ++k) {
    const std::size_t i = held != nullptr ? (*held)[k] : k;
    const Sample& s = samples[i];
    // Position relative to the ball's centre, whose distances from both faces are the radius.
    const double xa = side * s.da - radius;
    const double xb = side * s.db - radius;
    const double det = 1 - s.cosine * s.cosine;
    if (det < 0.05) continue;
    // Between the tangent lines: the direction from the centre is a combination of both normals
    // with negative weights. Points beside the lines tell faces, not the round.
    const double wa = (xa - s.cosine * xb) / det;
    const double wb = (xb - s.cosine * xa) / det;
    if (held == nullptr && (wa > -0.1 * radius || wb > -0.1 * radius)) continue;
    const double length = std::sqrt(std::max(1e-24, wa * xa + wb * xb));
    const double r = radius - length;
    if (held == nullptr && std::abs(r) > gate) continue;
    rows.sample.push_back(i);
    rows.residual.push_back(r);
    rows.by_radius.push_back(1 + (wa + wb) / length);
    rows.by_a.push_back(-side * wa / length);
    rows.by_b.push_back(-side * wb / length);
  }
  return rows;
}

/// Robust standard deviation of residuals about zero.
double scatter_of(std::vector<double> residuals) {
  for (double& r : residuals) r = std::abs(r);
  const auto middle = residuals.begin() + static_cast<std::ptrdiff_t>(residuals.size() / 2);
  std::nth_element(residuals.begin(), middle, residuals.end());
  return 1.4826 * *middle;
}

double dot(const std::vector<double>& a, const std::vector<double>& b) {
  double sum = 0;
  for (std::size_t i = 0; i < a.size(); ++i) sum += a[i] * b[i];
  return sum;
}

/// Half of the angle at which two sides meet, rad.
double half_opening(const Side& a, const Side& b, const Vec3& place) {
  const double cosine = a.foot(place).normal.dot(b.foot(place).normal);
  return 0.5 * (std::numbers::pi - std::acos(std::clamp(cosine, -1.0, 1.0)));
}

/// How far the scan stays off the sharp edge, as a radius: of a ball in a corner of opening angle
/// w the nearest point lies r (1 / sin(w / 2) - 1) from the corner.
std::optional<double> first_radius(const Document& document, const Side& a, const Side& b,
                                   const std::vector<Vec3>& along) {
  const Transform to_scan = document.to_part().inverse();
  std::vector<double> off;
  for (const Vec3& p : along) {
    const auto nearest = document.scan->index->nearest(to_scan * p);
    if (nearest) off.push_back(nearest->distance);
  }
  if (off.empty()) return std::nullopt;
  const auto middle = off.begin() + static_cast<std::ptrdiff_t>(off.size() / 2);
  std::nth_element(off.begin(), middle, off.end());
  const Vec3& place = along[along.size() / 2];
  const double half = half_opening(a, b, place);
  const double share = 1 / std::max(std::sin(half), 0.05) - 1;
  if (!(share > 0.01)) return std::nullopt;
  return *middle / share;
}

std::vector<Sample> samples_near(const Document& document, const Side& a, const Side& b,
                                 const std::vector<Vec3>& along, double reach) {
  std::vector<Sample> samples;
  Box3 box;
  for (const Vec3& p : along) box.extend(p);
  const Transform to_part = document.to_part();
  for (const Vec3& v : document.scan->mesh->vertices) {
    const Vec3 p = to_part * v;
    if (box.squaredExteriorDistance(p) > reach * reach) continue;
    double nearest = 1e300;
    std::size_t where = 0;
    for (std::size_t k = 0; k < along.size(); ++k) {
      const double off = (along[k] - p).squaredNorm();
      if (off >= nearest) continue;
      nearest = off;
      where = k;
    }
    if (nearest > reach * reach) continue;
    const Side::Foot on_a = a.foot(p);
    const Side::Foot on_b = b.foot(p);
    if (std::abs(on_a.distance) > reach || std::abs(on_b.distance) > reach) continue;
    samples.push_back({p, on_a.distance, on_b.distance, on_a.normal.dot(on_b.normal),
                       std::sqrt(nearest), where == 0 || where + 1 == along.size()});
  }
  return samples;
}

/// Points of a polyline at most `step` apart.
std::vector<Vec3> densified(const std::vector<Vec3>& along, double step) {
  std::vector<Vec3> dense;
  for (std::size_t i = 0; i < along.size(); ++i) {
    dense.push_back(along[i]);
    if (i + 1 == along.size()) break;
    const double length = (along[i + 1] - along[i]).norm();
    const int pieces = std::min(2000, static_cast<int>(std::ceil(length / step)));
    for (int k = 1; k < pieces; ++k)
      dense.push_back(along[i] + (along[i + 1] - along[i]) * k / pieces);
  }
  return dense;
}

/// The round between two sides, by the scan's points between its tangent lines.
std::optional<RadiusReading> round_between(const Document& document, const Side& a, const Side& b,
                                           const std::vector<Vec3>& along) {
  const scan::Health& health = document.scan->health;
  const double spacing = std::max(health.spacing, 1e-9);
  const auto first = first_radius(document, a, b, along);
  if (!first || *first < kLeast * spacing) return std::nullopt;
  // The tangent lines of a round between faces at 40 degrees lie 2.7 radii from the sharp edge.
  const double reach = 3 * *first + 4 * spacing;
  const std::vector<Sample> samples = samples_near(document, a, b, along, reach);
  // Concave edges have the rolling ball outside the material, convex ones inside: the side where
  // the scan departs from both surfaces says which.
  double proud = 0;
  for (const Sample& s : samples) {
    // Between the tangent lines of a right angle; further off lies scan of other features.
    if (std::abs(s.da) > *first || std::abs(s.db) > *first) continue;
    proud += std::min(std::abs(s.da), std::abs(s.db)) * (s.da + s.db > 0 ? 1 : -1);
  }
  const double side = proud > 0 ? 1 : -1;
  double radius = *first;
  double gate = 0.2 * radius;
  bool settled = false;
  Rows rows;
  std::vector<std::size_t> held;
  for (int iteration = 0; iteration < kRounds && !settled; ++iteration) {
    const bool hold = iteration >= kChoosing;
    rows = rows_of(samples, radius, side, gate, hold ? &held : nullptr);
    if (rows.sample.size() < kFewest) return std::nullopt;
    const double information = dot(rows.by_radius, rows.by_radius);
    if (!(information > 0)) return std::nullopt;
    const double step =
        std::clamp(-dot(rows.by_radius, rows.residual) / information, -0.2 * radius, 0.2 * radius);
    radius += step;
    if (!(radius > spacing) || radius > 3 * reach) return std::nullopt;
    // Strays, and scan of other features, stay out by what the round itself scatters.
    if (iteration > 4 && !hold)
      gate = std::max(3.5 * scatter_of(rows.residual), 4 * health.noise_sigma) + 1e-6 * radius;
    held = rows.sample;
    settled = hold && std::abs(step) < 1e-7 * radius;
  }
  // A scanner's spot, of about half a spacing, fills such a round up by more than its U.
  if (!settled || radius < kLeast * spacing) return std::nullopt;
  const auto n = static_cast<Eigen::Index>(rows.sample.size());
  const double information = dot(rows.by_radius, rows.by_radius);
  Eigen::Matrix3Xd points(3, n);
  Eigen::VectorXd residuals(n);
  Eigen::MatrixXd leverage(n, 1);
  for (Eigen::Index i = 0; i < n; ++i) {
    const auto k = static_cast<std::size_t>(i);
    points.col(i) = samples[rows.sample[k]].point;
    residuals[i] = rows.residual[k];
    leverage(i, 0) = rows.by_radius[k] / std::sqrt(information);
  }
  const double inflation =
      fit::shared_noise(points, residuals, leverage, Eigen::MatrixXd::Identity(1, 1))(0, 0);
  const double sigma =
      std::max(std::sqrt(residuals.squaredNorm() / static_cast<double>(n - 1)), health.noise_sigma);
  const Vec3& place = along[along.size() / 2];
  // A surface that lies off by d moves the radius by -(slopes . slopes) / information times d.
  const double u_noise = 2 * sigma * std::sqrt(inflation / information);
  const double u_a = dot(rows.by_radius, rows.by_a) / information * a.u_at(place);
  const double u_b = dot(rows.by_radius, rows.by_b) / information * b.u_at(place);
  return RadiusReading{radius, std::hypot(u_noise, u_a, u_b), rows.sample.size()};
}

/// A face of the model beside an edge.
struct ModelSide {
  Side side;
  std::function<Vec3(const Vec3&)> inwards;  ///< from a place on its border, about along the face
};

/// The surface is known in closed form, or by the face's triangles, whose chords stay within a
/// share of the scan's noise.
ModelSide side_on(const model::Model& model, const model::Tessellation& shape, std::size_t face) {
  struct Triangles {
    scan::Mesh mesh;
    std::vector<Vec3> normals;  // at the corners of each triangle
    scan::MeshIndex index;
  };
  scan::Mesh mesh;
  std::vector<Vec3> normals;
  for (std::size_t t = 0; t < shape.triangle_face.size(); ++t) {
    if (shape.triangle_face[t] != face) continue;
    const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
    mesh.triangles.push_back({first, first + 1, first + 2});
    for (const std::uint32_t v : shape.mesh.triangles[t]) {
      mesh.vertices.push_back(shape.mesh.vertices[v]);
      normals.push_back(shape.normals[v]);
    }
  }
  const auto triangles =
      std::make_shared<const Triangles>(Triangles{mesh, std::move(normals), scan::MeshIndex(mesh)});
  ModelSide made;
  made.inwards = [triangles](const Vec3& p) -> Vec3 {
    const auto nearest = triangles->index.nearest(p);
    return nearest ? Vec3(triangles->mesh.centroid(nearest->triangle) - p) : Vec3::Zero();
  };
  if (const auto exact = model::surface_of_face(model, face)) {
    made.side.foot = [s = *exact](const Vec3& p) {
      return Side::Foot{s.distance(p), s.normal_at(p)};
    };
    return made;
  }
  made.side.foot = [triangles](const Vec3& p) {
    const auto nearest = triangles->index.nearest(p);
    if (!nearest) return Side::Foot{1e300, Vec3::UnitZ()};
    Vec3 normal = Vec3::Zero();
    for (int k = 0; k < 3; ++k)
      normal += nearest->weights[k] *
                triangles->normals[3 * nearest->triangle + static_cast<std::size_t>(k)];
    normal.normalize();
    return Side::Foot{(p - nearest->point).dot(normal), normal};
  };
  return made;
}

/// How far the scan lies off one side beside the round: the model is not the scan.
struct Shift {
  double by = 0;
  double u = 0;  ///< expanded, mm
};
/// Where a face is seen beside the round.
struct Beside {
  double from, to;  ///< from the edge, mm: past the tangent line
  double gate;      ///< mm, no model of the part lies further off
  bool outside;     ///< each face lies outside the other one: a corner, not a ridge
};
/// Empty where too little is seen.
std::optional<Shift> shift_of(const Document& document, const std::vector<Sample>& samples,
                              bool of_b, const Beside& beside) {
  constexpr std::size_t kFewestBeside = 12;
  std::vector<std::pair<double, double>> off;  // from the edge, from the side
  for (const Sample& s : samples) {
    const double own = of_b ? s.db : s.da;
    const double other = of_b ? s.da : s.db;
    // What lies on the other side of the other face is another one, as behind a thin wall.
    if (!s.beyond && s.off > beside.from && s.off < beside.to && std::abs(own) < beside.gate &&
        (other > 0) == beside.outside)
      off.emplace_back(s.off, own);
  }
  if (off.size() < kFewestBeside) return std::nullopt;
  std::sort(off.begin(), off.end());
  const auto middle_of = [&](std::size_t begin, std::size_t end) {
    std::vector<double> values;
    for (std::size_t i = begin; i < end; ++i) values.push_back(off[i].second);
    return median(values);
  };
  const double middle = middle_of(0, off.size());
  std::vector<double> rest;
  for (const auto& [where, value] : off) rest.push_back(std::abs(value - middle));
  const double scatter =
      std::max(1.4826 * median(rest), document.scan->health.noise_sigma) * std::sqrt(kPi / 2);
  // As if every fourth point told something of its own: neighbours share noise. What the near half
  // says otherwise than the far one, beyond chance, goes on towards the round.
  const double u = 2 * scatter / std::sqrt(static_cast<double>(off.size()) / 4);
  const double apart = middle_of(0, off.size() / 2) - middle_of(off.size() / 2, off.size());
  return Shift{middle, std::sqrt(u * u + std::max(0.0, apart * apart - 4 * u * u))};
}

/// By the model's own faces, each moved on to the scan beside the round.
std::optional<RadiusReading> round_between_faces(const Document& document, const ModelSide& face_a,
                                                 const ModelSide& face_b, std::vector<Vec3> along) {
  const Side& on_a = face_a.side;
  const Side& on_b = face_b.side;
  const scan::Health& health = document.scan->health;
  const double spacing = std::max(health.spacing, 1e-9);
  const Vec3 place = along[along.size() / 2];
  if (std::abs(on_a.foot(place).normal.dot(on_b.foot(place).normal)) > kFlattest)
    return std::nullopt;
  const auto first = first_radius(document, on_a, on_b, along);
  if (along.size() < 3) return std::nullopt;
  const Vec3 tangent_at = (along[along.size() / 2 + 1] - along[along.size() / 2 - 1]).normalized();
  Vec3 inwards = face_a.inwards(place);
  inwards -= inwards.dot(tangent_at) * tangent_at;  // its triangles may be slivers along the edge
  if (!first || *first < kLeast * spacing || !(inwards.norm() > 0)) return std::nullopt;
  const bool outside = on_b.foot(place + 0.3 * *first * inwards.normalized()).distance > 0;
  double radius = *first;
  const double tangent = 1 / std::tan(half_opening(on_a, on_b, place));
  // At its ends the edge runs into others, which are round too.
  const bool closed = (along.front() - along.back()).norm() < 1e-6 * (along.front() - place).norm();
  const auto cut = static_cast<std::size_t>(1.5 * radius * tangent / (2 * spacing)) + 1;
  if (!closed && along.size() > 4 * cut) {
    along.erase(along.end() - static_cast<std::ptrdiff_t>(cut), along.end());
    along.erase(along.begin(), along.begin() + static_cast<std::ptrdiff_t>(cut));
  }
  std::optional<RadiusReading> reading;
  for (int round = 0; round < 3; ++round) {
    Beside beside;
    beside.from = 1.15 * radius * tangent + spacing;
    beside.to = beside.from + std::max(radius, 5 * spacing);
    beside.gate = std::max(0.15 * radius, 6 * health.noise_sigma);
    beside.outside = outside;
    const std::vector<Sample> samples = samples_near(document, on_a, on_b, along, beside.to);
    const auto a = shift_of(document, samples, false, beside);
    const auto b = shift_of(document, samples, true, beside);
    if (!a || !b) return std::nullopt;
    const auto moved = [](const Side& side, const Shift& shift) {
      return Side{[side, shift](const Vec3& p) {
                    Side::Foot foot = side.foot(p);
                    foot.distance -= shift.by;
                    return foot;
                  },
                  [u = shift.u](const Vec3&) { return u; }};
    };
    reading = round_between(document, moved(on_a, *a), moved(on_b, *b), along);
    if (!reading || std::abs(reading->radius - radius) < 1e-3 * radius) break;
    radius = reading->radius;
  }
  return reading;
}

}  // namespace

std::optional<RadiusReading> read_edge_radius(const Document& document,
                                              const std::vector<Vec3>& edge) {
  if (!document.survey || !document.scan || edge.empty()) return std::nullopt;
  const std::vector<Vec3> along =
      densified(edge, 2 * std::max(document.scan->health.spacing, 1e-9));
  const auto sides = sides_of(document, along);
  if (!sides) return std::nullopt;
  return round_between(document, sides->first, sides->second, along);
}

std::optional<RadiusReading> read_edge_radius(const Document& document, const model::Model& model,
                                              const model::EdgeRef& edge,
                                              const model::Tessellation* shape) {
  const auto number = model.find_edge(edge);
  if (!document.scan || !number) return std::nullopt;
  std::optional<model::Tessellation> triangles;
  if (shape == nullptr) {
    auto made = model::tessellate(model, fine_for(document, model));
    if (!made) return std::nullopt;
    triangles = *std::move(made);
    shape = &*triangles;
  }
  const auto line = std::find_if(shape->edges.begin(), shape->edges.end(),
                                 [&](const auto& e) { return e.edge == *number; });
  if (line == shape->edges.end()) return std::nullopt;
  const auto surveyed = read_edge_radius(document, line->points);
  // A surface of closed form that the survey took for a free shape holds the round only roughly.
  constexpr double kGood = 0.05;  // U of R
  if (surveyed && surveyed->u < kGood * surveyed->radius) return surveyed;
  const model::EdgeRef ends = model.ref_of_edge(*number, edge.near);
  const auto a = model.find_face(ends.face_a);
  const auto b = model.find_face(ends.face_b);
  if (!a || !b || *a == *b) return surveyed;
  const auto own = round_between_faces(
      document, side_on(model, *shape, *a), side_on(model, *shape, *b),
      densified(line->points, 2 * std::max(document.scan->health.spacing, 1e-9)));
  return own && (!surveyed || own->u < surveyed->u) ? own : surveyed;
}

model::TessellationOptions fine_for(const Document& document, const model::Model& model) {
  return {std::max(0.25 * document.scan->health.noise_sigma, 1e-5 * model.box().diagonal().norm()),
          0.3};
}

}  // namespace lostline::reading
