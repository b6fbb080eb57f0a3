#include "deviation/face_surface.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

namespace lostline::deviation {
namespace {

Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }
Vec3 vec(const gp_Dir& d) { return {d.X(), d.Y(), d.Z()}; }

}  // namespace

FaceSurface::Foot FaceSurface::foot_of(const Vec3& p, const Vec2& seed,
                                       const Adaptor3d_Surface* adaptor) const {
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
      return adaptor != nullptr ? newton(p, seed, *adaptor)
                                : newton(p, seed, GeomAdaptor_Surface(free_form));
  }
  return {sign * value, p - value * normal, sign * normal};
}

/// Seeded Newton iteration for the foot on a parametric surface. Source: L. Piegl and W. Tiller,
/// The NURBS Book (1997), 6.1.
FaceSurface::Foot FaceSurface::newton(const Vec3& p, Vec2 uv,
                                      const Adaptor3d_Surface& adaptor) const {
  const gp_Pnt target(p.x(), p.y(), p.z());
  gp_Pnt s;
  gp_Vec su, sv, suu, svv, suv;
  constexpr int kMostSteps = 12;  // from a seed on the tessellation two to four suffice
  for (int i = 0; i < kMostSteps; ++i) {
    adaptor.D2(uv.x(), uv.y(), s, su, sv, suu, svv, suv);
    const gp_Vec r(target, s);
    const double f = r.Dot(su);
    const double g = r.Dot(sv);
    const double a = su.SquareMagnitude() + r.Dot(suu);
    const double b = su.Dot(sv) + r.Dot(suv);
    const double c = sv.SquareMagnitude() + r.Dot(svv);
    const double det = a * c - b * b;
    if (std::abs(det) < 1e-24) break;
    const Vec2 step((b * g - c * f) / det, (b * f - a * g) / det);
    const Vec2 next(std::clamp(uv.x() + step.x(), low.x(), high.x()),
                    std::clamp(uv.y() + step.y(), low.y(), high.y()));
    // How far the foot moves in space, against what is measured: far below a micrometre.
    const double moved = (su * (next.x() - uv.x()) + sv * (next.y() - uv.y())).Magnitude();
    uv = next;
    if (moved < 1e-7) break;
  }
  adaptor.D1(uv.x(), uv.y(), s, su, sv);
  Foot foot;
  foot.at = vec(s);
  const gp_Vec n = su.Crossed(sv);
  if (n.Magnitude() > 1e-300) foot.normal = sign * Vec3(n.X(), n.Y(), n.Z()) / n.Magnitude();
  foot.distance = std::copysign((p - foot.at).norm(), (p - foot.at).dot(foot.normal));
  return foot;
}

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

}  // namespace lostline::deviation
