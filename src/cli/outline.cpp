#include "section/outline.h"

#include "cli.h"
#include "curves.h"
#include "io/formats.h"
#include "scan/health.h"

namespace lostline::cli {
namespace {

struct OutlineArguments {
  std::string scan, direction, out;
  double offset = 0;
  double resolve = 0;
  bool outer = false;
};

void run(Common& common, const OutlineArguments& arguments) {
  const auto direction = parse_vector(arguments.direction);
  if (!direction) return fail(common, direction.error());
  if (!(direction->norm() > 0))
    return fail(common, Error{ErrorCode::InvalidInput, "The direction has no length."});
  const auto loaded = read_scan(common, arguments.scan);
  if (!loaded) return fail(common, loaded.error());
  const Stopwatch watch;
  section::OutlineOptions options;
  options.offset = arguments.offset;
  options.openings = !arguments.outer;
  const auto found = section::outline(loaded->mesh, placement_on(Vec3::Zero(), *direction), options,
                                      progress_task(common, "outlining"));
  if (!found) return fail(common, found.error());
  Curves curves;
  if (arguments.resolve > 0) curves = resolved(*found, arguments.resolve);
  Json result = json_of(*found, curves, common.json);
  result["seconds"] = watch.seconds();
  if (!arguments.out.empty()) {
    if (const Status written = io::write_curves(arguments.out, curves.sketch, *found); !written)
      return fail(common, written.error());
  }
  print(common, result);
}

}  // namespace

void add_outline(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "outline",
                             "what a scan covers seen along a direction: its silhouette");
  const auto arguments = std::make_shared<OutlineArguments>();
  sub->add_option("SCAN", arguments->scan, "scan in millimetres")->required();
  sub->add_option("--direction", arguments->direction, "that it is seen along: x,y,z")->required();
  sub->add_option("--offset", arguments->offset,
                  "mm: the outline so far outside of the silhouette; negative: inside");
  sub->add_flag("--outer", arguments->outer, "without openings that can be looked through");
  sub->add_option("--resolve", arguments->resolve,
                  "resolve into curves; departures below so many mm are nobody's intent")
      ->check(CLI::PositiveNumber);
  sub->add_option("--out", arguments->out, "write outline and curves as .dxf, .svg, .igs or .step");
  sub->callback([&common, arguments] { run(common, *arguments); });
}

}  // namespace lostline::cli
