// The general-purpose way to find shapes in points, for comparison in the same run: efficient
// RANSAC of CGAL (R. Schnabel, R. Wahl, R. Klein, Computer Graphics Forum 26 (2007)).
#include "general_purpose.h"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Point_with_normal_3.h>
#include <CGAL/Shape_detection/Efficient_RANSAC.h>
#include <CGAL/property_map.h>

namespace lostline {

std::size_t shapes_by_ransac(const scan::Mesh& mesh, double reach, double spacing,
                             std::size_t smallest) {
  using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
  using Point = std::pair<Kernel::Point_3, Kernel::Vector_3>;
  using Points = std::vector<Point>;
  using Traits =
      CGAL::Shape_detection::Efficient_RANSAC_traits<Kernel, Points,
                                                     CGAL::First_of_pair_property_map<Point>,
                                                     CGAL::Second_of_pair_property_map<Point>>;
  using Ransac = CGAL::Shape_detection::Efficient_RANSAC<Traits>;
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  Points points;
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v) {
    const Vec3& p = mesh.vertices[v];
    points.emplace_back(Kernel::Point_3(p.x(), p.y(), p.z()),
                        Kernel::Vector_3(normals[v].x(), normals[v].y(), normals[v].z()));
  }
  Ransac ransac;
  ransac.set_input(points);
  ransac.add_shape_factory<CGAL::Shape_detection::Plane<Traits>>();
  ransac.add_shape_factory<CGAL::Shape_detection::Cylinder<Traits>>();
  ransac.add_shape_factory<CGAL::Shape_detection::Cone<Traits>>();
  ransac.add_shape_factory<CGAL::Shape_detection::Sphere<Traits>>();
  ransac.add_shape_factory<CGAL::Shape_detection::Torus<Traits>>();
  Ransac::Parameters parameters;
  parameters.probability = 0.05;
  parameters.min_points = smallest;
  parameters.epsilon = reach;
  parameters.cluster_epsilon = 3 * spacing;
  parameters.normal_threshold = 0.9;
  ransac.detect(parameters);
  return ransac.shapes().size();
}

}  // namespace lostline
