#include "section/section.h"

#include "cli.h"
#include "curves.h"
#include "io/formats.h"
#include "project/sketch_plane.h"
#include "section/turn.h"
#include "section/walls.h"

namespace lostline::cli {
namespace {

struct SectionArguments {
  std::string scan, origin, normal, axis, out;
  double resolve = 0;
  double angle = 0;
  bool fan = false;
};

/// By a plane, by a half-plane about an axis through `origin`, or by a fan of them.
Result<section::Section> cut(const section::SectionIndex& index, const Vec3& origin,
                             const SectionArguments& arguments) {
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

void run(Common& common, const SectionArguments& arguments) {
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
  Curves curves;
  if (arguments.resolve > 0 && arguments.axis.empty() && section::runs_along_a_face(cut, *mesh))
    return fail(common, Error{ErrorCode::Failed,
                              "The plane runs along a face of the scan: the cut follows its noise, "
                              "in " +
                                  std::to_string(cut.polylines.size()) +
                                  " runs. Move --origin along the normal, or leave out "
                                  "--resolve."});
  if (arguments.resolve > 0) curves = resolved(cut, arguments.resolve);
  const double seconds = watch.seconds();
  if (cut.polylines.empty() && !common.quiet) std::cerr << "the plane does not touch the scan\n";
  Json result = json_of(cut, curves, common.json);
  result["cut_seconds"] = cut_seconds;
  result["seconds"] = seconds;
  if (!arguments.out.empty()) {
    if (const Status written = io::write_curves(arguments.out, curves.sketch, cut); !written)
      return fail(common, written.error());
  }
  print(common, result);
}

}  // namespace

void add_section(CLI::App& app, Common& common) {
  CLI::App* sub =
      subcommand(app, common, "section",
                 "cut a scan by a plane or about an axis and resolve the cut into curves");
  const auto arguments = std::make_shared<SectionArguments>();
  sub->add_option("SCAN", arguments->scan, "scan in millimetres")->required();
  sub->add_option("--origin", arguments->origin, "point of the plane or axis: x,y,z")->required();
  sub->add_option("--normal", arguments->normal, "normal of the plane: x,y,z");
  sub->add_option("--axis", arguments->axis,
                  "instead of a normal: cut by a half-plane about this axis through the origin");
  sub->add_option("--angle", arguments->angle, "degrees: of the half-plane about its axis");
  sub->add_flag("--fan", arguments->fan, "many half-planes all round, folded into one");
  sub->add_option("--resolve", arguments->resolve,
                  "resolve into curves; departures below so many mm are nobody's intent")
      ->check(CLI::PositiveNumber);
  sub->add_option("--out", arguments->out, "write section and curves as .dxf, .svg, .igs or .step");
  sub->callback([&common, arguments] { run(common, *arguments); });
}

}  // namespace lostline::cli
