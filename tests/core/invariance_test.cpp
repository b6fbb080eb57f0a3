// What is read of a scan does not depend on its size, its place, or the order of its points.
#include <algorithm>
#include <numeric>
#include <random>

#include "plate_scan.h"
#include "random_parts.h"
#include "reading/evidence.h"
#include "section/resolve.h"
#include "survey/survey.h"

namespace lostline {
namespace {

constexpr std::array kScales{0.02, 15.0};

/// A bracket with holes, rounds and a leaning wall, 130 x 60 x 90 mm or so.
const scan::Mesh& part() {
  static const scan::Mesh mesh = [] {
    simulate::ScanOptions options;
    options.spacing = 0.9;
    options.seed = 31;
    const auto made = testing::RandomPart(31 * 12 + 4).make();
    auto scan = simulate::simulate_scan(made.solid, made.surface, options);
    EXPECT_TRUE(scan);
    return scan->mesh;
  }();
  return mesh;
}

survey::Survey survey_of(const scan::Mesh& mesh) {
  auto found = survey::split_into_regions(mesh, scan::build_topology(mesh));
  EXPECT_TRUE(found);
  return *std::move(found);
}

scan::Mesh scaled(scan::Mesh mesh, double s) {
  for (Vec3& p : mesh.vertices) p *= s;
  return mesh;
}

/// Region of `b` that most triangles of each region of `a` belong to, and the share of triangles
/// for which that holds.
struct Match {
  std::map<std::uint32_t, std::uint32_t> region;
  double share = 0;
};
Match match(const std::vector<std::uint32_t>& a, const std::vector<std::uint32_t>& b) {
  std::map<std::uint32_t, std::map<std::uint32_t, std::size_t>> votes;
  for (std::size_t t = 0; t < a.size(); ++t) ++votes[a[t]][b[t]];
  Match m;
  std::size_t same = 0;
  for (const auto& [region, others] : votes) {
    const auto most = std::max_element(others.begin(), others.end(),
                                       [](auto& x, auto& y) { return x.second < y.second; });
    m.region[region] = most->first;
    same += most->second;
  }
  m.share = static_cast<double>(same) / static_cast<double>(a.size());
  return m;
}

TEST(Invariance, ASurveyScalesWithTheScan) {
  const survey::Survey whole = survey_of(part());
  ASSERT_GT(whole.regions.size(), 10U);
  for (const double s : kScales) {
    const survey::Survey other = survey_of(scaled(part(), s));
    const Match m = match(whole.triangle_region, other.triangle_region);
    EXPECT_GT(m.share, 0.9999) << s;
    EXPECT_EQ(other.regions.size(), whole.regions.size()) << s;
    for (const survey::Region& r : whole.regions) {
      const survey::Region& o = other.regions[m.region.at(r.id) - 1];
      ASSERT_EQ(o.fit.has_value(), r.fit.has_value()) << "region " << r.id << " at " << s;
      if (!r.fit) continue;
      EXPECT_EQ(o.fit->surface.kind, r.fit->surface.kind) << "region " << r.id << " at " << s;
      EXPECT_NEAR(o.fit->surface.radius / s, r.fit->surface.radius,
                  1e-4 * r.fit->surface.radius + 1e-6);
      EXPECT_NEAR(o.fit->u_offset / s, r.fit->u_offset, 0.02 * r.fit->u_offset);
      EXPECT_NEAR(o.fit->u_angle, r.fit->u_angle, 0.02 * r.fit->u_angle);
    }
    EXPECT_EQ(other.patterns.size(), whole.patterns.size()) << s;
    EXPECT_NEAR(other.noise_sigma / s, whole.noise_sigma, 1e-6 * whole.noise_sigma);
  }
}

TEST(Invariance, ASurveyTurnsWithTheScan) {
  const survey::Survey whole = survey_of(part());
  Transform motion = Transform::Identity();
  motion.linear() = Eigen::AngleAxisd(2.1, Vec3(0.3, -1, 0.7).normalized()).toRotationMatrix();
  motion.translation() = Vec3(4000, -2500, 900);
  const survey::Survey other = survey_of(scan::transformed(part(), motion));
  const Match m = match(whole.triangle_region, other.triangle_region);
  EXPECT_GT(m.share, 0.999);
  for (const survey::Region& r : whole.regions) {
    const survey::Region& o = other.regions[m.region.at(r.id) - 1];
    ASSERT_EQ(o.fit.has_value(), r.fit.has_value()) << "region " << r.id;
    if (!r.fit) continue;
    EXPECT_EQ(o.fit->surface.kind, r.fit->surface.kind) << "region " << r.id;
    const fit::Surface moved = fit::transformed(r.fit->surface, motion);
    EXPECT_LT(fit::angle_between(moved.axis, o.fit->surface.axis), 0.2 * r.fit->u_angle + 1e-6)
        << "region " << r.id;
  }
}

TEST(Invariance, ASurveyOfRenumberedPointsFindsTheSameSurfaces) {
  // Seeds are taken in the order of the points, so that borders may fall a point further; what is
  // found does not change.
  const scan::Mesh& mesh = part();
  std::vector<std::uint32_t> to(mesh.vertices.size());
  std::iota(to.begin(), to.end(), 0U);
  std::mt19937_64 random(5);
  std::shuffle(to.begin(), to.end(), random);
  scan::Mesh shuffled = mesh;
  for (std::size_t v = 0; v < to.size(); ++v) shuffled.vertices[to[v]] = mesh.vertices[v];
  for (scan::Triangle& t : shuffled.triangles) t = {to[t[1]], to[t[2]], to[t[0]]};
  const survey::Survey whole = survey_of(mesh);
  const survey::Survey other = survey_of(shuffled);
  const Match m = match(whole.triangle_region, other.triangle_region);
  EXPECT_GT(m.share, 0.985);
  for (const survey::Region& r : whole.regions) {
    if (!r.fit || r.area < 1e-3 * whole.regions[0].area) continue;
    const std::uint32_t id = m.region.at(r.id);
    ASSERT_NE(id, 0U) << "region " << r.id;
    const survey::Region& o = other.regions[id - 1];
    ASSERT_TRUE(o.fit) << "region " << r.id;
    EXPECT_EQ(o.fit->surface.kind, r.fit->surface.kind) << "region " << r.id;
    EXPECT_NEAR(o.fit->surface.radius, r.fit->surface.radius, 2 * r.fit->u_radius + 1e-9)
        << "region " << r.id;
  }
}

TEST(Invariance, SectionsAndTheirCurvesScaleWithTheScan) {
  const scan::Mesh plate = testing::plate_mesh(0.01);
  const auto curves_at = [&](double s) {
    const section::SectionIndex index(std::make_shared<const scan::Mesh>(scaled(plate, s)));
    Placement plane;
    plane.origin = Vec3(0, 0, 5 * s);
    std::vector<std::vector<section::Curve>> curves;
    for (const section::Polyline& p : index.cut(plane).polylines) {
      section::ResolveOptions options;
      options.tolerance = 0.08 * s;
      const auto resolved = section::resolve(p, options);
      EXPECT_TRUE(resolved) << s;
      if (resolved) curves.push_back(*resolved);
    }
    return curves;
  };
  const auto whole = curves_at(1);
  ASSERT_EQ(whole.size(), 2U);  // the outline and the bore
  for (const double s : kScales) {
    const auto other = curves_at(s);
    ASSERT_EQ(other.size(), whole.size()) << s;
    for (std::size_t i = 0; i < whole.size(); ++i) {
      ASSERT_EQ(other[i].size(), whole[i].size()) << s;
      for (std::size_t k = 0; k < whole[i].size(); ++k) {
        const section::Curve& a = whole[i][k];
        const section::Curve& b = other[i][k];
        EXPECT_EQ(b.type, a.type);
        EXPECT_EQ(b.first, a.first);
        EXPECT_EQ(b.last, a.last);
        // Cutting works in single precision: a millionth of the part.
        EXPECT_LT((b.start / s - a.start).norm(), 1e-4);
        EXPECT_NEAR(b.radius / s, a.radius, 1e-5 * a.radius + 1e-9);
        EXPECT_NEAR(b.rms / s, a.rms, 1e-4);
      }
    }
  }
}

TEST(Invariance, LevelsScaleWithTheScan) {
  const auto levels_at = [](double s) {
    const auto scan = project::prepare_scan(scaled(testing::plate_mesh(0.01), s), "plate",
                                            "plate.stl", Unit::Millimetre);
    EXPECT_TRUE(scan);
    const project::Document document = project::with_scan({}, *scan);
    project::TracedSketch sketch;
    std::vector<sketch::Id> corners;
    for (const Vec2& c : {Vec2(1, 1), Vec2(59, 1), Vec2(59, 39), Vec2(1, 39)})
      corners.push_back(sketch.sketch.add_point(s * c));
    for (std::size_t i = 0; i < 4; ++i) sketch.sketch.add_line(corners[i], corners[(i + 1) % 4]);
    return reading::find_levels(document, sketch, {{}, {}});
  };
  const auto whole = levels_at(1);
  ASSERT_EQ(whole.size(), 2U);
  EXPECT_NEAR(whole[0].level, 0, 3 * whole[0].u);
  EXPECT_NEAR(whole[1].level, testing::PlateScan::kHeight, 3 * whole[1].u);
  for (const double s : kScales) {
    const auto other = levels_at(s);
    ASSERT_EQ(other.size(), whole.size()) << s;
    for (std::size_t i = 0; i < whole.size(); ++i) {
      EXPECT_NEAR(other[i].level / s, whole[i].level, 1e-5) << s;
      EXPECT_NEAR(other[i].u / s, whole[i].u, 0.02 * whole[i].u) << s;
      EXPECT_NEAR(other[i].area / (s * s), whole[i].area, 1e-4 * whole[i].area) << s;
      EXPECT_EQ(other[i].upward, whole[i].upward) << s;
    }
  }
}

}  // namespace
}  // namespace lostline
