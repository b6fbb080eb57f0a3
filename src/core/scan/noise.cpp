#include "scan/noise.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>
#include <vector>

#include "base/linear.h"
#include "base/median.h"
#include "base/parallel.h"

namespace lostline::scan {
namespace {

constexpr std::array kRadii{16.0, 8.0, 4.0};  // of larger patches, spacings
constexpr double kMore = 1.4;        // times what rings show: less is a rough skin here and there
constexpr std::size_t kFewest = 20;  // patches that a reading rests on
constexpr double kEdge = 0.45;       // rad between normals: an edge, far above noise
constexpr double kLongest = 0.35;    // of the patch: longer, it is shape and not noise

/// Residuals of a quadratic height function over some vertices, with their places across it.
struct Quadratic {
  Eigen::Matrix2Xd at;
  Eigen::VectorXd residual;
  Eigen::Matrix3d axes;  ///< columns: up, v, u
  Eigen::VectorXd coefficients;
  double scale = 1;

  [[nodiscard]] double sigma() const {
    return std::sqrt(residual.squaredNorm() / static_cast<double>(residual.size() - 6));
  }
  /// Normal of the fitted surface above a place.
  [[nodiscard]] Vec3 normal(Eigen::Index i) const {
    const double x = at(0, i) / scale;
    const double y = at(1, i) / scale;
    const double dx = (coefficients[1] + 2 * coefficients[3] * x + coefficients[4] * y) / scale;
    const double dy = (coefficients[2] + coefficients[4] * x + 2 * coefficients[5] * y) / scale;
    return (axes.col(0) - dx * axes.col(2) - dy * axes.col(1)).normalized();
  }
};

std::optional<Quadratic> quadratic_over(const Mesh& mesh, const std::vector<std::uint32_t>& ring) {
  if (ring.size() < 12) return std::nullopt;
  Vec3 mean = Vec3::Zero();
  for (const std::uint32_t i : ring) mean += mesh.vertices[i];
  mean /= static_cast<double>(ring.size());
  Eigen::Matrix3d scatter = Eigen::Matrix3d::Zero();
  for (const std::uint32_t i : ring) {
    const Vec3 d = mesh.vertices[i] - mean;
    scatter += d * d.transpose();
  }
  const auto axes = symmetric_eigen<3>(scatter);
  if (!(axes.values[1] > 0)) return std::nullopt;
  Quadratic q;
  q.axes = axes.vectors;
  q.scale = std::sqrt(axes.values[2] / static_cast<double>(ring.size()));
  const auto n = static_cast<Eigen::Index>(ring.size());
  q.at.resize(2, n);
  Eigen::MatrixXd a(n, 6);
  Eigen::VectorXd z(n);
  for (Eigen::Index i = 0; i < n; ++i) {
    const Vec3 d =
        axes.vectors.transpose() * (mesh.vertices[ring[static_cast<std::size_t>(i)]] - mean);
    q.at.col(i) = Vec2(d[2], d[1]);
    const double x = d[2] / q.scale;
    const double y = d[1] / q.scale;
    a.row(i) << 1, x, y, x * x, x * y, y * y;
    z[i] = d[0];
  }
  q.coefficients = a.householderQr().solve(z);
  q.residual = z - a * q.coefficients;
  return q;
}

/// Vertices within a distance, reached over the mesh; empty where the patch is not whole.
std::vector<std::uint32_t> disc(const Mesh& mesh, const Topology& topology, std::uint32_t centre,
                                double radius) {
  std::vector<std::uint32_t> found{centre};
  std::vector<std::uint32_t> sorted{centre};
  std::vector<std::uint32_t> front{centre};
  while (!front.empty()) {
    std::vector<std::uint32_t> next;
    for (const std::uint32_t v : front) {
      for (const std::uint32_t other : topology.vertex_neighbours[v]) {
        if ((mesh.vertices[other] - mesh.vertices[centre]).squaredNorm() <= radius * radius)
          next.push_back(other);
      }
    }
    std::sort(next.begin(), next.end());
    next.erase(std::unique(next.begin(), next.end()), next.end());
    front.clear();
    std::set_difference(next.begin(), next.end(), sorted.begin(), sorted.end(),
                        std::back_inserter(front));
    found.insert(found.end(), front.begin(), front.end());
    std::vector<std::uint32_t> merged;
    std::merge(sorted.begin(), sorted.end(), front.begin(), front.end(),
               std::back_inserter(merged));
    sorted = std::move(merged);
  }
  return found;
}

/// Whether a patch reaches as far on every side, and has no edge in it.
bool whole_and_smooth(const std::vector<Vec3>& normals, const std::vector<std::uint32_t>& ring,
                      const Quadratic& q, double radius) {
  std::array<double, 8> reach{};
  const Vec2 centre = q.at.col(0);  // the disc begins with its centre
  for (Eigen::Index i = 0; i < q.at.cols(); ++i) {
    const Vec2 d = q.at.col(i) - centre;
    const double turn = (std::atan2(d.y(), d.x()) + std::numbers::pi) / (2 * std::numbers::pi);
    auto& sector = reach[std::min<std::size_t>(7, static_cast<std::size_t>(8 * turn))];
    sector = std::max(sector, d.norm());
  }
  if (*std::min_element(reach.begin(), reach.end()) < 0.7 * radius) return false;
  // Every so many points are enough to see an edge run through.
  const std::size_t stride = std::max<std::size_t>(1, ring.size() / 150);
  std::size_t seen = 0;
  std::size_t off = 0;
  for (std::size_t i = 0; i < ring.size(); i += stride) {
    const Vec3& n = normals[ring[i]];
    if (n.isZero()) continue;
    ++seen;
    off += std::abs(n.dot(q.normal(static_cast<Eigen::Index>(i)))) < std::cos(kEdge) ? 1 : 0;
  }
  return seen > 0 && off * 50 <= seen;
}

/// Correlation of the residuals by distance, in steps of a spacing.
struct Correlogram {
  std::vector<double> product;
  std::vector<double> pairs;
  double square = 0;
  double count = 0;

  void add(const Quadratic& q, double spacing) {
    square += q.residual.squaredNorm();
    count += static_cast<double>(q.residual.size());
    const Eigen::Index stride = std::max<Eigen::Index>(1, q.residual.size() / 60);
    for (Eigen::Index i = 0; i < q.residual.size(); i += stride) {
      for (Eigen::Index j = 0; j < q.residual.size(); ++j) {
        if (i == j) continue;
        const auto bin =
            static_cast<std::size_t>((q.at.col(i) - q.at.col(j)).norm() / (0.5 * spacing));
        if (bin >= product.size()) continue;
        product[bin] += q.residual[i] * q.residual[j];
        ++pairs[bin];
      }
    }
  }
  /// Where it falls to 1/e; 0 when it is below that from the first neighbours on.
  [[nodiscard]] double length(double spacing) const {
    const double variance = square / std::max(count, 1.0);
    if (!(variance > 0)) return 0;
    double before = 1;
    double at_before = 0;
    for (std::size_t bin = 0; bin < product.size(); ++bin) {
      if (pairs[bin] < 50) continue;
      const double at = (static_cast<double>(bin) + 0.5) * 0.5 * spacing;
      const double value = product[bin] / pairs[bin] / variance;
      const double wanted = std::exp(-1.0);
      if (value < wanted) {
        const double length = at_before + (at - at_before) * (before - wanted) / (before - value);
        return length < spacing && at_before == 0 ? 0 : length;
      }
      before = value;
      at_before = at;
    }
    return at_before;
  }
};

struct Reading {
  double sigma = 0;
  double length = 0;
  std::size_t patches = 0;
};

Reading read_patches(const Mesh& mesh, const Topology& topology, const std::vector<Vec3>& normals,
                     double radius, double spacing, std::size_t samples) {
  const std::size_t n = mesh.vertices.size();
  const std::size_t stride = std::max<std::size_t>(1, n / std::max<std::size_t>(samples, 1));
  const std::size_t count = (n + stride - 1) / stride;
  std::vector<std::optional<Quadratic>> patches(count);
  parallel_for(count, 4, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const auto ring = disc(mesh, topology, static_cast<std::uint32_t>(i * stride), radius);
      auto q = quadratic_over(mesh, ring);
      if (q && whole_and_smooth(normals, ring, *q, radius)) patches[i] = std::move(q);
    }
  });
  std::vector<double> sigmas;
  for (const auto& q : patches) {
    if (q) sigmas.push_back(q->sigma());
  }
  Reading reading;
  reading.patches = sigmas.size();
  if (sigmas.size() < kFewest) return reading;
  reading.sigma = median(sigmas);
  Correlogram correlogram;
  const auto bins = static_cast<std::size_t>(2 * radius / spacing) + 1;
  correlogram.product.assign(bins, 0);
  correlogram.pairs.assign(bins, 0);
  for (const auto& q : patches) {
    // Those of usual scatter: what is far above holds more than noise.
    if (q && q->sigma() < 1.5 * reading.sigma) correlogram.add(*q, spacing);
  }
  reading.length = correlogram.length(spacing);
  return reading;
}

/// What six freedoms absorb of noise that is shared over an area.
double added_back(double sigma, double length, double radius) {
  const double share = 6 * length * length / (radius * radius);  // areas of correlation and patch
  return sigma / std::sqrt(1 - std::min(share, 0.5));
}

double median_edge(const Mesh& mesh) {
  std::vector<double> edges;
  const std::size_t stride = std::max<std::size_t>(1, mesh.triangles.size() / 20000);
  for (std::size_t t = 0; t < mesh.triangles.size(); t += stride)
    edges.push_back((mesh.corner(t, 1) - mesh.corner(t, 0)).norm());
  return median(edges);
}

}  // namespace

double ring_noise(const Mesh& mesh, const Topology& topology, std::uint32_t v) {
  std::vector<std::uint32_t> ring;
  for (const std::uint32_t a : topology.vertex_neighbours[v]) {
    ring.push_back(a);
    for (const std::uint32_t b : topology.vertex_neighbours[a]) {
      if (b != v) ring.push_back(b);
    }
  }
  std::sort(ring.begin(), ring.end());
  ring.erase(std::unique(ring.begin(), ring.end()), ring.end());
  const auto q = quadratic_over(mesh, ring);
  return q ? q->sigma() : -1;
}

double typical_ring_noise(const Mesh& mesh, const Topology& topology, std::size_t samples) {
  const std::size_t n = mesh.vertices.size();
  const std::size_t stride = std::max<std::size_t>(1, n / std::max<std::size_t>(samples, 1));
  const std::size_t count = (n + stride - 1) / stride;
  std::vector<double> found(count, -1.0);
  parallel_for(count, 64, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i)
      found[i] = ring_noise(mesh, topology, static_cast<std::uint32_t>(i * stride));
  });
  std::erase_if(found, [](double s) { return !(s >= 0); });
  return found.size() < kFewest ? 0.0 : median(found);
}

Noise measure_noise(const Mesh& mesh, const Topology& topology, std::size_t samples) {
  Noise noise;
  noise.sigma = typical_ring_noise(mesh, topology, samples);
  if (!(noise.sigma > 0)) return noise;
  const std::vector<Vec3> normals = vertex_normals(mesh);
  const double spacing = median_edge(mesh);
  const auto read = [&](double radius) {
    return read_patches(mesh, topology, normals, radius * spacing, spacing, samples / 10);
  };
  // Noise that each point has by itself shows as much in small patches as in large ones.
  const Reading first = read(kRadii.back());
  if (first.patches < kFewest || first.sigma < kMore * noise.sigma) return noise;
  std::array<Reading, kRadii.size()> readings;
  readings.back() = first;
  for (std::size_t k = 0; k + 1 < kRadii.size(); ++k) readings[k] = read(kRadii[k]);
  for (std::size_t k = 0; k < kRadii.size(); ++k) {
    const Reading& reading = readings[k];
    const double radius = kRadii[k] * spacing;
    // Shared over much of the patch, it is the part's own shape.
    if (reading.patches < kFewest || reading.length > kLongest * radius) continue;
    // So it is where twice the patch shows many times as much: shape grows with the third or fourth
    // power of the size, noise that neighbours share levels out. Beside the rings, which smoothing
    // leaves little of, only by far.
    constexpr double kGrows = 5;
    constexpr double kGrowsFromRings = 50;
    const bool smallest = k + 1 == kRadii.size();
    if (smallest ? reading.sigma > kGrowsFromRings * noise.sigma
                 : reading.sigma > kGrows * readings[k + 1].sigma)
      continue;
    return {added_back(reading.sigma, reading.length, radius), reading.length, radius};
  }
  return noise;
}

}  // namespace lostline::scan
