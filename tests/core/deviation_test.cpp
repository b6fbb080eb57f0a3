// Signed distances near edges and corners, against the kernel's exact ones.
#include "deviation/deviation.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepExtrema_DistShapeShape.hxx>

#include "model/model_impl.h"
#include "part_builder.h"

namespace lostline {
namespace {

using testing::PartBuilder;

/// The kernel's own distance: of a point from the boundary, and its side by a ray.
double exact(const model::Model& solid, const Vec3& p) {
  const gp_Pnt at(p.x(), p.y(), p.z());
  TopTools_IndexedMapOfShape shells;
  double nearest = 1e300;
  const TopoDS_Shape vertex = BRepBuilderAPI_MakeVertex(at).Shape();
  for (int i = 1; i <= solid.impl().faces.Extent(); ++i) {
    const BRepExtrema_DistShapeShape distance(vertex, solid.impl().faces(i));
    if (distance.IsDone()) nearest = std::min(nearest, distance.Value());
  }
  const BRepClass3d_SolidClassifier side(solid.impl().shape, at, 1e-9);
  return side.State() == TopAbs_IN ? -nearest : nearest;
}

/// A plate with a thin drafted rib, a boss with a round at its foot and a bore, `size` times as
/// large as on the drawing.
model::Model ribbed(double size) {
  return PartBuilder()
      .box(size * Vec2(-40, -25), size * Vec2(40, 25), 0, size * 8)
      .box(size * Vec2(-38, -0.6), size * Vec2(-18, 0.6), size * 8, size * 30,
           model::Operation::Add, 0.01)
      .disc({0, 0}, size * 12, size * 8, size * 36, model::Operation::Add, 0.02)
      .fillet(size * Vec3(0, 12, 8), size * 3)
      .disc({0, 0}, size * 7, 0, size * 36, model::Operation::Cut)
      .solid();
}

/// Places near the edges of the part, on all sides of them.
std::vector<Vec3> near_edges(const model::Model& solid, double reach, std::size_t count,
                             unsigned seed) {
  std::vector<Vec3> places;
  const auto shape = model::tessellate(solid, {reach / 50, 0.1});
  std::vector<std::pair<Vec3, Vec3>> pieces;
  for (const auto& line : shape->edges) {
    for (std::size_t i = 1; i < line.points.size(); ++i)
      pieces.emplace_back(line.points[i - 1], line.points[i]);
  }
  std::mt19937_64 random(seed);
  std::uniform_real_distribution<double> uniform(-1, 1);
  std::uniform_int_distribution<std::size_t> which(0, pieces.size() - 1);
  while (places.size() < count) {
    const auto& [a, b] = pieces[which(random)];
    places.push_back(a + 0.5 * (uniform(random) + 1) * (b - a) +
                     reach * Vec3(uniform(random), uniform(random), uniform(random)));
  }
  return places;
}

TEST(Deviation, NearEdgesOfAThinRibItIsTheKernelsDistanceAtEverySize) {
  for (const double size : {0.06, 1.0, 30.0}) {
    const model::Model part = ribbed(size);
    const auto comparator = deviation::Comparator::build(part);
    ASSERT_TRUE(comparator);
    double worst = 0;
    int wrong_side = 0;
    const auto places = near_edges(part, 1.5 * size, 500, 17);
    for (const Vec3& p : places) {
      const double truth = exact(part, p);
      const double told = comparator->at(p, 10 * size).distance;
      if (std::abs(truth) > 1e-6 * size && truth * told < 0) ++wrong_side;
      worst = std::max(worst, std::abs(std::abs(told) - std::abs(truth)) / size);
    }
    std::printf("size %g: greatest error %.2g of the drawing's mm, %d on the wrong side\n", size,
                worst, wrong_side);
    EXPECT_LT(worst, 1e-4) << size;
    EXPECT_EQ(wrong_side, 0) << size;
  }
}

TEST(Deviation, FreeFormFacesGiveWhatTheirAnalyticOnesGive) {
  const model::Model part = ribbed(1);
  BRepBuilderAPI_NurbsConvert convert(part.impl().shape, true);
  const model::Model splines = model::make_solid(convert.Shape(), {}, "spline");
  const auto one = deviation::Comparator::build(part);
  const auto other = deviation::Comparator::build(splines);
  ASSERT_TRUE(one);
  ASSERT_TRUE(other);
  for (const Vec3& p : near_edges(part, 2, 2000, 23))
    EXPECT_NEAR(other->at(p, 10).distance, one->at(p, 10).distance, 2e-4) << p.transpose();
}

TEST(Deviation, WhatIsFarIsCountedAndLeftOut) {
  const model::Model part = ribbed(1);
  const auto comparator = deviation::Comparator::build(part);
  ASSERT_TRUE(comparator);
  EXPECT_NEAR(comparator->default_limit(), 0.1 * part.box().diagonal().norm(), 1e-9);
  const auto map = comparator->compare({{30, 20, 8.5}, {0, 0, 500}, {30, 20, 8 + 3.0}});
  ASSERT_TRUE(map);
  const auto s = deviation::statistics(*map, 0.1);
  EXPECT_EQ(s.n, 2U);
  EXPECT_EQ(s.unmatched, 1U);
  EXPECT_NEAR(s.max, 3, 1e-6);
}

}  // namespace
}  // namespace lostline
