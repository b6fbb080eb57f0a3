#include "report/figures.h"

#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "sketch/curve_kind.h"

namespace lostline::report {

Drawing histogram_figure(const deviation::Histogram& h, double tolerance) {
  Drawing d;
  d.width = 480;
  d.height = 150;
  const double left = 34;
  const double bottom = d.height - 24;
  const double top = 8;
  double total = 0;
  double most = 1e-9;
  for (const std::size_t c : h.counts) total += static_cast<double>(c);
  for (const std::size_t c : h.counts)
    most = std::max(most, static_cast<double>(c) / std::max(1.0, total));
  const double range = std::max(std::abs(h.low), std::abs(h.high));
  const auto x_of = [&](double v) {
    return left + (v - h.low) / (h.high - h.low) * (d.width - left - 6);
  };
  const auto y_of = [&](double share) { return bottom - share / most * (bottom - top); };
  const double step = (h.high - h.low) / static_cast<double>(h.counts.size());
  for (std::size_t i = 0; i < h.counts.size(); ++i) {
    const double a = h.low + static_cast<double>(i) * step;
    const double y = y_of(static_cast<double>(h.counts[i]) / std::max(1.0, total));
    const std::vector<Vec2> bar{
        {x_of(a), bottom}, {x_of(a), y}, {x_of(a + step), y}, {x_of(a + step), bottom}};
    const Colour fill = deviation_colour((a + step / 2) / range, tolerance / range);
    d.lines.push_back({bar, fill, 0, true, true, false});
    d.lines.push_back({bar, kGraphite, 0.3, true, false, false});
  }
  d.lines.push_back({{{left, bottom}, {d.width - 6, bottom}}, kInk, 0.8});
  for (const double limit : {-tolerance, tolerance})
    d.lines.push_back({{{x_of(limit), top}, {x_of(limit), bottom}}, kInk, 0.8});
  for (int k = -2; k <= 2; ++k) {
    const double v = range * k / 2;
    d.texts.push_back({{x_of(v), bottom + 10}, format_trimmed(v, 3), kGraphite, 7.5, 0});
  }
  d.texts.push_back({{(left + d.width) / 2, bottom + 20}, "deviation, mm", kGraphite, 7.5, 0});
  d.texts.push_back(
      {{left - 4, top + 6}, format_trimmed(100 * most, 1) + " %", kGraphite, 7.5, -1});
  return d;
}

Drawing section_figure(const project::TracedSketch& t, const sketch::Drift& drift) {
  Drawing d;
  d.width = 480;
  Eigen::AlignedBox2d box;
  for (const auto& line : t.section.polylines) {
    for (const Vec2& p : line.points) box.extend(p);
  }
  if (box.isEmpty()) return d;
  const double scale = std::min((d.width - 30) / std::max(1e-6, box.sizes().x()),
                                240 / std::max(1e-6, box.sizes().y()));
  d.height = scale * box.sizes().y() + 30;
  const auto at = [&](const Vec2& p) {
    return Vec2(d.width / 2 + scale * (p.x() - box.center().x()),
                d.height / 2 - scale * (p.y() - box.center().y()));
  };
  const double gain = 12 / std::max(std::abs(drift.greatest), 1e-9);
  for (std::size_t i = 0; i < drift.whiskers.size(); i += 1 + drift.whiskers.size() / 1500) {
    const auto& w = drift.whiskers[i];
    const Vec2 off = w.point - w.foot;
    if (!(off.norm() > 1e-9)) continue;
    const Vec2 foot = at(w.foot);
    const Vec2 tip = foot + Vec2(off.x(), -off.y()).normalized() * std::abs(w.value) * gain;
    d.lines.push_back(
        {{foot, tip}, w.value > 0 ? Colour{0xA6, 0x4A, 0x04} : Colour{0x47, 0x22, 0x7E}, 0.4});
  }
  const sketch::Sketch& s = t.sketch;
  for (const sketch::Entity& e : s.entities) {
    std::vector<Vec2> points;
    for (const Vec2& p : sketch::placed(s, e)->chords()) points.push_back(at(p));
    d.lines.push_back({points, kInk, 1.1});
  }
  std::vector<Vec2> ring;
  for (int k = 0; k < 24; ++k)
    ring.push_back(at(drift.greatest_at) + 5 * Vec2(std::cos(k * 0.2618), std::sin(k * 0.2618)));
  if (!drift.whiskers.empty()) d.lines.push_back({ring, kRedPencil, 1, true});
  return d;
}

}  // namespace lostline::report
