#include "cli.h"
#include "scan/health.h"

namespace lostline::cli {

void add_info(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "info", "health of a scan");
  const auto path = std::make_shared<std::string>();
  sub->add_option("SCAN", *path, "scan")->required();
  sub->callback([&common, path] {
    const auto loaded = read_scan(common, *path);
    if (!loaded) return fail(common, loaded.error());
    const scan::Mesh& mesh = loaded->mesh;
    const scan::Topology topology = scan::build_topology(mesh);
    const auto health = scan::examine(mesh, topology, progress_task(common, "examining"));
    if (!health) return fail(common, health.error());
    const scan::UnitGuess guess = scan::guess_unit(health->box.sizes().maxCoeff(), health->spacing);
    Json result;
    result["triangles"] = health->triangles;
    result["vertices"] = health->vertices;
    result["points"] = health->vertices;
    result["bbox"] = {{"min", to_json(health->box.min())}, {"max", to_json(health->box.max())}};
    // The coordinates above are the file's; what follows takes them for millimetres.
    result["unit"] = unit_symbol(Unit::Millimetre);
    result["unit_guess"] = unit_symbol(guess.unit);
    result["unit_reason"] = guess.reason;
    result["spacing"] = health->spacing;
    result["noise_sigma"] = health->noise_sigma;
    result["noise_correlation"] = health->noise_correlation;
    result["components"] = health->components;
    result["islands"] = health->islands;
    result["open_edges"] = health->open_edges;
    result["non_manifold_edges"] = health->non_manifold_edges;
    result["zero_area_triangles"] = health->zero_area_triangles + loaded->skipped_triangles;
    result["not_finite_triangles"] = loaded->skipped_not_finite;
    result["inside_out"] = health->inside_out;
    result["area"] = health->area;
    result["volume"] = health->volume;
    print(common, result);
  });
}

}  // namespace lostline::cli
