#include "section/resolving/chain.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <optional>

#include "section/resolving/settle.h"

namespace lostline::section {
namespace {

bool movable(const Piece& p) { return p.kind == PieceKind::Line || p.kind == PieceKind::Arc; }
Eigen::Index freedoms(const Piece& p) {
  return p.kind == PieceKind::Line ? 2 : p.kind == PieceKind::Arc ? 3 : 0;
}

/// How far two neighbours are from being tangent (mm), and the slopes by their own numbers: of a
/// line turn and shift to the left, of an arc centre and radius.
struct Tangency {
  double off = 0;
  Eigen::VectorXd by_a, by_b;
};

Tangency line_and_arc(const Piece& line, const Piece& arc) {
  const double side = arc.counter_clockwise ? 1 : -1;
  const Vec2 d = arc.point - line.point;
  Tangency t;
  t.off = side * cross(line.direction, d) - arc.radius;
  t.by_a = Vec2(-side * line.direction.dot(d), -side);
  const Vec2 n = side * left_of(line.direction);
  t.by_b = Vec3(n.x(), n.y(), -1);
  return t;
}

std::optional<Tangency> tangency(const Piece& a, const Piece& b) {
  if (!movable(a) || !movable(b)) return std::nullopt;
  if (a.kind == PieceKind::Line && b.kind == PieceKind::Line) return std::nullopt;
  if (a.kind == PieceKind::Line) return line_and_arc(a, b);
  if (b.kind == PieceKind::Line) {
    Tangency t = line_and_arc(b, a);
    std::swap(t.by_a, t.by_b);
    return t;
  }
  const Vec2 d = a.point - b.point;
  const double apart = d.norm();
  if (!(apart > 0)) return std::nullopt;
  const Vec2 u = d / apart;
  Tangency t;
  if (a.counter_clockwise != b.counter_clockwise) {
    t.off = apart - a.radius - b.radius;
    t.by_a = Vec3(u.x(), u.y(), -1);
    t.by_b = Vec3(-u.x(), -u.y(), -1);
  } else {
    const double larger = a.radius >= b.radius ? 1 : -1;
    t.off = apart - larger * (a.radius - b.radius);
    t.by_a = Vec3(u.x(), u.y(), -larger);
    t.by_b = Vec3(-u.x(), -u.y(), larger);
  }
  return t;
}

double turn_at(const Piece& a, const Piece& b, const Vec2& p) {
  const Vec2 d = a.heading(p);
  const Vec2 e = b.heading(p);
  return std::abs(std::atan2(cross(d, e), d.dot(e)));
}

/// Whether the points leave it open that the pieces are tangent.
bool may_be_tangent(const Piece& a, const Piece& b, const Vec2& border) {
  constexpr double kSteepest = 0.6;  // rad: beyond it is a corner, however little is known
  const double turn = turn_at(a, b, border);
  if (turn > kSteepest) return false;
  const auto t = tangency(a, b);
  if (!t) return turn < 0.12 && (!movable(a) || !movable(b));
  if (a.spread.rows() != t->by_a.size() || b.spread.rows() != t->by_b.size()) return false;
  const double variance = t->by_a.dot(a.spread * t->by_a) + t->by_b.dot(b.spread * t->by_b);
  constexpr double kSure = 3.3;  // standard deviations: one tangency in a thousand is not seen
  return std::abs(t->off) <= kSure * std::sqrt(variance);
}

/// Fits lines and arcs together with the tangencies held.
class Together {
 public:
  Together(const Trace& trace, std::vector<Piece>& pieces, const std::vector<Joint>& joints)
      : trace_(trace), pieces_(pieces), joints_(joints) {
    for (const Piece& p : pieces) {
      begin_.push_back(size_);
      size_ += freedoms(p);
    }
    for (std::size_t i = 0; i < joints.size(); ++i) {
      if (joints[i].tangent && tangency(pieces[i], next(i))) tangents_.push_back(i);
    }
  }

  bool run() {
    if (tangents_.empty()) return true;
    const auto ties = static_cast<Eigen::Index>(tangents_.size());
    for (int round = 0; round < 25; ++round) {
      Eigen::MatrixXd kkt = Eigen::MatrixXd::Zero(size_ + ties, size_ + ties);
      Eigen::VectorXd right = Eigen::VectorXd::Zero(size_ + ties);
      for (std::size_t i = 0; i < pieces_.size(); ++i) add_points(i, kkt, right);
      // What no point bears on stays.
      const double stay = 1e-9 * kkt.diagonal().head(size_).maxCoeff();
      for (Eigen::Index k = 0; k < size_; ++k) kkt(k, k) += stay;
      double worst = 0;
      for (Eigen::Index k = 0; k < ties; ++k) {
        const std::size_t i = tangents_[static_cast<std::size_t>(k)];
        const Tangency t = *tangency(pieces_[i], next(i));
        const auto put = [&](std::size_t piece, const Eigen::VectorXd& slopes) {
          const Eigen::Index at = begin_[piece];
          kkt.block(at, size_ + k, slopes.size(), 1) += slopes;
          kkt.block(size_ + k, at, 1, slopes.size()) += slopes.transpose();
        };
        put(i, t.by_a);
        put((i + 1) % pieces_.size(), t.by_b);
        right[size_ + k] = -t.off;
        worst = std::max(worst, std::abs(t.off));
      }
      const Eigen::VectorXd x = kkt.partialPivLu().solve(right);
      if (!x.allFinite()) return false;
      double moved = 0;
      for (std::size_t i = 0; i < pieces_.size(); ++i) {
        if (!step(pieces_[i], x.segment(begin_[i], freedoms(pieces_[i])), moved)) return false;
      }
      if (moved < 1e-9 * trace_.length && worst < 1e-9) {
        inverse_ = kkt.inverse();
        break;
      }
    }
    spread();
    return true;
  }

 private:
  [[nodiscard]] const Piece& next(std::size_t i) const { return pieces_[(i + 1) % pieces_.size()]; }

  void add_points(std::size_t which, Eigen::MatrixXd& kkt, Eigen::VectorXd& right) const {
    const Piece& p = pieces_[which];
    if (!movable(p)) return;
    const Eigen::Index at = begin_[which];
    const double most = 2.5 * trace_.sigma;
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Vec3 pull = Vec3::Zero();
    for (std::size_t i = p.first; i < p.last; ++i) {
      if (trace_.weights[i] == 0) continue;
      const Vec2 d = trace_.points[i] - p.point;
      Vec3 j;
      double r = 0;
      if (p.kind == PieceKind::Line) {
        r = cross(p.direction, d);
        j = Vec3(-p.direction.dot(d), -1, 0);
      } else {
        const double l = std::max(d.norm(), 1e-12);
        r = l - p.radius + sag(trace_, i, left_of(d / l), 1 / p.radius);
        j = Vec3(-d.x() / l, -d.y() / l, -1);
      }
      const double w = trace_.weights[i] * (std::abs(r) > most ? most / std::abs(r) : 1);
      normal += w * j * j.transpose();
      pull -= w * r * j;
    }
    const Eigen::Index n = freedoms(p);
    kkt.block(at, at, n, n) += normal.topLeftCorner(n, n);
    right.segment(at, n) += pull.head(n);
  }

  static bool step(Piece& p, const Eigen::VectorXd& x, double& moved) {
    if (p.kind == PieceKind::Line) {
      const double turn = std::clamp(x[0], -0.2, 0.2);
      p.point += x[1] * left_of(p.direction);
      p.direction = Eigen::Rotation2Dd(turn) * p.direction;
      moved = std::max({moved, std::abs(x[1]), std::abs(turn)});
    } else if (p.kind == PieceKind::Arc) {
      double share = 1;
      if (x[2] < -0.5 * p.radius) share = -0.5 * p.radius / x[2];
      p.point += share * x.head<2>();
      p.radius += share * x[2];
      moved = std::max({moved, std::abs(x[2]), x.head<2>().cwiseAbs().maxCoeff()});
      if (!(p.radius > 0)) return false;
    }
    return true;
  }

  void spread() {
    if (inverse_.size() == 0) return;
    const double variance = trace_.sigma * trace_.sigma * trace_.inflation;
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
      const Eigen::Index n = freedoms(pieces_[i]);
      if (n > 0) pieces_[i].spread = variance * inverse_.block(begin_[i], begin_[i], n, n);
    }
  }

  const Trace& trace_;
  std::vector<Piece>& pieces_;
  const std::vector<Joint>& joints_;
  std::vector<Eigen::Index> begin_;
  Eigen::Index size_ = 0;
  std::vector<std::size_t> tangents_;
  Eigen::MatrixXd inverse_;
};

/// Crossing of two endless curves near `p`: tangents at the feet are crossed until it stays.
std::optional<Vec2> meeting(const Piece& a, const Piece& b, const Vec2& near) {
  Vec2 p = near;
  for (int round = 0; round < 12; ++round) {
    const Vec2 fa = a.foot(p);
    const Vec2 fb = b.foot(p);
    const Vec2 d = a.heading(p);
    const Vec2 e = b.heading(p);
    const double turn = cross(d, e);
    if (std::abs(turn) < 0.01) return std::nullopt;
    const Vec2 next = fa + d * (cross(fb - fa, e) / turn);
    const bool still = (next - p).norm() < 1e-12 * (1 + p.norm());
    p = next;
    if (!p.allFinite()) return std::nullopt;
    if (still) break;
  }
  if ((a.foot(p) - b.foot(p)).norm() > 1e-6 * (1 + p.norm())) return std::nullopt;
  return p;
}

Vec2 contact(const Piece& a, const Piece& b, const Vec2& near) {
  if (a.kind == PieceKind::Line && b.kind == PieceKind::Arc) return a.foot(b.point);
  if (a.kind == PieceKind::Arc && b.kind == PieceKind::Line) return b.foot(a.point);
  if (a.kind == PieceKind::Arc && b.kind == PieceKind::Arc) {
    // On the larger one, along the line of centres.
    const Piece& large = a.radius >= b.radius ? a : b;
    const Piece& small = a.radius >= b.radius ? b : a;
    const Vec2 d = (small.point - large.point).normalized();
    return large.point + large.radius * d;
  }
  return 0.5 * (a.foot(near) + b.foot(near));
}

/// The last points of `a` before and the first of `b` after their border.
Vec2 border_of(const Trace& trace, const Piece& a, const Piece& b) {
  const Vec2& p = trace.points[std::min(a.last, trace.size()) - 1];
  const Vec2& q = trace.points[b.first % trace.size()];
  return 0.5 * (p + q);
}

/// A copy fitted without what a scanner rounds at either end.
Piece inner(const Trace& trace, const Piece& piece, bool before, bool after) {
  if (!movable(piece)) return piece;
  const double whole = stretch(trace, piece.first, piece.last);
  const double margin = std::min(trace.spacing, 0.15 * whole);
  Piece p = piece;
  if (before)
    while (p.first + 4 < p.last && stretch(trace, piece.first, p.first + 1) < margin) ++p.first;
  if (after)
    while (p.last > p.first + 4 && stretch(trace, p.last - 1, piece.last) < margin) --p.last;
  if (p.kind == PieceKind::Line ? !fit_line(trace, p) : !fit_arc(trace, p)) return piece;
  return p;
}

}  // namespace

std::vector<Joint> join(const Trace& trace, std::vector<Piece>& pieces, double corner) {
  const std::size_t n = pieces.size();
  std::vector<Joint> joints(n);
  if (n < 2) return joints;
  const std::size_t count = trace.closed ? n : n - 1;
  for (std::size_t i = 0; i < count; ++i) {
    const Piece& a = pieces[i];
    const Piece& b = pieces[(i + 1) % n];
    joints[i].meets = true;
    joints[i].tangent = may_be_tangent(a, b, border_of(trace, a, b));
  }
  std::vector<Piece> own;
  for (std::size_t i = 0; i < n; ++i) {
    const Joint& before = joints[(i + n - 1) % n];
    own.push_back(inner(trace, pieces[i], before.meets && !before.tangent,
                        joints[i].meets && !joints[i].tangent));
  }
  // An arc that is one only for its rounded ends.
  for (std::size_t i = 0; i < n; ++i) {
    Piece& p = own[i];
    if (p.kind != PieceKind::Arc || p.whole || p.last < p.first + 4) continue;
    const double length = stretch(trace, p.first, p.last);
    if (length * length / (8 * p.radius) > 0.25 * trace.spacing) continue;
    Piece line = p;
    if (fit_line(trace, line) && cost_of(line) < cost_of(p)) {
      line.first = p.first;
      p = line;
      joints[i].tangent = joints[(i + n - 1) % n].tangent = false;
    }
  }
  // Tangencies that cost more than the points allow are given up, the worst first.
  for (int round = 0; round < 4; ++round) {
    std::vector<Piece> held = own;
    const bool good = Together(trace, held, joints).run();
    std::size_t worst = n;
    double most = good ? 16 : -1;  // chi squared of one number that is off by four deviations
    if (good) {
      for (Piece& p : held) {
        if (movable(p)) measure(trace, p);
      }
    }
    for (std::size_t i = 0; i < count; ++i) {
      if (!joints[i].tangent || !tangency(own[i], own[(i + 1) % n])) continue;
      double lost = 0;
      for (const std::size_t k : {i, (i + 1) % n})
        lost = std::max(lost, good ? held[k].chi - own[k].chi : 0);
      if (lost > most) {
        most = lost;
        worst = i;
      }
    }
    if (worst == n || round == 3) {
      if (good) pieces = std::move(held);
      break;
    }
    joints[worst].tangent = false;
  }
  // Where they meet; where they do not, a line leads from one to the other.
  std::vector<Piece> all;
  std::vector<Joint> ends;
  for (std::size_t i = 0; i < n; ++i) {
    const Piece& a = pieces[i];
    all.push_back(a);
    ends.push_back(joints[i]);
    if (!joints[i].meets) continue;
    const Piece& b = pieces[(i + 1) % n];
    const Vec2 border = border_of(trace, a, b);
    Joint& joint = ends.back();
    if (joint.tangent) {
      joint.at = contact(a, b, border);
      if ((joint.at - border).norm() < 3 * corner + 0.2 * std::min(stretch(trace, a.first, a.last),
                                                                   stretch(trace, b.first, b.last)))
        continue;
      joint.tangent = false;
    }
    const auto p = meeting(a, b, border);
    const Vec2 fa = a.foot(trace.points[a.last - 1]);
    const Vec2 fb = b.foot(trace.points[b.first]);
    // Within a gap the corner may be anywhere.
    const double apart = (trace.points[a.last - 1] - trace.points[b.first % trace.size()]).norm();
    if (p && (*p - border).norm() < 2 * corner + 4 * trace.sigma + 0.6 * apart) {
      joint.at = *p;
      continue;
    }
    const Vec2 here = a.foot(border);
    const Vec2 there = b.foot(border);
    if ((here - there).norm() < 6 * trace.sigma + 0.3 * trace.spacing ||
        (fb - fa).norm() < 0.3 * trace.spacing) {
      joint.at = 0.5 * (here + there);
      continue;
    }
    // A step: its wall is square to the neighbours unless its own points say otherwise.
    Piece wall;
    wall.first = std::min(a.last, trace.size());
    wall.last = std::max(wall.first, b.first);
    joint.at = here;
    joint.tangent = false;
    wall.point = here;
    wall.direction = (there - here).normalized();
    all.push_back(wall);
    ends.push_back({true, false, there});
  }
  pieces = std::move(all);
  return ends;
}

}  // namespace lostline::section
