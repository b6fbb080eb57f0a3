#include "model/faces.h"

#include <BRepAdaptor_Surface.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include "model/model_impl.h"

namespace lostline::model {

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
    default:
      return std::nullopt;
  }
  s.hollow = reversed;
  return s;
}

}  // namespace lostline::model
