#include "project/cloud_scan.h"

#include <filesystem>

#include "io/formats.h"

namespace lostline::project {

Result<scan::PointCloud> points_of(const Scan& scan, const Task& task) {
  if (!scan.points)
    return Error{ErrorCode::InvalidInput,
                 "The scan is no cloud of points, or was worked on since it was opened. Open its "
                 "file again to mesh it another way."};
  if (!std::filesystem::exists(scan.source))
    return Error{ErrorCode::Io, "The points are read from " + scan.source +
                                    ", which is no longer there. Put the file back."};
  auto read = io::read_points(scan.source, task);
  if (!read) return read.error();
  const double factor = read->in_millimetres ? 1 : mm_per(scan.unit);
  scan::PointCloud cloud = (*std::move(read)).cloud;
  if (factor != 1) {
    for (Vec3& p : cloud.points) p *= factor;
    for (Vec3& eye : cloud.eyes) eye *= factor;
    for (float& noise : cloud.noise) noise *= static_cast<float>(factor);
  }
  return cloud;
}

Result<std::shared_ptr<const Scan>> meshed_anew(const Scan& scan, const scan::PointCloud& cloud,
                                                const cloud::MeshingOptions& options,
                                                const Task& task) {
  auto made = cloud::mesh_cloud(cloud, options, task.part(0, 0.6));
  if (!made) return made.error();
  cloud::Meshed meshed = *std::move(made);
  FromPoints from = scan.points.value_or(FromPoints{});
  from.count = cloud.points.size();
  take(from, meshed, options);
  return prepare_scan(std::move(meshed.mesh), scan.name, scan.source, scan.unit, task.part(0.6, 1),
                      std::move(from));
}

}  // namespace lostline::project
