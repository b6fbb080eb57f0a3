#pragma once

#include "../part_builder.h"
#include "model/faces.h"
#include "model/steps/primitive/primitive.h"
#include "project/edits.h"
#include "reading/step_reading.h"
#include "simulate/scanner.h"

// One step tried on a solid, for the tests of the kinds.

namespace lostline::testing {

/// A plate of 60 x 40 x 20 with a boss of radius 10 up to 50, bored where `bore` is not zero; all
/// `size` times as large.
inline model::Model bossed(double size, double bore = 0) {
  PartBuilder part;
  part.box(size * Vec2(-30, -20), size * Vec2(30, 20), 0, size * 20)
      .disc({0, 0}, size * 10, size * 20, size * 50);
  if (bore > 0) part.disc({0, 0}, size * bore, 0, size * 50, model::Operation::Cut);
  return part.solid();
}

/// Name of the face that comes nearest to a place.
inline std::string face_near(const model::Model& solid, const Vec3& place) {
  const auto shape = model::tessellate(solid, {0.02, 0.1});
  EXPECT_TRUE(shape);
  const scan::MeshIndex index(shape->mesh);
  return solid.face_name(shape->triangle_face[index.nearest(place)->triangle]);
}

/// A cube by the middle of it, added.
inline model::Primitive block(const Vec3& centre, double side) {
  model::Primitive made;
  made.shape = model::Primitive::Shape::Block;
  made.x_from.value = centre.x() - side / 2;
  made.x_to.value = centre.x() + side / 2;
  made.y_from.value = centre.y() - side / 2;
  made.y_to.value = centre.y() + side / 2;
  made.z_from.value = centre.z() - side / 2;
  made.z_to.value = centre.z() + side / 2;
  return made;
}

/// A step on a part that is there already.
inline Result<model::Model> attempt(model::Feature feature, const model::Model& before) {
  model::Step step;
  step.id = 90;
  step.name = "trial";
  step.feature = std::move(feature);
  const std::map<model::Id, model::PlacedSketch> sketches;
  const std::vector<model::Step> steps{step};
  return model::apply_feature(step, {sketches, steps}, before);
}

/// A project that holds a surveyed scan of a part, in the part's own coordinates.
inline project::Document scan_document(const model::Model& part, double spacing, double noise,
                                       std::uint64_t seed) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.noise = noise;
  options.seed = seed;
  options.strays = 0;
  options.random_pose = false;
  options.chord = std::max(options.chord, 0.3 * noise);
  auto scan = simulate::simulate_scan(part, {}, options);
  EXPECT_TRUE(scan);
  auto prepared = project::prepare_scan(std::move(scan->mesh), "trial", "", Unit::Millimetre);
  EXPECT_TRUE(prepared);
  project::Document document = project::with_scan({}, *prepared);
  const auto found = survey::split_into_regions(*document.scan->mesh, document.scan->topology);
  EXPECT_TRUE(found);
  document.survey = std::make_shared<const survey::Survey>(*found);
  return document;
}

}  // namespace lostline::testing
