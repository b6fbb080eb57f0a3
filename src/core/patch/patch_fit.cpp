#include "patch/patch_fit.h"

#include <Eigen/Dense>
#include <Eigen/SparseCholesky>
#include <Eigen/SparseCore>
#include <algorithm>
#include <array>
#include <cmath>

#include "base/median.h"
#include "base/parallel.h"

namespace lostline::patch {
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

namespace {

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

/// Whether a place lies inside a closed chain, by how often a ray crosses it.
bool inside_of(const std::vector<Vec2>& chain, const Vec2& p) {
  bool in = false;
  for (std::size_t k = 0; k < chain.size(); ++k) {
    const Vec2& a = chain[k];
    const Vec2& b = chain[(k + 1) % chain.size()];
    if ((a.y() > p.y()) == (b.y() > p.y())) continue;
    if (p.x() < a.x() + (p.y() - a.y()) / (b.y() - a.y()) * (b.x() - a.x())) in = !in;
  }
  return in;
}

/// What the held border along one span counts as, in points of the scan about one pole.
constexpr double kHeld = 1000;

}  // namespace

PatchFit::PatchFit(const Area& area, Domain domain, const PatchOptions& options)
    : area_(area),
      domain_(std::move(domain)),
      options_(options),
      feet_(domain_.at),
      weights_(area.points.size(), 1.0),
      off_(area.points.size(), 0.0),
      inside_(area.points.size(), 1),
      border_(domain_.border) {
  leave_out_what_lies_outside();
}

void PatchFit::begin_at(const SplineSurface& surface) {
  surface_ = surface;
  find_feet(6);
  hold_border(12);
}

bool PatchFit::fit(std::size_t spans, const Task& task) {
  const auto across = static_cast<std::size_t>(
      std::max(1.0, std::round(static_cast<double>(spans) * domain_.width / domain_.length)));
  surface_ = SplineSurface::even(spans + 3, across + 3);
  const PoleMatrix stiff = bending(surface_, domain_.length, domain_.width);
  const double span = domain_.length / static_cast<double>(spans);
  const double density =
      static_cast<double>(area_.points.size()) / (domain_.length * domain_.width);
  const double stiffness = options_.stiffness * density * std::pow(span, 4);
  const int corrections = border_.empty() ? 4 : 10;
  for (int round = 0; round < corrections; ++round) {
    if (task.stopped()) return false;
    if (!solve(stiff, stiffness)) return false;
    find_feet(round == 0 ? 3 : 2);
    hold_border(2);
  }
  measure();
  return true;
}

void PatchFit::hold_border(int rounds) {
  if (border_.empty()) return;
  border_slopes_.clear();
  border_off_ = 0;
  border_turn_ = 0;
  for (std::size_t i = 0; i < border_.size(); ++i) {
    const HeldPlace& place = options_.held[i];
    border_[i] = surface_.foot(place.at, border_[i], rounds);
    const SplineSurface::Jet jet = surface_.jet(border_[i].x(), border_[i].y());
    border_slopes_.emplace_back(jet.du, jet.dv);
    border_off_ = std::max(border_off_, (jet.at - place.at).norm());
    if (place.normal)
      border_turn_ = std::max(
          border_turn_,
          std::asin(std::min(1.0, jet.du.cross(jet.dv).normalized().cross(*place.normal).norm())));
  }
  leave_out_what_lies_outside();
}

void PatchFit::leave_out_what_lies_outside() {
  if (border_.empty()) return;
  parallel_for(feet_.size(), 2048, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) inside_[i] = inside_of(border_, feet_[i]) ? 1 : 0;
  });
}

bool PatchFit::solve(const PoleMatrix& stiff, double stiffness) {
  PoleMatrix normal(surface_.nu, surface_.nv);
  Eigen::MatrixX3d right =
      Eigen::MatrixX3d::Zero(static_cast<Eigen::Index>(surface_.nu * surface_.nv), 3);
  for (std::size_t i = 0; i < area_.points.size(); ++i) {
    if (weights_[i] == 0 || inside_[i] == 0) continue;
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
  // Held places: on the border, and with the slopes that they have less what leaves the tangent
  // plane. A slope counts as the shift that it makes over half a span.
  const double u_spans = static_cast<double>(surface_.nu - 3);
  const double v_spans = static_cast<double>(surface_.nv - 3);
  const double a_pole =
      static_cast<double>(area_.points.size()) / static_cast<double>(surface_.nu * surface_.nv);
  const double weight = kHeld * a_pole * 2 * (u_spans + v_spans) /
                        static_cast<double>(std::max<std::size_t>(border_.size(), 1));
  const double reach = 0.5 / u_spans;
  const double reach_v = 0.5 / v_spans;
  for (std::size_t i = 0; i < border_.size(); ++i) {
    const auto u = surface_.local_u(border_[i].x());
    const auto v = surface_.local_v(border_[i].y());
    const HeldPlace& place = options_.held[i];
    const auto add = [&](const double* share, double by, const Vec3& target) {
      for (std::size_t k = 0; k < 16; ++k) {
        const std::size_t row = u.first + k / 4;
        const std::size_t column = v.first + k % 4;
        right.row(static_cast<Eigen::Index>(row * surface_.nv + column)) +=
            by * share[k] * target.transpose();
        for (std::size_t l = 0; l < 16; ++l)
          normal.add(row, column, u.first + l / 4, v.first + l % 4, by * share[k] * share[l]);
      }
    };
    double at[16];
    double along[16];
    double across[16];
    for (std::size_t k = 0; k < 16; ++k) {
      at[k] = u.value[k / 4] * v.value[k % 4];
      along[k] = u.slope[k / 4] * v.value[k % 4];
      across[k] = u.value[k / 4] * v.slope[k % 4];
    }
    add(at, weight, place.at);
    if (!place.normal || border_slopes_.empty()) continue;
    const Vec3& n = *place.normal;
    const auto& [du, dv] = border_slopes_[i];
    add(along, weight * reach * reach, du - du.dot(n) * n);
    add(across, weight * reach_v * reach_v, dv - dv.dot(n) * n);
  }
  const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(normal.sparse());
  if (solver.info() != Eigen::Success) return false;
  const Eigen::MatrixX3d poles = solver.solve(right);
  if (!poles.allFinite()) return false;
  for (std::size_t k = 0; k < surface_.poles.size(); ++k)
    surface_.poles[k] = poles.row(static_cast<Eigen::Index>(k)).transpose();
  return true;
}

void PatchFit::find_feet(int rounds) {
  parallel_for(feet_.size(), 2048, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      feet_[i] = surface_.foot(area_.points[i], feet_[i], rounds);
      const Vec3 d = area_.points[i] - surface_.at(feet_[i].x(), feet_[i].y());
      off_[i] = d.norm();
    }
  });
  // Strays do not pull.
  std::vector<double> sizes;
  for (std::size_t i = 0; i < off_.size(); ++i)
    if (inside_[i] != 0) sizes.push_back(off_[i]);
  constexpr double kStray = 4;  // robust standard deviations
  const double cut = std::max(kStray * 1.4826 * median(sizes), 1e-9 * domain_.length);
  for (std::size_t i = 0; i < off_.size(); ++i)
    weights_[i] = off_[i] > cut ? cut * cut / (off_[i] * off_[i]) : 1;
}

void PatchFit::measure() {
  std::vector<double> sizes;
  for (std::size_t i = 0; i < off_.size(); ++i)
    if (inside_[i] != 0) sizes.push_back(off_[i]);
  if (sizes.empty()) return;
  double sum = 0;
  for (const double d : sizes) sum += d * d;
  rms_ = std::sqrt(sum / static_cast<double>(sizes.size()));
  const auto at =
      sizes.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(sizes.size() - 1));
  std::nth_element(sizes.begin(), at, sizes.end());
  p95_ = *at;
  greatest_ = *std::max_element(sizes.begin(), sizes.end());
}

}  // namespace lostline::patch
