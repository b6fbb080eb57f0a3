#include "simulate/touch_probe.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include "deviation/deviation.h"
#include "instruments/probing.h"
#include "model/faces.h"
#include "simulate/chance.h"

namespace lostline::simulate {
namespace {

constexpr double kLeastShare = 0.01;  // of the part's area: smaller faces are not in the programme
constexpr std::size_t kMore = 4;      // touches of a face beyond those that determine it
constexpr std::size_t kTried = 60;    // places of a face from which the touches are chosen

/// A place on the model with the way that it is touched from.
struct Place {
  Vec3 at, out;
};

}  // namespace

struct TouchProbe::Impl {
  Impl(const TouchProbeOptions& o, deviation::Comparator c)
      : options(o), comparator(std::move(c)) {}
  TouchProbeOptions options;
  deviation::Comparator comparator;
  Transform pose = Transform::Identity();
  double size = 0;  // mm, diagonal of the model
  std::vector<std::pair<std::string, Place>> programme;
  std::size_t next = 0;
  mutable std::uint64_t touches = 0;

  [[nodiscard]] double radius() const { return 0.5 * options.tip; }
  /// The ball's centre where it first touches on its way from `start`; model coordinates.
  [[nodiscard]] std::optional<Vec3> rest(const Vec3& start, const Vec3& way, double far) const {
    const double limit = 2 * size + 1000;
    double t = 0;
    for (int step = 0; step < 200 && t < far; ++step) {
      const auto value = comparator.at(start + t * way, limit);
      const double free = value.distance - radius();
      if (free < 1e-7) return step == 0 ? std::nullopt : std::optional(Vec3(start + t * way));
      t += std::max(free, 1e-7);
    }
    return std::nullopt;
  }
  /// The centre for a place, from as far out as there is room.
  [[nodiscard]] std::optional<Vec3> centre_at(const Place& place) const {
    for (const double away : {5.0, 1.0, 0.2}) {
      const Vec3 start = place.at + (radius() + away * options.tip) * place.out;
      if (const auto centre = rest(start, -place.out, (away + 3) * options.tip)) return centre;
    }
    return std::nullopt;
  }
  void plan(const model::Model& solid, const model::Tessellation& shape);
};

/// The larger faces, each with places spread over it that the ball reaches.
void TouchProbe::Impl::plan(const model::Model& solid, const model::Tessellation& shape) {
  std::vector<double> area(solid.face_count(), 0);
  std::vector<std::vector<std::size_t>> triangles(solid.face_count());
  for (std::size_t t = 0; t < shape.triangle_face.size(); ++t) {
    area[shape.triangle_face[t]] += 0.5 * shape.mesh.area_vector(t).norm();
    triangles[shape.triangle_face[t]].push_back(t);
  }
  const double all = std::accumulate(area.begin(), area.end(), 0.0);
  std::vector<std::size_t> order(area.size());
  std::iota(order.begin(), order.end(), 0);
  std::sort(order.begin(), order.end(), [&](auto a, auto b) { return area[a] > area[b]; });
  std::map<std::string, int> number;
  for (const std::size_t face : order) {
    if (area[face] < kLeastShare * all) break;
    const std::optional<fit::Surface> surface = model::surface_of_face(solid, face);
    const auto* kind =
        surface ? instruments::probed_kind_of(fit::kind_name(surface->kind)) : nullptr;
    if (kind == nullptr) continue;
    std::vector<Place> places;
    for (std::size_t k = 0; k < kTried; ++k) {
      // A triangle by its area, a place in it.
      double at = uniform(options.seed, 401 + face, 3 * k) * area[face];
      std::size_t chosen = triangles[face].back();
      for (const std::size_t t : triangles[face]) {
        at -= 0.5 * shape.mesh.area_vector(t).norm();
        if (at > 0) continue;
        chosen = t;
        break;
      }
      const double s = std::sqrt(uniform(options.seed, 401 + face, 3 * k + 1));
      const double r = uniform(options.seed, 401 + face, 3 * k + 2);
      Vec3 p = (1 - s) * shape.mesh.corner(chosen, 0) + s * (1 - r) * shape.mesh.corner(chosen, 1) +
               s * r * shape.mesh.corner(chosen, 2);
      const Vec3 out = surface->normal_at(p);
      p -= surface->distance(p) * out;
      const auto centre = centre_at({p, out});
      // The ball must meet this place, no edge or wall before it.
      if (centre && (*centre - radius() * out - p).norm() < 1e-3) places.push_back({p, out});
    }
    const std::size_t wanted = kind->needed + kMore;
    if (places.size() < wanted) continue;
    const std::string name = std::string(kind->name) + " " + std::to_string(++number[kind->name]);
    // Each next one as far from those chosen as can be.
    std::vector<double> far(places.size(), std::numeric_limits<double>::infinity());
    std::size_t at = 0;
    for (std::size_t n = 0; n < wanted; ++n) {
      programme.emplace_back(name, places[at]);
      for (std::size_t k = 0; k < places.size(); ++k)
        far[k] = std::min(far[k], (places[k].at - places[at].at).norm());
      at = static_cast<std::size_t>(std::max_element(far.begin(), far.end()) - far.begin());
    }
  }
}

TouchProbe::TouchProbe(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
TouchProbe::~TouchProbe() = default;

Result<std::unique_ptr<TouchProbe>> TouchProbe::make(const model::Model& solid,
                                                     const TouchProbeOptions& options) {
  if (solid.empty()) return Error{ErrorCode::InvalidInput, "There is no model to probe."};
  if (!(options.tip > 0) || !(options.noise >= 0))
    return Error{ErrorCode::InvalidInput, "The ball must have a size, and noise is not below 0."};
  auto comparator = deviation::Comparator::build(solid);
  if (!comparator) return comparator.error();
  const auto shape = model::tessellate(solid, {0.01, 0.1});
  if (!shape) return shape.error();
  auto impl = std::make_unique<Impl>(options, *std::move(comparator));
  impl->size = solid.box().diagonal().norm();
  if (options.random_pose) impl->pose = simulate::random_pose(options.seed + 7);
  impl->plan(solid, *shape);
  return std::unique_ptr<TouchProbe>(new TouchProbe(std::move(impl)));
}

const Transform& TouchProbe::pose() const { return impl_->pose; }

void TouchProbe::begin() { impl_->next = 0; }

instruments::Introduction TouchProbe::introduction() const {
  instruments::Introduction said;
  said.kind = instruments::Introduction::Kind::Probe;
  said.name = "stand-in touch probe";
  said.noise = impl_->options.noise;
  said.tip = impl_->options.tip;
  said.gives_centres = impl_->options.gives_centres;
  return said;
}

std::optional<instruments::Touch> TouchProbe::touch(const Vec3& at, const Vec3& out) const {
  const Transform back = impl_->pose.inverse();
  const auto centre = impl_->centre_at({back * at, back.linear() * out});
  if (!centre) return std::nullopt;
  const std::uint64_t k = impl_->touches++;
  instruments::Touch touch{impl_->pose * *centre, out};
  for (std::uint64_t c = 0; c < 3; ++c)
    touch.at[static_cast<Eigen::Index>(c)] +=
        impl_->options.noise * normal(impl_->options.seed, 450 + c, k);
  if (!impl_->options.gives_centres) touch.at -= impl_->radius() * out;
  return touch;
}

Status TouchProbe::answer(const instruments::Message& command, const Send& send, const Task&) {
  const auto say = [&](const instruments::Touch& t, const std::string& feature) {
    return send(instruments::line_of(
                    "TOUCHED", {t.at.x(), t.at.y(), t.at.z(), t.out.x(), t.out.y(), t.out.z()}) +
                (feature.empty() ? "" : " " + feature));
  };
  if (command.word == "NEXT") {
    while (impl_->next < impl_->programme.size()) {
      const auto& [feature, place] = impl_->programme[impl_->next++];
      if (const auto made = touch(impl_->pose * place.at, impl_->pose.linear() * place.out))
        return say(*made, feature);
    }
    return send("DONE");
  }
  if (command.word != "TOUCH")
    return Error{ErrorCode::InvalidInput,
                 "\"" + command.word + "\" is no command of a probe: TOUCH and NEXT are."};
  const auto numbers = command.numbers(6);
  if (!numbers) return numbers.error();
  const Vec3 out((*numbers)[3], (*numbers)[4], (*numbers)[5]);
  if (!(out.norm() > 0))
    return Error{ErrorCode::InvalidInput, "TOUCH needs a direction that it comes from."};
  const auto made = touch({(*numbers)[0], (*numbers)[1], (*numbers)[2]}, out.normalized());
  return made ? say(*made, "") : send("MISSED");
}

}  // namespace lostline::simulate
