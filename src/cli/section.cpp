#include "section/section.h"

#include "cli.h"
#include "io/formats.h"
#include "project/sketch_plane.h"
#include "section/turn.h"
#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::cli {
namespace {

struct Arguments {
  std::string scan, origin, normal, axis, out;
  double resolve = 0;
  double angle = 0;
  bool fan = false;
};

/// By a plane, by a half-plane about an axis through `origin`, or by a fan of them.
Result<section::Section> cut(const section::SectionIndex& index, const Vec3& origin,
                             const Arguments& arguments) {
  if (arguments.axis.empty() == arguments.normal.empty())
    return Error{ErrorCode::InvalidInput,
                 "Give --normal for a plane section, or --axis for a turn or fan section."};
  const auto direction = parse_vector(arguments.axis.empty() ? arguments.normal : arguments.axis);
  if (!direction) return direction.error();
  if (!(direction->norm() > 0))
    return Error{ErrorCode::InvalidInput,
                 arguments.axis.empty() ? "The normal has no length." : "The axis has no length."};
  if (arguments.axis.empty()) return index.cut(placement_on(origin, *direction));
  const Placement plane = project::half_plane(
      origin, *direction, arguments.fan ? 0 : arguments.angle * 0.017453292519943295);
  return arguments.fan ? section::cut_fan(index, plane, project::kFanBlades)
                       : section::half_of(index.cut(plane));
}

Json vec2(const Vec2& p) { return Json::array({p.x(), p.y()}); }

struct EntityJson {
  Json json;
  Json operator()(const sketch::StraightForm& s) {
    json.update({{"a", vec2(s.a)}, {"b", vec2(s.b)}});
    return json;
  }
  Json operator()(const sketch::RoundForm& r) {
    json.update({{"centre", vec2(r.centre)}, {"radius", r.radius}});
    if (!r.whole()) json.update({{"start", r.start}, {"end", r.start + r.sweep}});
    return json;
  }
};

Json entities_of(const sketch::Sketch& sketch) {
  Json entities = Json::array();
  for (const sketch::Entity& e : sketch.entities) {
    EntityJson as_json{{{"type", sketch::kind_of(e).key()}}};
    entities.push_back(std::visit(as_json, sketch::placed(sketch, e)->form()));
  }
  return entities;
}

void run(Common& common, const Arguments& arguments) {
  const auto origin = parse_vector(arguments.origin);
  if (!origin) return fail(common, origin.error());
  auto loaded = read_scan(common, arguments.scan);
  if (!loaded) return fail(common, loaded.error());
  const auto mesh = std::make_shared<const scan::Mesh>(std::move(*loaded).mesh);
  const section::SectionIndex index(mesh);
  const Stopwatch watch;
  const auto found = lostline::cli::cut(index, *origin, arguments);
  if (!found) return fail(common, found.error());
  const section::Section& cut = *found;
  const double cut_seconds = watch.seconds();
  sketch::Sketch sketch;
  if (arguments.resolve > 0)
    sketch =
        sketch::sketch_from_section(cut, arguments.resolve, section::median_step(cut.polylines));
  const double seconds = watch.seconds();
  if (cut.polylines.empty() && !common.quiet) std::cerr << "the plane does not touch the scan\n";
  Json polylines = Json::array();
  for (const section::Polyline& line : cut.polylines) {
    if (line.support) continue;  // drawn by another run already
    Json points = Json::array();
    for (const Vec2& p : line.points) points.push_back(vec2(p));
    polylines.push_back({{"closed", line.closed},
                         {"points", points},
                         {"length", line.length()},
                         {"gaps", line.gaps.size()}});
  }
  const sketch::Drift drift =
      sketch::measure_drift(sketch, cut, 20 * std::max(arguments.resolve, 0.05));
  Json result{{"polylines", polylines}, {"entities", entities_of(sketch)}};
  result["frame"] = {{"origin", to_json(cut.plane.origin)},
                     {"x", to_json(cut.plane.x)},
                     {"y", to_json(cut.plane.y)}};
  result["rms"] = sketch.entities.empty() ? Json() : Json(drift.rms);
  result["max_drift"] = sketch.entities.empty() ? Json() : Json(std::abs(drift.greatest));
  result["cut_seconds"] = cut_seconds;
  result["seconds"] = seconds;
  if (!arguments.out.empty()) {
    const std::filesystem::path path = arguments.out;
    if (const Status written = io::write_curves(path, sketch, cut); !written)
      return fail(common, written.error());
  }
  if (!common.json) {
    for (auto& line : result["polylines"]) line["points"] = line["points"].size();
  }
  print(common, result);
}

}  // namespace

void add_section(CLI::App& app, Common& common) {
  CLI::App* sub =
      subcommand(app, common, "section",
                 "cut a scan by a plane or about an axis and resolve the cut into lines and arcs");
  const auto arguments = std::make_shared<Arguments>();
  sub->add_option("SCAN", arguments->scan, "scan in millimetres")->required();
  sub->add_option("--origin", arguments->origin, "point of the plane or axis: x,y,z")->required();
  sub->add_option("--normal", arguments->normal, "normal of the plane: x,y,z");
  sub->add_option("--axis", arguments->axis,
                  "instead of a normal: cut by a half-plane about this axis through the origin");
  sub->add_option("--angle", arguments->angle, "degrees: of the half-plane about its axis");
  sub->add_flag("--fan", arguments->fan, "many half-planes all round, folded into one");
  sub->add_option("--resolve", arguments->resolve, "tolerance in mm for lines and arcs")
      ->check(CLI::PositiveNumber);
  sub->add_option("--out", arguments->out, "write section and curves as .dxf or .svg");
  sub->callback([&common, arguments] { run(common, *arguments); });
}

}  // namespace lostline::cli
