// The general-purpose ways to find shapes in points, for comparison in the same run, both of CGAL:
// efficient RANSAC (R. Schnabel, R. Wahl, R. Klein, Computer Graphics Forum 26 (2007)) and region
// growing (F. Lafarge, C. Mallet, Int. J. Computer Vision 99 (2012)).
#include "general_purpose.h"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Shape_detection/Efficient_RANSAC.h>
#include <CGAL/Shape_detection/Region_growing/Region_growing.h>
#include <CGAL/Shape_detection/Region_growing/Region_growing_on_point_set.h>
#include <CGAL/linear_least_squares_fitting_3.h>
#include <CGAL/property_map.h>

namespace lostline {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Point = std::pair<Kernel::Point_3, Kernel::Vector_3>;
using Points = std::vector<Point>;
using PointMap = CGAL::First_of_pair_property_map<Point>;
using NormalMap = CGAL::Second_of_pair_property_map<Point>;

Points points_of(const scan::Mesh& mesh) {
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  Points points;
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v) {
    const Vec3& p = mesh.vertices[v];
    points.emplace_back(Kernel::Point_3(p.x(), p.y(), p.z()),
                        Kernel::Vector_3(normals[v].x(), normals[v].y(), normals[v].z()));
  }
  return points;
}

template <class Triple>
Vec3 vec(const Triple& t) {
  return {t.x(), t.y(), t.z()};
}

}  // namespace

std::vector<fit::Surface> shapes_by_ransac(const scan::Mesh& mesh, double reach, double spacing,
                                           std::size_t smallest) {
  using Traits =
      CGAL::Shape_detection::Efficient_RANSAC_traits<Kernel, Points, PointMap, NormalMap>;
  namespace Shapes = CGAL::Shape_detection;
  Points points = points_of(mesh);
  Shapes::Efficient_RANSAC<Traits> ransac;
  ransac.set_input(points);
  ransac.add_shape_factory<Shapes::Plane<Traits>>();
  ransac.add_shape_factory<Shapes::Cylinder<Traits>>();
  ransac.add_shape_factory<Shapes::Cone<Traits>>();
  ransac.add_shape_factory<Shapes::Sphere<Traits>>();
  ransac.add_shape_factory<Shapes::Torus<Traits>>();
  Shapes::Efficient_RANSAC<Traits>::Parameters parameters;
  parameters.probability = 0.05;
  parameters.min_points = smallest;
  parameters.epsilon = reach;
  parameters.cluster_epsilon = 3 * spacing;
  parameters.normal_threshold = 0.9;
  ransac.detect(parameters);
  std::vector<fit::Surface> found;
  for (const auto& shape : ransac.shapes()) {
    fit::Surface s;
    if (const auto* plane = dynamic_cast<const Shapes::Plane<Traits>*>(shape.get())) {
      s.kind = fit::Kind::Plane;
      s.axis = vec(plane->plane_normal()).normalized();
      s.point = -plane->d() * s.axis;
    } else if (const auto* round = dynamic_cast<const Shapes::Cylinder<Traits>*>(shape.get())) {
      s.kind = fit::Kind::Cylinder;
      s.point = vec(round->axis().point(0));
      s.axis = vec(round->axis().to_vector()).normalized();
      s.radius = round->radius();
    } else if (const auto* cone = dynamic_cast<const Shapes::Cone<Traits>*>(shape.get())) {
      s.kind = fit::Kind::Cone;
      s.point = vec(cone->apex());
      s.axis = vec(cone->axis()).normalized();
      s.half_angle = cone->angle();
    } else if (const auto* ball = dynamic_cast<const Shapes::Sphere<Traits>*>(shape.get())) {
      s.kind = fit::Kind::Sphere;
      s.point = vec(ball->center());
      s.radius = ball->radius();
    } else if (const auto* ring = dynamic_cast<const Shapes::Torus<Traits>*>(shape.get())) {
      s.kind = fit::Kind::Torus;
      s.point = vec(ring->center());
      s.axis = vec(ring->axis()).normalized();
      s.radius = ring->major_radius();
      s.minor_radius = ring->minor_radius();
    }
    found.push_back(s);
  }
  return found;
}

std::vector<fit::Surface> planes_by_region_growing(const scan::Mesh& mesh, double reach,
                                                   std::size_t smallest) {
  using Neighbours = CGAL::Shape_detection::Point_set::K_neighbor_query<Kernel, Points, PointMap>;
  using Planes =
      CGAL::Shape_detection::Point_set::Least_squares_plane_fit_region<Kernel, Points, PointMap,
                                                                       NormalMap>;
  const Points points = points_of(mesh);
  Neighbours neighbours(points, 12);
  Planes planes(points, reach, 25, smallest);
  CGAL::Shape_detection::Region_growing<Points, Neighbours, Planes> growing(points, neighbours,
                                                                            planes);
  std::vector<std::vector<std::size_t>> regions;
  growing.detect(std::back_inserter(regions));
  std::vector<fit::Surface> found;
  for (const std::vector<std::size_t>& region : regions) {
    std::vector<Kernel::Point_3> members;
    for (const std::size_t i : region) members.push_back(points[i].first);
    Kernel::Plane_3 plane;
    CGAL::linear_least_squares_fitting_3(members.begin(), members.end(), plane,
                                         CGAL::Dimension_tag<0>());
    fit::Surface s;
    s.kind = fit::Kind::Plane;
    s.point = vec(plane.projection(members.front()));
    s.axis = vec(plane.orthogonal_vector()).normalized();
    found.push_back(s);
  }
  return found;
}

}  // namespace lostline
