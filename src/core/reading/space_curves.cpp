#include "reading/space_curves.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <queue>

#include "base/point_grid.h"
#include "project/fits.h"
#include "sketch/curve_kind.h"

namespace lostline::reading {

using namespace project;
namespace {

constexpr std::size_t kMostPlaces = 200;

Result<const Scan*> scan_of(const Document& document) {
  if (!document.scan)
    return Error{ErrorCode::InvalidInput, "There is no scan that the curve could follow."};
  return document.scan.get();
}

Result<std::vector<std::uint32_t>> triangles_of_region(const Document& document,
                                                       std::uint32_t region) {
  if (!document.scan || !document.survey || region == 0 || region > document.survey->regions.size())
    return Error{ErrorCode::InvalidInput,
                 "There is no region " + std::to_string(region) + " of the scan."};
  return survey::triangles_of(*document.survey, region);
}

/// Points of a sketch's curves in their order, as one chain in its plane.
std::vector<Vec2> chain_of(const sketch::Sketch& sketch) {
  constexpr int kPoints = 60;  // of a curve that is not straight
  std::vector<std::vector<Vec2>> pieces;
  for (const sketch::Entity& e : sketch.entities) {
    if (e.construction) continue;
    const auto curve = sketch::placed(sketch, e);
    if (curve == nullptr) continue;
    std::vector<Vec2> points;
    for (int k = 0; k <= kPoints; ++k) points.push_back(curve->at(curve->range() * k / kPoints));
    pieces.push_back(std::move(points));
  }
  if (pieces.empty()) return {};
  std::vector<Vec2> chain = pieces.front();
  pieces.erase(pieces.begin());
  while (!pieces.empty()) {
    // The piece whose end lies nearest to an end of the chain goes on there.
    double least = std::numeric_limits<double>::infinity();
    std::size_t which = 0;
    bool at_front = false;
    bool turned = false;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      for (const bool front : {false, true}) {
        for (const bool back : {false, true}) {
          const Vec2& end = front ? chain.front() : chain.back();
          const double off = ((back ? pieces[i].back() : pieces[i].front()) - end).norm();
          if (off >= least) continue;
          least = off;
          which = i;
          at_front = front;
          turned = back;
        }
      }
    }
    std::vector<Vec2> piece = pieces[which];
    pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(which));
    if (turned != at_front) std::reverse(piece.begin(), piece.end());
    if (at_front)
      chain.insert(chain.begin(), piece.begin(), piece.end());
    else
      chain.insert(chain.end(), piece.begin(), piece.end());
  }
  return chain;
}

/// Borders of regions run along edges of triangles, to and fro by half a spacing: each point
/// becomes the mean of its neighbours within two places, twice. What is as bent as a few spacings
/// is cut short by a tenth of a spacing at most.
std::vector<Vec3> calmed(std::vector<Vec3> ring) {
  const std::size_t n = ring.size();
  for (int round = 0; round < 2; ++round) {
    std::vector<Vec3> next(n, Vec3::Zero());
    for (std::size_t i = 0; i < n; ++i) {
      for (std::size_t k = 0; k < 5; ++k) next[i] += ring[(i + n + k - 2) % n] / 5;
    }
    ring = std::move(next);
  }
  return ring;
}

/// Points of a line moved to the middle of a strip: halfway between its sides, square to the line.
std::vector<Vec3> centred(const std::vector<Vec3>& line, const std::vector<Vec3>& strip,
                          double width, double spacing) {
  const PointGrid grid(strip, width);
  std::vector<Vec3> next;
  for (std::size_t i = 0; i < line.size(); ++i) {
    const Vec3 along =
        (line[std::min(i + 1, line.size() - 1)] - line[i > 0 ? i - 1 : 0]).normalized();
    std::vector<Vec3> across;
    Vec3 mean = Vec3::Zero();
    grid.near(line[i], 1.5 * width, [&](std::size_t k, double) {
      const Vec3 d = strip[k] - line[i];
      if (std::abs(d.dot(along)) > 1.5 * spacing) return;
      across.push_back(d - along * along.dot(d));
      mean += across.back();
    });
    if (across.size() < 3) {
      next.push_back(line[i]);
      continue;
    }
    mean /= static_cast<double>(across.size());
    Vec3 side = Vec3::Zero();  // towards the farthest from the mean
    for (const Vec3& d : across) {
      if ((d - mean).norm() > side.norm()) side = d - mean;
    }
    side.normalize();
    double low = 0;
    double high = 0;
    for (const Vec3& d : across) {
      low = std::min(low, side.dot(d - mean));
      high = std::max(high, side.dot(d - mean));
    }
    next.emplace_back(line[i] + mean + 0.5 * (low + high) * side);
  }
  return next;
}

}  // namespace

double curve_tolerance(const Document& document) {
  if (!document.scan) return 0.05;
  const auto& health = document.scan->health;
  return std::max(3 * health.noise_sigma, 0.25 * health.spacing);
}

Result<CurveReading> curve_along(const std::vector<Vec3>& points, bool closed, double tolerance,
                                 const std::string& source) {
  const auto followed = curve::follow(points, closed, tolerance);
  if (!followed) return followed.error();
  return CurveReading{followed->places, closed, followed->rms, followed->greatest, source};
}

Result<CurveReading> curve_on_scan(const Document& document, const std::vector<Vec3>& places,
                                   bool closed, double tolerance) {
  const auto scan = scan_of(document);
  if (!scan) return scan.error();
  if (!(tolerance > 0))
    return Error{ErrorCode::InvalidInput, "The tolerance of a curve must be above 0."};
  const Transform to_part = document.to_part();
  const Transform to_scan = to_part.inverse();
  const auto on_scan = [&](const Vec3& p) {
    const auto nearest = (*scan)->index->nearest(to_scan * p);
    return nearest ? Vec3(to_part * nearest->point) : p;
  };
  CurveReading reading;
  reading.closed = closed;
  reading.source = "drawn on the scan";
  for (const Vec3& p : places) reading.places.push_back(on_scan(p));
  while (true) {
    const auto spline = curve::SpaceSpline::through(reading.places, closed);
    if (!spline) return spline.error();
    // Each piece is looked at in seven places.
    constexpr int kLooks = 8;
    double squares = 0;
    std::size_t count = 0;
    reading.greatest = 0;
    std::vector<Vec3> next;
    const std::size_t pieces = reading.places.size() - (closed ? 0 : 1);
    double from = 0;
    bool put = false;
    for (std::size_t i = 0; i < reading.places.size(); ++i) {
      next.push_back(reading.places[i]);
      if (i >= pieces) break;
      const Vec3& end = reading.places[(i + 1) % reading.places.size()];
      const double chord = (end - reading.places[i]).norm();
      double worst = 0;
      Vec3 place = Vec3::Zero();
      for (int k = 1; k < kLooks; ++k) {
        const Vec3 p = spline->at(from + chord * k / kLooks);
        const Vec3 foot = on_scan(p);
        const double off = (foot - p).norm();
        squares += off * off;
        ++count;
        reading.greatest = std::max(reading.greatest, off);
        // In the middle of the piece rather than near its end, where a place tells little.
        const double weight = off * (k == kLooks / 2 ? 1.5 : 1);
        if (off > tolerance && weight > worst) {
          worst = weight;
          place = foot;
        }
      }
      from += chord;
      if (worst > 0 && (place - reading.places[i]).norm() > 0.05 * chord &&
          (place - end).norm() > 0.05 * chord) {
        next.push_back(place);
        put = true;
      }
    }
    reading.rms = count > 0 ? std::sqrt(squares / static_cast<double>(count)) : 0;
    if (reading.greatest > 0.1 * spline->length())
      return Error{ErrorCode::Failed, "The curve leaves the scan: there is a gap of about " +
                                          std::to_string(std::lround(reading.greatest)) +
                                          " mm on its way. Click places nearer to each other."};
    if (!put || next.size() > kMostPlaces) return reading;
    reading.places = std::move(next);
  }
}

Result<CurveReading> border_curve(const Document& document, std::uint32_t region, const Vec3& near,
                                  double tolerance) {
  const auto triangles = triangles_of_region(document, region);
  if (!triangles) return triangles.error();
  const Transform to_part = document.to_part();
  std::vector<Vec3> rim = rim_of(*document.scan, *triangles, to_part.inverse() * near);
  if (rim.size() < 8)
    return Error{ErrorCode::Degenerate, "This region has no border that is long enough here."};
  for (Vec3& p : rim) p = to_part * p;
  return curve_along(calmed(std::move(rim)), true, tolerance,
                     "border of " + document.name_of({region, 0}));
}

Result<CurveReading> middle_curve(const Document& document, std::uint32_t region,
                                  double tolerance) {
  const auto triangles = triangles_of_region(document, region);
  if (!triangles) return triangles.error();
  const scan::Mesh& mesh = *document.scan->mesh;
  std::map<std::uint32_t, std::vector<std::uint32_t>> beside;  // along edges of the region
  for (const std::uint32_t t : *triangles) {
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t a = mesh.triangles[t][k];
      const std::uint32_t b = mesh.triangles[t][(k + 1) % 3];
      beside[a].push_back(b);
      beside[b].push_back(a);
    }
  }
  /// Lengths along edges from a vertex (Dijkstra).
  const auto lengths_from = [&](std::uint32_t start) {
    std::map<std::uint32_t, double> length;
    std::priority_queue<std::pair<double, std::uint32_t>,
                        std::vector<std::pair<double, std::uint32_t>>, std::greater<>>
        open;
    open.emplace(0, start);
    length[start] = 0;
    while (!open.empty()) {
      const auto [at, v] = open.top();
      open.pop();
      if (at > length[v]) continue;
      for (const std::uint32_t w : beside[v]) {
        const double to = at + (mesh.vertices[w] - mesh.vertices[v]).norm();
        const auto known = length.find(w);
        if (known != length.end() && known->second <= to) continue;
        length[w] = to;
        open.emplace(to, w);
      }
    }
    return length;
  };
  const auto farthest = [](const std::map<std::uint32_t, double>& length) {
    return std::max_element(length.begin(), length.end(),
                            [](const auto& a, const auto& b) { return a.second < b.second; });
  };
  const std::uint32_t end = farthest(lengths_from(beside.begin()->first))->first;
  const auto length = lengths_from(end);
  const double whole = farthest(length)->second;
  const double area = [&] {
    double sum = 0;
    for (const std::uint32_t t : *triangles) sum += 0.5 * mesh.area_vector(t).norm();
    return sum;
  }();
  const double width = area / std::max(whole, 1e-12);
  const Error no_strip{ErrorCode::Degenerate,
                       document.name_of({region, 0}) +
                           " is no strip with a middle line: it is about as wide as long, forks, "
                           "or closes."};
  if (!(whole > 3 * width)) return no_strip;
  // Bands as long as half the strip is wide, at least a few spacings.
  const double band = std::max(0.5 * width, 3 * document.scan->health.spacing);
  const auto bands = static_cast<std::size_t>(std::ceil(whole / band));
  std::vector<Vec3> sum(bands, Vec3::Zero());
  std::vector<std::size_t> count(bands, 0);
  for (const auto& [v, at] : length) {
    const std::size_t b = std::min(bands - 1, static_cast<std::size_t>(at / band));
    sum[b] += mesh.vertices[v];
    ++count[b];
  }
  std::vector<double> spread(bands, 0);
  for (const auto& [v, at] : length) {
    const std::size_t b = std::min(bands - 1, static_cast<std::size_t>(at / band));
    spread[b] =
        std::max(spread[b], (mesh.vertices[v] - sum[b] / static_cast<double>(count[b])).norm());
  }
  std::vector<double> sorted = spread;
  std::nth_element(sorted.begin(), sorted.begin() + static_cast<std::ptrdiff_t>(bands / 2),
                   sorted.end());
  if (*std::max_element(spread.begin(), spread.end()) > 4 * sorted[bands / 2]) return no_strip;
  std::vector<Vec3> line;
  // The first and last band are corners of the strip, cut askew by the distance from a corner.
  for (std::size_t b = 1; b + 1 < bands; ++b)
    if (count[b] > 0) line.emplace_back(sum[b] / static_cast<double>(count[b]));
  if (line.size() < 4) return no_strip;
  // The bands are cut askew where the distance from a corner runs askew.
  std::vector<Vec3> strip;
  for (const auto& [v, at] : length) strip.push_back(mesh.vertices[v]);
  for (int round = 0; round < 3; ++round)
    line = centred(line, strip, width, document.scan->health.spacing);
  const Transform to_part = document.to_part();
  for (Vec3& p : line) p = to_part * p;
  return curve_along(line, false, tolerance, "middle of " + document.name_of({region, 0}));
}

Result<CurveReading> crossing_curve(const TracedSketch& first, const TracedSketch& second,
                                    double tolerance) {
  const std::vector<Vec2> a = chain_of(first.sketch);
  const std::vector<Vec2> b = chain_of(second.sketch);
  if (a.size() < 2 || b.size() < 2)
    return Error{ErrorCode::InvalidInput, "A sketch without curves crosses nothing."};
  // The first sketch's normal, seen in the second one's plane.
  const Vec2 way(first.base.normal.dot(second.base.x), first.base.normal.dot(second.base.y));
  if (way.norm() < 1e-6)
    return Error{ErrorCode::InvalidInput,
                 "The two sketches lie in parallel planes: drawn along their normals they do not "
                 "cross in a curve."};
  std::vector<Vec3> line;
  for (const Vec2& p : a) {
    const Vec3 at = first.base.to_space(p);
    const Vec2 from = second.base.to_plane(at);
    std::optional<double> best;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t k = 1; k < b.size(); ++k) {
      // from + s way = b[k - 1] + u (b[k] - b[k - 1])
      const Vec2 d = b[k] - b[k - 1];
      const double cross = way.x() * d.y() - way.y() * d.x();
      if (std::abs(cross) < 1e-15) continue;
      const Vec2 off = b[k - 1] - from;
      const double s = (off.x() * d.y() - off.y() * d.x()) / cross;
      const double u = (off.x() * way.y() - off.y() * way.x()) / cross;
      if (u < -1e-9 || u > 1 + 1e-9) continue;
      // Of several the one that goes on from the point before.
      const double jump =
          line.empty() ? std::abs(s) : (at + s * first.base.normal - line.back()).norm();
      if (jump >= least) continue;
      least = jump;
      best = s;
    }
    if (best) line.emplace_back(at + *best * first.base.normal);
  }
  if (line.size() < 4)
    return Error{ErrorCode::Degenerate, "The curves of " + first.name + " and " + second.name +
                                            ", drawn along their normals, do not meet."};
  const double size = (line.front() - line.back()).norm();
  double way_along = 0;
  for (std::size_t i = 1; i < line.size(); ++i) way_along += (line[i] - line[i - 1]).norm();
  const bool closed = size < 1e-6 * way_along;
  return curve_along(line, closed, tolerance, "crossing of " + first.name + " and " + second.name);
}

}  // namespace lostline::reading
