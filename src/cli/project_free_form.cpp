#include "model/border.h"
#include "model/steps/free_body/free_body.h"
#include "model/steps/patch_face/patch_face.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "project.h"
#include "project/edits.h"
#include "reading/free_form.h"
#include "step_fields.h"

// Build without the window what follows the scan freely: pipes, patches, free bodies.

namespace lostline::cli {

Result<model::Operation> operation_of(const std::string& word) {
  constexpr std::array kWords{"add", "cut", "common", "new"};
  for (std::size_t k = 0; k < kWords.size(); ++k) {
    if (word == kWords[k]) return static_cast<model::Operation>(k);
  }
  return Error{ErrorCode::InvalidInput,
               "\"" + word + "\" is no way to build: say add, cut, common or new."};
}

Result<std::vector<Vec3>> places(const std::vector<std::string>& texts) {
  std::vector<Vec3> all;
  for (const std::string& text : texts) {
    const auto at = parse_vector(text);
    if (!at) return at.error();
    all.push_back(*at);
  }
  return all;
}

std::string name_or(const Arguments& a, const char* usual) {
  return a.name.empty() ? usual : a.name;
}

void finish_build(CLI::App* sub, const std::shared_ptr<Arguments>& a) {
  sub->add_option("--as", a->operation, "add, cut, common or new");
  sub->add_option("--name", a->name, "of the step");
}

namespace {

/// Values of one part said one by one as that part takes several.
std::vector<std::string> joined(const std::vector<std::string>& words) {
  std::vector<std::string> parts;
  for (const std::string& word : words) {
    const std::string name = word.substr(0, word.find('=') + 1);
    const auto known = std::find_if(parts.begin(), parts.end(), [&](const std::string& part) {
      return part.starts_with(name);
    });
    if (known == parts.end())
      parts.push_back(word);
    else
      *known += ";" + word.substr(name.size());
  }
  return parts;
}

/// A stretch of another radius on a pipe that is there.
Result<Document> collar(const Arguments& a, const Document& d, const Vec3& place,
                        model::Operation operation, Json& said) {
  const auto step = std::find_if(d.steps.begin(), d.steps.end(), [&](const model::Step& s) {
    return s.name == a.step && s.feature.as<model::PipeRun>() != nullptr;
  });
  if (step == d.steps.end())
    return Error{ErrorCode::InvalidInput, "There is no pipe \"" + a.step + "\" in the Route."};
  model::PipeRun run = *step->feature.as<model::PipeRun>();
  const auto read = reading::read_collar(d, run, place);
  if (!read) return read.error();
  run.in_part = true;
  run.from.value = read->from;
  run.to.value = read->to;
  run.radius.value = read->radius;
  run.wall.value = a.wall;
  run.operation = operation;
  const std::string source = "scan along the pipe";
  said["radius"] = read->radius;
  said["u_radius"] = read->u_radius;
  said["from"] = read->from;
  said["u_from"] = read->u_from;
  said["to"] = read->to;
  said["u_to"] = read->u_to;
  return project::add_step(d, run, name_or(a, "collar"),
                           {{"radius", read->radius, read->u_radius, source, std::nullopt},
                            {"from", read->from, read->u_from, source, std::nullopt},
                            {"to", read->to, read->u_to, source, std::nullopt},
                            {"wall", std::nullopt, 0, "typed", a.wall}})
      .document;
}

Result<Document> pipe(const Arguments& a, const Document& d, Json& said, const Task& task) {
  const auto picks = places(a.at);
  if (!picks) return picks.error();
  const auto operation = operation_of(a.operation);
  if (!operation) return operation.error();
  if (!a.step.empty()) return collar(a, d, picks->front(), *operation, said);
  pipe::CentrelineOptions options;
  options.bridge = a.bridge;
  options.simpler = a.simpler;
  const auto read = reading::read_pipe(d, *picks, options, task);
  if (!read) return read.error();
  model::PipeRun run;
  run.path = read->path;
  run.radius.value = read->radius;
  run.wall.value = a.wall;
  run.bend.value = read->bend.value_or(0);
  run.operation = *operation;
  const std::string source = "centre line of the scan";
  std::vector<project::FieldReading> readings{
      {"radius", read->radius, read->u_radius, source, std::nullopt},
      {"wall", std::nullopt, 0, "typed", a.wall}};
  if (!run.path.bends.empty())
    readings.push_back({"bend", read->bend, read->u_bend, source, std::nullopt});
  said["radius"] = read->radius;
  said["u_radius"] = read->u_radius;
  said["bends"] = run.path.bends;
  said["length"] = read->line.length();
  return project::add_step(d, run, name_or(a, "pipe"), readings).document;
}

Result<Document> patch(const Arguments& a, const Document& d, Json& said, const Task& task) {
  if (!d.scan) return Error{ErrorCode::InvalidInput, a.path + " holds no scan."};
  const auto picks = places(a.at);
  if (!picks) return picks.error();
  reading::PatchArea area;
  area.regions = a.regions;
  for (const Vec3& at : *picks) {
    const auto nearest = d.scan->index->nearest(d.to_part().inverse() * at);
    if (nearest) area.triangles.push_back(nearest->triangle);
  }
  patch::PatchOptions options;
  options.tolerance = a.tolerance;
  options.spans = a.spans;
  options.stiffness = a.stiffness;
  model::PatchFace face;
  if (!a.curves.empty() || !a.edges.empty()) {
    const auto before = model_before(d, d.steps.size(), task);
    if (!before) return before.error();
    std::vector<std::string> words;
    for (const std::string& curve : a.curves) words.push_back("curves=" + curve);
    for (const std::string& edge : a.edges) words.push_back("edges=" + edge);
    model::Feature named = face;
    std::set<std::string> typed;
    if (const Status set = set_fields(d, *before, joined(words), named, typed); !set)
      return set.error();
    face = *named.as<model::PatchFace>();
    face.tangent = a.tangent;
    const auto border = model::border_of(*before, face.curves, face.edges, face.tangent);
    if (!border) return border.error();
    options.held = model::places_of(*border);
  }
  const auto read = reading::read_patch(d, area, options, task);
  if (!read) return read.error();
  said["poles"] = {{"u", read->patch.surface.nu}, {"v", read->patch.surface.nv}};
  said["rms"] = read->patch.rms;
  said["p95"] = read->patch.p95;
  said["max"] = read->patch.greatest;
  said["follows_noise"] = read->patch.follows_noise;
  if (!options.held.empty()) {
    said["border_off"] = read->patch.border_off;
    said["border_turn_deg"] = read->patch.border_turn / kDegree;
  }
  face.face = std::make_shared<const patch::SplineSurface>(read->patch.surface);
  return project::add_step(d, face, name_or(a, "patch"), {}).document;
}

Result<Document> free_body(const Arguments& a, const Document& d, Json& said, const Task& task) {
  const auto operation = operation_of(a.operation);
  if (!operation) return operation.error();
  patch::FreeBodyOptions options;
  options.tolerance = a.tolerance;
  options.spans = a.spans;
  options.patches = a.patches;
  options.stiffness = a.stiffness;
  const auto read = reading::read_free_body(d, options, task);
  if (!read) return read.error();
  said["patches"] = read->patches.size();
  said["rms"] = read->rms;
  said["p95"] = read->p95;
  said["max"] = read->greatest;
  said["crease_deg"] = read->crease * 180 / std::numbers::pi;
  model::FreeBody body;
  body.faces = std::make_shared<const patch::SplineSurfaces>(read->patches);
  body.operation = *operation;
  return project::add_step(d, body, name_or(a, "free body"), {}).document;
}

}  // namespace

void add_project_free_form(Common& common, const Declare& editing) {
  {
    const auto [sub, a] =
        editing("pipe", "a bent pipe along the centre line of the scan",
                [&common](const Arguments& a, const Document& d, Json& said) {
                  return pipe(a, d, said, progress_task(common, "following the pipe"));
                });
    sub->add_option("--at", a->at, "x,y,z on the pipe, part coordinates; several over gaps")
        ->required()
        ->allow_extra_args(false);
    sub->add_option("--onto", a->step,
                    "name of a pipe that is there: the stretch of another radius that the place "
                    "lies on, as a collar or a reduced end has it");
    sub->add_option("--wall", a->wall, "mm; 0: a solid bar")->check(CLI::NonNegativeNumber);
    sub->add_option("--bridge", a->bridge, "gaps as long as so many radii are bridged")
        ->check(CLI::NonNegativeNumber);
    sub->add_option("--simpler", a->simpler, "mm: departures below this are nobody's bend")
        ->check(CLI::NonNegativeNumber);
    finish_build(sub, a);
  }
  {
    const auto [sub, a] = editing("patch", "a free-form face through an area of the scan",
                                  [&common](const Arguments& a, const Document& d, Json& said) {
                                    return patch(a, d, said, progress_task(common, "fitting"));
                                  });
    sub->add_option("--at", a->at, "x,y,z in an area that goes on smoothly, part coordinates")
        ->allow_extra_args(false);
    sub->add_option("--region", a->regions, "numbers of regions of the survey");
    sub->add_option("--tolerance", a->tolerance, "mm: 95 % of the points lie nearer")
        ->check(CLI::NonNegativeNumber);
    sub->add_option("--spans", a->spans, "along the longer side, instead of a tolerance");
    sub->add_option("--stiffness", a->stiffness, "how much fairness counts against the points")
        ->check(CLI::PositiveNumber);
    sub->add_option("--on", a->curves, "name of a curve body that bounds the face")
        ->allow_extra_args(false);
    sub->add_option("--edge", a->edges, "x,y,z on an edge of the model that bounds the face")
        ->allow_extra_args(false);
    sub->add_flag("--tangent", a->tangent, "along the edges it goes on tangent to their faces");
    sub->add_option("--name", a->name, "of the step");
  }
  {
    const auto [sub, a] = editing("free-body", "the whole closed scan as smooth patches",
                                  [&common](const Arguments& a, const Document& d, Json& said) {
                                    return free_body(a, d, said, progress_task(common, "fitting"));
                                  });
    sub->add_option("--patches", a->patches, "about so many; 0: as few as hold the tolerance");
    sub->add_option("--tolerance", a->tolerance, "mm: 95 % of the points lie nearer")
        ->check(CLI::NonNegativeNumber);
    sub->add_option("--spans", a->spans, "of each side of each patch, instead of a tolerance");
    sub->add_option("--stiffness", a->stiffness, "how much fairness counts against the points")
        ->check(CLI::PositiveNumber);
    finish_build(sub, a);
  }
}

}  // namespace lostline::cli
