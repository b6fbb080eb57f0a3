// What follows from the description of a kind of step, tried on every kind there is.
#include <nlohmann/json.hpp>

#include "model/steps/kinds.h"
#include "project/edits.h"
#include "store/feature_json.h"
#include "support/places.h"

namespace lostline {
namespace {

using model::Feature;
using model::FeatureKind;

/// Gives the n-th part of a feature another value, counting from 0; says whether there was one.
class Change : public model::Description {
 public:
  explicit Change(int n) : left_(n) {}
  [[nodiscard]] bool done() const { return left_ < 0; }
  [[nodiscard]] const std::string& what() const { return what_; }
  [[nodiscard]] bool in_force() const { return in_force_; }
  void number(const model::NumberInfo& info, model::Quantity& q) override {
    if (!now(info.name)) return;
    q.value += 0.37;
    in_force_ = info.in_force;
  }
  void count(const model::CountInfo& info, int& n) override {
    if (now(info.name)) n = n < info.most ? n + 1 : info.least;
  }
  void flag(const char* name, bool& on) override {
    if (now(name)) on = !on;
  }
  void reference(const model::ReferenceInfo& info, model::Reference& r) override {
    if (!now(info.name)) return;
    r.datum = (r.datum + 1) % 3;
    in_force_ = info.in_force;
  }
  void sketch(const char* name, model::Id& id) override {
    if (now(name)) id = id == 1 ? 2 : 1;
  }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>& ids) override {
    if (now(info.name)) ids.push_back(ids.empty() ? 1 : 2);
  }
  void path(const char* name, model::SpacePath& path) override {
    if (!now(name)) return;
    path.corners = {Vec3(0, 0, 0), Vec3(50, 0, 0), Vec3(50, 60, 1.5)};
    path.bends = {20};
  }
  void surface(const char* name, std::shared_ptr<const patch::SplineSurface>& surface) override {
    if (!now(name)) return;
    auto other = std::make_shared<patch::SplineSurface>(patch::SplineSurface::even(4, 5));
    for (std::size_t k = 0; k < other->poles.size(); ++k)
      other->poles[k] = Vec3(static_cast<double>(k / 5), static_cast<double>(k % 5), 0.25);
    surface = std::move(other);
  }
  void curves(const char* name, std::vector<sketch::Id>& ids) override {
    if (now(name)) ids.push_back(17);
  }
  void curve(const char* name, sketch::Id& id) override {
    if (now(name)) ++id;
  }
  void areas(const char* name, std::vector<Vec2>& areas) override {
    if (now(name)) areas.emplace_back(1.5, -2.25);
  }
  void edges(const char* name, std::vector<model::EdgeRef>& edges) override {
    if (now(name)) edges.push_back({"s1:end", "s1:side:12", Vec3(1, 2, 3)});
  }
  void faces(const char* name, std::vector<std::string>& faces) override {
    if (now(name)) faces.emplace_back("s1:end");
  }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>& bodies) override {
    if (now(info.name)) bodies.emplace_back("s1");
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>& imported) override {
    if (!now(name)) return;
    auto other = std::make_shared<model::Imported>();
    other->file = "bracket.step";
    other->hash = imported ? imported->hash + 1 : 0xfedcba9876543210U;
    imported = std::move(other);
  }
  void step(const char* name, model::Id& id) override {
    if (now(name)) id += 1;
  }

 private:
  void choose(const model::ChoiceInfo& info, int& value) override {
    if (now(info.name)) value = (value + 1) % static_cast<int>(info.words.size());
  }
  bool now(const char* name) {
    if (left_ == 0) what_ = name;
    return left_-- == 0;
  }
  int left_;
  std::string what_;
  bool in_force_ = true;
};

/// A feature of a kind with each part in turn changed, and what that was.
struct Variant {
  Feature feature;
  std::string what;
  bool in_force;
};
std::vector<Variant> variants_of(const FeatureKind& kind) {
  std::vector<Variant> variants;
  for (int n = 0;; ++n) {
    Feature feature = kind.make();
    Change change(n);
    feature.describe(change);
    if (!change.done()) return variants;
    variants.push_back({std::move(feature), change.what(), change.in_force()});
  }
}

std::map<model::Id, model::PlacedSketch> two_sketches() {
  std::map<model::Id, model::PlacedSketch> sketches;
  sketches[1].sketch.add_point({0, 0});
  sketches[2].sketch.add_point({1, 0});
  return sketches;
}

TEST(Description, EveryPartSurvivesAFile) {
  for (const FeatureKind* kind : model::feature_kinds()) {
    const store::Json plain = store::write_feature(kind->make());
    for (const Variant& v : variants_of(*kind)) {
      const store::Json written = store::write_feature(v.feature);
      EXPECT_NE(written.dump(), plain.dump()) << kind->key << " " << v.what;
      Feature back = kind->make();
      store::read_feature(written, back);
      EXPECT_EQ(store::write_feature(back).dump(), written.dump()) << kind->key << " " << v.what;
    }
  }
}

TEST(Description, EveryPartInForceChangesTheResultsKey) {
  const auto sketches = two_sketches();
  for (const FeatureKind* kind : model::feature_kinds()) {
    const std::vector<model::Step> none;
    model::Step plain;
    plain.feature = kind->make();
    const auto key = model::content_key(plain, {sketches, none});
    for (const Variant& v : variants_of(*kind)) {
      model::Step step = plain;
      step.feature = v.feature;
      if (v.in_force) {
        EXPECT_NE(model::content_key(step, {sketches, none}), key) << kind->key << " " << v.what;
      } else {
        EXPECT_EQ(model::content_key(step, {sketches, none}), key) << kind->key << " " << v.what;
      }
    }
  }
}

TEST(Description, ASketchOrReferenceInUseIsSeenForEveryKind) {
  for (const FeatureKind* kind : model::feature_kinds()) {
    Feature feature = kind->make();
    struct Counter : model::Description {
      int count = 0;
      int references = 0;
      void sketch(const char*, model::Id& id) override {
        ++count;
        id = 7;
      }
      void sketches(const model::SketchesInfo&, std::vector<model::Id>& ids) override {
        ++count;
        ids.push_back(7);
      }
      void reference(const model::ReferenceInfo&, model::Reference&) override { ++references; }
    } counter;
    feature.describe(counter);
    EXPECT_EQ(model::references_of(feature).size(), static_cast<std::size_t>(counter.references));
    project::Document document;
    auto traced = std::make_shared<project::TracedSketch>();
    traced->id = 7;
    document.sketches = {traced};
    document.steps.resize(1);
    document.steps[0].feature = feature;
    EXPECT_EQ(project::remove_sketch(document, 7).ok(), counter.count == 0) << kind->key;
  }
}

TEST(Description, NamesAreNotGivenTwice) {
  std::set<std::string> keys;
  std::set<std::string> titles;
  std::set<char> letters{'c'};  // of Cut, which shares its kind with Extrude
  for (const FeatureKind* kind : model::feature_kinds()) {
    EXPECT_TRUE(keys.insert(kind->key).second) << kind->key;
    EXPECT_TRUE(titles.insert(kind->title).second) << kind->title;
    EXPECT_TRUE(letters.insert(kind->letter).second) << kind->key << " " << kind->letter;
    EXPECT_FALSE(kind->make().words().empty()) << kind->key;
    EXPECT_EQ(model::find_feature_kind(kind->key), kind);
    Feature feature = kind->make();
    std::set<std::string> fields;
    for (const model::Field& field : model::fields_of(feature))
      EXPECT_TRUE(fields.insert(field.info.name).second) << kind->key << " " << field.info.name;
  }
  EXPECT_EQ(model::find_feature_kind("no such kind"), nullptr);
}

TEST(Description, AFreshStepOfEveryKindIsRefusedWithAReason) {
  const auto sketches = std::map<model::Id, model::PlacedSketch>();
  for (const FeatureKind* kind : model::feature_kinds()) {
    model::Step step;
    step.id = 5;
    step.name = "fresh";
    step.feature = kind->make();
    const std::vector<model::Step> steps{step};
    const auto made = model::apply_feature(step, {sketches, steps}, {});
    ASSERT_FALSE(made) << kind->key;
    EXPECT_GT(made.error().message.size(), 10U) << kind->key;
  }
}

TEST(Description, ThePublishedSchemaIsThatOfTheKinds) {
  const std::string path = testing::source_dir() + "/docs/design/project.schema.json";
  std::ifstream file(path);
  auto schema = nlohmann::ordered_json::parse(file);
  const std::string wanted = store::step_schema().dump();
  if (store::Json::parse(schema["properties"]["steps"]["items"].dump()).dump() ==
      store::Json::parse(wanted).dump())
    return;
  schema["properties"]["steps"]["items"] = nlohmann::ordered_json::parse(wanted);
  const std::string fresh = ::testing::TempDir() + "project.schema.json";
  std::ofstream(fresh) << schema.dump(1) << "\n";
  FAIL() << path << " describes other steps than there are. A fresh one is in " << fresh;
}

}  // namespace
}  // namespace lostline
