#include "align.h"
#include "instruments.h"
#include "model/steps/hole/hole.h"
#include "model/steps/loft/loft.h"
#include "model/steps/space_curve/space_curve.h"
#include "model/steps/sweep/sweep.h"
#include "project.h"
#include "project/edits.h"
#include "reading/evidence.h"
#include "reading/from_regions.h"
#include "reading/hole_head.h"
#include "reading/space_curves.h"
#include "sketch/curve_kind.h"
#include "standards/screws.h"
#include "standards/threads.h"

// Build without the window: holes, sweeps and lofts, and what comes straight from regions.

namespace lostline::cli {
namespace {

Result<Document> sweep(const Arguments& a, const Document& d) {
  const auto profile = find_sketch(d, a.profile);
  if (!profile) return profile.error();
  const auto path = find_sketch(d, a.path_sketch);
  if (!path) return path.error();
  const auto operation = operation_of(a.operation);
  if (!operation) return operation.error();
  model::Sweep sweep;
  sweep.profile = {(*profile)->id};
  sweep.path = {(*path)->id};
  sweep.hold = a.parallel ? model::Sweep::Hold::Parallel : model::Sweep::Hold::Square;
  sweep.operation = *operation;
  return project::add_step(d, sweep, name_or(a, "sweep"), {}).document;
}

Result<Document> loft(const Arguments& a, const Document& d) {
  model::Loft loft;
  for (const std::string& name : a.sketches) {
    const auto section = find_sketch(d, name);
    if (!section) return section.error();
    loft.sections.push_back((*section)->id);
  }
  const auto operation = operation_of(a.operation);
  if (!operation) return operation.error();
  if (!a.at.empty()) {
    const auto at = places(a.at);
    if (!at) return at.error();
    loft.outline = {(*find_sketch(d, a.sketches.front()))->base.to_plane(at->front())};
  }
  loft.ruled = a.ruled;
  loft.operation = *operation;
  loft.beyond_start.value = a.beyond_start;
  loft.beyond_end.value = a.beyond_end;
  std::vector<project::FieldReading> beyond;
  if (a.beyond_start > 0)
    beyond.push_back({"beyond_start", std::nullopt, 0, "typed", a.beyond_start});
  if (a.beyond_end > 0) beyond.push_back({"beyond_end", std::nullopt, 0, "typed", a.beyond_end});
  return project::add_step(d, loft, name_or(a, "loft"), beyond).document;
}

/// A word of a list of words as its place.
template <class List>
Result<int> place_of(const std::string& word, const List& words, const char* what) {
  std::string all;
  for (std::size_t k = 0; k < std::size(words); ++k) {
    if (word == words[k]) return static_cast<int>(k);
    all += (k > 0 ? ", " : "") + std::string(words[k]);
  }
  return Error{ErrorCode::InvalidInput,
               "\"" + word + "\" is no " + what + ": say one of " + all + "."};
}

Result<Document> hole(const Arguments& a, const Document& d, Json& said) {
  const auto found = find_sketch(d, a.sketch);
  if (!found) return found.error();
  const project::TracedSketch& traced = **found;
  model::Hole hole;
  hole.sketch = traced.id;
  hole.circles = a.entities;
  if (hole.circles.empty()) {
    for (const sketch::Entity& e : traced.sketch.entities) {
      if (sketch::has_radius(&e) && !e.construction && !sketch::kind_of(e).has_ends())
        hole.circles.push_back(e.id);
    }
    for (const sketch::Point& p : traced.sketch.points) {
      if (p.own) hole.circles.push_back(p.id);
    }
  }
  constexpr std::array kHeads{"none", "counterbore", "countersink"};
  constexpr std::array kBottoms{"flat", "drilled"};
  const auto bottom = place_of(a.bottom, kBottoms, "bottom");
  if (!bottom) return bottom.error();
  hole.bottom = static_cast<model::Hole::Bottom>(*bottom);
  const auto thread = place_of(a.thread, model::Hole::threads(), "thread");
  if (!thread) return thread.error();
  hole.thread = *thread;
  constexpr std::array kClasses{"6H", "5H", "7H", "6G"};
  const auto thread_class = place_of(a.thread_class, kClasses, "class of a thread");
  if (!thread_class) return thread_class.error();
  hole.fit = static_cast<model::Hole::Fit>(*thread_class);
  hole.modelled = a.modelled;
  const auto read = reading::read_diameter(traced, hole.circles);
  std::optional<double> diameter = a.diameter;
  // Tapped, it takes the tap drill unless it is told otherwise.
  for (const standards::Thread& t : standards::metric_threads()) {
    if (!diameter && t.coarse && t.name() == a.thread) diameter = t.tap_drill();
  }
  if (!diameter && !read)
    return Error{ErrorCode::Failed, "No circle of the sketch tells a diameter: say --diameter."};
  hole.diameter.value = diameter.value_or(read ? read->diameter : 0);
  std::vector<project::FieldReading> readings{
      {"diameter", read ? std::optional(read->diameter) : std::nullopt, read ? read->u : 0,
       "circles of " + traced.name, diameter}};
  if (a.from || a.to) {
    if (!a.from || !a.to)
      return Error{ErrorCode::InvalidInput,
                   "Say both --from and --to, or none for a hole through."};
    hole.extent.reach = model::Reach::Levels;
    hole.extent.from.value = *a.from;
    hole.extent.to.value = *a.to;
    readings.push_back({"from", std::nullopt, 0, "typed", a.from});
    readings.push_back({"to", std::nullopt, 0, "typed", a.to});
  }
  // The seat: as told for a screw, else as the scan shows it.
  const auto seen = reading::read_head(d, traced, hole.circles, hole.diameter.value);
  std::string word = a.head;
  if (word.empty()) word = seen ? kHeads[static_cast<std::size_t>(seen->head)] : "none";
  const auto head = place_of(word, kHeads, "head");
  if (!head) return head.error();
  hole.head = static_cast<model::Hole::Head>(*head);
  if (hole.head != model::Hole::Head::None) {
    const bool told = seen && seen->head == hole.head;
    std::optional<double> wide, deep, angle;
    if (!a.screw.empty()) {
      const auto& seats = standards::screw_seats();
      const auto seat = std::find_if(seats.begin(), seats.end(),
                                     [&](const auto& s) { return a.screw == s.thread; });
      if (seat == seats.end())
        return Error{ErrorCode::InvalidInput,
                     "There is no seat for " + a.screw + ": M3 to M24 are known."};
      const bool bore = hole.head == model::Hole::Head::Counterbore;
      wide = bore ? seat->counterbore : seat->countersink;
      deep = seat->counterbore_depth;
      angle = standards::kCountersinkAngle;
      if (!(*wide > 0))
        return Error{ErrorCode::InvalidInput, "ISO 15065 has no countersink for " + a.screw + "."};
    } else if (!told) {
      return Error{ErrorCode::Failed,
                   "The scan shows no " + word + " about these circles: say --screw."};
    }
    const auto say = [&](const char* name, double value, double u, std::optional<double> decided,
                         model::Quantity& q, double factor) {
      q.value = decided.value_or(value) * factor;
      readings.push_back({name, told ? std::optional(value) : std::nullopt, told ? u : 0,
                          told ? "seats of the scan" : "for the screw", decided});
    };
    const reading::HeadReading h = seen.value_or(reading::HeadReading{});
    say("head_diameter", h.diameter, h.u_diameter, wide, hole.head_diameter, 1);
    if (hole.head == model::Hole::Head::Counterbore)
      say("head_depth", h.depth, h.u_depth, deep, hole.head_depth, 1);
    else
      say("head_angle", h.angle / kDegree, h.u_angle / kDegree, angle, hole.head_angle, kDegree);
    const auto levels =
        reading::suggest_extent(reading::find_levels(d, traced, {hole.circles, {}}), traced.level);
    const std::optional<double> entry = a.entry        ? a.entry
                                        : told         ? std::optional(h.entry)
                                        : levels.above ? std::optional(levels.above->level)
                                                       : std::nullopt;
    if (!entry)
      return Error{ErrorCode::Failed,
                   "The scan shows no surface that the head enters: say --entry."};
    hole.entry.value = *entry;
    readings.push_back({"entry", told ? std::optional(h.entry) : entry, told ? h.u_entry : 0,
                        "scan level", a.entry});
    hole.from_below = told && h.from_below;
    said["head"] = {{"type", word}, {"holes", h.holes}};
  }
  said["diameter"] = hole.diameter.value;
  said["circles"] = hole.circles;
  return project::add_step(d, hole, name_or(a, "hole"), readings).document;
}

Result<Document> from_regions(const Arguments& a, const Document& d, Json& said,
                              reading::Making making, const Task& task) {
  reading::FromRegionsOptions options;
  options.tolerance = a.tolerance;
  options.suggested = !a.bare;
  const auto made = reading::from_regions(d, a.regions, making, options, task);
  if (!made) return made.error();
  const bool extruded = making == reading::Making::Extrude;
  const auto added = reading::add_from_regions(d, *made, name_or(a, extruded ? "body" : "turned"));
  if (!added) return added.error();
  said["made"] = made->said;
  return added->document;
}

Result<Document> curve(const Arguments& a, const Document& d, Json& said) {
  const auto picked = places(a.at);
  if (!picked) return picked.error();
  const double within = a.tolerance > 0 ? a.tolerance : reading::curve_tolerance(d);
  Result<reading::CurveReading> read = reading::CurveReading{};
  if (!a.sketches.empty()) {
    if (a.sketches.size() != 2)
      return Error{ErrorCode::InvalidInput, "Say the names of two sketches that cross."};
    const auto first = find_sketch(d, a.sketches[0]);
    if (!first) return first.error();
    const auto second = find_sketch(d, a.sketches[1]);
    if (!second) return second.error();
    read = reading::crossing_curve(**first, **second, a.tolerance > 0 ? a.tolerance : 0.01);
  } else if (!a.regions.empty()) {
    if (a.regions.size() != 1) return Error{ErrorCode::InvalidInput, "A curve follows one region."};
    if (!a.middle && picked->size() != 1)
      return Error{ErrorCode::InvalidInput,
                   "Say with one --at which border of the region is meant, or --middle."};
    read = a.middle ? reading::middle_curve(d, a.regions.front(), within)
                    : reading::border_curve(d, a.regions.front(), picked->front(), within);
  } else if (a.on_scan) {
    read = reading::curve_on_scan(d, *picked, a.closed, within);
  } else {
    read = reading::CurveReading{*picked, a.closed, 0, 0, "places"};
  }
  if (!read) return read.error();
  model::SpaceCurve curve;
  curve.path.corners = read->places;
  curve.closed = read->closed;
  if (a.straight) curve.runs = model::SpaceCurve::Runs::Straight;
  const auto spline = curve::SpaceSpline::through(read->places, read->closed);
  if (!spline) return spline.error();
  said["places"] = Json::array();
  for (const Vec3& p : read->places) said["places"].push_back(to_json(p));
  said["closed"] = read->closed;
  said["length"] = spline->length();
  said["rms"] = read->rms;
  said["max"] = read->greatest;
  return project::add_step(d, curve, name_or(a, "curve"), {}).document;
}

/// Features of a probe's programme, laid on the scan and kept.
Result<Document> probe(const Common& common, const Arguments& a, const Document& d, Json& said) {
  const auto programme = probe_programme(common, a.socket);
  if (!programme) return programme.error();
  datum::Candidate placed;
  if (a.pairs.empty()) {
    const auto ways =
        project::place_probed(d, programme->features, progress_task(common, "placing"));
    if (!ways) return ways.error();
    placed = ways->front();
    said["ways"] = ways->size();
  } else {
    std::vector<project::ProbedPair> pairs;
    for (const std::string& text : a.pairs) {
      const auto sign = text.find('=');
      const std::string name = text.substr(0, sign);
      const auto feature =
          std::find_if(programme->features.begin(), programme->features.end(),
                       [&](const project::ProbedFeature& f) { return f.name == name; });
      std::uint32_t region = 0;
      if (sign == std::string::npos || feature == programme->features.end() ||
          std::sscanf(text.c_str() + sign + 1, "%u", &region) != 1)
        return Error{ErrorCode::InvalidInput,
                     "\"" + text + "\" pairs nothing: say FEATURE=REGION, as \"plane 1=3\"."};
      pairs.push_back(
          {static_cast<std::size_t>(feature - programme->features.begin()), {region, 0}});
    }
    const auto by = project::place_probed_by(d, programme->features, pairs);
    if (!by) return by.error();
    placed = *by;
  }
  said["to_scan"] = to_json(placed.fit.motion);
  said["rms"] = placed.fit.rms;
  said["features"] = features_json(*programme);
  return project::add_probed(d, programme->features, placed.fit.motion);
}

}  // namespace

void add_project_build(Common& common, const Declare& editing) {
  add_project_free_form(common, editing);
  for (const bool extruded : {true, false}) {
    const auto making = extruded ? reading::Making::Extrude : reading::Making::Revolve;
    const auto [sub, a] = editing(
        extruded ? "extrude-regions" : "revolve-regions",
        extruded ? "sketch and extrude straight from walls, and ends if wanted, of the survey"
                 : "sketch and revolve straight from a round region of the survey",
        [&common, making](const Arguments& a, const Document& d, Json& said) {
          return from_regions(a, d, said, making, progress_task(common, "cutting"));
        });
    sub->add_option("--region", a->regions, "numbers of regions")->required();
    sub->add_option("--resolve", a->tolerance, "mm: larger is simpler; 0: by noise and spacing")
        ->check(CLI::NonNegativeNumber);
    sub->add_flag("--bare", a->bare, "without the suggested constraints");
    sub->add_option("--name", a->name, "of the step");
  }
  {
    const auto [sub, a] =
        editing("probe", "a touch probe's features beside the scan, matched with its regions",
                [&common](const Arguments& a, const Document& d, Json& said) {
                  return probe(common, a, d, said);
                });
    sub->add_option("--socket", a->socket, "where the probe waits")->required();
    sub->add_option("--pair", a->pairs,
                    "FEATURE=REGION that belong together; without, all are matched")
        ->allow_extra_args(false);
  }
  {
    const auto [sub, a] = editing(
        "curve",
        "a curve in space: through places, along a region's border or middle, where two "
        "sketches cross",
        [](const Arguments& a, const Document& d, Json& said) { return curve(a, d, said); });
    sub->add_option("--at", a->at, "x,y,z, part coordinates, in order")->allow_extra_args(false);
    sub->add_flag("--on-scan", a->on_scan, "it stays on the scan between the places");
    sub->add_flag("--closed", a->closed, "it comes back to its first place");
    sub->add_option("--region", a->regions,
                    "number of a region whose border nearest to --at it follows");
    sub->add_flag("--middle", a->middle, "the middle line of the region, a strip, instead");
    sub->add_option("--crossing", a->sketches, "names of two sketches, drawn along their normals");
    sub->add_flag("--straight", a->straight, "straight from place to place");
    sub->add_option("--tolerance", a->tolerance, "mm from what it follows; 0: by noise and spacing")
        ->check(CLI::NonNegativeNumber);
    sub->add_option("--name", a->name, "of the step");
  }
  {
    const auto [sub, a] = editing(
        "hole", "bore holes about circles or points of a sketch, with the seat that the scan shows",
        [](const Arguments& a, const Document& d, Json& said) { return hole(a, d, said); });
    sub->add_option("--sketch", a->sketch, "its name; the first one without");
    sub->add_option("--entities", a->entities, "numbers of circles or points; all without");
    sub->add_option("--diameter", a->diameter, "mm: decided instead of read");
    sub->add_option("--from", a->from, "mm: level of the bottom; without, through everything");
    sub->add_option("--to", a->to, "mm: level of the mouth");
    sub->add_option("--bottom", a->bottom, "flat or drilled (118 degrees)");
    sub->add_option("--head", a->head,
                    "none, counterbore or countersink; without, as the scan shows");
    sub->add_option("--screw", a->screw, "M3 to M24: the seat of its standard, not the scan's");
    sub->add_option("--entry", a->entry, "mm: level of the surface that the head is sunk into");
    sub->add_option("--thread", a->thread, "none or M3 to M24");
    sub->add_option("--class", a->thread_class, "of the thread: 6H, 5H, 7H or 6G");
    sub->add_flag("--modelled", a->modelled, "the thread's turns are cut, not only said");
    sub->add_option("--name", a->name, "of the step");
  }
  {
    const auto [sub, a] =
        editing("sweep", "move the outline of a sketch along the curves of another",
                [](const Arguments& a, const Document& d, Json&) { return sweep(a, d); });
    sub->add_option("--profile", a->profile, "name of the sketch that is moved")->required();
    sub->add_option("--along", a->path_sketch, "name of the sketch of the path")->required();
    sub->add_flag("--parallel", a->parallel, "the profile keeps its direction");
    finish_build(sub, a);
  }
  {
    const auto [sub, a] =
        editing("loft", "go over from section to section",
                [](const Arguments& a, const Document& d, Json&) { return loft(a, d); });
    sub->add_option("--sketches", a->sketches, "names of the sections in order")->required();
    sub->add_flag("--ruled", a->ruled, "straight from section to section");
    sub->add_option(
        "--at", a->at,
        "x,y,z, part coordinates, in or near the outline meant, where there are several");
    sub->add_option("--beyond-start", a->beyond_start,
                    "mm that it goes straight on before the first section")
        ->check(CLI::NonNegativeNumber);
    sub->add_option("--beyond-end", a->beyond_end,
                    "mm that it goes straight on past the last section")
        ->check(CLI::NonNegativeNumber);
    finish_build(sub, a);
  }
}

}  // namespace lostline::cli
