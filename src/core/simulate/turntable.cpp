#include "simulate/turntable.h"

#include <cmath>
#include <mutex>

#include "base/parallel.h"
#include "scan/mesh_index.h"
#include "simulate/chance.h"

namespace lostline::simulate {
namespace {

constexpr double kTessellated = 0.005;  // mm, of the triangles that are scanned
constexpr double kGrazing = 0.26;       // cosine below which nothing returns: 75 degrees
constexpr double kTilt = 0.05;          // rad by which a normal reckoned from neighbours is off
constexpr double kBaseline = 0.35;      // rad between camera and projector, seen from the part

}  // namespace

struct Turntable::Impl {
  TurntableOptions options;
  std::optional<scan::MeshIndex> index;
  scan::Mesh mesh;  // in the table's coordinates
  Transform pose;
  Vec3 middle = Vec3::Zero();
  double radius = 0;    // mm, of the part about its middle
  double table = 0;     // mm, radius of the table
  double distance = 0;  // mm, of camera and projector from the middle
  int next = 0;

  /// Where a part of the scanner stands for a view, `beside` rad from the camera.
  [[nodiscard]] Vec3 eye(int number, double beside) const {
    const double turn = 2 * kPi * number / options.views + beside;
    const double flat = std::cos(options.elevation);
    return middle + distance * Vec3(flat * std::cos(turn), flat * std::sin(turn),
                                    std::sin(options.elevation));
  }
  struct Met {
    Vec3 at, normal;
  };
  /// What a ray meets first: the part, the table or nothing.
  [[nodiscard]] std::optional<Met> meet(const Vec3& from, const Vec3& way) const {
    std::optional<Met> met;
    double t = std::numeric_limits<double>::infinity();
    if (const auto hit = index->first_hit(from, way)) {
      t = hit->t;
      met = {hit->point, mesh.area_vector(hit->triangle).normalized()};
    }
    if (options.table && way.z() < 0 && -from.z() / way.z() < t) {
      const Vec3 at = from - from.z() / way.z() * way;
      if (std::hypot(at.x() - middle.x(), at.y() - middle.y()) < table) met = {at, Vec3::UnitZ()};
    }
    return met;
  }
};

Turntable::Turntable(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Turntable::~Turntable() = default;

Result<std::unique_ptr<Turntable>> Turntable::make(const model::Model& solid,
                                                   const TurntableOptions& options) {
  if (solid.empty()) return Error{ErrorCode::InvalidInput, "There is no model to scan."};
  if (!(options.spacing > 0) || !(options.noise >= 0) || options.views < 1 ||
      options.views > 1000 || !(options.down.norm() > 0) ||
      !(options.elevation > 0 && options.elevation < 1.5))
    return Error{ErrorCode::InvalidInput,
                 "Spacing must be above zero, noise not below it, views between 1 and 1000, the "
                 "scanner above the table."};
  auto tessellation = model::tessellate(solid, {kTessellated, 0.05});
  if (!tessellation) return tessellation.error();
  auto impl = std::make_unique<Impl>();
  impl->options = options;
  const Vec3 down = options.down.normalized();
  Transform lie(Eigen::Quaterniond::FromTwoVectors(down, -Vec3::UnitZ()));
  lie = Eigen::AngleAxisd(2 * kPi * uniform(options.seed, 301, 0), Vec3::UnitZ()) * lie;
  Box3 box = scan::bounds(scan::transformed(tessellation->mesh, lie));
  lie = Eigen::Translation3d(-box.center().x(), -box.center().y(), -box.min().z()) * lie;
  impl->mesh = scan::transformed(tessellation->mesh, lie);
  impl->pose = lie;
  impl->index.emplace(impl->mesh);
  box = scan::bounds(impl->mesh);
  impl->middle = box.center();
  impl->radius = 0.5 * box.diagonal().norm();
  impl->table = 1.25 * impl->radius;
  impl->distance = 6 * impl->radius;
  if (2 * impl->table / options.spacing > 3000)
    return Error{ErrorCode::InvalidInput, "A spacing of " + std::to_string(options.spacing) +
                                              " mm is too fine for a part of this size."};
  return std::unique_ptr<Turntable>(new Turntable(std::move(impl)));
}

const Transform& Turntable::pose() const { return impl_->pose; }

void Turntable::begin() { impl_->next = 0; }

instruments::Introduction Turntable::introduction() const {
  instruments::Introduction said;
  said.kind = instruments::Introduction::Kind::Scanner;
  said.name = "stand-in turntable";
  said.noise = impl_->options.noise;
  said.spacing = impl_->options.spacing;
  said.views = impl_->options.views;
  return said;
}

instruments::View Turntable::view(int number, const Task& task) const {
  const Impl& i = *impl_;
  const TurntableOptions& o = i.options;
  instruments::View view;
  view.number = number + 1;
  view.eye = i.eye(number, 0);
  const Vec3 projector = i.eye(number, kBaseline);
  const Vec3 towards = (i.middle - view.eye).normalized();
  const Vec3 right = any_perpendicular(towards);
  const Vec3 up = right.cross(towards);
  const double reach = (o.table ? i.table : i.radius) + 2 * o.spacing;
  const auto rows = static_cast<std::size_t>(std::ceil(2 * reach / o.spacing));
  std::vector<std::vector<std::pair<Vec3, Vec3>>> found(rows);
  const auto key = static_cast<std::uint64_t>(number);
  parallel_for(rows, 8, [&](std::size_t begin, std::size_t end) {
    for (std::size_t r = begin; r < end && !task.stopped(); ++r) {
      for (std::size_t c = 0; c < rows; ++c) {
        const std::uint64_t k = (key * 4096 + r) * 4096 + c;
        const double a = (static_cast<double>(c) + uniform(o.seed, 302, k)) * o.spacing - reach;
        const double b = (static_cast<double>(r) + uniform(o.seed, 303, k)) * o.spacing - reach;
        const Vec3 way = (i.middle + a * right + b * up - view.eye).normalized();
        const auto met = i.meet(view.eye, way);
        if (!met) continue;
        const double cosine = -way.dot(met->normal);
        if (cosine < kGrazing || uniform(o.seed, 304, k) > 3 * (cosine - kGrazing) + 0.3) continue;
        // The projector must light it too.
        const Vec3 back = (projector - met->at).normalized();
        if (back.dot(met->normal) < kGrazing) continue;
        if (i.index->first_hit(met->at + 0.02 * met->normal + 0.05 * back, back)) continue;
        const Vec3 at = met->at + o.noise / std::sqrt(cosine) * normal(o.seed, 305, k) * way;
        const Vec3 tilt(normal(o.seed, 306, k), normal(o.seed, 307, k), normal(o.seed, 308, k));
        found[r].emplace_back(at, (met->normal + kTilt * tilt).normalized());
      }
    }
  });
  for (const auto& row : found) {
    for (const auto& [at, out] : row) {
      view.cloud.points.push_back(at);
      view.cloud.normals.push_back(out);
    }
  }
  return view;
}

Status Turntable::answer(const instruments::Message& command, const Send& send, const Task& task) {
  if (command.word != "VIEW")
    return Error{ErrorCode::InvalidInput,
                 "\"" + command.word + "\" is no command of a scanner: VIEW is."};
  if (impl_->next >= impl_->options.views) return send("DONE");
  const instruments::View next = view(impl_->next++, task);
  if (task.stopped()) return cancelled();
  const auto count = static_cast<double>(next.cloud.points.size());
  if (const Status sent =
          send(instruments::line_of("VIEW", {static_cast<double>(next.number), next.eye.x(),
                                             next.eye.y(), next.eye.z(), count}));
      !sent)
    return sent;
  for (std::size_t k = 0; k < next.cloud.points.size(); ++k) {
    const Vec3& p = next.cloud.points[k];
    const Vec3& n = next.cloud.normals[k];
    if (const Status sent =
            send(instruments::line_of("P", {p.x(), p.y(), p.z(), n.x(), n.y(), n.z()}));
        !sent)
      return sent;
  }
  return Done{};
}

}  // namespace lostline::simulate
