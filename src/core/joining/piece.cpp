#include "joining/piece.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "cloud/neighbours.h"
#include "joining/rims.h"
#include "scan/noise.h"
#include "survey/survey.h"

namespace lostline::joining {
namespace {

constexpr std::size_t kSample = 12000;  // points that stand for a scan

/// Vertices at edges and one ring from them: a scanner rounds edges, each time another way.
std::vector<char> edges_of(const Piece& piece) {
  const std::size_t n = piece.mesh->vertices.size();
  std::vector<char> sharp(n, 0);
  constexpr double kSharp = 0.94;  // cosine of 20 degrees from one vertex to the next
  for (std::size_t v = 0; v < n; ++v) {
    for (const std::uint32_t o : piece.topology.vertex_neighbours[v]) {
      if (piece.normals[v].dot(piece.normals[o]) < kSharp) sharp[v] = 1;
    }
  }
  std::vector<char> near = sharp;
  for (std::size_t v = 0; v < n; ++v) {
    for (const std::uint32_t o : piece.topology.vertex_neighbours[v]) {
      if (sharp[o] != 0) near[v] = 1;
    }
  }
  return near;
}

/// Normals of smooth places averaged with their neighbours': noise tilts them less then, and holds
/// less of what nothing holds.
void calm_normals(Piece& piece) {
  for (int round = 0; round < 2; ++round) {
    std::vector<Vec3> calm = piece.normals;
    for (std::size_t v = 0; v < calm.size(); ++v) {
      if (piece.edge[v] != 0) continue;
      for (const std::uint32_t o : piece.topology.vertex_neighbours[v]) {
        if (piece.edge[o] == 0) calm[v] += piece.normals[o];
      }
      if (calm[v].squaredNorm() > 0) calm[v].normalize();
    }
    piece.normals = std::move(calm);
  }
}

/// Directions towards an eye that sees all but some hundredths of the area, among many.
std::vector<Vec3> eyes_of(const scan::Mesh& mesh) {
  struct Look {
    Vec3 normal;
    double area;
  };
  std::vector<Look> looks;
  const std::size_t stride = std::max<std::size_t>(1, mesh.triangles.size() / 4000);
  double whole = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); t += stride) {
    const Vec3 area = mesh.area_vector(t);
    const double size = area.norm();
    if (!(size > 0)) continue;
    looks.push_back({area / size, size});
    whole += size;
  }
  struct Eye {
    Vec3 towards;
    double turned_away;
  };
  std::vector<Eye> all;
  double least = 1e300;
  constexpr int kDirections = 400;  // spread evenly over the sphere by the golden angle
  for (int k = 0; k < kDirections; ++k) {
    const double z = 1 - (2 * k + 1.0) / kDirections;
    const double angle = k * std::numbers::pi * (3 - std::sqrt(5.0));
    const double across = std::sqrt(1 - z * z);
    Eye eye{{across * std::cos(angle), across * std::sin(angle), z}, 0};
    for (const Look& look : looks) {
      // A scanner sees nothing that it looks along; noise tilts some triangles.
      if (look.normal.dot(eye.towards) < 0.05) eye.turned_away += look.area;
    }
    least = std::min(least, eye.turned_away);
    all.push_back(eye);
  }
  // Edges and noise turn a little away from any eye; more than this was seen from several places.
  constexpr double kSeenFromOne = 0.08;
  std::vector<Vec3> eyes;
  if (least > kSeenFromOne * whole) return eyes;
  for (const Eye& eye : all) {
    if (eye.turned_away < least + 0.02 * whole) eyes.push_back(eye.towards);
  }
  return eyes;
}

/// Round holes in a flat face, from its inner borders: of thin plates their walls are hardly seen.
void add_rims(const fit::Surface& plane, const std::vector<std::uint32_t>& triangles,
              Piece& piece) {
  for (const Rim& round :
       round_rims(*piece.mesh, piece.topology, plane, triangles, piece.spacing)) {
    if (!round.inner) continue;
    fit::Surface rim;
    rim.kind = fit::Kind::Cylinder;
    rim.axis = plane.axis;
    rim.point = round.centre;
    rim.radius = round.radius;
    rim.hollow = true;
    const auto known = [&](const datum::Found& f) {
      const Vec3 d = f.surface.point - rim.point;
      return f.surface.kind == fit::Kind::Cylinder &&
             fit::angle_between(f.surface.axis, rim.axis) < 0.05 &&
             (d - d.dot(rim.axis) * rim.axis).norm() < 2 * piece.spacing;
    };
    if (std::any_of(piece.found.begin(), piece.found.end(), known)) continue;
    const double area = 2 * std::numbers::pi * rim.radius * piece.spacing;
    piece.found.push_back({rim, area, rim.point, 1});
    piece.axes.push_back(
        {rim.point, rim.axis, rim.radius, true, kRimMoves * piece.spacing, 0, true});
  }
}

}  // namespace

Result<Piece> make_piece(const scan::Mesh& mesh, const Task& task) {
  Piece piece;
  piece.mesh = &mesh;
  piece.topology = scan::build_topology(mesh);
  piece.index = std::make_shared<const scan::MeshIndex>(mesh);
  piece.normals = scan::vertex_normals(mesh);
  piece.noise = scan::measure_noise(mesh, piece.topology).sigma;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const double area = 0.5 * mesh.area_vector(t).norm();
    piece.area += area;
    piece.centre += area * mesh.centroid(t);
  }
  if (piece.area > 0) piece.centre /= piece.area;
  piece.size = scan::bounds(mesh).diagonal().norm();
  // An even mesh of that area and number of triangles has this edge.
  piece.spacing =
      std::sqrt(piece.area / std::max<double>(1, static_cast<double>(mesh.triangles.size())) * 4 /
                std::sqrt(3.0));
  std::vector<char> edge(mesh.vertices.size(), 0);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (piece.topology.across[3 * t + k] != scan::kNone) continue;
      edge[mesh.triangles[t][k]] = 1;
      edge[mesh.triangles[t][(k + 1) % 3]] = 1;
    }
  }
  piece.border = edge;
  for (std::size_t v = 0; v < edge.size(); ++v) {
    for (const std::uint32_t n : piece.topology.vertex_neighbours[v]) {
      if (edge[n] != 0) piece.border[v] = 1;
    }
  }
  piece.eyes = eyes_of(mesh);
  // As far apart as spreads the sample evenly over the area.
  const double apart =
      std::max(piece.spacing, std::sqrt(piece.area / static_cast<double>(kSample)) * 0.9);
  piece.edge = edges_of(piece);
  calm_normals(piece);
  for (const std::uint32_t v : cloud::thinned(mesh.vertices, apart, task.part(0, 0.1))) {
    if (piece.border[v] != 0 || !(piece.normals[v].squaredNorm() > 0.5)) continue;
    piece.with_edges.push_back(v);
    if (piece.edge[v] == 0) piece.sample.push_back(v);
  }
  if (task.stopped()) return cancelled();
  if (3 * piece.sample.size() < piece.with_edges.size())
    piece.sample = piece.with_edges;  // nothing but edges
  if (piece.sample.size() < 100)
    return Error{ErrorCode::InvalidInput,
                 "A scan of " + std::to_string(mesh.triangles.size()) +
                     " triangles shows too little surface to be joined to others."};
  const auto survey = survey::split_into_regions(mesh, piece.topology, {}, task.part(0.1, 0.95));
  if (!survey) return survey.error();
  for (const survey::Region& region : survey->regions) {
    if (!region.fit) continue;
    const fit::Surface& surface = region.fit->surface;
    piece.found.push_back({surface, region.area, region.centre, 1});
    if (surface.kind != fit::Kind::Cylinder || region.fit->u_offset > piece.spacing) continue;
    const Vec3 place =
        surface.point + (region.centre - surface.point).dot(surface.axis) * surface.axis;
    // A short arc with a scanner's rounded edges is no better told than by a share of its noise.
    const double sigma = std::max(0.5 * region.fit->u_offset, 0.2 * piece.noise);
    piece.axes.push_back({place, surface.axis, surface.radius, surface.hollow, sigma,
                          0.5 * region.fit->u_angle, false});
  }
  // The largest tell where a scan lies; of hundreds of small ones every pair would be tried.
  std::stable_sort(piece.found.begin(), piece.found.end(),
                   [](const datum::Found& a, const datum::Found& b) { return a.area > b.area; });
  constexpr std::size_t kMostSurfaces = 40;
  if (piece.found.size() > kMostSurfaces) piece.found.resize(kMostSurfaces);
  std::vector<std::vector<std::uint32_t>> triangles_of(survey->regions.size() + 1);
  for (std::size_t t = 0; t < survey->triangle_region.size(); ++t)
    triangles_of[survey->triangle_region[t]].push_back(static_cast<std::uint32_t>(t));
  for (const survey::Region& region : survey->regions) {
    if (piece.found.size() > 2 * kMostSurfaces) break;
    if (region.fit && fit::is_flat(region.fit->surface.kind))
      add_rims(region.fit->surface, triangles_of[region.id], piece);
  }
  task.report(1);
  return piece;
}

Falls falls_on(const Piece& piece, const Vec3& p, double search) {
  Falls falls;
  const auto nearest = piece.index->nearest(p, search);
  if (!nearest) return falls;
  const scan::Triangle& t = piece.mesh->triangles[nearest->triangle];
  const Vec3 facet = piece.mesh->area_vector(nearest->triangle);
  if (!(facet.squaredNorm() > 0)) return falls;
  Vec3 normal = Vec3::Zero();
  bool border = false;
  std::size_t most = 0;
  for (std::size_t k = 0; k < 3; ++k) {
    normal += nearest->weights[static_cast<int>(k)] * piece.normals[t[k]];
    border = border || piece.border[t[k]] != 0;
    if (nearest->weights[static_cast<int>(k)] > nearest->weights[static_cast<int>(most)]) most = k;
  }
  falls.foot = nearest->point;
  falls.vertex = t[most];
  const double size = normal.norm();
  falls.normal = size > 0.1 ? Vec3(normal / size) : Vec3(facet.normalized());
  falls.distance = (p - falls.foot).dot(falls.normal);
  falls.on = border ? Falls::On::Border : Falls::On::Surface;
  return falls;
}

}  // namespace lostline::joining
