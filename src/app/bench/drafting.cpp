#include "bench/drafting.h"

#include <QCoreApplication>
#include <QPainterPath>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>

#include "base/text.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/stated.h"
#include "sketch/curve_kind.h"

namespace lostline::app {
namespace {

using sketch::Constraint;
using sketch::ConstraintType;

constexpr double kOffset = 26;      // pixels of a dimension line from what it measures
constexpr double kArrow = 8;        // pixels
constexpr double kRoom = 30;        // pixels of a curve that has marks beside it: about two of them
constexpr std::size_t kMarks = 80;  // constraints; with more only those of the picks are marked

/// The mark of a constraint, in a square from -1 to 1, y downwards.
struct Mark {
  ConstraintType type;
  std::vector<QPolygonF> lines;
  std::vector<double> circles = {};  ///< radii about the middle
};

const std::vector<Mark>& marks() {
  static const std::vector<Mark> all{
      {ConstraintType::Coincident, {}, {0.35}},
      {ConstraintType::Horizontal, {{{{-0.9, 0}, {0.9, 0}}}}},
      {ConstraintType::Vertical, {{{{0, -0.9}, {0, 0.9}}}}},
      {ConstraintType::Parallel, {{{{-0.8, 0.8}, {0.1, -0.8}}}, {{{-0.1, 0.8}, {0.8, -0.8}}}}},
      {ConstraintType::Perpendicular, {{{{-0.9, 0.8}, {0.9, 0.8}}}, {{{0, 0.8}, {0, -0.9}}}}},
      {ConstraintType::Tangent, {{{{-0.9, 0.7}, {0.9, 0.7}}}}, {0.65}},
      {ConstraintType::Concentric, {}, {0.4, 0.85}},
      {ConstraintType::Equal, {{{{-0.8, -0.4}, {0.8, -0.4}}}, {{{-0.8, 0.4}, {0.8, 0.4}}}}},
      {ConstraintType::Midpoint, {{{{-0.8, 0.7}, {0, -0.7}, {0.8, 0.7}, {-0.8, 0.7}}}}},
      {ConstraintType::Symmetric,
       {{{{0, -0.9}, {0, 0.9}}},
        {{{-0.4, -0.5}, {-0.9, 0}, {-0.4, 0.5}}},
        {{{0.4, -0.5}, {0.9, 0}, {0.4, 0.5}}}}},
      {ConstraintType::Collinear, {{{{-0.9, 0}, {-0.15, 0}}}, {{{0.15, 0}, {0.9, 0}}}}, {0.12}},
      {ConstraintType::Smooth,
       {{{{-0.9, 0.7}, {-0.4, 0.5}, {0, 0}, {0.4, -0.5}, {0.9, -0.7}}}},
       {0.2}},
      {ConstraintType::Fixed,
       {{{{-0.8, 0.3}, {0.8, 0.3}}},
        {{{0, 0.3}, {0, -0.6}}},
        {{{-0.6, 0.3}, {-0.9, 0.8}}},
        {{{0, 0.3}, {-0.3, 0.8}}},
        {{{0.6, 0.3}, {0.3, 0.8}}}}},
  };
  return all;
}

QPointF turned(const QPointF& v) { return {-v.y(), v.x()}; }
double length(const QPointF& v) { return std::hypot(v.x(), v.y()); }

/// One pass over a sketch.
class Draughtsman {
 public:
  Draughtsman(const Drafting& drafting, QPainter& painter, const Camera& camera)
      : d_(drafting), painter_(painter), camera_(camera) {
    Eigen::AlignedBox2d box;
    for (const sketch::Point& p : d_.sketch.points) box.extend(p.at);
    if (!box.isEmpty()) middle_ = box.center();
  }
  std::vector<Drafting::Placed> draw() {
    for (const Constraint& c : d_.sketch.constraints) {
      if (c.is_dimension()) dimension(c);
    }
    const bool few = d_.sketch.constraints.size() <= kMarks;
    for (const Constraint& c : d_.sketch.constraints) {
      if (!c.is_dimension() &&
          (few || c.id == d_.chosen || d_.picked.contains(c.first) || d_.picked.contains(c.second)))
        mark(c);
    }
    if (const Constraint* c = d_.sketch.find_constraint(d_.chosen)) {
      for (const sketch::Id id : {c->first, c->second, c->third}) name(id);
    }
    return std::move(placed_);
  }

 private:
  [[nodiscard]] QPointF pixel(const Vec2& p) const {
    return camera_.toScreen(d_.base.to_space(p, d_.level));
  }
  [[nodiscard]] std::optional<Vec2> point(sketch::Id id) const {
    if (id == sketch::kOrigin || d_.sketch.find_point(id) != nullptr) return d_.sketch.position(id);
    return std::nullopt;
  }
  /// Two points of a straight entity or an axis.
  [[nodiscard]] std::optional<std::pair<Vec2, Vec2>> line(sketch::Id id) const {
    if (id == sketch::kXAxis) return std::pair(Vec2(0, 0), Vec2(1, 0));
    if (id == sketch::kYAxis) return std::pair(Vec2(0, 0), Vec2(0, 1));
    const sketch::Entity* e = d_.sketch.find_entity(id);
    if (!sketch::is_straight(e)) return std::nullopt;
    return std::pair(d_.sketch.position(e->a), d_.sketch.position(e->b));
  }
  [[nodiscard]] static Vec2 foot(const Vec2& p, const std::pair<Vec2, Vec2>& l) {
    const Vec2 u = (l.second - l.first).normalized();
    return l.first + (p - l.first).dot(u) * u;
  }
  /// The middle of a curve, or a point.
  [[nodiscard]] std::optional<Vec2> anchor(sketch::Id id) const {
    if (const auto p = point(id)) return p;
    const sketch::Entity* e = d_.sketch.find_entity(id);
    if (e == nullptr) return std::nullopt;
    const auto curve = sketch::placed(d_.sketch, *e);
    return curve->closed() ? curve->start() : curve->middle();
  }
  [[nodiscard]] QColor colour(const Constraint& c, bool decided) const {
    if (c.id == d_.chosen || d_.clashing.contains(c.id)) return role::red_pencil;
    return decided ? role::ink : role::graphite;
  }

  void dimension(const Constraint& c) {
    painter_.setPen(QPen(colour(c, c.driving), c.driving ? 1.3 : 0.9));
    painter_.setBrush(Qt::NoBrush);
    const sketch::Entity* e = d_.sketch.find_entity(c.first);
    if (c.type == ConstraintType::Radius && e != nullptr) return radial(c, *e);
    if (c.type == ConstraintType::Angle) return angular(c);
    if (c.type == ConstraintType::ArcLength && e != nullptr) return along_arc(c, *e);
    if (const auto ends = measured(c)) {
      const Vec2 way = c.type == ConstraintType::DistanceX   ? Vec2::UnitX()
                       : c.type == ConstraintType::DistanceY ? Vec2::UnitY()
                                                             : Vec2(ends->second - ends->first);
      linear(c, ends->first, ends->second, way);
    }
  }
  /// What a distance runs between.
  [[nodiscard]] std::optional<std::pair<Vec2, Vec2>> measured(const Constraint& c) const {
    const auto first = point(c.first);
    const auto second = point(c.second);
    const auto first_line = line(c.first);
    const auto second_line = line(c.second);
    if (c.second == 0) return first_line;
    if (first && second) return std::pair(*first, *second);
    if (first && second_line) return std::pair(*first, foot(*first, *second_line));
    if (second && first_line) return std::pair(foot(*second, *first_line), *second);
    if (first_line && second_line) {
      // From the middle of the one that is no axis.
      const bool axis = c.first == sketch::kXAxis || c.first == sketch::kYAxis;
      const auto& from = axis ? *second_line : *first_line;
      const Vec2 middle = (from.first + from.second) / 2;
      return std::pair(middle, foot(middle, axis ? *first_line : *second_line));
    }
    return std::nullopt;
  }
  void arrow(const QPointF& tip, const QPointF& from) {
    const QPointF along = tip - from;
    const double l = length(along);
    if (!(l > 1e-6)) return;
    const QPointF d = along / l;
    const QPointF side = turned(d) * kArrow * 0.22;
    painter_.save();
    painter_.setBrush(painter_.pen().color());
    painter_.drawPolygon(QPolygonF{{tip, tip - kArrow * d + side, tip - kArrow * d - side}});
    painter_.restore();
  }
  /// The text of a dimension on paper of its own, centred at a place.
  void text(const Constraint& c, const QPointF& at) {
    const QString said = dimension_text(d_.sketch, c, d_.turned);
    painter_.setFont(body_font(12, c.driving, !c.driving));
    const double wide = painter_.fontMetrics().horizontalAdvance(said) + 8;
    const QRectF box(at.x() - wide / 2, at.y() - 9, wide, 18);
    QColor paper = role::card;
    paper.setAlpha(230);
    painter_.fillRect(box, paper);
    painter_.drawText(box, Qt::AlignCenter, said);
    placed_.push_back({c.id, box, true});
  }
  /// A dimension line along `way` beside what it measures from a to b.
  void linear(const Constraint& c, const Vec2& a, const Vec2& b, const Vec2& way) {
    const double l = std::abs((b - a).dot(way.normalized()));
    if (!(l > 1e-9)) return;
    const Vec2 u = ((b - a).dot(way) < 0 ? -1 : 1) * way.normalized();
    Vec2 n(-u.y(), u.x());
    if (((a + b) / 2 - middle_).dot(n) < 0) n = -n;
    double off = kOffset / camera_.scale;
    double along = l / 2;
    if (const auto place = d_.text_places.find(c.id); place != d_.text_places.end()) {
      off = (place->second - a).dot(n);
      along = (place->second - a).dot(u);
    }
    const QPointF pa = pixel(a);
    const QPointF pb = pixel(b);
    const QPointF qa = pixel(a + off * n);
    const QPointF qb = pixel(a + l * u + off * n);
    const QPointF at = pixel(a + off * n + along * u);
    for (const auto& [p, q] : {std::pair{pa, qa}, std::pair{pb, qb}}) {
      const double reach = length(q - p);
      if (reach > 6) painter_.drawLine(p + (q - p) * (3 / reach), q + (q - p) * (4 / reach));
    }
    // Beyond the ends where the text stands there; arrows from outside where they have no room.
    painter_.drawLine(along < 0 ? at : qa, along > l ? at : qb);
    const bool inside = length(qb - qa) > 3 * kArrow;
    const QPointF out = (qb - qa) / std::max(length(qb - qa), 1e-9) * 2 * kArrow;
    arrow(qa, inside ? qb : qa - out);
    arrow(qb, inside ? qa : qb + out);
    if (!inside) {
      painter_.drawLine(qa, qa - out);
      painter_.drawLine(qb, qb + out);
    }
    text(c, at);
  }
  void radial(const Constraint& c, const sketch::Entity& e) {
    const Vec2 centre = d_.sketch.position(e.centre);
    const auto curve = sketch::placed(d_.sketch, e);
    Vec2 direction = Vec2(1, 1).normalized();
    if (!curve->closed()) direction = (curve->middle() - centre).normalized();
    double reach = e.radius + kOffset / camera_.scale;
    if (const auto place = d_.text_places.find(c.id); place != d_.text_places.end()) {
      const Vec2 to = place->second - centre;
      if (to.norm() > 1e-9) direction = to.normalized();
      reach = to.norm();
    }
    const QPointF rim = pixel(centre + e.radius * direction);
    const QPointF at = pixel(centre + reach * direction);
    const QPointF from = curve->closed() ? pixel(centre - e.radius * direction) : pixel(centre);
    painter_.drawLine(from, reach > e.radius ? at : rim);
    arrow(rim, from);
    if (curve->closed()) arrow(from, rim);
    text(c, at);
  }
  /// A bow with arrows at both its ends, about a place.
  void bow(const Constraint& c, const Vec2& apex, double radius, double start, double sweep) {
    const auto on = [&](double share) {
      const double angle = start + share * sweep;
      return pixel(apex + radius * Vec2(std::cos(angle), std::sin(angle)));
    };
    QPolygonF arc;
    for (int k = 0; k <= 24; ++k) arc << on(k / 24.0);
    painter_.drawPolyline(arc);
    arrow(arc.front(), arc[2]);
    arrow(arc.back(), arc[arc.size() - 3]);
    text(c, on(0.5));
  }
  void along_arc(const Constraint& c, const sketch::Entity& e) {
    const Vec2 centre = d_.sketch.position(e.centre);
    const Vec2 a = d_.sketch.position(e.a) - centre;
    double radius = e.radius + kOffset / camera_.scale;
    if (const auto place = d_.text_places.find(c.id); place != d_.text_places.end())
      radius = std::max((place->second - centre).norm(), 1e-9);
    const double sweep = sketch::measured_value(d_.sketch, c) / std::max(e.radius, 1e-9);
    bow(c, centre, radius, std::atan2(a.y(), a.x()), sweep);
  }
  void angular(const Constraint& c) {
    const auto first = line(c.first);
    const auto second = line(c.second);
    if (!first || !second) return;
    const Vec2 u = (first->second - first->first).normalized();
    const Vec2 v = (second->second - second->first).normalized();
    const double cross = u.x() * v.y() - u.y() * v.x();
    if (std::abs(cross) < 1e-6) return;
    const Vec2 between = second->first - first->first;
    const Vec2 apex = first->first + (between.x() * v.y() - between.y() * v.x()) / cross * u;
    // Along each line towards where it is drawn.
    const auto towards = [&](const std::pair<Vec2, Vec2>& l, const Vec2& d) {
      return ((l.first + l.second) / 2 - apex).dot(d) < 0 ? Vec2(-d) : d;
    };
    const Vec2 a = towards(*first, u);
    const Vec2 b = towards(*second, v);
    double radius = 46 / camera_.scale;
    if (const auto place = d_.text_places.find(c.id); place != d_.text_places.end())
      radius = std::max((place->second - apex).norm(), 1e-9);
    const double start = std::atan2(a.y(), a.x());
    double sweep = std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b));
    if (std::abs(sweep) < 1e-9) sweep = 1e-9;
    bow(c, apex, radius, start, sweep);
  }

  /// Of a curve on the screen, pixels; a point has all the room that it wants.
  [[nodiscard]] double shown_length(sketch::Id id) const {
    const sketch::Entity* e = d_.sketch.find_entity(id);
    if (e == nullptr) return kRoom;
    const auto curve = sketch::placed(d_.sketch, *e);
    const Vec2 middle = curve->at(0.5 * curve->range());
    return ((curve->at(0) - middle).norm() + (curve->at(curve->range()) - middle).norm()) *
           camera_.scale;
  }
  /// Marks that would hide the drawing are left out until it is seen closer, or asked for by
  /// picking what they hold.
  void mark(const Constraint& c) {
    const auto found = std::find_if(marks().begin(), marks().end(),
                                    [&](const Mark& m) { return m.type == c.type; });
    if (found == marks().end()) return;
    std::vector<sketch::Id> at{c.first, c.second};
    if (c.type == ConstraintType::Coincident || c.type == ConstraintType::Midpoint ||
        c.type == ConstraintType::Concentric)
      at = {c.first};
    if (c.type == ConstraintType::Tangent || c.type == ConstraintType::Smooth) {  // where they meet
      const sketch::Entity* a = d_.sketch.find_entity(c.first);
      const sketch::Entity* b = d_.sketch.find_entity(c.second);
      for (const sketch::Id end : a != nullptr ? std::array{a->a, a->b} : std::array{0U, 0U}) {
        if (b != nullptr && end != 0 && (end == b->a || end == b->b)) at = {end};
      }
    }
    const bool asked = c.id == d_.chosen || d_.clashing.contains(c.id) ||
                       d_.picked.contains(c.first) || d_.picked.contains(c.second);
    for (const sketch::Id id : at) {
      const auto place = id != 0 ? anchor(id) : std::nullopt;
      if (!place || (!asked && shown_length(id) < kRoom)) continue;
      // Beside the line, away from the middle; several in a row.
      QPointF out = pixel(*place) - pixel(middle_);
      if (length(out) < 1e-6) out = {1, -1};
      out /= length(out);
      const QPointF centre =
          pixel(*place) - 14 * out + turned(out) * 15 * static_cast<double>(stacked_[id]++);
      const QRectF box(centre.x() - 7, centre.y() - 7, 14, 14);
      const auto covers = [&](const Drafting::Placed& other) {
        return !other.dimension && other.box.intersects(box);
      };
      if (!asked && std::any_of(placed_.begin(), placed_.end(), covers)) continue;
      QColor paper = role::card;
      paper.setAlpha(215);
      painter_.setPen(Qt::NoPen);
      painter_.setBrush(paper);
      painter_.drawRoundedRect(box, 2, 2);
      painter_.setPen(QPen(colour(c, false), 1.3));
      painter_.setBrush(Qt::NoBrush);
      for (const QPolygonF& polygon : found->lines) {
        QPolygonF moved;
        for (const QPointF& p : polygon) moved << centre + 5 * p;
        painter_.drawPolyline(moved);
      }
      for (const double r : found->circles) painter_.drawEllipse(centre, 5 * r, 5 * r);
      placed_.push_back({c.id, box, false});
    }
  }
  void name(sketch::Id id) {
    const auto at = id != 0 ? anchor(id) : std::nullopt;
    if (!at) return;
    const QString said = QString::fromStdString(sketch::name_of(d_.sketch, id));
    painter_.setFont(body_font(11));
    const double wide = painter_.fontMetrics().horizontalAdvance(said) + 8;
    const QPointF p = pixel(*at);
    const QRectF box(p.x() + 8, p.y() + 6, wide, 16);
    painter_.fillRect(box, role::card);
    painter_.setPen(role::red_pencil);
    painter_.drawText(box, Qt::AlignCenter, said);
  }

  const Drafting& d_;
  QPainter& painter_;
  const Camera& camera_;
  Vec2 middle_ = Vec2::Zero();
  std::map<sketch::Id, int> stacked_;
  std::vector<Drafting::Placed> placed_;
};

}  // namespace

QString dimension_text(const sketch::Sketch& sketch, const Constraint& c, bool turned) {
  const double value = (c.driving ? c.value : sketch::measured_value(sketch, c)) *
                       project::stated_factor(sketch, c, turned);
  if (c.type == ConstraintType::Angle)
    return QString::fromStdString(format_fixed(value, c.driving ? 3 : 2)) + QChar(0x00b0);
  const QString prefix = project::states_diameter(sketch, c, turned) ? QStringLiteral("\u2300 ")
                         : c.type == ConstraintType::Radius          ? QStringLiteral("R ")
                         : c.type == ConstraintType::ArcLength
                             ? QCoreApplication::translate("Drafting", "arc ")
                             : QString();
  const QString number =
      QString::fromStdString(c.driving ? length_trimmed(value, 3) : length_fixed(value, 2));
  // What follows from others stands in brackets (ISO 129-1, auxiliary dimensions).
  return c.reference ? QLatin1Char('(') + prefix + number + QLatin1Char(')') : prefix + number;
}

std::vector<Drafting::Placed> Drafting::paint(QPainter& painter, const Camera& camera) const {
  return Draughtsman(*this, painter, camera).draw();
}

}  // namespace lostline::app
