#include "fit/form.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <vector>

#include "base/linear.h"
#include "fit/estimate.h"

namespace lostline::fit {
namespace {

using Points = Eigen::Ref<const Eigen::Matrix3Xd>;

struct Expansion {
  Eigen::VectorXd value;
  Eigen::MatrixXd covariance;
  double sigma = 0;  // of what the expansion leaves
};

/// Least squares without the greatest residuals, which are strays.
std::optional<Expansion> expand(const Points& points, const Eigen::MatrixXd& base,
                                const Eigen::VectorXd& residuals) {
  std::vector<double> sizes(residuals.data(), residuals.data() + residuals.size());
  for (double& v : sizes) v = std::abs(v);
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  const double limit = 6 * *middle + 1e-9;
  std::vector<Eigen::Index> kept;
  for (Eigen::Index i = 0; i < residuals.size(); ++i) {
    if (std::abs(residuals[i]) <= limit) kept.push_back(i);
  }
  const auto n = static_cast<Eigen::Index>(kept.size());
  if (n < 4 * base.cols()) return std::nullopt;
  const Eigen::MatrixXd a = base(kept, Eigen::all);
  const Eigen::VectorXd r = residuals(kept);
  const Eigen::MatrixXd normal = product_tn(a, a);
  const Eigen::LDLT<Eigen::MatrixXd> ldlt(normal);
  if (ldlt.info() != Eigen::Success || ldlt.rcond() < 1e-9) return std::nullopt;
  Expansion e;
  e.value = ldlt.solve(a.transpose() * r);
  const Eigen::MatrixXd inverse = ldlt.solve(Eigen::MatrixXd::Identity(base.cols(), base.cols()));
  const Eigen::LLT<Eigen::MatrixXd> llt(inverse);
  if (llt.info() != Eigen::Success) return std::nullopt;
  const Eigen::MatrixXd root = llt.matrixL();
  const Eigen::VectorXd rest = r - a * e.value;
  const Eigen::MatrixXd shared = shared_noise(points(Eigen::all, kept), rest, a, root);
  e.sigma = std::sqrt(rest.squaredNorm() / std::max(0.2 * static_cast<double>(n),
                                                    static_cast<double>(n) - shared.trace()));
  e.covariance = e.sigma * e.sigma * product_nt(product(root, shared), root);
  return e;
}

std::optional<Form> significant(Form form, double sigma) {
  if (std::abs(form.amount) < 2 * form.u || std::abs(form.amount) < sigma / 3) return std::nullopt;
  return form;
}

std::optional<Form> plane_form(const Surface& s, const Points& points) {
  const Vec3 u = any_perpendicular(s.axis);
  const Vec3 v = s.axis.cross(u);
  Eigen::MatrixXd base(points.cols(), 6);
  Eigen::VectorXd residuals(points.cols());
  const Vec3 mean = points.rowwise().mean();
  const double size =
      std::sqrt((points.colwise() - mean).squaredNorm() / static_cast<double>(points.cols()));
  if (!(size > 0)) return std::nullopt;
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const Vec3 d = (points.col(i) - mean) / size;
    const double x = d.dot(u);
    const double y = d.dot(v);
    base.row(i) << 1, x, y, x * x, x * y, y * y;
    residuals[i] = s.distance(points.col(i));
  }
  const auto e = expand(points, base, residuals);
  if (!e) return std::nullopt;
  Eigen::Matrix2d q;
  q << e->value[3], e->value[4] / 2, e->value[4] / 2, e->value[5];
  const auto axes = symmetric_eigen<2>(q);
  const int strong = std::abs(axes.values[0]) > std::abs(axes.values[1]) ? 0 : 1;
  const double bend = axes.values[strong];
  const double other = axes.values[1 - strong];
  const Vec2 along = axes.vectors.col(strong);
  // Reach of the points along the direction in which it curves.
  double far = 0;
  for (Eigen::Index i = 0; i < points.cols(); ++i)
    far = std::max(far, std::abs(along.dot(base.row(i).segment<2>(1))));
  Form form;
  form.type = bend * other < 0 && std::abs(other) > 0.5 * std::abs(bend) ? Form::Type::Twisted
                                                                         : Form::Type::Bowed;
  form.direction = along.x() * u + along.y() * v;
  form.amount = -bend * far * far;  // proud in the middle: the surface falls away outwards
  form.u = 2 * far * far *
           std::sqrt(std::max({e->covariance(3, 3), e->covariance(5, 5), e->covariance(4, 4) / 4}));
  if (form.type == Form::Type::Twisted) form.amount = std::abs(bend - other) * far * far;
  return significant(form, e->sigma);
}

std::optional<Form> turned_form(const Surface& s, const Points& points) {
  const Vec3 u = any_perpendicular(s.axis);
  const Vec3 v = s.axis.cross(u);
  Eigen::Matrix2Xd turns(2, points.cols());  // cosine and sine of the turn about the axis
  double low = 1e300;
  double high = -1e300;
  // A quarter without points leaves the lobes open.
  std::array<int, 36> seen{};
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const Vec3 d = points.col(i) - s.point;
    turns.col(i) = Vec2(d.dot(u), d.dot(v)).normalized();
    const double angle = std::atan2(turns(1, i), turns(0, i)) + std::numbers::pi;
    ++seen[static_cast<std::size_t>(std::min(35.0, angle / (2 * std::numbers::pi) * 36))];
    low = std::min(low, d.dot(s.axis));
    high = std::max(high, d.dot(s.axis));
  }
  const bool round = std::count(seen.begin(), seen.end(), 0) <= 9;
  constexpr int kMost = 6;
  const Eigen::Index columns = round ? 2 + 2 * kMost + 1 : 3;
  Eigen::MatrixXd base(points.cols(), columns);
  Eigen::VectorXd residuals(points.cols());
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const double z =
        high > low ? (2 * (points.col(i) - s.point).dot(s.axis) - low - high) / (high - low) : 0;
    base(i, 0) = 1;
    base(i, 1) = z;
    base(i, 2) = z * z - 1.0 / 3;
    Vec2 lobe(1, 0);  // cosine and sine of k turns
    for (int k = 1; round && k <= kMost; ++k) {
      lobe = Vec2(lobe.x() * turns(0, i) - lobe.y() * turns(1, i),
                  lobe.x() * turns(1, i) + lobe.y() * turns(0, i));
      base(i, 1 + 2 * k) = lobe.x();
      base(i, 2 + 2 * k) = lobe.y();
    }
    residuals[i] = s.distance(points.col(i)) * (s.hollow ? -1 : 1);  // as a change of radius
  }
  const auto e = expand(points, base, residuals);
  if (!e) return std::nullopt;
  Form best;
  double strongest = 0;
  const auto offer = [&](const Form& f) {
    if (const auto kept = significant(f, e->sigma); kept && std::abs(f.amount) > strongest) {
      strongest = std::abs(f.amount);
      best = *kept;
    }
  };
  Form barrel;
  barrel.type = Form::Type::Barrel;
  barrel.lobes = 0;
  barrel.direction = s.axis;
  barrel.amount = -2 * e->value[2];  // of the diameter
  barrel.u = 4 * std::sqrt(e->covariance(2, 2));
  offer(barrel);
  for (int k = 2; round && k <= kMost; ++k) {
    const Vec2 h(e->value[1 + 2 * k], e->value[2 + 2 * k]);
    Form lobes;
    lobes.type = k == 2 ? Form::Type::Oval : Form::Type::Lobed;
    lobes.lobes = k;
    const double peak = std::atan2(h.y(), h.x()) / k;
    lobes.direction = std::cos(peak) * u + std::sin(peak) * v;
    // Long less short diameter for two lobes; peak to valley of the radius for more.
    lobes.amount = (k == 2 ? 4 : 2) * h.norm();
    lobes.u = 2 * (k == 2 ? 4 : 2) *
              std::sqrt(std::max(e->covariance(1 + 2 * k, 1 + 2 * k),
                                 e->covariance(2 + 2 * k, 2 + 2 * k)));
    offer(lobes);
  }
  if (strongest > 0) return best;
  return std::nullopt;
}

}  // namespace

std::string Form::words() const {
  const char* names[] = {"oval", "", amount > 0 ? "barrel-shaped" : "waisted",
                         amount > 0 ? "crowned" : "dished", "twisted"};
  const std::string name =
      type == Type::Lobed ? fmt::format("{}-lobed", lobes) : names[static_cast<std::size_t>(type)];
  return fmt::format("{} by {:.3f} \u00b1 {:.3f} mm", name, std::abs(amount), u);
}

std::optional<Form> form_of(const Surface& surface, const Points& points) {
  if (points.cols() < 60) return std::nullopt;
  switch (surface.kind) {
    case Kind::Plane:
      return plane_form(surface, points);
    case Kind::Cylinder:
    case Kind::Cone:
      return turned_form(surface, points);
    default:
      return std::nullopt;
  }
}

}  // namespace lostline::fit
