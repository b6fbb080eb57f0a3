#include "model/trim.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBndLib.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Pln.hxx>

#include "model/face_refs.h"
#include "model/faces.h"
#include "model/model_impl.h"

namespace lostline::model {
namespace {

/// Distances along a line where it meets a surface, ascending.
std::vector<double> meetings(const fit::Surface& s, const Vec3& origin, const Vec3& direction) {
  const Vec3 d = origin - s.point;
  if (fit::is_flat(s.kind)) {
    const double slope = direction.dot(s.axis);
    if (std::abs(slope) < 1e-9) return {};
    return {-d.dot(s.axis) / slope};
  }
  // (rho)^2 = (radius + z tan)^2 along the line.
  const double k = s.kind == fit::Kind::Cone ? std::tan(s.half_angle) : 0.0;
  const double dz = direction.dot(s.axis);
  const double z = d.dot(s.axis);
  const Vec3 dr = direction - dz * s.axis;
  const Vec3 r = d - z * s.axis;
  const double a = dr.squaredNorm() - k * k * dz * dz;
  const double b = dr.dot(r) - k * dz * (s.radius + k * z);
  const double c = r.squaredNorm() - std::pow(s.radius + k * z, 2);
  if (std::abs(a) < 1e-12)
    return std::abs(b) < 1e-12 ? std::vector<double>{} : std::vector{-c / (2 * b)};
  const double root = b * b - a * c;
  if (root < 0) return {};
  std::vector<double> t{(-b - std::sqrt(root)) / a, (-b + std::sqrt(root)) / a};
  if (t[0] > t[1]) std::swap(t[0], t[1]);
  return t;
}

/// A body that fills the side of the surface that `inside` does not lie on.
TopoDS_Shape far_side(const fit::Surface& s, const Vec3& inside, double size, bool& keep_common) {
  keep_common = false;
  if (fit::is_flat(s.kind)) {
    const Vec3 out = (inside - s.point).dot(s.axis) > 0 ? Vec3(-s.axis) : s.axis;
    const Vec3 foot = inside - (inside - s.point).dot(s.axis) * s.axis;
    const Vec3 x = any_perpendicular(out);
    const Vec3 corner = foot - size * x - size * out.cross(x);
    return BRepPrimAPI_MakeBox(gp_Ax2(pnt(corner), dir(out), dir(x)), 2 * size, 2 * size, 2 * size)
        .Shape();
  }
  const double along = (inside - s.point).dot(s.axis);
  const Vec3 start = s.point + (along - size) * s.axis;
  keep_common = s.distance(inside) * (s.hollow ? -1 : 1) < 0;  // starts within the round
  if (s.kind == fit::Kind::Cylinder)
    return BRepPrimAPI_MakeCylinder(gp_Ax2(pnt(start), dir(s.axis)), s.radius, 2 * size).Shape();
  const double k = std::tan(s.half_angle);
  const auto radius = [&](double z) { return std::max(0.0, s.radius + k * z); };
  double low = along - size;
  double high = along + size;
  if (k > 0) low = std::max(low, -s.radius / k);
  if (k < 0) high = std::min(high, -s.radius / k);
  return BRepPrimAPI_MakeCone(gp_Ax2(pnt(s.point + low * s.axis), dir(s.axis)), radius(low),
                              radius(high), high - low)
      .Shape();
}

}  // namespace

Result<double> level_beyond(const PlacedSketch& placed, const Choice& choice, double from,
                            const fit::Surface& surface) {
  if (surface.kind == fit::Kind::Sphere || surface.kind == fit::Kind::Torus)
    return Error{ErrorCode::InvalidInput,
                 "Only a plane, cylinder or cone can end an extrude. Pick another surface."};
  double up = 0;
  double down = 0;
  int above = 0;
  int below = 0;
  const auto outline = make_outline(placed.sketch, choice);
  if (!outline) return outline.error();
  for (const sketch::Loop& loop : outline->loops) {
    for (const Vec2& p : sketch::polygon_of(outline->sketch, loop)) {
      const auto t = meetings(surface, placed.base.to_space(p, from), placed.base.normal);
      const auto first_up = std::find_if(t.begin(), t.end(), [](double x) { return x > 1e-6; });
      const auto first_down =
          std::find_if(t.rbegin(), t.rend(), [](double x) { return x < -1e-6; });
      if (first_up == t.end() && first_down == t.rend())
        return Error{ErrorCode::Degenerate,
                     "The profile does not run into the surface everywhere. Pick another surface."};
      const bool is_up =
          first_down == t.rend() || (first_up != t.end() && *first_up <= -*first_down);
      (is_up ? above : below)++;
      if (is_up)
        up = std::max(up, *first_up);
      else
        down = std::min(down, *first_down);
    }
  }
  if (above > 0 && below > 0)
    return Error{ErrorCode::Degenerate,
                 "The surface lies on both sides of the profile. Change the level it starts from."};
  if (above == 0 && below == 0)
    return Error{ErrorCode::Degenerate, "The sketch has no closed profile."};
  const double reach = above > 0 ? up : down;
  return from + reach * 1.25;  // clear of the surface at any size
}

Result<Named> trim_at(const Named& body, const fit::Surface& surface, const std::string& prefix) {
  // A point of the start face tells which side of the surface is kept.
  TopoDS_Shape start;
  for (const auto& [face, names] : body.names) {
    if (names.front() == prefix + ":start") start = face;
  }
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(start, properties);
  const Vec3 inside = vec(properties.CentreOfMass());
  Bnd_Box bounds;
  BRepBndLib::Add(body.shape, bounds);
  const double size = 2 * std::sqrt(bounds.SquareExtent()) + 10;
  bool keep_common = false;
  const TopoDS_Shape other = far_side(surface, inside, size, keep_common);
  TopTools_ListOfShape arguments;
  TopTools_ListOfShape tools;
  arguments.Append(body.shape);
  tools.Append(other);
  BRepAlgoAPI_Cut cut;
  BRepAlgoAPI_Common common;
  BRepAlgoAPI_BooleanOperation& boolean =
      keep_common ? static_cast<BRepAlgoAPI_BooleanOperation&>(common) : cut;
  boolean.SetArguments(arguments);
  boolean.SetTools(tools);
  boolean.Build();
  if (!boolean.IsDone() || boolean.HasErrors())
    return Error{ErrorCode::Failed, "The profile cannot be ended at this surface."};
  Named result;
  FaceNames names;
  carry(body.names, boolean, names);
  std::erase_if(names, [&](const auto& n) { return n.second.front() == prefix + ":end"; });
  FaceNames ends;
  for (TopExp_Explorer it(other, TopAbs_FACE); it.More(); it.Next())
    ends.emplace_back(it.Current(), std::vector{prefix + ":end"});
  carry(ends, boolean, names);
  // Of several pieces the one that holds the start face.
  BRep_Builder builder;
  TopoDS_Compound kept;
  builder.MakeCompound(kept);
  int count = 0;
  for (TopExp_Explorer it(boolean.Shape(), TopAbs_SOLID); it.More(); it.Next()) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(it.Current(), TopAbs_FACE, faces);
    const bool holds = std::any_of(names.begin(), names.end(), [&](const auto& n) {
      return n.second.front() == prefix + ":start" && faces.Contains(n.first);
    });
    if (!holds) continue;
    builder.Add(kept, it.Current());
    ++count;
  }
  if (count == 0)
    return Error{ErrorCode::Failed, "Nothing is left between the profile and this surface."};
  return Named{kept, names};
}

namespace {

/// Whether a face's surface is another one, up to rounding in a part of that size.
bool on_one_surface(const std::optional<fit::Surface>& a, const fit::Surface& b, const Box3& part) {
  if (!a || a->kind != b.kind || a->hollow != b.hollow) return false;
  const double near = 1e-7 * part.diagonal().norm();
  if (fit::has_direction(b.kind) && a->axis.cross(b.axis).norm() > 1e-7) return false;
  const Vec3 off = a->point - b.point;
  const double away = fit::is_flat(b.kind)      ? std::abs(off.dot(b.axis))
                      : fit::has_centre(b.kind) ? off.norm()
                                                : off.cross(b.axis).norm();
  return away < near && std::abs(a->half_angle - b.half_angle) < 1e-7 &&
         std::abs(a->minor_radius - b.minor_radius) < near &&
         // Of a cone the radius is that at its point.
         std::abs(a->radius + off.dot(b.axis) * -std::tan(b.half_angle) - b.radius) < near;
}

}  // namespace

Result<fit::Surface> resolve(const Reference& reference, const Model& before) {
  if (reference.datum >= 0) {
    if (reference.surface) return *reference.surface;  // the frame has moved away since
    fit::Surface s;
    s.axis = Vec3::Unit(reference.datum % 3);
    return s;
  }
  if (reference.fit != 0 || reference.region != 0) {
    if (reference.surface) return *reference.surface;
    return Error{ErrorCode::NotFound, "The fit it refers to is gone. Pick another one."};
  }
  if (reference.face.empty())
    return Error{ErrorCode::InvalidInput, "Pick a datum, a face of the model or a fit."};
  const auto faces = find_faces(before, reference.face);
  if (!faces) return faces.error();
  const auto found = surface_of_face(before, faces->front());
  // The pieces of a face lie on one surface, unless an operation has moved some of them.
  if (found && std::any_of(faces->begin(), faces->end(), [&](std::size_t face) {
        return !on_one_surface(surface_of_face(before, face), *found, before.box());
      }))
    return Error{ErrorCode::InvalidInput, "Face " + reference.face +
                                              " is ambiguous: its pieces no longer lie on one "
                                              "surface. Pick the one that is meant."};
  if (found && found->kind != fit::Kind::Sphere && found->kind != fit::Kind::Torus) return *found;
  return Error{
      ErrorCode::InvalidInput,
      "Face " + reference.face + " is neither flat nor turned about an axis. Pick another face."};
}

}  // namespace lostline::model
