#include "deviation/deviation.h"

#include <Standard_Failure.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>

#include "base/parallel.h"
#include "deviation/borders.h"
#include "deviation/face_surface.h"
#include "model/model_impl.h"
#include "scan/mesh_index.h"

namespace lostline::deviation {
namespace {

/// Of the tessellation that finds the face and begins the search for the foot, as a share of the
/// model's size: 0.02 mm at 200 mm. The distances themselves are exact.
constexpr double kDeflection = 1e-4;
/// What lies further from the model than this share of its size belongs to none of its surfaces; a
/// hole that the model lacks must still be seen.
constexpr double kLimit = 0.1;

/// Surfaces that cache the span they were last asked about; one set for each piece of work.
using Adaptors = std::vector<std::unique_ptr<GeomAdaptor_Surface>>;

}  // namespace

struct Comparator::Impl {
  model::Tessellation mesh;
  scan::MeshIndex index;
  std::vector<FaceSurface> faces;
  Borders borders;
  double limit;

  Impl(model::Tessellation shape, std::vector<FaceSurface> surfaces, double far)
      : mesh(std::move(shape)),
        index(mesh.mesh),
        faces(std::move(surfaces)),
        borders(mesh),
        limit(far) {}

  [[nodiscard]] FaceSurface::Foot foot_on(std::uint32_t face, const Vec3& p, const Vec2& seed,
                                          Adaptors* adaptors) const {
    const FaceSurface& surface = faces[face];
    if (surface.free_form.IsNull() || adaptors == nullptr) return surface.foot_of(p, seed, nullptr);
    auto& own = (*adaptors)[face];
    if (!own) own = std::make_unique<GeomAdaptor_Surface>(surface.free_form);
    return surface.foot_of(p, seed, own.get());
  }

  [[nodiscard]] Vec2 parameters_at(std::uint32_t triangle, const Vec3& weights) const {
    Vec2 uv = Vec2::Zero();
    for (int k = 0; k < 3; ++k)
      uv +=
          weights[k] * mesh.parameters[mesh.mesh.triangles[triangle][static_cast<std::size_t>(k)]];
    return uv;
  }

  /// The point of the curve where two surfaces cross that is nearest to p, from a start near it:
  /// on both tangent planes, and where the way to p is square to the curve. How much that changes
  /// along the curve depends on its bend and on how far p lies off it, so it is taken from the step
  /// before (secant method).
  /// @param chord  mm, of the tessellation there: the curve's own point lies no further along it.
  /// Empty where the surfaces meet smoothly; the start where the iteration does not settle.
  [[nodiscard]] std::optional<Vec3> on_crossing(const Vec3& p, Vec3 q, double chord,
                                                std::uint32_t a, const Vec2& seed_a,
                                                std::uint32_t b, const Vec2& seed_b,
                                                Adaptors* adaptors) const {
    constexpr int kSteps = 30;
    constexpr double kFlattest = -0.05;  // change of the way along the curve, per mm along it
    const Vec3 start = q;
    Vec3 tangent = Vec3::Zero();
    double along = 0;  // the way to p along the tangent
    double slope = -1;
    double moved = 0;
    for (int i = 0; i < kSteps; ++i) {
      const auto on_a = foot_on(a, q, seed_a, adaptors);
      const auto on_b = foot_on(b, q, seed_b, adaptors);
      Vec3 line = on_a.normal.cross(on_b.normal);
      const double sine = line.norm();
      if (sine < 1e-2) return std::nullopt;
      line /= sine;
      if (line.dot(tangent) < 0) line = -line;
      const double before = along;
      tangent = line;
      along = tangent.dot(p - q);
      if (i > 1 && std::abs(moved) > 1e-12) slope = std::min((along - before) / moved, kFlattest);
      // The first steps only find out how the curve bends.
      moved = std::clamp(-along / slope, -(i < 2 ? 0.25 : 1) * chord, (i < 2 ? 0.25 : 1) * chord);
      Eigen::Matrix3d rows;
      rows << on_a.normal.transpose(), on_b.normal.transpose(), tangent.transpose();
      const Vec3 step = rows.inverse() * Vec3(-on_a.distance, -on_b.distance, moved);
      q += step;
      if (!q.allFinite() || (q - start).norm() > 2 * chord) return start;
      if (step.norm() < 1e-9) return q;
    }
    return start;
  }

  /// None where the kernel gives up on a face.
  [[nodiscard]] Value known_at(const Vec3& point, double search, Adaptors* adaptors) const {
    try {
      return at(point, search, adaptors);
    } catch (const Standard_Failure&) {
      return {};
    }
  }
  [[nodiscard]] Value at(const Vec3& point, double search, Adaptors* adaptors) const {
    Value value;
    const auto nearest = index.nearest(point, search);
    if (!nearest) return value;
    const std::uint32_t triangle = nearest->triangle;
    value.face = mesh.triangle_face[triangle];
    const Vec2 seed = parameters_at(triangle, nearest->weights);
    const auto foot = foot_on(value.face, point, seed, adaptors);
    value.distance = foot.distance;
    value.foot = foot.at;
    // Inside a triangle, on an edge or on a corner of it.
    constexpr double kZero = 1e-9;
    int zeros = 0;
    int opposite = 0;  // the edge that the point lies on
    int corner = 0;    // the corner that it lies on
    for (int k = 0; k < 3; ++k) {
      if (nearest->weights[k] < kZero) {
        ++zeros;
        opposite = k;
      } else {
        corner = k;
      }
    }
    const std::uint32_t vertex = mesh.mesh.triangles[triangle][static_cast<std::size_t>(corner)];
    if (zeros == 0 || (zeros == 1 && !borders.is_border(triangle, opposite)) ||
        (zeros == 2 && !borders.touches_border(vertex)))
      return value;  // within the face
    return zeros == 1 ? beside_edge(point, value, triangle, opposite, seed, adaptors)
                      : beside_corner(point, value, vertex, nearest->point, adaptors);
  }

  /// Nearest to the border between two faces: the foot on either, where it lies on that face's
  /// side of the border, else the border itself.
  [[nodiscard]] Value beside_edge(const Vec3& point, const Value& own, std::uint32_t triangle,
                                  int opposite, const Vec2& seed, Adaptors* adaptors) const {
    const std::uint32_t other = borders.across(triangle, opposite);
    const auto end = [&](std::uint32_t t, int k) {
      return mesh.mesh.triangles[t][static_cast<std::size_t>(k % 3)];
    };
    const Vec3 a = mesh.mesh.vertices[end(triangle, opposite + 1)];
    const Vec3 b = mesh.mesh.vertices[end(triangle, opposite + 2)];
    const Vec3 chord = b - a;
    const double share = std::clamp((point - a).dot(chord) / chord.squaredNorm(), 0.0, 1.0);
    Vec3 q = a + share * chord;
    if (other == scan::kNone)
      return on_border(point, own, q, borders.outwards_at_edge(triangle, opposite));
    const std::uint32_t face = mesh.triangle_face[other];
    const Vec2 seed_other = (mesh.parameters[end(other, 0)] + mesh.parameters[end(other, 1)] +
                             mesh.parameters[end(other, 2)]) /
                            3;
    const auto beyond = foot_on(face, point, seed_other, adaptors);
    const auto crossing =
        on_crossing(point, q, chord.norm(), own.face, seed, face, seed_other, adaptors);
    if (crossing) q = *crossing;
    // A face's side of the border: where its own triangle lies.
    const auto inside = [&](std::uint32_t t, const Vec3& foot) {
      const Vec3 normal = mesh.mesh.area_vector(t);
      Vec3 in = normal.cross(chord);
      if (in.dot(mesh.mesh.centroid(t) - a) < 0) in = -in;
      return (foot - q).dot(in) >= 0;
    };
    const bool here = inside(triangle, own.foot);
    const bool there = inside(other, beyond.at);
    if (here && (!there || std::abs(own.distance) <= std::abs(beyond.distance))) return own;
    if (there || !crossing) return {beyond.distance, face, beyond.at};
    return on_border(point, own, q, borders.outwards_at_edge(triangle, opposite));
  }

  /// Nearest to a corner of the tessellation on a border: a place along an edge of the model, or
  /// one of its corners.
  [[nodiscard]] Value beside_corner(const Vec3& point, const Value& own, std::uint32_t vertex,
                                    const Vec3& place, Adaptors* adaptors) const {
    const auto edge = borders.edge_through(vertex);
    if (!edge) return on_border(point, own, place, borders.outwards_at_vertex(vertex));
    const std::uint32_t face = mesh.triangle_face[edge->triangle];
    const Vec2 seed = parameters_at(edge->triangle, Vec3::Constant(1.0 / 3));
    const auto foot = foot_on(face, point, seed, adaptors);
    return beside_edge(point, {foot.distance, face, foot.at}, edge->triangle, edge->k, seed,
                       adaptors);
  }

  static Value on_border(const Vec3& point, const Value& own, const Vec3& q, const Vec3& out) {
    Value value = own;
    const double size = (point - q).norm();
    const double side = (point - q).dot(out);
    value.distance = std::copysign(size, side != 0 ? side : own.distance);
    value.foot = q;
    return value;
  }
};

Comparator::Comparator(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Comparator::~Comparator() = default;
Comparator::Comparator(Comparator&&) noexcept = default;
Comparator& Comparator::operator=(Comparator&&) noexcept = default;

Result<Comparator> Comparator::build(const model::Model& solid) {
  if (solid.face_count() == 0)
    return Error{ErrorCode::InvalidInput, "There is no model to compare with yet."};
  try {
    const double size = solid.box().diagonal().norm();
    model::TessellationOptions options;
    options.deflection = kDeflection * size;
    options.angle = 0.2;
    Result<model::Tessellation> mesh = model::tessellate(solid, options);
    if (!mesh) return mesh.error();
    std::vector<FaceSurface> faces;
    const model::Model::Impl& impl = solid.impl();
    for (int i = 1; i <= impl.faces.Extent(); ++i)
      faces.push_back(surface_of(solid, static_cast<std::size_t>(i) - 1));
    return Comparator(std::make_unique<Impl>(*std::move(mesh), std::move(faces), kLimit * size));
  } catch (const Standard_Failure& failure) {
    return Error{ErrorCode::Failed,
                 std::string("The model's faces cannot be read for comparing: ") +
                     failure.GetMessageString()};
  }
}

double Comparator::default_limit() const { return impl_->limit; }

Comparator::Value Comparator::at(const Vec3& point, double limit) const {
  return impl_->known_at(point, limit > 0 ? limit : impl_->limit, nullptr);
}

Result<Map> Comparator::compare(const std::vector<Vec3>& points, double limit,
                                const Task& task) const {
  Map map;
  map.value.resize(points.size());
  map.face.resize(points.size());
  const double search = limit > 0 ? limit : impl_->limit;
  std::atomic<std::size_t> done{0};
  parallel_for(points.size(), 2048, [&](std::size_t begin, std::size_t end) {
    if (task.stopped()) return;
    Adaptors adaptors(impl_->faces.size());
    for (std::size_t i = begin; i < end; ++i) {
      const Value v = impl_->known_at(points[i], search, &adaptors);
      map.face[i] = v.face;
      map.value[i] = v.face == scan::kNone ? std::numeric_limits<float>::quiet_NaN()
                                           : static_cast<float>(v.distance);
    }
    task.report(static_cast<double>(done += end - begin) / static_cast<double>(points.size()));
  });
  if (task.stopped()) return cancelled();
  return map;
}

}  // namespace lostline::deviation
