#include "section/resolve.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace lostline::section {
namespace {

struct Shape {
  bool line = true;
  Vec2 point = Vec2::Zero();       // on the line; centre of the arc
  Vec2 direction = Vec2::UnitX();  // of the line, along the points
  double radius = 0;

  [[nodiscard]] double distance(const Vec2& p) const {
    const Vec2 d = p - point;
    return line ? direction.x() * d.y() - direction.y() * d.x() : d.norm() - radius;
  }
  [[nodiscard]] Vec2 foot(const Vec2& p) const {
    const Vec2 d = p - point;
    if (line) return point + direction * direction.dot(d);
    const double length = d.norm();
    return length > 0 ? Vec2(point + d * (radius / length)) : Vec2(point + Vec2(radius, 0));
  }
};

/// Points of one polyline with sums along it, so that any stretch is fitted in constant time
/// algebraically.
class Stretches {
 public:
  explicit Stretches(const Polyline& polyline) : closed_(polyline.closed) {
    mean_ = Vec2::Zero();
    for (const Vec2& p : polyline.points) mean_ += p;
    mean_ /= static_cast<double>(polyline.points.size());
    const std::size_t repeat = closed_ ? 2 : 1;
    for (std::size_t k = 0; k < repeat; ++k) {
      for (const Vec2& p : polyline.points) points_.push_back(p - mean_);
    }
    sums_.assign(points_.size() + 1, Sums::Zero());
    for (std::size_t i = 0; i < points_.size(); ++i) {
      const double x = points_[i].x();
      const double y = points_[i].y();
      const double z = x * x + y * y;
      Sums& s = sums_[i + 1];
      s = sums_[i];
      s += (Sums() << 1, x, y, x * x, x * y, y * y, x * z, y * z, z).finished();
    }
  }

  [[nodiscard]] const Vec2& at(std::size_t i) const { return points_[i]; }
  [[nodiscard]] const Vec2& mean() const { return mean_; }

  [[nodiscard]] std::optional<Shape> line(std::size_t first, std::size_t last) const {
    const Sums s = sums_[last + 1] - sums_[first];
    const double n = s[0];
    Shape shape;
    shape.point = Vec2(s[1], s[2]) / n;
    Eigen::Matrix2d scatter;
    scatter(0, 0) = s[3] - n * shape.point.x() * shape.point.x();
    scatter(0, 1) = scatter(1, 0) = s[4] - n * shape.point.x() * shape.point.y();
    scatter(1, 1) = s[5] - n * shape.point.y() * shape.point.y();
    Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> axes;
    axes.computeDirect(scatter);
    shape.direction = axes.eigenvectors().col(1);
    if (shape.direction.dot(at(last) - at(first)) < 0) shape.direction = -shape.direction;
    return shape;
  }

  /// Kåsa's algebraic circle from the sums.
  [[nodiscard]] std::optional<Shape> arc(std::size_t first, std::size_t last,
                                         double largest) const {
    const Sums s = sums_[last + 1] - sums_[first];
    const double n = s[0];
    const Vec2 m = Vec2(s[1], s[2]) / n;
    const double xx = s[3] / n - m.x() * m.x();
    const double xy = s[4] / n - m.x() * m.y();
    const double yy = s[5] / n - m.y() * m.y();
    const double zm = s[8] / n;
    const double xz = s[6] / n - m.x() * zm;
    const double yz = s[7] / n - m.y() * zm;
    const double det = xx * yy - xy * xy;
    if (!(det > 1e-12 * (xx + yy) * (xx + yy))) return std::nullopt;
    Shape shape;
    shape.line = false;
    shape.point = 0.5 * Vec2((xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det);
    const double squared = zm - 2 * shape.point.dot(m) + shape.point.squaredNorm();
    if (!(squared > 0)) return std::nullopt;
    shape.radius = std::sqrt(squared);
    if (shape.radius > largest) return std::nullopt;
    return shape;
  }

 private:
  using Sums = Eigen::Matrix<double, 9, 1>;
  bool closed_;
  Vec2 mean_;
  std::vector<Vec2> points_;
  std::vector<Sums, Eigen::aligned_allocator<Sums>> sums_;
};

bool within(const Stretches& s, const Shape& shape, std::size_t first, std::size_t last,
            double tolerance) {
  // Long stretches are looked at in samples first; only a stretch that passes is looked at whole.
  const std::size_t count = last - first + 1;
  const std::size_t allowed = count / 50;
  std::size_t strays = 0;
  for (std::size_t i = first; i <= last; ++i) {
    const double d = std::abs(shape.distance(s.at(i)));
    if (d > 3 * tolerance) return false;
    if (d > tolerance && ++strays > allowed) return false;
  }
  return true;
}

struct Span {
  std::size_t first, last;
  Shape shape;
};

std::optional<Shape> fitted(const Stretches& s, bool line, std::size_t first, std::size_t last,
                            const ResolveOptions& o) {
  return line ? s.line(first, last) : s.arc(first, last, o.largest_radius);
}

/// The furthest end in [first + 2, limit] up to which one curve of the kind stays within tolerance.
std::size_t reach_of(const Stretches& s, bool line, std::size_t first, std::size_t limit,
                     const ResolveOptions& o) {
  const auto fits = [&](std::size_t last) {
    const std::optional<Shape> shape = fitted(s, line, first, last, o);
    return shape && within(s, *shape, first, last, o.tolerance);
  };
  const std::size_t smallest = line ? 2 : 4;
  std::size_t good = std::min(limit, first + smallest);
  std::size_t step = 4;
  std::size_t bad = limit + 1;
  while (good < limit) {
    const std::size_t next = std::min(limit, good + step);
    if (!fits(next)) {
      // Short stretches of noise may fail where longer ones pass; give it one longer look.
      const std::size_t longer = std::min(limit, good + 3 * step);
      if (step > 16 || longer == next || !fits(longer)) {
        bad = next;
        break;
      }
      good = longer;
    } else {
      good = next;
    }
    step *= 2;
  }
  while (bad <= limit && bad - good > 1) {
    const std::size_t middle = good + (bad - good) / 2;
    if (fits(middle))
      good = middle;
    else
      bad = middle;
  }
  return good;
}

std::vector<Span> walk(const Stretches& s, std::size_t begin, std::size_t end,
                       const ResolveOptions& o) {
  std::vector<Span> spans;
  std::size_t at = begin;
  while (at + 2 <= end) {
    const std::size_t line_end = reach_of(s, true, at, end, o);
    const std::size_t arc_end = at + 4 <= end ? reach_of(s, false, at, end, o) : at;
    const double line_length = (s.at(line_end) - s.at(at)).norm();
    const double arc_length = (s.at(arc_end) - s.at(at)).norm();
    const bool line =
        !(arc_end > line_end + 3 && arc_length > 1.15 * line_length) && !(arc_end > line_end + 20);
    const std::size_t last = line ? line_end : arc_end;
    const std::optional<Shape> shape = fitted(s, line, at, last, o);
    spans.push_back({at, last, shape.value_or(Shape{})});
    at = last;
  }
  return spans;
}

double stretch_length(const Stretches& s, std::size_t first, std::size_t last) {
  double sum = 0;
  for (std::size_t i = first; i < last; ++i) sum += (s.at(i + 1) - s.at(i)).norm();
  return sum;
}

/// Fits the middle of a span, away from what the neighbours may have rounded.
void refit(const Stretches& s, Span& span, const ResolveOptions& o) {
  const std::size_t trim = std::min<std::size_t>(2, (span.last - span.first) / 6);
  const std::optional<Shape> shape =
      fitted(s, span.shape.line, span.first + trim, span.last - trim, o);
  if (shape) span.shape = *shape;
}

/// Moves the border between two neighbours to where the summed squares are least.
void settle_border(const Stretches& s, Span& a, Span& b) {
  double cost = 0;
  double best = 0;
  std::size_t best_at = a.first + 1;
  for (std::size_t i = a.first + 1; i < b.last; ++i) {
    const double da = a.shape.distance(s.at(i));
    const double db = b.shape.distance(s.at(i));
    cost += da * da - db * db;
    if (i == a.first + 1 || cost < best) {
      best = cost;
      best_at = i;
    }
  }
  a.last = best_at;
  b.first = best_at;
}

/// Intersection of two shapes nearest to `near`; none when they miss each other by more than the
/// tolerance.
std::optional<Vec2> meeting(const Shape& a, const Shape& b, const Vec2& near) {
  std::vector<Vec2> found;
  if (a.line && b.line) {
    const double cross = a.direction.x() * b.direction.y() - a.direction.y() * b.direction.x();
    if (std::abs(cross) < 0.02) return std::nullopt;
    const Vec2 d = b.point - a.point;
    const double t = (d.x() * b.direction.y() - d.y() * b.direction.x()) / cross;
    return a.point + t * a.direction;
  }
  if (a.line != b.line) {
    const Shape& line = a.line ? a : b;
    const Shape& arc = a.line ? b : a;
    const Vec2 foot = line.foot(arc.point);
    const double h = (foot - arc.point).norm();
    if (h > arc.radius) return std::nullopt;
    const double half = std::sqrt(arc.radius * arc.radius - h * h);
    found = {foot + half * line.direction, foot - half * line.direction};
  } else {
    const Vec2 d = b.point - a.point;
    const double distance = d.norm();
    if (distance < 1e-9 || distance > a.radius + b.radius ||
        distance < std::abs(a.radius - b.radius)) {
      return std::nullopt;
    }
    const double along =
        (distance * distance + a.radius * a.radius - b.radius * b.radius) / (2 * distance);
    const double half = std::sqrt(std::max(0.0, a.radius * a.radius - along * along));
    const Vec2 u = d / distance;
    found = {a.point + along * u + half * Vec2(-u.y(), u.x()),
             a.point + along * u - half * Vec2(-u.y(), u.x())};
  }
  return (found[0] - near).norm() < (found[1] - near).norm() ? found[0] : found[1];
}

Vec2 joint(const Shape& a, const Shape& b, const Vec2& near, double reach) {
  const std::optional<Vec2> p = meeting(a, b, near);
  if (p && (*p - near).norm() <= reach) return *p;
  return 0.5 * (a.foot(near) + b.foot(near));  // tangent neighbours touch without crossing
}

void measure(Curve& curve, const Shape& shape, const Stretches& s, std::size_t first,
             std::size_t last) {
  double sum = 0;
  for (std::size_t i = first; i <= last; ++i) {
    const double d = shape.distance(s.at(i));
    sum += d * d;
    curve.max_drift = std::max(curve.max_drift, std::abs(d));
  }
  curve.rms = std::sqrt(sum / static_cast<double>(last - first + 1));
}

/// The whole of a closed polyline as one circle, where that holds it.
std::optional<Curve> as_circle(const Polyline& polyline, const Stretches& s, double tolerance) {
  if (!polyline.closed) return std::nullopt;
  const std::optional<CircleFit> circle = fit_circle(polyline.points);
  if (!circle) return std::nullopt;
  const std::size_t last = polyline.points.size() - 1;
  Shape shape;
  shape.line = false;
  shape.point = circle->centre - s.mean();
  shape.radius = circle->radius;
  if (!within(s, shape, 0, last, tolerance)) return std::nullopt;
  Curve curve;
  curve.type = CurveType::Circle;
  curve.centre = circle->centre;
  curve.radius = circle->radius;
  curve.last = last;
  measure(curve, shape, s, 0, last);
  return curve;
}

/// Lines and arcs one after the other, each as far as it reaches.
std::vector<Span> first_spans(const Polyline& polyline, const Stretches& s,
                              const ResolveOptions& o) {
  const std::size_t n = polyline.points.size();
  if (!polyline.closed) return walk(s, 0, n - 1, o);
  // The first border found is a better start than wherever the cut happened to begin.
  const std::vector<Span> first = walk(s, 0, n, o);
  const std::size_t begin = first.size() > 1 ? first.front().last % n : 0;
  return walk(s, begin, begin + n, o);
}

/// Fits again and moves the borders to where neighbours meet, in turn.
void settle_borders(const Stretches& s, std::vector<Span>& spans, const ResolveOptions& o) {
  for (int pass = 0; pass < 2; ++pass) {
    for (Span& span : spans) refit(s, span, o);
    for (std::size_t i = 0; i + 1 < spans.size(); ++i) settle_border(s, spans[i], spans[i + 1]);
  }
  for (Span& span : spans) refit(s, span, o);
}

/// Two neighbours as one line or arc, where one explains both.
std::optional<Span> joined(const Stretches& s, const Span& a, const Span& b,
                           const ResolveOptions& o) {
  for (const bool line : {true, false}) {
    if (line && !(a.shape.line && b.shape.line)) continue;
    const std::optional<Shape> shape = fitted(s, line, a.first, b.last, o);
    if (shape && within(s, *shape, a.first, b.last, o.tolerance))
      return Span{a.first, b.last, *shape};
  }
  return std::nullopt;
}

void merge_neighbours(const Stretches& s, std::vector<Span>& spans, const ResolveOptions& o) {
  for (std::size_t i = 0; i + 1 < spans.size();) {
    if (const std::optional<Span> one = joined(s, spans[i], spans[i + 1], o)) {
      spans[i] = *one;
      spans.erase(spans.begin() + static_cast<std::ptrdiff_t>(i) + 1);
      if (i > 0) --i;
    } else {
      ++i;
    }
  }
}

/// Takes out stretches shorter than `scrap` at corners; their neighbours share what they held.
void drop_scraps(const Stretches& s, std::vector<Span>& spans, bool closed, double scrap) {
  for (std::size_t i = 0; i < spans.size() && spans.size() > 2;) {
    const bool inner = closed || (i > 0 && i + 1 < spans.size());
    if (!inner || stretch_length(s, spans[i].first, spans[i].last) >= scrap) {
      ++i;
      continue;
    }
    const std::size_t middle = (spans[i].first + spans[i].last) / 2;
    if (i > 0) spans[i - 1].last = middle;
    if (i + 1 < spans.size()) spans[i + 1].first = middle;
    spans.erase(spans.begin() + static_cast<std::ptrdiff_t>(i));
  }
}

/// A span as a curve between the feet of its ends.
Curve curve_of(const Stretches& s, const Span& span, std::size_t n) {
  Curve curve;
  curve.type = span.shape.line ? CurveType::Line : CurveType::Arc;
  curve.first = span.first % n;
  curve.last = span.last % n;
  curve.centre = span.shape.point + s.mean();
  curve.radius = span.shape.radius;
  const std::size_t trim = std::min<std::size_t>(2, (span.last - span.first) / 6);
  measure(curve, span.shape, s, span.first + trim, span.last - trim);
  if (!span.shape.line) {
    const Vec2 a = s.at(span.first) - span.shape.point;
    const Vec2 m = s.at((span.first + span.last) / 2) - span.shape.point;
    curve.counter_clockwise = a.x() * m.y() - a.y() * m.x() > 0;
  }
  curve.start = span.shape.foot(s.at(span.first)) + s.mean();
  curve.end = span.shape.foot(s.at(span.last)) + s.mean();
  return curve;
}

/// Joins the ends of neighbours where their shapes meet within `reach`.
void join_ends(const Stretches& s, const std::vector<Span>& spans, double reach,
               std::vector<Curve>& curves) {
  for (std::size_t i = 0; i < curves.size(); ++i) {
    if (!curves[i].joined) continue;
    const std::size_t next = (i + 1) % curves.size();
    const Vec2 p = joint(spans[i].shape, spans[next].shape, s.at(spans[i].last), reach) + s.mean();
    curves[i].end = p;
    curves[next].start = p;
  }
}

}  // namespace

std::optional<CircleFit> fit_circle(const std::vector<Vec2>& points) {
  if (points.size() < 3) return std::nullopt;
  Polyline polyline{points, false, {}};
  const Stretches s(polyline);
  const std::optional<Shape> start = s.arc(0, points.size() - 1, 1e9);
  if (!start) return std::nullopt;
  Vec3 x(start->point.x(), start->point.y(), start->radius);
  double rms = 0;
  for (int iteration = 0; iteration < 20; ++iteration) {
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Vec3 gradient = Vec3::Zero();
    rms = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
      const Vec2 d = s.at(i) - x.head<2>();
      const double length = std::max(d.norm(), 1e-12);
      const Vec3 j(-d.x() / length, -d.y() / length, -1);
      const double r = length - x[2];
      normal += j * j.transpose();
      gradient += j * r;
      rms += r * r;
    }
    const Vec3 step = normal.ldlt().solve(-gradient);
    if (!step.allFinite()) return std::nullopt;
    x += step;
    if (step.norm() < 1e-12 * (1 + std::abs(x[2]))) break;
  }
  return CircleFit{s.mean() + x.head<2>(), x[2],
                   std::sqrt(rms / static_cast<double>(points.size()))};
}

Result<std::vector<Curve>> resolve(const Polyline& polyline, const ResolveOptions& given) {
  const std::size_t n = polyline.points.size();
  if (!(given.tolerance > 0)) {
    return Error{ErrorCode::InvalidInput, "The tolerance must be greater than zero."};
  }
  if (n < 4) {
    return Error{ErrorCode::InvalidInput,
                 "A stretch of " + std::to_string(n) + " points is too short to resolve."};
  }
  ResolveOptions options = given;
  if (!(options.largest_radius > 0)) {
    Eigen::AlignedBox2d box;
    for (const Vec2& p : polyline.points) box.extend(p);
    options.largest_radius = 20 * box.diagonal().norm();
  }
  const Stretches s(polyline);
  if (const std::optional<Curve> circle = as_circle(polyline, s, options.tolerance))
    return std::vector<Curve>{*circle};
  const double spacing = median_step({polyline});
  std::vector<Span> spans = first_spans(polyline, s, options);
  settle_borders(s, spans, options);
  merge_neighbours(s, spans, options);
  drop_scraps(s, spans, polyline.closed, options.corner_reach * options.tolerance + 2 * spacing);
  settle_borders(s, spans, options);
  std::vector<Curve> curves;
  for (std::size_t i = 0; i < spans.size(); ++i) {
    curves.push_back(curve_of(s, spans[i], n));
    curves.back().joined = polyline.closed ? spans.size() > 1 : i + 1 < spans.size();
  }
  join_ends(s, spans, 6 * options.tolerance + 4 * spacing, curves);
  return curves;
}

}  // namespace lostline::section
