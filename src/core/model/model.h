#pragma once

#include <array>
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

enum class BodyKind {
  Solid,
  Surface,  ///< an open shell: faces without an inside
  Curve,    ///< edges in space without faces
};
using Colour = std::array<std::uint8_t, 3>;  ///< red, green, blue as on a screen (sRGB)

/// A body of a model: what one product of an exchange file is.
struct Body {
  std::string key;  ///< persistent: "s12" of the step that made it
  BodyKind kind = BodyKind::Solid;
  std::vector<std::string> merged;  ///< keys of bodies that were joined to it
  std::string name;                 ///< given by the engineer or an imported file; may be empty
  std::optional<Colour> colour;

  [[nodiscard]] bool is(const std::string& key) const;
};
const char* kind_name(BodyKind kind);  ///< "solid", "surface", "curve"

/// What the Route makes: bodies as an immutable boundary representation in mm, whose faces carry
/// persistent names and are numbered through all bodies. Cheap to copy; safe to share between
/// threads.
class Model {
 public:
  struct Impl;
  Model() = default;
  explicit Model(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}

  [[nodiscard]] bool empty() const { return impl_ == nullptr; }
  [[nodiscard]] double volume() const;  ///< mm3, of the solids
  [[nodiscard]] double area() const;    ///< mm2, of solids and surfaces
  [[nodiscard]] bool valid() const;     ///< solids closed, and all without geometric defects
  [[nodiscard]] Box3 box() const;
  [[nodiscard]] std::size_t body_count() const;
  [[nodiscard]] const Body& body(std::size_t body) const;
  /// By its key, or that of a body which was joined to it.
  [[nodiscard]] std::optional<std::size_t> find_body(const std::string& key) const;
  [[nodiscard]] std::size_t body_of_face(std::size_t face) const;
  [[nodiscard]] bool has(BodyKind kind) const;
  /// One body as a model by itself.
  [[nodiscard]] Model only(std::size_t body) const;
  /// The same bodies under other names and colours; one `Body` for each, in order.
  [[nodiscard]] Model dressed(std::vector<Body> bodies) const;
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

/// Triangles and ink lines of a model for drawing and as a start for exact distances. Vertices are
/// not shared between faces.
struct Tessellation {
  scan::Mesh mesh;
  std::vector<Vec3> normals;                 ///< exact surface normals at the vertices, outwards
  std::vector<Vec2> parameters;              ///< surface parameters of the vertices
  std::vector<std::uint32_t> triangle_face;  ///< face index of each triangle
  struct EdgeLine {
    std::size_t edge;
    std::size_t body;
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
Result<Tessellation> tessellate(const Model& model, const TessellationOptions& options = {});
/// The triangles and lines of some bodies; vertices and the numbers of faces and edges stay.
Tessellation part_of(const Tessellation& all, const Model& model, const std::vector<bool>& bodies);

}  // namespace lostline::model
