#include "pipe/centreline.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/text.h"
#include "pipe/chain.h"
#include "scan/noise.h"

namespace lostline::pipe {
namespace {

/// Half the median distance to the second nearest of sampled points would do; the mesh knows
/// better.
double spacing_of(const std::vector<Vec3>& points) {
  Box3 box;
  for (const Vec3& p : points) box.extend(p);
  // As if they lay evenly on the surface of their box.
  const Vec3 s = box.sizes();
  const double area = 2 * (s.x() * s.y() + s.y() * s.z() + s.z() * s.x());
  return std::sqrt(std::max(area, 1e-12) / static_cast<double>(points.size()));
}

/// Points of the pipe along its stations.
std::vector<std::uint32_t> along_stations(const Evidence& e, const std::vector<Station>& stations,
                                          double radius, bool hollow) {
  std::vector<char> taken(e.points.size(), 0);
  const double half = std::max(0.4 * radius, 1.6 * e.spacing);
  for (const Station& at : stations) {
    e.grid.near(at.centre, std::hypot(1.3 * radius, half), [&](std::size_t i, double) {
      const Vec3 d = e.points[i] - at.centre;
      const double along = d.dot(at.along);
      if (std::abs(along) > half) return;
      const Vec3 out = d - along * at.along;
      const double reach = out.norm();
      constexpr double kNear = 0.2;       // of the radius
      constexpr double kLooksAway = 0.8;  // cosine
      if (std::abs(reach - radius) > kNear * radius || !(reach > 0)) return;
      if ((hollow ? -1 : 1) * e.normals[i].dot(out) > kLooksAway * reach) taken[i] = 1;
    });
  }
  std::vector<std::uint32_t> points;
  for (std::uint32_t i = 0; i < taken.size(); ++i) {
    if (taken[i] != 0) points.push_back(i);
  }
  return points;
}

/// Runs of stations from several picks as one, end to nearest end.
std::vector<Station> joined(std::vector<std::vector<Station>> runs, double radius) {
  std::vector<Station> whole = runs.front();
  runs.erase(runs.begin());
  while (!runs.empty()) {
    std::size_t best = 0;
    int way = 0;
    double nearest = 1e300;
    for (std::size_t k = 0; k < runs.size(); ++k) {
      const std::array gaps{(whole.back().centre - runs[k].front().centre).norm(),
                            (whole.back().centre - runs[k].back().centre).norm(),
                            (whole.front().centre - runs[k].back().centre).norm(),
                            (whole.front().centre - runs[k].front().centre).norm()};
      for (int w = 0; w < 4; ++w) {
        if (gaps[static_cast<std::size_t>(w)] >= nearest) continue;
        nearest = gaps[static_cast<std::size_t>(w)];
        best = k;
        way = w;
      }
    }
    std::vector<Station> next = std::move(runs[best]);
    runs.erase(runs.begin() + static_cast<std::ptrdiff_t>(best));
    if (way % 2 == 1) {
      std::reverse(next.begin(), next.end());
      for (Station& s : next) s.along = -s.along;
    }
    if (way >= 2) std::swap(whole, next);
    next.front().after_gap = nearest > radius;
    whole.insert(whole.end(), next.begin(), next.end());
  }
  return whole;
}

/// How well stations lie on a smooth line, mm: by their third differences, which neither straight
/// nor evenly bent runs have.
double station_scatter(const std::vector<Station>& s) {
  std::vector<double> sizes;
  for (std::size_t k = 0; k + 3 < s.size(); ++k)
    sizes.push_back(
        (s[k + 3].centre - 3 * s[k + 2].centre + 3 * s[k + 1].centre - s[k].centre).norm());
  if (sizes.empty()) return 0;
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  // Two coordinates across of variance 20 each: the median of their length is 1.18 sqrt(20).
  return *middle / (1.18 * std::sqrt(20.0));
}

double angle_at(const Chain& c, std::size_t corner) {
  const Vec3 before = (c.corners[corner] - c.corners[corner - 1]).normalized();
  const Vec3 after = (c.corners[corner + 1] - c.corners[corner]).normalized();
  return std::atan2(before.cross(after).norm(), before.dot(after));
}

/// Chains with one corner less, where that can be at all: without a slight one, or two neighbours
/// with hardly anything between made one.
std::vector<Chain> simpler_than(const Chain& c) {
  constexpr double kSlight = 0.15;  // rad
  std::vector<Chain> all;
  for (std::size_t k = 0; k < c.group.size(); ++k) {
    Chain without = c;
    without.corners.erase(without.corners.begin() + static_cast<std::ptrdiff_t>(k) + 1);
    without.group.erase(without.group.begin() + static_cast<std::ptrdiff_t>(k));
    if (angle_at(c, k + 1) < kSlight) all.push_back(without);
    if (k + 1 >= c.group.size()) continue;
    const auto reach = [&](std::size_t corner) {
      return c.bends[c.group[corner - 1]] * std::tan(angle_at(c, corner) / 2);
    };
    const double room = (c.corners[k + 2] - c.corners[k + 1]).norm() - reach(k + 1) - reach(k + 2);
    if (room > 1.5 * c.radius) continue;
    // Where the outer two of their three straights meet.
    const Vec3 a = c.corners[k];
    const Vec3 d = (c.corners[k + 1] - a).normalized();
    const Vec3 b = c.corners[k + 3 < c.corners.size() ? k + 3 : c.corners.size() - 1];
    const Vec3 e = (b - c.corners[k + 2]).normalized();
    const double det = 1 - d.dot(e) * d.dot(e);
    if (det < 1e-4) continue;
    const Vec3 off = b - a;
    const double s = (off.dot(d) - d.dot(e) * off.dot(e)) / det;
    const double t = (d.dot(e) * off.dot(d) - off.dot(e)) / det;
    if (s <= 0 || t >= 0) continue;
    const Vec3 corner = 0.5 * (a + s * d + b + t * e);
    const double angle = std::acos(std::clamp(d.dot(e), -1.0, 1.0));
    constexpr double kWidest = 2.2;  // rad at one corner
    if (angle > kWidest) continue;
    Chain one = without;
    one.corners[k + 1] = corner;
    // As large as the straights leave room for what both bends spanned.
    const double most = std::min((corner - a).norm(), (b - corner).norm());
    const double bend = std::max(c.bends[c.group[k]], c.bends[c.group[k + 1]]);
    one.bends.push_back(
        std::max(1.1 * c.radius, std::min(most / std::tan(angle / 2), bend > 0 ? bend : 1e300)));
    one.group[k] = one.bends.size() - 1;
    all.push_back(one);
  }
  return all;
}

/// Bends that no corner has any more go.
Chain tidied(Chain c) {
  std::vector<double> bends{0};
  for (std::size_t& g : c.group) {
    if (g == 0) continue;
    std::size_t at = 0;
    for (std::size_t k = 1; k < bends.size(); ++k) {
      if (bends[k] == c.bends[g]) at = k;
    }
    if (at == 0) {
      bends.push_back(c.bends[g]);
      at = bends.size() - 1;
    }
    g = at;
  }
  c.bends = bends;
  return c;
}

/// The pieces cut where the points of the first and the last end.
/// @param share  of the points along the pipe that were kept for the fit.
void cut_ends(const Evidence& e, const SettledChain& s, double share, Centreline& line) {
  const std::vector<Piece> all = s.chain.pieces();
  std::size_t first = all.size();
  std::size_t last = 0;
  for (const std::size_t k : s.piece) {
    first = std::min(first, k);
    last = std::max(last, k);
  }
  // A tenth of a ring of points makes an end.
  const auto rank = static_cast<std::size_t>(
      std::max(3.0, 0.1 * 2 * std::numbers::pi * s.chain.radius / e.spacing * share));
  for (std::size_t k = first; k <= last && k < all.size(); ++k) {
    Piece piece = all[k];
    if (piece.straight && piece.length() < 1e-9) continue;
    const Vec3 forward = piece.straight ? piece.direction(0) : Vec3(Vec3::Zero());
    std::vector<double> shares;
    if (k == first || k == last) {
      for (std::size_t i = 0; i < s.points.size(); ++i) {
        if (s.piece[i] != k) continue;
        const Vec3& p = e.points[s.points[i]];
        if (piece.straight) {
          shares.push_back((p - piece.a).dot(forward));
        } else {
          const Vec3 flat = p - piece.centre - (p - piece.centre).dot(piece.axis) * piece.axis;
          const Vec3 arm = piece.a - piece.centre;
          shares.push_back(std::atan2(piece.axis.dot(arm.cross(flat)), arm.dot(flat)) *
                           piece.radius);
        }
      }
      std::sort(shares.begin(), shares.end());
    }
    const auto at = [&](double along) -> Vec3 {
      return piece.straight ? Vec3(all[k].a + along * forward) : all[k].at(along / all[k].length());
    };
    const bool enough = shares.size() > 2 * rank;
    double from = 0;
    double to = all[k].length();
    if (k == first && enough) from = shares[rank];
    if (k == last && enough) to = shares[shares.size() - 1 - rank];
    if (!enough && (k == first || k == last) && to < 0.3 * s.chain.radius) continue;
    // Next to a bend a straight piece that is hardly there says nothing.
    if (to - from < 1e-3 * s.chain.radius) continue;
    piece.a = at(from);
    piece.b = at(to);
    line.pieces.push_back(piece);
  }
}

}  // namespace

Result<Centreline> find_centreline(const std::vector<Vec3>& points,
                                   const std::vector<Vec3>& normals, const std::vector<Vec3>& picks,
                                   const CentrelineOptions& options, const Task& task) {
  constexpr std::size_t kFewest = 50;
  if (picks.empty()) return Error{ErrorCode::InvalidInput, "Pick a place on the pipe first."};
  if (points.size() < kFewest || normals.size() != points.size())
    return Error{ErrorCode::InvalidInput, "There are too few points for a pipe."};
  const double spacing = options.spacing > 0 ? options.spacing : spacing_of(points);
  const PointGrid grid(points, 3 * spacing);
  Evidence e{points, normals, grid, spacing, options.noise};
  std::vector<Seed> seeds;
  for (const Vec3& pick : picks) {
    const auto seed = seed_at(e, pick);
    if (!seed) return seed.error();
    seeds.push_back(*seed);
  }
  Centreline line;
  line.hollow = seeds.front().hollow;
  std::vector<double> radii;
  for (const Seed& seed : seeds) radii.push_back(seed.radius);
  for (const double r : radii) {
    if (std::abs(r - radii.front()) > 0.2 * radii.front())
      return Error{ErrorCode::Degenerate, "The picks lie on pipes of different radii: " +
                                              format_trimmed(radii.front(), 2) + " and " +
                                              format_trimmed(r, 2) + " mm."};
  }
  std::vector<std::vector<Station>> runs;
  for (std::size_t k = 0; k < seeds.size() && !line.closed; ++k) {
    // A pick on what was followed already adds nothing.
    const bool known = std::any_of(runs.begin(), runs.end(), [&](const auto& run) {
      return std::any_of(run.begin(), run.end(), [&](const Station& s) {
        return (s.centre - seeds[k].station.centre).norm() < 0.6 * seeds[k].radius;
      });
    });
    if (known) continue;
    Seed seed = seeds[k];
    seed.radius = radii.front();
    runs.push_back(follow(e, seed, options.bridge, line.closed, task));
    if (task.stopped()) return cancelled();
  }
  std::vector<Station> stations =
      line.closed ? runs.back() : joined(std::move(runs), radii.front());
  if (line.closed) stations.push_back(stations.front());
  if (stations.size() < 3)
    return Error{
        ErrorCode::Degenerate,
        "The round surface at the pick is shorter than it is thick: no centre line can be told."};
  for (std::size_t k = 1; k < stations.size(); ++k) {
    if (stations[k].after_gap)
      line.bridged.push_back((stations[k].centre - stations[k - 1].centre).norm());
  }
  const double radius = radii.front();
  std::vector<std::uint32_t> near = along_stations(e, stations, radius, line.hollow);
  line.points = near.size();
  const auto thinned = [](const std::vector<std::uint32_t>& all, std::size_t most) {
    std::vector<std::uint32_t> thin;
    const std::size_t stride = (all.size() + most - 1) / most;
    for (std::size_t k = 0; k < all.size(); k += stride) thin.push_back(all[k]);
    return thin;
  };
  constexpr std::size_t kMostPoints = 24000;  // for the numbers
  constexpr std::size_t kFewPoints = 5000;    // for which corners there are
  if (near.size() > kMostPoints) near = thinned(near, kMostPoints);
  if (near.size() < kFewest)
    return Error{ErrorCode::Degenerate, "Too few points lie along the pipe."};
  // Slices of this thickness see bends as if they were a little flatter.
  constexpr double kSlice = 0.003;  // of the radius
  const double sigma =
      std::max({station_scatter(stations), kSlice * radius, options.simpler / 3, 1e-9});
  const std::vector<std::uint32_t> few =
      near.size() > kFewPoints ? thinned(near, kFewPoints) : near;
  auto settled = settle_chain(e, chain_of(stations, radius, sigma), few, task);
  if (!settled) return settled.error();
  // Corners that the points do not ask for go, one after the other.
  constexpr double kPays = 30;  // chi squared of four to seven numbers, beyond chance
  for (bool changed = true; changed;) {
    changed = false;
    std::optional<SettledChain> best;
    for (const Chain& chain : simpler_than(settled->chain)) {
      if (task.stopped()) return cancelled();
      auto tried = settle_chain(e, tidied(chain), few, task);
      if (!tried) continue;
      const double more = tried->cost - settled->cost;
      const double allowed =
          std::max(kPays * settled->variance,
                   options.simpler * options.simpler / 9 * static_cast<double>(few.size()));
      if (more > allowed || (best && tried->cost >= best->cost)) continue;
      best = *std::move(tried);
    }
    if (best) {
      settled = *std::move(best);
      changed = true;
    }
  }
  if (few.size() < near.size()) {
    settled = settle_chain(e, settled->chain, near, task);
    if (!settled) return settled.error();
  }
  line.radius = settled->chain.radius;
  line.u_radius = settled->u_radius;
  line.rms = settled->rms;
  line.greatest = settled->greatest;
  line.used = settled->points.size();
  line.rounds = settled->rounds;
  line.settled = settled->settled;
  if (line.closed) {
    for (const Piece& piece : settled->chain.pieces()) {
      if (piece.length() > 1e-3 * line.radius) line.pieces.push_back(piece);
    }
  } else {
    cut_ends(e, *settled, static_cast<double>(near.size()) / static_cast<double>(line.points),
             line);
  }
  if (line.pieces.empty())
    return Error{ErrorCode::Degenerate, "The pipe is too short for a centre line."};
  // Uncertainties of bends by their radius.
  for (Piece& piece : line.pieces) {
    for (std::size_t g = 1; g < settled->chain.bends.size() && !piece.straight; ++g) {
      if (std::abs(settled->chain.bends[g] - piece.radius) < 1e-9 * piece.radius)
        piece.u_radius = settled->u_bends[g - 1];
    }
  }
  return line;
}

std::vector<Vec3> normals_of(const scan::Mesh& mesh, const scan::Topology& topology) {
  std::vector<Vec3> normals = scan::vertex_normals(mesh);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (topology.across[3 * t + k] != scan::kNone) continue;
      normals[mesh.triangles[t][k]].setZero();
      normals[mesh.triangles[t][(k + 1) % 3]].setZero();
    }
  }
  return normals;
}

Result<Centreline> find_centreline(const scan::Mesh& mesh, const std::vector<Vec3>& picks,
                                   CentrelineOptions options, const Task& task) {
  const scan::Topology topology = scan::build_topology(mesh);
  if (!(options.spacing > 0)) {
    std::vector<double> lengths;
    for (std::size_t t = 0; t < mesh.triangles.size(); t += 1 + mesh.triangles.size() / 5000)
      lengths.push_back((mesh.corner(t, 1) - mesh.corner(t, 0)).norm());
    if (lengths.empty()) return Error{ErrorCode::InvalidInput, "The scan has no triangles."};
    const auto middle = lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2);
    std::nth_element(lengths.begin(), middle, lengths.end());
    options.spacing = *middle;
  }
  if (!(options.noise > 0)) options.noise = scan::typical_ring_noise(mesh, topology);
  return find_centreline(mesh.vertices, normals_of(mesh, topology), picks, options, task);
}

}  // namespace lostline::pipe
