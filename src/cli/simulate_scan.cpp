#include "cli.h"
#include "io/formats.h"
#include "simulate/scanner.h"

namespace lostline::cli {

void add_simulate_scan(CLI::App& app, Common& common) {
  struct SimulateScanArguments {
    std::string model, out;
    simulate::ScanOptions options;
    bool keep_pose = false;
  };
  CLI::App* sub =
      subcommand(app, common, "simulate-scan", "scan a model with the stand-in scanner");
  const auto a = std::make_shared<SimulateScanArguments>();
  sub->add_option("MODEL", a->model, "STEP file")->required();
  sub->add_option("--out", a->out, "scan to write, .ply or .stl")->required();
  sub->add_option("--noise", a->options.noise, "mm, standard deviation along the ray")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--views", a->options.views, "places of the scanner")->check(CLI::Range(1, 1000));
  sub->add_option("--spacing", a->options.spacing, "mm between points")->check(CLI::PositiveNumber);
  sub->add_option("--seed", a->options.seed, "of everything random");
  sub->add_option("--strays", a->options.strays, "stray islands")->check(CLI::Range(0, 1000));
  sub->add_flag("--keep-pose", a->keep_pose, "leave the part where the model is");
  sub->callback([&common, a] {
    const auto solid = io::read_model(a->model);
    if (!solid) return fail(common, solid.error());
    a->options.random_pose = !a->keep_pose;
    const auto scan =
        simulate::simulate_scan(*solid, {}, a->options, progress_task(common, "scanning"));
    if (!scan) return fail(common, scan.error());
    if (const Status written = io::write_mesh(a->out, scan->mesh); !written)
      return fail(common, written.error());
    Json pose = Json::array();
    for (int r = 0; r < 4; ++r) {
      pose.push_back({scan->pose.matrix()(r, 0), scan->pose.matrix()(r, 1),
                      scan->pose.matrix()(r, 2), scan->pose.matrix()(r, 3)});
    }
    print(common, {{"triangles", scan->mesh.triangles.size()},
                   {"views", scan->views},
                   {"noise", a->options.noise},
                   {"seed", a->options.seed},
                   {"unseen_fraction", scan->unseen_fraction},
                   {"pose", pose}});
  });
}

}  // namespace lostline::cli
