#include "model/path_pieces.h"

#include <algorithm>
#include <cmath>

#include "base/text.h"

namespace lostline::model {
namespace {

constexpr double kNoLength = 1e-6;  // mm

}  // namespace

Result<std::vector<pipe::Piece>> pieces_of(const SpacePath& path, double bend_of_all) {
  const std::size_t n = path.corners.size();
  if (n < 2 || path.bends.size() + 2 != n)
    return Error{ErrorCode::InvalidInput, "Click the pipe on the scan: it has no centre line yet."};
  std::vector<pipe::Piece> pieces;
  Vec3 start = path.corners.front();
  double room = (path.corners[1] - path.corners[0]).norm();
  for (std::size_t k = 1; k < n; ++k) {
    const Vec3 before = (path.corners[k] - path.corners[k - 1]).normalized();
    if (k + 1 == n) {
      if ((path.corners[k] - start).norm() > kNoLength && (path.corners[k] - start).dot(before) > 0)
        pieces.push_back(pipe::straight_piece(start, path.corners[k]));
      break;
    }
    const Vec3 after = (path.corners[k + 1] - path.corners[k]).normalized();
    const Vec3 cross = before.cross(after);
    const double angle = std::atan2(cross.norm(), before.dot(after));
    const double bend = bend_of_all > 0 ? bend_of_all : path.bends[k - 1];
    if (!(bend > 0) || angle < 1e-9)
      return Error{
          ErrorCode::InvalidInput,
          "Corner " + std::to_string(k) + " of the path has no bend. Give the pipe a bend radius."};
    const double reach = bend * std::tan(angle / 2);
    // A hair short of room is none: the numbers of the corners are rounded.
    if (reach > room + 1e-3 * bend)
      return Error{ErrorCode::InvalidInput,
                   "A bend of " + format_trimmed(bend, 2) + " mm does not fit at corner " +
                       std::to_string(k) + " of the path: up to " +
                       format_trimmed(room / std::tan(angle / 2), 2) + " mm works."};
    const double used = std::min(reach, room);
    pipe::Piece arc;
    arc.straight = false;
    arc.a = path.corners[k] - used * before;
    arc.b = path.corners[k] + used * after;
    arc.radius = used / std::tan(angle / 2);
    arc.axis = cross.normalized();
    arc.centre = arc.a + arc.radius * arc.axis.cross(before);
    if ((arc.a - start).norm() > kNoLength) pieces.push_back(pipe::straight_piece(start, arc.a));
    pieces.push_back(arc);
    start = arc.b;
    room = (path.corners[k + 1] - path.corners[k]).norm() - used;
  }
  return pieces;
}

std::vector<pipe::Piece> stretch_of(const std::vector<pipe::Piece>& pieces, double from,
                                    double to) {
  std::vector<pipe::Piece> part;
  if (pieces.empty() || !(to > from)) return part;
  double length = 0;
  for (const pipe::Piece& piece : pieces) length += piece.length();
  // Beyond the ends it goes straight on: a straight end is the longer for it.
  std::vector<pipe::Piece> all = pieces;
  double begin = 0;
  if (from < 0) {
    const Vec3 start = all.front().a + from * all.front().direction(0);
    if (all.front().straight)
      all.front() = pipe::straight_piece(start, all.front().b);
    else
      all.insert(all.begin(), pipe::straight_piece(start, all.front().a));
    begin = from;
  }
  if (to > length) {
    const Vec3 end = all.back().b + (to - length) * all.back().direction(1);
    if (all.back().straight)
      all.back() = pipe::straight_piece(all.back().a, end);
    else
      all.push_back(pipe::straight_piece(all.back().b, end));
  }
  for (const pipe::Piece& piece : all) {
    const double whole = piece.length();
    const double low = std::max(from - begin, 0.0);
    const double high = std::min(to - begin, whole);
    begin += whole;
    if (!(high - low > kNoLength)) continue;
    pipe::Piece cut = piece;
    cut.a = piece.at(low / whole);
    cut.b = piece.at(high / whole);
    part.push_back(cut);
  }
  return part;
}

}  // namespace lostline::model
