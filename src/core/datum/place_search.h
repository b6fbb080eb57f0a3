#pragma once

#include "datum/place.h"

// The rough search behind place_on: ways to turn, then ways to shift for each.

namespace lostline::datum {

double angle_of(const Eigen::Matrix3d& rotation);  ///< rad
/// The turn that lays direction `a` on `to_a`, and `b` into the half plane of `to_a` and `to_b`.
Eigen::Matrix3d rotation_by_pairs(const Vec3& a, const Vec3& b, const Vec3& to_a, const Vec3& to_b);

struct Scored {
  Transform motion;
  double score = 0;
};

/// How near surfaces and points must lie to be matched before the best fit: a hundredth of the
/// part's diagonal, several times what the middle of a region of a scan strays from its face's.
inline double nearness(const Target& target) { return 0.01 * target.size; }

/// Motions that may lay the scan on the model, the best first: by the surfaces of both, then by
/// points; `hint` is among those judged. Empty: no surface to match, or stopped.
std::vector<Scored> rough_places(const Target& target, const std::vector<Found>& found,
                                 const Cloud& cloud, const Transform& hint, const Task& task);

/// Whether scan and model have surfaces that can be matched.
bool can_be_matched(const Target& target, const std::vector<Found>& found);

}  // namespace lostline::datum
