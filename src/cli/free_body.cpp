#include "patch/free_body.h"

#include <numbers>

#include "cli.h"
#include "io/formats.h"
#include "model/spline_face.h"
#include "scan/noise.h"

namespace lostline::cli {
namespace {

struct FreeBodyArguments {
  std::string scan, out;
  double tolerance = 0, stiffness = 1e-4;
  std::size_t patches = 0, spans = 0;
};

void run(Common& common, const FreeBodyArguments& a) {
  const auto loaded = read_scan(common, a.scan);
  if (!loaded) return fail(common, loaded.error());
  const Stopwatch watch;
  const scan::Topology topology = scan::build_topology(loaded->mesh);
  patch::FreeBodyOptions options;
  options.tolerance = a.tolerance;
  options.patches = a.patches;
  options.spans = a.spans;
  options.stiffness = a.stiffness;
  options.noise = scan::measure_noise(loaded->mesh, topology).sigma;
  const auto body = patch::fit_free_body(loaded->mesh, options, progress_task(common, "fitting"));
  if (!body) return fail(common, body.error());
  const auto solid = model::free_body_model(body->patches, "free body");
  if (!solid) return fail(common, solid.error());
  const double seconds = watch.seconds();
  if (const Status written = io::write_model(a.out, *solid, "free body"); !written)
    return fail(common, written.error());
  print(common, {{"patches", body->patches.size()},
                 {"poles", {{"u", body->patches.front().nu}, {"v", body->patches.front().nv}}},
                 {"degree", patch::SplineSurface::kDegree},
                 {"rms", body->rms},
                 {"p95", body->p95},
                 {"max", body->greatest},
                 {"crease_deg", body->crease * 180 / std::numbers::pi},
                 {"within", body->within},
                 {"volume", solid->volume()},
                 {"area", solid->area()},
                 {"valid", solid->valid()},
                 {"noise_sigma", options.noise},
                 {"seconds", seconds}});
  if (!body->within) common.exit_code = kFailed;
}

}  // namespace

void add_free_body(CLI::App& app, Common& common) {
  CLI::App* sub =
      subcommand(app, common, "free-body", "a closed scan of a free shape as smooth patches");
  const auto a = std::make_shared<FreeBodyArguments>();
  sub->add_option("SCAN", a->scan, "closed scan in millimetres")->required();
  sub->add_option("--patches", a->patches, "about so many; 0: as few as hold the tolerance");
  sub->add_option("--tolerance", a->tolerance,
                  "mm: 95 % of the points lie nearer; 0: as the noise asks")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--spans", a->spans, "of each side of each patch, instead of a tolerance")
      ->check(CLI::Range(0, 60));
  sub->add_option("--stiffness", a->stiffness, "how much fairness counts against the points")
      ->check(CLI::PositiveNumber);
  sub->add_option("--out", a->out, "write the solid as a model")->required();
  sub->callback([&common, a] { run(common, *a); });
}

}  // namespace lostline::cli
