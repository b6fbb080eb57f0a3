#pragma once

#include <Eigen/Core>
#include <Eigen/SparseCore>
#include <array>
#include <vector>

#include "patch/quad_layout.h"
#include "patch/spline_surface.h"

// Spline patches over a layout, and the equations that fit them together.

namespace lostline::patch {

/// Patches with the same spans everywhere, whose sides share their poles.
class PatchNetwork {
 public:
  PatchNetwork(const QuadLayout& layout, std::size_t spans);

  [[nodiscard]] std::size_t count() const { return patches_.size(); }
  [[nodiscard]] std::size_t spans() const { return spans_; }
  [[nodiscard]] const SplineSurface& patch(std::size_t k) const { return patches_[k]; }
  [[nodiscard]] const std::vector<SplineSurface>& patches() const { return patches_; }
  [[nodiscard]] bool fitted() const { return fitted_; }
  /// Poles of the whole network; shared ones count once.
  [[nodiscard]] std::size_t poles() const { return poles_; }
  /// The network's number of a patch's pole (i, j).
  [[nodiscard]] std::uint32_t pole(std::size_t patch, std::size_t i, std::size_t j) const {
    const std::size_t m = spans_ + 3;
    return numbers_[(patch * m + i) * m + j];
  }
  /// @param all  of every pole, three numbers each.
  void set(const Eigen::VectorXd& all);
  /// The patches as triangles in the order of QuadLayout::mesh.
  [[nodiscard]] scan::Mesh grid(std::size_t steps) const;

  /// One end of a side as seen from one of its two patches.
  struct Side {
    std::uint32_t patch;
    int side;      ///< 0: v = 0, 1: u = 1, 2: v = 1, 3: u = 0
    bool forward;  ///< along the patch's own parameter
  };
  struct Border {
    std::uint32_t from, to;  ///< corners of the layout
    Side a, b;
  };
  [[nodiscard]] const std::vector<Border>& borders() const { return borders_; }
  /// Parameters of a patch at a place t of 0..1 along a border.
  static Vec2 at(const Side& side, double t);
  /// The normal that all patches at a place of a border are to have: the mean of theirs, square to
  /// the border.
  [[nodiscard]] Vec3 normal(const Border& border, double t) const;
  /// Remembers how the patches leave their borders now: tangent planes alone would be met best by
  /// slopes that shrink to nothing.
  void hold_slopes();
  /// What was remembered of one side of a border at sample k of `samples`; null before.
  [[nodiscard]] const Vec3* slope(std::size_t border, bool other, int k) const;
  /// Places along a border, but one, where tangent planes are held.
  [[nodiscard]] int samples() const;
  /// The derivative of a patch that leads away from its side.
  [[nodiscard]] Vec3 leaving(const Side& side, double t) const;
  /// Greatest angle between neighbours along their borders, rad.
  [[nodiscard]] double crease() const;

 private:
  std::size_t spans_;
  std::size_t poles_ = 0;
  bool fitted_ = false;
  std::vector<SplineSurface> patches_;
  std::vector<std::uint32_t> numbers_;
  std::vector<Border> borders_;
  std::vector<std::vector<std::pair<std::uint32_t, Vec2>>> corners_;  ///< patches at each corner
  std::vector<Vec3> slopes_;  ///< of each border, both sides, at every sample
};

/// Normal equations of the poles of a network.
class PatchEquations {
 public:
  explicit PatchEquations(const PatchNetwork& network);
  void add_point(std::size_t patch, const Vec2& at, const Vec3& point, double weight);
  /// Thin-plate bending in the parameters of each patch.
  void add_bending(double weight);
  /// One tangent plane along every border, from the normals that the network has now; the slopes
  /// stay about as remembered, by a share of `most`, or of `weight` where that is less.
  void add_sides(double weight, double most);
  /// False when the equations cannot be solved.
  bool solve(PatchNetwork& network);

 private:
  struct Block {  // of one span of one patch: 16 poles
    Eigen::Matrix<double, 16, 16> products = Eigen::Matrix<double, 16, 16>::Zero();
    Eigen::Matrix<double, 16, 3> right = Eigen::Matrix<double, 16, 3>::Zero();
  };
  Block& block(std::size_t patch, std::size_t i, std::size_t j);
  const PatchNetwork& network_;
  std::vector<Block> blocks_;
  std::vector<Eigen::Triplet<double>> coupled_;  ///< what ties coordinates to each other
};

}  // namespace lostline::patch
