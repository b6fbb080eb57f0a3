#include "survey/survey.h"

#include <filesystem>
#include <numbers>

#include "cli.h"
#include "project/edits.h"
#include "project/patterns.h"
#include "store/project_file.h"

namespace lostline::cli {

namespace {

Status write_surveyed(const std::string& out, const std::string& source, const scan::Mesh& mesh,
                      const survey::Survey& found) {
  if (!is_project(out))
    return Error{ErrorCode::InvalidInput,
                 "A surveyed scan is written as a project; end " + out + " with .lostline."};
  const std::filesystem::path path(source);
  auto scan = project::prepare_scan(mesh, path.stem().string(), source, Unit::Millimetre);
  if (!scan) return scan.error();
  project::Document document = project::with_scan({}, *std::move(scan));
  document.survey = std::make_shared<const survey::Survey>(found);
  return store::save_project(out, document);
}

}  // namespace

void add_survey(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "survey", "regions of a scan and their fits");
  const auto path = std::make_shared<std::string>();
  const auto options = std::make_shared<survey::SurveyOptions>();
  sub->add_option("SCAN", *path, "scan in millimetres")->required();
  sub->add_option("--sensitivity", options->sensitivity,
                  "0..1: smallest region 0.5 %, 0.05 % (0.5) to 0.005 % of the area")
      ->check(CLI::Range(0.0, 1.0));
  const auto out = std::make_shared<std::string>();
  sub->add_option("--out", *out, "write scan and survey as a project (.lostline)");
  sub->callback([&common, path, options, out] {
    const auto loaded = read_scan(common, *path);
    if (!loaded) return fail(common, loaded.error());
    const Stopwatch watch;
    const scan::Topology topology = scan::build_topology(loaded->mesh);
    const auto found = survey::split_into_regions(loaded->mesh, topology, *options,
                                                  progress_task(common, "surveying"));
    if (!found) return fail(common, found.error());
    const double seconds = watch.seconds();
    if (!out->empty()) {
      if (const Status written = write_surveyed(*out, *path, loaded->mesh, *found); !written)
        return fail(common, written.error());
    }
    Json regions = Json::array();
    for (const survey::Region& r : found->regions) {
      Json region{{"id", r.id},
                  {"type", r.fit ? fit::kind_name(r.fit->surface.kind) : "free-form"},
                  {"area", r.area},
                  {"triangles", r.triangles}};
      region["params"] = r.fit ? surface_params(r.fit->surface) : Json::object();
      region["u"] = r.fit ? surface_uncertainties(*r.fit) : Json::object();
      region["rms"] = r.fit ? Json(r.fit->rms) : Json();
      region["settled"] = r.fit ? Json(r.fit->settled) : Json();
      region["form_error"] = r.fit ? Json(r.fit->form_error) : Json();
      region["finish"] = survey::finish_name(r.finish);
      region["trust"] = r.trust;
      region["roughness"] = r.roughness;
      region["shares_surface"] = r.shared;
      region["direction_of"] = r.direction_of;
      region["form"] = r.form ? Json{{"text", r.form->words()},
                                     {"amount", r.form->amount},
                                     {"u", r.form->u},
                                     {"direction", to_json(r.form->direction)}}
                              : Json();
      region["centre"] = to_json(r.centre);
      if (r.fit && !fit::is_flat(r.fit->surface.kind)) region["hollow"] = r.fit->surface.hollow;
      regions.push_back(std::move(region));
    }
    Json relations = Json::array();
    for (const survey::FoundRelation& r : found->relations) {
      relations.push_back({{"type", survey::relation_name(r.type)},
                           {"a", r.a},
                           {"b", r.b},
                           {"angle_deg", r.angle * 180 / std::numbers::pi},
                           {"offset", r.offset}});
    }
    project::Document document;
    document.survey = std::make_shared<const survey::Survey>(*found);
    Json patterns = Json::array();
    for (const survey::Pattern& p : found->patterns) {
      const bool angle =
          p.type == survey::Pattern::Type::Family || p.type == survey::Pattern::Type::Draft;
      const double degrees = 180 / std::numbers::pi;
      patterns.push_back(
          {{"type", survey::pattern_name(p.type)},
           {"text", project::describe(document, p)},
           {"regions", p.regions},
           {"direction", to_json(p.direction)},
           {"centre", to_json(p.centre)},
           {"value", p.type == survey::Pattern::Type::Draft ? p.value * degrees : p.value},
           {"second", p.second},
           {"count", p.count},
           {"rows", p.rows},
           {angle ? "departure_deg" : "departure", angle ? p.departure * degrees : p.departure}});
      if (p.type == survey::Pattern::Type::BoltCircle)
        patterns.back()["start_angle_deg"] = project::start_angle(document, p);
    }
    print(common, {{"regions", regions},
                   {"patterns", patterns},
                   {"unassigned_area_fraction", found->unassigned_area_fraction},
                   {"relations", relations},
                   {"noise_sigma", found->noise_sigma},
                   {"seconds", seconds}});
  });
}

}  // namespace lostline::cli
