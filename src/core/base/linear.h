#pragma once

#include <Eigen/Core>

// Dense linear algebra compiled once: the decompositions of Eigen take seconds of compilation in
// every file that instantiates them.

namespace lostline {

/// Eigenvalues ascending and orthonormal eigenvectors, in columns of the same order.
template <int N>
struct SymmetricEigen {
  Eigen::Matrix<double, N, 1> values;
  Eigen::Matrix<double, N, N> vectors;
};
/// Of a symmetric matrix; only its lower triangle is read. N is 2, 3, 6 or Eigen::Dynamic.
template <int N>
SymmetricEigen<N> symmetric_eigen(const Eigen::Matrix<double, N, N>& m);
extern template SymmetricEigen<2> symmetric_eigen<2>(const Eigen::Matrix2d&);
extern template SymmetricEigen<3> symmetric_eigen<3>(const Eigen::Matrix3d&);
extern template SymmetricEigen<6> symmetric_eigen<6>(const Eigen::Matrix<double, 6, 6>&);
extern template SymmetricEigen<Eigen::Dynamic> symmetric_eigen<Eigen::Dynamic>(
    const Eigen::MatrixXd&);

/// Real parts of the eigenvectors of any 3 x 3 matrix, in columns.
Eigen::Matrix3d general_eigenvectors(const Eigen::Matrix3d& m);

/// The rotation nearest to a matrix, in the least-squares sense.
Eigen::Matrix3d nearest_rotation(const Eigen::Matrix3d& m);

/// X of A X = B for a symmetric A that need not be definite (LDL^T with pivots).
Eigen::MatrixXd solve_symmetric(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b);

/// The x of least |A x - b|, and the numerical rank of A (QR with column pivots).
struct RankedSolution {
  Eigen::VectorXd x;
  Eigen::Index rank;
};
RankedSolution solve_least_squares(const Eigen::MatrixXd& a, const Eigen::VectorXd& b);

/// Thin U, singular values descending, and the whole V of A = U S V^T.
struct SingularValues {
  Eigen::MatrixXd u;
  Eigen::VectorXd values;
  Eigen::MatrixXd v;
};
SingularValues singular_values(const Eigen::MatrixXd& a);

/// The shortest x of least |A x - b|, whatever the rank of A (complete orthogonal decomposition).
/// @param threshold  pivots below this share of the largest count as zero.
Eigen::VectorXd solve_least_norm(const Eigen::MatrixXd& a, const Eigen::VectorXd& b,
                                 double threshold = 1e-13);
/// An orthonormal basis, in columns, of what A maps to zero.
Eigen::MatrixXd null_space_of(const Eigen::MatrixXd& a, double threshold);

/// The shortest rotation that brings one direction upon another.
Eigen::Matrix3d rotation_onto(const Eigen::Vector3d& from, const Eigen::Vector3d& to);

/// A B, A^T B and A B^T.
Eigen::MatrixXd product(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b);
Eigen::MatrixXd product_tn(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b);
Eigen::MatrixXd product_nt(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b);

/// Sum of the outer products of the columns: the scatter matrix of points about the origin.
Eigen::Matrix3d scatter_of(const Eigen::Ref<const Eigen::Matrix3Xd>& points);

}  // namespace lostline
