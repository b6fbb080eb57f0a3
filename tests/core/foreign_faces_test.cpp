// Faces as other programs write them are told for what they are.
#include <gtest/gtest.h>

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>
#include <cmath>
#include <gp_Circ.hxx>
#include <numbers>
#include <random>

#include "deviation/deviation.h"
#include "model/faces.h"
#include "model/model_impl.h"

namespace lostline::model {
namespace {

/// A disc of radius 3, `off` mm from the z axis, turned about it; its edge begins at `angle`.
TopoDS_Shape turned_disc(double off, double angle, double turn) {
  const gp_Ax2 frame(gp_Pnt(off, 0, 5), gp_Dir(0, -1, 0),
                     gp_Dir(std::cos(angle), 0, std::sin(angle)));
  const TopoDS_Edge edge = BRepBuilderAPI_MakeEdge(gp_Circ(frame, 3.0));
  const TopoDS_Wire wire = BRepBuilderAPI_MakeWire(edge);
  const TopoDS_Face face = BRepBuilderAPI_MakeFace(wire, true);
  return BRepPrimAPI_MakeRevol(face, gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), turn).Shape();
}

class ForeignTorus : public ::testing::TestWithParam<double> {};

TEST_P(ForeignTorus, IsToldWhereverItsCircleBegins) {
  for (const double turn : {1.0, 2 * std::numbers::pi}) {
    const Model solid = make_solid(turned_disc(12, GetParam(), turn), {}, "foreign");
    int tori = 0;
    for (std::size_t f = 0; f < solid.face_count(); ++f) {
      const auto known = surface_of_face(solid, f);
      ASSERT_TRUE(known);
      if (known->kind == fit::Kind::Plane) continue;
      ++tori;
      ASSERT_EQ(known->kind, fit::Kind::Torus);
      EXPECT_NEAR(known->radius, 12, 1e-9);
      EXPECT_NEAR(known->minor_radius, 3, 1e-9);
      EXPECT_NEAR((known->point - Vec3(0, 0, 5)).norm(), 0, 1e-9);
      EXPECT_NEAR(std::abs(known->axis.z()), 1, 1e-12);
      EXPECT_FALSE(known->hollow);
    }
    EXPECT_EQ(tori, 1);
  }
}

TEST_P(ForeignTorus, CutIntoABlockIsHollow) {
  const TopoDS_Shape block = BRepPrimAPI_MakeBox(gp_Pnt(-20, -20, 0), gp_Pnt(20, 20, 5)).Shape();
  const TopoDS_Shape cut =
      BRepAlgoAPI_Cut(block, turned_disc(12, GetParam(), 2 * std::numbers::pi)).Shape();
  const Model solid = make_solid(cut, {}, "foreign");
  int hollow = 0;
  for (std::size_t f = 0; f < solid.face_count(); ++f) {
    const auto known = surface_of_face(solid, f);
    ASSERT_TRUE(known);
    if (known->kind != fit::Kind::Torus) continue;
    EXPECT_TRUE(known->hollow);
    ++hollow;
  }
  EXPECT_GE(hollow, 1);
}

TEST_P(ForeignTorus, DistancesFromItAreThoseOfATorus) {
  const Model solid = make_solid(turned_disc(12, GetParam(), 2 * std::numbers::pi), {}, "foreign");
  const auto comparator = deviation::Comparator::build(solid);
  ASSERT_TRUE(comparator);
  std::mt19937 random(3);
  std::uniform_real_distribution<double> any(-1, 1);
  for (int k = 0; k < 200; ++k) {
    const double a = 3.1 * any(random);
    const double b = 3.1 * any(random);
    const double off = 0.8 * any(random);
    const double rho = 12 + (3 + off) * std::cos(b);
    const Vec3 p(rho * std::cos(a), rho * std::sin(a), 5 + (3 + off) * std::sin(b));
    EXPECT_NEAR(comparator->at(p).distance, off, 1e-7);
  }
}
INSTANTIATE_TEST_SUITE_P(Begins, ForeignTorus,
                         ::testing::Values(0.0, 0.3, std::numbers::pi / 2, std::numbers::pi, 4.0));

TEST(ForeignFaces, ACircleOffThePlaneOfItsAxisIsNoTorus) {
  // Its plane is turned out of the axis: what it sweeps is no torus, and is not called one.
  const gp_Ax2 frame(gp_Pnt(12, 0, 5), gp_Dir(0.3, -1, 0));
  const TopoDS_Edge edge = BRepBuilderAPI_MakeEdge(gp_Circ(frame, 3.0));
  const TopoDS_Shape shell =
      BRepPrimAPI_MakeRevol(edge, gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))).Shape();
  const Model solid = make_solid(shell, {}, "foreign");
  ASSERT_EQ(solid.face_count(), 1U);
  EXPECT_FALSE(surface_of_face(solid, 0));
}

}  // namespace
}  // namespace lostline::model
