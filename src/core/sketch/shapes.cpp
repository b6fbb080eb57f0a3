#include "sketch/shapes.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <optional>

#include "sketch/curve_kind.h"

namespace lostline::sketch {
namespace {

/// A side of a loop run through counter-clockwise.
struct Side {
  Id id = 0;
  bool line = true;
  Vec2 from, to;
  Vec2 centre = Vec2::Zero();
  double radius = 0;
  double sweep = 0;  ///< rad, of an arc: positive where it bulges outwards

  [[nodiscard]] Vec2 along() const { return (to - from).normalized(); }
  [[nodiscard]] double length() const { return (to - from).norm(); }
};

/// The sides in order; empty where something else than lines and arcs is among them.
std::vector<Side> sides_of(const Sketch& sketch, const Loop& loop) {
  std::vector<Side> sides;
  for (const Loop::Use& use : loop.uses) {
    const Entity& e = *sketch.find_entity(use.entity);
    if (e.type != EntityType::Line && e.type != EntityType::Arc) return {};
    const auto curve = placed(sketch, e);
    Side side;
    side.id = e.id;
    side.line = e.type == EntityType::Line;
    side.from = use.reversed ? curve->end() : curve->start();
    side.to = use.reversed ? curve->start() : curve->end();
    if (!side.line) {
      side.centre = sketch.position(e.centre);
      side.radius = e.radius;
      side.sweep = use.reversed ? -curve->range() : curve->range();
    }
    if (!(side.length() > 0)) return {};
    sides.push_back(side);
  }
  return sides;
}

double slack_of(const Side& line, const ShapeOptions& o) {
  return o.angle + 2 * o.length / line.length();
}

std::optional<Shape> as_slot(const std::vector<Side>& s, const ShapeOptions& o) {
  if (s.size() != 4) return std::nullopt;
  const std::size_t first = s[0].line ? 0 : 1;
  const Side& l1 = s[first];
  const Side& end1 = s[(first + 1) % 4];
  const Side& l2 = s[(first + 2) % 4];
  const Side& end2 = s[(first + 3) % 4];
  if (!l1.line || end1.line || !l2.line || end2.line) return std::nullopt;
  if (std::abs(end1.radius - end2.radius) > 2 * o.length) return std::nullopt;
  const double turned = std::abs(std::remainder(
      std::atan2(cross(l1.along(), l2.along()), l1.along().dot(l2.along())) - kPi, 2 * kPi));
  if (turned > slack_of(l1, o) + slack_of(l2, o)) return std::nullopt;
  const double ends = 2 * o.length / end1.radius + 0.15;
  if (std::abs(end1.sweep - kPi) > ends || std::abs(end2.sweep - kPi) > ends) return std::nullopt;
  Shape shape;
  shape.type = Shape::Type::Slot;
  shape.a = end2.centre;
  shape.b = end1.centre;
  shape.radius = 0.5 * (end1.radius + end2.radius);
  shape.direction = (shape.b - shape.a).normalized();
  shape.centre = 0.5 * (shape.a + shape.b);
  for (const Side& line : {l1, l2}) {
    const double off = std::abs(cross(line.along(), shape.centre - 0.5 * (line.from + line.to)));
    if (std::abs(off - shape.radius) > 2 * o.length) return std::nullopt;
  }
  return shape;
}

/// Lines that turn by the same angle at each corner, which is sharp or rounded by the same radius.
struct Corners {
  std::vector<Side> lines;
  double radius = 0;
};
std::optional<Corners> equal_corners(const std::vector<Side>& s, const ShapeOptions& o) {
  Corners corners;
  double least = 1e300;
  double most = 0;
  std::size_t arcs = 0;
  for (std::size_t i = 0; i < s.size(); ++i) {
    if (s[i].line) {
      corners.lines.push_back(s[i]);
      continue;
    }
    if (!s[(i + 1) % s.size()].line || s[i].sweep < 0) return std::nullopt;
    ++arcs;
    least = std::min(least, s[i].radius);
    most = std::max(most, s[i].radius);
    corners.radius += s[i].radius;
  }
  const std::size_t n = corners.lines.size();
  if (n < 3 || (arcs != 0 && arcs != n)) return std::nullopt;
  if (arcs > 0) {
    corners.radius /= static_cast<double>(arcs);
    // A quarter of a small round tells its radius to a few tolerances.
    if (most - least > 6 * o.length + 0.1 * corners.radius) return std::nullopt;
  }
  for (std::size_t i = 0; i < n; ++i) {
    const Vec2 d = corners.lines[i].along();
    const Vec2 e = corners.lines[(i + 1) % n].along();
    const double turn = std::atan2(cross(d, e), d.dot(e));
    if (std::abs(turn - 2 * kPi / static_cast<double>(n)) >
        slack_of(corners.lines[i], o) + slack_of(corners.lines[(i + 1) % n], o))
      return std::nullopt;
  }
  return corners;
}

/// The direction that all sides have, turned back by their place round.
double common_turn(const std::vector<Side>& lines) {
  const auto n = static_cast<double>(lines.size());
  Vec2 sum = Vec2::Zero();
  for (std::size_t i = 0; i < lines.size(); ++i) {
    const double turn = 2 * kPi * static_cast<double>(i) / n;
    const double l = lines[i].length();
    sum += l * l * l * (Eigen::Rotation2Dd(-turn) * lines[i].along());
  }
  return std::atan2(sum.y(), sum.x());
}

std::optional<Shape> as_rectangle(const Corners& c, const ShapeOptions& o) {
  if (c.lines.size() != 4) return std::nullopt;
  const double turn = common_turn(c.lines);
  const Vec2 d(std::cos(turn), std::sin(turn));
  const Vec2 n(-d.y(), d.x());
  const auto off = [&](const Side& side, const Vec2& axis) {
    return axis.dot(0.5 * (side.from + side.to));
  };
  const double low = off(c.lines[0], n);
  const double high = off(c.lines[2], n);
  const double right = off(c.lines[1], d);
  const double left = off(c.lines[3], d);
  if (!(high > low) || !(right > left)) return std::nullopt;
  // What lies askew by more than the tolerance is none.
  for (std::size_t i = 0; i < 4; ++i) {
    const Vec2 axis = i % 2 == 0 ? d : n;
    const double askew = std::abs(cross(axis, c.lines[i].to - c.lines[i].from));
    if (askew > 3 * o.length + o.angle * c.lines[i].length()) return std::nullopt;
  }
  Shape shape;
  shape.centre = 0.5 * (right + left) * d + 0.5 * (high + low) * n;
  shape.corner_radius = c.radius;
  shape.length = right - left;
  shape.width = high - low;
  shape.direction = d;
  if (shape.width > shape.length) {
    std::swap(shape.width, shape.length);
    shape.direction = n;
  }
  return shape;
}

std::optional<Shape> as_polygon(const Corners& c, const ShapeOptions& o) {
  const std::size_t count = c.lines.size();
  const double turn = common_turn(c.lines);
  // The centre and the distance from it that all sides have.
  Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
  Vec3 right = Vec3::Zero();
  std::vector<Vec3> rows;
  std::vector<double> offs;
  for (std::size_t i = 0; i < count; ++i) {
    const double t = turn + 2 * kPi * static_cast<double>(i) / static_cast<double>(count) - kPi / 2;
    const Vec2 out(std::cos(t), std::sin(t));
    const Vec3 row(out.x(), out.y(), 1);
    const double off = out.dot(0.5 * (c.lines[i].from + c.lines[i].to));
    normal += row * row.transpose();
    right += off * row;
    rows.push_back(row);
    offs.push_back(off);
  }
  const Vec3 x = normal.ldlt().solve(right);
  if (!x.allFinite() || !(x[2] > 0)) return std::nullopt;
  for (std::size_t i = 0; i < count; ++i) {
    if (std::abs(rows[i].dot(x) - offs[i]) > 2 * o.length) return std::nullopt;
  }
  Shape shape;
  shape.type = Shape::Type::Polygon;
  shape.centre = x.head<2>();
  shape.across_flats = 2 * x[2];
  shape.sides = static_cast<int>(count);
  shape.direction = Vec2(std::cos(turn), std::sin(turn));
  shape.corner_radius = c.radius;
  return shape;
}

}  // namespace

const char* shape_name(Shape::Type type) {
  switch (type) {
    case Shape::Type::Rectangle:
      return "rectangle";
    case Shape::Type::Slot:
      return "slot";
    case Shape::Type::Polygon:
      break;
  }
  return "polygon";
}

std::vector<Shape> find_shapes(const Sketch& sketch, const ShapeOptions& options) {
  std::vector<Shape> shapes;
  for (const Loop& loop : find_loops(sketch)) {
    const std::vector<Side> sides = sides_of(sketch, loop);
    if (sides.size() < 3) continue;
    std::optional<Shape> shape = as_slot(sides, options);
    if (!shape) {
      const auto corners = equal_corners(sides, options);
      if (!corners) continue;
      shape = as_rectangle(*corners, options);
      if (!shape) shape = as_polygon(*corners, options);
    }
    if (!shape) continue;
    for (const Loop::Use& use : loop.uses) shape->entities.push_back(use.entity);
    shapes.push_back(*std::move(shape));
  }
  return shapes;
}

std::vector<Constraint> constraints_of(const Sketch& sketch, const Shape& shape) {
  std::vector<Id> lines;
  std::vector<Id> arcs;
  for (const Id id : shape.entities)
    (is_straight(sketch.find_entity(id)) ? lines : arcs).push_back(id);
  std::vector<Constraint> all;
  const auto add = [&](ConstraintType type, Id first, Id second) {
    all.push_back({0, type, first, second, 0, 0, false});
  };
  const std::size_t n = shape.entities.size();
  for (std::size_t i = 0; i < n; ++i) {
    const Id a = shape.entities[i];
    const Id b = shape.entities[(i + 1) % n];
    if (!is_straight(sketch.find_entity(a)) || !is_straight(sketch.find_entity(b)))
      add(ConstraintType::Tangent, a, b);
  }
  const std::size_t half = lines.size() / 2;
  if (shape.type != Shape::Type::Polygon || lines.size() % 2 == 0) {
    for (std::size_t i = 0; i < half; ++i) add(ConstraintType::Parallel, lines[i], lines[i + half]);
  }
  if (shape.type == Shape::Type::Rectangle) add(ConstraintType::Perpendicular, lines[0], lines[1]);
  if (shape.type == Shape::Type::Polygon) {
    for (std::size_t i = 0; i + 1 < lines.size(); ++i)
      add(ConstraintType::Equal, lines[i], lines[i + 1]);
  }
  for (std::size_t i = 0; i + 1 < arcs.size(); ++i)
    add(ConstraintType::Equal, arcs[i], arcs[i + 1]);
  return all;
}

}  // namespace lostline::sketch
