#include "bench/sketch_marks.h"

#include <cmath>
#include <numbers>

#include "look/theme.h"
#include "sketch/curve_kind.h"

namespace lostline::app {
namespace {

/// Pairs of points: long and short dashes in turn, as construction is drawn (ISO 128-2, long-dashed
/// dotted line).
std::vector<Vec2> chain_line(const sketch::PlaneCurve& curve) {
  constexpr int kDashes = 24;
  std::vector<Vec2> pairs;
  constexpr int kFine = 6;  // chords of a long dash: it may be bent
  for (int k = 0; k < kDashes; ++k) {
    const auto at = [&](double share) { return curve.at((k + share) / kDashes * curve.range()); };
    for (int f = 0; f < kFine; ++f) {
      pairs.push_back(at(0.66 * f / kFine));
      pairs.push_back(at(0.66 * (f + 1) / kFine));
    }
    pairs.push_back(at(0.79));
    pairs.push_back(at(0.87));
  }
  return pairs;
}

}  // namespace

std::vector<LineBatch> sketch_marks(const Placement& base, double level,
                                    const section::Section& section, const sketch::Sketch& sketch,
                                    const std::set<sketch::Id>& loose,
                                    const std::set<sketch::Id>& picked, bool whiskers,
                                    double reach) {
  LineBatch points{{}, role::graphite, 1.2F, true};
  LineBatch gaps{{}, role::red_pencil, 1.2F, true};
  LineBatch few{{}, role::graphite_light, 1.0F, true};  // what few blades of a fan see
  for (const auto& line : section.polylines) {
    std::set<std::size_t> gap(line.gaps.begin(), line.gaps.end());
    const std::size_t count = line.points.size();
    for (std::size_t i = 0; i + (line.closed ? 0 : 1) < count; ++i) {
      (gap.contains(i) ? gaps
       : line.few      ? few
                       : points)
          .segments.emplace_back(base.to_space(line.points[i], level),
                                 base.to_space(line.points[(i + 1) % count], level));
    }
  }
  LineBatch pencil{{}, role::graphite, 1.6F, true};
  LineBatch ink{{}, role::ink, 2.4F, true};
  LineBatch red{{}, role::red_pencil, 3.0F, true};
  LineBatch aid{{}, role::graphite_light, 1.2F, true};  // construction
  for (const sketch::Entity& e : sketch.entities) {
    LineBatch& batch = picked.contains(e.id)  ? red
                       : e.construction       ? aid
                       : loose.contains(e.id) ? pencil
                                              : ink;
    const auto curve = sketch::placed(sketch, e);
    const std::vector<Vec2> polyline = e.construction ? chain_line(*curve) : curve->chords();
    for (std::size_t i = 1; i < polyline.size(); i += e.construction ? 2 : 1)
      batch.segments.emplace_back(base.to_space(polyline[i - 1], level),
                                  base.to_space(polyline[i], level));
  }
  const auto cross = [&](LineBatch& batch, const Vec2& p, double size) {
    batch.segments.emplace_back(base.to_space(p - Vec2(size, 0), level),
                                base.to_space(p + Vec2(size, 0), level));
    batch.segments.emplace_back(base.to_space(p - Vec2(0, size), level),
                                base.to_space(p + Vec2(0, size), level));
  };
  for (const sketch::Point& p : sketch.points)
    cross(picked.contains(p.id) ? red : pencil, p.at, 0.9);
  std::vector<LineBatch> batches{few, points, gaps, aid, pencil, ink, red};
  if (whiskers && !sketch.entities.empty()) {
    const sketch::Drift drift = sketch::measure_drift(sketch, section, reach);
    LineBatch proud{{}, QColor(0xC8, 0x6A, 0x10), 1.0F, true};
    LineBatch under{{}, QColor(0x6B, 0x46, 0xA0), 1.0F, true};
    const WhiskerScale scale = whisker_scale(drift, section);
    for (const auto& w : drift.whiskers) {
      const Vec2 off = w.point - w.foot;
      const double length = off.norm();
      if (!(length > 0)) continue;
      const Vec2 tip = w.foot + std::min(scale.gain * length, scale.longest) / length * off;
      (w.value > 0 ? proud : under)
          .segments.emplace_back(base.to_space(w.foot, level), base.to_space(tip, level));
    }
    batches.push_back(proud);
    batches.push_back(under);
  }
  return batches;
}

WhiskerScale whisker_scale(const sketch::Drift& drift, const section::Section& section) {
  Eigen::AlignedBox2d box;
  for (const auto& line : section.polylines) {
    for (const Vec2& p : line.points) box.extend(p);
  }
  std::vector<double> sizes;
  for (const auto& w : drift.whiskers) sizes.push_back(std::abs(w.value));
  if (sizes.empty() || box.isEmpty()) return {};
  const double across = box.diagonal().norm();
  const auto usual = sizes.begin() + static_cast<std::ptrdiff_t>(0.9 * (sizes.size() - 1.0));
  std::nth_element(sizes.begin(), usual, sizes.end());
  // The next lower of 1, 2, 5, 10 …
  double gain = 1;
  while (true) {
    const double next = gain * (std::fmod(std::log10(gain) + 1e-9, 1) > 0.2 &&
                                        std::fmod(std::log10(gain) + 1e-9, 1) < 0.5
                                    ? 2.5
                                    : 2);
    if (next * *usual > across / 100 || next > 1e5) break;
    gain = next;
  }
  return {gain, across / 16};
}

sketch::Id sketch_item_at(const BenchView&, const Camera& camera, const Placement& base,
                          double level, const sketch::Sketch& sketch, const QPointF& at,
                          bool points) {
  double nearest = 9;
  sketch::Id found = 0;
  const auto consider = [&](sketch::Id id, double distance, double handicap) {
    if (distance + handicap < nearest) {
      nearest = distance + handicap;
      found = id;
    }
  };
  if (points) {
    for (const sketch::Point& p : sketch.points) {
      const QPointF d = camera.toScreen(base.to_space(p.at, level)) - at;
      consider(p.id, std::hypot(d.x(), d.y()), 0);
    }
    const QPointF d = camera.toScreen(base.to_space(Vec2::Zero(), level)) - at;
    consider(sketch::kOrigin, std::hypot(d.x(), d.y()), 1);
    if (found != 0) return found;
  }
  for (const sketch::Entity& e : sketch.entities) {
    const std::vector<Vec2> polyline = sketch::placed(sketch, e)->chords();
    for (std::size_t i = 1; i < polyline.size(); ++i) {
      const QPointF a = camera.toScreen(base.to_space(polyline[i - 1], level));
      const QPointF ab = camera.toScreen(base.to_space(polyline[i], level)) - a;
      const double squared = QPointF::dotProduct(ab, ab);
      const double t =
          squared > 0 ? std::clamp(QPointF::dotProduct(at - a, ab) / squared, 0.0, 1.0) : 0.0;
      const QPointF off = at - a - t * ab;
      consider(e.id, std::hypot(off.x(), off.y()), 0);
    }
  }
  return found;
}

std::optional<Vec2> plane_point(const Camera& camera, const Placement& base, double level,
                                const QPointF& at) {
  const Vec3 origin = camera.rayOrigin(at);
  const Vec3 direction = camera.viewDirection();
  const double slope = direction.dot(base.normal);
  if (std::abs(slope) < 0.05) return std::nullopt;
  const double t = (level - base.level_of(origin)) / slope;
  return base.to_plane(origin + t * direction);
}

std::vector<std::pair<Vec2, Vec2>> hatch_lines(const std::vector<sketch::Polygon>& outlines,
                                               double apart) {
  // In a frame turned by 45 degrees the lines are level.
  const double c = std::sqrt(0.5);
  const auto turned = [&](const Vec2& p) { return Vec2(c * (p.x() + p.y()), c * (p.y() - p.x())); };
  const auto back = [&](const Vec2& p) { return Vec2(c * (p.x() - p.y()), c * (p.x() + p.y())); };
  double low = 1e300;
  double high = -1e300;
  for (const auto& outline : outlines) {
    for (const Vec2& p : outline) {
      low = std::min(low, turned(p).y());
      high = std::max(high, turned(p).y());
    }
  }
  std::vector<std::pair<Vec2, Vec2>> lines;
  if (!(apart > 0) || (high - low) / apart > 500) return lines;
  for (double y = low + apart / 2; y < high; y += apart) {
    std::vector<double> xs;
    for (const auto& outline : outlines) {
      for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
        const Vec2 a = turned(outline[j]);
        const Vec2 b = turned(outline[i]);
        if ((a.y() > y) != (b.y() > y))
          xs.push_back(a.x() + (b.x() - a.x()) * (y - a.y()) / (b.y() - a.y()));
      }
    }
    std::sort(xs.begin(), xs.end());
    for (std::size_t i = 0; i + 1 < xs.size(); i += 2)
      lines.emplace_back(back({xs[i], y}), back({xs[i + 1], y}));
  }
  return lines;
}

}  // namespace lostline::app
