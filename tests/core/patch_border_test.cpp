// Patches drawn on to a border: how near they come to it and to the scan inside, and the face that
// the border cuts out.
#include <random>

#include "model/border.h"
#include "model/route.h"
#include "model/steps/patch_face/patch_face.h"
#include "model/steps/space_curve/space_curve.h"
#include "patch/patch.h"
#include "steps/step_trial.h"

namespace lostline {
namespace {

/// Gentle waves of a size: height above x, y.
struct Waves {
  double size;
  double phase;
  [[nodiscard]] double height(double x, double y) const {
    return 0.06 * size * std::sin(3 * x / size + phase) * std::cos(2.5 * y / size);
  }
  [[nodiscard]] Vec3 at(double x, double y) const { return {x, y, height(x, y)}; }
  [[nodiscard]] Vec3 normal(double x, double y) const {
    const double h = 1e-6 * size;
    return (at(x + h, y) - at(x - h, y)).cross(at(x, y + h) - at(x, y - h)).normalized();
  }
  /// Scanned over [-size, size] squared.
  [[nodiscard]] scan::Mesh scanned(double noise, unsigned seed) const {
    std::mt19937 random(seed);
    std::normal_distribution<double> off(0, noise);
    scan::Mesh mesh;
    constexpr int kCells = 120;
    for (int i = 0; i <= kCells; ++i) {
      for (int j = 0; j <= kCells; ++j) {
        const double x = size * (2.0 * i / kCells - 1);
        const double y = size * (2.0 * j / kCells - 1);
        mesh.vertices.push_back(at(x, y) + off(random) * normal(x, y));
      }
    }
    for (std::uint32_t i = 0; i < kCells; ++i) {
      for (std::uint32_t j = 0; j < kCells; ++j) {
        const std::uint32_t a = i * (kCells + 1) + j;
        mesh.triangles.push_back({a, a + kCells + 1, a + kCells + 2});
        mesh.triangles.push_back({a, a + kCells + 2, a + 1});
      }
    }
    return mesh;
  }
};

std::vector<std::uint32_t> all_triangles(const scan::Mesh& mesh) {
  std::vector<std::uint32_t> all(mesh.triangles.size());
  for (std::uint32_t t = 0; t < all.size(); ++t) all[t] = t;
  return all;
}

/// A rounded triangle about the middle, in the plane below.
Vec2 around(double size, double turn) {
  const double r = size * (0.55 + 0.08 * std::cos(3 * turn));
  return {r * std::cos(turn), r * std::sin(turn)};
}

TEST(PatchBorder, IsMetAndWhatLiesInsideIsTheEvidence) {
  for (const double size : {5.0, 60.0, 1500.0}) {
    for (const bool tangent : {false, true}) {
      const Waves truth{size, 0.4 + size};
      const double noise = 4e-4 * size;
      const scan::Mesh mesh = truth.scanned(noise, static_cast<unsigned>(size));
      patch::PatchOptions options;
      options.noise = noise;
      for (int k = 0; k < 160; ++k) {
        const Vec2 p = around(size, 2 * kPi * k / 160);
        options.held.push_back({truth.at(p.x(), p.y()), std::nullopt});
        if (tangent) options.held.back().normal = truth.normal(p.x(), p.y());
      }
      const auto held = patch::fit_patch(mesh, all_triangles(mesh), options);
      ASSERT_TRUE(held) << held.error().message;
      EXPECT_LT(held->border_off, 0.5 * noise) << size;
      if (tangent) {
        EXPECT_LT(held->border_turn, 0.3 * kDegree) << size;
      }
      EXPECT_LT(held->rms, 1.1 * noise);
      // Against the true surface, over all that lies inside.
      double squares = 0;
      int count = 0;
      for (int i = 0; i < 30; ++i) {
        for (int j = 0; j < 60; ++j) {
          const Vec2 p = (i + 0.5) / 30 * around(size, 2 * kPi * j / 60);
          const Vec3 at = truth.at(p.x(), p.y());
          const Vec2 foot = held->surface.foot(at, {0.5, 0.5}, 60);
          squares += (held->surface.at(foot.x(), foot.y()) - at).squaredNorm();
          ++count;
        }
      }
      EXPECT_LT(std::sqrt(squares / count), 0.5 * noise) << size << tangent;
    }
  }
}

TEST(PatchBorder, MayLieBeyondWhatTheScanShows) {
  // The scan ends a tenth before the border: the face is carried on to it.
  const Waves truth{50, 1};
  scan::Mesh mesh = truth.scanned(0.02, 3);
  std::vector<std::uint32_t> inside;
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    const Vec3 c = mesh.centroid(t);
    if (c.head<2>().norm() < 22) inside.push_back(t);
  }
  patch::PatchOptions options;
  options.noise = 0.02;
  for (int k = 0; k < 120; ++k) {
    const double turn = 2 * kPi * k / 120;
    options.held.push_back({truth.at(25 * std::cos(turn), 25 * std::sin(turn)), std::nullopt});
  }
  const auto held = patch::fit_patch(mesh, inside, options);
  ASSERT_TRUE(held) << held.error().message;
  EXPECT_LT(held->border_off, 0.01);
  EXPECT_LT(held->rms, 0.022);
  for (patch::HeldPlace& place : options.held) place.at += Vec3(900, 0, 0);
  const auto away = patch::fit_patch(mesh, inside, options);
  ASSERT_FALSE(away);
  EXPECT_NE(away.error().message.find("lies away from the area"), std::string::npos);
}

/// A closed curve body through places on the waves, in two halves.
model::Model border_curves(const Waves& truth, std::vector<std::string>& keys) {
  model::Model made;
  for (const int half : {0, 1}) {
    model::SpaceCurve curve;
    for (int k = 0; k <= 60; ++k) {
      const Vec2 p = around(truth.size, kPi * (half + k / 60.0));
      curve.path.corners.push_back(truth.at(p.x(), p.y()));
    }
    model::Step step;
    step.id = static_cast<model::Id>(half + 1);
    step.name = "curve";
    step.feature = curve;
    const std::map<model::Id, model::PlacedSketch> sketches;
    const std::vector<model::Step> none;
    const auto with = model::apply_feature(step, {sketches, none}, made);
    EXPECT_TRUE(with) << with.error().message;
    made = *with;
    keys.push_back("s" + std::to_string(step.id));
  }
  return made;
}

TEST(PatchBorder, CutsTheFaceOutAndFollowsItsCurves) {
  for (const double size : {5.0, 60.0}) {
    const Waves truth{size, 0.7};
    const scan::Mesh mesh = truth.scanned(2e-4 * size, 9);
    model::PatchFace face;
    const model::Model curves = border_curves(truth, face.curves);
    const auto border = model::border_of(curves, face.curves, {}, false);
    ASSERT_TRUE(border) << border.error().message;
    EXPECT_EQ(border->size(), 2U);
    patch::PatchOptions options;
    options.noise = 2e-4 * size;
    options.held = model::places_of(*border);
    const auto fitted = patch::fit_patch(mesh, all_triangles(mesh), options);
    ASSERT_TRUE(fitted) << fitted.error().message;
    face.face = std::make_shared<const patch::SplineSurface>(fitted->surface);
    const auto made = testing::attempt(face, curves);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_TRUE(made->valid());
    // The true area inside the border.
    double area = 0;
    for (int i = 0; i < 200; ++i) {
      for (int j = 0; j < 400; ++j) {
        const double share = (i + 0.5) / 200;
        const Vec2 rim = around(size, 2 * kPi * (j + 0.5) / 400);
        const Vec2 p = share * rim;
        area += rim.squaredNorm() * share / 200 * 2 * kPi / 400 / truth.normal(p.x(), p.y()).z();
      }
    }
    EXPECT_NEAR(made->area(), area, 2e-3 * area);
    // Where the border has moved, the patch says so.
    std::vector<std::string> moved_keys;
    const model::Model moved = border_curves(Waves{size, 2.2}, moved_keys);
    const auto off = testing::attempt(face, moved);
    ASSERT_FALSE(off);
    EXPECT_NE(off.error().message.find("off the patch"), std::string::npos);
    // Half of a border does not close.
    face.curves.pop_back();
    const auto open = testing::attempt(face, curves);
    ASSERT_FALSE(open);
    EXPECT_NE(open.error().message.find("do not close"), std::string::npos);
  }
}

TEST(PatchBorder, CarriesTheNormalsOfTheFacesOfItsEdges) {
  const model::Model block = testing::PartBuilder().box({-20, -15}, {20, 15}, 0, 10).solid();
  std::vector<model::EdgeRef> edges;
  for (std::size_t e = 0; e < 12; ++e) {
    const model::EdgeRef ref = block.ref_of_edge(e, Vec3::Zero());
    if (ref.face_a.find(":end") != std::string::npos ||
        ref.face_b.find(":end") != std::string::npos)
      edges.push_back(ref);
  }
  ASSERT_EQ(edges.size(), 4U);
  const auto border = model::border_of(block, {}, edges, true);
  ASSERT_TRUE(border) << border.error().message;
  ASSERT_EQ(border->size(), 4U);
  for (const model::BorderStretch& stretch : *border)
    for (const patch::HeldPlace& place : stretch) {
      ASSERT_TRUE(place.normal);
      // Of the top or of a side, and square to the edge.
      const Vec3 along = (stretch.back().at - stretch.front().at).normalized();
      EXPECT_NEAR(place.normal->cwiseAbs().maxCoeff(), 1, 1e-12);
      EXPECT_NEAR(place.normal->dot(along), 0, 1e-12);
      EXPECT_NEAR(place.at.z(), 10, 1e-9);
    }
  EXPECT_FALSE(model::border_of(block, {}, {}, true));
  edges.pop_back();
  EXPECT_FALSE(model::border_of(block, {}, edges, true));
}

}  // namespace
}  // namespace lostline
