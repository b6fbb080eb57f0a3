#include "joining/targets.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "joining/rims.h"
#include "scan/mesh_index.h"

namespace lostline::joining {
namespace {

using Vertices = std::vector<std::uint32_t>;

/// A surface of one kind grown from a place of a scan over what lies on it.
class Growth {
 public:
  Growth(fit::Kind kind, const scan::Mesh& mesh, const scan::Topology& topology)
      : kind_(kind),
        mesh_(mesh),
        topology_(topology),
        normals_(scan::vertex_normals(mesh)),
        taken_(mesh.vertices.size(), 0) {}

  /// Ring by ring over what lies on the surface and looks its way; fitted anew as often as it has
  /// grown by half. Nothing where no such surface holds.
  std::optional<fit::SurfaceFit> from(std::uint32_t seed, const Task& task) {
    on_ = first_around(seed);
    // A click on a face may lie close to its rim: from where it is flattest there.
    if (kind_ == fit::Kind::Plane) on_ = first_around(flattest(on_));
    if (on_.size() < kSeed / 2) return std::nullopt;
    auto fit = fitted({});
    for (int round = 0; fit && round < 60 && !task.stopped(); ++round) {
      const fit::Surface surface = fit->surface;
      const double near = 5 * std::max(fit->sigma, 1e-4 * std::max(surface.radius, reach()));
      const auto lies_on = [&](std::uint32_t v) {
        constexpr double kAlike = 0.87;  // cosine: normals of noisy scans stray by 30 degrees
        const Vec3& p = mesh_.vertices[v];
        return std::abs(surface.distance(p)) < near &&
               std::abs(surface.normal_at(p).dot(normals_[v])) > kAlike;
      };
      const std::size_t enough = on_.size() + on_.size() / 2;
      std::erase_if(on_, [&](std::uint32_t v) { return !lies_on(v); });
      if (on_.size() < kSeed / 2) return std::nullopt;
      const std::size_t before = on_.size();
      std::fill(taken_.begin(), taken_.end(), 0);
      for (const std::uint32_t v : on_) taken_[v] = 1;
      for (Vertices edge = on_; on_.size() < enough && !edge.empty();) {
        edge = around(edge);
        std::erase_if(edge, [&](std::uint32_t v) { return !lies_on(v); });
        on_.insert(on_.end(), edge.begin(), edge.end());
      }
      fit = fitted(surface);
      if (on_.size() == before) break;
    }
    if (!fit) return std::nullopt;
    return *fit;
  }
  /// Triangles all of whose corners lie on it.
  [[nodiscard]] std::vector<std::uint32_t> triangles() const {
    std::vector<char> on(mesh_.vertices.size(), 0);
    for (const std::uint32_t v : on_) on[v] = 1;
    std::vector<std::uint32_t> inside;
    for (std::size_t t = 0; t < mesh_.triangles.size(); ++t) {
      const scan::Triangle& c = mesh_.triangles[t];
      if (on[c[0]] != 0 && on[c[1]] != 0 && on[c[2]] != 0)
        inside.push_back(static_cast<std::uint32_t>(t));
    }
    return inside;
  }

 private:
  Result<fit::SurfaceFit> fitted(const std::optional<fit::Surface>& start) const {
    Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(on_.size()));
    Eigen::Matrix3Xd directions(3, points.cols());
    for (std::size_t i = 0; i < on_.size(); ++i) {
      points.col(static_cast<Eigen::Index>(i)) = mesh_.vertices[on_[i]];
      directions.col(static_cast<Eigen::Index>(i)) = normals_[on_[i]];
    }
    return fit::fit_surface(kind_, points, directions, start);
  }
  /// Some vertices around one.
  Vertices first_around(std::uint32_t seed) {
    std::fill(taken_.begin(), taken_.end(), 0);
    taken_[seed] = 1;
    Vertices first{seed};
    for (Vertices edge = first; first.size() < kSeed && !edge.empty();) {
      edge = around(edge);
      first.insert(first.end(), edge.begin(), edge.end());
    }
    return first;
  }
  /// The one whose neighbours' neighbours look its way the most.
  [[nodiscard]] std::uint32_t flattest(const Vertices& some) const {
    std::uint32_t best = some.front();
    double most = -2;
    for (const std::uint32_t v : some) {
      double least = 1;
      for (const std::uint32_t n : topology_.vertex_neighbours[v]) {
        for (const std::uint32_t far : topology_.vertex_neighbours[n])
          least = std::min(least, normals_[v].dot(normals_[far]));
      }
      if (least > most) {
        most = least;
        best = v;
      }
    }
    return best;
  }
  /// The next vertices around some, outside of them.
  Vertices around(const Vertices& some) {
    Vertices next;
    for (const std::uint32_t v : some) {
      for (const std::uint32_t w : topology_.vertex_neighbours[v]) {
        if (taken_[w] != 0) continue;
        taken_[w] = 1;
        next.push_back(w);
      }
    }
    return next;
  }
  /// mm, from the seed to what was taken last.
  [[nodiscard]] double reach() const {
    return (mesh_.vertices[on_.front()] - mesh_.vertices[on_.back()]).norm();
  }

  static constexpr std::size_t kSeed = 60;  // enough for a first fit, few enough to stay on it

  fit::Kind kind_;
  const scan::Mesh& mesh_;
  const scan::Topology& topology_;
  std::vector<Vec3> normals_;
  std::vector<char> taken_;
  Vertices on_;
};

/// A centre that strays by a tenth of the radius is no target (common practice, no source).
constexpr double kStrays = 0.1;

Result<Target> ball_at(const scan::Mesh& mesh, const scan::Topology& topology, std::uint32_t seed,
                       const Task& task) {
  const auto fit = Growth(fit::Kind::Sphere, mesh, topology).from(seed, task);
  if (!fit || !(fit->u_offset < kStrays * fit->surface.radius) ||
      !(fit->rms < 0.05 * fit->surface.radius))
    return Error{ErrorCode::Degenerate,
                 "What lies there is no ball whose centre could be told. Pick a place on a ball "
                 "that the scan shows well."};
  return Target{fit->surface.point, fit->surface.radius, fit->u_offset};
}

/// The arc of a border about the place of it that is nearest to a click: the longest that is one of
/// a circle, half of it at least, so that a rim may be hidden in part.
std::optional<fit::SurfaceFit> rim_near(const scan::Mesh& mesh, const std::vector<Vertices>& loops,
                                        const Vec3& place, double spacing) {
  const Vertices* loop = nullptr;
  std::size_t nearest = 0;
  double least = std::numeric_limits<double>::max();
  for (const Vertices& l : loops) {
    for (std::size_t k = 0; k < l.size(); ++k) {
      const double off = (mesh.vertices[l[k]] - place).norm();
      if (off >= least) continue;
      least = off;
      nearest = k;
      loop = &l;
    }
  }
  constexpr std::size_t kFewest = 10;
  if (loop == nullptr || loop->size() < kFewest) return std::nullopt;
  const auto arc = [&](std::size_t count) {
    Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(count));
    for (std::size_t i = 0; i < count; ++i)
      points.col(static_cast<Eigen::Index>(i)) =
          mesh.vertices[(*loop)[(nearest + loop->size() - count / 2 + i) % loop->size()]];
    return points;
  };
  // The longest one first: of a short arc the steps from vertex to vertex hide the circle.
  for (std::size_t count = loop->size(); count >= kFewest;
       count -= std::max<std::size_t>(1, count / 8)) {
    const auto fit = fit::fit_surface(fit::Kind::Circle, arc(count), Eigen::Matrix3Xd(3, 0));
    // The border goes from vertex to vertex, half a spacing to and fro; what follows on the rim is
    // no stray.
    if (!fit || fit->rms > 0.6 * spacing || 4 * fit->used < 3 * count) continue;
    const double seen = static_cast<double>(fit->used) * spacing;  // mm along the border, at least
    if (seen > kPi * fit->surface.radius) return *fit;
  }
  return std::nullopt;
}

Result<Target> circle_at(const scan::Mesh& mesh, const scan::Topology& topology, std::uint32_t seed,
                         const Vec3& place, const Task& task) {
  const Error none{ErrorCode::Degenerate,
                   "There is no round rim whose centre could be told. Pick the flat face close to "
                   "a round hole or disc of which the scan shows half at least."};
  Growth growth(fit::Kind::Plane, mesh, topology);
  const auto plane = growth.from(seed, task);
  if (!plane) return none;
  const std::vector<std::uint32_t> triangles = growth.triangles();
  double area = 0;
  for (const std::uint32_t t : triangles) area += 0.5 * mesh.area_vector(t).norm();
  // Of an even mesh of that area.
  const double spacing = std::sqrt(
      area / static_cast<double>(std::max<std::size_t>(1, triangles.size())) * 4 / std::sqrt(3.0));
  const auto rim = rim_near(mesh, border_loops(mesh, topology, triangles), place, spacing);
  if (!rim) return none;
  const fit::Surface& circle = rim->surface;
  if (!(rim->u_offset < kStrays * circle.radius) ||
      (place - circle.point).norm() > 2 * circle.radius)
    return none;
  // The edge is rounded, so that its border hangs below the face.
  const Vec3 centre = circle.point - plane->surface.distance(circle.point) * plane->surface.axis;
  return Target{centre, circle.radius, std::hypot(rim->u_offset, 2 * kRimMoves * spacing)};
}

}  // namespace

Result<Target> target_at(TargetKind kind, const scan::Mesh& mesh, const Vec3& place,
                         const Task& task) {
  const auto nearest = scan::MeshIndex(mesh).nearest(place);
  const double size = scan::bounds(mesh).diagonal().norm();
  if (!nearest || nearest->distance > 0.05 * size)
    return Error{ErrorCode::InvalidInput, "The place of a target lies nowhere near its scan."};
  const scan::Topology topology = scan::build_topology(mesh);
  const std::uint32_t seed = mesh.triangles[nearest->triangle][0];
  auto target = kind == TargetKind::Ball ? ball_at(mesh, topology, seed, task)
                                         : circle_at(mesh, topology, seed, place, task);
  if (task.stopped()) return cancelled();
  return target;
}

bool alike(const Target& a, const Target& b) {
  // A border stands off its edge by up to one and a half spacings, of which U is two fifths.
  const double apart = std::abs(a.radius - b.radius);
  return apart < 0.1 * std::max(a.radius, b.radius) + 2 * (a.u + b.u);
}

}  // namespace lostline::joining
