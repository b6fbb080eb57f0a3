#include "model/faces.h"

#include <Adaptor3d_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <cmath>
#include <gp_Circ.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include "model/model_impl.h"

namespace lostline::model {
namespace {

Vec3 vec(const gp_XYZ& v) { return {v.X(), v.Y(), v.Z()}; }

/// The torus or sphere that a circle sweeps about an axis in its plane, as other programs write
/// it; the side of the material is left open.
std::optional<fit::Surface> turned_circle(const BRepAdaptor_Surface& adaptor) {
  const Handle(Adaptor3d_Curve) curve = adaptor.BasisCurve();
  if (curve->GetType() != GeomAbs_Circle) return std::nullopt;
  const gp_Circ circle = curve->Circle();
  const gp_Ax1 axis = adaptor.AxeOfRevolution();
  const Vec3 along = vec(axis.Direction().XYZ());
  const Vec3 across = vec(circle.Axis().Direction().XYZ());
  const Vec3 from = vec(circle.Location().XYZ()) - vec(axis.Location().XYZ());
  const Vec3 out = from - from.dot(along) * along;
  constexpr double kSame = 1e-7;  // mm, of which the kernel takes two points for one
  if (std::abs(along.dot(across)) > 1e-9 || std::abs(from.dot(across)) > kSame) return std::nullopt;
  fit::Surface s;
  s.kind = out.norm() < kSame ? fit::Kind::Sphere : fit::Kind::Torus;
  s.point = vec(circle.Location().XYZ()) - out;
  s.axis = along;
  s.radius = s.kind == fit::Kind::Sphere ? circle.Radius() : out.norm();
  s.minor_radius = s.kind == fit::Kind::Sphere ? 0 : circle.Radius();
  if (s.kind == fit::Kind::Torus && !(s.radius > s.minor_radius)) return std::nullopt;
  return s;
}

/// Whether a face looks against the way its surface does.
bool looks_inwards(const BRepAdaptor_Surface& adaptor, const fit::Surface& s, bool reversed) {
  gp_Pnt p;
  gp_Vec du;
  gp_Vec dv;
  adaptor.D1(0.5 * (adaptor.FirstUParameter() + adaptor.LastUParameter()),
             0.5 * (adaptor.FirstVParameter() + adaptor.LastVParameter()), p, du, dv);
  const Vec3 normal = (reversed ? -1 : 1) * vec(du.Crossed(dv).XYZ());
  return s.normal_at(vec(p.XYZ())).dot(normal) < 0;
}

}  // namespace

std::optional<fit::Surface> surface_of_face(const Model& solid, std::size_t face) {
  const TopoDS_Face& shape = TopoDS::Face(solid.impl().faces(static_cast<int>(face) + 1));
  const BRepAdaptor_Surface adaptor(shape);
  bool reversed = shape.Orientation() == TopAbs_REVERSED;
  fit::Surface s;
  const auto place = [&](const gp_Ax3& position) {
    const gp_Pnt& p = position.Location();
    const gp_Dir& d = position.Direction();
    s.point = {p.X(), p.Y(), p.Z()};
    s.axis = {d.X(), d.Y(), d.Z()};
    reversed = reversed != !position.Direct();  // a left-handed frame turns the normal over
  };
  switch (adaptor.GetType()) {
    case GeomAbs_Plane:
      place(adaptor.Plane().Position());
      if (reversed) s.axis = -s.axis;
      return s;
    case GeomAbs_Cylinder:
      s.kind = fit::Kind::Cylinder;
      place(adaptor.Cylinder().Position());
      s.radius = adaptor.Cylinder().Radius();
      break;
    case GeomAbs_Cone:
      s.kind = fit::Kind::Cone;
      place(adaptor.Cone().Position());
      s.radius = adaptor.Cone().RefRadius();
      s.half_angle = adaptor.Cone().SemiAngle();
      break;
    case GeomAbs_Sphere:
      s.kind = fit::Kind::Sphere;
      place(adaptor.Sphere().Position());
      s.radius = adaptor.Sphere().Radius();
      break;
    case GeomAbs_Torus:
      s.kind = fit::Kind::Torus;
      place(adaptor.Torus().Position());
      s.radius = adaptor.Torus().MajorRadius();
      s.minor_radius = adaptor.Torus().MinorRadius();
      break;
    case GeomAbs_SurfaceOfRevolution: {
      auto turned = turned_circle(adaptor);
      if (turned) turned->hollow = looks_inwards(adaptor, *turned, reversed);
      return turned;
    }
    default:
      return std::nullopt;
  }
  s.hollow = reversed;
  return s;
}

}  // namespace lostline::model
