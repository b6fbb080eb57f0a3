// Closed free shapes as smooth patches: shapes whose true surface only the generator knows.
#include "patch/free_body.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <numbers>
#include <random>

#include "model/spline_face.h"
#include "model/steps/free_body/free_body.h"
#include "store/feature_json.h"
#include "support/rounds.h"

namespace lostline::patch {
namespace {

/// A ball of about unit size parted evenly into triangles: an icosahedron, each side halved again
/// and again.
scan::Mesh ball(int halvings) {
  const double t = (1 + std::sqrt(5.0)) / 2;
  scan::Mesh mesh;
  for (const Vec3& v : {Vec3(-1, t, 0), Vec3(1, t, 0), Vec3(-1, -t, 0), Vec3(1, -t, 0),
                        Vec3(0, -1, t), Vec3(0, 1, t), Vec3(0, -1, -t), Vec3(0, 1, -t),
                        Vec3(t, 0, -1), Vec3(t, 0, 1), Vec3(-t, 0, -1), Vec3(-t, 0, 1)})
    mesh.vertices.push_back(v.normalized());
  mesh.triangles = {{0, 11, 5}, {0, 5, 1},  {0, 1, 7},   {0, 7, 10}, {0, 10, 11},
                    {1, 5, 9},  {5, 11, 4}, {11, 10, 2}, {10, 7, 6}, {7, 1, 8},
                    {3, 9, 4},  {3, 4, 2},  {3, 2, 6},   {3, 6, 8},  {3, 8, 9},
                    {4, 9, 5},  {2, 4, 11}, {6, 2, 10},  {8, 6, 7},  {9, 8, 1}};
  for (int k = 0; k < halvings; ++k) {
    std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> halves;
    const auto half = [&](std::uint32_t a, std::uint32_t b) {
      const auto [it, fresh] =
          halves.try_emplace(std::minmax(a, b), static_cast<std::uint32_t>(mesh.vertices.size()));
      if (fresh) mesh.vertices.emplace_back((mesh.vertices[a] + mesh.vertices[b]).normalized());
      return it->second;
    };
    std::vector<scan::Triangle> next;
    for (const auto& [a, b, c] : mesh.triangles) {
      const std::uint32_t d = half(a, b);
      const std::uint32_t e = half(b, c);
      const std::uint32_t f = half(c, a);
      next.insert(next.end(), {{a, d, f}, {b, e, d}, {c, f, e}, {d, e, f}});
    }
    mesh.triangles = std::move(next);
  }
  return mesh;
}

/// A lump whose distance from its middle is told by the direction.
struct Lump {
  explicit Lump(unsigned seed, double size) : size(size) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> any(-1, 1);
    for (auto& wave : waves)
      wave = {3.5 * any(random), 3.5 * any(random), 3.5 * any(random), 3 * any(random),
              0.07 * any(random)};
    stretch = Vec3(1, 0.8 + 0.2 * any(random), 1.3 + 0.3 * any(random));
  }
  [[nodiscard]] double radius(const Vec3& d) const {
    double r = 1;
    for (const auto& w : waves)
      r += w[4] * std::sin(w[0] * d.x() + w[1] * d.y() + w[2] * d.z() + w[3]);
    return size * r;
  }
  [[nodiscard]] Vec3 at(const Vec3& d) const { return radius(d) * d.cwiseProduct(stretch); }
  /// Distance of a place from the surface, to first order.
  [[nodiscard]] double off(const Vec3& p) const {
    const Vec3 flat = p.cwiseQuotient(stretch);
    const auto value = [&](const Vec3& q) { return q.norm() - radius(q.normalized()); };
    const double h = 1e-5 * size;
    Vec3 slope;
    for (Eigen::Index k = 0; k < 3; ++k)
      slope[k] = (value(flat + h * Vec3::Unit(k)) - value(flat - h * Vec3::Unit(k))) / (2 * h);
    return value(flat) / slope.cwiseQuotient(stretch).norm();
  }
  double size;
  std::array<std::array<double, 5>, 6> waves{};
  Vec3 stretch = Vec3::Ones();
};

scan::Mesh noisy(scan::Mesh mesh, double noise, unsigned seed) {
  std::mt19937 random(seed);
  std::normal_distribution<double> off(0, noise);
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v)
    mesh.vertices[v] += off(random) * normals[v];
  return mesh;
}

double volume_of(const scan::Mesh& mesh) {
  double volume = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    volume += mesh.corner(t, 0).dot(mesh.corner(t, 1).cross(mesh.corner(t, 2))) / 6;
  return volume;
}

/// What holds of every fit: smooth where patches meet, closed, sound in the kernel, and of the
/// volume of its points.
void expect_sound(const FreeBody& body, double volume) {
  EXPECT_LT(body.crease, 1 * kDegree);
  const auto solid = model::free_body_model(body.patches, "body");
  ASSERT_TRUE(solid) << solid.error().message;
  EXPECT_TRUE(solid->valid());
  EXPECT_EQ(solid->face_count(), body.patches.size());
  EXPECT_NEAR(solid->volume(), volume, 1e-3 * volume);
}

TEST(FreeBody, FollowsTheShapeAndNotItsNoise) {
  const unsigned rounds = testing::rounds(12, 2, 1);
  for (unsigned seed = 70; seed < 70 + rounds; ++seed) {
    const double size = std::array{3.0, 40.0, 1200.0}[seed % 3];
    const double noise = 5e-4 * size;
    const Lump lump(seed, size);
    scan::Mesh exact = ball(5);
    for (Vec3& v : exact.vertices) v = lump.at(v);
    const scan::Mesh scan = noisy(exact, noise, seed);
    FreeBodyOptions options;
    options.noise = noise;
    const auto body = fit_free_body(scan, options);
    ASSERT_TRUE(body) << body.error().message;
    EXPECT_LT(body->rms, 1.1 * noise);
    expect_sound(*body, volume_of(exact));
    // Patches lie nearer to the true surface than the points do.
    double sum = 0;
    std::size_t places = 0;
    for (const SplineSurface& patch : body->patches) {
      for (int i = 0; i <= 12; ++i) {
        for (int j = 0; j <= 12; ++j) {
          sum += std::pow(lump.off(patch.at(i / 12.0, j / 12.0)), 2);
          ++places;
        }
      }
    }
    EXPECT_LT(std::sqrt(sum / static_cast<double>(places)), 0.8 * noise) << "seed " << seed;
  }
}

TEST(FreeBody, KeepsAHandle) {
  scan::Mesh ring;
  constexpr int kRound = 160;
  constexpr int kTube = 60;
  for (int i = 0; i < kRound; ++i) {
    for (int j = 0; j < kTube; ++j) {
      const double u = 2 * std::numbers::pi * i / kRound;
      const double v = 2 * std::numbers::pi * j / kTube;
      const double tube = 9 + 1.5 * std::sin(2 * u);
      ring.vertices.emplace_back((30 + tube * std::cos(v)) * std::cos(u),
                                 (30 + tube * std::cos(v)) * std::sin(u), tube * std::sin(v));
    }
  }
  for (int i = 0; i < kRound; ++i) {
    for (int j = 0; j < kTube; ++j) {
      const auto at = [&](int a, int b) {
        return static_cast<std::uint32_t>((a % kRound) * kTube + b % kTube);
      };
      ring.triangles.push_back({at(i, j), at(i + 1, j), at(i + 1, j + 1)});
      ring.triangles.push_back({at(i, j), at(i + 1, j + 1), at(i, j + 1)});
    }
  }
  // Pappus' theorem: the middle of every section lies 30 from the axis.
  const double volume = 2 * std::pow(std::numbers::pi, 2) * 30 * (81 + 1.5 * 1.5 / 2);
  FreeBodyOptions options;
  options.tolerance = 0.1;
  const auto body = fit_free_body(ring, options);
  ASSERT_TRUE(body) << body.error().message;
  EXPECT_TRUE(body->within);
  expect_sound(*body, volume);
}

TEST(FreeBody, TakesAboutAsManyPatchesAsWanted) {
  const Lump lump(5, 40);
  scan::Mesh scan = ball(5);
  for (Vec3& v : scan.vertices) v = lump.at(v);
  std::size_t before = 0;
  double rms = 1e300;
  for (const std::size_t wanted : {6U, 24U, 80U}) {
    FreeBodyOptions options;
    options.patches = wanted;
    options.spans = 4;
    const auto body = fit_free_body(scan, options);
    ASSERT_TRUE(body) << body.error().message;
    EXPECT_GE(static_cast<double>(body->patches.size()), 0.8 * static_cast<double>(wanted));
    EXPECT_LE(body->patches.size(), 2 * wanted);
    EXPECT_GT(body->patches.size(), before);
    EXPECT_LT(body->rms, rms);
    before = body->patches.size();
    rms = body->rms;
  }
}

TEST(FreeBody, SaysWhyItCannot) {
  scan::Mesh open = ball(3);
  open.triangles.pop_back();
  EXPECT_THAT(fit_free_body(open).error().message, ::testing::HasSubstr("3 open"));
  scan::Mesh two = ball(3);
  const auto first = static_cast<std::uint32_t>(two.vertices.size());
  for (std::uint32_t v = 0; v < first; ++v) two.vertices.push_back(two.vertices[v] + Vec3(5, 0, 0));
  const std::size_t count = two.triangles.size();
  for (std::size_t t = 0; t < count; ++t) {
    const auto [a, b, c] = two.triangles[t];
    two.triangles.push_back({a + first, b + first, c + first});
  }
  EXPECT_THAT(fit_free_body(two).error().message, ::testing::HasSubstr("2 parts"));
  FreeBodyOptions wrong;
  wrong.tolerance = -1;
  EXPECT_EQ(fit_free_body(ball(3), wrong).error().code, ErrorCode::InvalidInput);
  std::stop_source stop;
  stop.request_stop();
  EXPECT_EQ(fit_free_body(ball(4), {}, Task(stop.get_token())).error().code, ErrorCode::Cancelled);
}

TEST(FreeBody, IsSavedAndReadAgain) {
  model::FreeBody step;
  auto faces = std::make_shared<SplineSurfaces>();
  for (int k = 0; k < 3; ++k) {
    faces->push_back(SplineSurface::even(4 + static_cast<std::size_t>(k), 5));
    for (std::size_t i = 0; i < faces->back().poles.size(); ++i)
      faces->back().poles[i] = Vec3(0.1 * static_cast<double>(i), k, 1.0 / 3);
  }
  step.faces = faces;
  const store::Json json = store::write_feature(step);
  model::Feature read{model::FreeBody{}};
  store::read_feature(json, read);
  const auto& back = *read.as<model::FreeBody>()->faces;
  ASSERT_EQ(back.size(), 3U);
  for (std::size_t k = 0; k < 3; ++k) {
    EXPECT_EQ(back[k].nu, (*faces)[k].nu);
    EXPECT_EQ(back[k].u_knots, (*faces)[k].u_knots);
    EXPECT_EQ(back[k].poles.back(), (*faces)[k].poles.back());
  }
  store::Json damaged = json;
  damaged["faces"][1]["u"] = 9;
  EXPECT_ANY_THROW(store::read_feature(damaged, read));
}

}  // namespace
}  // namespace lostline::patch
