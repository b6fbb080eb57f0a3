#include "datum/place.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "datum/place_search.h"

namespace lostline::datum {
namespace {

Cloud thinned(const Cloud& cloud, std::size_t most) {
  const std::size_t stride = std::max<std::size_t>(1, cloud.points.size() / most);
  Cloud few;
  for (std::size_t i = 0; i < cloud.points.size(); i += stride) {
    few.points.push_back(cloud.points[i]);
    few.normals.push_back(cloud.normals[i]);
    few.weight.push_back(cloud.weight[i]);
  }
  return few;
}

/// Share of the weight within `reach` of the model.
double share_within(const Target& target, const Cloud& cloud, const Transform& motion,
                    double reach) {
  const auto d = distances(target, cloud.points, cloud.normals, motion, 2 * reach);
  double on = 0;
  double all = 0;
  for (std::size_t i = 0; i < d.size(); ++i) {
    all += cloud.weight[i];
    if (std::abs(d[i]) <= reach) on += cloud.weight[i];
  }
  return all > 0 ? on / all : 0;
}

/// Whether two fits lay the scan on the same place, or differ only by a motion that nothing holds.
bool same_place(const BestFit& a, const BestFit& b, const Cloud& few, double reach) {
  const Transform off = b.motion * a.motion.inverse();
  const double angle = angle_of(off.linear());
  if (!a.loose.empty() && a.loose.size() == b.loose.size()) {
    const Eigen::AngleAxisd turn(off.linear());
    return std::all_of(a.loose.begin(), a.loose.end(), [&](const BestFit::Loose& l) {
      if (!l.turns) return angle < 0.5 * kDegree;
      const bool about = angle < 0.5 * kDegree || turn.axis().cross(l.axis).norm() < 0.02;
      return about && (off * l.through - l.through).norm() < reach;
    });
  }
  if (angle > 2 * kDegree) return false;
  for (std::size_t i = 0; i < few.points.size(); i += 50) {
    if ((a.motion * few.points[i] - b.motion * few.points[i]).norm() > reach) return false;
  }
  return true;
}

}  // namespace

Result<std::vector<Candidate>> place_on(const Target& target, const std::vector<Found>& found,
                                        const Cloud& cloud, const PlaceOptions& options,
                                        const Task& task, const Transform& hint) {
  if (!can_be_matched(target, found)) {
    return Error{ErrorCode::Degenerate,
                 "Scan and model have no planes, cylinders or cones to match. Say which points or "
                 "features belong together."};
  }
  const std::vector<Scored> places = rough_places(target, found, cloud, hint, task.part(0, 0.4));
  if (task.stopped()) return cancelled();
  const Cloud few = thinned(cloud, 1500);
  const Cloud more = thinned(cloud, 12000);
  std::vector<Candidate> candidates;
  for (std::size_t i = 0; i < places.size(); ++i) {
    // What lies worse than half as well as the best will not win.
    if (places[i].score < 0.6 * places[0].score) continue;
    BestFitOptions loose = options.fit;
    loose.search = std::max(3 * nearness(target), options.fit.search);
    loose.max_iterations = 40;
    const auto fitted = best_fit(target, few, places[i].motion, loose);
    if (task.stopped()) return cancelled();
    task.report(0.4 + 0.3 * static_cast<double>(i) / static_cast<double>(places.size()));
    if (fitted) candidates.push_back({*fitted, 0});
  }
  if (candidates.empty()) {
    return Error{
        ErrorCode::Failed,
        "No way was found in which the scan lies on the model. Check the unit of the scan, "
        "or say which features belong together."};
  }
  // One yardstick for all: the least scatter that a candidate with good cover reaches.
  double scatter = 1e300;
  double widest = 0;
  for (const Candidate& c : candidates) widest = std::max(widest, c.fit.used_fraction);
  for (const Candidate& c : candidates) {
    if (c.fit.used_fraction > 0.6 * widest) scatter = std::min(scatter, c.fit.sigma);
  }
  // Of an exact scan the triangles' chords are left: some ten-thousandths of the size.
  const double reach = std::max(5 * scatter, 3e-4 * target.size);
  const auto sort = [&] {
    for (Candidate& c : candidates) c.agreement = share_within(target, more, c.fit.motion, reach);
    std::stable_sort(
        candidates.begin(), candidates.end(),
        [](const Candidate& a, const Candidate& b) { return a.agreement > b.agreement; });
  };
  sort();
  if (candidates[0].agreement < 0.33) {
    return Error{
        ErrorCode::Failed,
        fmt::format("No way was found in which the scan lies on the model: at best {:.0f} % "
                    "of it agrees within {:.2f} mm. Check the unit of the scan, or say "
                    "which features belong together.",
                    100 * candidates[0].agreement, reach)};
  }
  std::vector<Candidate> kept;
  for (Candidate& c : candidates) {
    if (c.agreement < candidates[0].agreement - 3 * options.like_best) break;
    const auto fitted = best_fit(target, more, c.fit.motion, options.fit);
    if (task.stopped()) return cancelled();
    if (!fitted) continue;
    const bool known = std::any_of(kept.begin(), kept.end(), [&](const Candidate& k) {
      return same_place(k.fit, *fitted, few, 0.005 * target.size);
    });
    if (!known) kept.push_back({*fitted, c.agreement});
    if (kept.size() >= options.most) break;
    task.report(0.7 + 0.2 * static_cast<double>(kept.size()) / static_cast<double>(options.most));
  }
  candidates.swap(kept);
  sort();
  std::erase_if(candidates, [&](const Candidate& c) {
    return c.agreement < candidates[0].agreement - options.like_best;
  });
  // All points for those that are shown first.
  for (std::size_t i = 0; i < std::min<std::size_t>(candidates.size(), 4); ++i) {
    const auto fitted = best_fit(target, cloud, candidates[i].fit.motion, options.fit, Task());
    if (task.stopped()) return cancelled();
    if (fitted) candidates[i].fit = *fitted;
  }
  task.report(1.0);
  return candidates;
}

}  // namespace lostline::datum
