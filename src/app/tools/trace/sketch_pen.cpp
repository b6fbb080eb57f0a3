#include "tools/trace/sketch_pen.h"

#include <QCoreApplication>
#include <cmath>

#include "bench/sketch_marks.h"
#include "sketch/curve_kind.h"

namespace lostline::app {
namespace {

constexpr double kSnap = 9;   // pixels
constexpr double kLevel = 6;  // pixels off the level of the last place
using Spots = std::vector<sketch::Spot>;
using Drawn = Result<std::vector<sketch::Id>>;

QString tr(const char* text) {
  return QCoreApplication::translate("lostline::app::SketchPen", text);
}

Drawn together() {
  return Error{ErrorCode::InvalidInput, "These places fall together. Click them apart."};
}

Drawn draw_line(sketch::Sketch& s, const Spots& at, int, bool) {
  if ((at[1].at - at[0].at).norm() < 1e-6) return together();
  const sketch::Id a = sketch::point_at(s, at[0]);
  return std::vector<sketch::Id>{s.add_line(a, sketch::point_at(s, at[1]))};
}
Drawn draw_circle(sketch::Sketch& s, const Spots& at, int, bool) {
  const double radius = (at[1].at - at[0].at).norm();
  if (radius < 1e-6) return together();
  const sketch::Id circle = s.add_circle(sketch::point_at(s, at[0]), radius);
  if (at[1].point != 0) s.add_constraint(sketch::ConstraintType::Coincident, at[1].point, circle);
  return std::vector<sketch::Id>{circle};
}

}  // namespace

const std::vector<Pen>& pens() {
  static const std::vector<Pen> all{
      {"draw line",
       QT_TRANSLATE_NOOP("tools", "line"),
       QT_TRANSLATE_NOOP("tools", "Draw lines, snapping to the section"),
       Qt::Key_L,
       {QT_TRANSLATE_NOOP("tools", "click its start"),
        QT_TRANSLATE_NOOP("tools", "click its end; Esc ends the chain")},
       2,
       draw_line},
      {"draw arc",
       QT_TRANSLATE_NOOP("tools", "arc"),
       QT_TRANSLATE_NOOP("tools", "Draw an arc: start, end, a place on it"),
       Qt::Key_A,
       {QT_TRANSLATE_NOOP("tools", "click its start"), QT_TRANSLATE_NOOP("tools", "click its end"),
        QT_TRANSLATE_NOOP("tools", "click a place on it")},
       3,
       [](sketch::Sketch& s, const Spots& at, int, bool) {
         return sketch::draw_round_through(s, at[0], at[2], at[1], false);
       }},
      {"draw circle",
       QT_TRANSLATE_NOOP("tools", "circle"),
       QT_TRANSLATE_NOOP("tools", "Draw a circle: centre, rim"),
       Qt::Key_C,
       {QT_TRANSLATE_NOOP("tools", "click its centre"),
        QT_TRANSLATE_NOOP("tools", "click its rim")},
       2,
       draw_circle},
      {"draw arc about",
       QT_TRANSLATE_NOOP("tools", "arc about"),
       QT_TRANSLATE_NOOP("tools", "Draw an arc: centre, start, end"),
       Qt::Key_B,
       {QT_TRANSLATE_NOOP("tools", "click its centre"),
        QT_TRANSLATE_NOOP("tools", "click its start"), QT_TRANSLATE_NOOP("tools", "click its end")},
       3,
       [](sketch::Sketch& s, const Spots& at, int, bool) {
         return sketch::draw_arc_about(s, at[0], at[1], at[2].at);
       }},
      {"draw circle through",
       QT_TRANSLATE_NOOP("tools", "circle by 3"),
       QT_TRANSLATE_NOOP("tools", "Draw a circle through three places"),
       Qt::Key_3,
       {QT_TRANSLATE_NOOP("tools", "click a place on its rim"),
        QT_TRANSLATE_NOOP("tools", "click a second place on its rim"),
        QT_TRANSLATE_NOOP("tools", "click a third place on its rim")},
       3,
       [](sketch::Sketch& s, const Spots& at, int, bool) {
         return sketch::draw_round_through(s, at[0], at[1], at[2], true);
       }},
      {"draw ellipse",
       QT_TRANSLATE_NOOP("tools", "ellipse"),
       QT_TRANSLATE_NOOP("tools", "Draw an ellipse: centre, end of an axis, a place on it"),
       Qt::Key_I,
       {QT_TRANSLATE_NOOP("tools", "click its centre"),
        QT_TRANSLATE_NOOP("tools", "click the end of an axis"),
        QT_TRANSLATE_NOOP("tools", "click a place on it")},
       3,
       [](sketch::Sketch& s, const Spots& at, int, bool) {
         return sketch::draw_ellipse(s, at[0], at[1].at, at[2].at);
       }},
      {"draw rectangle",
       QT_TRANSLATE_NOOP("tools", "rectangle"),
       QT_TRANSLATE_NOOP("tools", "Draw a level rectangle: two corners"),
       Qt::Key_R,
       {QT_TRANSLATE_NOOP("tools", "click a corner"),
        QT_TRANSLATE_NOOP("tools", "click the opposite corner")},
       2,
       [](sketch::Sketch& s, const Spots& at, int, bool) {
         return sketch::draw_rectangle(s, at[0], at[1]);
       }},
      {"draw turned rectangle",
       QT_TRANSLATE_NOOP("tools", "turned rectangle"),
       QT_TRANSLATE_NOOP("tools",
                         "Draw a rectangle in any direction: one side, how far it reaches"),
       Qt::Key_Q,
       {QT_TRANSLATE_NOOP("tools", "click a corner"),
        QT_TRANSLATE_NOOP("tools", "click the next corner"),
        QT_TRANSLATE_NOOP("tools", "click how far it reaches")},
       3,
       [](sketch::Sketch& s, const Spots& at, int, bool) {
         return sketch::draw_rectangle(s, at[0], at[1], at[2].at);
       }},
      {"draw slot",
       QT_TRANSLATE_NOOP("tools", "slot"),
       QT_TRANSLATE_NOOP("tools", "Draw a slot: the centres of its ends, a place on its edge"),
       Qt::Key_S,
       {QT_TRANSLATE_NOOP("tools", "click the centre of an end"),
        QT_TRANSLATE_NOOP("tools", "click the centre of the other end"),
        QT_TRANSLATE_NOOP("tools", "click a place on its edge")},
       3,
       [](sketch::Sketch& s, const Spots& at, int, bool) {
         return sketch::draw_slot(s, at[0], at[1], at[2].at);
       }},
      {"draw polygon",
       QT_TRANSLATE_NOOP("tools", "polygon"),
       QT_TRANSLATE_NOOP("tools", "Draw a regular polygon: centre, corner; sides in the field"),
       Qt::Key_P,
       {QT_TRANSLATE_NOOP("tools", "click its centre"),
        QT_TRANSLATE_NOOP("tools", "click a corner")},
       2,
       [](sketch::Sketch& s, const Spots& at, int sides, bool) {
         return sketch::draw_polygon(s, at[0], at[1], sides);
       }},
      {"draw spline",
       QT_TRANSLATE_NOOP("tools", "spline"),
       QT_TRANSLATE_NOOP("tools", "Draw a spline through places; Esc ends it, its start closes it"),
       Qt::Key_N,
       {QT_TRANSLATE_NOOP("tools", "click its start"),
        QT_TRANSLATE_NOOP("tools", "click the next place; Esc ends it, its start closes it")},
       0,
       [](sketch::Sketch& s, const Spots& at, int, bool closed) {
         return sketch::draw_spline(s, at, closed);
       }},
      {"draw along",
       QT_TRANSLATE_NOOP("tools", "along the section"),
       QT_TRANSLATE_NOOP("tools",
                         "Follow the section from click to click: each stretch as the fewest "
                         "curves"),
       Qt::Key_U,
       {QT_TRANSLATE_NOOP("tools", "click where on the section it begins"),
        QT_TRANSLATE_NOOP("tools",
                          "go along the section and click where a stretch ends; Esc ends "
                          "it, its start closes it")},
       0,
       nullptr,
       true},
      {"draw point",
       QT_TRANSLATE_NOOP("tools", "point"),
       QT_TRANSLATE_NOOP("tools", "Draw points"),
       Qt::Key_D,
       {QT_TRANSLATE_NOOP("tools", "click where it stands")},
       1,
       [](sketch::Sketch& s, const Spots& at, int, bool) -> Drawn {
         if (at[0].point == 0) return std::vector<sketch::Id>{s.add_own_point(at[0].at)};
         for (sketch::Point& p : s.points) p.own |= p.id == at[0].point;
         return std::vector<sketch::Id>{};
       }}};
  return all;
}

void SketchPen::start(const QString& command) {
  clicks_.clear();
  follow_.stop();
  pen_ = nullptr;
  for (const Pen& pen : pens()) {
    if (command == QLatin1String(pen.command)) pen_ = &pen;
  }
}

bool SketchPen::isLine() const { return pen_ != nullptr && pen_->draw == draw_line; }

bool SketchPen::stop(sketch::Sketch& sketch, bool& changed) {
  if (pen_ == nullptr) return false;
  if (pen_->follows) {
    if (!follow_.stop()) pen_ = nullptr;
    return true;
  }
  if (pen_->clicks == 0 && clicks_.size() > 1) {
    const auto drawn = draw(sketch, false);
    changed = drawn && *drawn;
  } else if (clicks_.empty()) {
    pen_ = nullptr;
  }
  clicks_.clear();
  return true;
}

QString SketchPen::hint() const {
  if (pen_ == nullptr) return {};
  const std::size_t next = pen_->follows ? (follow_.under_way() ? 1 : 0)
                                         : std::min(clicks_.size(), pen_->hints.size() - 1);
  const QString does = tr("%1: %2").arg(QCoreApplication::translate("tools", pen_->title),
                                        QCoreApplication::translate("tools", pen_->hints[next]));
  return follow_.told().isEmpty() ? does : follow_.told() + QLatin1Char('\n') + does;
}

std::optional<PenSpot> SketchPen::snap(const Camera& camera, const project::TracedSketch& traced,
                                       const QPointF& at) const {
  const auto screen = [&](const Vec2& p) {
    return camera.toScreen(traced.base.to_space(p, traced.level));
  };
  const auto away = [&](const Vec2& p) {
    const QPointF d = screen(p) - at;
    return std::hypot(d.x(), d.y());
  };
  PenSpot best;
  double nearest = kSnap;
  const auto consider = [&](const PenSpot& spot) {
    if (away(spot.at) >= nearest) return;
    nearest = away(spot.at);
    best = spot;
  };
  for (const sketch::Point& p : traced.sketch.points) consider({{p.id, p.at}, 0, {}});
  consider({{sketch::kOrigin, Vec2::Zero()}, 0, {}});
  // The start of a spline that is being drawn closes it.
  if (pen_ != nullptr && pen_->clicks == 0 && clicks_.size() > 2) consider(clicks_.front());
  if (nearest < kSnap) return best;
  const auto free = plane_point(camera, traced.base, traced.level, at);
  if (!free) return std::nullopt;
  for (const sketch::Entity& e : traced.sketch.entities) {
    PenSpot on{{0, *free}, e.id, {}};
    sketch::placed(traced.sketch, e)->drift(*free, &on.at);
    consider(on);
  }
  if (nearest < kSnap) return best;
  for (const auto& line : traced.section.polylines) {
    for (const Vec2& p : line.points) consider({{0, p}, 0, {}});
  }
  if (nearest < kSnap) return best;
  PenSpot spot{{0, *free}, 0, {}};
  if (!clicks_.empty()) {
    const Vec2& last = clicks_.back().at;
    const PenSpot flat{{0, {free->x(), last.y()}}, 0, sketch::ConstraintType::Horizontal};
    const PenSpot upright{{0, {last.x(), free->y()}}, 0, sketch::ConstraintType::Vertical};
    nearest = kLevel;
    consider(flat);
    consider(upright);
    if (nearest < kLevel) spot = best;
  }
  return spot;
}

Result<bool> SketchPen::draw(sketch::Sketch& sketch, bool closed) {
  Spots spots(clicks_.begin(), clicks_.end());
  sketch::Sketch trial = sketch;
  // A point that undo or a fit took away meanwhile is made again.
  for (std::size_t k = 0; k < clicks_.size(); ++k) {
    if (spots[k].point != 0 && spots[k].point != sketch::kOrigin &&
        trial.find_point(spots[k].point) == nullptr)
      spots[k].point = 0;
  }
  const auto drawn = pen_->draw(trial, spots, sides_, closed);
  if (!drawn) return drawn.error();
  // New points that were snapped on a curve stay on it.
  for (const PenSpot& spot : clicks_) {
    if (spot.on == 0 || spot.point != 0 || trial.find_entity(spot.on) == nullptr) continue;
    for (const sketch::Point& p : trial.points) {
      if (sketch.find_point(p.id) != nullptr || (p.at - spot.at).norm() > 1e-9) continue;
      trial.add_constraint(sketch::ConstraintType::Coincident, p.id, spot.on);
      break;
    }
  }
  if (isLine() && clicks_.back().level) trial.add_constraint(*clicks_.back().level, drawn->front());
  sketch = std::move(trial);
  return true;
}

void SketchPen::move(const Camera& camera, const project::TracedSketch& traced, const QPointF& at) {
  if (follows()) follow_.move(camera, traced, at);
}

Result<bool> SketchPen::click(const Camera& camera, project::TracedSketch& traced,
                              const QPointF& at) {
  if (follows()) return follow_.click(camera, traced, at);
  const auto spot = pen_ != nullptr ? snap(camera, traced, at) : std::nullopt;
  if (!spot) return false;
  const bool closes =
      pen_->clicks == 0 && clicks_.size() > 2 && (spot->at - clicks_.front().at).norm() < 1e-9;
  if (!closes) clicks_.push_back(*spot);
  if (!closes && (pen_->clicks == 0 || static_cast<int>(clicks_.size()) < pen_->clicks))
    return false;
  auto drawn = draw(traced.sketch, closes);
  if (!drawn) {
    clicks_.pop_back();
    return drawn;
  }
  if (isLine()) {
    // The chain goes on from its end, until it meets what was there.
    const sketch::Entity& line = traced.sketch.entities.back();
    const bool met = clicks_.back().point != 0;
    const Vec2 end = clicks_.back().at;
    clicks_.clear();
    if (!met) clicks_.push_back({{line.b, end}, 0, {}});
  } else {
    clicks_.clear();
  }
  return drawn;
}

std::vector<QPolygonF> SketchPen::preview(const Camera& camera, const project::TracedSketch& traced,
                                          const QPointF& at) const {
  if (pen_ == nullptr) return {};
  const auto screen = [&](const Vec2& p) {
    return camera.toScreen(traced.base.to_space(p, traced.level));
  };
  std::vector<QPolygonF> lines;
  const auto mark_at = [&](const Vec2& p) {
    const QPointF mark = screen(p);
    QPolygonF square;
    for (const auto& [x, y] : {std::pair(-4, -4), {4, -4}, {4, 4}, {-4, 4}, {-4, -4}})
      square << mark + QPointF(x, y);
    lines.push_back(square);
  };
  if (pen_->follows) {
    for (const std::vector<Vec2>& curve : follow_.ahead()) {
      QPolygonF line;
      for (const Vec2& p : curve) line << screen(p);
      lines.push_back(line);
    }
    if (follow_.place()) mark_at(*follow_.place());
    return lines;
  }
  const auto spot = snap(camera, traced, at);
  if (!spot) return {};
  Spots spots(clicks_.begin(), clicks_.end());
  spots.push_back(*spot);
  if (pen_->clicks == 0 || static_cast<int>(spots.size()) == pen_->clicks) {
    sketch::Sketch scratch;
    for (sketch::Spot& s : spots) s.point = 0;
    if (spots.size() > 1 && pen_->draw(scratch, spots, sides_, false)) {
      for (const sketch::Entity& e : scratch.entities) {
        if (e.construction) continue;
        QPolygonF line;
        for (const Vec2& p : sketch::placed(scratch, e)->chords()) line << screen(p);
        lines.push_back(line);
      }
    }
  } else if (spots.size() > 1) {
    QPolygonF line;
    for (const sketch::Spot& s : spots) line << screen(s.at);
    lines.push_back(line);
  }
  // A small square where it snaps.
  if (spot->point != 0 || spot->on != 0 || spot->level) mark_at(spot->at);
  return lines;
}

}  // namespace lostline::app
