// A name means the face that bore it when it was picked, whatever has been made of it since.
#include "model/face_refs.h"

#include "model/steps/fillet/fillet.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/offset_face/offset_face.h"
#include "steps/step_trial.h"

namespace lostline {
namespace {

using model::FacesMeant;
using model::Model;
using Answer = FacesMeant::Answer;

/// The Route of some steps, each with an id that stays whatever is before it.
struct Route {
  std::vector<model::Step> steps;
  model::Id add(model::Feature feature, std::size_t place) {
    model::Step step;
    step.id = ++last;
    step.number = static_cast<int>(10 * step.id);
    step.name = "step " + std::to_string(step.id);
    step.feature = std::move(feature);
    steps.insert(steps.begin() + static_cast<std::ptrdiff_t>(std::min(place, steps.size())), step);
    return step.id;
  }
  model::Id add(model::Feature feature) { return add(std::move(feature), steps.size()); }
  [[nodiscard]] std::vector<model::StepResult> made() const {
    model::RouteCache cache;
    const auto results = model::recompute(steps, {}, cache);
    EXPECT_TRUE(results);
    return *results;
  }
  [[nodiscard]] Model model() const {
    const auto results = made();
    for (const auto& r : results) EXPECT_NE(r.state, model::StepState::Broken) << r.reason;
    return results.back().solid;
  }
  model::Id last = 0;
};

model::Primitive box(const Vec3& low, const Vec3& high,
                     model::Operation operation = model::Operation::Add) {
  model::Primitive b;
  b.shape = model::Primitive::Shape::Block;
  b.x_from.value = low.x();
  b.x_to.value = high.x();
  b.y_from.value = low.y();
  b.y_to.value = high.y();
  b.z_from.value = low.z();
  b.z_to.value = high.z();
  b.operation = operation;
  return b;
}

model::Primitive slot(double at, double wide = 6) {
  return box(Vec3(at, -50, 12), Vec3(at + wide, 50, 40), model::Operation::Cut);
}

class FaceRefs : public ::testing::TestWithParam<double> {
 protected:
  // A plate of 60 x 40 x 20, at every size.
  void SetUp() override { plate_.add(scaled(box(Vec3(-30, -20, 0), Vec3(30, 20, 20)))); }
  [[nodiscard]] model::Primitive scaled(model::Primitive b) const {
    for (model::Quantity* q : {&b.x_from, &b.x_to, &b.y_from, &b.y_to, &b.z_from, &b.z_to})
      q->value *= GetParam();
    return b;
  }
  [[nodiscard]] model::OffsetFace raised(const std::string& face, double by) const {
    model::OffsetFace offset;
    offset.faces = {face};
    offset.distance.value = by * GetParam();
    return offset;
  }
  [[nodiscard]] double volume(const Model& m) const { return m.volume() / std::pow(GetParam(), 3); }
  Route plate_;
};

TEST_P(FaceRefs, AWholeFaceIsRaisedWholeWhateverPartsItBefore) {
  plate_.add(raised("s1:z_high", 3));
  EXPECT_NEAR(volume(plate_.model()), 60 * 40 * 23, 1e-6);
  // A slot before it, wherever it is: both sides are raised.
  for (const double at : {-20.0, -3.0, 15.0}) {
    Route with = plate_;
    with.add(scaled(slot(at)), 1);
    EXPECT_NEAR(volume(with.model()), 54 * 40 * 23 + 6 * 40 * 12, 1e-6) << at;
    // And two of them.
    with.add(scaled(slot(at + 8)), 1);
    EXPECT_NEAR(volume(with.model()), 48 * 40 * 23 + 12 * 40 * 12, 1e-6) << at;
    // Parked, the plate is what it was.
    with.steps[1].parked = with.steps[2].parked = true;
    EXPECT_NEAR(volume(with.model()), 60 * 40 * 23, 1e-6);
  }
}

TEST_P(FaceRefs, APieceIsThatPieceOrTheStepSaysWhyNot) {
  plate_.add(scaled(slot(-3)));
  const Model parted = plate_.model();
  const std::string left = testing::face_near(parted, GetParam() * Vec3(-20, 0, 20));
  const std::string right = testing::face_near(parted, GetParam() * Vec3(20, 0, 20));
  ASSERT_NE(left, right);
  EXPECT_EQ(model::faces_meant(parted, left).answer, Answer::One);
  EXPECT_EQ(model::faces_meant(parted, "s1:z_high").answer, Answer::Several);
  EXPECT_EQ(model::faces_meant(parted, "s1:z_high").faces.size(), 2U);
  EXPECT_EQ(model::faces_meant(parted, "s1:nothing").answer, Answer::Gone);
  EXPECT_EQ(model::faces_meant(parted, "").answer, Answer::Gone);
  EXPECT_EQ(model::faces_meant(Model(), left).answer, Answer::Gone);
  plate_.add(raised(left, 3));
  EXPECT_NEAR(volume(plate_.model()), 27 * 40 * 23 + 27 * 40 * 20 + 6 * 40 * 12, 1e-6);
  // With the slot gone there is no left piece, and nothing is raised in its place.
  Route whole = plate_;
  whole.steps[1].parked = true;
  const auto results = whole.made();
  EXPECT_EQ(results.back().state, model::StepState::Broken);
  EXPECT_NE(results.back().reason.find("ambiguous"), std::string::npos) << results.back().reason;
  EXPECT_NEAR(volume(results.back().solid), 60 * 40 * 20, 1e-6);
}

TEST_P(FaceRefs, AHalfThatWasCutAwayIsNotReplacedByTheOther) {
  plate_.add(scaled(slot(-3)));
  const std::string left = testing::face_near(plate_.model(), GetParam() * Vec3(-20, 0, 20));
  plate_.add(raised(left, 3));
  // All that lies left of the slot goes.
  plate_.add(scaled(box(Vec3(-60, -60, -5), Vec3(-3, 60, 60), model::Operation::Cut)), 2);
  const auto results = plate_.made();
  EXPECT_EQ(results.back().state, model::StepState::Broken);
  EXPECT_GT(results.back().reason.size(), 20U);
}

TEST_P(FaceRefs, APlaneOfAPartedFaceIsItsPlane) {
  model::Mirror mirror;
  const auto wing = plate_.add(scaled(box(Vec3(30, -5, 5), Vec3(40, 5, 10))));
  mirror.source = wing;
  mirror.plane.face = "s1:x_low";
  plate_.add(mirror);
  plate_.add(scaled(box(Vec3(-40, -50, 8), Vec3(-25, 50, 12), model::Operation::Cut)), 1);
  // The mirrored wing lies as far beyond that plane as the wing before it, a body of its own.
  const Model both = plate_.model();
  EXPECT_NEAR(volume(both), 60 * 40 * 20 - 5 * 40 * 4 + 2 * 10 * 10 * 5, 1e-6);
  ASSERT_EQ(both.body_count(), 2U);
  EXPECT_NEAR(both.box().min().x(), -100 * GetParam(), 1e-6 * GetParam());
}

TEST_P(FaceRefs, AWholePartMirroredHasNoNameTwice) {
  plate_.add(scaled(box(Vec3(30, -5, 5), Vec3(40, 5, 10))));
  plate_.add(scaled(box(Vec3(-5, -5, 20), Vec3(5, 5, 30))));
  model::Mirror mirror;
  mirror.plane.face = "s1:x_low";
  plate_.add(mirror);
  const Model both = plate_.model();
  std::set<std::string> names;
  for (std::size_t f = 0; f < both.face_count(); ++f) {
    const std::string& name = both.face_name(f);
    EXPECT_TRUE(names.insert(name).second) << name;
    EXPECT_EQ(model::faces_meant(both, name).answer, Answer::One) << name;
    EXPECT_EQ(model::faces_meant(both, name).faces.front(), f) << name;
  }
  // Names from before tell which of two steps a face was mirrored from in no way.
  EXPECT_EQ(model::faces_meant(both, "s4:m:z_high").answer, Answer::Ambiguous);
}

TEST_P(FaceRefs, AnEdgeThatIsPartedIsRoundedWhole) {
  const Model plain = plate_.model();
  const auto shape = model::tessellate(plain);
  ASSERT_TRUE(shape);
  model::Fillet round;
  round.radius.value = 2 * GetParam();
  for (const auto& edge : shape->edges) {
    const Vec3 middle = 0.5 * (edge.points.front() + edge.points.back()) / GetParam();
    if ((middle - Vec3(0, -20, 20)).norm() > 0.1) continue;
    // Picked near one of its ends.
    round.edges = {plain.ref_of_edge(edge.edge, GetParam() * Vec3(-28, -20, 20))};
  }
  ASSERT_EQ(round.edges.size(), 1U);
  plate_.add(round);
  const double corner = (1 - std::numbers::pi / 4) * 4;  // mm2 that a round of 2 takes away
  EXPECT_NEAR(volume(plate_.model()), 60 * 40 * 20 - 60 * corner, 1e-3);
  for (const double at : {-20.0, 5.0}) {
    Route with = plate_;
    with.add(scaled(slot(at)), 1);
    EXPECT_NEAR(volume(with.model()), 60 * 40 * 20 - 6 * 40 * 8 - 54 * corner, 1e-3) << at;
  }
}

INSTANTIATE_TEST_SUITE_P(Sizes, FaceRefs, ::testing::Values(0.1, 1.0, 50.0));

}  // namespace
}  // namespace lostline
