#include "model/feature.h"

#include "model/tool_body.h"

namespace lostline::model {
namespace {

constexpr FeatureKind kNothing{
    "",
    "",
    "",
    "",
    0,
    [] { return Feature(); },
    [](const Feature&) { return std::string("empty step"); },
    [](Feature&, Description&) {},
    [](const Feature&, const Site&) -> Result<Model> {
      return Error{ErrorCode::InvalidInput, "This step is of no kind. Remove it."};
    },
    nullptr,
    nullptr,
    nullptr};

}  // namespace

Feature::Feature() : kind_(&kNothing) {}

void Description::operation(Operation& operation, std::vector<std::string>& onto) {
  choice({"operation", {"add", "cut", "common", "new body"}}, operation);
  bodies({"bodies", false}, onto);
}

void Description::extent(Extent& extent) {
  using Unit = NumberInfo::Unit;
  using Sign = NumberInfo::Sign;
  begin("extent");
  choice({"reach", {"levels", "symmetric", "up to", "through"}}, extent.reach);
  const bool levels = extent.reach == Reach::Levels;
  const bool symmetric = extent.reach == Reach::Symmetric;
  const bool up_to = extent.reach == Reach::UpTo;
  number({"from", Unit::Length, Sign::Any, levels || up_to}, extent.from);
  number({"to", Unit::Length, Sign::Any, levels}, extent.to);
  number({"middle", Unit::Length, Sign::Any, symmetric}, extent.middle);
  number({"thickness", Unit::Length, Sign::Positive, symmetric}, extent.thickness);
  reference({"target", ReferenceInfo::Wants::Surface, up_to}, extent.target);
  end();
}

std::vector<Field> fields_of(Feature& feature) {
  struct Fields : Listener {
    std::vector<Field> list;
    void number(const NumberInfo& info, Quantity& quantity) override {
      if (info.in_force) list.push_back({info, &quantity});
    }
  } fields;
  feature.describe(fields);
  return std::move(fields.list);
}

std::vector<Reference*> references_of(Feature& feature) {
  struct References : Listener {
    std::vector<Reference*> list;
    void reference(const ReferenceInfo&, Reference& reference) override {
      list.push_back(&reference);
    }
  } references;
  feature.describe(references);
  return std::move(references.list);
}

Uses uses_of(const Feature& feature) {
  struct Gather : Listener {
    Uses uses;
    void sketch(const char*, Id& id) override { add(id); }
    void sketches(const SketchesInfo&, std::vector<Id>& ids) override {
      for (const Id id : ids) add(id);
    }
    void curves(const char*, std::vector<sketch::Id>& ids) override {
      if (uses.sketches.size() > 1) return;
      uses.curves.insert(uses.curves.end(), ids.begin(), ids.end());
    }
    void edges(const char*, std::vector<EdgeRef>& edges) override {
      uses.edges.insert(uses.edges.end(), edges.begin(), edges.end());
    }
    void faces(const char*, std::vector<std::string>& faces) override {
      uses.faces.insert(uses.faces.end(), faces.begin(), faces.end());
    }
    void bodies(const BodiesInfo&, std::vector<std::string>& bodies) override {
      uses.bodies.insert(uses.bodies.end(), bodies.begin(), bodies.end());
    }
    void step(const char*, Id& id) override { uses.step = id; }
    void add(Id id) {
      if (uses.sketches.empty()) uses.sketch = id;
      uses.sketches.push_back(id);
    }
  } gather;
  feature.describe(gather);
  return std::move(gather.uses);
}

}  // namespace lostline::model
