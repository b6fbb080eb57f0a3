#include "sketch/nearest_curve.h"

#include <algorithm>
#include <cmath>

#include "sketch/curve_kind.h"

namespace lostline::sketch {
namespace {

// Points that are asked for together: their box is small against the sketch, and what is near to it
// is found once for all of them.
constexpr std::size_t kTogether = 32;
// Of the longest chord: a curve that turns by at most 3.75 degrees along a chord stays within
// tan(3.75 degrees) / 2 of its length beside it.
constexpr double kBulge = 0.034;

Eigen::AlignedBox2d box_of(const PlaneCurve& curve) {
  Eigen::AlignedBox2d box;
  double longest = 0;
  const std::vector<Vec2> chords = curve.chords();
  for (std::size_t i = 0; i < chords.size(); ++i) {
    box.extend(chords[i]);
    if (i > 0) longest = std::max(longest, (chords[i] - chords[i - 1]).norm());
  }
  const Vec2 grown = Vec2::Constant(kBulge * longest);
  return {box.min() - grown, box.max() + grown};
}

}  // namespace

NearestCurve::NearestCurve(const Sketch& sketch) {
  for (std::size_t i = 0; i < sketch.entities.size(); ++i) {
    if (sketch.entities[i].construction) continue;
    auto curve = placed(sketch, sketch.entities[i]);
    const Eigen::AlignedBox2d box = box_of(*curve);
    curves_.push_back({i, std::move(curve), box});
  }
}

void NearestCurve::along(std::span<const Vec2> points, double reach, const Receive& receive) const {
  std::vector<const Placed*> near;
  for (std::size_t begin = 0; begin < points.size(); begin += kTogether) {
    const auto some = points.subspan(begin, std::min(kTogether, points.size() - begin));
    Eigen::AlignedBox2d box;
    for (const Vec2& p : some) box.extend(p);
    near.clear();
    for (const Placed& c : curves_) {
      if (c.box.squaredExteriorDistance(box) <= reach * reach) near.push_back(&c);
    }
    std::size_t last = 0;  // the curve that was nearest to the point before is asked first
    for (std::size_t k = 0; k < some.size(); ++k) {
      const Vec2& p = some[k];
      double nearest = reach;
      std::size_t of = near.size();
      Found found{};
      const auto ask = [&](std::size_t i) {
        const double off = near[i]->box.squaredExteriorDistance(p);
        if (off > nearest * nearest) return;
        Vec2 foot;
        const double drift = near[i]->curve->drift(p, &foot);
        const double size = std::abs(drift);
        if (size < nearest || (size == nearest && of < near.size() && i < of)) {
          nearest = size;
          of = i;
          found = {near[i]->entity, drift, foot};
        }
      };
      if (last < near.size()) ask(last);
      for (std::size_t i = 0; i < near.size(); ++i) {
        if (i != last) ask(i);
      }
      if (of == near.size()) continue;
      last = of;
      receive(begin + k, found);
    }
  }
}

}  // namespace lostline::sketch
