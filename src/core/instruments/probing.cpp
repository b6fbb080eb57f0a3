#include "instruments/probing.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>

#include "fit/least_squares.h"
#include "fit/uncertainty.h"

namespace lostline::instruments {
namespace {

constexpr std::array kKinds{
    ProbedKind{Probed::Plane, "plane", 3, fit::Kind::Plane},
    ProbedKind{Probed::Line, "line", 2, fit::Kind::Line},
    ProbedKind{Probed::Circle, "circle", 3, fit::Kind::Circle},
    ProbedKind{Probed::Cylinder, "cylinder", 5, fit::Kind::Cylinder},
    ProbedKind{Probed::Cone, "cone", 6, fit::Kind::Cone},
    ProbedKind{Probed::Sphere, "sphere", 4, fit::Kind::Sphere},
    ProbedKind{Probed::Slot, "slot", 5, std::nullopt},
    ProbedKind{Probed::Curve, "curve", 2, std::nullopt},
};

Eigen::Matrix3Xd columns(const std::vector<Touch>& touches, Vec3 Touch::*what) {
  Eigen::Matrix3Xd all(3, static_cast<Eigen::Index>(touches.size()));
  for (std::size_t i = 0; i < touches.size(); ++i)
    all.col(static_cast<Eigen::Index>(i)) = touches[i].*what;
  return all;
}

/// A frame in the plane that places lie in, x along their longest spread.
Placement plane_of(const Eigen::Matrix3Xd& places) {
  const Vec3 middle = places.rowwise().mean();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> spread(
      (places.colwise() - middle) * (places.colwise() - middle).transpose());
  Placement plane;
  plane.origin = middle;
  plane.normal = spread.eigenvectors().col(0);
  plane.x = spread.eigenvectors().col(2);
  plane.y = plane.normal.cross(plane.x);
  return plane;
}

Result<ProbedFit> fit_surface_kind(fit::Kind kind, const std::vector<Touch>& touches, double tip,
                                   double noise) {
  fit::SurfaceFitOptions options;
  options.reject_beyond = 0;  // each touch was meant
  options.correlate = false;
  options.least_sigma = noise;
  const Eigen::Matrix3Xd centres = columns(touches, &Touch::at);
  const auto fitted = fit::fit_surface(kind, centres, columns(touches, &Touch::out), {}, options);
  if (!fitted) return fitted.error();
  ProbedFit made;
  made.fit = *fitted;
  fit::Surface& surface = made.fit->surface;
  if (kind == fit::Kind::Circle) {
    // A bore where the probe came from inside.
    double inside = 0;
    for (const Touch& t : touches) inside += t.out.dot(surface.point - t.at);
    surface.hollow = inside > 0;
    for (const Touch& t : touches) {
      const Vec3 flat = t.at - surface.axis * surface.axis.dot(t.at - surface.point);
      const Vec3 radial = (flat - surface.point).normalized();
      made.places.push_back(t.at + (surface.hollow ? tip : -tip) * radial);
    }
  } else {
    for (const Touch& t : touches) made.places.push_back(t.at - tip * surface.normal_at(t.at));
  }
  surface = fit::at_distance(surface, -tip);
  if (!(fit::is_curve(kind) || fit::is_flat(kind)) && !(surface.radius > 0))
    return Error{ErrorCode::Degenerate,
                 "The ball is larger than what it touched. Is its diameter right?"};
  return made;
}

/// A line of the part: touched from one side, its points lie under the centres.
Result<ProbedFit> fit_line(const std::vector<Touch>& touches, double tip, double noise) {
  std::vector<Touch> places = touches;
  for (Touch& t : places) t.at -= tip * t.out;
  fit::SurfaceFitOptions options;
  options.reject_beyond = 0;
  options.correlate = false;
  options.least_sigma = noise;
  const auto fitted = fit::fit_surface(fit::Kind::Line, columns(places, &Touch::at),
                                       Eigen::Matrix3Xd(3, 0), {}, options);
  if (!fitted) return fitted.error();
  ProbedFit made;
  made.fit = *fitted;
  for (const Touch& t : places) made.places.push_back(t.at);
  return made;
}

/// Outline of a slot about the origin along an angle: five unknowns. Its distance, and the way out.
struct Outline {
  Vec2 centre;
  double angle, half, radius;
  explicit Outline(const Eigen::VectorXd& x)
      : centre(x[0], x[1]), angle(x[2]), half(x[3]), radius(x[4]) {}
  struct At {
    double distance = 0;
    Vec2 out = Vec2::UnitX();            ///< unit, away from the middle line
    Eigen::Matrix<double, 1, 5> slopes;  ///< of the distance by the unknowns
  };
  [[nodiscard]] At at(const Vec2& p) const {
    const Vec2 along(std::cos(angle), std::sin(angle));
    const Vec2 across(-along.y(), along.x());
    const Vec2 d = p - centre;
    const double t = std::clamp(d.dot(along), -half, half);
    const Vec2 off = d - t * along;
    At at;
    at.out = off.norm() > 1e-12 ? Vec2(off.normalized()) : across;
    at.distance = off.norm() - radius;
    // The foot on the middle line moves with the angle; at the ends also with the half length.
    const bool end = std::abs(d.dot(along)) > half;
    at.slopes << -at.out.x(), -at.out.y(), -t * at.out.dot(across),
        end ? -std::abs(at.out.dot(along)) : 0.0, -1;
    return at;
  }
};

Result<ProbedFit> fit_slot(const std::vector<Touch>& touches, double tip, double noise) {
  const Eigen::Matrix3Xd centres = columns(touches, &Touch::at);
  const Placement plane = plane_of(centres);
  std::vector<Vec2> flat;
  double inside = 0;
  double farthest = 0;
  double widest = 0;
  for (const Touch& t : touches) {
    flat.push_back(plane.to_plane(t.at));
    farthest = std::max(farthest, std::abs(flat.back().x()));
    widest = std::max(widest, std::abs(flat.back().y()));
    inside -= t.out.dot(plane.to_space(flat.back()) - plane.origin);
  }
  const auto count = static_cast<Eigen::Index>(flat.size());
  fit::LeastSquaresProblem problem;
  problem.evaluate = [&](const Eigen::VectorXd& x, Eigen::VectorXd& r, Eigen::MatrixXd* j) {
    const Outline outline(x);
    r.resize(count);
    if (j != nullptr) j->resize(count, 5);
    for (Eigen::Index i = 0; i < count; ++i) {
      const Outline::At at = outline.at(flat[static_cast<std::size_t>(i)]);
      r[i] = at.distance;
      if (j != nullptr) j->row(i) = at.slopes;
    }
  };
  Eigen::VectorXd start(5);
  start << 0, 0, 0, std::max(farthest - widest, 0.1 * farthest), widest;
  const auto solved = fit::minimise(problem, start);
  const char* const where =
      "The touches do not tell this slot: spread them over both sides and both ends.";
  if (!solved) return Error{ErrorCode::Degenerate, where};
  Outline outline(solved->x);
  if (!(outline.half > 0) || !(outline.radius > 0)) return Error{ErrorCode::Degenerate, where};
  const double freedoms = std::max<double>(1, static_cast<double>(count - 5));
  const double sigma = std::max(noise, std::sqrt(solved->sum_of_squares / freedoms));
  const Eigen::MatrixXd covariance = solved->normal_inverse * (sigma * sigma);
  const bool hollow = inside > 0;  // the probe came from within: a slot, not a tongue
  const double part = outline.radius + (hollow ? tip : -tip);
  if (!(part > 0))
    return Error{ErrorCode::Degenerate,
                 "The ball is larger than what it touched. Is its diameter right?"};
  Slot slot;
  const Vec2 along(std::cos(outline.angle), std::sin(outline.angle));
  slot.a = plane.to_space(outline.centre - outline.half * along);
  slot.b = plane.to_space(outline.centre + outline.half * along);
  slot.normal = plane.normal;
  slot.radius = part;
  slot.u_radius = fit::expanded_length(covariance.block(4, 4, 1, 1));
  slot.u_length = 2 * fit::expanded_length(covariance.block(3, 3, 1, 1));
  slot.rms = std::sqrt(solved->sum_of_squares / static_cast<double>(count));
  ProbedFit made;
  made.slot = slot;
  for (std::size_t i = 0; i < touches.size(); ++i) {
    const Vec2 out = outline.at(flat[i]).out;
    made.places.push_back(touches[i].at +
                          (hollow ? tip : -tip) * (out.x() * plane.x + out.y() * plane.y));
  }
  return made;
}

/// Places under centres in their order: square to the way from neighbour to neighbour.
ProbedFit curve_under(const std::vector<Touch>& touches, double tip) {
  ProbedFit made;
  for (std::size_t i = 0; i < touches.size(); ++i) {
    const Touch& before = touches[i > 0 ? i - 1 : 0];
    const Touch& after = touches[std::min(i + 1, touches.size() - 1)];
    const Vec3 along = (after.at - before.at).normalized();
    Vec3 out = touches[i].out - along * along.dot(touches[i].out);
    out = out.norm() > 1e-6 ? Vec3(out.normalized()) : touches[i].out;
    made.places.push_back(touches[i].at - tip * out);
  }
  return made;
}

}  // namespace

std::span<const ProbedKind> probed_kinds() { return kKinds; }

const ProbedKind& about(Probed kind) { return kKinds[static_cast<std::size_t>(kind)]; }

const ProbedKind* probed_kind_of(std::string_view name) {
  const std::string_view word = name.substr(0, name.find(' '));
  for (const ProbedKind& kind : kKinds) {
    if (word == kind.name) return &kind;
  }
  return nullptr;
}

Result<ProbedFit> fit_touches(Probed kind, const std::vector<Touch>& touches, double tip,
                              double noise) {
  const ProbedKind& info = about(kind);
  if (!(tip >= 0) || !(noise >= 0) || !std::isfinite(tip) || !std::isfinite(noise))
    return Error{ErrorCode::InvalidInput, "The ball's radius and the noise are not below zero."};
  if (touches.size() < info.needed + 1)
    return Error{ErrorCode::Degenerate,
                 "A " + std::string(info.name) + " wants " + std::to_string(info.needed + 1) +
                     " touches, one more than determine it: " +
                     std::to_string(info.needed + 1 - touches.size()) + " to go."};
  for (const Touch& t : touches) {
    if (!t.at.allFinite() || !t.out.allFinite())
      return Error{ErrorCode::InvalidInput, "A touch has a coordinate that is not a number."};
  }
  if (kind == Probed::Line) return fit_line(touches, tip, noise);
  if (kind == Probed::Slot) return fit_slot(touches, tip, noise);
  if (kind == Probed::Curve) return curve_under(touches, tip);
  return fit_surface_kind(*info.fitted, touches, tip, noise);
}

}  // namespace lostline::instruments
