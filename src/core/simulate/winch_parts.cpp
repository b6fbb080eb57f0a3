#include "simulate/winch_parts.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepOffsetAPI_MakePipe.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomAPI_PointsToBSplineSurface.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Circle.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopoDS_Wire.hxx>
#include <cmath>
#include <functional>
#include <numbers>

#include "simulate/solids.h"

namespace lostline::simulate {
namespace {

constexpr double kFullTurn = 2 * std::numbers::pi;

TopoDS_Shape fused(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  return BRepAlgoAPI_Fuse(a, b).Shape();
}
TopoDS_Shape less(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  return BRepAlgoAPI_Cut(a, b).Shape();
}
TopoDS_Shape turned_about_z(const TopoDS_Shape& shape, double angle) {
  gp_Trsf turn;
  turn.SetRotation(gp::OZ(), angle);
  return BRepBuilderAPI_Transform(shape, turn, true).Shape();
}
TopoDS_Shape mirrored_in_xz(const TopoDS_Shape& shape) {
  gp_Trsf mirror;
  mirror.SetMirror(gp_Ax2(gp::Origin(), gp::DY()));
  return BRepBuilderAPI_Transform(shape, mirror, true).Shape();
}

/// A smooth closed curve.
TopoDS_Wire ring(int places, const std::function<gp_Pnt(double)>& at) {
  const Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, places);
  for (int k = 0; k < places; ++k) points->SetValue(k + 1, at(kFullTurn * k / places));
  GeomAPI_Interpolate through(points, true, 1e-9);
  through.Perform();
  const Handle(Geom_BSplineCurve) curve = through.Curve();
  return BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(curve).Edge()).Wire();
}

TopoDS_Shape lofted(const std::vector<TopoDS_Wire>& sections) {
  BRepOffsetAPI_ThruSections through(true, false, 1e-6);
  through.CheckCompatibility(false);
  for (const TopoDS_Wire& wire : sections) through.AddWire(wire);
  through.Build();
  return through.Shape();
}

/// A vane's outline at a height: two bent sides and two ends, as a wire of four curves.
TopoDS_Wire vane_outline(const BrakeDrumDesign& d, double z) {
  const double r0 = d.vane_inner;
  const double r1 = d.vane_outer;
  const auto middle = [&](double t) {
    const double r = r0 + t * (r1 - r0);
    const double turn = -d.vane_sweep * t + d.vane_lean * z;
    return gp_Pnt(r * std::cos(turn), r * std::sin(turn), z);
  };
  // Through its two ends and its middle, so that the sides are arcs about one centre.
  const Handle(Geom_TrimmedCurve) arc =
      GC_MakeArcOfCircle(middle(0), middle(0.5), middle(1)).Value();
  const gp_Circ circle = Handle(Geom_Circle)::DownCast(arc->BasisCurve())->Circ();
  const auto beside = [&](double t, double by) {
    const gp_Pnt p = middle(t);
    gp_Vec out(circle.Location(), p);
    out.Normalize();
    return p.Translated(by * out);
  };
  const double half = d.vane_thickness / 2;
  const auto side = [&](double by) {
    return GC_MakeArcOfCircle(beside(0, by), beside(0.5, by), beside(1, by)).Value();
  };
  BRepBuilderAPI_MakeWire wire;
  wire.Add(BRepBuilderAPI_MakeEdge(side(half)).Edge());
  wire.Add(BRepBuilderAPI_MakeEdge(beside(1, half), beside(1, -half)).Edge());
  wire.Add(BRepBuilderAPI_MakeEdge(side(-half)).Edge());
  wire.Add(BRepBuilderAPI_MakeEdge(beside(0, -half), beside(0, half)).Edge());
  return wire.Wire();
}

}  // namespace

model::Model drum_flange(const DrumFlangeDesign& d) {
  const double bore = d.bore / 2;
  const double edge = d.diameter / 2;
  const double hub = d.hub_diameter / 2;
  const double spigot = d.register_diameter / 2;
  const double low = -d.register_height;
  TopoDS_Shape body = turned({{bore + d.bore_chamfer, low},
                              {spigot - d.register_chamfer, low},
                              {spigot, low + d.register_chamfer},
                              {spigot, 0},
                              {edge - d.edge_chamfer, 0},
                              {edge, d.edge_chamfer},
                              {edge, d.thickness - d.edge_chamfer},
                              {edge - d.edge_chamfer, d.thickness},
                              {hub, d.thickness},
                              {hub, d.hub_height - d.hub_chamfer},
                              {hub - d.hub_chamfer, d.hub_height},
                              {bore + d.bore_chamfer, d.hub_height},
                              {bore, d.hub_height - d.bore_chamfer},
                              {bore, low + d.bore_chamfer}});
  body = fillet_where(body, d.hub_fillet, [&](const gp_Pnt& a, const gp_Pnt& b) {
    const auto on = [&](const gp_Pnt& p) {
      return std::abs(p.Z() - d.thickness) < 1e-6 &&
             std::abs(std::hypot(p.X(), p.Y()) - hub) < 1e-6;
    };
    return on(a) && on(b);
  });
  body = less(body, BRepPrimAPI_MakeBox(gp_Pnt(-d.key_width / 2, 0, low - 1), d.key_width,
                                        d.key_top, d.hub_height - low + 2)
                        .Shape());
  for (int k = 0; k < d.holes; ++k) {
    const double turn = kFullTurn * k / d.holes;
    body = less(body, cylinder(d.bolt_circle / 2 * std::cos(turn),
                               d.bolt_circle / 2 * std::sin(turn), -1, d.hole, d.thickness + 2));
  }
  return solid_of(body, "drum flange");
}

model::Model wall_bracket(const WallBracketDesign& d) {
  TopoDS_Shape body =
      BRepPrimAPI_MakeBox(gp_Pnt(-d.length / 2, -d.width / 2, 0), d.length, d.width, d.thickness)
          .Shape();
  for (const double x : {-0.5, 0.5})
    for (const double y : {-0.5, 0.5})
      body = less(body, cylinder(x * d.pitch_x, y * d.pitch_y, -1, d.hole, d.thickness + 2));
  // The tube: up, round, on.
  const gp_Pnt foot(d.tube_x, 0, d.thickness / 2);
  const gp_Pnt bend(d.tube_x, 0, d.tube_rise);
  const auto along = [&](double turn) {
    return gp_Pnt(d.tube_x + d.tube_bend * (1 - std::cos(turn)), 0,
                  d.tube_rise + d.tube_bend * std::sin(turn));
  };
  const gp_Pnt after = along(d.tube_turn);
  const gp_Vec on(std::sin(d.tube_turn), 0, std::cos(d.tube_turn));
  BRepBuilderAPI_MakeWire way;
  way.Add(BRepBuilderAPI_MakeEdge(foot, bend).Edge());
  const Handle(Geom_TrimmedCurve) arc =
      GC_MakeArcOfCircle(bend, along(d.tube_turn / 2), after).Value();
  way.Add(BRepBuilderAPI_MakeEdge(arc).Edge());
  way.Add(BRepBuilderAPI_MakeEdge(after, after.Translated(d.tube_reach * on)).Edge());
  const auto tube = [&](double radius) {
    const gp_Circ circle(gp_Ax2(foot, gp::DZ()), radius);
    const TopoDS_Wire outline =
        BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(circle).Edge()).Wire();
    return BRepOffsetAPI_MakePipe(way.Wire(), BRepBuilderAPI_MakeFace(outline).Face()).Shape();
  };
  // Its inside ends on the plate.
  const TopoDS_Shape inside = less(tube(d.tube_radius - d.tube_wall),
                                   BRepPrimAPI_MakeBox(gp_Pnt(-d.length, -d.width, -1),
                                                       2 * d.length, 2 * d.width, d.thickness + 1)
                                       .Shape());
  body = less(fused(body, tube(d.tube_radius)), inside);
  // A strap: leaning up from the plate, bent to a shelf.
  const double t = d.strap_thickness;
  const Vec2 up(std::sin(d.strap_lean), std::cos(d.strap_lean));
  const Vec2 out(up.y(), -up.x());
  const Vec2 root(d.strap_x, d.thickness / 2);
  const Vec2 top = root + (d.strap_rise + d.thickness / 2) * up;
  TopoDS_Shape strap =
      prism_along_y({root, top, top + d.strap_reach * out, top + d.strap_reach * out - t * up,
                     top + t * (out - up), root + t * out},
                    d.strap_from, d.strap_to);
  const auto bend_edge = [&](const Vec2& corner) {
    return [corner](const gp_Pnt& a, const gp_Pnt& b) {
      const auto on_it = [&](const gp_Pnt& p) {
        return std::hypot(p.X() - corner.x(), p.Z() - corner.y()) < 1e-6;
      };
      return on_it(a) && on_it(b);
    };
  };
  strap = fillet_where(strap, d.strap_bend, bend_edge(top + t * (out - up)));
  strap = fillet_where(strap, d.strap_bend + t, bend_edge(top));
  body = fused(fused(body, strap), mirrored_in_xz(strap));
  return solid_of(body, "wall bracket");
}

model::Model crank(const CrankDesign& d) {
  TopoDS_Shape body = cylinder(0, 0, -d.hub_height / 2, d.hub_diameter, d.hub_height);
  body = fused(body, cylinder(d.reach, 0, -d.boss_height / 2, d.boss_diameter, d.boss_height));
  // The arm: flattened ovals that turn and taper.
  std::vector<TopoDS_Wire> sections;
  constexpr int kSections = 6;
  for (int k = 0; k < kSections; ++k) {
    const double s = k / (kSections - 1.0);
    const double x = 10 + s * (d.reach - 18);
    const double wide = 0.5 * (d.arm_wide_hub + s * (d.arm_wide_boss - d.arm_wide_hub));
    const double thick = 0.5 * (d.arm_thick_hub + s * (d.arm_thick_boss - d.arm_thick_hub));
    const double twist = d.arm_twist * s;
    sections.push_back(ring(48, [=](double turn) {
      const double y = wide * std::cos(turn);
      const double z = thick * std::sin(turn);
      return gp_Pnt(x, y * std::cos(twist) - z * std::sin(twist),
                    y * std::sin(twist) + z * std::cos(twist));
    }));
  }
  body = fused(body, lofted(sections));
  body = less(body, cylinder(0, 0, -d.hub_height, d.bore, 2 * d.hub_height));
  body = fused(body, cylinder(d.reach, 0, 0, d.pin_diameter, d.pin_to + 5));
  // The grip: ovals that swell and narrow for the fingers, under a free-form top.
  struct Oval {
    double z, a, b, shift;
  };
  const std::vector<Oval> ovals{{d.pin_to, 17, 16, 0}, {52, 19.5, 17.5, 0.4},
                                {64, 20.5, 17.8, 0.9}, {76, 19.6, 16.8, 1.2},
                                {88, 19.2, 16.4, 1.1}, {100, 20.6, 17.2, 0.6},
                                {112, 22, 18.2, 0},    {d.grip_top + 12, 22.5, 18.6, 0}};
  std::vector<TopoDS_Wire> around;
  around.reserve(ovals.size());
  for (const Oval& oval : ovals) {
    around.push_back(ring(48, [&](double turn) {
      return gp_Pnt(d.reach + oval.shift + oval.a * std::cos(turn), oval.b * std::sin(turn),
                    oval.z);
    }));
  }
  constexpr int kGrid = 15;
  TColgp_Array2OfPnt places(1, kGrid, 1, kGrid);
  for (int i = 0; i < kGrid; ++i) {
    for (int j = 0; j < kGrid; ++j) {
      const double u = 64.0 * i / (kGrid - 1) - 32;
      const double v = 56.0 * j / (kGrid - 1) - 28;
      const double top = d.grip_top - 0.0085 * u * u - 0.013 * v * v + 0.05 * u +
                         0.9 * std::sin(u / 11) * std::cos(v / 13);
      places.SetValue(i + 1, j + 1, gp_Pnt(d.reach + u, v, top));
    }
  }
  const Handle(Geom_BSplineSurface) dome = GeomAPI_PointsToBSplineSurface(places).Surface();
  const TopoDS_Shape under =
      BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(dome, 1e-6).Face(), gp_Vec(0, 0, -140)).Shape();
  const TopoDS_Shape grip = BRepAlgoAPI_Common(lofted(around), under).Shape();
  return solid_of(fused(body, grip), "crank");
}

model::Model brake_drum(const BrakeDrumDesign& d) {
  const double outer = d.diameter / 2;
  const double hub = d.hub_diameter / 2;
  TopoDS_Shape body = turned({{d.bore / 2, 0},
                              {outer, 0},
                              {outer, d.height},
                              {outer - d.wall, d.height},
                              {outer - d.wall, d.disc},
                              {hub, d.disc},
                              {hub, d.height},
                              {d.bore / 2, d.height}});
  std::vector<TopoDS_Wire> sections;
  for (const double z : {d.disc / 2, 16.0, 28.0, 36.0, d.vane_top_inner + 6})
    sections.push_back(vane_outline(d, z));
  // Below a cone about the axis, which goes on beyond both ends.
  const double slope = (d.vane_top_outer - d.vane_top_inner) / (d.vane_outer - d.vane_inner);
  const auto top = [&](double r) { return d.vane_top_inner + slope * (r - d.vane_inner); };
  const TopoDS_Shape below = turned({{5, 0}, {outer, 0}, {outer, top(outer)}, {5, top(5)}});
  const TopoDS_Shape vane = BRepAlgoAPI_Common(lofted(sections), below).Shape();
  for (int k = 0; k < d.vanes; ++k)
    body = fused(body, turned_about_z(vane, kFullTurn * k / d.vanes));
  if (d.vane_fillet > 0) {
    body = fillet_where(body, d.vane_fillet, [&](const gp_Pnt& a, const gp_Pnt& b) {
      const auto on = [&](const gp_Pnt& p) {
        const double r = std::hypot(p.X(), p.Y());
        return std::abs(p.Z() - d.disc) < 1e-4 && r > hub + 2 && r < outer - d.wall - 2;
      };
      return on(a) && on(b);
    });
  }
  return solid_of(body, "brake drum");
}

}  // namespace lostline::simulate
