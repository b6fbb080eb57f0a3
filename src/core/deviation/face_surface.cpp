#include "deviation/face_surface.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <cmath>

#include "model/faces.h"
#include "model/model_impl.h"

namespace lostline::deviation {
namespace {

Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }

}  // namespace

FaceSurface::Foot FaceSurface::foot_of(const Vec3& p, const Vec2& seed,
                                       const Adaptor3d_Surface* adaptor) const {
  if (!form)
    return adaptor != nullptr ? newton(p, seed, *adaptor)
                              : newton(p, seed, GeomAdaptor_Surface(free_form));
  const Vec3 d = p - form->point;
  Foot foot;
  fit::with_surface(form->kind, [&]<fit::Kind kKind>() {
    const fit::Slopes at = fit::slopes_at<kKind>(numbers, d, d.dot(numbers.axis));
    const bool inside_out = form->hollow && kKind != fit::Kind::Plane;
    foot = {inside_out ? -at.distance : at.distance, p - at.distance * at.outward,
            inside_out ? Vec3(-at.outward) : at.outward};
  });
  return foot;
}

/// Seeded Newton iteration for the foot on a parametric surface. Source: L. Piegl and W. Tiller,
/// The NURBS Book (1997), 6.1.
FaceSurface::Foot FaceSurface::newton(const Vec3& p, Vec2 uv,
                                      const Adaptor3d_Surface& adaptor) const {
  const gp_Pnt target(p.x(), p.y(), p.z());
  gp_Pnt s;
  gp_Vec su, sv, suu, svv, suv;
  bool settled = false;
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
    // How far the foot moves in space. The iteration squares what is left: after a step of a
    // hundredth of a micrometre the tangent plane has the foot to less than a nanometre wherever
    // the surface bends less than a scanner's point could show.
    const gp_Vec moved = su * (next.x() - uv.x()) + sv * (next.y() - uv.y());
    uv = next;
    if (moved.SquareMagnitude() < 1e-10) {
      s.Translate(moved);
      settled = true;
      break;
    }
  }
  if (!settled) adaptor.D1(uv.x(), uv.y(), s, su, sv);
  Foot foot;
  foot.at = vec(s);
  const gp_Vec n = su.Crossed(sv);
  if (n.Magnitude() > 1e-300) foot.normal = sign * Vec3(n.X(), n.Y(), n.Z()) / n.Magnitude();
  foot.distance = std::copysign((p - foot.at).norm(), (p - foot.at).dot(foot.normal));
  return foot;
}

FaceSurface surface_of(const model::Model& model, std::size_t index) {
  FaceSurface result;
  result.form = model::surface_of_face(model, index);
  if (result.form) {
    result.numbers = fit::Numbers(*result.form);
    return result;
  }
  const TopoDS_Face& face = TopoDS::Face(model.impl().faces(static_cast<int>(index) + 1));
  const BRepAdaptor_Surface adaptor(face);
  result.sign = face.Orientation() == TopAbs_REVERSED ? -1 : 1;
  result.free_form = BRep_Tool::Surface(face);
  result.low = Vec2(adaptor.FirstUParameter(), adaptor.FirstVParameter());
  result.high = Vec2(adaptor.LastUParameter(), adaptor.LastVParameter());
  return result;
}

}  // namespace lostline::deviation
