#pragma once

#include <memory>
#include <optional>

#include "scan/mesh.h"

namespace lostline::scan {

/// Nearest points and ray hits on a mesh. Keeps its own copy of the coordinates relative to the
/// middle of the mesh, so that parts far from the origin lose nothing. Thread-safe after
/// construction.
class MeshIndex {
 public:
  explicit MeshIndex(const Mesh& mesh);
  ~MeshIndex();
  MeshIndex(MeshIndex&&) noexcept;
  MeshIndex& operator=(MeshIndex&&) noexcept;

  struct Nearest {
    std::uint32_t triangle = kNone;
    Vec3 point = Vec3::Zero();    ///< on the triangle, mm
    Vec3 weights = Vec3::Zero();  ///< barycentric coordinates of `point`
    double distance = 0;          ///< mm, unsigned
  };
  /// The nearest point within `limit` mm, computed in double precision; empty when there is none.
  [[nodiscard]] std::optional<Nearest> nearest(const Vec3& point, double limit = 1e30) const;

  struct Hit {
    std::uint32_t triangle = kNone;
    Vec3 point = Vec3::Zero();
    double t = 0;  ///< distance along the unit direction, mm
  };
  /// First hit of the ray from `origin` along the unit vector `direction`.
  [[nodiscard]] std::optional<Hit> first_hit(const Vec3& origin, const Vec3& direction) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lostline::scan
