#pragma once

#include <memory>

#include "base/task.h"
#include "datum/place.h"
#include "scan/mesh_index.h"

// One scan as joining sees it; inside of this module.

namespace lostline::joining {

/// The axis of a bore or shaft that its survey found.
struct Axis {
  Vec3 place;  ///< where its area lies, on the axis
  Vec3 direction;
  double radius = 0;
  bool hollow = false;
  double sigma = 0;  ///< mm, of its place across itself, one standard deviation
  double tilt = 0;   ///< rad, of its direction, likewise
  bool rim = false;  ///< told by the border of a flat face alone
};

struct Piece {
  const scan::Mesh* mesh = nullptr;
  scan::Topology topology;
  std::shared_ptr<const scan::MeshIndex> index;
  std::vector<Vec3> normals;   ///< of the vertices, out of the material
  std::vector<char> border;    ///< whether a vertex lies on an open edge, or one ring from it
  double spacing = 0;          ///< mm
  double noise = 0;            ///< mm, one standard deviation
  double area = 0;             ///< mm2
  double size = 0;             ///< mm, diagonal
  Vec3 centre = Vec3::Zero();  ///< of the area
  /// Directions from which all of it can have been seen, towards the eye; empty where no single
  /// place shows it all.
  std::vector<Vec3> eyes;
  /// Points spread evenly over it, away from its borders: indices of vertices.
  std::vector<std::uint32_t> sample;
  /// The same with the edges: on thin parts nothing else holds them sideways.
  std::vector<std::uint32_t> with_edges;
  std::vector<char> edge;           ///< whether a vertex lies at an edge, or one ring from it
  std::vector<datum::Found> found;  ///< the largest surfaces of its survey
  std::vector<Axis> axes;           ///< all that are told to a spacing

  [[nodiscard]] const Vec3& point(std::size_t k) const { return mesh->vertices[sample[k]]; }
  [[nodiscard]] const Vec3& normal(std::size_t k) const { return normals[sample[k]]; }
};

/// @errors InvalidInput  fewer than 100 triangles;  Cancelled.
Result<Piece> make_piece(const scan::Mesh& mesh, const Task& task);

/// Where a point falls on a piece.
struct Falls {
  enum class On { Nothing, Border, Surface } on = On::Nothing;
  Vec3 foot = Vec3::Zero();
  Vec3 normal = Vec3::Zero();  ///< unit, between the vertices'
  double distance = 0;         ///< mm, positive outside the material
  std::uint32_t vertex = 0;    ///< of the piece, nearest to the foot
};
Falls falls_on(const Piece& piece, const Vec3& p, double search);

}  // namespace lostline::joining
