#include <Eigen/Dense>

#include "base/linear.h"

// The decompositions that tell ranks and rotations.

namespace lostline {

Eigen::Matrix3d general_eigenvectors(const Eigen::Matrix3d& m) {
  return Eigen::EigenSolver<Eigen::Matrix3d>(m).eigenvectors().real();
}

Eigen::Matrix3d nearest_rotation(const Eigen::Matrix3d& m) {
  // Source: W. Kabsch, Acta Cryst. A32 (1976).
  const Eigen::JacobiSVD<Eigen::Matrix3d> svd(m, Eigen::ComputeFullU | Eigen::ComputeFullV);
  const Eigen::Vector3d sign(1, 1,
                             (svd.matrixU() * svd.matrixV().transpose()).determinant() < 0 ? -1 : 1);
  return svd.matrixU() * sign.asDiagonal() * svd.matrixV().transpose();
}

SingularValues singular_values(const Eigen::MatrixXd& a) {
  const Eigen::JacobiSVD<Eigen::MatrixXd> svd(a, Eigen::ComputeThinU | Eigen::ComputeFullV);
  return {svd.matrixU(), svd.singularValues(), svd.matrixV()};
}

Eigen::VectorXd solve_least_norm(const Eigen::MatrixXd& a, const Eigen::VectorXd& b,
                                 double threshold) {
  Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd> decomposition;
  decomposition.setThreshold(threshold);
  decomposition.compute(a);
  return decomposition.solve(b);
}

Eigen::MatrixXd null_space_of(const Eigen::MatrixXd& a, double threshold) {
  Eigen::ColPivHouseholderQR<Eigen::MatrixXd> qr;
  qr.setThreshold(threshold);
  qr.compute(a.transpose());
  const Eigen::MatrixXd q = qr.householderQ();
  return q.rightCols(a.cols() - qr.rank());
}

Eigen::Matrix3d rotation_onto(const Eigen::Vector3d& from, const Eigen::Vector3d& to) {
  return Eigen::Quaterniond::FromTwoVectors(from, to).toRotationMatrix();
}

}  // namespace lostline
