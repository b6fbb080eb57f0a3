// Lofts through three sections and more, against surfaces known in closed form.

#include "loft_stack.h"
#include "model/steps/fillet/fillet.h"

namespace lostline {
namespace {

using model::Loft;
using testing::Stack;

/// A vane: a sector of a ring whose centre moves on a parabola as it rises.
struct Vane {
  double size = 1;
  double inner = 30, outer = 34;  // mm, times the size
  double from = -0.7, to = 0.6;   // rad
  double level0 = 5, level1 = 29;

  [[nodiscard]] Vec2 centre(double z) const {
    const double t = z / size;
    return size * Vec2(0.3 * t + 0.004 * t * t, -0.1 * t + 0.006 * t * t);
  }
  /// Told from another corner, and as another chain of curves, for each `begin`.
  [[nodiscard]] sketch::Sketch outline(double z, int begin) const {
    sketch::Sketch s;
    const Vec2 c = centre(z);
    const auto at = [&](double r, double a) {
      return s.add_point(c + size * r * Vec2(std::cos(a), std::sin(a)));
    };
    const std::array<sketch::Id, 4> p{at(inner, from), at(outer, from), at(outer, to),
                                      at(inner, to)};
    const sketch::Id m = s.add_point(c);
    for (int k = 0; k < 4; ++k) {
      switch ((k + begin) % 4) {
        case 0:
          s.add_line(p[0], p[1]);
          break;
        case 1:
          s.add_arc(m, p[1], p[2], size * outer);
          break;
        case 2:
          s.add_line(p[2], p[3]);
          break;
        default:
          s.add_arc(m, p[0], p[3], size * inner);
      }
    }
    return s;
  }
  [[nodiscard]] double area() const {
    return size * size * (outer * outer - inner * inner) / 2 * (to - from);
  }
  /// How far a place is from the sides that the vane has at its height.
  [[nodiscard]] double off(const Vec3& p) const {
    const Vec2 d = (Vec2(p.x(), p.y()) - centre(p.z())) / size;
    const double angle = std::atan2(d.y(), d.x());
    return size * std::min({std::abs(d.norm() - inner), std::abs(d.norm() - outer),
                            d.norm() * std::abs(angle - from), d.norm() * std::abs(angle - to)});
  }
  [[nodiscard]] Loft through(Stack& ground, const std::vector<double>& levels) const {
    Loft loft;
    int begin = 0;
    for (const double level : levels)
      loft.sections.push_back(ground.section(outline(size * level, begin++), size * level));
    return loft;
  }
};

TEST(LoftSkin, OfSectionsThatMoveOnAParabolaIsThatSurface) {
  for (const double size : {0.1, 1.0, 30.0}) {
    const Vane vane{size};
    for (const std::vector<double>& levels :
         {std::vector<double>{5, 17, 29}, {5, 9, 20, 29}, {29, 21, 14, 10, 5}}) {
      Stack ground;
      const auto made = ground.loft(vane.through(ground, levels));
      ASSERT_TRUE(made) << made.error().message;
      EXPECT_TRUE(made->valid());
      EXPECT_EQ(made->face_count(), 6U);
      const double height = size * 24;
      EXPECT_NEAR(made->volume(), vane.area() * height, 1e-5 * vane.area() * height);
      const auto shape = model::tessellate(*made, {0.01 * size, 0.1});
      ASSERT_TRUE(shape);
      double worst = 0;
      for (std::size_t t = 0; t < shape->mesh.triangles.size(); ++t) {
        if (made->face_name(shape->triangle_face[t]).find(":side:") == std::string::npos) continue;
        for (const std::uint32_t v : shape->mesh.triangles[t])
          worst = std::max(worst, vane.off(shape->mesh.vertices[v].cast<double>()));
      }
      // A millionth of the loft's size, and the mesh's own rounding.
      EXPECT_LT(worst, 6e-5 * std::max(size, 0.1)) << size;
    }
  }
}

TEST(LoftSkin, GoesStraightOnFromMoreThanTwoSections) {
  // A stump whose sides bend: what is beyond the last section continues their slope there.
  Stack ground;
  Loft loft;
  const auto half = [](double z) { return 10 + 0.01 * z * z; };
  for (const double z : {0.0, 10.0, 20.0}) {
    sketch::Sketch s;
    const std::array<sketch::Id, 4> p{
        s.add_point({-half(z), -half(z)}), s.add_point({half(z), -half(z)}),
        s.add_point({half(z), half(z)}), s.add_point({-half(z), half(z)})};
    for (std::size_t k = 0; k < 4; ++k) s.add_line(p[k], p[(k + 1) % 4]);
    loft.sections.push_back(ground.section(s, z));
  }
  loft.beyond_end.value = 5;
  loft.beyond_start.value = 2;
  const auto made = ground.loft(loft);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_TRUE(made->valid());
  EXPECT_NEAR(made->box().max().z(), 25, 1e-6);
  EXPECT_NEAR(made->box().min().z(), -2, 1e-6);
  // At 20 it is 14 wide and widens by 0.4 a millimetre; at 0 it stands upright.
  EXPECT_NEAR(made->box().max().x(), 14 + 5 * 0.4, 1e-4);
  double volume = 2 * 20 * 20;
  constexpr int kSlices = 4000;
  for (int k = 0; k < kSlices; ++k) {
    const double z = 25 * (k + 0.5) / kSlices;
    const double h = z < 20 ? half(z) : 14 + 0.4 * (z - 20);
    volume += 4 * h * h * 25 / kSlices;
  }
  EXPECT_NEAR(made->volume(), volume, 1e-5 * volume);
}

TEST(LoftSkin, RingsAreNotTwistedByWhereTheyBegin) {
  for (const double size : {0.1, 1.0, 30.0}) {
    Stack ground;
    Loft loft;
    // Each circle begins elsewhere, as sketches on planes with other axes do.
    for (int k = 0; k < 4; ++k)
      loft.sections.push_back(ground.circle(8 * size, 10 * size * k, 0.9 * k));
    loft.beyond_end.value = 5 * size;
    const auto made = ground.loft(loft);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_TRUE(made->valid());
    const double volume = kPi * 64 * 35 * size * size * size;
    EXPECT_NEAR(made->volume(), volume, 1e-5 * volume);
    EXPECT_EQ(made->face_count(), 3U);
  }
}

TEST(LoftSkin, OpenSectionsSpanASurface) {
  Stack ground;
  Loft loft;
  loft.surface = true;
  for (int k = 0; k < 3; ++k) {
    sketch::Sketch s;
    const sketch::Id a = s.add_point({0, 0});
    const sketch::Id b = s.add_point({20, 0});
    const sketch::Id c = s.add_point({30, 8});
    if (k == 1) {  // told the other way round
      s.add_line(c, b);
      s.add_line(b, a);
    } else {
      s.add_line(a, b);
      s.add_line(b, c);
    }
    loft.sections.push_back(ground.section(s, 10.0 * k));
  }
  const auto made = ground.loft(loft);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_TRUE(made->valid());
  EXPECT_TRUE(made->has(model::BodyKind::Surface));
  EXPECT_EQ(made->face_count(), 2U);
  EXPECT_NEAR(made->area(), 20 * (20 + std::hypot(10, 8)), 1e-5 * 656);
}

TEST(LoftSkin, ItsRootIsRounded) {
  // A vane that stands in a plate: its four edges there meet at corners.
  for (const double size : {0.3, 1.0, 10.0}) {
    const Vane vane{size};
    Stack ground;
    ground.before =
        testing::PartBuilder().box(size * Vec2(-20, -50), size * Vec2(70, 50), 0, size * 8).solid();
    Loft loft = vane.through(ground, {10, 20, 29});
    loft.beyond_start.value = size * 6;
    const auto with = ground.loft(loft);
    ASSERT_TRUE(with) << with.error().message;
    model::Fillet root;
    root.radius.value = size;
    const auto shape = model::tessellate(*with);
    for (const auto& line : shape->edges) {
      const bool at_root = std::all_of(line.points.begin(), line.points.end(), [&](const Vec3& p) {
        return std::abs(p.z() - 8 * size) < 1e-4 * size && std::abs(p.y()) < 45 * size &&
               p.x() > -15 * size && p.x() < 65 * size;
      });
      if (at_root) root.edges.push_back(with->ref_of_edge(line.edge, line.points.front()));
    }
    ASSERT_EQ(root.edges.size(), 4U);
    const auto rounded = testing::attempt(root, *with);
    ASSERT_TRUE(rounded) << rounded.error().message;
    EXPECT_TRUE(rounded->valid());
    // Between floor and wall at an angle w the round leaves R^2 (cot w/2 - (pi - w) / 2); the wall
    // leans as the vane does at its lowest section, straight on from there.
    const Vec2 lean(0.3 + 2 * 0.004 * 10, -0.1 + 2 * 0.006 * 10);
    const auto left = [&](const Vec2& outwards, double length) {
      const double w = kPi / 2 - std::atan(outwards.dot(lean));
      return size * size * (1 / std::tan(w / 2) - (kPi - w) / 2) * length * size;
    };
    double more = 0;
    constexpr int kParts = 400;
    for (int k = 0; k < kParts; ++k) {
      const double a = vane.from + (vane.to - vane.from) * (k + 0.5) / kParts;
      const Vec2 out(std::cos(a), std::sin(a));
      const double share = (vane.to - vane.from) / kParts;
      more += left(out, vane.outer * share) + left(-out, vane.inner * share);
    }
    more += left({std::sin(vane.from), -std::cos(vane.from)}, vane.outer - vane.inner);
    more += left({-std::sin(vane.to), std::cos(vane.to)}, vane.outer - vane.inner);
    EXPECT_NEAR(rounded->volume() - with->volume(), more, 0.03 * more);
  }
}

}  // namespace
}  // namespace lostline
