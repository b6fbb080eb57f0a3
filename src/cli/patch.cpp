#include "patch/patch.h"

#include "cli.h"
#include "io/formats.h"
#include "model/spline_face.h"
#include "scan/mesh_index.h"
#include "scan/noise.h"
#include "survey/survey.h"

namespace lostline::cli {
namespace {

struct PatchArguments {
  std::string scan, out;
  std::vector<std::string> at;
  std::uint32_t region = 0;
  double tolerance = 0, stiffness = 1e-4, beyond = 0.03, sensitivity = 0.5, crease = 20;
  std::size_t spans = 0;
};

/// Triangles of the area: a region of the survey, or what goes on smoothly from the picked places.
Result<std::vector<std::uint32_t>> area_of(Common& common, const PatchArguments& a,
                                           const scan::Mesh& mesh, const scan::Topology& topology) {
  if (a.at.empty() == (a.region == 0))
    return Error{ErrorCode::InvalidInput, "Say one of --at x,y,z and --region N."};
  if (a.region != 0) {
    survey::SurveyOptions options;
    options.sensitivity = a.sensitivity;
    const auto found =
        survey::split_into_regions(mesh, topology, options, progress_task(common, "surveying"));
    if (!found) return found.error();
    if (a.region > found->regions.size())
      return Error{ErrorCode::InvalidInput, "There is no region " + std::to_string(a.region) +
                                                "; the survey found " +
                                                std::to_string(found->regions.size()) + "."};
    std::vector<std::uint32_t> triangles;
    for (std::uint32_t t = 0; t < found->triangle_region.size(); ++t) {
      if (found->triangle_region[t] == a.region) triangles.push_back(t);
    }
    return triangles;
  }
  const scan::MeshIndex index(mesh);
  std::vector<std::uint32_t> seeds;
  for (const std::string& text : a.at) {
    const auto at = parse_vector(text);
    if (!at) return at.error();
    const auto nearest = index.nearest(*at);
    if (!nearest)
      return Error{ErrorCode::NotFound, "No surface of the scan lies near " + text + "."};
    seeds.push_back(nearest->triangle);
  }
  return patch::smooth_area(mesh, topology, seeds, a.crease * kDegree);
}

void run(Common& common, const PatchArguments& a) {
  const auto loaded = read_scan(common, a.scan);
  if (!loaded) return fail(common, loaded.error());
  const Stopwatch watch;
  const scan::Topology topology = scan::build_topology(loaded->mesh);
  const auto triangles = area_of(common, a, loaded->mesh, topology);
  if (!triangles) return fail(common, triangles.error());
  patch::PatchOptions options;
  options.tolerance = a.tolerance;
  options.spans = a.spans;
  options.stiffness = a.stiffness;
  options.beyond = a.beyond;
  options.noise = scan::measure_noise(loaded->mesh, topology).sigma;
  const auto patch =
      patch::fit_patch(loaded->mesh, *triangles, options, progress_task(common, "fitting"));
  if (!patch) return fail(common, patch.error());
  const double seconds = watch.seconds();
  if (!a.out.empty()) {
    const auto face = model::face_model(patch->surface, "patch");
    if (!face) return fail(common, face.error());
    if (const Status written = io::write_model(a.out, *face, "patch"); !written)
      return fail(common, written.error());
  }
  print(common, {{"poles", {{"u", patch->surface.nu}, {"v", patch->surface.nv}}},
                 {"degree", patch::SplineSurface::kDegree},
                 {"triangles", triangles->size()},
                 {"points", patch->vertices.size()},
                 {"rms", patch->rms},
                 {"p95", patch->p95},
                 {"max", patch->greatest},
                 {"within", patch->within},
                 {"follows_noise", patch->follows_noise},
                 {"noise_sigma", options.noise},
                 {"seconds", seconds}});
  if (!patch->within) common.exit_code = kFailed;
}

}  // namespace

void add_patch(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "patch", "a free-form face through an area of scan");
  const auto a = std::make_shared<PatchArguments>();
  sub->add_option("SCAN", a->scan, "scan in millimetres")->required();
  sub->add_option("--at", a->at, "x,y,z in the area, which goes on as far as it is smooth")
      ->allow_extra_args(false);
  sub->add_option("--region", a->region, "number of a region of the survey instead");
  sub->add_option("--sensitivity", a->sensitivity, "of the survey, 0 to 1")
      ->check(CLI::Range(0.0, 1.0));
  sub->add_option("--crease", a->crease, "degrees: sharper edges end the area")
      ->check(CLI::Range(1.0, 90.0));
  sub->add_option("--tolerance", a->tolerance,
                  "mm: 95 % of the points lie nearer; 0: as the noise asks")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--spans", a->spans, "along the longer side, instead of a tolerance");
  sub->add_option("--stiffness", a->stiffness, "how much fairness counts against the points")
      ->check(CLI::PositiveNumber);
  sub->add_option("--beyond", a->beyond, "extended beyond the area by this share of its size")
      ->check(CLI::Range(0.0, 1.0));
  sub->add_option("--out", a->out, "write the face as a model")->required();
  sub->callback([&common, a] { run(common, *a); });
}

}  // namespace lostline::cli
