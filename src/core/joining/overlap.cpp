#include "joining/overlap.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"

namespace lostline::joining {
namespace {

enum class Says { Nothing, Agrees, Contradicts, Missing };

/// Whether an eye that saw the piece looked through a point: from every direction that it may have
/// looked from, the ray goes on behind the point to a surface that it saw.
bool seen_through(const Piece& piece, const Vec3& p, double tolerance) {
  if (piece.eyes.empty()) return false;
  // Some of the directions, spread over them: the first that is blocked ends it.
  constexpr std::size_t kTried = 12;
  const std::size_t stride = std::max<std::size_t>(1, piece.eyes.size() / kTried);
  for (std::size_t k = 0; k < piece.eyes.size(); k += stride) {
    const Vec3& eye = piece.eyes[k];
    const auto hit = piece.index->first_hit(p - tolerance * eye, -eye);
    if (!hit) return false;
    const Vec3 facet = piece.mesh->area_vector(hit->triangle);
    if (facet.dot(eye) < 0.2 * facet.norm()) return false;
  }
  return true;
}

/// Whether an eye that saw the second looked straight at a point of the first with nothing between,
/// from wherever it may have looked.
bool open_to_eye(const Piece& first, const Piece& second, const Vec3& own, const Vec3& p,
                 const Vec3& normal, const Transform& back, double tolerance) {
  if (second.eyes.empty()) return false;
  constexpr std::size_t kTried = 5;
  const std::size_t stride = std::max<std::size_t>(1, second.eyes.size() / kTried);
  for (std::size_t k = 0; k < second.eyes.size(); k += stride) {
    const Vec3& eye = second.eyes[k];
    constexpr double kWell = 0.4;  // cosine: flatter is seen badly
    if (normal.dot(eye) < kWell) return false;
    if (second.index->first_hit(p + tolerance * eye, eye)) return false;
    const Vec3 own_eye = back * eye;
    if (first.index->first_hit(own + tolerance * own_eye, own_eye)) return false;
  }
  return true;
}

Says judge(const Piece& first, const Piece& piece, const Vec3& own, const Vec3& p,
           const Vec3& normal, const Transform& back, const OverlapOptions& options,
           double& distance) {
  const Falls falls = falls_on(piece, p, options.far);
  if (falls.on == Falls::On::Surface) {
    const double cosine = normal.dot(falls.normal);
    // Beside the foot, not over it: the other's surface ends or bends away there.
    const Vec3 off = p - falls.foot;
    const bool over = std::abs(off.dot(falls.normal)) > 0.8 * off.norm();
    if (cosine > 0.7) {
      distance = falls.distance;
      if (off.norm() <= options.tolerance) return Says::Agrees;
      // Two surfaces side by side that look the same way cannot both be seen.
      if (over && off.norm() > 2 * options.tolerance) return Says::Contradicts;
      return Says::Nothing;
    }
  }
  const double slack = std::max(3 * options.tolerance, 2 * piece.spacing);
  if (seen_through(piece, p, slack)) return Says::Contradicts;
  // Next to what the other shows its border may have been cut.
  if (falls.on != Falls::On::Nothing && (p - falls.foot).norm() < 3 * slack) return Says::Nothing;
  return open_to_eye(first, piece, own, p, normal, back, slack) ? Says::Missing : Says::Nothing;
}

}  // namespace

Overlap overlap_of(const Piece& first, const Piece& second, const Transform& motion,
                   const OverlapOptions& options) {
  const std::size_t stride = std::max<std::size_t>(1, first.sample.size() / options.most);
  const std::size_t count = (first.sample.size() + stride - 1) / stride;
  const Transform back(motion.linear().transpose());  // of directions
  std::vector<Says> says(count);
  std::vector<double> distance(count, 0);
  parallel_for(count, 64, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const std::size_t k = i * stride;
      says[i] = judge(first, second, first.point(k), motion * first.point(k),
                      motion.linear() * first.normal(k), back, options, distance[i]);
    }
  });
  Overlap overlap;
  double squares = 0;
  for (std::size_t i = 0; i < count; ++i) {
    if (says[i] == Says::Agrees) {
      ++overlap.points;
      squares += distance[i] * distance[i];
    }
    overlap.contradicts += says[i] == Says::Contradicts ? 1 : 0;
    overlap.missing += says[i] == Says::Missing ? 1 : 0;
  }
  const double share = first.area / static_cast<double>(std::max<std::size_t>(count, 1));
  overlap.grain = share;
  overlap.agrees = share * static_cast<double>(overlap.points);
  overlap.contradicts *= share;
  overlap.missing *= share;
  if (overlap.points > 0) overlap.rms = std::sqrt(squares / static_cast<double>(overlap.points));
  return overlap;
}

Overlap overlap_both(const Piece& first, const Piece& second, const Transform& motion,
                     const OverlapOptions& options) {
  const Overlap a = overlap_of(first, second, motion, options);
  const Overlap b = overlap_of(second, first, motion.inverse(), options);
  Overlap both = a.agrees < b.agrees ? a : b;
  both.contradicts = std::max(a.contradicts, b.contradicts);
  both.missing = std::max(a.missing, b.missing);
  both.points = a.points + b.points;
  both.grain = std::max(a.grain, b.grain);
  both.rms = std::max(a.rms, b.rms);
  return both;
}

}  // namespace lostline::joining
