#include "model/steps/rib/rib.h"

#include <BRepAdaptor_CompCurve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <cmath>
#include <gp_Pln.hxx>

#include "base/text.h"
#include "model/profile.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

Vec3 to_vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }
Vec3 to_vec(const gp_Vec& v) { return {v.X(), v.Y(), v.Z()}; }

/// An open outline with what a rib needs to know of it.
struct Line {
  TopoDS_Wire wire;
  Vec3 start, end;              ///< of the sketch's own outline
  Vec3 before_start, past_end;  ///< unit, on from its ends
  Vec3 middle;                  ///< a point of it
};

Line line_of(const TopoDS_Wire& wire) {
  const BRepAdaptor_CompCurve curve(wire);
  const double first = curve.FirstParameter();
  const double last = curve.LastParameter();
  Line line;
  line.wire = wire;
  gp_Pnt p;
  gp_Vec v;
  curve.D1(first, p, v);
  line.start = to_vec(p);
  line.before_start = -to_vec(v).normalized();
  curve.D1(last, p, v);
  line.end = to_vec(p);
  line.past_end = to_vec(v).normalized();
  curve.D0(0.5 * (first + last), p);
  line.middle = to_vec(p);
  return line;
}

TopoDS_Edge straight(const Vec3& a, const Vec3& b) {
  return BRepBuilderAPI_MakeEdge(pnt(a), pnt(b)).Edge();
}

/// The wall under an outline, `far` deep along `down`; its ends drawn on by `on` mm so that they
/// reach into the part. Empty where such an outline crosses itself.
std::optional<Named> wall(const Line& line, const Profile& profile, const Placement& plane,
                          const Vec3& down, double far, double on, double thickness,
                          const std::string& prefix) {
  const Vec3 start = line.start + on * line.before_start;
  const Vec3 end = line.end + on * line.past_end;
  BRepBuilderAPI_MakeWire around(line.wire);
  if (on > 0) around.Add(straight(line.end, end));
  around.Add(straight(end, end + far * down));
  around.Add(straight(end + far * down, start + far * down));
  around.Add(straight(start + far * down, start));
  if (on > 0) around.Add(straight(start, line.start));
  if (!around.IsDone()) return std::nullopt;
  const BRepBuilderAPI_MakeFace face(gp_Pln(pnt(line.start), dir(plane.normal)), around.Wire());
  if (!face.IsDone() || !BRepCheck_Analyzer(face.Face()).IsValid()) return std::nullopt;
  gp_Trsf half;
  half.SetTranslation(vec(plane.normal * (-0.5 * thickness)));
  const TopLoc_Location place(half);
  const TopoDS_Shape base = face.Face().Moved(place);
  BRepPrimAPI_MakePrism prism(base, vec(plane.normal * thickness));
  if (!prism.IsDone()) return std::nullopt;
  Named body{prism.Shape(), {}};
  for (const auto& [edge, entity] : profile.edges) {
    for (const TopoDS_Shape& side : prism.Generated(edge.Moved(place)))
      body.names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
  }
  body.names.emplace_back(prism.FirstShape(), std::vector{prefix + ":start"});
  body.names.emplace_back(prism.LastShape(), std::vector{prefix + ":end"});
  return body;
}

double distance(const TopoDS_Shape& shape, const Vec3& place) {
  const BRepExtrema_DistShapeShape apart(BRepBuilderAPI_MakeVertex(pnt(place)).Vertex(), shape);
  return apart.IsDone() ? apart.Value() : 1e300;
}

/// The piece of a wall outside the part that hangs on the outline, if the part closes it off.
std::optional<TopoDS_Shape> piece_at(const TopoDS_Shape& outside, const Line& line,
                                     const Vec3& down, double far, double on, double near) {
  for (TopExp_Explorer at(outside, TopAbs_SOLID); at.More(); at.Next()) {
    if (distance(at.Current(), line.middle) > near) continue;
    // Where the part does not close it off it still reaches the wall's own far side or ends.
    const auto reaches = [&](const Vec3& place) { return distance(at.Current(), place) < near; };
    const bool open =
        distance(at.Current(), 0.5 * (line.start + line.end) + far * down) < 0.4 * far ||
        (on > 0 &&
         (reaches(line.start + on * line.before_start) || reaches(line.end + on * line.past_end)));
    if (open) return std::nullopt;
    return at.Current();
  }
  return std::nullopt;
}

}  // namespace

constinit const FeatureKind Rib::kind =
    kind_of<Rib>("rib", "Rib", "a wall from an open outline down to the part", "fence", '1');

void Rib::describe(Description& d) {
  d.sketches({"sketch", 1, 1}, sketch);
  d.number({"thickness", NumberInfo::Unit::Length, NumberInfo::Sign::Positive}, thickness);
  d.flag("other side", other_side);
}

Result<ToolBody> Rib::tool(const Site& site) const {
  if (sketch.size() != 1)
    return Error{ErrorCode::InvalidInput, "Choose the sketch of the rib's outline."};
  if (!std::isfinite(thickness.value) || !(thickness.value > 0))
    return Error{ErrorCode::InvalidInput, "Give a thickness greater than zero."};
  const PlacedSketch* placed = find_sketch(site.setting, sketch.front());
  if (placed == nullptr) return sketch_gone();
  if (!site.before.has(BodyKind::Solid))
    return Error{ErrorCode::InvalidInput, "A rib stands on a part: there is no solid body yet."};
  const std::vector<sketch::Id> no_loops;
  const std::vector<Vec2> no_areas;
  const auto profile = make_profile(*placed, {no_loops, no_areas, true}, placed->section_level);
  if (!profile) return profile.error();
  if (profile->shapes.size() != 1 || TopoDS::Wire(profile->shapes.front()).Closed())
    return Error{ErrorCode::InvalidInput,
                 "A rib is drawn as one outline that does not close: its upper edge."};
  const Line line = line_of(TopoDS::Wire(profile->shapes.front()));
  const Vec3 chord = line.end - line.start;
  const double size = site.before.box().diagonal().norm() + chord.norm();
  const double near = 1e-6 * size;
  if (!(chord.norm() > near))
    return Error{ErrorCode::InvalidInput, "The outline of the rib ends where it begins."};
  const Vec3 across = placed->base.normal.cross(chord.normalized());
  const std::string prefix = prefix_of(site.step);
  const double far = 2 * size;
  std::vector<Named> found;
  for (const double sense : {-1.0, 1.0}) {
    for (const double on : {size, 0.0}) {
      const auto block =
          wall(line, *profile, placed->base, sense * across, far, on, thickness.value, prefix);
      if (!block) continue;
      std::optional<Named> outside = *block;
      for (std::size_t b = 0; b < site.before.body_count() && outside; ++b) {
        if (site.before.body(b).kind != BodyKind::Solid) continue;
        const auto rest = boolean_of(*outside, copied(named_body(site.before, b)), Operation::Cut);
        outside = rest ? std::optional(*rest) : std::nullopt;
      }
      if (!outside) continue;
      const auto piece = piece_at(outside->shape, line, sense * across, far, on, near);
      if (!piece) continue;
      found.push_back({*piece, outside->names});
      break;
    }
  }
  const std::size_t wanted = other_side ? 1 : 0;
  if (found.size() <= wanted)
    return Error{ErrorCode::Failed,
                 other_side
                     ? "The part does not close the rib off on the other side of its outline."
                     : "The part does not close the rib off on either side of its outline. "
                       "Draw the outline so that its ends run into the part."};
  return ToolBody{found[wanted], Operation::Add, {}, BodyKind::Solid};
}

}  // namespace lostline::model
