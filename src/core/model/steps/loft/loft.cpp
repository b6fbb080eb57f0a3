#include "model/steps/loft/loft.h"

#include <BRepGProp.hxx>
#include <BRepOffsetAPI_MakePipeShell.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepTools.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>

#include "model/profile.h"
#include "model/steps/kind_of.h"
#include "model/steps/loft/guided.h"

namespace lostline::model {

constinit const FeatureKind Loft::kind =
    kind_of<Loft>("loft", "Loft", "go over from section to section, each a sketch", "pyramid", 'l');

std::string Loft::words() const {
  return operation == Operation::Cut      ? "lofted cut"
         : operation == Operation::Common ? "lofted common"
                                          : "loft";
}

void Loft::describe(Description& d) {
  d.sketches({"sections", 2, 40}, sections);
  d.areas("outline", outline);
  d.flag("ruled", ruled);
  d.bodies({"spine", false}, spine);
  d.bodies({"guides", false}, guides);
  d.flag("square_start", square_start);
  d.flag("square_end", square_end);
  d.operation(operation, bodies);
  d.flag("surface", surface);
  d.number({"beyond_start", NumberInfo::Unit::Length}, beyond_start);
  d.number({"beyond_end", NumberInfo::Unit::Length}, beyond_end);
}

namespace {

/// The outlines of the sections, in order.
struct Sections {
  std::vector<TopoDS_Wire> wires;
  std::vector<std::pair<TopoDS_Shape, sketch::Id>> edges;  ///< of the first section
  std::vector<Placement> planes;
  bool alike = false;  ///< told from the same curve in the same direction
};

/// Of its area, or of its curves where it has none.
Vec3 middle_of(const TopoDS_Shape& shape) {
  GProp_GProps properties;
  if (shape.ShapeType() == TopAbs_FACE)
    BRepGProp::SurfaceProperties(shape, properties);
  else
    BRepGProp::LinearProperties(shape, properties);
  return vec(properties.CentreOfMass());
}

const TopoDS_Shape& nearest_of(const std::vector<TopoDS_Shape>& shapes, const Vec3& place) {
  return *std::min_element(shapes.begin(), shapes.end(), [&](const auto& a, const auto& b) {
    return (middle_of(a) - place).norm() < (middle_of(b) - place).norm();
  });
}

Result<Sections> sections_of(const Loft& loft, const Site& site) {
  Sections made;
  std::size_t closed = 0;
  Vec3 near = Vec3::Zero();
  const std::vector<sketch::Id> no_loops;
  const std::vector<Vec2> no_areas;
  for (std::size_t k = 0; k < loft.sections.size(); ++k) {
    const PlacedSketch* placed = find_sketch(site.setting, loft.sections[k]);
    if (placed == nullptr) return sketch_gone();
    auto profile = make_profile(*placed, {no_loops, no_areas, loft.surface}, placed->section_level);
    if (!profile) return profile.error();
    if (profile->shapes.empty() ||
        (k == 0 && profile->shapes.size() > 1 && loft.outline.size() != 1))
      return Error{ErrorCode::InvalidInput, "Section " + std::to_string(k + 1) +
                                                " of the loft has " +
                                                std::to_string(profile->shapes.size()) +
                                                " outlines. Say which one is meant."};
    if (k == 0 && !loft.outline.empty())
      near = placed->base.to_space(loft.outline.front(), placed->section_level);
    const TopoDS_Shape shape = nearest_of(profile->shapes, near);
    near = middle_of(shape);
    made.wires.push_back(loft.surface ? TopoDS::Wire(shape)
                                      : BRepTools::OuterWire(TopoDS::Face(shape)));
    made.planes.push_back(placed->base.shifted(placed->section_level));
    closed += made.wires.back().Closed() ? 1 : 0;
    if (k == 0) made.edges = profile->edges;
  }
  if (closed != 0 && closed != made.wires.size())
    return Error{ErrorCode::InvalidInput,
                 "Some sections of the loft close and some do not. Close all or none."};
  return made;
}

/// From section to section with nothing between to go by.
Result<Named> straight_on(const Loft& loft, const Sections& sections, const std::string& prefix) {
  BRepOffsetAPI_ThruSections through(!loft.surface, loft.ruled, 1e-6);
  through.CheckCompatibility(!sections.alike);
  for (const TopoDS_Wire& wire : sections.wires) through.AddWire(wire);
  through.Build();
  if (!through.IsDone())
    return Error{ErrorCode::Failed, "No surface goes through these sections in this order."};
  Named body{through.Shape(), {}};
  for (const auto& [edge, entity] : sections.edges) {
    const TopoDS_Shape side = through.GeneratedFace(edge);
    if (!side.IsNull())
      body.names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
  }
  if (!loft.surface) {
    body.names.emplace_back(through.FirstShape(), std::vector{prefix + ":start"});
    body.names.emplace_back(through.LastShape(), std::vector{prefix + ":end"});
  }
  return body;
}

/// The plane's normal on the side where another place lies.
Vec3 towards(const Placement& plane, const Vec3& place) {
  return plane.level_of(place) < 0 ? Vec3(-plane.normal) : plane.normal;
}

/// With sections in between where guides or the ends want them, and beyond the ends.
Result<Sections> filled(const Loft& loft, const Sections& sections, const Model& whole) {
  const bool led = !loft.guides.empty() || loft.square_start || loft.square_end;
  const bool goes_on = loft.beyond_start.value > 0 || loft.beyond_end.value > 0;
  if (!led && !goes_on) return sections;
  if (loft.ruled && led)
    return Error{ErrorCode::InvalidInput,
                 "A loft that is straight from section to section follows no guide and leaves no "
                 "section square. Leave one of the two out."};
  LoftWay way;
  for (const std::string& key : loft.guides) {
    const auto guide = curve_body(whole, key);
    if (!guide) return guide.error();
    way.guides.push_back(*guide);
  }
  const Placement& first = sections.planes.front();
  const Placement& last = sections.planes.back();
  const Vec3 out = towards(first, sections.planes[1].origin);
  const Vec3 on = -towards(last, sections.planes[sections.planes.size() - 2].origin);
  if (loft.square_start) way.start = out;
  if (loft.square_end) way.end = on;
  way.before = loft.beyond_start.value;
  way.past = loft.beyond_end.value;
  way.normals = {out, on};
  const auto made = sections_between(sections.wires, way);
  if (!made) return made.error();
  Sections all = sections;
  all.wires = made->wires;
  all.alike = true;
  for (auto& [edge, entity] : all.edges) {
    for (const auto& [given, now] : made->first)
      if (given.IsSame(edge)) {
        edge = now;
        break;
      }
  }
  return all;
}

/// Along a curve, which turns the sections as it turns.
Result<Named> along_spine(const Loft& loft, const Sections& sections, const TopoDS_Wire& spine,
                          const std::string& prefix) {
  BRepOffsetAPI_MakePipeShell shell(spine);
  for (const TopoDS_Wire& wire : sections.wires) shell.Add(wire);
  const Error failed{ErrorCode::Failed,
                     "The sections cannot go over along this curve. It must run through all of "
                     "them in their order, and bend less than they are wide."};
  if (!shell.IsReady()) return failed;
  shell.Build();
  if (!shell.IsDone() || (!loft.surface && !shell.MakeSolid())) return failed;
  Named body{shell.Shape(), {}};
  for (const auto& [edge, entity] : sections.edges) {
    for (const TopoDS_Shape& side : shell.Generated(edge))
      body.names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
  }
  if (!loft.surface) {
    body.names.emplace_back(shell.FirstShape(), std::vector{prefix + ":start"});
    body.names.emplace_back(shell.LastShape(), std::vector{prefix + ":end"});
  }
  return body;
}

}  // namespace

Result<ToolBody> Loft::tool(const Site& site) const {
  if (sections.size() < 2)
    return Error{ErrorCode::InvalidInput,
                 "A loft needs two sections or more: choose their sketches in order."};
  if (spine.size() > 1)
    return Error{ErrorCode::InvalidInput, "A loft runs along one curve, or none."};
  if (!(beyond_start.value >= 0) || !(beyond_end.value >= 0))
    return Error{ErrorCode::InvalidInput,
                 "A loft goes on by 0 or more before its first section and past its last one."};
  if (!spine.empty() && (!guides.empty() || square_start || square_end || beyond_start.value > 0 ||
                         beyond_end.value > 0))
    return Error{ErrorCode::InvalidInput,
                 "A loft runs along a spine, or touches guides, leaves its ends square or goes on "
                 "beyond them: choose one of the two."};
  const auto outlines = sections_of(*this, site);
  if (!outlines) return outlines.error();
  const std::string prefix = prefix_of(site.step);
  Result<Named> body = Named{};
  if (spine.empty()) {
    const auto all = filled(*this, *outlines, site.whole);
    if (!all) return all.error();
    body = straight_on(*this, *all, prefix);
  } else {
    const auto curve = curve_body(site.whole, spine.front());
    if (!curve) return curve.error();
    body = along_spine(*this, *outlines, *curve, prefix);
  }
  if (!body) return body.error();
  return ToolBody{*body, operation, bodies, surface ? BodyKind::Surface : BodyKind::Solid};
}

}  // namespace lostline::model
