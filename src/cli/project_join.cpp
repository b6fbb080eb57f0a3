#include "project.h"
#include "project/join_scans.h"
#include "register.h"

// Further scans of the part beside that of a project, and all of them joined to one.

namespace lostline::cli {
namespace {

Result<Document> join(const Common& common, const RegisterArguments& a, Document d, Json& said) {
  if (!d.scan) return Error{ErrorCode::InvalidInput, "The project has no scan to join others to."};
  for (const std::string& path : a.scans) {
    auto scan = project::open_scan(path, d.scan->unit, progress_task(common, "opening"));
    if (!scan) return scan.error();
    d.other_scans.push_back(*std::move(scan));
  }
  const auto all = project::open_scans(d);
  std::vector<std::size_t> which;
  std::vector<const scan::Mesh*> meshes;
  for (std::size_t i = 0; i < all.size(); ++i) {
    which.push_back(i);
    meshes.push_back(all[i]->mesh.get());
  }
  if (meshes.size() < 2) return Error{ErrorCode::InvalidInput, "Name the other scans of the part."};
  const auto options = join_options(a, meshes);
  if (!options) return options.error();
  const auto weights = join_weights(a, meshes.size());
  if (!weights) return weights.error();
  const auto joined = joining::join_scans(meshes, *options, progress_task(common, "joining"));
  if (!joined) return joined.error();
  said = joined_json(*joined);
  return project::with_joined_scans(d, which, *joined, *weights, a.meshing,
                                    progress_task(common, "merging"));
}

}  // namespace

void add_project_join(Common& common, const Declare& editing) {
  const auto scans = std::make_shared<RegisterArguments>();
  const auto [sub, a] =
      editing("join", "bring further scans of the part to the project's own and merge all to one",
              [&common, scans](const Arguments&, const Document& d, Json& said) {
                return join(common, *scans, d, said);
              });
  sub->add_option("SCAN", scans->scans, "scans of the part; the project's own is scan 1");
  add_join_options(sub, *scans);
}

}  // namespace lostline::cli
