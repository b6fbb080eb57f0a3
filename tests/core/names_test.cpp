// Persistent names: of pieces, of rounds, and of edges that are gone.
#include <Eigen/Geometry>

#include "model/edge_refs.h"
#include "model/face_refs.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "part_builder.h"
#include "steps/step_trial.h"

namespace lostline {
namespace {

using testing::attempt;
using testing::PartBuilder;

sketch::Sketch rectangle(const Vec2& low, const Vec2& high) {
  sketch::Sketch s;
  const auto a = s.add_point(low);
  const auto b = s.add_point({high.x(), low.y()});
  const auto c = s.add_point(high);
  const auto d = s.add_point({low.x(), high.y()});
  s.add_line(a, b);
  s.add_line(b, c);
  s.add_line(c, d);
  s.add_line(d, a);
  return s;
}

/// A block whose top two slots split in three, the outer ones alike, in a frame of its own.
model::Model slotted(const Transform& frame, double length = 60) {
  const auto placed = [&](const sketch::Sketch& s) {
    Placement base;
    base.origin = frame * Vec3::Zero();
    base.x = frame.linear() * Vec3::UnitX();
    base.y = frame.linear() * Vec3::UnitY();
    base.normal = frame.linear() * Vec3::UnitZ();
    return model::PlacedSketch{s, base, 0, {}};
  };
  const std::map<model::Id, model::PlacedSketch> sketches{
      {1, placed(rectangle({0, 0}, {length, 40}))},
      {2, placed(rectangle({10, -5}, {20, 45}))},
      {3, placed(rectangle({length - 20, -5}, {length - 10, 45}))}};
  std::vector<model::Step> steps;
  for (const model::Id id : {1, 2, 3}) {
    model::Extrude e;
    e.sketch = id;
    e.operation = id == 1 ? model::Operation::Add : model::Operation::Cut;
    e.extent.from.value = id == 1 ? 0 : 12;
    e.extent.to.value = id == 1 ? 20 : 30;
    steps.push_back({id, static_cast<int>(10 * id), "step", false, e});
  }
  model::RouteCache cache;
  const auto results = model::recompute(steps, sketches, cache);
  EXPECT_TRUE(results);
  EXPECT_EQ(results->back().state, model::StepState::Sound) << results->back().reason;
  return results->back().solid;
}

/// Middle of every face by its name.
std::map<std::string, Vec3> middles(const model::Model& solid) {
  std::map<std::string, Vec3> all;
  const auto shape = model::tessellate(solid);
  std::map<std::uint32_t, std::pair<Vec3, double>> sums;
  for (std::size_t t = 0; t < shape->triangle_face.size(); ++t) {
    const double area = shape->mesh.area_vector(t).norm();
    auto& [sum, total] = sums.try_emplace(shape->triangle_face[t], Vec3::Zero(), 0).first->second;
    sum += area * shape->mesh.centroid(t);
    total += area;
  }
  for (const auto& [face, sum] : sums) all[solid.face_name(face)] = sum.first / sum.second;
  EXPECT_EQ(all.size(), solid.face_count());  // no name twice
  return all;
}

TEST(Names, PiecesKeepTheirsWhenTheFrameIsTurned) {
  const auto straight = middles(slotted(Transform::Identity()));
  std::mt19937_64 random(3);
  std::uniform_real_distribution<double> uniform(-1, 1);
  for (int k = 0; k < 8; ++k) {
    Transform frame = Transform::Identity();
    frame.linear() =
        Eigen::AngleAxisd(3 * uniform(random),
                          Vec3(uniform(random), uniform(random), uniform(random)).normalized())
            .toRotationMatrix();
    frame.translation() = 100 * Vec3(uniform(random), uniform(random), uniform(random));
    const auto turned = middles(slotted(frame));
    ASSERT_EQ(turned.size(), straight.size());
    for (const auto& [name, middle] : straight) {
      const auto it = turned.find(name);
      ASSERT_NE(it, turned.end()) << name;
      EXPECT_LT((it->second - frame * middle).norm(), 1e-6) << name;
    }
  }
}

TEST(Names, PiecesKeepTheirsWhenASizeChanges) {
  const auto one = middles(slotted(Transform::Identity()));
  const auto other = middles(slotted(Transform::Identity(), 90));
  for (const auto& [name, middle] : one) {
    const auto it = other.find(name);
    ASSERT_NE(it, other.end()) << name;
    // On the same side of the middle, where it is off it, and as high.
    if (std::abs(middle.x() - 30) > 5) {
      EXPECT_GT((middle.x() - 30) * (it->second.x() - 45), 0) << name;
    }
    EXPECT_NEAR(middle.z(), it->second.z(), 1) << name;
  }
}

TEST(Names, ThePiecesNumbersOfOlderProjectsAreStillFound) {
  const model::Model part = slotted(Transform::Identity());
  // Numbered by place in space; the plain name means the whole face, as it did when it was picked.
  EXPECT_EQ(model::faces_meant(part, "s1:end").faces.size(), 3U);
  EXPECT_EQ(model::faces_meant(part, "s1:end#2").faces.size(), 2U);  // split by the second slot
  EXPECT_EQ(model::faces_meant(part, "s1:end#2#2").answer, model::FacesMeant::Answer::One);
  EXPECT_EQ(model::faces_meant(part, "s1:end#3").answer, model::FacesMeant::Answer::Ambiguous);
  const auto all = middles(part);
  const auto place = [&](const std::string& name) {
    std::vector<double> xs;
    for (const std::size_t face : model::faces_meant(part, name).faces)
      xs.push_back(all.at(part.face_name(face)).x());
    std::sort(xs.begin(), xs.end());
    return xs;
  };
  const std::vector<double> whole = place("s1:end");
  EXPECT_EQ(place("s1:end#2"), std::vector<double>(whole.begin() + 1, whole.end()));
  EXPECT_EQ(place("s1:end#2#2"), std::vector<double>{whole.back()});
}

model::EdgeRef edge_at(const model::Model& solid, const Vec3& place) {
  const auto shape = model::tessellate(solid);
  model::EdgeRef nearest;
  double best = 1e300;
  for (const auto& line : shape->edges) {
    for (const Vec3& p : line.points) {
      if ((p - place).norm() >= best) continue;
      best = (p - place).norm();
      nearest = solid.ref_of_edge(line.edge, place);
    }
  }
  return nearest;
}

TEST(Names, ARoundIsNamedForItsFacesNotItsPlaceInTheList) {
  const model::Model part = PartBuilder().box({0, 0}, {60, 40}, 0, 20).solid();
  const model::EdgeRef top = edge_at(part, {60, 20, 20});
  const model::EdgeRef bottom = edge_at(part, {0, 40, 0});
  const auto one = attempt(model::Fillet{{top, bottom}, {3, 0}}, part);
  const auto other = attempt(model::Fillet{{bottom, top}, {3, 0}}, part);
  ASSERT_TRUE(one);
  ASSERT_TRUE(other);
  const auto a = middles(*one);
  const auto b = middles(*other);
  ASSERT_EQ(a.size(), b.size());
  for (const auto& [name, middle] : a) {
    ASSERT_TRUE(b.contains(name)) << name;
    EXPECT_LT((b.at(name) - middle).norm(), 1e-6) << name;
  }
  // What projects of before called it is known as well.
  EXPECT_TRUE(one->find_face("s90:fillet:0"));
}

TEST(Names, AnEdgeThatIsGoneOrCannotBeToldIsSaid) {
  const model::Model part = slotted(Transform::Identity());
  const model::EdgeRef edge = edge_at(part, {0, 0, 20});
  ASSERT_TRUE(part.find_edge(edge));
  model::EdgeRef gone = edge;
  gone.face_b = "s7:end";
  EXPECT_FALSE(part.find_edge(gone));
  // Of the whole top it is the edge of all its pieces, wherever on it it was picked.
  model::EdgeRef between = edge_at(part, {5, 0, 20});
  std::string& top = between.face_a.starts_with("s1:end") ? between.face_a : between.face_b;
  top = "s1:end";
  for (const double x : {15.0, 30.0}) {
    between.near = Vec3(x, 0, 20);
    const auto meant = model::edges_meant(part, between);
    ASSERT_TRUE(meant) << meant.error().message;
    EXPECT_EQ(meant->size(), 3U);
  }
}

}  // namespace
}  // namespace lostline
