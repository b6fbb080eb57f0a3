#include "mesh.h"

#include "io/formats.h"

namespace lostline::cli {
namespace {

struct MeshArguments {
  std::string cloud, out;
  cloud::MeshingOptions options;
};

void run(Common& common, const MeshArguments& a) {
  const Stopwatch watch;
  const auto loaded = io::read_points(a.cloud, progress_task(common, "reading"));
  if (!loaded) return fail(common, loaded.error());
  const auto meshed = cloud::mesh_cloud(loaded->cloud, a.options, progress_task(common, "meshing"));
  if (!meshed) return fail(common, meshed.error());
  const double seconds = watch.seconds();
  // The colour of confidence goes with a PLY.
  const Status written = io::extension_of(a.out) == ".ply"
                             ? io::write_ply(a.out, meshed->mesh, meshed->u)
                             : io::write_mesh(a.out, meshed->mesh);
  if (!written) return fail(common, written.error());
  const scan::Topology topology = scan::build_topology(meshed->mesh);
  Json result{{"triangles", meshed->mesh.triangles.size()},
              {"vertices", meshed->mesh.vertices.size()},
              {"open_edges", topology.open_edges},
              {"non_manifold_edges", topology.non_manifold_edges},
              {"points", loaded->cloud.points.size()},
              {"skipped", loaded->skipped},
              {"dropped", meshed->dropped},
              {"spacing", meshed->spacing},
              {"cloud_spacing", meshed->cloud_spacing},
              {"noise_sigma", meshed->noise},
              {"seconds", seconds}};
  if (!loaded->columns.empty()) result["columns"] = loaded->columns;
  print(common, result);
}

}  // namespace

void add_meshing_options(CLI::App* sub, cloud::MeshingOptions& options) {
  sub->add_option("--spacing", options.spacing, "mm, of the mesh; 0: as the cloud")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--smooth", options.smooth,
                  "spacings over which noise is averaged; 0: the points stay where they are")
      ->check(CLI::Range(0.0, 20.0));
  sub->add_option("--bridge", options.bridge, "spacings: no triangle reaches further")
      ->check(CLI::Range(1.5, 100.0));
  sub->add_option("--least-island", options.least_island, "triangles: smaller islands are dropped");
}

void add_mesh(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "mesh",
                             "a cloud of points meshed, no surface where no points were: from " +
                                 io::format_names({io::reads_points}));
  const auto a = std::make_shared<MeshArguments>();
  sub->add_option("CLOUD", a->cloud, "points in millimetres (E57: in metres, as its standard has)")
      ->required();
  sub->add_option("--out", a->out, "mesh to write; a PLY carries U of each vertex as quality")
      ->required();
  add_meshing_options(sub, a->options);
  sub->callback([&common, a] { run(common, *a); });
}

}  // namespace lostline::cli
