#include "patch/patch_network.h"

#include <Eigen/Dense>
#include <Eigen/SparseCholesky>
#include <Eigen/SparseCore>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace lostline::patch {
namespace {

constexpr int kSamples = 3;  // of a border to a span, where tangent planes are held

/// First and last pole of a side, and how poles follow it.
struct Along {
  std::size_t i, j;
  int di, dj;
};
Along along(int side, std::size_t m) {
  switch (side) {
    case 0:
      return {0, 0, 1, 0};
    case 1:
      return {m - 1, 0, 0, 1};
    case 2:
      return {0, m - 1, 1, 0};
    default:
      return {0, 0, 0, 1};
  }
}
/// Corners of a quad at the ends of a side, along the patch's own parameter.
std::pair<std::uint32_t, std::uint32_t> ends(const std::array<std::uint32_t, 4>& quad, int side) {
  switch (side) {
    case 0:
      return {quad[0], quad[1]};
    case 1:
      return {quad[1], quad[2]};
    case 2:
      return {quad[3], quad[2]};
    default:
      return {quad[0], quad[3]};
  }
}

}  // namespace

PatchNetwork::PatchNetwork(const QuadLayout& layout, std::size_t spans) : spans_(spans) {
  const std::size_t m = spans + 3;
  patches_.assign(layout.quads.size(), SplineSurface::even(m, m));
  numbers_.assign(layout.quads.size() * m * m, scan::kNone);
  std::map<std::uint32_t, std::uint32_t> corner_number;
  std::map<std::pair<std::uint32_t, std::uint32_t>, std::vector<std::uint32_t>> side_numbers;
  std::map<std::pair<std::uint32_t, std::uint32_t>, std::size_t> border_of;
  const auto fresh = [&] { return static_cast<std::uint32_t>(poles_++); };
  const auto corner = [&](std::uint32_t c) {
    const auto [it, is_new] = corner_number.try_emplace(c, 0);
    if (is_new) {
      it->second = fresh();
      corners_.emplace_back();
    }
    return it->second;
  };
  // Corners come first, so that their numbers count them.
  for (const auto& quad : layout.quads)
    for (const std::uint32_t c : quad) corner(c);
  for (std::size_t q = 0; q < layout.quads.size(); ++q) {
    const auto number = [&](std::size_t i, std::size_t j) -> std::uint32_t& {
      return numbers_[(q * m + i) * m + j];
    };
    const std::array<Vec2, 4> at{Vec2(0, 0), Vec2(1, 0), Vec2(1, 1), Vec2(0, 1)};
    for (std::size_t c = 0; c < 4; ++c)
      corners_[corner(layout.quads[q][c])].emplace_back(static_cast<std::uint32_t>(q), at[c]);
    for (int side = 0; side < 4; ++side) {
      const auto [from, to] = ends(layout.quads[q], side);
      const bool forward = from < to;
      const auto key = std::minmax(from, to);
      auto& inner = side_numbers[key];
      if (inner.empty()) {
        for (std::size_t k = 0; k + 2 < m; ++k) inner.push_back(fresh());
        border_of[key] = borders_.size();
        borders_.push_back({corner(key.first),
                            corner(key.second),
                            {static_cast<std::uint32_t>(q), side, forward},
                            {static_cast<std::uint32_t>(q), side, forward}});
      } else {
        borders_[border_of[key]].b = {static_cast<std::uint32_t>(q), side, forward};
      }
      const Along a = along(side, m);
      for (std::size_t k = 0; k < m; ++k) {
        const std::size_t i = a.i + k * static_cast<std::size_t>(a.di);
        const std::size_t j = a.j + k * static_cast<std::size_t>(a.dj);
        if (k == 0)
          number(i, j) = corner(from);
        else if (k == m - 1)
          number(i, j) = corner(to);
        else
          number(i, j) = inner[forward ? k - 1 : m - 2 - k];
      }
    }
    for (std::size_t i = 1; i + 1 < m; ++i)
      for (std::size_t j = 1; j + 1 < m; ++j) number(i, j) = fresh();
  }
}

void PatchNetwork::set(const Eigen::VectorXd& all) {
  const std::size_t m = spans_ + 3;
  for (std::size_t q = 0; q < patches_.size(); ++q) {
    for (std::size_t k = 0; k < m * m; ++k)
      patches_[q].poles[k] = all.segment<3>(3 * static_cast<Eigen::Index>(numbers_[q * m * m + k]));
  }
  fitted_ = true;
}

scan::Mesh PatchNetwork::grid(std::size_t steps) const {
  scan::Mesh mesh;
  const std::size_t row = steps + 1;
  mesh.vertices.reserve(count() * row * row);
  mesh.triangles.reserve(2 * count() * steps * steps);
  for (const SplineSurface& patch : patches_) {
    const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
    for (std::size_t i = 0; i <= steps; ++i) {
      for (std::size_t j = 0; j <= steps; ++j)
        mesh.vertices.push_back(patch.at(static_cast<double>(i) / static_cast<double>(steps),
                                         static_cast<double>(j) / static_cast<double>(steps)));
    }
    const auto node = [&](std::size_t i, std::size_t j) {
      return first + static_cast<std::uint32_t>(i * row + j);
    };
    for (std::size_t i = 0; i < steps; ++i) {
      for (std::size_t j = 0; j < steps; ++j) {
        mesh.triangles.push_back({node(i, j), node(i + 1, j), node(i + 1, j + 1)});
        mesh.triangles.push_back({node(i, j), node(i + 1, j + 1), node(i, j + 1)});
      }
    }
  }
  return mesh;
}

Vec2 PatchNetwork::at(const Side& side, double t) {
  const double s = side.forward ? t : 1 - t;
  switch (side.side) {
    case 0:
      return {s, 0};
    case 1:
      return {1, s};
    case 2:
      return {s, 1};
    default:
      return {0, s};
  }
}

Vec3 PatchNetwork::normal(const Border& border, double t) const {
  Vec3 sum = Vec3::Zero();
  if (t == 0 || t == 1) {
    for (const auto& [patch, at] : corners_[t == 0 ? border.from : border.to])
      sum += patches_[patch].normal(at.x(), at.y());
    return sum.normalized();
  }
  for (const Side* side : {&border.a, &border.b}) {
    const Vec2 p = at(*side, t);
    sum += patches_[side->patch].normal(p.x(), p.y());
  }
  const Vec2 p = at(border.a, t);
  const auto jet = patches_[border.a.patch].jet(p.x(), p.y());
  const Vec3 tangent = (border.a.side % 2 == 0 ? jet.du : jet.dv).normalized();
  return (sum - sum.dot(tangent) * tangent).normalized();
}

int PatchNetwork::samples() const { return kSamples * static_cast<int>(spans_); }

Vec3 PatchNetwork::leaving(const Side& side, double t) const {
  const Vec2 p = at(side, t);
  const auto jet = patches_[side.patch].jet(p.x(), p.y());
  return side.side % 2 == 0 ? jet.dv : jet.du;
}

void PatchNetwork::hold_slopes() {
  slopes_.clear();
  for (const Border& border : borders_) {
    for (const Side* side : {&border.a, &border.b}) {
      for (int k = 0; k <= samples(); ++k)
        slopes_.push_back(leaving(*side, static_cast<double>(k) / samples()));
    }
  }
}

const Vec3* PatchNetwork::slope(std::size_t border, bool other, int k) const {
  if (slopes_.empty()) return nullptr;
  const std::size_t row = static_cast<std::size_t>(samples()) + 1;
  return &slopes_[(2 * border + (other ? 1 : 0)) * row + static_cast<std::size_t>(k)];
}

double PatchNetwork::crease() const {
  double greatest = 0;
  constexpr int kPlaces = 32;
  for (const Border& border : borders_) {
    for (int k = 0; k <= kPlaces; ++k) {
      const double t = static_cast<double>(k) / kPlaces;
      const Vec2 a = at(border.a, t);
      const Vec2 b = at(border.b, t);
      const Vec3 one = patches_[border.a.patch].normal(a.x(), a.y());
      const Vec3 other = patches_[border.b.patch].normal(b.x(), b.y());
      greatest = std::max(greatest, std::atan2(one.cross(other).norm(), one.dot(other)));
    }
  }
  return greatest;
}

PatchEquations::PatchEquations(const PatchNetwork& network)
    : network_(network), blocks_(network.count() * network.spans() * network.spans()) {}

PatchEquations::Block& PatchEquations::block(std::size_t patch, std::size_t i, std::size_t j) {
  const std::size_t s = network_.spans();
  return blocks_[(patch * s + i) * s + j];
}

void PatchEquations::add_point(std::size_t patch, const Vec2& at, const Vec3& point,
                               double weight) {
  const SplineSurface& s = network_.patch(patch);
  const auto u = s.local_u(at.x());
  const auto v = s.local_v(at.y());
  Eigen::Matrix<double, 16, 1> share;
  for (int k = 0; k < 16; ++k) share[k] = u.value[k / 4] * v.value[k % 4];
  Block& b = block(patch, u.first, v.first);
  b.products.noalias() += weight * share * share.transpose();
  b.right.noalias() += weight * share * point.transpose();
}

void PatchEquations::add_bending(double weight) {
  // All patches have the same knots: one span after the other is made once.
  const std::size_t s = network_.spans();
  const SplineSurface& like = network_.patch(0);
  constexpr std::array kGauss{0.2113248654051871, 0.7886751345948129};
  const double span = 1.0 / static_cast<double>(s);
  for (std::size_t i = 0; i < s; ++i) {
    for (std::size_t j = 0; j < s; ++j) {
      Eigen::Matrix<double, 16, 16> products = Eigen::Matrix<double, 16, 16>::Zero();
      for (const double gu : kGauss) {
        for (const double gv : kGauss) {
          const auto u = like.local_u((static_cast<double>(i) + gu) * span);
          const auto v = like.local_v((static_cast<double>(j) + gv) * span);
          Eigen::Matrix<double, 16, 3> rows;
          for (int k = 0; k < 16; ++k) {
            rows(k, 0) = u.bend[k / 4] * v.value[k % 4];
            rows(k, 1) = u.value[k / 4] * v.bend[k % 4];
            rows(k, 2) = std::sqrt(2.0) * u.slope[k / 4] * v.slope[k % 4];
          }
          products += 0.25 * span * span * weight * rows * rows.transpose();
        }
      }
      for (std::size_t q = 0; q < network_.count(); ++q) block(q, i, j).products += products;
    }
  }
}

void PatchEquations::add_sides(double weight, double most) {
  // How much a slope's own direction and length count, however hard the tangent planes are held.
  constexpr double kAsItWas = 0.02;
  const int samples = network_.samples();
  const double share = weight / samples;
  const double as_it_was = kAsItWas * std::min(share, most / samples);
  for (std::size_t index = 0; index < network_.borders().size(); ++index) {
    const PatchNetwork::Border& border = network_.borders()[index];
    for (int k = 0; k <= samples; ++k) {
      const double t = static_cast<double>(k) / samples;
      const Vec3 n = network_.normal(border, t);
      for (const bool other : {false, true}) {
        const PatchNetwork::Side& side = other ? border.b : border.a;
        const Vec2 p = PatchNetwork::at(side, t);
        const SplineSurface& patch = network_.patch(side.patch);
        const auto u = patch.local_u(p.x());
        const auto v = patch.local_v(p.y());
        Eigen::Matrix<double, 16, 1> away;
        for (int c = 0; c < 16; ++c)
          away[c] = side.side % 2 == 0 ? u.value[c / 4] * v.slope[c % 4]
                                       : u.slope[c / 4] * v.value[c % 4];
        if (const Vec3* was = network_.slope(index, other, k)) {
          const Vec3 wanted = *was - was->dot(n) * n;
          Block& b = block(side.patch, u.first, v.first);
          b.products.noalias() += as_it_was * away * away.transpose();
          b.right.noalias() += as_it_was * away * wanted.transpose();
        }
        // What leads away from the border is to lie square to the common normal.
        for (std::size_t a = 0; a < 16; ++a) {
          const double one = away[static_cast<Eigen::Index>(a)];
          if (one == 0) continue;
          const std::uint32_t row = 3 * network_.pole(side.patch, u.first + a / 4, v.first + a % 4);
          for (std::size_t b = 0; b < 16; ++b) {
            const double two = away[static_cast<Eigen::Index>(b)];
            if (two == 0) continue;
            const std::uint32_t column =
                3 * network_.pole(side.patch, u.first + b / 4, v.first + b % 4);
            for (std::uint32_t i = 0; i < 3; ++i)
              for (std::uint32_t j = 0; j < 3; ++j)
                coupled_.emplace_back(row + i, column + j, share * one * two * n[i] * n[j]);
          }
        }
      }
    }
  }
}

bool PatchEquations::solve(PatchNetwork& network) {
  const std::size_t s = network_.spans();
  const auto unknowns = static_cast<Eigen::Index>(3 * network_.poles());
  std::vector<Eigen::Triplet<double>> entries = std::move(coupled_);
  Eigen::VectorXd right = Eigen::VectorXd::Zero(unknowns);
  for (std::size_t q = 0; q < network_.count(); ++q) {
    for (std::size_t i = 0; i < s; ++i) {
      for (std::size_t j = 0; j < s; ++j) {
        const Block& b = block(q, i, j);
        for (std::size_t k = 0; k < 16; ++k) {
          const std::uint32_t row = network_.pole(q, i + k / 4, j + k % 4);
          right.segment<3>(3 * static_cast<Eigen::Index>(row)) +=
              b.right.row(static_cast<Eigen::Index>(k)).transpose();
          for (std::size_t l = 0; l < 16; ++l) {
            const double value =
                b.products(static_cast<Eigen::Index>(k), static_cast<Eigen::Index>(l));
            const std::uint32_t column = network_.pole(q, i + l / 4, j + l % 4);
            for (std::uint32_t c = 0; c < 3; ++c)
              entries.emplace_back(3 * row + c, 3 * column + c, value);
          }
        }
      }
    }
  }
  Eigen::SparseMatrix<double> matrix(unknowns, unknowns);
  matrix.setFromTriplets(entries.begin(), entries.end());
  const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(matrix);
  if (solver.info() != Eigen::Success) return false;
  const Eigen::VectorXd solution = solver.solve(right);
  if (!solution.allFinite()) return false;
  network.set(solution);
  return true;
}

}  // namespace lostline::patch
