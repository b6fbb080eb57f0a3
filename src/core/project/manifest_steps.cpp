#include "project/manifest_steps.h"

namespace lostline::project {
namespace {

const Names<model::Operation> kOperations{{{model::Operation::Add, "add"},
                                           {model::Operation::Cut, "cut"},
                                           {model::Operation::Common, "common"}}};
const Names<model::Reach> kReaches{{{model::Reach::Levels, "levels"},
                                    {model::Reach::Symmetric, "symmetric"},
                                    {model::Reach::UpTo, "up to"},
                                    {model::Reach::Through, "through"}}};
const Names<model::Pattern::Kind> kPatterns{
    {{model::Pattern::Kind::Linear, "linear"}, {model::Pattern::Kind::Circular, "circular"}}};

Json write(const model::Quantity& q) { return {{"value", q.value}, {"dimension", q.dimension}}; }
model::Quantity read_quantity(const Json& j) {
  return {j.at("value").get<double>(), j.at("dimension").get<Id>()};
}

}  // namespace

Json write_reference(const model::Reference& r) {
  Json j{{"datum", r.datum}, {"face", r.face}, {"fit", r.fit}, {"region", r.region}};
  if (r.surface) {
    const fit::Surface& s = *r.surface;
    j["surface"] = {{"kind", kKinds.name(s.kind)}, {"point", vec(s.point)},
                    {"axis", vec(s.axis)},         {"radius", s.radius},
                    {"half_angle", s.half_angle},  {"hollow", s.hollow}};
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
    r.surface = surface;
  }
  return r;
}

namespace {

Json write(const model::Extent& e) {
  Json j{{"reach", kReaches.name(e.reach)}, {"from", write(e.from)}, {"to", write(e.to)}};
  if (e.reach == model::Reach::Symmetric) {
    j["middle"] = write(e.middle);
    j["thickness"] = write(e.thickness);
  }
  if (e.reach == model::Reach::UpTo) j["target"] = write_reference(e.target);
  return j;
}
model::Extent read_extent(const Json& j) {
  model::Extent e;
  e.from = read_quantity(j.at("from"));
  e.to = read_quantity(j.at("to"));
  if (j.contains("reach"))
    e.reach = kReaches.value(j["reach"]);
  else  // version 1
    e.reach = j.at("through").get<bool>() ? model::Reach::Through : model::Reach::Levels;
  if (j.contains("middle")) e.middle = read_quantity(j["middle"]);
  if (j.contains("thickness")) e.thickness = read_quantity(j["thickness"]);
  if (j.contains("target")) e.target = read_reference(j["target"]);
  return e;
}

Json write(const std::vector<model::EdgeRef>& edges) {
  Json list = Json::array();
  for (const auto& e : edges)
    list.push_back({{"face_a", e.face_a}, {"face_b", e.face_b}, {"near", vec(e.near)}});
  return list;
}
std::vector<model::EdgeRef> read_edges(const Json& list) {
  std::vector<model::EdgeRef> edges;
  for (const Json& e : list) edges.push_back({e.at("face_a"), e.at("face_b"), vec3(e.at("near"))});
  return edges;
}

Json write(const std::vector<Vec2>& areas) {
  Json list = Json::array();
  for (const Vec2& p : areas) list.push_back(vec(p));
  return list;
}
std::vector<Vec2> read_areas(const Json& feature) {  // since version 3
  std::vector<Vec2> areas;
  if (feature.contains("areas"))
    for (const Json& p : feature["areas"]) areas.push_back(vec2(p));
  return areas;
}

struct WriteFeature {
  Json& j;
  void operator()(const model::Extrude& e) const {
    j["extrude"] = {{"sketch", e.sketch},
                    {"loops", e.loops},
                    {"operation", kOperations.name(e.operation)},
                    {"extent", write(e.extent)},
                    {"draft", write(e.draft)},
                    {"areas", write(e.areas)}};
  }
  void operator()(const model::Revolve& r) const {
    j["revolve"] = {{"sketch", r.sketch},      {"loops", r.loops},
                    {"axis", r.axis},          {"operation", kOperations.name(r.operation)},
                    {"angle", write(r.angle)}, {"both_ways", r.both_ways},
                    {"areas", write(r.areas)}};
  }
  void operator()(const model::Hole& h) const {
    j["hole"] = {{"sketch", h.sketch},
                 {"circles", h.circles},
                 {"diameter", write(h.diameter)},
                 {"extent", write(h.extent)}};
  }
  void operator()(const model::Fillet& f) const {
    j["fillet"] = {{"edges", write(f.edges)}, {"radius", write(f.radius)}};
  }
  void operator()(const model::Chamfer& c) const {
    j["chamfer"] = {
        {"edges", write(c.edges)}, {"leg", write(c.distance)}, {"angle", write(c.angle)}};
  }
  void operator()(const model::Pattern& p) const {
    j["pattern"] = {{"source", p.source},
                    {"kind", kPatterns.name(p.kind)},
                    {"direction", write_reference(p.direction)},
                    {"count", p.count},
                    {"spacing", write(p.spacing)}};
  }
  void operator()(const model::Mirror& m) const {
    j["mirror"] = {{"source", m.source}, {"plane", write_reference(m.plane)}};
  }
};

model::Feature read_feature(const Json& j) {
  if (j.contains("extrude")) {
    const Json& e = j["extrude"];
    return model::Extrude{e.at("sketch"),
                          e.at("loops").get<std::vector<sketch::Id>>(),
                          kOperations.value(e.at("operation")),
                          read_extent(e.at("extent")),
                          read_quantity(e.at("draft")),
                          read_areas(e)};
  }
  if (j.contains("revolve")) {
    const Json& r = j["revolve"];
    return model::Revolve{r.at("sketch"),
                          r.at("loops").get<std::vector<sketch::Id>>(),
                          r.at("axis"),
                          kOperations.value(r.at("operation")),
                          read_quantity(r.at("angle")),
                          r.at("both_ways"),
                          read_areas(r)};
  }
  if (j.contains("hole")) {
    const Json& h = j["hole"];
    return model::Hole{h.at("sketch"), h.at("circles").get<std::vector<sketch::Id>>(),
                       read_quantity(h.at("diameter")), read_extent(h.at("extent"))};
  }
  if (j.contains("chamfer")) {
    const Json& c = j["chamfer"];
    return model::Chamfer{read_edges(c.at("edges")), read_quantity(c.at("leg")),
                          read_quantity(c.at("angle"))};
  }
  if (j.contains("pattern")) {
    const Json& p = j["pattern"];
    return model::Pattern{p.at("source"), kPatterns.value(p.at("kind")),
                          read_reference(p.at("direction")), p.at("count"),
                          read_quantity(p.at("spacing"))};
  }
  if (j.contains("mirror")) {
    const Json& m = j["mirror"];
    return model::Mirror{m.at("source"), read_reference(m.at("plane"))};
  }
  const Json& f = j.at("fillet");
  return model::Fillet{read_edges(f.at("edges")), read_quantity(f.at("radius"))};
}

}  // namespace

Json write_step(const model::Step& step) {
  Json j{{"id", step.id}, {"number", step.number}, {"name", step.name}, {"parked", step.parked}};
  std::visit(WriteFeature{j}, step.feature);
  return j;
}

model::Step read_step(const Json& j) {
  model::Step step;
  step.id = j.at("id");
  step.number = j.at("number");
  step.name = j.at("name");
  step.parked = j.at("parked");
  step.feature = read_feature(j);
  return step;
}

}  // namespace lostline::project
