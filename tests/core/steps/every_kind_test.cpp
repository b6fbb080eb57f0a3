// Every kind of step with numbers, choices and picks by chance, on a part that has everything a
// step may ask for: what comes out is sound, or the step says why it cannot.
#include <random>

#include "model/steps/kinds.h"
#include "model/steps/patch_face/patch_face.h"
#include "model/steps/space_curve/space_curve.h"
#include "sketch/drawing.h"
#include "step_trial.h"
#include "support/rounds.h"

namespace lostline {
namespace {

using model::Id;

/// A plate with a boss and a hole, a block that it runs into, two curves in space and two surfaces
/// that meet, and sketches.
struct Ground {
  std::map<Id, model::PlacedSketch> sketches;
  std::vector<model::Step> steps;
  model::Model part;

  Ground() {
    sketch::Sketch square;
    EXPECT_TRUE(sketch::draw_rectangle(square, {0, {-9, -6}}, {0, {9, 6}}));
    sketch::Sketch round;
    round.add_circle(round.add_point({4, 0}), 5);
    sketch::Sketch open;
    open.add_line(open.add_point({-20, 5}), open.add_point({20, 8}));
    sketch::Sketch turned;
    EXPECT_TRUE(sketch::draw_rectangle(turned, {0, {12, 2}}, {0, {18, 9}}));
    sketch::Sketch slanted;  // from the plate's top to the boss
    slanted.add_line(slanted.add_point({26, 19}), slanted.add_point({9, 46}));
    Placement upright;
    upright.y = Vec3::UnitZ();
    upright.normal = -Vec3::UnitY();
    Placement high;
    high.origin = Vec3(0, 0, 40);
    sketches = {{1, {square, {}, 0, {}}},
                {2, {round, high, 0, {}}},
                {3, {open, upright, 0, {}}},
                {4, {turned, upright, 0, {}}},
                {5, {slanted, upright, 0, {}}}};
    add(1, [] {
      model::SpaceCurve curve;
      curve.path.corners = {{0, 0, 10}, {10, 4, 30}, {30, 10, 45}};
      return curve;
    }());
    add(2, wavy(0));
    add(3, [] {
      model::SpaceCurve curve;
      curve.path.corners = {{0, 20, 10}, {12, 24, 30}, {30, 28, 40}};
      return curve;
    }());
    add(4, wavy(4));  // which goes on where the first one ends
    add(5, [] {
      model::Primitive block = testing::block(Vec3(20, 15, 15), 16);
      block.operation = model::Operation::NewBody;
      return block;
    }());
  }

 private:
  static model::PatchFace wavy(std::size_t first) {
    auto face = std::make_shared<patch::SplineSurface>(patch::SplineSurface::even(5, 5));
    for (std::size_t i = 0; i < 5; ++i)
      for (std::size_t j = 0; j < 5; ++j)
        face->poles[5 * i + j] =
            Vec3(25.0 * static_cast<double>(i + first) - 50, 20.0 * static_cast<double>(j) - 40,
                 12 + 2.0 * std::sin(1.0 * static_cast<double>((i + first) * j)));
    return model::PatchFace{face};
  }
  void add(Id id, const model::Feature& feature) {
    model::Step step;
    step.id = id;
    step.number = static_cast<int>(10 * id);
    step.name = "ground";
    step.feature = feature;
    if (part.empty()) part = testing::bossed(1, 5);
    const auto made = model::apply_feature(step, {sketches, steps}, part);
    ASSERT_TRUE(made) << made.error().message;
    part = *made;
    steps.push_back(step);
  }
};

/// Gives every part of a feature something by chance.
class ByChance : public model::Description {
 public:
  /// @param tame  choices, flags and loops stay as the kind has them: without that a kind of many
  /// parts is hardly ever sound.
  ByChance(const Ground& ground, unsigned seed, bool tame)
      : ground_(ground), random_(seed), tame_(tame) {}
  void number(const model::NumberInfo& info, model::Quantity& q) override {
    if (tame_ && some(2) == 0) return;
    const double most = info.is_angle() ? 1.4 : some(4) == 0 ? 60 : 8;
    q.value = std::uniform_real_distribution<double>(
        info.sign == model::NumberInfo::Sign::Positive ? 0 : -most, most)(random_);
  }
  void count(const model::CountInfo& info, int& n) override {
    n = info.least +
        static_cast<int>(some(static_cast<std::size_t>(std::min(info.most - info.least, 6) + 1)));
  }
  void flag(const char*, bool& on) override {
    if (!tame_) on = some(2) == 0;
  }
  void reference(const model::ReferenceInfo&, model::Reference& r) override {
    r = {};
    if (some(2) == 0)
      r.datum = static_cast<int>(some(3));
    else
      r.face = face();
  }
  void sketch(const char*, Id& id) override { sketch_ = id = 1 + some(5); }
  void curves(const char*, std::vector<sketch::Id>& ids) override {
    ids.clear();
    if (tame_ && some(2) == 0) return;  // all of them, for those who take loops
    for (const sketch::Entity& e : ground_.sketches.at(sketch_).sketch.entities)
      if (tame_ || some(3) != 0) ids.push_back(e.id);
  }
  void sketches(const model::SketchesInfo& info, std::vector<Id>& ids) override {
    ids.clear();
    for (std::size_t k = 0; k < std::min<std::size_t>(info.most, info.least + some(2)); ++k)
      ids.push_back(1 + some(5));
  }
  void edges(const char*, std::vector<model::EdgeRef>& edges) override {
    edges.clear();
    const auto shape = model::tessellate(ground_.part, {0.1, 0.3});
    ASSERT_TRUE(shape);
    for (std::size_t k = some(3); k > 0; --k) {
      const std::size_t edge = some(shape->edges.size());
      edges.push_back(ground_.part.ref_of_edge(edge, shape->edges[edge].points.front()));
    }
  }
  void faces(const char*, std::vector<std::string>& faces) override {
    faces.clear();
    for (std::size_t k = 0; k < 1 + some(2); ++k) faces.push_back(face());
  }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>& bodies) override {
    bodies.clear();
    const std::size_t count = info.required ? 1 + some(2) : !tame_ && some(3) == 0 ? 1 : 0;
    for (std::size_t k = 0; k < count; ++k)
      bodies.push_back(ground_.part.body(some(ground_.part.body_count())).key);
  }
  void path(const char*, model::SpacePath& path) override {
    path.corners = {{0, 0, 0}, {40, place(), 5}, {50, 40, place()}};
    path.bends = {6 + std::abs(place())};
  }
  void surface(const char*, std::shared_ptr<const patch::SplineSurface>& face) override {
    face = ground_.steps[1].feature.as<model::PatchFace>()->face;
  }
  void surfaces(const char*, std::shared_ptr<const patch::SplineSurfaces>& surfaces) override {
    surfaces = std::make_shared<const patch::SplineSurfaces>(cube(1 + std::abs(place())));
  }
  void imported(const char*, std::shared_ptr<const model::Imported>& imported) override {
    auto other = std::make_shared<model::Imported>();
    other->file = "block.step";
    other->model = testing::bossed(0.2 + 0.1 * static_cast<double>(some(5)));
    imported = std::move(other);
  }
  void curve(const char*, sketch::Id& id) override {
    const auto& entities = ground_.sketches.at(sketch_).sketch.entities;
    id = entities[some(entities.size())].id;
  }
  void areas(const char*, std::vector<Vec2>& areas) override {
    areas.clear();
    if (!tame_ && some(3) == 0) areas.emplace_back(place(), place());
  }
  void step(const char*, Id& id) override { id = 1 + some(ground_.steps.size()); }
  void place(const char*, Transform& frame) override {
    frame.setIdentity();
    if (some(2) == 0) return;
    frame.rotate(Eigen::AngleAxisd(0.1 * place(), Vec3(1, 2, 2) / 3));
    frame.pretranslate(Vec3(place(), place(), place()));
  }

 private:
  void choose(const model::ChoiceInfo& info, int& value) override {
    if (!tame_) value = static_cast<int>(some(info.words.size()));
  }
  /// The sides of a cube about the origin, flat patches that share their borders' poles.
  static patch::SplineSurfaces cube(double half) {
    patch::SplineSurfaces sides;
    for (int axis = 0; axis < 3; ++axis) {
      for (const double sense : {-1.0, 1.0}) {
        patch::SplineSurface side = patch::SplineSurface::even(4, 4);
        for (std::size_t i = 0; i < 4; ++i) {
          for (std::size_t j = 0; j < 4; ++j) {
            Vec3& pole = side.poles[4 * i + j];
            pole[axis] = sense * half;
            pole[(axis + 1) % 3] = half * (2.0 / 3 * static_cast<double>(i) - 1);
            pole[(axis + 2) % 3] = half * (2.0 / 3 * static_cast<double>(j) - 1);
          }
        }
        sides.push_back(std::move(side));
      }
    }
    return sides;
  }
  std::size_t some(std::size_t of) { return of == 0 ? 0 : random_() % of; }
  double place() { return std::uniform_real_distribution<double>(-15, 15)(random_); }
  std::string face() { return ground_.part.face_name(some(ground_.part.face_count())); }

  const Ground& ground_;
  std::mt19937 random_;
  bool tame_;
  Id sketch_ = 1;
};

TEST(EveryKind, IsSoundOrSaysWhyNot) {
  const Ground ground;
  const unsigned rounds = testing::rounds(200, 8, 3);
  for (const model::FeatureKind* kind : model::feature_kinds()) {
    unsigned sound = 0;
    std::string refusal;  // the last one
    // Where none of these is sound more are tried: a kind that is always refused is no kind.
    constexpr unsigned kMost = 300;
    for (unsigned seed = 0; seed < rounds || (sound == 0 && seed < kMost); ++seed) {
      SCOPED_TRACE(std::string(kind->key) + " " + std::to_string(seed));
      model::Feature feature = kind->make();
      // Twice: what is in force follows from choices that come later or earlier.
      ByChance chance(ground, 977 * seed + 13, seed % 2 == 1);
      feature.describe(chance);
      if (seed % 2 == 0) feature.describe(chance);
      model::Step step;
      step.id = 90;
      step.number = 900;
      step.name = "trial";
      step.feature = feature;
      std::map<Id, model::Model> before;
      for (const model::Step& s : ground.steps) before[s.id] = ground.part;
      const auto made =
          model::apply_feature(step, {ground.sketches, ground.steps, &before}, ground.part);
      if (made) {
        EXPECT_TRUE(made->valid());
        ++sound;
      } else {
        refusal = made.error().message;
        EXPECT_GT(refusal.size(), 15U);
      }
    }
    EXPECT_GT(sound, 0U) << kind->key << ": " << refusal;
    std::printf("%-16s %u of %u sound\n", kind->key, sound, rounds);
    std::fflush(stdout);
  }
}

}  // namespace
}  // namespace lostline
