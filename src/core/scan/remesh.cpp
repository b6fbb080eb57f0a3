// Filling holes, thinning and meshing anew by CGAL, kept in one file because it is slow to compile.
#define CGAL_EIGEN3_ENABLED
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Polygon_mesh_processing/border.h>
#include <CGAL/Polygon_mesh_processing/detect_features.h>
#include <CGAL/Polygon_mesh_processing/fair.h>
#include <CGAL/Polygon_mesh_processing/orient_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/polygon_soup_to_polygon_mesh.h>
#include <CGAL/Polygon_mesh_processing/remesh.h>
#include <CGAL/Polygon_mesh_processing/triangulate_hole.h>
#include <CGAL/Surface_mesh.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/Count_stop_predicate.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/Edge_length_cost.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/LindstromTurk_cost.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/LindstromTurk_placement.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/Midpoint_placement.h>
#include <CGAL/Surface_mesh_simplification/edge_collapse.h>

#include <cmath>

#include "scan/clean.h"

namespace lostline::scan {
namespace {

namespace pmp = CGAL::Polygon_mesh_processing;
namespace sms = CGAL::Surface_mesh_simplification;
using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Surface = CGAL::Surface_mesh<Kernel::Point_3>;

/// Coordinates go relative to `origin`, so that parts far out lose nothing.
Result<Surface> to_surface(const Mesh& mesh, const Vec3& origin) {
  std::vector<Kernel::Point_3> points;
  points.reserve(mesh.vertices.size());
  for (const Vec3& v : mesh.vertices) {
    const Vec3 p = v - origin;
    points.emplace_back(p.x(), p.y(), p.z());
  }
  std::vector<std::array<std::size_t, 3>> faces;
  faces.reserve(mesh.triangles.size());
  for (const Triangle& t : mesh.triangles) faces.push_back({t[0], t[1], t[2]});
  Surface surface;
  try {
    // Edges of three triangles and corners where surfaces touch are taken apart.
    pmp::orient_polygon_soup(points, faces);
    pmp::polygon_soup_to_polygon_mesh(points, faces, surface);
  } catch (const std::exception& error) {
    return Error{ErrorCode::Failed,
                 std::string("The scan cannot be taken as a surface: ") + error.what()};
  }
  return surface;
}

Mesh from_surface(const Surface& surface, const Vec3& origin) {
  Mesh mesh;
  std::vector<std::uint32_t> index(surface.num_vertices() + surface.number_of_removed_vertices(),
                                   kNone);
  for (const auto v : surface.vertices()) {
    index[v] = static_cast<std::uint32_t>(mesh.vertices.size());
    const auto& p = surface.point(v);
    mesh.vertices.push_back(origin + Vec3(p.x(), p.y(), p.z()));
  }
  for (const auto f : surface.faces()) {
    Triangle t{};
    std::size_t k = 0;
    for (const auto v : surface.vertices_around_face(surface.halfedge(f))) {
      if (k < 3) t[k++] = index[v];
    }
    mesh.triangles.push_back(t);
  }
  return mesh;
}

/// Stops a collapse when the caller does.
template <class Inner>
struct Stoppable {
  Inner inner;
  const Task* task;
  template <class Cost, class Profile>
  bool operator()(const Cost& cost, const Profile& profile, std::size_t initial,
                  std::size_t current) const {
    if (current % 4096 == 0) {
      if (task->stopped()) return true;
      task->report(0.1 + 0.8 * (1 - static_cast<double>(current) /
                                        static_cast<double>(std::max<std::size_t>(1, initial))));
    }
    return inner(cost, profile, initial, current);
  }
};

/// All edges reach the length wanted.
struct LongEnough {
  double squared;
  template <class Cost, class Profile>
  bool operator()(const Cost& cost, const Profile&, std::size_t, std::size_t) const {
    return cost > squared;
  }
};

}  // namespace

Result<Cleaned> fill_holes(const Mesh& mesh, Filling filling, std::size_t most_edges,
                           const Task& task,
                           const std::function<bool(const std::vector<Vec3>&)>& wanted) {
  const Vec3 origin = bounds(mesh).center();
  Result<Surface> made = to_surface(mesh, origin);
  if (!made) return made.error();
  Surface surface = *std::move(made);
  std::vector<Surface::Halfedge_index> borders;
  pmp::extract_boundary_cycles(surface, std::back_inserter(borders));
  Cleaned result;
  for (std::size_t i = 0; i < borders.size(); ++i) {
    if (task.stopped()) return cancelled();
    task.report(0.2 + 0.7 * static_cast<double>(i) / static_cast<double>(borders.size()));
    std::size_t edges = 0;
    std::vector<Vec3> border;
    for (auto h = borders[i];;) {
      ++edges;
      const auto& at = surface.point(surface.target(h));
      if (wanted) border.push_back(origin + Vec3(at.x(), at.y(), at.z()));
      h = surface.next(h);
      if (h == borders[i] || edges > most_edges) break;
    }
    if (edges > most_edges || (wanted && !wanted(border))) continue;
    std::vector<Surface::Face_index> faces;
    try {
      if (filling == Filling::Flat) {
        pmp::triangulate_hole(surface, borders[i], std::back_inserter(faces));
      } else {
        std::vector<Surface::Vertex_index> vertices;
        pmp::triangulate_and_refine_hole(surface, borders[i], std::back_inserter(faces),
                                         std::back_inserter(vertices));
        // The curvature around the hole carries on into it.
        if (!vertices.empty()) pmp::fair(surface, vertices);
      }
    } catch (const std::exception&) {
      continue;  // this hole stays
    }
    result.count += !faces.empty();
  }
  result.mesh = from_surface(surface, origin);
  task.report(1.0);
  return result;
}

Result<Cleaned> thin(const Mesh& mesh, Thinning thinning, double spacing, const Task& task) {
  if (!(spacing > 0) || !std::isfinite(spacing))
    return Error{ErrorCode::InvalidInput, "A spacing must be greater than zero."};
  const Vec3 origin = bounds(mesh).center();
  Result<Surface> made = to_surface(mesh, origin);
  if (!made) return made.error();
  Surface surface = *std::move(made);
  const std::size_t before = surface.number_of_faces();
  try {
    if (thinning == Thinning::Even) {
      sms::edge_collapse(surface, Stoppable<LongEnough>{{spacing * spacing}, &task},
                         CGAL::parameters::get_cost(sms::Edge_length_cost<Surface>())
                             .get_placement(sms::Midpoint_placement<Surface>()));
    } else {
      double area = 0;
      for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
        area += 0.5 * mesh.area_vector(t).norm();
      // Three edges for two equilateral triangles of that side.
      const double faces = area / (0.433 * spacing * spacing);
      sms::edge_collapse(
          surface,
          Stoppable<sms::Count_stop_predicate<Surface>>{
              sms::Count_stop_predicate<Surface>(static_cast<std::size_t>(1.5 * faces)), &task},
          CGAL::parameters::get_cost(sms::LindstromTurk_cost<Surface>())
              .get_placement(sms::LindstromTurk_placement<Surface>()));
    }
  } catch (const std::exception& error) {
    return Error{ErrorCode::Failed, std::string("The scan cannot be thinned: ") + error.what()};
  }
  if (task.stopped()) return cancelled();
  Cleaned result;
  result.mesh = from_surface(surface, origin);
  result.count = before - result.mesh.triangles.size();
  task.report(1.0);
  return result;
}

Result<Cleaned> remesh(const Mesh& mesh, const Selection& selection, double length,
                       const Task& task) {
  if (!(length > 0) || !std::isfinite(length))
    return Error{ErrorCode::InvalidInput, "An edge length must be greater than zero."};
  const Vec3 origin = bounds(mesh).center();
  Result<Surface> made = to_surface(mesh, origin);
  if (!made) return made.error();
  Surface surface = *std::move(made);
  task.report(0.1);
  try {
    std::vector<Surface::Face_index> faces;
    for (const auto face : surface.faces()) {
      if (selection.empty() || (face.idx() < selection.size() && selection[face.idx()] != 0))
        faces.push_back(face);
    }
    auto sharp = surface.add_property_map<Surface::Edge_index, bool>("e:sharp", false).first;
    constexpr double kSharp = 45;  // degrees
    pmp::detect_sharp_edges(surface, kSharp, sharp);
    std::vector<Surface::Edge_index> rim;
    for (const auto edge : surface.edges()) {
      if (surface.is_border(edge)) sharp[edge] = true;
      if (sharp[edge]) rim.push_back(edge);
    }
    // What must stay is not split or collapsed: it has the length wanted before.
    pmp::split_long_edges(rim, length, surface, CGAL::parameters::edge_is_constrained_map(sharp));
    if (!selection.empty()) {
      faces.erase(std::remove_if(faces.begin(), faces.end(),
                                 [&](auto face) { return surface.is_removed(face); }),
                  faces.end());
    } else {
      faces.assign(surface.faces().begin(), surface.faces().end());
    }
    if (task.stopped()) return cancelled();
    pmp::isotropic_remeshing(faces, length, surface,
                             CGAL::parameters::number_of_iterations(6)
                                 .edge_is_constrained_map(sharp)
                                 .protect_constraints(true));
  } catch (const std::exception& error) {
    return Error{ErrorCode::Failed, std::string("The scan cannot be meshed anew: ") + error.what()};
  }
  if (task.stopped()) return cancelled();
  Cleaned result;
  result.mesh = from_surface(surface, origin);
  result.count = result.mesh.triangles.size();
  task.report(1.0);
  return result;
}

}  // namespace lostline::scan
