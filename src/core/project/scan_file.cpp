#include "project/scan_file.h"

namespace lostline::project {

Result<ScanFile> read_scan_file(const std::string& path, const cloud::MeshingOptions& options,
                                const Task& task) {
  ScanFile file;
  // What carries points only is not asked for triangles.
  const bool points_only = io::carries(path, io::Carries::Points);
  if (!points_only) {
    auto mesh = io::read_mesh(path, task);
    if (mesh) {
      file.loaded = *std::move(mesh);
      return file;
    }
    const io::Format* format = io::format_of(path);
    if (mesh.error().code != ErrorCode::Unsupported || format == nullptr ||
        format->read_points == nullptr)
      return mesh.error();
  }
  const auto read = io::read_points(path, task.part(0, 0.3));
  if (!read) return read.error();
  auto meshed = cloud::mesh_cloud(read->cloud, options, task.part(0.3, 1));
  if (!meshed)
    return Error{meshed.error().code, path + " is a cloud of points. " + meshed.error().message};
  cloud::Meshed made = *std::move(meshed);
  FromPoints from;
  from.count = read->cloud.points.size();
  from.columns = read->columns;
  take(from, made, options);
  file.from = std::move(from);
  file.loaded.mesh = std::move(made.mesh);
  file.loaded.skipped_not_finite = read->skipped;
  file.loaded.in_millimetres = read->in_millimetres;
  return file;
}

}  // namespace lostline::project
