#include "store/feature_json.h"

#include "model/steps/kinds.h"

namespace lostline::store {

using namespace project;  // the document and its edits

Json write_reference(const model::Reference& r) {
  Json j{{"datum", r.datum}, {"face", r.face}, {"fit", r.fit}, {"region", r.region}};
  if (r.surface) {
    const fit::Surface& s = *r.surface;
    j["surface"] = {{"kind", kKinds.name(s.kind)},
                    {"point", vec(s.point)},
                    {"axis", vec(s.axis)},
                    {"radius", s.radius},
                    {"half_angle", s.half_angle},
                    {"hollow", s.hollow},
                    {"minor_radius", s.minor_radius},
                    {"major", vec(s.major)}};
  }
  return j;
}
model::Reference read_reference(const Json& j) {
  model::Reference r;
  r.datum = j.at("datum");
  r.face = j.at("face");
  r.fit = j.at("fit");
  r.region = j.at("region");
  if (j.contains("surface")) {
    const Json& s = j["surface"];
    fit::Surface surface;
    surface.kind = kKinds.value(s.at("kind"));
    surface.point = vec3(s.at("point"));
    surface.axis = vec3(s.at("axis"));
    surface.radius = s.at("radius");
    surface.half_angle = s.at("half_angle");
    surface.hollow = s.at("hollow");
    surface.minor_radius = s.value("minor_radius", 0.0);  // since version 10, and what follows
    if (s.contains("major")) surface.major = vec3(s["major"]);
    r.surface = surface;
  }
  return r;
}

namespace {

Json write_surface(const patch::SplineSurface& surface) {
  Json poles = Json::array();
  for (const Vec3& pole : surface.poles) poles.push_back(vec(pole));
  return {{"u", surface.nu},
          {"v", surface.nv},
          {"poles", poles},
          {"u_knots", surface.u_knots},
          {"v_knots", surface.v_knots}};
}
patch::SplineSurface read_surface(const Json& j) {
  patch::SplineSurface read;
  read.nu = j.at("u");
  read.nv = j.at("v");
  for (const Json& pole : j.at("poles")) read.poles.push_back(vec3(pole));
  read.u_knots = j.at("u_knots").get<std::vector<double>>();
  read.v_knots = j.at("v_knots").get<std::vector<double>>();
  if (!read.sound()) throw Json::other_error::create(502, "a face is damaged", &j);
  return read;
}
Json surface_schema() {
  const Json numbers{{"type", "array"}, {"items", {{"type", "number"}}}};
  return {{"type", "object"},
          {"properties",
           {{"u", {{"type", "integer"}, {"minimum", 4}}},
            {"v", {{"type", "integer"}, {"minimum", 4}}},
            {"poles", {{"type", "array"}, {"items", {{"$ref", "#/$defs/vec3"}}}}},
            {"u_knots", numbers},
            {"v_knots", numbers}}},
          {"required", {"u", "v", "poles", "u_knots", "v_knots"}}};
}

/// Writes the parts of a feature.
class Writer : public model::Description {
 public:
  Json take() { return std::move(open_.front().second); }
  void number(const model::NumberInfo& info, model::Quantity& q) override {
    put(info.name, {{"value", q.value}, {"dimension", q.dimension}});
  }
  void count(const model::CountInfo& info, int& n) override { put(info.name, n); }
  void flag(const char* name, bool& on) override { put(name, on); }
  void reference(const model::ReferenceInfo& info, model::Reference& r) override {
    put(info.name, write_reference(r));
  }
  void sketch(const char* name, model::Id& id) override { put(name, id); }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>& ids) override {
    put(info.name, ids);
  }
  void path(const char* name, model::SpacePath& path) override {
    Json corners = Json::array();
    for (const Vec3& corner : path.corners) corners.push_back(vec(corner));
    put(name, {{"corners", corners}, {"bends", path.bends}});
  }
  void surface(const char* name, std::shared_ptr<const patch::SplineSurface>& surface) override {
    if (surface != nullptr) put(name, write_surface(*surface));
  }
  void surfaces(const char* name, std::shared_ptr<const patch::SplineSurfaces>& surfaces) override {
    if (surfaces == nullptr) return;
    Json list = Json::array();
    for (const patch::SplineSurface& surface : *surfaces) list.push_back(write_surface(surface));
    put(name, std::move(list));
  }
  void curves(const char* name, std::vector<sketch::Id>& ids) override { put(name, ids); }
  void curve(const char* name, sketch::Id& id) override { put(name, id); }
  void areas(const char* name, std::vector<Vec2>& areas) override {
    Json list = Json::array();
    for (const Vec2& p : areas) list.push_back(vec(p));
    put(name, std::move(list));
  }
  void edges(const char* name, std::vector<model::EdgeRef>& edges) override {
    Json list = Json::array();
    for (const auto& e : edges)
      list.push_back({{"face_a", e.face_a}, {"face_b", e.face_b}, {"near", vec(e.near)}});
    put(name, std::move(list));
  }
  void faces(const char* name, std::vector<std::string>& faces) override { put(name, faces); }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>& bodies) override {
    put(info.name, bodies);
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>& imported) override {
    if (imported) put(name, {{"file", imported->file}, {"hash", imported->hash}});
  }
  void step(const char* name, model::Id& id) override { put(name, id); }
  void place(const char* name, Transform& place) override {
    // Left out where nothing was moved, as in files from before.
    if (!place.isApprox(Transform::Identity(), 0)) put(name, write_motion(place));
  }
  void begin(const char* name) override { open_.emplace_back(name, Json::object()); }
  void end() override {
    auto [name, group] = std::move(open_.back());
    open_.pop_back();
    put(name, std::move(group));
  }

 private:
  void choose(const model::ChoiceInfo& info, int& value) override {
    put(info.name, info.words.at(static_cast<std::size_t>(value)));
  }
  void put(const char* name, Json value) { open_.back().second[name] = std::move(value); }
  std::vector<std::pair<const char*, Json>> open_{{"", Json::object()}};
};

/// Reads the parts of a feature that a file has.
class Reader : public model::Description {
 public:
  explicit Reader(const Json& json) : open_{&json} {}
  void number(const model::NumberInfo& info, model::Quantity& q) override {
    if (const Json* j = find(info.name))
      q = {j->at("value").get<double>(), j->at("dimension").get<Id>()};
  }
  void count(const model::CountInfo& info, int& n) override { read(info.name, n); }
  void flag(const char* name, bool& on) override { read(name, on); }
  void reference(const model::ReferenceInfo& info, model::Reference& r) override {
    if (const Json* j = find(info.name)) r = read_reference(*j);
  }
  void sketch(const char* name, model::Id& id) override { read(name, id); }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>& ids) override {
    read(info.name, ids);
  }
  void path(const char* name, model::SpacePath& path) override {
    const Json* j = find(name);
    if (j == nullptr) return;
    path.corners.clear();
    for (const Json& corner : j->at("corners")) path.corners.push_back(vec3(corner));
    path.bends = j->at("bends").get<std::vector<double>>();
    // One bend at each inner corner, or none at all where it does not bend by radii.
    if (!path.bends.empty() &&
        path.bends.size() + 2 != std::max<std::size_t>(path.corners.size(), 2))
      throw Json::other_error::create(502, "a path has another number of bends than corners", j);
  }
  void surface(const char* name, std::shared_ptr<const patch::SplineSurface>& surface) override {
    if (const Json* j = find(name))
      surface = std::make_shared<patch::SplineSurface>(read_surface(*j));
  }
  void surfaces(const char* name, std::shared_ptr<const patch::SplineSurfaces>& surfaces) override {
    const Json* list = find(name);
    if (list == nullptr) return;
    auto read = std::make_shared<patch::SplineSurfaces>();
    for (const Json& j : *list) read->push_back(read_surface(j));
    surfaces = std::move(read);
  }
  void curves(const char* name, std::vector<sketch::Id>& ids) override { read(name, ids); }
  void curve(const char* name, sketch::Id& id) override { read(name, id); }
  void areas(const char* name, std::vector<Vec2>& areas) override {
    const Json* list = find(name);
    if (list == nullptr) return;
    areas.clear();
    for (const Json& p : *list) areas.push_back(vec2(p));
  }
  void edges(const char* name, std::vector<model::EdgeRef>& edges) override {
    const Json* list = find(name);
    if (list == nullptr) return;
    edges.clear();
    for (const Json& e : *list)
      edges.push_back({e.at("face_a"), e.at("face_b"), vec3(e.at("near"))});
  }
  void faces(const char* name, std::vector<std::string>& faces) override { read(name, faces); }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>& bodies) override {
    read(info.name, bodies);
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>& imported) override {
    const Json* j = find(name);
    if (j == nullptr) return;
    // The model itself is among the bulk data.
    auto stub = std::make_shared<model::Imported>();
    stub->file = j->at("file");
    stub->hash = j->at("hash");
    imported = std::move(stub);
  }
  void step(const char* name, model::Id& id) override { read(name, id); }
  void place(const char* name, Transform& place) override {
    if (const Json* j = find(name)) place = read_motion(*j);
  }
  void begin(const char* name) override {
    static const Json nothing = Json::object();
    const Json* group = find(name);
    open_.push_back(group != nullptr ? group : &nothing);
  }
  void end() override { open_.pop_back(); }

 private:
  void choose(const model::ChoiceInfo& info, int& value) override {
    const Json* j = find(info.name);
    if (j == nullptr) return;
    const auto text = j->get<std::string>();
    for (std::size_t i = 0; i < info.words.size(); ++i) {
      if (text != info.words[i]) continue;
      value = static_cast<int>(i);
      return;
    }
    throw Json::other_error::create(501, "unknown name \"" + text + "\"", j);
  }
  [[nodiscard]] const Json* find(const char* name) const {
    if (!open_.back()->is_object())
      throw Json::type_error::create(302, "a step's parts are no object", open_.back());
    const auto it = open_.back()->find(name);
    return it == open_.back()->end() ? nullptr : &*it;
  }
  template <class T>
  void read(const char* name, T& value) {
    if (const Json* j = find(name)) value = j->get<T>();
  }
  std::vector<const Json*> open_;
};

/// Says what a file holds for each part.
class Schema : public model::Description {
 public:
  Json take() { return std::move(open_.front().second); }
  void number(const model::NumberInfo& info, model::Quantity&) override {
    put(info.name, {{"$ref", "#/$defs/quantity"}});
  }
  void count(const model::CountInfo& info, int&) override {
    put(info.name, {{"type", "integer"}, {"minimum", info.least}, {"maximum", info.most}});
  }
  void flag(const char* name, bool&) override { put(name, {{"type", "boolean"}}); }
  void reference(const model::ReferenceInfo& info, model::Reference&) override {
    put(info.name, {{"$ref", "#/$defs/reference"}});
  }
  void sketch(const char* name, model::Id&) override { put(name, id()); }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>&) override {
    put(info.name, {{"type", "array"}, {"items", id()}});
  }
  void path(const char* name, model::SpacePath&) override {
    put(name, {{"type", "object"},
               {"properties",
                {{"corners", {{"type", "array"}, {"items", {{"$ref", "#/$defs/vec3"}}}}},
                 {"bends", {{"type", "array"}, {"items", {{"type", "number"}}}}}}},
               {"required", {"corners", "bends"}}});
  }
  void surface(const char* name, std::shared_ptr<const patch::SplineSurface>&) override {
    put(name, surface_schema());
  }
  void surfaces(const char* name, std::shared_ptr<const patch::SplineSurfaces>&) override {
    put(name, {{"type", "array"}, {"items", surface_schema()}});
  }
  void curves(const char* name, std::vector<sketch::Id>&) override {
    put(name, {{"type", "array"}, {"items", id()}});
  }
  void curve(const char* name, sketch::Id&) override { put(name, id()); }
  void areas(const char* name, std::vector<Vec2>&) override {
    put(name, {{"type", "array"}, {"items", {{"$ref", "#/$defs/vec2"}}}});
  }
  void edges(const char* name, std::vector<model::EdgeRef>&) override {
    put(name, {{"type", "array"}, {"items", {{"$ref", "#/$defs/edge"}}}});
  }
  void faces(const char* name, std::vector<std::string>&) override { put(name, texts()); }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>&) override {
    put(info.name, texts());
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>&) override {
    put(name, {{"type", "object"},
               {"properties", {{"file", {{"type", "string"}}}, {"hash", id()}}},
               {"required", {"file", "hash"}}});
  }
  void step(const char* name, model::Id&) override { put(name, id()); }
  void place(const char* name, Transform&) override {
    put(name,
        {{"type", "array"}, {"items", {{"type", "number"}}}, {"minItems", 12}, {"maxItems", 12}});
  }
  void begin(const char* name) override { open_.emplace_back(name, empty()); }
  void end() override {
    auto [name, group] = std::move(open_.back());
    open_.pop_back();
    put(name, std::move(group));
  }

 private:
  void choose(const model::ChoiceInfo& info, int&) override {
    put(info.name, {{"enum", info.words}});
  }
  static Json texts() { return {{"type", "array"}, {"items", {{"type", "string"}}}}; }
  static Json id() { return {{"type", "integer"}, {"minimum", 0}}; }
  static Json empty() { return {{"type", "object"}, {"properties", Json::object()}}; }
  void put(const char* name, Json value) {
    open_.back().second["properties"][name] = std::move(value);
  }
  std::vector<std::pair<const char*, Json>> open_{{"", empty()}};
};

}  // namespace

Json write_feature(const model::Feature& feature) {
  Writer writer;
  feature.describe(writer);
  return writer.take();
}

void read_feature(const Json& json, model::Feature& feature) {
  Reader reader(json);
  feature.describe(reader);
}

Json step_schema() {
  Json kinds = Json::array();
  Json parts = Json::object();
  for (const model::FeatureKind* kind : model::feature_kinds()) {
    Schema schema;
    kind->make().describe(schema);
    parts[kind->key] = schema.take();
    kinds.push_back({{"required", {kind->key}}});
  }
  return {{"type", "object"},
          {"required", {"id", "number", "name", "parked"}},
          {"oneOf", std::move(kinds)},
          {"properties", std::move(parts)}};
}

Json write_step(const model::Step& step) {
  Json j{{"id", step.id}, {"number", step.number}, {"name", step.name}, {"parked", step.parked}};
  j[step.feature.kind().key] = write_feature(step.feature);
  return j;
}

model::Step read_step(const Json& json) {
  model::Step step;
  step.id = json.at("id");
  step.number = json.at("number");
  step.name = json.at("name");
  step.parked = json.at("parked");
  for (const model::FeatureKind* kind : model::feature_kinds()) {
    const auto it = json.find(kind->key);
    if (it == json.end()) continue;
    step.feature = kind->make();
    Json parts = *it;
    // Version 1 said whether an extent goes through, and knew levels only besides.
    if (parts.is_object() && parts.contains("extent") && parts["extent"].contains("through"))
      parts["extent"]["reach"] = parts["extent"]["through"].get<bool>() ? "through" : "levels";
    // A cone once had its radius where it begins, now at a level of its own.
    if (parts.is_object() && parts.contains("half_angle") && !parts.contains("at"))
      parts["at"] = {{"value", parts.at("from").at("value")}, {"dimension", 0}};
    read_feature(parts, step.feature);
    return step;
  }
  throw Json::other_error::create(
      501, "step " + std::to_string(step.number) + " is of a kind that this version does not know",
      &json);
}

}  // namespace lostline::store
