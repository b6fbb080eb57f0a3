// What is told machined from as-cast, on castings of which every face is known.
#include "survey/finish.h"

#include "random_parts.h"
#include "scan/mesh_index.h"
#include "simulate/scanner.h"
#include "support/rounds.h"

namespace lostline {
namespace {

/// A casting with some of its faces machined.
struct Casting {
  model::Model solid;
  model::Tessellation shape;
  std::vector<char> machined;  // by face
  double share = 0;            // of the area
};

Casting casting(unsigned seed, double wanted) {
  Casting c;
  const testing::RandomPart part(seed);
  c.solid = part.make().solid;
  c.shape = *model::tessellate(c.solid, {0.05, 0.2});
  std::vector<double> area(c.solid.face_count(), 0);
  double total = 0;
  for (std::size_t t = 0; t < c.shape.triangle_face.size(); ++t) {
    const double a = 0.5 * c.shape.mesh.area_vector(t).norm();
    area[c.shape.triangle_face[t]] += a;
    total += a;
  }
  // Faces in an order of chance, as long as the wanted share has room for them.
  std::vector<std::size_t> order(area.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
  std::mt19937_64 random(seed);
  std::shuffle(order.begin(), order.end(), random);
  c.machined.assign(area.size(), 0);
  double sum = 0;
  for (const std::size_t f : order) {
    if (area[f] < 0.004 * total || sum + area[f] > (wanted + 0.03) * total) continue;
    c.machined[f] = 1;
    sum += area[f];
    if (sum > wanted * total) break;
  }
  c.share = sum / total;
  return c;
}

/// Right and judged faces of a scan with roughness of 0.06 mm on walls and 0.012 mm where machined.
std::pair<int, int> judged(const Casting& c, double noise, std::uint64_t seed, double rough,
                           double smooth) {
  const scan::MeshIndex index(c.shape.mesh);
  const auto face_at = [&](const Vec3& p) {
    return c.shape.triangle_face[index.nearest(p)->triangle];
  };
  simulate::SurfaceState state;
  state.roughness = [&](const Vec3& p, const Vec3&) {
    return c.machined[face_at(p)] != 0 ? smooth : rough;
  };
  simulate::ScanOptions options;
  options.noise = noise;
  options.seed = seed;
  options.spacing = 0.9;
  options.random_pose = false;
  const auto scan = simulate::simulate_scan(c.solid, state, options);
  EXPECT_TRUE(scan);
  const auto topology = scan::build_topology(scan->mesh);
  const auto survey = survey::split_into_regions(scan->mesh, topology);
  EXPECT_TRUE(survey);
  int right = 0;
  int all = 0;
  for (const survey::Region& r : survey->regions) {
    if (!r.fit || r.roughness == 0) continue;
    std::map<bool, int> votes;
    for (std::size_t t = 0; t < scan->mesh.triangles.size(); ++t) {
      if (survey->triangle_region[t] == r.id)
        ++votes[c.machined[face_at(scan->mesh.centroid(t))] != 0];
    }
    const bool machined = votes[true] > votes[false];
    if (10 * std::min(votes[true], votes[false]) > votes[true] + votes[false]) continue;  // of both
    ++all;
    right += (r.finish == survey::Finish::Machined) == machined ? 1 : 0;
  }
  return {right, all};
}

TEST(Finish, MachinedFacesOfACastingAreToldFromFiveToEightyPercent) {
  int right = 0;
  int all = 0;
  const std::vector<double> shares = testing::thorough()
                                         ? std::vector{0.05, 0.1, 0.2, 0.4, 0.6, 0.8}
                                         : std::vector{0.05, 0.2, 0.8};
  unsigned seed = 900;
  for (const double share : shares) {
    for (int k = 0; k < testing::rounds(4, 1, 1); ++k, ++seed) {
      const Casting c = casting(seed, share);
      if (c.share < 0.5 * share) continue;  // no face small enough
      const auto [good, count] = judged(c, 0.02, seed, 0.06, 0.012);
      std::printf("seed %u: %4.1f %% machined, %d of %d faces right\n", seed, 100 * c.share, good,
                  count);
      right += good;
      all += count;
    }
  }
  ASSERT_GT(all, 20);
  EXPECT_GE(right, 0.95 * all);
}

TEST(Finish, APartThatIsRoughAllOverIsNotCalledMachined) {
  const Casting c = casting(921, 0);
  const auto [machined, count] = [&] {
    Casting none = c;
    none.machined.assign(none.machined.size(), 0);
    return judged(none, 0.02, 5, 0.06, 0.012);
  }();
  EXPECT_GT(count, 5);
  EXPECT_EQ(machined, count);  // none of its faces
}

std::vector<survey::Region> regions_of(const std::vector<double>& roughness) {
  std::vector<survey::Region> regions;
  for (const double r : roughness) {
    survey::Region region;
    region.fit = fit::SurfaceFit();
    region.roughness = r;
    region.triangles = 4000;
    region.area = 1000;
    regions.push_back(region);
  }
  return regions;
}

TEST(Finish, TheSmoothestFewAreTheNoiseHoweverLittleOfThePart) {
  auto regions = regions_of(std::vector<double>(30, 0.065));
  regions[7].roughness = 0.023;
  regions[7].triangles = 700;
  survey::judge_finish(regions);
  for (std::size_t i = 0; i < regions.size(); ++i)
    EXPECT_EQ(regions[i].finish, i == 7 ? survey::Finish::Machined : survey::Finish::AsCast) << i;
}

TEST(Finish, AllAlikeCannotBeToldUnlessEvenAllOfItWereLittle) {
  auto noisy = regions_of({0.05, 0.052, 0.049, 0.051});
  survey::judge_finish(noisy);
  for (const auto& r : noisy) {
    EXPECT_EQ(r.finish, survey::Finish::Unknown);
    EXPECT_EQ(r.trust, 1);
  }
  auto fine = regions_of({0.01, 0.0104, 0.0098, 0.0102});
  survey::judge_finish(fine);
  for (const auto& r : fine) EXPECT_EQ(r.finish, survey::Finish::Machined);
}

}  // namespace
}  // namespace lostline
