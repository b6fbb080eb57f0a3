#include "scan/clean.h"

#include "cli.h"
#include "cloud/table.h"
#include "io/formats.h"
#include "scan/defects.h"
#include "scan/health.h"
#include "scan/noise.h"

namespace lostline::cli {
namespace {

struct CleanArguments {
  std::string scan, out;
  double scale = 0, measured = 0, known = 0, spikes = 0, thin = 0;
  std::size_t fill = 0;
  int smooth = 0;
  std::string box;
  double remesh = 0;
  bool mend = false, table = false, islands = false, flip = false, curved = false,
       by_curvature = false;
};

/// "x,y,z,x,y,z": two corners.
Result<Box3> parse_box(const std::string& text) {
  std::size_t middle = std::string::npos;
  for (int k = 0; k < 3; ++k) middle = text.find(',', middle + 1);
  const Error wrong{ErrorCode::InvalidInput,
                    "\"" + text + "\" is no box: say x,y,z,x,y,z of two corners."};
  if (middle == std::string::npos) return wrong;
  const auto a = parse_vector(text.substr(0, middle));
  const auto b = parse_vector(text.substr(middle + 1));
  if (!a || !b) return wrong;
  Box3 box(*a);
  box.extend(*b);
  return box;
}

/// One act on the mesh; its figures join the result.
Status apply(scan::Mesh& mesh, Result<scan::Cleaned> cleaned, const char* what, Json& acts) {
  if (!cleaned) return cleaned.error();
  acts.push_back({{"act", what},
                  {"count", cleaned->count},
                  {"moved_rms", cleaned->moved_rms},
                  {"moved_most", cleaned->moved_most}});
  mesh = (*std::move(cleaned)).mesh;
  return Done{};
}

void run(Common& common, const CleanArguments& a) {
  auto loaded = read_scan(common, a.scan);
  if (!loaded) return fail(common, loaded.error());
  scan::Mesh mesh = std::move(*loaded).mesh;
  const std::size_t before = mesh.triangles.size();
  Json acts = Json::array();
  const Task task = progress_task(common, "cleaning");
  double scale = a.scale;
  if (a.measured > 0 || a.known > 0) {
    if (!(a.measured > 0) || !(a.known > 0))
      return fail(common, {ErrorCode::InvalidInput,
                           "A known length needs both --measured and --known, in mm."});
    scale = a.known / a.measured;
  }
  if (scale > 0) mesh = scan::transformed(mesh, Transform(Eigen::Scaling(scale)));
  if (a.flip) mesh = scan::flipped(std::move(mesh));
  if (a.table) {
    const auto cut = cloud::without_table(mesh, task);
    if (!cut)
      return fail(common, {ErrorCode::Failed,
                           "There is no table: no plane that everything stands on reaches beyond "
                           "the part all round. Cut by --keep-box instead."});
    mesh = cut->mesh;
    acts.push_back({{"act", "table"},
                    {"count", cut->triangles},
                    {"point", to_json(cut->table.point)},
                    {"normal", to_json(cut->table.normal)}});
  }
  if (!a.box.empty()) {
    const auto box = parse_box(a.box);
    if (!box) return fail(common, box.error());
    std::vector<char> keep(mesh.triangles.size(), 0);
    for (std::size_t t = 0; t < keep.size(); ++t)
      keep[t] = box->contains(mesh.corner(t, 0)) && box->contains(mesh.corner(t, 1)) &&
                box->contains(mesh.corner(t, 2));
    const auto gone = std::count(keep.begin(), keep.end(), 0);
    if (static_cast<std::size_t>(gone) == keep.size())
      return fail(common, {ErrorCode::Failed, "Nothing of the scan lies in this box."});
    mesh = scan::extract(mesh, keep);
    acts.push_back({{"act", "box"}, {"count", gone}});
  }
  if (a.islands) mesh = scan::drop_islands(mesh, scan::build_topology(mesh));
  Status status = Done{};
  if (a.spikes > 0) {
    const scan::Topology topology = scan::build_topology(mesh);
    status = apply(
        mesh,
        scan::drop_spikes(mesh, topology, scan::measure_noise(mesh, topology).sigma, a.spikes),
        "spikes", acts);
  }
  if (status && a.mend) {
    const scan::Topology topology = scan::build_topology(mesh);
    const auto defects = scan::find_defects(mesh, topology, task);
    if (!defects) return fail(common, defects.error());
    status = apply(mesh, scan::mend(mesh, topology, defects->all(), task), "mend", acts);
  }
  if (status && a.fill > 0)
    status = apply(mesh,
                   scan::fill_holes(mesh, a.curved ? scan::Filling::Curved : scan::Filling::Flat,
                                    a.fill, task),
                   "fill", acts);
  if (status && a.thin > 0)
    status =
        apply(mesh,
              scan::thin(mesh, a.by_curvature ? scan::Thinning::Curvature : scan::Thinning::Even,
                         a.thin, task),
              "thin", acts);
  if (status && a.remesh > 0)
    status = apply(mesh, scan::remesh(mesh, {}, a.remesh, task), "remesh", acts);
  if (status && a.smooth > 0)
    status = apply(mesh, scan::smooth(mesh, scan::build_topology(mesh), {}, a.smooth, task),
                   "smooth", acts);
  if (!status) return fail(common, status.error());
  if (const Status written = io::write_mesh(a.out, mesh); !written)
    return fail(common, written.error());
  print(common, {{"triangles_before", before},
                 {"triangles", mesh.triangles.size()},
                 {"vertices", mesh.vertices.size()},
                 {"scale", scale > 0 ? scale : 1.0},
                 {"acts", acts}});
}

}  // namespace

void add_clean(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "clean",
                             "scale, repair, thin and smooth a scan; in the order of the options");
  const auto a = std::make_shared<CleanArguments>();
  sub->add_option("SCAN", a->scan, "mesh file")->required();
  sub->add_option("--out", a->out, "cleaned mesh: .stl, .ply")->required();
  sub->add_option("--scale", a->scale, "factor on all coordinates")->check(CLI::PositiveNumber);
  sub->add_option("--measured", a->measured, "a length as it is in the scan")
      ->check(CLI::PositiveNumber);
  sub->add_option("--known", a->known, "what that length really is, mm")
      ->check(CLI::PositiveNumber);
  sub->add_flag("--table", a->table, "cut away the table that everything stands on");
  sub->add_option("--keep-box", a->box, "x,y,z,x,y,z of two corners: what reaches out of it goes");
  sub->add_flag("--flip", a->flip, "turn inside out");
  sub->add_flag("--islands", a->islands, "drop loose pieces");
  sub->add_option("--spikes", a->spikes, "drop points further off than so many times the noise")
      ->check(CLI::PositiveNumber);
  sub->add_flag("--mend", a->mend, "take out what crosses, folds or lies double, and fill there");
  sub->add_option("--fill", a->fill, "fill holes with at most so many border edges")
      ->check(CLI::PositiveNumber);
  sub->add_flag("--curved", a->curved, "carry on the curvature around a filled hole");
  sub->add_option("--thin", a->thin, "spacing wanted, mm")->check(CLI::PositiveNumber);
  sub->add_flag("--by-curvature", a->by_curvature, "thin flat places more");
  sub->add_option("--remesh", a->remesh, "even edges of this length, mm")
      ->check(CLI::PositiveNumber);
  sub->add_option("--smooth", a->smooth, "passes of smoothing without shrinking")
      ->check(CLI::PositiveNumber);
  sub->callback([&common, a] { run(common, *a); });
}

}  // namespace lostline::cli
