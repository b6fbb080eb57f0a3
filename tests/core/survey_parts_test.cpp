// The survey against a family of parts of which every surface is known.
#include "survey_score.h"

namespace lostline {
namespace {

TEST(SurveyParts, FacesOfVariedPartsAreFoundWithTheRightType) {
  testing::Score all;
  for (const testing::Part& part : testing::part_family()) {
    simulate::ScanOptions options;
    options.spacing = 0.9;
    options.noise = 0.02;
    options.seed = 7;
    const auto scan = simulate::simulate_scan(part.solid, {}, options);
    ASSERT_TRUE(scan) << scan.error().message;
    const scan::Topology topology = scan::build_topology(scan->mesh);
    const auto found = survey::split_into_regions(scan->mesh, topology);
    ASSERT_TRUE(found) << found.error().message;
    const testing::Score s = testing::judge(part.solid, scan->pose.inverse(), *found, scan->mesh);
    std::printf("%-16s %6zu triangles: %2d of %2d faces found, %d of %d fits wrong\n",
                part.name.c_str(), scan->mesh.triangles.size(), s.found, s.faces, s.wrong,
                s.regions);
    all.faces += s.faces;
    all.found += s.found;
    all.regions += s.regions;
    all.wrong += s.wrong;
  }
  std::printf("all: %d of %d faces found, %d of %d fits wrong\n", all.found, all.faces, all.wrong,
              all.regions);
  EXPECT_GE(all.found, 0.95 * all.faces);
  EXPECT_LE(all.wrong, 0.03 * all.regions);
}

}  // namespace
}  // namespace lostline
