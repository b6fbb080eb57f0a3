// What follows from the description of a kind of step, tried on every kind there is.
#include <nlohmann/json.hpp>

#include "described_variants.h"
#include "model/steps/kinds.h"
#include "project/edits.h"
#include "store/feature_json.h"
#include "support/places.h"

namespace lostline {
namespace {

using model::Feature;
using model::FeatureKind;

using testing::Variant;
using testing::variants_of;

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
    struct Counter : model::Listener {
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
