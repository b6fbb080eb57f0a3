#include "tools/trace/sketch_pen.h"

#include <QCoreApplication>
#include <cmath>

#include "bench/sketch_marks.h"

namespace lostline::app {
namespace {

constexpr double kSnap = 9;  // pixels

QString tr(const char* text) {
  return QCoreApplication::translate("lostline::app::SketchPen", text);
}

std::optional<std::pair<Vec2, double>> circle_through(const Vec2& a, const Vec2& b, const Vec2& c) {
  const Vec2 u = b - a;
  const Vec2 v = c - a;
  const double det = 2 * (u.x() * v.y() - u.y() * v.x());
  if (std::abs(det) < 1e-9 * u.norm() * v.norm()) return std::nullopt;
  const Vec2 centre = a + Vec2(v.y() * u.squaredNorm() - u.y() * v.squaredNorm(),
                               u.x() * v.squaredNorm() - v.x() * u.squaredNorm()) /
                              det;
  return std::pair(centre, (centre - a).norm());
}

}  // namespace

bool SketchPen::stop() {
  if (mode_ == Mode::Off) return false;
  if (clicks_.empty()) mode_ = Mode::Off;
  clicks_.clear();
  return true;
}

QString SketchPen::hint() const {
  switch (mode_) {
    case Mode::Line:
      return clicks_.empty() ? tr("line: click its start")
                             : tr("line: click its end; Esc ends the chain");
    case Mode::Arc:
      return clicks_.empty()       ? tr("arc: click its start")
             : clicks_.size() == 1 ? tr("arc: click its end")
                                   : tr("arc: click a place on it");
    case Mode::Circle:
      return clicks_.empty() ? tr("circle: click its centre") : tr("circle: click its rim");
    case Mode::Off:
      break;
  }
  return {};
}

std::optional<SketchPen::Spot> SketchPen::snap(const Camera& camera,
                                               const project::TracedSketch& traced,
                                               const QPointF& at) {
  const auto screen = [&](const Vec2& p) {
    return camera.toScreen(traced.base.to_space(p, traced.level));
  };
  const auto away = [&](const Vec2& p) {
    const QPointF d = screen(p) - at;
    return std::hypot(d.x(), d.y());
  };
  Spot best;
  double nearest = kSnap;
  for (const sketch::Point& p : traced.sketch.points) {
    if (away(p.at) < nearest) {
      nearest = away(p.at);
      best = {p.id, p.at};
    }
  }
  if (nearest < kSnap) return best;
  for (const auto& line : traced.section.polylines) {
    for (const Vec2& p : line.points) {
      if (away(p) < nearest) {
        nearest = away(p);
        best = {0, p};
      }
    }
  }
  if (nearest < kSnap) return best;
  const auto free = plane_point(camera, traced.base, traced.level, at);
  if (!free) return std::nullopt;
  return Spot{0, *free};
}

sketch::Id SketchPen::point_of(sketch::Sketch& sketch, const Spot& spot) {
  return spot.point != 0 && sketch.find_point(spot.point) != nullptr ? spot.point
                                                                     : sketch.add_point(spot.at);
}

bool SketchPen::click(const Camera& camera, project::TracedSketch& traced, const QPointF& at) {
  const auto spot = snap(camera, traced, at);
  if (!spot || mode_ == Mode::Off) return false;
  clicks_.push_back(*spot);
  sketch::Sketch& s = traced.sketch;
  if (mode_ == Mode::Line && clicks_.size() == 2) {
    if ((clicks_[1].at - clicks_[0].at).norm() < 1e-6) {
      clicks_.pop_back();
      return false;
    }
    const sketch::Id a = point_of(s, clicks_[0]);
    const sketch::Id b = point_of(s, clicks_[1]);
    s.add_line(a, b);
    const bool closed = clicks_[1].point != 0;
    clicks_ = {Spot{b, clicks_[1].at}};  // the chain goes on from its end
    if (closed) clicks_.clear();         // until it meets what was there
    return true;
  }
  if (mode_ == Mode::Circle && clicks_.size() == 2) {
    const double radius = (clicks_[1].at - clicks_[0].at).norm();
    if (radius > 1e-6) s.add_circle(point_of(s, clicks_[0]), radius);
    clicks_.clear();
    return radius > 1e-6;
  }
  if (mode_ == Mode::Arc && clicks_.size() == 3) {
    const auto circle = circle_through(clicks_[0].at, clicks_[1].at, clicks_[2].at);
    if (circle) {
      // Counter-clockwise from start to end through the third place.
      const auto angle = [&](const Vec2& p) {
        return std::atan2(p.y() - circle->first.y(), p.x() - circle->first.x());
      };
      const auto turn = [](double a) { return a < 0 ? a + 2 * M_PI : a; };
      const double start = angle(clicks_[0].at);
      const bool forward = turn(angle(clicks_[2].at) - start) < turn(angle(clicks_[1].at) - start);
      const sketch::Id a = point_of(s, clicks_[0]);
      const sketch::Id b = point_of(s, clicks_[1]);
      const sketch::Id centre = s.add_point(circle->first);
      s.add_arc(centre, forward ? a : b, forward ? b : a, circle->second);
    }
    clicks_.clear();
    return circle.has_value();
  }
  return false;
}

}  // namespace lostline::app
