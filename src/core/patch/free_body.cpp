#include "patch/free_body.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/parallel.h"
#include "patch/patch_network.h"
#include "patch/quad_layout.h"
#include "scan/mesh_index.h"

namespace lostline::patch {
namespace {

/// Where a point of the scan lies on the patches.
struct Foot {
  std::uint32_t patch = 0;
  Vec2 at = Vec2::Zero();
  double off = 0;  ///< mm
  bool known = false;
};

/// Grid triangles in the order of QuadLayout::mesh, and the parameters of a point on one.
struct OnGrid {
  std::size_t steps;
  [[nodiscard]] Foot foot(const scan::MeshIndex::Nearest& near) const {
    const std::size_t cell = near.triangle / 2;
    const std::size_t in_patch = cell % (steps * steps);
    const std::size_t row = in_patch / steps;
    const auto i = static_cast<double>(row);
    const auto j = static_cast<double>(in_patch % steps);
    // Corners (i, j), (i + 1, j), (i + 1, j + 1) or (i, j), (i + 1, j + 1), (i, j + 1).
    const bool first = near.triangle % 2 == 0;
    const double u = first ? near.weights[1] + near.weights[2] : near.weights[1];
    const double v = first ? near.weights[2] : near.weights[1] + near.weights[2];
    Foot foot;
    foot.patch = static_cast<std::uint32_t>(cell / (steps * steps));
    foot.at = Vec2(i + u, j + v) / static_cast<double>(steps);
    foot.known = true;
    return foot;
  }
};

class Fit {
 public:
  Fit(const std::vector<Vec3>& points, const std::vector<Vec3>& normals, const QuadLayout& layout,
      std::size_t spans, const FreeBodyOptions& options)
      : points_(points), normals_(normals), network_(layout, spans), options_(options) {
    feet_.resize(points.size());
    assign(layout.mesh(), {layout.steps});
  }

  bool run(const Task& task) {
    // The tangent planes are told by the surfaces themselves: first without, then held as hard as
    // it takes for them to look smooth, no harder: what is held bends the fit.
    constexpr double kSmooth = 0.5 * std::numbers::pi / 180;  // rad
    constexpr double kHardest = 1000;
    double hold = 0;
    for (int round = 0;; ++round) {
      if (task.stopped() || !solve(hold)) return false;
      if (round == 0) network_.hold_slopes();
      follow();
      if (round >= kRounds && (network_.crease() < kSmooth || hold >= kHardest)) return true;
      hold = hold == 0 ? 0.01 : round <= kRounds || network_.crease() > kSmooth ? 4 * hold : hold;
    }
  }
  [[nodiscard]] const PatchNetwork& network() const { return network_; }

  /// Of any points, with their distances.
  [[nodiscard]] std::vector<double> distances(const std::vector<Vec3>& points,
                                              const std::vector<Vec3>& normals) const {
    std::vector<Foot> feet(points.size());
    place(network_.grid(kSteps), {kSteps}, points, normals, feet);
    std::vector<double> off;
    off.reserve(points.size());
    for (const Foot& foot : feet) off.push_back(foot.off);
    return off;
  }

 private:
  static constexpr int kRounds = 4;          // of fitting and following, at least
  static constexpr std::size_t kSteps = 12;  // of the grid that points are first laid on

  void place(const scan::Mesh& grid, const OnGrid& on, const std::vector<Vec3>& points,
             const std::vector<Vec3>& normals, std::vector<Foot>& feet) const {
    const scan::MeshIndex index(grid);
    parallel_for(points.size(), 1024, [&](std::size_t begin, std::size_t end) {
      for (std::size_t p = begin; p < end; ++p) {
        feet[p].known = false;
        const auto near = index.nearest(points[p]);
        if (!near || grid.area_vector(near->triangle).dot(normals[p]) < 0) {
          feet[p].off = near ? near->distance : 0;
          continue;
        }
        feet[p] = on.foot(*near);
        const SplineSurface& patch = network_.patch(feet[p].patch);
        if (network_.fitted()) feet[p].at = patch.foot(points[p], feet[p].at, 4);
        feet[p].off = (patch.at(feet[p].at.x(), feet[p].at.y()) - points[p]).norm();
      }
    });
  }
  void assign(const scan::Mesh& grid, const OnGrid& on) {
    place(grid, on, points_, normals_, feet_);
  }
  /// After the patches have moved.
  void follow() { assign(network_.grid(kSteps), {kSteps}); }

  bool solve(double hold) {
    // Strays do not pull.
    double cut = 0;
    if (network_.fitted()) {
      std::vector<double> sizes;
      for (const Foot& foot : feet_)
        if (foot.known) sizes.push_back(foot.off);
      if (sizes.empty()) return false;
      const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
      std::nth_element(sizes.begin(), middle, sizes.end());
      constexpr double kStray = 4;  // robust standard deviations
      cut = kStray * 1.4826 * *middle;
    }
    PatchEquations equations(network_);
    for (std::size_t p = 0; p < feet_.size(); ++p) {
      const Foot& foot = feet_[p];
      if (!foot.known) continue;
      const double weight = cut > 0 && foot.off > cut ? cut * cut / (foot.off * foot.off) : 1;
      equations.add_point(foot.patch, foot.at, points_[p], weight);
    }
    const double each = static_cast<double>(points_.size()) / static_cast<double>(network_.count());
    equations.add_bending(options_.stiffness * each / std::pow(network_.spans(), 4));
    if (hold > 0) equations.add_sides(hold * each, each);
    return equations.solve(network_);
  }

  const std::vector<Vec3>& points_;
  const std::vector<Vec3>& normals_;
  PatchNetwork network_;
  const FreeBodyOptions& options_;
  std::vector<Foot> feet_;
};

struct Measured {
  double rms = 0, p95 = 0, greatest = 0;
};
Measured measure(std::vector<double> off) {
  Measured m;
  for (const double d : off) m.rms += d * d / static_cast<double>(off.size());
  m.rms = std::sqrt(m.rms);
  const auto at =
      off.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(off.size() - 1));
  std::nth_element(off.begin(), at, off.end());
  m.p95 = *at;
  m.greatest = *std::max_element(off.begin(), off.end());
  return m;
}

}  // namespace

Result<FreeBody> fit_free_body(const scan::Mesh& mesh, const FreeBodyOptions& options,
                               const Task& task) {
  if (!(options.tolerance >= 0) || !(options.stiffness > 0) || !(options.noise >= 0))
    return Error{ErrorCode::InvalidInput, "The tolerance must not be below zero."};
  const scan::Topology topology = scan::build_topology(mesh);
  if (mesh.triangles.empty() || topology.open_edges > 0 || topology.non_manifold_edges > 0)
    return Error{ErrorCode::InvalidInput,
                 "A free body is made of a closed scan; this one has " +
                     std::to_string(topology.open_edges) + " open and " +
                     std::to_string(topology.non_manifold_edges) +
                     " non-manifold edges. Mend and fill it (Clean), or use Patch on areas of it."};
  const auto parts = scan::connected_components(mesh, topology);
  if (parts.sizes.size() > 1)
    return Error{ErrorCode::InvalidInput,
                 "The scan has " + std::to_string(parts.sizes.size()) +
                     " parts that do not hang together. Drop the islands first (Clean)."};
  const scan::MeshIndex index(mesh);
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  // Patches are told by some of the points; the figures come from all.
  constexpr std::size_t kEnough = 60000;
  const std::size_t stride = (mesh.vertices.size() + kEnough - 1) / kEnough;
  std::vector<Vec3> some;
  std::vector<Vec3> some_normals;
  for (std::size_t k = 0; k < mesh.vertices.size(); k += stride) {
    some.push_back(mesh.vertices[k]);
    some_normals.push_back(normals[k]);
  }
  constexpr double kAsNoise = 1.05;  // of the noise: nearer is nobody's shape
  const auto enough = [&](const Measured& m) {
    return options.tolerance > 0 ? m.p95 <= options.tolerance
                                 : options.noise > 0 && m.rms <= kAsNoise * options.noise;
  };
  // Few patches of more spans come before many.
  const std::vector<std::size_t> ladder =
      options.spans > 0 ? std::vector{options.spans} : std::vector<std::size_t>{4, 6, 9, 13};
  constexpr std::size_t kMostPatches = 1000;
  FreeBody best;
  bool have = false;
  std::size_t wanted = options.patches > 0 ? options.patches : 24;
  for (std::size_t round = 0;; ++round) {
    const auto layout = part_closed(mesh, index, wanted, task.part(0, 0.2));
    if (!layout) {
      if (have && layout.error().code == ErrorCode::Degenerate) break;
      return layout.error();
    }
    bool done = false;
    for (const std::size_t spans : ladder) {
      const auto unknowns = static_cast<double>(layout->quads.size() * spans * spans);
      if (have && unknowns > 0.5 * static_cast<double>(some.size())) break;  // follows noise
      Fit fit(some, some_normals, *layout, spans, options);
      if (!fit.run(task)) {
        if (task.stopped()) return cancelled();
        continue;
      }
      const Measured m = measure(fit.distances(mesh.vertices, normals));
      const bool better = !have || m.rms < 0.97 * best.rms;
      done = enough(m);
      if (done || better) {
        best.patches = fit.network().patches();
        best.crease = fit.network().crease();
        best.rms = m.rms;
        best.p95 = m.p95;
        best.greatest = m.greatest;
        have = true;
      }
      if (done || !better) break;
      task.report(0.2 + 0.7 * static_cast<double>(spans) / 13);
    }
    if (done || options.patches > 0 || layout->quads.size() > kMostPatches / 2) break;
    if (options.tolerance <= 0 && options.noise <= 0) break;  // nothing to judge by
    wanted = 2 * layout->quads.size();
  }
  if (!have)
    return Error{ErrorCode::Degenerate, "The points of this shape do not determine its patches."};
  best.within = options.tolerance <= 0 || best.p95 <= options.tolerance;
  return best;
}

}  // namespace lostline::patch
