#include "datum/frame.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace lostline::datum {
namespace {

constexpr double kParallel = 0.02;  // rad: closer than this to parallel is no second direction

/// Line across the primary direction that fixes the rotation about it.
Result<Vec3> secondary_direction(const FrameInput& input, const Vec3& primary, std::string& held) {
  if (input.secondary.empty()) {
    return Error{ErrorCode::InvalidInput,
                 "The secondary is missing: pick a plane square to the primary, an axis across it, "
                 "or two parallel axes."};
  }
  const fit::Surface& first = input.secondary.front();
  if (input.secondary.size() >= 2) {
    const fit::Surface& second = input.secondary[1];
    if (!fit::is_flat(first.kind) && !fit::is_flat(second.kind)) {
      const Vec3 d = second.point - first.point;
      const Vec3 across = d - d.dot(primary) * primary;
      if (across.norm() < 1e-3)
        return Error{ErrorCode::Degenerate,
                     "The two secondary axes coincide; pick two that lie apart."};
      held = "line between two axes";
      return Vec3(across.normalized());
    }
  }
  const Vec3 across = first.axis - first.axis.dot(primary) * primary;
  if (across.norm() < kParallel) {
    return Error{ErrorCode::Degenerate,
                 "The secondary is parallel to the primary and fixes no rotation. Pick a plane "
                 "square to it or a second axis."};
  }
  held = fit::is_flat(first.kind) ? "normal of the secondary plane" : "axis of the secondary";
  return Vec3(across.normalized());
}

}  // namespace

Vec3 axis_vector(Axis axis) {
  switch (axis) {
    case Axis::X:
      return Vec3::UnitX();
    case Axis::Y:
      return Vec3::UnitY();
    case Axis::Z:
      return Vec3::UnitZ();
    case Axis::MinusX:
      return -Vec3::UnitX();
    case Axis::MinusY:
      return -Vec3::UnitY();
    case Axis::MinusZ:
      return -Vec3::UnitZ();
  }
  return Vec3::UnitZ();
}

const char* axis_name(Axis axis) {
  constexpr std::array<const char*, 6> kNames{"+x", "+y", "+z", "-x", "-y", "-z"};
  return kNames[static_cast<std::size_t>(axis)];
}

Result<Axis> parse_axis(const std::string& text) {
  const bool minus = text.starts_with('-');
  const std::string letter = text.starts_with('-') || text.starts_with('+') ? text.substr(1) : text;
  if (letter == "x") return minus ? Axis::MinusX : Axis::X;
  if (letter == "y") return minus ? Axis::MinusY : Axis::Y;
  if (letter == "z") return minus ? Axis::MinusZ : Axis::Z;
  return Error{ErrorCode::InvalidInput,
               "\"" + text + "\" is no axis; write +x, -x, +y, -y, +z or -z."};
}

Result<Frame> frame_321(const FrameInput& input) {
  const Vec3 primary_target = axis_vector(input.primary_axis);
  const Vec3 secondary_target = axis_vector(input.secondary_axis);
  if (std::abs(primary_target.dot(secondary_target)) > 0.5) {
    return Error{ErrorCode::InvalidInput,
                 "Primary and secondary become the same axis; choose two different ones."};
  }
  const auto is_sphere = [](const fit::Surface& s) { return !fit::has_direction(s.kind); };
  if (is_sphere(input.primary) ||
      std::any_of(input.secondary.begin(), input.secondary.end(), is_sphere)) {
    return Error{ErrorCode::InvalidInput,
                 "A sphere or point has no direction: it can fix the origin, not a turn."};
  }
  Frame frame;
  frame.held_by[0] =
      fit::is_flat(input.primary.kind) ? "normal of the primary plane" : "axis of the primary";
  const Vec3 primary = input.primary.axis.normalized();
  const Result<Vec3> secondary = secondary_direction(input, primary, frame.held_by[1]);
  if (!secondary) return secondary.error();
  Eigen::Matrix3d from;
  from << primary, *secondary, primary.cross(*secondary);
  Eigen::Matrix3d to;
  to << primary_target, secondary_target, primary_target.cross(secondary_target);
  const Eigen::Matrix3d rotation = to * from.transpose();

  // The origin: each fit contributes what it fixes, earlier ones first; axes fix the shifts across
  // themselves, planes the one along the normal.
  std::vector<Vec3> normals;
  std::vector<double> offsets;
  const auto fix = [&](const Vec3& direction, double offset) {
    Vec3 rest = direction;
    for (const Vec3& n : normals) rest -= n.dot(rest) * n;
    if (normals.size() == 3 || rest.norm() < 0.5) return;
    // The new condition, made square to those before: the point at `offset` along `direction` that
    // also meets them.
    Vec3 anchor = Vec3::Zero();
    for (std::size_t i = 0; i < normals.size(); ++i) anchor += offsets[i] * normals[i];
    const double size = rest.norm();
    offsets.push_back((offset - anchor.dot(direction)) / size);
    normals.emplace_back(rest / size);
  };
  const auto contribute = [&](const fit::Surface& s) {
    if (fit::is_flat(s.kind)) {
      fix(s.axis, s.axis.dot(s.point));
      return;
    }
    const Vec3 u = any_perpendicular(s.axis);
    const Vec3 v = s.axis.cross(u);
    fix(u, u.dot(s.point));
    fix(v, v.dot(s.point));
    // The centre of a sphere or torus fixes all three shifts.
    if (fit::has_centre(s.kind)) fix(s.axis, s.axis.dot(s.point));
  };
  contribute(input.primary);
  for (const fit::Surface& s : input.origin) contribute(s);
  frame.held_by[2] = input.origin.empty() ? "secondary" : "origin fits";
  if (normals.size() < 3) {
    if (input.secondary.size() >= 2 && !fit::is_flat(input.secondary[0].kind) &&
        !fit::is_flat(input.secondary[1].kind)) {
      // Two axes: the origin lies midway between them.
      const Vec3 middle = 0.5 * (input.secondary[0].point + input.secondary[1].point);
      const Vec3& u = *secondary;
      const Vec3 v = primary.cross(u);
      fix(u, u.dot(middle));
      fix(v, v.dot(middle));
    } else {
      for (const fit::Surface& s : input.secondary) contribute(s);
    }
  }
  if (normals.size() < 3 && input.extremes != nullptr && !input.extremes->empty()) {
    for (int k = 0; k < 3; ++k) {
      const Vec3 axis = rotation.row(k).transpose();  // of the part frame, scan coordinates
      double least = 1e300;
      for (const Vec3& p : *input.extremes) least = std::min(least, axis.dot(p));
      const std::size_t before = normals.size();
      fix(axis, least);
      if (normals.size() > before) frame.held_by[2] += ", least " + std::string(1, "xyz"[k]);
    }
  }
  if (normals.size() < 3) {
    return Error{ErrorCode::Degenerate,
                 "The origin is not fixed in every direction. Add an axis or another plane as "
                 "origin, or let the scan's extremes fix it."};
  }
  Vec3 origin = Vec3::Zero();
  for (std::size_t i = 0; i < 3; ++i) origin += offsets[i] * normals[i];
  frame.to_part.linear() = rotation;
  frame.to_part.translation() = -rotation * origin;
  return frame;
}

}  // namespace lostline::datum
