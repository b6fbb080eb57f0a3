#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"
#include "scan/mesh.h"

namespace lostline::model {

/// An edge named by the two faces it lies between and a place near it: a reference that survives
/// edits of the steps before.
struct EdgeRef {
  std::string face_a;
  std::string face_b;
  Vec3 near = Vec3::Zero();
  bool operator==(const EdgeRef&) const = default;
};

/// An immutable boundary representation in mm whose faces carry persistent names. Cheap to copy;
/// safe to share between threads.
class Solid {
 public:
  struct Impl;
  Solid() = default;
  explicit Solid(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}

  [[nodiscard]] bool empty() const { return impl_ == nullptr; }
  [[nodiscard]] double volume() const;  ///< mm3
  [[nodiscard]] double area() const;    ///< mm2
  [[nodiscard]] bool valid() const;     ///< closed and without geometric defects
  [[nodiscard]] Box3 box() const;
  [[nodiscard]] std::size_t face_count() const;
  [[nodiscard]] const std::string& face_name(std::size_t face) const;
  [[nodiscard]] std::optional<std::size_t> find_face(const std::string& name) const;
  [[nodiscard]] EdgeRef ref_of_edge(std::size_t edge, const Vec3& near) const;
  /// Index of the edge that a reference means; empty when its faces no longer meet.
  [[nodiscard]] std::optional<std::size_t> find_edge(const EdgeRef& ref) const;
  [[nodiscard]] const Impl& impl() const { return *impl_; }

 private:
  std::shared_ptr<const Impl> impl_;
};

/// Triangles and ink lines of a solid for drawing and as a start for exact distances. Vertices are
/// not shared between faces.
struct Tessellation {
  scan::Mesh mesh;
  std::vector<Vec3> normals;                 ///< exact surface normals at the vertices, outwards
  std::vector<Vec2> parameters;              ///< surface parameters of the vertices
  std::vector<std::uint32_t> triangle_face;  ///< face index of each triangle
  struct EdgeLine {
    std::size_t edge;
    std::vector<Vec3> points;
  };
  std::vector<EdgeLine>
      edges;  ///< without the seams of closed surfaces and edges between faces that meet smoothly
};

struct TessellationOptions {
  double deflection = 0.05;  ///< mm, greatest distance of a triangle from its face
  double angle = 0.2;        ///< rad, greatest turn between neighbouring triangles
};
/// @errors Failed  when a face cannot be triangulated.
Result<Tessellation> tessellate(const Solid& solid, const TessellationOptions& options = {});

}  // namespace lostline::model
