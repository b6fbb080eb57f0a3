#include "tools/trace/section_follow.h"

#include <QCoreApplication>
#include <cmath>

#include "bench/sketch_marks.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::app {
namespace {

constexpr double kNear = 14;  // pixels: the pointer is on the section
constexpr double kJoin = 9;   // pixels: on a point of the sketch, or back at the start
// Points of a stretch that is shown as curves while the pointer moves; of a longer one its points
// are shown, since resolving them would hold up the window.
constexpr std::size_t kAtOnce = 2500;

QString tr(const char* text) {
  return QCoreApplication::translate("lostline::app::SectionFollow", text);
}

double off_screen(const Camera& camera, const project::TracedSketch& traced, const Vec2& p,
                  const QPointF& at) {
  const QPointF d = camera.toScreen(traced.base.to_space(p, traced.level)) - at;
  return std::hypot(d.x(), d.y());
}

/// The point of the sketch at a place of the screen; 0 without.
sketch::Id point_near(const Camera& camera, const project::TracedSketch& traced,
                      const QPointF& at) {
  sketch::Id best = 0;
  double nearest = kJoin;
  for (const sketch::Point& p : traced.sketch.points) {
    const double off = off_screen(camera, traced, p.at, at);
    if (off >= nearest) continue;
    nearest = off;
    best = p.id;
  }
  return best;
}

section::ResolveOptions options_of(const project::TracedSketch& traced) {
  section::ResolveOptions options;
  options.tolerance = traced.tolerance;
  return options;
}

}  // namespace

bool SectionFollow::stop() {
  ahead_.clear();
  told_.clear();
  place_.reset();
  const bool was = at_.has_value();
  at_.reset();
  return was;
}

std::optional<sketch::SectionPlace> SectionFollow::place_at(const Camera& camera,
                                                            const project::TracedSketch& traced,
                                                            const QPointF& at) {
  const auto p = plane_point(camera, traced.base, traced.level, at);
  const auto place = p ? sketch::nearest_place(traced.section, *p) : std::nullopt;
  if (!place) return std::nullopt;
  const Vec2& there = traced.section.polylines[place->line].points[place->point];
  return off_screen(camera, traced, there, at) < kNear ? place : std::nullopt;
}

bool SectionFollow::closes(const Camera& camera, const project::TracedSketch& traced) const {
  const auto& run = traced.section.polylines[at_->run.stretch.line];
  const auto n = static_cast<long>(run.points.size());
  if (!run.closed || std::labs(at_->run.stretch.to - at_->begun) < n / 2) return false;
  const auto at = [&](long k) { return run.points[static_cast<std::size_t>((k % n + n) % n)]; };
  const QPointF start = camera.toScreen(traced.base.to_space(at(at_->begun), traced.level));
  return off_screen(camera, traced, at(at_->run.stretch.to), start) < kJoin;
}

void SectionFollow::move(const Camera& camera, const project::TracedSketch& traced,
                         const QPointF& at) {
  ahead_.clear();
  told_.clear();
  place_.reset();
  const auto place = place_at(camera, traced, at);
  if (!place) return;
  place_ = traced.section.polylines[place->line].points[place->point];
  if (!at_ || place->line != at_->run.stretch.line) return;
  at_->run.stretch.go_to(traced.section, place->point);
  sketch::SectionStretch ahead = at_->run.stretch;
  if (closes(camera, traced)) {
    const auto n = static_cast<long>(traced.section.polylines[ahead.line].points.size());
    ahead.to = at_->begun + (ahead.to > at_->begun ? n : -n);
  }
  const section::Polyline points = sketch::points_along(traced.section, ahead);
  sketch::Sketch scratch;
  const auto drawn = points.points.size() > kAtOnce
                         ? Result<std::vector<sketch::Id>>(std::vector<sketch::Id>{})
                         : sketch::draw_along(scratch, traced.section, ahead, options_of(traced));
  if (!drawn) return;
  if (drawn->empty()) {
    ahead_.push_back(points.points);
    return;
  }
  QStringList kinds;
  for (const sketch::Entity& e : scratch.entities) {
    ahead_.push_back(sketch::placed(scratch, e)->chords());
    kinds << core_word(sketch::kind_of(e).key());
  }
  section::Section evidence;
  evidence.polylines.push_back(points);
  const sketch::Drift drift = sketch::measure_drift(scratch, evidence, 1e300);
  told_ = tr("%1 \u00b7 RMS %2 \u00b7 greatest %3")
              .arg(kinds.join(QStringLiteral(", ")), length_shown(drift.rms),
                   length_shown(std::abs(drift.greatest)));
}

Result<bool> SectionFollow::click(const Camera& camera, project::TracedSketch& traced,
                                  const QPointF& at) {
  if (traced.section.polylines.empty())
    return Error{ErrorCode::InvalidInput,
                 "This sketch has no section that could be followed. Draw with the other pens."};
  const auto place = place_at(camera, traced, at);
  if (!place) return Error{ErrorCode::InvalidInput, "No section lies here. Click on the section."};
  if (!at_) {
    const auto k = static_cast<long>(place->point);
    const sketch::Id there = point_near(camera, traced, at);
    at_ = Under{{{place->line, k, k}, there, there}, k};
    return false;
  }
  if (place->line != at_->run.stretch.line)
    return Error{ErrorCode::InvalidInput,
                 "This is another outline. Esc ends the one that is followed."};
  at_->run.stretch.go_to(traced.section, place->point);
  sketch::AlongRun run = at_->run;
  sketch::Sketch trial = traced.sketch;
  sketch::Id to = point_near(camera, traced, at);
  const bool closed = closes(camera, traced);
  if (closed) {
    const auto n = static_cast<long>(traced.section.polylines[run.stretch.line].points.size());
    run.stretch.to = at_->begun + (run.stretch.to > at_->begun ? n : -n);
    to = trial.find_point(run.first) != nullptr ? run.first : 0;
  }
  const bool joins = to != 0 && to != run.last;
  const auto drawn = run.draw(trial, traced.section, options_of(traced), to);
  if (!drawn) return drawn.error();
  at_->run = run;
  traced.sketch = std::move(trial);
  ahead_.clear();
  told_.clear();
  if (closed || joins) at_.reset();
  return true;
}

}  // namespace lostline::app
