#include <filesystem>

#include "io/formats.h"
#include "project.h"
#include "project/curve_set.h"
#include "project/drawing_in.h"
#include "project/sketch_plane.h"
#include "reading/curve_evidence.h"
#include "reading/draw_section.h"
#include "sketch/along_section.h"
#include "sketch/curve_kind.h"
#include "sketch/dimension_scheme.h"
#include "sketch/redraw.h"
#include "sketch/section_judge.h"
#include "sketch/solver.h"
#include "store/project_file.h"

// Trace without the window: sections, outlines and curves of files as sketches, and what changes
// them.

namespace lostline::cli {
namespace {

Result<Placement> plane_of(const Arguments& a, project::TracedSketch& traced) {
  if (a.normal.empty() && a.origin.empty()) {
    for (const auto plane :
         {project::DatumPlane::Xy, project::DatumPlane::Xz, project::DatumPlane::Yz}) {
      if (a.plane != project::plane_name(plane)) continue;
      traced.plane = plane;
      return project::datum_placement(plane);
    }
    return Error{ErrorCode::InvalidInput,
                 "\"" + a.plane + "\" is no datum plane: say xy, xz or yz."};
  }
  const auto origin = parse_vector(a.origin.empty() ? "0,0,0" : a.origin);
  const auto normal = parse_vector(a.normal.empty() ? "0,0,1" : a.normal);
  if (!origin) return origin.error();
  if (!normal) return normal.error();
  if (!(normal->norm() > 1e-9))
    return Error{ErrorCode::InvalidInput,
                 "--normal has no length: say the direction square to the plane."};
  traced.plane = project::DatumPlane::Free;
  return placement_on(*origin, normal->normalized());
}

/// Which region of the survey each curve rests on, and what that region says of its size.
Json evidence_of(const Document& d, const project::TracedSketch& traced) {
  Json all = Json::array();
  const auto drift = sketch::measure_drift(traced.sketch, traced.section, traced.reach());
  for (const auto& e : reading::curve_evidence(d, traced, drift)) {
    Json one{{"curve", sketch::name_of(traced.sketch, e.entity)},
             {"region", e.region},
             {"share", e.share}};
    for (const survey::Region& r : d.survey->regions) {
      if (r.id != e.region || !r.fit) continue;
      one["type"] = fit::kind_name(r.fit->surface.kind);
      one["params"] = surface_params(r.fit->surface);
      one["u"] = surface_uncertainties(*r.fit);
    }
    all.push_back(one);
  }
  return all;
}

/// Adds a sketch with the constraints that its section suggests, unless --bare.
Result<Document> added(const Arguments& a, const Document& d, project::TracedSketch traced,
                       const section::Section& cut) {
  if (!a.bare) {
    const auto suggested = sketch::suggest_constraints(
        traced.sketch, cut, project::fit_options(d, traced), 0.25 * traced.tolerance);
    for (const sketch::Constraint& c : suggested)
      traced.sketch.add_constraint(c.type, c.first, c.second);
  }
  traced.name = a.name.empty() ? project::section_name(d, traced) : a.name;
  const auto kept = project::add_sketch(d, traced);
  if (!kept) return kept.error();
  return kept->document;
}

/// @param outline  what the scan covers seen along the plane's normal, instead of a cut.
Result<Document> section(const Arguments& a, const Document& d, bool outline, Json& said) {
  if (!d.scan) return Error{ErrorCode::InvalidInput, a.path + " holds no scan to cut."};
  project::TracedSketch traced;
  const auto base = plane_of(a, traced);
  if (!base) return base.error();
  traced.base = *base;
  traced.level = outline ? 0 : a.level;
  if (!outline) traced.more_levels = a.levels;
  if (!a.regions.empty()) {
    auto part = project::part_of_regions(d, a.regions);
    if (!part) return part.error();
    traced.part = *std::move(part);
  }
  for (const std::string& name : a.also) {
    if (std::none_of(d.other_scans.begin(), d.other_scans.end(),
                     [&](const auto& other) { return other->name == name; }))
      return Error{ErrorCode::NotFound, "No scan \"" + name + "\" lies beside the first one."};
  }
  traced.also = a.also;
  if (outline) traced.silhouette = project::Silhouette{!a.outer, a.offset};
  traced.tolerance = a.tolerance > 0 ? a.tolerance : project::resolving_tolerance(d);
  if (const auto along = project::along_face(d, traced))
    return Error{ErrorCode::Failed,
                 "At " + format_trimmed(along->level, 3) +
                     " the plane runs along a face of the scan: the cut follows its noise, in " +
                     std::to_string(along->runs) + " runs. " +
                     (along->better ? "At " + format_trimmed(*along->better, 3) + " it does not."
                                    : "Choose another --level.")};
  const section::Section cut = project::cut_scan(d, traced);
  if (cut.polylines.empty())
    return Error{ErrorCode::Failed,
                 outline ? "Nothing of the outline is left so far inside. Use a smaller --offset."
                         : "The plane misses the scan. Choose another --level."};
  traced.sketch = reading::draw_section(d, traced, cut);
  const auto kept = added(a, d, traced, cut);
  if (kept && !outline) said["evidence"] = evidence_of(*kept, *kept->sketches.back());
  return kept;
}

Result<Document> dimension(const Arguments& a, const Document& d, Json& said) {
  const auto found = find_sketch(d, a.sketch);
  if (!found) return found.error();
  const project::TracedSketch& traced = **found;
  sketch::SchemeOptions options;
  options.turned = traced.turn.has_value();
  options.nothing = 0.5 * traced.tolerance;
  const sketch::DimensionScheme scheme = sketch::dimension_scheme(traced.sketch, options);
  said["added"] = scheme.dimensions.size();
  said["freedoms"] = scheme.freedoms;
  sketch::Sketch edited = traced.sketch;
  for (const sketch::Constraint& c : scheme.dimensions)
    edited.add_constraint(c.type, c.first, c.second, c.value);
  return project::edit_sketch(d, traced.id, edited);
}

/// The curves of a file as a sketch, on the plane they lie in or on a datum plane.
Result<Document> curves(const Arguments& a, const Document& d, Json& said) {
  project::DrawingPlace place;
  if (!a.plane.empty() || !a.normal.empty() || !a.origin.empty()) {
    project::TracedSketch where;
    const auto base = plane_of(a, where);
    if (!base) return base.error();
    place.base = *base;
    place.plane = where.plane;
  }
  place.level = a.level;
  place.name = a.name;
  const auto added = project::add_drawing(d, a.file, place);
  if (!added) return added.error();
  said["curves"] = added->curves;
  said["points"] = added->points;
  said["left_out"] = added->left_out;
  return added->document;
}

Result<Document> redraw(const Arguments& a, const Document& d, Json& said) {
  const auto found = find_sketch(d, a.sketch);
  if (!found) return found.error();
  const project::TracedSketch& traced = **found;
  const auto kinds = sketch::as_kinds();
  const auto kind = std::find_if(kinds.begin(), kinds.end(),
                                 [&](const sketch::AsKind& k) { return a.as == k.name; });
  if (kind == kinds.end()) {
    std::string names;
    for (const sketch::AsKind& k : kinds)
      names += (names.empty() ? "" : ", ") + std::string(k.name);
    return Error{ErrorCode::InvalidInput,
                 "\"" + a.as + "\" is no kind of curve. There are: " + names + "."};
  }
  sketch::RedrawOptions options;
  options.reach = traced.reach();
  options.tolerance = traced.tolerance;
  options.sides = a.sides;
  const auto drawn = sketch::redraw(traced.sketch, traced.section, a.entities, kind->as, options);
  if (!drawn) return drawn.error();
  said["entities"] = drawn->entities;
  said["points"] = drawn->points;
  said["rms_before"] = drawn->rms_before;
  said["rms_after"] = drawn->rms_after;
  said["max_before"] = drawn->greatest_before;
  said["max_after"] = drawn->greatest_after;
  said["follows_noise"] = drawn->follows_noise;
  return project::edit_sketch(d, traced.id, drawn->sketch);
}

Result<Document> draw_along(const Arguments& a, const Document& d, Json& said) {
  const auto found = find_sketch(d, a.sketch);
  if (!found) return found.error();
  const project::TracedSketch& traced = **found;
  if (traced.section.polylines.empty())
    return Error{ErrorCode::InvalidInput, "The sketch has no section that could be followed."};
  if (a.at.size() < 2)
    return Error{ErrorCode::InvalidInput,
                 "Say where it begins and where each stretch ends: two or more x,y after --at."};
  std::vector<sketch::SectionPlace> places;
  for (const std::string& text : a.at) {
    const auto p = parse_vector(text + ",0");
    if (!p)
      return Error{ErrorCode::InvalidInput,
                   "\"" + text + "\" is no place of the sketch: say x,y in mm."};
    const auto place = sketch::nearest_place(traced.section, p->head<2>());
    const Vec2& there = traced.section.polylines[place->line].points[place->point];
    if (const double off = (there - p->head<2>()).norm(); off > traced.reach())
      return Error{ErrorCode::InvalidInput, "No section lies at " + text + ": the nearest is " +
                                                format_trimmed(off, 2) + " mm away, at " +
                                                format_trimmed(there.x()) + "," +
                                                format_trimmed(there.y()) + "."};
    if (!places.empty() && place->line != places.front().line)
      return Error{ErrorCode::InvalidInput, text + " lies on another outline than " + a.at.front() +
                                                ": follow one after the other."};
    places.push_back(*place);
  }
  section::ResolveOptions options;
  options.tolerance = traced.tolerance;
  sketch::Sketch drawn = traced.sketch;
  const auto begun = static_cast<long>(places.front().point);
  sketch::AlongRun run{{places.front().line, begun, begun}};
  Json entities = Json::array();
  for (std::size_t k = 1; k < places.size(); ++k) {
    run.stretch.go_to(traced.section, places[k].point);
    const bool closes = k > 1 && k + 1 == places.size() && places[k].point == places[0].point;
    const auto curves = run.draw(drawn, traced.section, options, closes ? run.first : 0);
    if (!curves) return curves.error();
    for (const sketch::Id id : *curves)
      entities.push_back({{"entity", id}, {"type", sketch::kind_of(*drawn.find_entity(id)).key()}});
  }
  said["entities"] = entities;
  auto edited = project::edit_sketch(d, traced.id, drawn);
  if (edited) said["rms"] = edited->find_sketch(traced.id)->rms;
  return edited;
}

}  // namespace

Result<const project::TracedSketch*> find_sketch(const Document& d, const std::string& name) {
  for (const auto& s : d.sketches) {
    if (s->name == name || name.empty()) return s.get();
  }
  std::string names;
  for (const auto& s : d.sketches) names += (names.empty() ? "" : ", ") + s->name;
  return Error{ErrorCode::InvalidInput,
               "There is no sketch \"" + name + "\"." +
                   (names.empty() ? " Cut a section first: lostline-cli project section."
                                  : " There are: " + names + ".")};
}

void write_sketch(Common& common, const Arguments& a) {
  const auto d = store::load_project(a.path, progress_task(common, "opening"));
  if (!d) return fail(common, d.error());
  if (!a.all && !a.reference && a.sketches.size() < 2) {
    const auto sketch = find_sketch(*d, a.sketches.empty() ? std::string() : a.sketches.front());
    if (!sketch) return fail(common, sketch.error());
    if (const Status written = io::write_curves(a.file, (*sketch)->sketch, (*sketch)->section);
        !written)
      return fail(common, written.error());
    return print(common, {{"sketch", (*sketch)->name},
                          {"entities", (*sketch)->sketch.entities.size()},
                          {"evidence", evidence_of(*d, **sketch)},
                          {"out", a.file}});
  }
  project::CurveChoice choice;
  choice.reference = a.reference;
  choice.space_curves = a.all;
  if (a.all) choice.sketches = project::all_sketches(*d);
  for (const std::string& name : a.all ? std::vector<std::string>{} : a.sketches) {
    const auto sketch = find_sketch(*d, name);
    if (!sketch) return fail(common, sketch.error());
    choice.sketches.push_back((*sketch)->id);
  }
  model::Model solid;
  if (a.all) {
    auto whole = model_before(*d, d->steps.size(), progress_task(common, "recomputing"));
    if (!whole) return fail(common, whole.error());
    solid = *std::move(whole);
  }
  const io::CurveSet set = project::curve_set(*d, solid, choice);
  if (const Status written = io::write_curve_set(a.file, set); !written)
    return fail(common, written.error());
  Json names = Json::array();
  Json evidence = Json::object();
  for (const auto& drawing : set.drawings) {
    names.push_back(drawing.name);
    for (const auto& s : d->sketches) {
      if (s->name == drawing.name) evidence[s->name] = evidence_of(*d, *s);
    }
  }
  Json reference = Json::array();
  for (const auto& mark : set.reference) reference.push_back(mark.name);
  print(common, {{"sketches", names},
                 {"evidence", evidence},
                 {"curves", set.curves.size()},
                 {"reference", reference},
                 {"out", a.file}});
}

void add_project_trace(Common& common, const Declare& editing) {
  {
    const auto [sub, a] = editing("section", "cut the scan by a datum plane and keep the sketch",
                                  [](const Arguments& a, const Document& d, Json& said) {
                                    return section(a, d, false, said);
                                  });
    sub->add_option("--plane", a->plane, "xy, xz or yz");
    sub->add_option("--origin", a->origin, "x,y,z of a point on a plane of its own, mm");
    sub->add_option("--normal", a->normal, "x,y,z square to a plane of its own");
    sub->add_option("--level", a->level, "mm from the plane");
    sub->add_option("--and-at", a->levels, "further levels, gathered on this plane");
    sub->add_option("--regions", a->regions, "cut these regions of the survey only");
    sub->add_option("--also", a->also, "names of scans beside the first one, to cut them too");
    sub->add_option("--resolve", a->tolerance,
                    "mm: departures below are nobody's intent; 0: by noise and spacing")
        ->check(CLI::NonNegativeNumber);
    sub->add_flag("--bare", a->bare, "without the suggested constraints");
    sub->add_option("--name", a->name, "of the sketch");
  }
  {
    const auto [sub, a] =
        editing("outline", "keep what the scan covers, seen square to a datum plane, as a sketch",
                [](const Arguments& a, const Document& d, Json& said) {
                  return section(a, d, true, said);
                });
    sub->add_option("--plane", a->plane, "xy, xz or yz");
    sub->add_option("--offset", a->offset, "mm outside of the silhouette; negative: inside");
    sub->add_flag("--outer", a->outer, "without openings that can be looked through");
    sub->add_option("--resolve", a->tolerance,
                    "mm: departures below are nobody's intent; 0: by noise and spacing")
        ->check(CLI::NonNegativeNumber);
    sub->add_flag("--bare", a->bare, "without the suggested constraints");
    sub->add_option("--name", a->name, "of the sketch");
  }
  {
    const auto [sub, a] = editing(
        "dimension", "add the dimensions that a sketch lacks, in pencil",
        [](const Arguments& a, const Document& d, Json& said) { return dimension(a, d, said); });
    sub->add_option("--sketch", a->sketch, "its name; the first one without");
  }
  {
    const auto [sub, a] = editing(
        "curves", "keep the curves of a file as a sketch",
        [](const Arguments& a, const Document& d, Json& said) { return curves(a, d, said); });
    sub->add_option("FILE", a->file, "curves: " + io::format_extensions({io::reads_curves}))
        ->required();
    a->plane.clear();
    sub->add_option("--plane", a->plane, "xy, xz or yz; without, where the file has them");
    sub->add_option("--origin", a->origin, "x,y,z of a point on a plane of its own, mm");
    sub->add_option("--normal", a->normal, "x,y,z square to a plane of its own");
    sub->add_option("--level", a->level, "mm from the plane");
    sub->add_option("--name", a->name, "of the sketch");
  }
  {
    const auto [sub, a] = editing(
        "redraw", "draw a stretch of a sketch once more from its section, as one kind of curve",
        [](const Arguments& a, const Document& d, Json& said) { return redraw(a, d, said); });
    sub->add_option("--sketch", a->sketch, "its name; the first one without");
    sub->add_option("--entities", a->entities, "numbers of the curves")->required();
    sub->add_option(
        "--as", a->as,
        "\"fewest curves\", line, arc, circle, ellipse, spline, rectangle, slot or polygon");
    sub->add_option("--sides", a->sides, "of a polygon");
  }
  {
    const auto [sub, a] = editing(
        "draw-along", "draw along the section of a sketch, each stretch as the fewest curves",
        [](const Arguments& a, const Document& d, Json& said) { return draw_along(a, d, said); });
    sub->add_option("--sketch", a->sketch, "its name; the first one without");
    sub->add_option("--at", a->at,
                    "x,y in the sketch where it begins, then where each stretch ends, mm; on a "
                    "closed outline the shorter way round, and back to the start closes it")
        ->required();
  }
  {
    const auto [sub, a] = editing(
        "bring-in", "draw into a sketch, as fixed construction, what it takes from elsewhere",
        [&common](const Arguments& a, const Document& d, Json& said) {
          return bring_in(common, a, d, said);
        });
    sub->add_option("--sketch", a->sketch, "its name; the first one without");
    sub->add_option("--edges", a->edges, "x,y,z near edges of the model, seen square to the plane");
    sub->add_option("--faces", a->faces, "x,y,z on faces of the model, for all their edges");
    sub->add_flag("--cut", a->cut, "where the plane of the sketch cuts the model");
    sub->add_option("--regions", a->regions, "axes, centres and planes of regions of the survey");
    sub->add_option("--fits", a->fits, "the same of kept fits, by name");
    sub->add_option("--from", a->sketches, "names of other sketches");
  }
}

}  // namespace lostline::cli
