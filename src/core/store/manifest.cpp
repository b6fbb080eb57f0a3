#include "store/manifest.h"

#include "base/utf8.h"
#include "sketch/constraint_kinds.h"
#include "sketch/curve_kind.h"
#include "store/feature_json.h"
#include "store/project_file.h"

namespace lostline::store {

using namespace project;  // the document and its edits
namespace {

const Names<Unit> kUnits{
    {{Unit::Millimetre, "mm"}, {Unit::Inch, "inch"}, {Unit::Metre, "m"}, {Unit::Centimetre, "cm"}}};
const Names<DatumPlane> kPlanes{{{DatumPlane::Xy, "xy"},
                                 {DatumPlane::Xz, "xz"},
                                 {DatumPlane::Yz, "yz"},
                                 {DatumPlane::Free, "free"}}};
const Names<standards::Quantity> kQuantities{{{standards::Quantity::Length, "length"},
                                              {standards::Quantity::Diameter, "diameter"},
                                              {standards::Quantity::Radius, "radius"},
                                              {standards::Quantity::Angle, "angle"}}};
const Names<fit::RelationType> kRelations{{{fit::RelationType::Parallel, "parallel"},
                                           {fit::RelationType::Perpendicular, "perpendicular"},
                                           {fit::RelationType::Angle, "angle"},
                                           {fit::RelationType::Coaxial, "coaxial"},
                                           {fit::RelationType::Coplanar, "coplanar"},
                                           {fit::RelationType::EqualSize, "equal size"},
                                           {fit::RelationType::Distance, "distance"},
                                           {fit::RelationType::Size, "size"},
                                           {fit::RelationType::Symmetric, "symmetric"}}};
/// The names of kinds that name themselves.
template <class E, class Kinds, class NameOf>
Names<E> names_of(const Kinds& kinds, const NameOf& name_of) {
  Names<E> names;
  for (const auto& kind : kinds) names.list.push_back(name_of(kind));
  return names;
}
const auto kEntities = names_of<sketch::EntityType>(
    sketch::curve_kinds(),
    [](const sketch::CurveKind* k) { return std::pair(k->type(), k->key()); });
const auto kConstraints = names_of<sketch::ConstraintType>(
    sketch::constraint_kinds(),
    [](const sketch::ConstraintKind& k) { return std::pair(k.type, k.name); });
const Names<Construction::Type> kConstructions{{{Construction::Type::Midplane, "midplane"},
                                                {Construction::Type::AxisOfTwo, "axis of two"},
                                                {Construction::Type::CommonAxis, "common axis"},
                                                {Construction::Type::BoltCircle, "bolt circle"},
                                                {Construction::Type::Intersection, "intersection"},
                                                {Construction::Type::Symmetry, "symmetry"},
                                                {Construction::Type::Targets, "targets"}}};
const Names<survey::Finish> kFinishes{{{survey::Finish::Machined, "machined"},
                                       {survey::Finish::AsCast, "as-cast"},
                                       {survey::Finish::Formed, "formed"},
                                       {survey::Finish::Unknown, "not told"}}};
const Names<Visibility> kVisibilities{{{Visibility::Shown, "shown"},
                                       {Visibility::Translucent, "translucent"},
                                       {Visibility::Hidden, "hidden"}}};
Json write(const Showing& showing) {
  Json scans = Json::object();
  for (const auto& [name, visibility] : showing.scans) scans[name] = kVisibilities.name(visibility);
  return {{"hidden_regions", showing.hidden_regions},
          {"translucent_regions", showing.translucent_regions},
          {"sketches", showing.sketches},
          {"scans", scans}};
}
Showing read_showing(const Json& j) {
  Showing showing;
  showing.hidden_regions = j.at("hidden_regions").get<std::set<std::uint32_t>>();
  if (j.contains("translucent_regions"))
    showing.translucent_regions = j["translucent_regions"].get<std::set<std::uint32_t>>();
  showing.sketches = j.at("sketches").get<std::set<Id>>();
  for (const auto& [name, visibility] : j.at("scans").items())
    showing.scans[name] = kVisibilities.value(visibility);
  return showing;
}
Json write(const fit::SurfaceFit& f) {
  return {{"kind", kKinds.name(f.surface.kind)},
          {"point", vec(f.surface.point)},
          {"axis", vec(f.surface.axis)},
          {"radius", f.surface.radius},
          {"half_angle", f.surface.half_angle},
          {"minor_radius", f.surface.minor_radius},
          {"major", vec(f.surface.major)},
          {"hollow", f.surface.hollow},
          {"points", f.points},
          {"used", f.used},
          {"rounds", f.rounds},
          {"settled", f.settled},
          {"rms", f.rms},
          {"sigma", f.sigma},
          {"form_error", f.form_error},
          {"inflation", f.inflation},
          {"u_offset", f.u_offset},
          {"u_angle", f.u_angle},
          {"u_radius", f.u_radius},
          {"u_half_angle", f.u_half_angle},
          {"u_minor_radius", f.u_minor_radius},
          {"centroid", vec(f.centroid)}};
}
fit::SurfaceFit read_fit(const Json& j) {
  fit::SurfaceFit f;
  f.surface.kind = kKinds.value(j.at("kind"));
  f.surface.point = vec3(j.at("point"));
  f.surface.axis = vec3(j.at("axis"));
  f.surface.radius = j.at("radius");
  f.surface.half_angle = j.at("half_angle");
  f.surface.minor_radius = j.value("minor_radius", 0.0);  // since version 2
  if (j.contains("major")) f.surface.major = vec3(j["major"]);
  f.surface.hollow = j.at("hollow");
  f.points = j.at("points");
  f.used = j.at("used");
  f.rounds = j.value("rounds", 0);  // since version 6
  f.settled = j.value("settled", true);
  f.rms = j.at("rms");
  f.sigma = j.at("sigma");
  f.form_error = j.at("form_error");
  f.inflation = j.at("inflation");
  f.u_offset = j.at("u_offset");
  f.u_angle = j.at("u_angle");
  f.u_radius = j.at("u_radius");
  f.u_half_angle = j.at("u_half_angle");
  f.u_minor_radius = j.value("u_minor_radius", 0.0);
  f.centroid = vec3(j.at("centroid"));
  return f;
}

Json write(const FromPoints& p) {
  return {{"count", p.count},
          {"columns", p.columns},
          {"mesh_spacing", p.options.spacing},
          {"smooth", p.options.smooth},
          {"bridge", p.options.bridge},
          {"least_island", p.options.least_island},
          {"spacing", p.spacing},
          {"noise", p.noise},
          {"dropped", p.dropped}};
}
Json write(const FitRef& r) { return {{"region", r.region}, {"fit", r.fit}}; }
FitRef read_ref(const Json& j) {
  return {j.at("region").get<std::uint32_t>(), j.at("fit").get<Id>()};
}
Json write(const std::vector<FitRef>& list) {
  Json j = Json::array();
  for (const FitRef& r : list) j.push_back(write(r));
  return j;
}
std::vector<FitRef> read_refs(const Json& j) {
  std::vector<FitRef> list;
  for (const Json& r : j) list.push_back(read_ref(r));
  return list;
}

Json write(const FitRelation& r) {
  return {{"id", r.id},
          {"type", kRelations.name(r.type)},
          {"a", write(r.a)},
          {"b", write(r.b)},
          {"c", write(r.c)},
          {"value", r.value},
          {"follow", r.follow},
          {"departure", r.cost.departure},
          {"departure_angle", r.cost.departure_angle},
          {"rms_without", r.cost.rms_without},
          {"rms_with", r.cost.rms_with},
          {"freedoms", r.cost.freedoms},
          {"chi2", r.cost.chi2},
          {"within_noise", r.cost.within_noise},
          {"effect", r.cost.effect}};
}
FitRelation read_relation(const Json& j) {
  FitRelation r{j.at("id"),          kRelations.value(j.at("type")),
                read_ref(j.at("a")), read_ref(j.at("b")),
                read_ref(j.at("c")), j.at("value"),
                j.at("follow"),      {}};
  r.cost = {j.at("departure"),    j.at("departure_angle"), j.at("rms_without"),
            j.at("rms_with"),     j.at("freedoms"),        j.at("chi2"),
            j.at("within_noise"), j.value("effect", 0.0)};  // since version 5
  return r;
}

Json write(const SavedView& v) {
  return {{"name", v.name},   {"centre", vec(v.centre)}, {"towards", vec(v.towards)},
          {"up", vec(v.up)},  {"height", v.height},      {"scan", v.scan},
          {"model", v.model}, {"deviation", v.deviation}};
}
SavedView read_view(const Json& j) {
  return {j.at("name"),   vec3(j.at("centre")), vec3(j.at("towards")), vec3(j.at("up")),
          j.at("height"), j.at("scan"),         j.at("model"),         j.at("deviation")};
}

Json write(const DatumFrame& f) {
  return {{"primary", write(f.primary)},
          {"primary_axis", datum::axis_name(f.primary_axis)},
          {"secondary", write(f.secondary)},
          {"secondary_axis", datum::axis_name(f.secondary_axis)},
          {"origin", write(f.origin)},
          {"to_part", write_motion(f.frame.to_part)},
          {"extremes", f.extremes},
          {"upon", f.upon ? Json{{"model", f.upon->model},
                                 {"rms", f.upon->rms},
                                 {"used_fraction", f.upon->used_fraction},
                                 {"agreement", f.upon->agreement}}
                          : Json()},
          {"held_by", {f.frame.held_by[0], f.frame.held_by[1], f.frame.held_by[2]}}};
}
DatumFrame read_frame(const Json& j) {
  const auto axis = [](const Json& text) {
    const auto parsed = datum::parse_axis(text.get<std::string>());
    if (!parsed) throw Json::other_error::create(501, parsed.error().message, &text);
    return *parsed;
  };
  DatumFrame f;
  f.primary = read_ref(j.at("primary"));
  f.primary_axis = axis(j.at("primary_axis"));
  f.secondary = read_refs(j.at("secondary"));
  f.secondary_axis = axis(j.at("secondary_axis"));
  f.origin = read_refs(j.at("origin"));
  f.extremes = j.value("extremes", false);
  if (j.contains("upon") && !j["upon"].is_null()) {
    const Json& u = j["upon"];
    f.upon = BroughtUpon{u.at("model"), u.at("rms"), u.at("used_fraction"), u.at("agreement")};
  }
  f.frame.to_part = read_motion(j.at("to_part"));
  for (std::size_t k = 0; k < 3; ++k) f.frame.held_by[k] = j.at("held_by").at(k).get<std::string>();
  return f;
}

Json write(const std::map<sketch::Id, Vec2>& places) {
  Json j = Json::array();
  for (const auto& [constraint, at] : places)
    j.push_back({{"constraint", constraint}, {"at", vec(at)}});
  return j;
}
Json write(const TracedSketch& t) {
  Json points = Json::array();
  for (const auto& p : t.sketch.points) {
    points.push_back({{"id", p.id}, {"at", vec(p.at)}});
    if (p.own) points.back()["own"] = true;
  }
  Json entities = Json::array();
  for (const auto& e : t.sketch.entities) {
    entities.push_back({{"id", e.id},
                        {"type", kEntities.name(e.type)},
                        {"a", e.a},
                        {"b", e.b},
                        {"centre", e.centre},
                        {"radius", e.radius}});
    if (!e.poles.empty()) entities.back()["poles"] = e.poles;
    if (!e.knots.empty()) entities.back()["knots"] = e.knots;
    if (e.construction) entities.back()["construction"] = true;
  }
  Json constraints = Json::array();
  for (const auto& c : t.sketch.constraints) {
    constraints.push_back({{"id", c.id},
                           {"type", kConstraints.name(c.type)},
                           {"first", c.first},
                           {"second", c.second},
                           {"third", c.third},
                           {"value", c.value},
                           {"driving", c.driving}});
    if (c.reference) constraints.back()["reference"] = true;
  }
  return {{"id", t.id},
          {"name", t.name},
          {"plane", kPlanes.name(t.plane)},
          {"on", write_reference(t.on)},
          {"turn", t.turn ? Json{{"angle", t.turn->angle}, {"fan", t.turn->fan}} : Json()},
          {"silhouette", t.silhouette ? Json{{"openings", t.silhouette->openings},
                                             {"offset", t.silhouette->offset}}
                                      : Json()},
          {"origin", vec(t.base.origin)},
          {"x", vec(t.base.x)},
          {"y", vec(t.base.y)},
          {"normal", vec(t.base.normal)},
          {"level", t.level},
          {"more_levels", t.more_levels},
          {"part", t.part ? Json(t.part->size()) : Json()},
          {"also", t.also},
          {"drawn", t.drawn},
          {"tolerance", t.tolerance},
          {"rms", t.rms},
          {"text_places", write(t.text_places)},
          {"next_id", t.sketch.next_id},
          {"points", points},
          {"entities", entities},
          {"constraints", constraints}};
}
TracedSketch read_sketch(const Json& j) {
  TracedSketch t;
  t.id = j.at("id");
  t.name = j.at("name");
  t.plane = kPlanes.value(j.at("plane"));
  if (j.contains("on")) t.on = read_reference(j["on"]);  // since version 3
  if (j.contains("text_places")) {
    for (const Json& place : j["text_places"])
      t.text_places[place.at("constraint")] = vec2(place.at("at"));
  }
  if (j.contains("turn") && !j["turn"].is_null())
    t.turn = Turn{j["turn"].at("angle"), j["turn"].at("fan")};
  if (j.contains("silhouette") && !j["silhouette"].is_null())
    t.silhouette = Silhouette{j["silhouette"].at("openings"), j["silhouette"].at("offset")};
  t.base = {vec3(j.at("origin")), vec3(j.at("x")), vec3(j.at("y")), vec3(j.at("normal"))};
  t.level = j.at("level");
  t.more_levels = j.value("more_levels", std::vector<double>());  // since version 8
  t.also = j.value("also", std::vector<std::string>());           // since version 9
  t.drawn = j.value("drawn", false);
  t.tolerance = j.at("tolerance");
  t.rms = j.at("rms");
  t.sketch.next_id = j.at("next_id");
  for (const Json& p : j.at("points"))
    t.sketch.points.push_back({p.at("id"), vec2(p.at("at")), p.value("own", false)});
  for (const Json& e : j.at("entities"))
    t.sketch.entities.push_back(
        {e.at("id"), kEntities.value(e.at("type")), e.at("a"), e.at("b"), e.at("centre"),
         e.at("radius"), e.value("poles", std::vector<sketch::Id>()),
         e.value("knots", std::vector<double>()), e.value("construction", false)});
  for (const Json& c : j.at("constraints"))
    t.sketch.constraints.push_back({c.at("id"), kConstraints.value(c.at("type")), c.at("first"),
                                    c.at("second"), c.value("third", sketch::Id{0}), c.at("value"),
                                    c.at("driving"), c.value("reference", false)});
  return t;
}

Json write(const std::vector<TypedReading>& typed) {
  Json list = Json::array();
  for (const TypedReading& t : typed)
    list.push_back({{"value", t.value}, {"u", t.u}, {"instrument", t.instrument}});
  return list;
}

Json write(const Dimension& d) {
  return {{"id", d.id},
          {"name", d.name},
          {"quantity", kQuantities.name(d.quantity)},
          {"hole", d.hole},
          {"reading", d.reading ? Json(*d.reading) : Json()},
          {"u", d.u},
          {"source", d.source},
          {"intent", d.intent ? Json(*d.intent) : Json()},
          {"reason", d.reason},
          {"expression", d.expression},
          {"typed", write(d.typed)},
          {"owner",
           {{"sketch", d.owner.sketch},
            {"constraint", d.owner.constraint},
            {"step", d.owner.step},
            {"field", d.owner.field},
            {"fits", write(d.owner.fits)},
            {"points", vecs(d.owner.points)}}}};
}
Dimension read_dimension(const Json& j) {
  Dimension d;
  d.id = j.at("id");
  d.name = j.at("name");
  d.quantity = kQuantities.value(j.at("quantity"));
  d.hole = j.at("hole");
  if (!j.at("reading").is_null()) d.reading = j["reading"].get<double>();
  d.u = j.at("u");
  d.source = j.at("source");
  if (!j.at("intent").is_null()) d.intent = j["intent"].get<double>();
  d.reason = j.at("reason");
  d.expression = j.value("expression", "");  // since version 3, and what follows
  if (j.contains("typed"))
    for (const Json& t : j["typed"])
      d.typed.push_back({t.at("value"), t.at("u"), t.at("instrument")});
  const Json& o = j.at("owner");
  d.owner = {o.at("sketch"), o.at("constraint"),      o.at("step"),
             o.at("field"),  read_refs(o.at("fits")), {}};
  if (o.contains("points")) d.owner.points = vec3s(o["points"]);
  return d;
}

}  // namespace

std::string read_source(const Json& scan) {
  if (!scan.contains("source_bytes")) return scan.at("source").get<std::string>();
  const auto bytes = scan["source_bytes"].get<std::vector<unsigned char>>();
  return {bytes.begin(), bytes.end()};
}

std::optional<FromPoints> read_from_points(const Json& scan) {
  if (!scan.contains("points")) return std::nullopt;
  const Json& j = scan.at("points");
  FromPoints p;
  p.count = j.at("count");
  p.columns = j.at("columns");
  p.options = {j.at("mesh_spacing"), j.at("smooth"), j.at("bridge"), j.at("least_island")};
  p.spacing = j.at("spacing");
  p.noise = j.at("noise");
  p.dropped = j.at("dropped");
  return p;
}

Json write_manifest(const Document& document) {
  Json m{{"format", "lostline-project"},
         {"version", kFormatVersion},
         {"title", document.title},
         {"tolerance", document.tolerance},
         {"deviation_range", document.deviation_range},
         {"face_tolerances", document.face_tolerances},
         {"next_id", document.next_id}};
  const auto write_scan = [](const Scan& s) -> Json {
    Json scan{{"name", s.name},
              {"source", s.source},
              {"unit", kUnits.name(s.unit)},
              {"vertices", s.mesh->vertices.size()},
              {"triangles", s.mesh->triangles.size()}};
    if (s.points) scan["points"] = write(*s.points);
    // Names of files may be of any bytes.
    if (const std::string text = as_utf8(s.source); text != s.source) {
      scan["source"] = text;
      scan["source_bytes"] = std::vector<unsigned char>(s.source.begin(), s.source.end());
    }
    return scan;
  };
  if (document.scan) m["scan"] = write_scan(*document.scan);
  m["other_scans"] = Json::array();
  for (const auto& s : document.other_scans) m["other_scans"].push_back(write_scan(*s));
  if (document.survey) {
    Json regions = Json::array();
    for (const auto& r : document.survey->regions) {
      regions.push_back({{"id", r.id},
                         {"fit", r.fit ? write(*r.fit) : Json()},
                         {"area", r.area},
                         {"triangles", r.triangles},
                         {"centre", vec(r.centre)},
                         {"finish", kFinishes.name(r.finish)},
                         {"trust", r.trust},
                         {"locked", r.locked},
                         {"finish_by_hand", r.finish_by_hand},
                         {"direction_of", r.direction_of}});
    }
    m["survey"] = {{"noise_sigma", document.survey->noise_sigma},
                   {"unassigned_area_fraction", document.survey->unassigned_area_fraction},
                   {"regions", regions}};
  }
  Json fits = Json::array();
  for (const auto& f : document.fits) {
    fits.push_back({{"id", f->id},
                    {"name", f->name},
                    {"result", write(f->result)},
                    {"alone", write(f->alone)},
                    {"points", vecs(f->points)},
                    {"construction",
                     f->construction ? Json{{"type", kConstructions.name(f->construction->type)},
                                            {"from", write(f->construction->from)}}
                                     : Json()},
                    {"triangles", f->triangles ? f->triangles->size() : 0}});
  }
  m["fits"] = fits;
  m["relations"] = Json::array();
  for (const FitRelation& r : document.relations) m["relations"].push_back(write(r));
  m["views"] = Json::array();
  for (const SavedView& v : document.views) m["views"].push_back(write(v));
  m["bodies"] = Json::object();
  for (const auto& [key, look] : document.bodies)
    m["bodies"][key] = {{"name", look.name},
                        {"colour", look.colour ? Json(*look.colour) : Json()},
                        {"shown", look.shown},
                        {"translucent", look.translucent}};
  m["showing"] = write(document.showing);
  m["frame"] = document.frame ? write(*document.frame) : Json();
  m["sketches"] = Json::array();
  for (const auto& s : document.sketches) m["sketches"].push_back(write(*s));
  m["steps"] = Json::array();
  for (const auto& s : document.steps) m["steps"].push_back(write_step(s));
  m["dimensions"] = Json::array();
  for (const auto& d : document.dimensions) m["dimensions"].push_back(write(d));
  return m;
}

Document read_manifest(const Json& m) {
  Document document;
  document.title = m.at("title");
  document.tolerance = m.at("tolerance");
  document.deviation_range = m.at("deviation_range");
  if (m.contains("face_tolerances"))  // since version 2
    document.face_tolerances = m["face_tolerances"].get<std::map<std::string, double>>();
  document.next_id = m.at("next_id");
  if (m.contains("survey")) {
    auto survey = std::make_shared<survey::Survey>();
    survey->noise_sigma = m["survey"].at("noise_sigma");
    survey->unassigned_area_fraction = m["survey"].at("unassigned_area_fraction");
    for (const Json& r : m["survey"].at("regions")) {
      survey::Region region;
      region.id = r.at("id");
      if (!r.at("fit").is_null()) region.fit = read_fit(r["fit"]);
      region.area = r.at("area");
      region.triangles = r.at("triangles");
      region.centre = vec3(r.at("centre"));
      region.finish = kFinishes.value(r.at("finish"));
      region.trust = r.at("trust");
      region.locked = r.value("locked", false);  // since version 3
      region.finish_by_hand = r.value("finish_by_hand", false);
      region.direction_of = r.value("direction_of", 0U);
      survey->regions.push_back(std::move(region));
    }
    document.survey = std::move(survey);
  }
  for (const Json& f : m.at("fits")) {
    auto fit = std::make_shared<Fit>();
    fit->id = f.at("id");
    fit->name = f.at("name");
    fit->result = read_fit(f.at("result"));
    if (f.contains("alone")) {
      fit->alone = read_fit(f["alone"]);
      fit->points = vec3s(f.at("points"));
    } else {  // before version 3 a fit had at most one relation, of direction, and kept no other
              // fit
      fit->alone = fit->result;
      fit->alone.rms = f.at("free_rms");
      const std::string relation = f.at("relation");
      if (relation != "free") {
        FitRelation r;
        r.id = document.next_id++;
        r.type = kRelations.value(f["relation"]);
        r.a = {0, fit->id};
        r.b = read_ref(f.at("relation_to"));
        r.follow = true;
        r.cost.rms_without = fit->alone.rms;
        r.cost.rms_with = fit->result.rms;
        document.relations.push_back(r);
      }
    }
    if (f.contains("construction") && !f["construction"].is_null())  // since version 4
      fit->construction = Construction{kConstructions.value(f["construction"].at("type")),
                                       read_refs(f["construction"].at("from"))};
    document.fits.push_back(std::move(fit));
  }
  if (m.contains("relations"))
    for (const Json& r : m["relations"]) document.relations.push_back(read_relation(r));
  if (m.contains("views"))
    for (const Json& v : m["views"]) document.views.push_back(read_view(v));
  if (m.contains("bodies")) {  // since version 6
    for (const auto& [key, look] : m["bodies"].items()) {
      BodyLook& body = document.bodies[key];
      body.name = look.at("name");
      body.shown = look.at("shown");
      body.translucent = look.value("translucent", false);
      if (!look.at("colour").is_null()) body.colour = look["colour"].get<model::Colour>();
    }
  }
  if (m.contains("showing")) document.showing = read_showing(m["showing"]);
  if (!m.at("frame").is_null())
    document.frame = std::make_shared<const DatumFrame>(read_frame(m["frame"]));
  for (const Json& s : m.at("sketches"))
    document.sketches.push_back(std::make_shared<const TracedSketch>(read_sketch(s)));
  for (const Json& s : m.at("steps")) document.steps.push_back(read_step(s));
  for (const Json& d : m.at("dimensions")) document.dimensions.push_back(read_dimension(d));
  return document;
}

}  // namespace lostline::store
