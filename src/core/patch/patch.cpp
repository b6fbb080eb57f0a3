#include "patch/patch.h"

#include <Eigen/Dense>
#include <Eigen/SparseCholesky>
#include <Eigen/SparseCore>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/parallel.h"
#include "patch/layout.h"

namespace lostline::patch {
namespace {

/// The area by itself.
struct Area {
  std::vector<Vec3> points;
  std::vector<std::uint32_t> vertices;
  std::vector<scan::Triangle> triangles;
};
Area area_of(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles) {
  Area area;
  std::vector<std::uint32_t> number(mesh.vertices.size(), scan::kNone);
  for (const std::uint32_t t : triangles) {
    scan::Triangle mine{};
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t v = mesh.triangles[t][k];
      if (number[v] == scan::kNone) {
        number[v] = static_cast<std::uint32_t>(area.points.size());
        area.points.push_back(mesh.vertices[v]);
        area.vertices.push_back(v);
      }
      mine[k] = number[v];
    }
    area.triangles.push_back(mine);
  }
  return area;
}

/// The flat layout turned into its narrowest box, its longer side along u, in [0, 1] with a margin.
struct Domain {
  double length, width;  ///< mm, with the margin
  std::vector<Vec2> at;
};
Domain domain_of(const std::vector<Vec2>& flat, double beyond) {
  double least = 1e300;
  double best = 0;
  for (int k = 0; k < 90; ++k) {
    const Eigen::Rotation2Dd turn(-k * std::numbers::pi / 180);
    Eigen::AlignedBox2d box;
    for (const Vec2& p : flat) box.extend(Vec2(turn * p));
    if (box.sizes().prod() < least) {
      least = box.sizes().prod();
      best = -k * std::numbers::pi / 180;
    }
  }
  Eigen::AlignedBox2d box;
  for (const Vec2& p : flat) box.extend(Vec2(Eigen::Rotation2Dd(best) * p));
  if (box.sizes().y() > box.sizes().x()) {
    best += std::numbers::pi / 2;
    box.setEmpty();
    for (const Vec2& p : flat) box.extend(Vec2(Eigen::Rotation2Dd(best) * p));
  }
  const double margin = beyond * box.sizes().x();
  Domain domain;
  domain.length = box.sizes().x() + 2 * margin;
  domain.width = std::max(box.sizes().y() + 2 * margin, 1e-3 * domain.length);
  domain.at.reserve(flat.size());
  for (const Vec2& p : flat) {
    const Vec2 q = Eigen::Rotation2Dd(best) * p - box.min() + Vec2(margin, margin);
    domain.at.emplace_back(std::clamp(q.x() / domain.length, 0.0, 1.0),
                           std::clamp(q.y() / domain.width, 0.0, 1.0));
  }
  return domain;
}

/// A symmetric matrix over the poles, of which each touches those within three rows and columns.
class PoleMatrix {
 public:
  PoleMatrix(std::size_t nu, std::size_t nv) : nu_(nu), nv_(nv), cells_(nu * nv * kNear, 0.0) {}
  void add(std::size_t i, std::size_t j, std::size_t k, std::size_t l, double value) {
    const std::size_t near = (k + 3 - i) * 7 + (l + 3 - j);
    cells_[(i * nv_ + j) * kNear + near] += value;
  }
  void add(const PoleMatrix& other, double factor) {
    for (std::size_t c = 0; c < cells_.size(); ++c) cells_[c] += factor * other.cells_[c];
  }
  [[nodiscard]] Eigen::SparseMatrix<double> sparse() const {
    std::vector<Eigen::Triplet<double>> entries;
    for (std::size_t i = 0; i < nu_; ++i) {
      for (std::size_t j = 0; j < nv_; ++j) {
        for (std::size_t near = 0; near < kNear; ++near) {
          const double value = cells_[(i * nv_ + j) * kNear + near];
          if (value == 0) continue;
          const std::size_t k = i + near / 7 - 3;
          const std::size_t l = j + near % 7 - 3;
          entries.emplace_back(i * nv_ + j, k * nv_ + l, value);
        }
      }
    }
    const auto n = static_cast<Eigen::Index>(nu_ * nv_);
    Eigen::SparseMatrix<double> matrix(n, n);
    matrix.setFromTriplets(entries.begin(), entries.end());
    return matrix;
  }

 private:
  static constexpr std::size_t kNear = 49;
  std::size_t nu_, nv_;
  std::vector<double> cells_;
};

/// Bending of a thin plate over the domain, mm and mm2: the integral of S_xx^2 + 2 S_xy^2 + S_yy^2.
PoleMatrix bending(const SplineSurface& s, double length, double width) {
  PoleMatrix matrix(s.nu, s.nv);
  // Second derivatives of cubics are linear in a span: two Gauss points each way are nearly exact.
  constexpr std::array kGauss{0.2113248654051871, 0.7886751345948129};
  const double xx = 1 / (length * length);
  const double yy = 1 / (width * width);
  const double xy = 1 / (length * width);
  for (std::size_t a = 3; a < s.nu; ++a) {
    for (std::size_t b = 3; b < s.nv; ++b) {
      const double du = s.u_knots[a + 1] - s.u_knots[a];
      const double dv = s.v_knots[b + 1] - s.v_knots[b];
      for (const double gu : kGauss) {
        for (const double gv : kGauss) {
          const auto u = s.local_u(s.u_knots[a] + gu * du);
          const auto v = s.local_v(s.v_knots[b] + gv * dv);
          const double weight = 0.25 * du * dv * length * width;
          double px[16];
          double py[16];
          double pm[16];
          for (std::size_t k = 0; k < 16; ++k) {
            px[k] = xx * u.bend[k / 4] * v.value[k % 4];
            py[k] = yy * u.value[k / 4] * v.bend[k % 4];
            pm[k] = xy * u.slope[k / 4] * v.slope[k % 4];
          }
          for (std::size_t k = 0; k < 16; ++k) {
            for (std::size_t l = 0; l < 16; ++l) {
              matrix.add(u.first + k / 4, v.first + k % 4, u.first + l / 4, v.first + l % 4,
                         weight * (px[k] * px[l] + py[k] * py[l] + 2 * pm[k] * pm[l]));
            }
          }
        }
      }
    }
  }
  return matrix;
}

class PatchFit {
 public:
  PatchFit(const Area& area, Domain domain, const PatchOptions& options)
      : area_(area),
        domain_(std::move(domain)),
        options_(options),
        feet_(domain_.at),
        weights_(area.points.size(), 1.0),
        off_(area.points.size(), 0.0) {}

  /// Fits with so many spans along the longer side, from the feet known so far. False when the
  /// equations cannot be solved.
  bool fit(std::size_t spans, const Task& task) {
    const auto across = static_cast<std::size_t>(
        std::max(1.0, std::round(static_cast<double>(spans) * domain_.width / domain_.length)));
    surface_ = SplineSurface::even(spans + 3, across + 3);
    const PoleMatrix stiff = bending(surface_, domain_.length, domain_.width);
    const double span = domain_.length / static_cast<double>(spans);
    const double density =
        static_cast<double>(area_.points.size()) / (domain_.length * domain_.width);
    const double stiffness = options_.stiffness * density * std::pow(span, 4);
    constexpr int kCorrections = 4;
    for (int round = 0; round < kCorrections; ++round) {
      if (task.stopped()) return false;
      if (!solve(stiff, stiffness)) return false;
      find_feet(round == 0 ? 3 : 2);
    }
    measure();
    return true;
  }
  [[nodiscard]] double rms() const { return rms_; }
  [[nodiscard]] double p95() const { return p95_; }
  [[nodiscard]] double greatest() const { return greatest_; }
  [[nodiscard]] const SplineSurface& surface() const { return surface_; }
  [[nodiscard]] const std::vector<Vec2>& feet() const { return feet_; }

 private:
  bool solve(const PoleMatrix& stiff, double stiffness) {
    PoleMatrix normal(surface_.nu, surface_.nv);
    Eigen::MatrixX3d right =
        Eigen::MatrixX3d::Zero(static_cast<Eigen::Index>(surface_.nu * surface_.nv), 3);
    for (std::size_t i = 0; i < area_.points.size(); ++i) {
      if (weights_[i] == 0) continue;
      const auto u = surface_.local_u(feet_[i].x());
      const auto v = surface_.local_v(feet_[i].y());
      double share[16];
      for (std::size_t k = 0; k < 16; ++k) share[k] = u.value[k / 4] * v.value[k % 4];
      for (std::size_t k = 0; k < 16; ++k) {
        const std::size_t row = u.first + k / 4;
        const std::size_t column = v.first + k % 4;
        right.row(static_cast<Eigen::Index>(row * surface_.nv + column)) +=
            weights_[i] * share[k] * area_.points[i].transpose();
        for (std::size_t l = 0; l < 16; ++l)
          normal.add(row, column, u.first + l / 4, v.first + l % 4,
                     weights_[i] * share[k] * share[l]);
      }
    }
    normal.add(stiff, stiffness);
    const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(normal.sparse());
    if (solver.info() != Eigen::Success) return false;
    const Eigen::MatrixX3d poles = solver.solve(right);
    if (!poles.allFinite()) return false;
    for (std::size_t k = 0; k < surface_.poles.size(); ++k)
      surface_.poles[k] = poles.row(static_cast<Eigen::Index>(k)).transpose();
    return true;
  }
  void find_feet(int rounds) {
    parallel_for(feet_.size(), 2048, [&](std::size_t begin, std::size_t end) {
      for (std::size_t i = begin; i < end; ++i) {
        feet_[i] = surface_.foot(area_.points[i], feet_[i], rounds);
        const Vec3 d = area_.points[i] - surface_.at(feet_[i].x(), feet_[i].y());
        off_[i] = d.norm();
      }
    });
    // Strays do not pull.
    std::vector<double> sizes = off_;
    const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
    std::nth_element(sizes.begin(), middle, sizes.end());
    constexpr double kStray = 4;  // robust standard deviations
    const double cut = std::max(kStray * 1.4826 * *middle, 1e-9 * domain_.length);
    for (std::size_t i = 0; i < off_.size(); ++i)
      weights_[i] = off_[i] > cut ? cut * cut / (off_[i] * off_[i]) : 1;
  }
  void measure() {
    double sum = 0;
    for (const double d : off_) sum += d * d;
    rms_ = std::sqrt(sum / static_cast<double>(off_.size()));
    std::vector<double> sizes = off_;
    const auto at =
        sizes.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(sizes.size() - 1));
    std::nth_element(sizes.begin(), at, sizes.end());
    p95_ = *at;
    greatest_ = *std::max_element(off_.begin(), off_.end());
  }

  const Area& area_;
  Domain domain_;
  const PatchOptions& options_;
  SplineSurface surface_;
  std::vector<Vec2> feet_;
  std::vector<double> weights_, off_;
  double rms_ = 0, p95_ = 0, greatest_ = 0;
};

}  // namespace

Result<Patch> fit_patch(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles,
                        const PatchOptions& options, const Task& task) {
  if (!(options.tolerance >= 0) || !(options.stiffness > 0))
    return Error{ErrorCode::InvalidInput, "The tolerance must not be below zero."};
  const Area area = area_of(mesh, triangles);
  constexpr std::size_t kFewest = 16;
  if (area.points.size() < kFewest)
    return Error{ErrorCode::InvalidInput, "An area of " + std::to_string(area.points.size()) +
                                              " points is too small for a face."};
  const auto layout = lay_out(area.points, area.triangles);
  if (!layout) return layout.error();
  if (task.stopped()) return cancelled();
  const Domain domain = domain_of(layout->flat, options.beyond);
  // How many spans it takes is seen on some of the points; the numbers come from all.
  constexpr std::size_t kEnough = 15000;
  const std::size_t stride = (area.points.size() + kEnough - 1) / kEnough;
  Area few;
  Domain few_at{domain.length, domain.width, {}};
  for (std::size_t k = 0; k < area.points.size(); k += stride) {
    few.points.push_back(area.points[k]);
    few_at.at.push_back(domain.at[k]);
  }
  PatchFit fit(few, few_at, options);
  const auto count = static_cast<double>(few.points.size());
  std::size_t chosen = options.spans;
  double best_cost = 1e300;
  const auto unsolved = [&]() -> Error {
    if (task.stopped()) return cancelled();
    return {ErrorCode::Degenerate, "The points of this area do not determine a face."};
  };
  if (options.spans == 0) {
    constexpr double kFiner = 1.45;
    constexpr double kAsNoise = 1.03;  // of the noise: nearer is nobody's shape
    for (double spans = 2; static_cast<std::size_t>(spans) <= options.most_spans;
         spans = std::ceil(spans * kFiner)) {
      const auto number = static_cast<std::size_t>(spans);
      if (!fit.fit(number, task)) {
        if (best_cost < 1e300) break;
        return unsolved();
      }
      const double poles = static_cast<double>(fit.surface().poles.size());
      if (poles > 0.5 * count) break;
      if (options.tolerance > 0) {
        chosen = number;
        best_cost = 0;
        if (fit.p95() <= options.tolerance) break;
      } else {
        // The Schwarz criterion: a pole must pay for itself.
        const double cost =
            count * std::log(fit.rms() * fit.rms() + 1e-300) + poles * std::log(count);
        if (cost >= best_cost) break;
        best_cost = cost;
        chosen = number;
        if (options.noise > 0 && fit.rms() <= kAsNoise * options.noise) break;
      }
      task.report(std::min(0.95, spans / static_cast<double>(options.most_spans)));
    }
  }
  PatchFit full(area, domain, options);
  if (chosen == 0 || !full.fit(chosen, task)) return unsolved();
  Patch best;
  best.surface = full.surface();
  best.feet = full.feet();
  best.rms = full.rms();
  best.p95 = full.p95();
  best.greatest = full.greatest();
  best.vertices = area.vertices;
  best.within = options.tolerance <= 0 || best.p95 <= options.tolerance;
  constexpr double kBelowNoise = 0.85;
  best.follows_noise = options.noise > 0 && best.rms < kBelowNoise * options.noise;
  return best;
}

std::vector<std::uint32_t> smooth_area(const scan::Mesh& mesh, const scan::Topology& topology,
                                       const std::vector<std::uint32_t>& seeds, double crease) {
  // On one side of an edge: a triangle with its neighbours there, so that noise averages out and a
  // crease does not.
  const auto normal = [&](std::uint32_t t, std::uint32_t beyond) -> Vec3 {
    Vec3 sum = mesh.area_vector(t).normalized();
    for (std::size_t e = 0; e < 3; ++e) {
      const std::uint32_t next = topology.across[3 * t + e];
      if (next != scan::kNone && next != beyond) sum += mesh.area_vector(next).normalized();
    }
    return sum.normalized();
  };
  std::vector<char> taken(mesh.triangles.size(), 0);
  std::vector<std::uint32_t> area;
  for (const std::uint32_t seed : seeds) {
    if (seed >= taken.size() || taken[seed] != 0) continue;
    taken[seed] = 1;
    area.push_back(seed);
  }
  const double least = std::cos(crease);
  for (std::size_t k = 0; k < area.size(); ++k) {
    for (std::size_t e = 0; e < 3; ++e) {
      const std::uint32_t next = topology.across[3 * area[k] + e];
      if (next == scan::kNone || taken[next] != 0 ||
          !(normal(next, area[k]).dot(normal(area[k], next)) >= least))
        continue;
      taken[next] = 1;
      area.push_back(next);
    }
  }
  return area;
}

}  // namespace lostline::patch
