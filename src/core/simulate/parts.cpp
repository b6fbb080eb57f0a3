#include "simulate/parts.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <cmath>

#include "simulate/solids.h"

namespace lostline::simulate {

model::Model pedestal(const PedestalDesign& d) {
  TopoDS_Shape foot = BRepPrimAPI_MakeBox(gp_Pnt(-d.foot_length / 2, -d.foot_width / 2, 0),
                                          d.foot_length, d.foot_width, d.foot_thickness)
                          .Shape();
  foot = fillet_where(foot, d.foot_corner_radius,
                      [](const gp_Pnt& a, const gp_Pnt& b) { return std::abs(a.Z() - b.Z()) > 1; });
  const double slope = std::tan(d.boss_draft);
  const double bottom = d.foot_thickness / 2;
  const auto boss_radius = [&](double z) {
    return d.boss_diameter / 2 + (d.boss_neutral - z) * slope;
  };
  const TopoDS_Shape boss =
      BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(0, 0, bottom), gp::DZ()), boss_radius(bottom),
                           boss_radius(d.boss_height), d.boss_height - bottom)
          .Shape();
  TopoDS_Shape body = BRepAlgoAPI_Fuse(foot, boss).Shape();
  const double at_foot = boss_radius(d.foot_thickness);
  body = fillet_where(body, d.foot_fillet, [&](const gp_Pnt& a, const gp_Pnt& b) {
    const auto on = [&](const gp_Pnt& p) {
      return std::abs(p.Z() - d.foot_thickness) < 1e-6 &&
             std::abs(std::hypot(p.X(), p.Y()) - at_foot) < 1e-6;
    };
    return on(a) && on(b);
  });
  for (const double side : {-1.0, 1.0}) {
    const double inner = side * (d.bore_diameter / 2 + 2);
    const TopoDS_Shape rib = prism_along_y({{inner, d.foot_thickness / 2},
                                            {side * d.rib_reach, d.foot_thickness / 2},
                                            {side * d.rib_reach, d.foot_thickness},
                                            {side * boss_radius(d.rib_top), d.rib_top},
                                            {inner, d.rib_top}},
                                           -d.rib_thickness / 2, d.rib_thickness / 2);
    body = BRepAlgoAPI_Fuse(body, rib).Shape();
  }
  body = BRepAlgoAPI_Cut(body, cylinder(0, 0, -1, d.bore_diameter, d.boss_height + 2)).Shape();
  for (const double x : {-0.5, 0.5}) {
    for (const double y : {-0.5, 0.5}) {
      body = BRepAlgoAPI_Cut(body, cylinder(x * d.hole_pitch_x, y * d.hole_pitch_y, -1,
                                            d.hole_diameter, d.foot_thickness + 2))
                 .Shape();
    }
  }
  return solid_of(body, "pedestal");
}

Specimen worn_pedestal(const PedestalDesign& d) {
  const model::Model designed = pedestal(d);
  // A corner knocked off, a little askew.
  const gp_Ax2 place(gp_Pnt(d.foot_length / 2 - 13, d.foot_width / 2 - 5, -5),
                     gp_Dir(0.12, 0.05, 1), gp_Dir(0.62, -0.78, 0));
  gp_Ax2 box_place = place;
  const TopoDS_Shape chunk =
      BRepPrimAPI_MakeBox(box_place.Translated(gp_Vec(place.XDirection()) * -30.0), 60, 30, 40)
          .Shape();
  const TopoDS_Shape broken = BRepAlgoAPI_Cut(designed.impl().shape, chunk).Shape();
  Specimen specimen;
  specimen.solid = solid_of(broken, "specimen");
  specimen.surface.roughness = [d](const Vec3& p, const Vec3& n) {
    const bool foot_face = n.z() < -0.9 && p.z() < 1;
    const bool boss_face = n.z() > 0.9 && p.z() > d.boss_height - 1;
    const bool bore = std::abs(std::hypot(p.x(), p.y()) - d.bore_diameter / 2) < 1;
    const double hx = std::abs(p.x()) - d.hole_pitch_x / 2;
    const double hy = std::abs(p.y()) - d.hole_pitch_y / 2;
    const bool drilled =
        std::abs(std::hypot(hx, hy) - d.hole_diameter / 2) < 0.5 && std::abs(n.z()) < 0.5;
    return foot_face || boss_face || bore || drilled ? 0.0 : 0.04;
  };
  specimen.surface.wear = [d](const Vec3& p, const Vec3& n) {
    // The bush has worn the bore oval along x, most at the top; wear takes material away.
    const double r = std::hypot(p.x(), p.y());
    if (std::abs(r - d.bore_diameter / 2) > 1 || std::abs(n.z()) > 0.5) return 0.0;
    const double share = p.z() / d.boss_height;
    const double cosine = p.x() / r;
    return -0.06 * share * share * cosine * cosine;
  };
  return specimen;
}

}  // namespace lostline::simulate
