#include "project.h"

#include <filesystem>
#include <functional>
#include <iostream>

#include "align.h"
#include "deviation/places.h"
#include "io/formats.h"
#include "model/steps/extrude/extrude.h"
#include "project/bodies.h"
#include "project/datums.h"
#include "project/ledger.h"
#include "project/patterns.h"
#include "project/sketch_plane.h"
#include "reading/evidence.h"
#include "reading/region_reading.h"
#include "reading/row_nominals.h"
#include "reading/twist.h"
#include "sketch/dimension_scheme.h"
#include "sketch/section_judge.h"
#include "sketch/solver.h"
#include "store/project_file.h"

// A project without the window: made, surveyed, framed, traced, built, decided and told about.
// Every act reads the project and writes it back, or to --out.

namespace lostline::cli {
namespace {

const char* kind_of(const project::Dimension& row) {
  switch (row.quantity) {
    case standards::Quantity::Diameter:
      return "diameter";
    case standards::Quantity::Radius:
      return "radius";
    case standards::Quantity::Angle:
      return "angle";
    default:
      return "length";
  }
}

Json rows_of(const Document& d) {
  Json rows = Json::array();
  for (const project::Dimension& row : d.dimensions) {
    Json others = Json::array();
    for (const project::TypedReading& t : row.typed) {
      others.push_back({{"reading", t.value}, {"u", t.u}, {"instrument", t.instrument}});
      if (row.reading && row.u > 0 && t.u > 0)
        others.back()["en"] = project::en_score(*row.reading, row.u, t.value, t.u);
    }
    rows.push_back({{"name", row.name},
                    {"kind", kind_of(row)},
                    {"reading", row.reading ? Json(*row.reading) : Json()},
                    {"u", row.u},
                    {"intent", row.intent ? Json(*row.intent) : Json()},
                    {"reason", row.reason},
                    {"source", row.source},
                    {"others", others}});
    if (const auto whole = reading::region_reading(d, row))
      rows.back()["regions"] = {
          {"reading", whole->value}, {"u", whole->u}, {"regions", whole->regions}};
  }
  return rows;
}

Json summary(const Document& d) {
  Json sketches = Json::array();
  for (const auto& s : d.sketches) {
    sketches.push_back({{"name", s->name},
                        {"entities", s->sketch.entities.size()},
                        {"constraints", s->sketch.constraints.size()},
                        {"rms", s->rms}});
  }
  Json steps = Json::array();
  for (const model::Step& s : d.steps)
    steps.push_back({{"number", s.number}, {"name", s.name}, {"kind", s.feature.words()}});
  return {{"title", d.title},
          {"triangles", d.scan ? d.scan->health.triangles : 0},
          {"regions", d.survey ? d.survey->regions.size() : 0},
          {"fits", d.fits.size()},
          {"framed", d.frame != nullptr},
          {"sketches", sketches},
          {"steps", steps},
          {"dimensions", rows_of(d)}};
}

/// The row of a name, which must be one only.
Result<project::Id> find_row(const Document& d, const std::string& name) {
  project::Id found = 0;
  for (const project::Dimension& row : d.dimensions) {
    if (row.name != name) continue;
    if (found != 0)
      return Error{ErrorCode::InvalidInput,
                   "Two rows are called \"" + name + "\". Rename one of them in the window first."};
    found = row.id;
  }
  if (found != 0) return found;
  std::string names;
  for (const project::Dimension& row : d.dimensions)
    names += (names.empty() ? "" : ", ") + row.name;
  return Error{ErrorCode::InvalidInput,
               "There is no row \"" + name + "\"." +
                   (names.empty() ? " The Ledger is empty." : " There are: " + names + ".")};
}

struct Computed {
  model::Model solid;
  std::vector<model::StepResult> steps;
};
Result<Computed> compute(const Common& common, const Document& d) {
  model::RouteCache cache;
  auto steps = model::recompute(d.steps, d.placed_sketches(), cache,
                                progress_task(common, "recomputing"), model::Wanted::last());
  if (!steps) return steps.error();
  if (steps->empty() || steps->back().solid.empty())
    return Error{ErrorCode::Failed, "The project has no model yet: build a step first."};
  const model::Model solid = steps->back().solid;
  return Computed{solid, *std::move(steps)};
}

/// An act that changes the project: what it gives is written and told about.
using Act = std::function<Result<Document>(Document, Json& said)>;

void change(Common& common, const Arguments& a, const Act& act) {
  auto loaded = store::load_project(a.path, progress_task(common, "opening"));
  if (!loaded) return fail(common, loaded.error());
  const Stopwatch watch;
  Json said = Json::object();
  const auto next = act(*std::move(loaded), said);
  if (!next) return fail(common, next.error());
  const std::string out = a.out.empty() ? a.path : a.out;
  if (const Status saved = store::save_project(out, *next, progress_task(common, "saving")); !saved)
    return fail(common, saved.error());
  Json result = summary(*next);
  result.update(said);
  result["out"] = out;
  result["seconds"] = watch.seconds();
  print(common, result);
}

Result<Document> survey(const Common& common, const Arguments& a, const Document& d) {
  if (!d.scan)
    return Error{ErrorCode::InvalidInput, a.path + " holds no scan to split into regions."};
  survey::SurveyOptions options;
  options.sensitivity = a.sensitivity;
  auto found = survey::split_into_regions(*d.scan->mesh, d.scan->topology, options,
                                          progress_task(common, "surveying"));
  if (!found) return found.error();
  return project::with_new_split(d, std::make_shared<const survey::Survey>(*std::move(found)));
}

Result<Document> frame(const Common& common, const Arguments& a, const Document& d) {
  if (a.propose == !a.frame.empty())
    return Error{ErrorCode::InvalidInput, "Say one of --propose and --spec FRAME.json."};
  if (!a.propose) {
    auto fits = NamedFits::open(common, a.path, a.sensitivity);
    if (!fits) return fits.error();
    NamedFits named = *std::move(fits);
    return with_frame_of(a.frame, named);
  }
  const auto systems = project::propose_frames(d);
  if (systems.empty())
    return Error{ErrorCode::Failed,
                 "No datum system can be proposed. Survey first (lostline-cli project survey), or "
                 "describe one with --spec."};
  return project::set_frame(d, systems.front().specification);
}

Result<Document> extrude(const Arguments& a, const Document& d, Json& said) {
  const auto found = find_sketch(d, a.sketch);
  if (!found) return found.error();
  const project::TracedSketch& traced = **found;
  const auto loops = sketch::find_loops(traced.sketch);
  if (loops.empty())
    return Error{ErrorCode::InvalidInput,
                 "Sketch " + traced.name + " has no closed outline to extrude."};
  const auto operation = operation_of(a.operation);
  if (!operation) return operation.error();
  model::Extrude e;
  e.sketch = traced.id;
  e.operation = *operation;
  // The largest outline; those inside it are openings unless --solid says otherwise.
  e.loops = {loops.front().uses.front().entity};
  if (!a.solid) {
    const sketch::Polygon outer = sketch::polygon_of(traced.sketch, loops.front());
    for (std::size_t i = 1; i < loops.size(); ++i) {
      const sketch::Polygon inner = sketch::polygon_of(traced.sketch, loops[i]);
      if (!inner.empty() && sketch::contains(outer, inner.front()))
        e.loops.push_back(loops[i].uses.front().entity);
    }
  }
  // What encloses nothing makes no material: that is told.
  Json open = Json::array();
  for (const sketch::Loop& chain : sketch::open_chains(traced.sketch)) {
    for (const sketch::Loop::Use& use : chain.uses)
      open.push_back(sketch::name_of(traced.sketch, use.entity));
  }
  said["left_open"] = open;
  const reading::LevelPair levels =
      reading::suggest_extent(reading::find_levels(d, traced, {e.loops, {}}), traced.level);
  const auto level = [](const std::optional<double>& said,
                        const std::optional<reading::Level>& read) -> std::optional<double> {
    return said ? said : read ? std::optional(read->level) : std::nullopt;
  };
  const auto from = level(a.from, levels.below);
  const auto to = level(a.to, levels.above);
  if (!from || !to)
    return Error{ErrorCode::Failed, std::string("The scan shows no level ") +
                                        (from ? "above" : "below") + " the section: say --" +
                                        (from ? "to" : "from") + "."};
  e.extent.from.value = *from;
  e.extent.to.value = *to;
  std::vector<project::FieldReading> readings;
  const auto field = [&](const char* name, const std::optional<double>& said,
                         const std::optional<reading::Level>& read, const char* source) {
    project::FieldReading f{name, read ? std::optional(read->level) : std::nullopt,
                            read ? read->u : 0, source, said};
    readings.push_back(f);
  };
  field("from", a.from, levels.below, "scan level below the section");
  field("to", a.to, levels.above, "scan level above the section");
  if (a.read_twist || a.twist) {
    const auto read = reading::read_twist(d, traced, {e.loops, {}}, Vec2::Zero(), *from, *to);
    if (!read && !a.twist)
      return Error{ErrorCode::Failed,
                   "The scan's walls tell no even twist about the sketch's origin: say --twist."};
    e.twist.value = a.twist ? *a.twist * kDegree : read->angle;
    readings.push_back({"twist", read ? std::optional(read->angle / kDegree) : std::nullopt,
                        read ? read->u / kDegree : 0, "walls of the scan", a.twist});
    if (read)
      said["twist"] = {
          {"deg", read->angle / kDegree}, {"u", read->u / kDegree}, {"rms", read->rms}};
  }
  return project::add_step(d, e, a.name.empty() ? "body" : a.name, readings).document;
}

Result<Document> patterns(const Arguments& a, const Document& d, Json& said) {
  Json list = Json::array();
  const std::size_t count = d.survey ? d.survey->patterns.size() : 0;
  for (std::size_t i = 0; i < count; ++i)
    list.push_back({{"number", i + 1}, {"pattern", project::describe(d, d.survey->patterns[i])}});
  said["patterns"] = list;
  std::vector<std::size_t> chosen;
  for (const std::size_t number : a.numbers) {
    if (number == 0 || number > count)
      return Error{ErrorCode::InvalidInput, "There is no pattern " + std::to_string(number) +
                                                "; the survey found " + std::to_string(count) +
                                                "."};
    chosen.push_back(number - 1);
  }
  for (std::size_t i = 0; a.all && i < count; ++i) chosen.push_back(i);
  if (chosen.empty()) return d;
  return project::accept_patterns(d, chosen);
}

Result<Document> ink(const Arguments& a, const Document& d, Json& said) {
  if (a.certain == !a.row.empty())
    return Error{ErrorCode::InvalidInput, "Say one of --row NAME and --certain."};
  if (a.certain) {
    constexpr double kLikely = 0.5;  // share of the plausibility of all nominals offered
    std::vector<project::Proposal> likely;
    for (const project::Proposal& p : reading::propose_inks(d)) {
      if (p.share > kLikely) likely.push_back(p);
    }
    said["inked"] = likely.size();
    return project::ink_all(d, likely);
  }
  const auto row = find_row(d, a.row);
  if (!row) return row.error();
  for (const project::Proposal& p : reading::propose_inks(d)) {
    if (p.dimension == *row) return project::ink(d, *row, p.value, p.reason);
  }
  return Error{ErrorCode::Failed, "No nominal lies within U of \"" + a.row +
                                      "\". Set its value: lostline-cli project set --row … "
                                      "--value …"};
}

void report_faces(Common& common, const Arguments& a) {
  const auto d = store::load_project(a.path, progress_task(common, "opening"));
  if (!d) return fail(common, d.error());
  const Stopwatch watch;
  if (!d->scan) return fail(common, {ErrorCode::InvalidInput, a.path + " holds no scan."});
  const auto computed = compute(common, *d);
  if (!computed) return fail(common, computed.error());
  const auto triangles = model::tessellate(computed->solid);
  if (!triangles) return fail(common, triangles.error());
  const auto seen =
      deviation::coverage(*triangles, computed->solid.face_count(), *d->scan->index,
                          d->to_part().inverse(), a.reach, progress_task(common, "looking"));
  if (!seen) return fail(common, seen.error());
  const auto comparator = deviation::Comparator::build(computed->solid);
  if (!comparator) return fail(common, comparator.error());
  std::vector<Vec3> points;
  for (const Vec3& v : d->scan->mesh->vertices) points.push_back(d->to_part() * v);
  const auto map = comparator->compare(points, 0, progress_task(common, "comparing"));
  if (!map) return fail(common, map.error());
  const auto groups = deviation::by_group(*map, map->face, [&](std::uint32_t face) {
    return d->tolerance_of(computed->solid.face_name(face));
  });
  Json faces = Json::array();
  for (std::size_t f = 0; f < computed->solid.face_count(); ++f) {
    const std::string name = computed->solid.face_name(f);
    Json face{{"name", name},
              {"title", project::face_title(*d, name)},
              {"coverage", seen->face_share[f]},
              {"n", 0}};
    for (const auto& g : groups) {
      if (g.group != f) continue;
      const auto& s = g.statistics;
      face.update({{"n", s.n},
                   {"rms", s.rms},
                   {"mean", s.mean},
                   {"max", s.max},
                   {"min", s.min},
                   {"tolerance", d->tolerance_of(name)},
                   {"within_fraction", s.within_fraction}});
    }
    faces.push_back(std::move(face));
  }
  print(common, {{"coverage", seen->share}, {"faces", faces}, {"seconds", watch.seconds()}});
}

void make(Common& common, const Arguments& a) {
  if (std::filesystem::exists(a.path) && !a.overwrite)
    return fail(common, {ErrorCode::InvalidInput,
                         a.path + " exists. Name another file, or say --overwrite."});
  const Stopwatch watch;
  const auto scan = project::open_scan(a.scan, {}, progress_task(common, "opening"));
  if (!scan) return fail(common, scan.error());
  const Document d = project::with_scan({}, *scan);
  if (const Status saved = store::save_project(a.path, d, progress_task(common, "saving")); !saved)
    return fail(common, saved.error());
  Json result = summary(d);
  result["unit"] = unit_symbol((*scan)->unit);
  result["out"] = a.path;
  result["seconds"] = watch.seconds();
  print(common, result);
}

}  // namespace

void add_project(CLI::App& app, Common& common) {
  CLI::App* all = subcommand(app, common, "project",
                             "make a project and work on it: survey, frame, section, extrude, "
                             "decide, report");
  all->require_subcommand(1);
  const auto act = [&](const char* name, const char* description) {
    auto arguments = std::make_shared<Arguments>();
    CLI::App* sub = subcommand(*all, common, name, description);
    sub->add_option("PROJECT", arguments->path, "project file (.lostline)")->required();
    return std::pair(sub, arguments);
  };
  // What changes the project is written back to it, or to --out.
  const Declare editing = [&](const char* name, const char* description, const Run& run) {
    const auto [sub, arguments] = act(name, description);
    sub->add_option("--out", arguments->out, "write the project here instead of over itself");
    sub->callback([&common, arguments = arguments, run] {
      change(common, *arguments,
             [&](Document d, Json& said) { return run(*arguments, std::move(d), said); });
    });
    return std::pair(sub, arguments);
  };
  {
    const auto [sub, a] = act("new", "a new project of a scan");
    sub->add_option("SCAN", a->scan, "scan; its unit is guessed as in the window")->required();
    sub->add_flag("--overwrite", a->overwrite, "write over a project that exists");
    sub->callback([&common, a = a] { make(common, *a); });
  }
  {
    const auto [sub, a] = act("show", "what a project holds, with the Ledger");
    sub->callback([&common, a = a] {
      const auto d = store::load_project(a->path, progress_task(common, "opening"));
      if (!d) return fail(common, d.error());
      print(common, summary(*d));
    });
  }
  {
    const auto [sub, a] = editing(
        "survey", "split the scan into regions",
        [&common](const Arguments& a, const Document& d, Json&) { return survey(common, a, d); });
    sub->add_option("--sensitivity", a->sensitivity, "0 … 1: smaller faces become regions")
        ->check(CLI::Range(0.0, 1.0));
  }
  {
    const auto [sub, a] = editing(
        "frame", "set the datum frame",
        [&common](const Arguments& a, const Document& d, Json&) { return frame(common, a, d); });
    sub->add_flag("--propose", a->propose, "the best datum system that the survey offers");
    sub->add_option("--spec", a->frame, "frame file, as of align; see docs/design/frame-file.md");
  }
  add_project_join(common, editing);
  add_project_scan(common, editing);
  add_project_trace(common, editing);
  add_project_build(common, editing);
  add_project_step(*all, common, editing);
  {
    const auto [sub, a] = editing(
        "extrude", "make a body of a sketch, between levels read from the scan",
        [](const Arguments& a, const Document& d, Json& said) { return extrude(a, d, said); });
    sub->add_option("--sketch", a->sketch, "its name; the first one without");
    sub->add_option("--from", a->from, "mm: decided instead of read");
    sub->add_option("--to", a->to, "mm: decided instead of read");
    sub->add_flag("--solid", a->solid, "without the outlines inside as openings");
    sub->add_option("--twist", a->twist,
                    "degrees by which it turns about the sketch's origin: decided instead of read");
    sub->add_flag("--read-twist", a->read_twist, "it turns as the scan's walls do");
    finish_build(sub, a);
  }
  {
    const auto [sub, a] = editing(
        "patterns", "list the patterns found; accept some",
        [](const Arguments& a, const Document& d, Json& said) { return patterns(a, d, said); });
    sub->add_option("--accept", a->numbers, "numbers of the list");
    sub->add_flag("--all", a->all, "accept all");
  }
  {
    const auto [sub, a] =
        editing("ink", "decide a row by its likeliest nominal, or all that are certain",
                [](const Arguments& a, const Document& d, Json& said) { return ink(a, d, said); });
    sub->add_option("--row", a->row, "name of the row");
    sub->add_flag("--certain", a->certain, "every row that has a likely nominal within its U");
  }
  {
    const auto [sub, a] =
        editing("set", "decide a row by a value",
                [](const Arguments& a, const Document& d, Json&) -> Result<Document> {
                  const auto row = find_row(d, a.row);
                  if (!row) return row.error();
                  return project::ink(d, *row, a.value, "set");
                });
    sub->add_option("--row", a->row, "name of the row")->required();
    sub->add_option("--value", a->value, "mm or degrees")->required();
  }
  {
    const auto [sub, a] = act("sketch", "write sketches and curves: .dxf, .svg, .igs or .step");
    sub->add_option("--sketch", a->sketches, "names; the first one without")
        ->allow_extra_args(false);
    sub->add_flag("--all", a->all, "all sketches and curves in space");
    sub->add_flag("--reference", a->reference,
                  "with planes, axes and points of the datum and the kept fits (.step, .igs)");
    sub->add_option("--out", a->file, "file to write")->required();
    sub->callback([&common, a = a] { write_sketch(common, *a); });
  }
  {
    const auto [sub, a] =
        act("faces", "deviation of every face of the model, and how much of it the scan shows");
    sub->add_option("--reach", a->reach, "mm within which scan counts as seen")
        ->check(CLI::PositiveNumber);
    sub->callback([&common, a = a] { report_faces(common, *a); });
  }
}

}  // namespace lostline::cli
