#include "cli.h"
#include "scan/defects.h"
#include "scan/health.h"
#include "scan/next_view.h"

namespace lostline::cli {

void add_info(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "info", "health of a scan");
  const auto path = std::make_shared<std::string>();
  sub->add_option("SCAN", *path, "scan")->required();
  const auto defects = std::make_shared<bool>(false);
  sub->add_flag("--defects", *defects,
                "count triangles that cross, fold or lie double, and say where the next scan sees "
                "most of what is missing");
  sub->callback([&common, path, defects] {
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
    if (*defects) {
      const auto found = scan::find_defects(mesh, topology, progress_task(common, "looking"));
      if (!found) return fail(common, found.error());
      result["crossing_triangles"] = found->crossing.size();
      result["folded_triangles"] = found->folded.size();
      result["doubled_triangles"] = found->doubled.size();
      const auto view = scan::next_view(mesh, topology, scan::MeshIndex(mesh));
      if (view) result["next_view"] = {{"from", to_json(view->from)}, {"sees", view->seen}};
    }
    print(common, result);
  });
}

}  // namespace lostline::cli
