#include "patch/layout.h"

#include <Eigen/Dense>
#include <Eigen/SparseCholesky>
#include <Eigen/SparseCore>
#include <algorithm>
#include <cmath>

namespace lostline::patch {
namespace {

double flat_area(const std::vector<Vec2>& flat, const scan::Triangle& t) {
  const Vec2 a = flat[t[1]] - flat[t[0]];
  const Vec2 b = flat[t[2]] - flat[t[0]];
  return 0.5 * (a.x() * b.y() - a.y() * b.x());
}

/// Share of the area that lies face down.
double folded(const std::vector<Vec2>& flat, const std::vector<scan::Triangle>& triangles) {
  double down = 0;
  double all = 0;
  for (const scan::Triangle& t : triangles) {
    const double area = flat_area(flat, t);
    all += std::abs(area);
    if (area < 0) down -= area;
  }
  return all > 0 ? down / all : 1;
}

/// Lévy's map: the gradients of u and v in each triangle are to be square and equal; the two
/// vertices that are furthest apart hold it. Solved by the normal equations in u + iv.
std::vector<Vec2> conformal(const std::vector<Vec3>& points,
                            const std::vector<scan::Triangle>& triangles) {
  const std::size_t n = points.size();
  // Furthest apart, as seen from the middle and back.
  std::size_t a = 0;
  std::size_t b = 0;
  for (std::size_t i = 0; i < n; ++i) {
    if ((points[i] - points[0]).squaredNorm() > (points[a] - points[0]).squaredNorm()) a = i;
  }
  for (std::size_t i = 0; i < n; ++i) {
    if ((points[i] - points[a]).squaredNorm() > (points[b] - points[a]).squaredNorm()) b = i;
  }
  using Complex = std::complex<double>;
  std::vector<Eigen::Triplet<Complex>> entries;
  std::vector<Complex> right(n, 0);
  const Complex at_b((points[b] - points[a]).norm(), 0);
  std::vector<int> number(n, -1);
  int count = 0;
  for (std::size_t i = 0; i < n; ++i) {
    if (i != a && i != b) number[i] = count++;
  }
  Eigen::VectorXcd rhs = Eigen::VectorXcd::Zero(count);
  for (const scan::Triangle& t : triangles) {
    const Vec3 e = points[t[1]] - points[t[0]];
    const Vec3 f = points[t[2]] - points[t[0]];
    const Vec3 normal = e.cross(f);
    const double twice = normal.norm();
    if (!(twice > 0)) continue;
    const Vec3 x = e.normalized();
    const Vec3 y = (normal / twice).cross(x);
    const std::array<Complex, 3> p{Complex(0, 0), Complex(e.dot(x), 0),
                                   Complex(f.dot(x), f.dot(y))};
    // Sum of w_k U_k is to vanish, w_k the opposite side.
    const double scale = 1 / std::sqrt(twice);
    const std::array<Complex, 3> w{scale * (p[2] - p[1]), scale * (p[0] - p[2]),
                                   scale * (p[1] - p[0])};
    for (std::size_t k = 0; k < 3; ++k) {
      if (number[t[k]] < 0) continue;
      for (std::size_t l = 0; l < 3; ++l) {
        const Complex value = std::conj(w[k]) * w[l];
        if (number[t[l]] >= 0)
          entries.emplace_back(number[t[k]], number[t[l]], value);
        else if (t[l] == b)
          rhs[number[t[k]]] -= value * at_b;
      }
    }
  }
  Eigen::SparseMatrix<Complex> matrix(count, count);
  matrix.setFromTriplets(entries.begin(), entries.end());
  const Eigen::SimplicialLDLT<Eigen::SparseMatrix<Complex>> solver(matrix);
  std::vector<Vec2> flat(n, Vec2::Zero());
  if (solver.info() != Eigen::Success) return flat;
  const Eigen::VectorXcd x = solver.solve(rhs);
  for (std::size_t i = 0; i < n; ++i) {
    const Complex z = number[i] >= 0 ? x[number[i]] : i == b ? at_b : Complex(0, 0);
    flat[i] = {z.real(), z.imag()};
  }
  return flat;
}

}  // namespace

Result<Layout> lay_out(const std::vector<Vec3>& points,
                       const std::vector<scan::Triangle>& triangles) {
  Vec3 normal = Vec3::Zero();
  double area = 0;
  for (const scan::Triangle& t : triangles) {
    const Vec3 twice = (points[t[1]] - points[t[0]]).cross(points[t[2]] - points[t[0]]);
    normal += twice;
    area += twice.norm();
  }
  Layout layout;
  // A share this small is the noise of steep places; the feet are found anew later.
  constexpr double kFolded = 1e-3;
  constexpr double kFacesOn = 0.6;  // of the area seen from its mean normal
  if (normal.norm() > kFacesOn * area) {
    const Placement plane = placement_on(points.front(), normal.normalized());
    for (const Vec3& p : points) layout.flat.push_back(plane.to_plane(p));
    // Places steeper than 75 degrees to the view are drawn together too much.
    constexpr double kSteep = 0.26;
    double steep = 0;
    for (const scan::Triangle& t : triangles) {
      const Vec3 twice = (points[t[1]] - points[t[0]]).cross(points[t[2]] - points[t[0]]);
      if (twice.dot(plane.normal) < kSteep * twice.norm()) steep += twice.norm();
    }
    if (steep < 0.005 * area && folded(layout.flat, triangles) < kFolded) return layout;
  }
  layout.flat = conformal(points, triangles);
  if (folded(layout.flat, triangles) > 0.5) {
    for (Vec2& p : layout.flat) p.y() = -p.y();
  }
  constexpr double kFoldedMap = 0.01;
  if (!(folded(layout.flat, triangles) < kFoldedMap))
    return Error{ErrorCode::Degenerate,
                 "This area closes on itself or folds, so that one face cannot be laid through it. "
                 "Choose a part of it."};
  // To the true size as a whole: the map keeps angles only.
  double flat = 0;
  for (const scan::Triangle& t : triangles) flat += std::abs(flat_area(layout.flat, t));
  const double scale = std::sqrt(0.5 * area / std::max(flat, 1e-300));
  for (Vec2& p : layout.flat) p *= scale;
  return layout;
}

}  // namespace lostline::patch
