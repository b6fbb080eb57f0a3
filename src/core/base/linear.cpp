#include "base/linear.h"

#include <Eigen/Dense>

namespace lostline {

template <int N>
SymmetricEigen<N> symmetric_eigen(const Eigen::Matrix<double, N, N>& m) {
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix<double, N, N>> solver(m);
  return {solver.eigenvalues(), solver.eigenvectors()};
}
template SymmetricEigen<2> symmetric_eigen<2>(const Eigen::Matrix2d&);
template SymmetricEigen<3> symmetric_eigen<3>(const Eigen::Matrix3d&);
template SymmetricEigen<6> symmetric_eigen<6>(const Eigen::Matrix<double, 6, 6>&);
template SymmetricEigen<Eigen::Dynamic> symmetric_eigen<Eigen::Dynamic>(const Eigen::MatrixXd&);

Eigen::MatrixXd solve_symmetric(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b) {
  return a.ldlt().solve(b);
}

RankedSolution solve_least_squares(const Eigen::MatrixXd& a, const Eigen::VectorXd& b) {
  const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> qr(a);
  // With a pivot that is nothing but rounding it would divide by it.
  if (qr.rank() < a.cols()) return {solve_least_norm(a, b), qr.rank()};
  return {qr.solve(b), qr.rank()};
}

Eigen::MatrixXd product(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b) { return a * b; }
Eigen::MatrixXd product_tn(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b) {
  return a.transpose() * b;
}
Eigen::MatrixXd product_nt(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b) {
  return a * b.transpose();
}

Eigen::Matrix3d scatter_of(const Eigen::Ref<const Eigen::Matrix3Xd>& points) {
  return points * points.transpose();
}

}  // namespace lostline
