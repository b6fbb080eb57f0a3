#pragma once

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "project/datums.h"
#include "project/edits.h"
#include "project/sketch_plane.h"

namespace lostline::testing {

/// A plate 60 x 40 x 10 mm with its corner at the origin and a bore of radius 8 through its middle,
/// as a noisy triangle mesh of about 0.8 mm spacing. Analytic, so that every truth is known.
struct PlateScan {
  static constexpr double kLength = 60, kWidth = 40, kHeight = 10, kRadius = 8;
};

/// @param fine  divides the spacing.
inline scan::Mesh plate_mesh(double noise, unsigned seed = 1, int fine = 1) {
  scan::Mesh mesh;
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, noise);
  // A grid of `columns` x `rows` squares whose points come from `at`, displaced along `out`.
  const auto patch = [&](int columns, int rows, const auto& at, const auto& out) {
    columns *= fine;
    rows *= fine;
    const auto base = static_cast<std::uint32_t>(mesh.vertices.size());
    for (int i = 0; i <= columns; ++i) {
      for (int j = 0; j <= rows; ++j) {
        const Vec3 p = at(static_cast<double>(i) / columns, static_cast<double>(j) / rows);
        mesh.vertices.push_back(p + normal(random) * out(p));
      }
    }
    const auto index = [&](int i, int j) {
      return base + static_cast<std::uint32_t>(i * (rows + 1) + j);
    };
    for (int i = 0; i < columns; ++i) {
      for (int j = 0; j < rows; ++j) {
        mesh.triangles.push_back({index(i, j), index(i + 1, j), index(i + 1, j + 1)});
        mesh.triangles.push_back({index(i, j), index(i + 1, j + 1), index(i, j + 1)});
      }
    }
  };
  const double l = PlateScan::kLength;
  const double w = PlateScan::kWidth;
  const double h = PlateScan::kHeight;
  const double r = PlateScan::kRadius;
  const Vec2 middle(l / 2, w / 2);
  // Top and bottom between bore and rim, as a fan of rays that meet the rectangle.
  const auto ring = [&](double share, double turn, double level) {
    const double angle = 2 * std::numbers::pi * turn;
    const Vec2 d(std::cos(angle), std::sin(angle));
    const double reach = std::min(l / 2 / std::max(1e-12, std::abs(d.x())),
                                  w / 2 / std::max(1e-12, std::abs(d.y())));
    const Vec2 p = middle + d * (r + share * (reach - r));
    return Vec3(p.x(), p.y(), level);
  };
  patch(
      30, 220, [&](double s, double t) { return ring(s, t, h); },
      [](const Vec3&) { return Vec3::UnitZ(); });
  patch(
      30, 220, [&](double s, double t) { return ring(s, 1 - t, 0); },
      [](const Vec3&) { return Vec3(-Vec3::UnitZ()); });
  patch(
      14, 90,
      [&](double s, double t) {
        const double angle = -2 * std::numbers::pi * t;
        return Vec3(middle.x() + r * std::cos(angle), middle.y() + r * std::sin(angle),
                    h * (1 - s));
      },
      [&](const Vec3& p) { return Vec3(-(p - Vec3(middle.x(), middle.y(), p.z())).normalized()); });
  const auto side = [&](const Vec3& corner, const Vec3& along, const Vec3& out) {
    patch(
        static_cast<int>(along.norm() / 0.8), 12,
        [&](double s, double t) { return Vec3(corner + s * along + Vec3(0, 0, h * t)); },
        [&](const Vec3&) { return out; });
  };
  side({0, 0, 0}, {l, 0, 0}, {0, -1, 0});
  side({l, 0, 0}, {0, w, 0}, {1, 0, 0});
  side({l, w, 0}, {-l, 0, 0}, {0, 1, 0});
  side({0, w, 0}, {0, -w, 0}, {-1, 0, 0});
  return mesh;
}

/// The plate opened, surveyed and framed: bottom on z = 0, x along the long side, origin at the
/// bore.
class PlateJob : public ::testing::Test {
 protected:
  static constexpr double kNoise = 0.01;
  static void SetUpTestSuite() {
    if (plate_ != nullptr) return;
    const auto scan =
        project::prepare_scan(plate_mesh(kNoise), "plate", "plate.stl", Unit::Millimetre);
    ASSERT_TRUE(scan) << scan.error().message;
    project::Document d = project::with_scan({}, *scan);
    survey::SurveyOptions options;
    options.sensitivity = 0.2;
    auto found = survey::split_into_regions(*d.scan->mesh, d.scan->topology, options);
    ASSERT_TRUE(found) << found.error().message;
    d = project::with_survey(d, std::make_shared<const survey::Survey>(*std::move(found)));
    plate_ = new project::Document(d);
    project::DatumFrame spec;
    spec.primary.region = region({0, 0, -1});
    spec.primary_axis = datum::Axis::MinusZ;
    spec.secondary = {{region({1, 0, 0}), 0}};
    spec.secondary_axis = datum::Axis::X;
    spec.origin = {{bore(), 0}};
    auto framed = project::set_frame(d, spec);
    ASSERT_TRUE(framed) << framed.error().message;
    framed_ = new project::Document(*framed);
  }
  /// Region of the plane that faces `out`; 0 when there is none.
  static std::uint32_t region(const Vec3& out) {
    for (const auto& r : plate_->survey->regions) {
      if (r.fit && r.fit->surface.kind == fit::Kind::Plane && r.fit->surface.axis.dot(out) > 0.99)
        return r.id;
    }
    return 0;
  }
  static std::uint32_t bore() {
    for (const auto& r : plate_->survey->regions) {
      if (r.fit && r.fit->surface.kind == fit::Kind::Cylinder) return r.id;
    }
    return 0;
  }
  /// A section at half height with the constraints that are suggested.
  static project::TracedSketch half_height() {
    project::TracedSketch t;
    t.name = "outline";
    t.base = project::datum_placement(project::DatumPlane::Xy);
    t.level = PlateScan::kHeight / 2;
    t.tolerance = 0.08;
    t.sketch = sketch::sketch_from_section(project::cut_scan(*framed_, t.base, t.level), 0.08,
                                           framed_->scan->health.spacing);
    for (const auto& c : sketch::suggest_constraints(t.sketch))
      t.sketch.add_constraint(c.type, c.first, c.second);
    return t;
  }
  static inline project::Document* plate_ = nullptr;
  static inline project::Document* framed_ = nullptr;
};

}  // namespace lostline::testing
