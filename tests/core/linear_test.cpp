// The dense linear algebra that everything rests on: each result against what defines it, on
// matrices of any size of number and any rank.
#include "base/linear.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "base/geometry.h"

namespace lostline {
namespace {

/// Independent normal entries times a size.
Eigen::MatrixXd random_matrix(Eigen::Index rows, Eigen::Index columns, double size,
                              std::mt19937_64& random) {
  std::normal_distribution<double> normal(0, size);
  Eigen::MatrixXd m(rows, columns);
  for (Eigen::Index i = 0; i < rows; ++i)
    for (Eigen::Index j = 0; j < columns; ++j) m(i, j) = normal(random);
  return m;
}

constexpr double kSizes[] = {1e-6, 1.0, 1e6};

template <int N>
void expect_eigen(const Eigen::Matrix<double, N, N>& m) {
  const SymmetricEigen<N> e = symmetric_eigen<N>(m);
  const double size = m.norm();
  const Eigen::Index n = m.rows();
  EXPECT_LT((m * e.vectors - e.vectors * e.values.asDiagonal()).norm(), 1e-12 * size);
  EXPECT_LT((e.vectors.transpose() * e.vectors - Eigen::MatrixXd::Identity(n, n)).norm(), 1e-12);
  for (Eigen::Index i = 1; i < n; ++i) EXPECT_LE(e.values[i - 1], e.values[i]);
}

TEST(Linear, EigenvectorsOfSymmetricMatricesAreWhatTheySay) {
  std::mt19937_64 random(1);
  for (const double size : kSizes) {
    for (int k = 0; k < 20; ++k) {
      const Eigen::MatrixXd two = random_matrix(2, 2, size, random);
      expect_eigen<2>(two + two.transpose());
      const Eigen::MatrixXd three = random_matrix(3, 3, size, random);
      expect_eigen<3>(three + three.transpose());
      const Eigen::MatrixXd six = random_matrix(6, 6, size, random);
      expect_eigen<6>(six + six.transpose());
      const Eigen::MatrixXd nine = random_matrix(9, 9, size, random);
      expect_eigen<Eigen::Dynamic>(nine + nine.transpose());
    }
  }
}

TEST(Linear, TheLeastSquaresSolutionLeavesNothingThatTheMatrixCanReach) {
  std::mt19937_64 random(2);
  for (const double size : kSizes) {
    for (Eigen::Index rank = 1; rank <= 5; ++rank) {
      const Eigen::MatrixXd a =
          random_matrix(12, rank, 1, random) * random_matrix(rank, 5, size, random);
      const Eigen::VectorXd b = random_matrix(12, 1, size, random);
      const RankedSolution s = solve_least_squares(a, b);
      EXPECT_EQ(s.rank, rank);
      EXPECT_LT((a.transpose() * (a * s.x - b)).norm(), 1e-10 * a.norm() * b.norm());
      // The shortest of all such solutions is square to what A does not see.
      const Eigen::VectorXd least = solve_least_norm(a, b);
      EXPECT_LT((a.transpose() * (a * least - b)).norm(), 1e-10 * a.norm() * b.norm());
      EXPECT_LE(least.norm(), s.x.norm() * (1 + 1e-10));
      const Eigen::MatrixXd unseen = null_space_of(a, 1e-10);
      ASSERT_EQ(unseen.cols(), 5 - rank);
      EXPECT_LT((a * unseen).norm(), 1e-10 * a.norm());
      EXPECT_LT((unseen.transpose() * least).norm(), 1e-9 * (1 + least.norm()));
      EXPECT_LT(
          (unseen.transpose() * unseen - Eigen::MatrixXd::Identity(unseen.cols(), unseen.cols()))
              .norm(),
          1e-10);
    }
  }
}

TEST(Linear, SymmetricSystemsNeedNotBeDefinite) {
  std::mt19937_64 random(3);
  for (const double size : kSizes) {
    for (int k = 0; k < 20; ++k) {
      const Eigen::MatrixXd half = random_matrix(7, 7, size, random);
      const Eigen::MatrixXd a = half + half.transpose();  // of either sign
      const Eigen::MatrixXd b = random_matrix(7, 3, 1, random);
      EXPECT_LT((a * solve_symmetric(a, b) - b).norm(), 1e-7 * b.norm());
    }
  }
}

TEST(Linear, SingularValuesBuildTheMatrixAgain) {
  std::mt19937_64 random(4);
  for (const double size : kSizes) {
    for (const auto& [rows, columns] : {std::pair{9, 4}, std::pair{4, 9}, std::pair{5, 5}}) {
      const Eigen::MatrixXd a = random_matrix(rows, columns, size, random);
      const SingularValues s = singular_values(a);
      const Eigen::Index few = std::min(rows, columns);
      EXPECT_EQ(s.v.cols(), columns);
      EXPECT_LT((s.u * s.values.asDiagonal() * s.v.leftCols(few).transpose() - a).norm(),
                1e-12 * a.norm());
      for (Eigen::Index i = 1; i < few; ++i) EXPECT_GE(s.values[i - 1], s.values[i]);
    }
  }
}

TEST(Linear, ARotationComesBackFromNoiseAndFromAMirroredOne) {
  std::mt19937_64 random(5);
  for (int k = 0; k < 50; ++k) {
    const Vec3 axis = Vec3(random_matrix(3, 1, 1, random)).normalized();
    const Eigen::Matrix3d turn = Eigen::AngleAxisd(0.1 * k, axis).toRotationMatrix();
    const Eigen::Matrix3d noisy = 3 * turn + random_matrix(3, 3, 1e-4, random);
    const Eigen::Matrix3d back = nearest_rotation(noisy);
    EXPECT_NEAR(back.determinant(), 1, 1e-12);
    EXPECT_LT((back.transpose() * back - Eigen::Matrix3d::Identity()).norm(), 1e-12);
    EXPECT_LT((back - turn).norm(), 3e-4);
    // No rotation is nearer: small turns about any axis take it further away.
    for (const Vec3& about : {Vec3::UnitX().eval(), Vec3::UnitY().eval(), Vec3::UnitZ().eval()})
      for (const double by : {-1e-3, 1e-3})
        EXPECT_LT((back - noisy).norm(),
                  (Eigen::AngleAxisd(by, about).toRotationMatrix() * back - noisy).norm());
    Eigen::Matrix3d mirrored = turn;
    mirrored.col(2) *= -1;
    EXPECT_NEAR(nearest_rotation(mirrored).determinant(), 1, 1e-12);
  }
}

TEST(Linear, TheShortestTurnBringsOneDirectionUponTheOther) {
  std::mt19937_64 random(6);
  for (int k = 0; k < 50; ++k) {
    const Vec3 from = Vec3(random_matrix(3, 1, 1, random)).normalized();
    const Vec3 to = k == 0 ? from : (k == 1 ? Vec3(-from) : Vec3(random_matrix(3, 1, 1, random)));
    const Eigen::Matrix3d turn = rotation_onto(from, to.normalized());
    EXPECT_LT((turn * from - to.normalized()).norm(), 1e-12);
    EXPECT_NEAR(turn.determinant(), 1, 1e-12);
    const double angle = std::acos(std::clamp(from.dot(to.normalized()), -1.0, 1.0));
    EXPECT_NEAR(Eigen::AngleAxisd(turn).angle(), angle, 1e-7);
  }
}

TEST(Linear, ProductsAndScatterAreThoseOfTheDefinition) {
  std::mt19937_64 random(7);
  const Eigen::MatrixXd a = random_matrix(6, 40, 2, random);
  const Eigen::MatrixXd b = random_matrix(6, 40, 3, random);
  EXPECT_LT((product(a, b.transpose()) - product_nt(a, b)).norm(), 1e-10);
  EXPECT_LT((product(a.transpose(), b) - product_tn(a, b)).norm(), 1e-10);
  const Eigen::Matrix3Xd points = random_matrix(3, 500, 10, random);
  Eigen::Matrix3d sum = Eigen::Matrix3d::Zero();
  for (Eigen::Index i = 0; i < points.cols(); ++i) sum += points.col(i) * points.col(i).transpose();
  EXPECT_LT((scatter_of(points) - sum).norm(), 1e-9 * sum.norm());
}

}  // namespace
}  // namespace lostline
