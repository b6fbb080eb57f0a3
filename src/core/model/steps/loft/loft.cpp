#include "model/steps/loft/loft.h"

#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_MakePipeShell.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>

#include "model/profile.h"
#include "model/steps/kind_of.h"
#include "model/steps/loft/guided.h"
#include "model/steps/loft/loft_body.h"

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

  [[nodiscard]] bool as_many_curves() const {
    const auto count = [](const TopoDS_Wire& wire) {
      int edges = 0;
      for (BRepTools_WireExplorer it(wire); it.More(); it.Next()) ++edges;
      return edges;
    };
    return std::all_of(wires.begin(), wires.end(),
                       [&](const auto& w) { return count(w) == count(wires.front()); });
  }
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

std::string side_name(const std::string& prefix, sketch::Id entity) {
  return prefix + ":side:" + std::to_string(entity);
}

/// By the kernel: straight from section to section, or through such that have different numbers of
/// curves.
Result<Named> straight_on(const Sections& sections, bool ruled, const Loft& loft,
                          const std::string& prefix) {
  BRepOffsetAPI_ThruSections through(!loft.surface, ruled, 1e-6);
  through.CheckCompatibility(!sections.alike);
  for (const TopoDS_Wire& wire : sections.wires) through.AddWire(wire);
  through.Build();
  if (!through.IsDone())
    return Error{ErrorCode::Failed, "No surface goes through these sections in this order."};
  Named body{through.Shape(), {}};
  for (const auto& [edge, entity] : sections.edges) {
    const TopoDS_Shape side = through.GeneratedFace(edge);
    if (!side.IsNull()) body.names.emplace_back(side, std::vector{side_name(prefix, entity)});
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

/// How the loft leaves its first section and comes to its last one.
std::pair<LoftEnd, LoftEnd> ends_of(const Loft& loft, const Sections& sections) {
  const Placement& first = sections.planes.front();
  const Placement& last = sections.planes.back();
  LoftEnd start;
  LoftEnd end;
  start.normal = towards(first, sections.planes[1].origin);
  end.normal = -towards(last, sections.planes[sections.planes.size() - 2].origin);
  if (loft.square_start) start.way = start.normal;
  if (loft.square_end) end.way = end.normal;
  start.reach = loft.beyond_start.value;
  end.reach = loft.beyond_end.value;
  return {start, end};
}

/// Smooth through all sections, along guides and on beyond the ends where it shall.
Result<Named> skinned(const Loft& loft, const Sections& sections, const Model& whole,
                      const std::string& prefix) {
  auto told = told_alike(sections.wires);
  if (!told) return told.error();
  const auto alike = std::make_shared<const std::vector<LoftSection>>(*std::move(told));
  std::vector<TopoDS_Wire> guides;
  for (const std::string& key : loft.guides) {
    const auto guide = curve_body(whole, key);
    if (!guide) return guide.error();
    guides.push_back(*guide);
  }
  const auto [start, end] = ends_of(loft, sections);
  const auto rows = rows_along(alike, guides, start, end);
  if (!rows) return rows.error();
  const LoftSection& first = alike->front();
  const auto sides = skin_through(*rows, first.curves(), first.ring(), first.closed(), start, end);
  if (!sides) return sides.error();
  std::vector<std::vector<std::string>> names(sides->size());
  for (std::size_t c = 0; c < sides->size(); ++c) {
    for (const auto& [edge, entity] : sections.edges)
      if (edge.IsSame(first.edge(c))) names[c].push_back(side_name(prefix, entity));
  }
  return loft_body(*sides, names, !loft.surface, prefix);
}

/// The sections with the first and the last one moved on to where a loft ends that goes straight on
/// from the neighbours of both.
Result<Sections> moved_on(const Loft& loft, const Sections& sections) {
  const auto told = told_alike(sections.wires);
  if (!told) return told.error();
  const auto [start, end] = ends_of(loft, sections);
  const std::size_t last = told->size() - 1;
  Sections all = sections;
  for (std::size_t k = 1; k < last; ++k) {
    if ((*told)[k].ring()) {  // which may begin elsewhere than its edge does
      const auto ring = wire_beyond((*told)[k], (*told)[k - 1], 0, start.normal);
      if (!ring) return ring.error();
      all.wires[k] = ring->wire;
      continue;
    }
    BRepBuilderAPI_MakeWire wire;
    for (std::size_t c = 0; c < (*told)[k].curves(); ++c)
      wire.Add(TopoDS::Edge((*told)[k].edge(c)));
    all.wires[k] = wire.Wire();
  }
  const auto low = wire_beyond(told->front(), (*told)[1], start.reach, start.normal);
  if (!low) return low.error();
  const auto high = wire_beyond(told->back(), (*told)[last - 1], end.reach, Vec3(-end.normal));
  if (!high) return high.error();
  all.wires.front() = low->wire;
  all.wires.back() = high->wire;
  all.alike = true;
  for (auto& [edge, entity] : all.edges) {
    for (std::size_t c = 0; c < low->edges.size(); ++c)
      if (edge.IsSame(told->front().edge(c))) {
        edge = low->edges[c];
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
      body.names.emplace_back(side, std::vector{side_name(prefix, entity)});
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
  const bool led = !guides.empty() || square_start || square_end;
  const bool goes_on = beyond_start.value > 0 || beyond_end.value > 0;
  if (ruled && led)
    return Error{ErrorCode::InvalidInput,
                 "A loft that is straight from section to section follows no guide and leaves no "
                 "section square. Leave one of the two out."};
  // Between two sections, and with nothing to bend it, a smooth one is straight too; the kernel
  // then knows planes and cones among its sides.
  const bool straight = ruled || (outlines->wires.size() == 2 && !led);
  if (!spine.empty()) {
    const auto curve = curve_body(site.whole, spine.front());
    if (!curve) return curve.error();
    body = along_spine(*this, *outlines, *curve, prefix);
  } else if (straight && goes_on) {
    const auto all = moved_on(*this, *outlines);
    if (!all) return all.error();
    body = straight_on(*all, true, *this, prefix);
  } else if (straight || (!led && !goes_on && !outlines->as_many_curves())) {
    body = straight_on(*outlines, straight, *this, prefix);
  } else {
    body = skinned(*this, *outlines, site.whole, prefix);
  }
  if (!body) return body.error();
  return ToolBody{*body, operation, bodies, surface ? BodyKind::Surface : BodyKind::Solid};
}

}  // namespace lostline::model
