// A datum frame set anew: every part of every step goes with it, so that the model lies on the scan
// as it did.
#include <map>

#include "model/faces.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/import/import.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/move_body/move_body.h"
#include "model/steps/primitive/primitive.h"
#include "plate_scan.h"
#include "steps/step_trial.h"

namespace lostline {
namespace {

using project::Document;

model::Model made(const Document& d) {
  model::RouteCache cache;
  const auto results = model::recompute(d.steps, d.placed_sketches(), cache);
  EXPECT_TRUE(results);
  for (const model::StepResult& r : *results)
    EXPECT_EQ(r.state, model::StepState::Sound) << r.reason;
  return results->back().solid;
}

/// Where each face's surface lies on the scan, by the face's name.
std::map<std::string, fit::Surface> on_scan(const Document& d) {
  const model::Model model = made(d);
  std::map<std::string, fit::Surface> surfaces;
  for (std::size_t f = 0; f < model.face_count(); ++f) {
    const auto found = model::surface_of_face(model, f);
    if (found) surfaces[model.face_name(f)] = fit::transformed(*found, d.to_part().inverse());
  }
  return surfaces;
}

void expect_same_place(const Document& before, const Document& after) {
  const auto was = on_scan(before);
  const auto is = on_scan(after);
  for (const auto& [name, s] : is) EXPECT_TRUE(was.contains(name)) << name << " is new";
  ASSERT_EQ(was.size(), is.size());
  const model::Model a = made(before);
  const model::Model b = made(after);
  EXPECT_NEAR(a.volume(), b.volume(), 1e-6 * a.volume());
  for (const auto& [name, s] : was) {
    SCOPED_TRACE(name);
    ASSERT_TRUE(is.contains(name));
    const fit::Surface& t = is.at(name);
    ASSERT_EQ(s.kind, t.kind);
    EXPECT_NEAR(s.radius, t.radius, 1e-6);
    EXPECT_EQ(s.hollow, t.hollow);
    const bool flat = fit::is_flat(s.kind);
    if (flat) {
      EXPECT_GT(s.axis.dot(t.axis), 1 - 1e-9);
    }
    const Vec3 off = s.point - t.point;
    EXPECT_LT(flat ? std::abs(off.dot(s.axis)) : off.cross(s.axis).norm(), 1e-5);
  }
}

class FrameFollow : public testing::PlateJob {
 protected:
  /// The plate from its outline, drawn and not fitted, so that the frame alone moves it.
  static Document plate() {
    project::TracedSketch t = half_height();
    t.drawn = true;
    const auto added = project::add_sketch(*framed_, t);
    EXPECT_TRUE(added);
    model::Extrude plate;
    plate.sketch = added->id;
    plate.extent.to.value = testing::PlateScan::kHeight;
    return project::add_step(added->document, plate, "plate", {}).document;
  }
  static Document with(const Document& d, model::Feature feature, const char* name) {
    return project::add_step(d, std::move(feature), name, {}).document;
  }
  /// The same plate seen from elsewhere: turned over, its length along another axis.
  static Document reframed(const Document& d, datum::Axis primary, datum::Axis secondary) {
    project::DatumFrame spec;
    spec.primary.region = region({0, 0, -1});
    spec.primary_axis = primary;
    spec.secondary = {{region({1, 0, 0}), 0}};
    spec.secondary_axis = secondary;
    spec.origin = {{region({0, -1, 0}), 0}};
    const auto next = project::set_frame(d, spec);
    EXPECT_TRUE(next) << next.error().message;
    return *next;
  }
  static void try_frames(const Document& d) {
    using datum::Axis;
    for (const auto& [primary, secondary] :
         {std::pair{Axis::Z, Axis::X}, std::pair{Axis::MinusZ, Axis::MinusX},
          std::pair{Axis::Y, Axis::Z}, std::pair{Axis::MinusX, Axis::Y}}) {
      const Document there = reframed(d, primary, secondary);
      expect_same_place(d, there);
      // And back: nothing is left of it.
      const auto back = project::set_frame(there, *d.frame);
      ASSERT_TRUE(back);
      expect_same_place(d, *back);
    }
  }
};

TEST_F(FrameFollow, AFilletStaysOnItsEdge) {
  Document d = plate();
  const model::Model solid = made(d);
  const auto shape = model::tessellate(solid);
  ASSERT_TRUE(shape);
  // One of the four upright edges of the plate.
  for (const auto& edge : shape->edges) {
    const Vec3 a = edge.points.front();
    const Vec3 b = edge.points.back();
    if (edge.points.size() != 2 || std::abs((a - b).z()) < 5) continue;
    model::Fillet round;
    round.edges = {solid.ref_of_edge(edge.edge, 0.5 * (a + b))};
    round.radius.value = 3;
    d = with(d, round, "round");
    break;
  }
  ASSERT_EQ(d.steps.size(), 2U);
  try_frames(d);
}

TEST_F(FrameFollow, BlocksAndCylindersStay) {
  Document d = with(plate(), testing::block(Vec3(12, 9, 12), 8), "block");
  model::Primitive pin;
  pin.on.datum = 2;
  pin.radius.value = 3;
  pin.from.value = 2;
  pin.to.value = 17;
  pin.operation = model::Operation::NewBody;
  d = with(d, pin, "pin");
  try_frames(d);
}

TEST_F(FrameFollow, MirrorsAboutADatumAndMovedBodiesStay) {
  Document d = with(plate(), testing::block(Vec3(12, 9, 12), 8), "block");
  model::Mirror mirror;
  mirror.source = d.steps.back().id;
  mirror.plane.datum = 0;
  d = with(d, mirror, "other block");
  model::Primitive pin = testing::block(Vec3(0, 0, 40), 6);
  pin.operation = model::Operation::NewBody;
  d = with(d, pin, "pin");
  model::MoveBody move;
  move.bodies = {"s" + std::to_string(d.steps.back().id)};
  move.x.value = 4;
  move.y.value = -7;
  move.angle.value = 0.3;
  move.axis.datum = 1;
  d = with(d, move, "moved");
  try_frames(d);
}

TEST_F(FrameFollow, ImportsStayOnTheScan) {
  auto imported = std::make_shared<model::Imported>();
  imported->file = "boss.step";
  imported->hash = 1;
  imported->model = testing::bossed(0.5, 3);
  model::Import import;
  import.model = imported;
  try_frames(with(plate(), import, "boss"));
}

TEST_F(FrameFollow, APickedAreaStaysTheOneThatWasPicked) {
  project::TracedSketch t = half_height();
  t.drawn = true;
  const auto added = project::add_sketch(*framed_, t);
  ASSERT_TRUE(added);
  model::Extrude ring;
  ring.sketch = added->id;
  ring.areas = {Vec2(20, 12)};  // beside the bore
  ring.extent.to.value = 10;
  try_frames(with(added->document, ring, "ring"));
}

TEST_F(FrameFollow, AFrameThatIsNearlyTheSameLeavesStepsAsTheyWere) {
  Document d = with(plate(), testing::block(Vec3(12, 9, 12), 8), "block");
  project::DatumFrame spec = *d.frame;
  const auto again = project::set_frame(d, spec);
  ASSERT_TRUE(again);
  EXPECT_TRUE(
      again->steps.back().feature.as<model::Primitive>()->frame.isApprox(Transform::Identity(), 0));
}

}  // namespace
}  // namespace lostline
