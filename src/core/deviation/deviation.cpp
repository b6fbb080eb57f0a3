#include "deviation/deviation.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <atomic>
#include <cmath>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>
#include <limits>

#include "base/parallel.h"
#include "model/solid_impl.h"
#include "scan/mesh_index.h"

namespace lostline::deviation {
namespace {

constexpr double kDeflection = 0.01;  // mm: of the tessellation that finds the face

Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }
Vec3 vec(const gp_Dir& d) { return {d.X(), d.Y(), d.Z()}; }

/// A face's surface in closed form; `sign` turns the formula's outward side into that of the
/// material.
struct FaceSurface {
  GeomAbs_SurfaceType type = GeomAbs_OtherSurface;
  Vec3 point = Vec3::Zero();
  Vec3 axis = Vec3::UnitZ();
  double radius = 0;
  double minor = 0;
  double sine = 0, cosine = 1;
  double sign = 1;
  // The geometry itself, not an adaptor: adaptors cache spans and must not be shared by threads.
  Handle(Geom_Surface) free_form;
  Vec2 low = Vec2::Zero();
  Vec2 high = Vec2::Zero();

  /// Signed distance and foot on the unbounded surface.
  double distance(const Vec3& p, const Vec2& seed, Vec3& foot) const {
    const Vec3 d = p - point;
    const double z = d.dot(axis);
    const Vec3 across = d - z * axis;
    const double rho = across.norm();
    const Vec3 radial = rho > 1e-12 ? Vec3(across / rho) : any_perpendicular(axis);
    double value = 0;
    Vec3 normal = axis;
    switch (type) {
      case GeomAbs_Plane:
        value = z;
        break;
      case GeomAbs_Cylinder:
        value = rho - radius;
        normal = radial;
        break;
      case GeomAbs_Cone:
        value = (rho - radius) * cosine - z * sine;
        normal = cosine * radial - sine * axis;
        break;
      case GeomAbs_Sphere:
        value = d.norm() - radius;
        normal = d.norm() > 1e-12 ? Vec3(d.normalized()) : axis;
        break;
      case GeomAbs_Torus: {
        const Vec3 ring = d - radius * radial;
        value = ring.norm() - minor;
        normal = ring.norm() > 1e-12 ? Vec3(ring.normalized()) : radial;
        break;
      }
      default:
        return newton(p, seed, foot);
    }
    foot = p - value * normal;
    return sign * value;
  }

 private:
  /// Seeded Newton iteration for the foot on a parametric surface. Source: L. Piegl and W. Tiller,
  /// The NURBS Book (1997), 6.1.
  double newton(const Vec3& p, Vec2 uv, Vec3& foot) const {
    const gp_Pnt target(p.x(), p.y(), p.z());
    gp_Pnt s;
    gp_Vec su, sv, suu, svv, suv;
    for (int i = 0; i < 12; ++i) {
      free_form->D2(uv.x(), uv.y(), s, su, sv, suu, svv, suv);
      const gp_Vec r(target, s);
      const double f = r.Dot(su);
      const double g = r.Dot(sv);
      const double a = su.SquareMagnitude() + r.Dot(suu);
      const double b = su.Dot(sv) + r.Dot(suv);
      const double c = sv.SquareMagnitude() + r.Dot(svv);
      const double det = a * c - b * b;
      if (std::abs(det) < 1e-24) break;
      const Vec2 step((b * g - c * f) / det, (b * f - a * g) / det);
      uv += step;
      uv.x() = std::clamp(uv.x(), low.x(), high.x());
      uv.y() = std::clamp(uv.y(), low.y(), high.y());
      if (step.norm() < 1e-10) break;
    }
    free_form->D1(uv.x(), uv.y(), s, su, sv);
    foot = vec(s);
    const gp_Vec n = su.Crossed(sv);
    const double size = (p - foot).norm();
    return sign * std::copysign(size, gp_Vec(s, target).Dot(n));
  }
};

FaceSurface surface_of(const TopoDS_Face& face) {
  FaceSurface result;
  const auto adaptor = std::make_shared<BRepAdaptor_Surface>(face);
  result.type = adaptor->GetType();
  result.sign = face.Orientation() == TopAbs_REVERSED ? -1 : 1;
  const auto handed = [&](const gp_Ax3& position) {
    if (!position.Direct()) result.sign = -result.sign;
  };
  switch (result.type) {
    case GeomAbs_Plane: {
      const gp_Pln plane = adaptor->Plane();
      result.point = vec(plane.Location());
      result.axis = vec(plane.Axis().Direction());
      handed(plane.Position());
      break;
    }
    case GeomAbs_Cylinder: {
      const gp_Cylinder cylinder = adaptor->Cylinder();
      result.point = vec(cylinder.Location());
      result.axis = vec(cylinder.Axis().Direction());
      result.radius = cylinder.Radius();
      handed(cylinder.Position());
      break;
    }
    case GeomAbs_Cone: {
      const gp_Cone cone = adaptor->Cone();
      result.point = vec(cone.Location());
      result.axis = vec(cone.Axis().Direction());
      result.radius = cone.RefRadius();
      result.sine = std::sin(cone.SemiAngle());
      result.cosine = std::cos(cone.SemiAngle());
      handed(cone.Position());
      break;
    }
    case GeomAbs_Sphere: {
      const gp_Sphere sphere = adaptor->Sphere();
      result.point = vec(sphere.Location());
      result.radius = sphere.Radius();
      handed(sphere.Position());
      break;
    }
    case GeomAbs_Torus: {
      const gp_Torus torus = adaptor->Torus();
      result.point = vec(torus.Location());
      result.axis = vec(torus.Axis().Direction());
      result.radius = torus.MajorRadius();
      result.minor = torus.MinorRadius();
      handed(torus.Position());
      break;
    }
    default:
      result.free_form = BRep_Tool::Surface(face);
      result.low = Vec2(adaptor->FirstUParameter(), adaptor->FirstVParameter());
      result.high = Vec2(adaptor->LastUParameter(), adaptor->LastVParameter());
      break;
  }
  return result;
}

}  // namespace

struct Comparator::Impl {
  model::Tessellation mesh;
  scan::MeshIndex index;
  std::vector<FaceSurface> faces;
};

Comparator::Comparator(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Comparator::~Comparator() = default;
Comparator::Comparator(Comparator&&) noexcept = default;
Comparator& Comparator::operator=(Comparator&&) noexcept = default;

Result<Comparator> Comparator::build(const model::Solid& solid) {
  if (solid.empty())
    return Error{ErrorCode::InvalidInput, "There is no model to compare with yet."};
  model::TessellationOptions options;
  options.deflection = kDeflection;
  options.angle = 0.1;
  Result<model::Tessellation> mesh = model::tessellate(solid, options);
  if (!mesh) return mesh.error();
  std::vector<FaceSurface> faces;
  const model::Solid::Impl& impl = solid.impl();
  for (int i = 1; i <= impl.faces.Extent(); ++i)
    faces.push_back(surface_of(TopoDS::Face(impl.faces(i))));
  scan::MeshIndex index(mesh->mesh);
  return Comparator(
      std::make_unique<Impl>(Impl{*std::move(mesh), std::move(index), std::move(faces)}));
}

Comparator::Value Comparator::at(const Vec3& point, double limit) const {
  Value value;
  const auto nearest = impl_->index.nearest(point, limit);
  if (!nearest) return value;
  const model::Tessellation& tess = impl_->mesh;
  value.face = tess.triangle_face[nearest->triangle];
  const scan::Triangle& t = tess.mesh.triangles[nearest->triangle];
  Vec2 seed = Vec2::Zero();
  for (int k = 0; k < 3; ++k)
    seed += nearest->weights[k] * tess.parameters[t[static_cast<std::size_t>(k)]];
  Vec3 foot;
  const double exact = impl_->faces[value.face].distance(point, seed, foot);
  // Inside the bounded face the exact foot and the tessellation's differ by no more than the
  // deflection and what it turns a foot by; elsewhere the exact foot lies outside the face and the
  // border is nearest.
  const double slack = 2 * kDeflection + 0.2 * std::min(nearest->distance, 1.0) * 0.1;
  if (std::abs(std::abs(exact) - nearest->distance) <= slack &&
      (foot - nearest->point).norm() <= 0.5 + 0.2 * nearest->distance) {
    value.distance = exact;
    value.foot = foot;
    return value;
  }
  const double side = (point - nearest->point).dot(tess.mesh.area_vector(nearest->triangle));
  value.distance = std::copysign(nearest->distance, side != 0 ? side : exact);
  value.foot = nearest->point;
  return value;
}

Result<Map> Comparator::compare(const std::vector<Vec3>& points, double limit,
                                const Task& task) const {
  Map map;
  map.value.resize(points.size());
  map.face.resize(points.size());
  std::atomic<std::size_t> done{0};
  parallel_for(points.size(), 2048, [&](std::size_t begin, std::size_t end) {
    if (task.stopped()) return;
    for (std::size_t i = begin; i < end; ++i) {
      const Value v = at(points[i], limit);
      map.face[i] = v.face;
      map.value[i] = v.face == scan::kNone ? std::numeric_limits<float>::quiet_NaN()
                                           : static_cast<float>(v.distance);
    }
    task.report(static_cast<double>(done += end - begin) / static_cast<double>(points.size()));
  });
  if (task.stopped()) return cancelled();
  return map;
}

Statistics statistics(const Map& map, double tolerance) {
  Statistics s;
  double sum = 0;
  double squares = 0;
  std::size_t within = 0;
  std::vector<float> sizes;
  sizes.reserve(map.value.size());
  for (std::size_t i = 0; i < map.value.size(); ++i) {
    const double v = map.value[i];
    if (!std::isfinite(v)) {
      ++s.unmatched;
      continue;
    }
    if (s.n == 0 || v > s.max) {
      s.max = v;
      s.max_at = i;
    }
    if (s.n == 0 || v < s.min) {
      s.min = v;
      s.min_at = i;
    }
    ++s.n;
    sum += v;
    squares += v * v;
    within += std::abs(v) <= tolerance ? 1 : 0;
    sizes.push_back(static_cast<float>(std::abs(v)));
  }
  if (s.n == 0) return s;
  const double n = static_cast<double>(s.n);
  s.mean = sum / n;
  s.rms = std::sqrt(squares / n);
  s.sd = std::sqrt(std::max(0.0, squares / n - s.mean * s.mean));
  s.within_fraction = static_cast<double>(within) / n;
  const auto p95 =
      sizes.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(sizes.size() - 1));
  std::nth_element(sizes.begin(), p95, sizes.end());
  s.p95_abs = *p95;
  return s;
}

Histogram histogram(const Map& map, double low, double high, std::size_t bins) {
  Histogram h{low, high, std::vector<std::size_t>(bins, 0)};
  for (const float v : map.value) {
    if (!std::isfinite(v)) continue;
    const double share = (v - low) / (high - low);
    const auto bin = static_cast<std::ptrdiff_t>(std::floor(share * static_cast<double>(bins)));
    ++h.counts[static_cast<std::size_t>(
        std::clamp<std::ptrdiff_t>(bin, 0, static_cast<std::ptrdiff_t>(bins) - 1))];
  }
  return h;
}

}  // namespace lostline::deviation
