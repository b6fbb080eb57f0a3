#include "model/steps/loft/loft.h"

#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepTools.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include "model/profile.h"
#include "model/steps/kind_of.h"

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
  d.flag("ruled", ruled);
  d.operation(operation, bodies);
  d.flag("surface", surface);
}

Result<ToolBody> Loft::tool(const Site& site) const {
  if (sections.size() < 2)
    return Error{ErrorCode::InvalidInput,
                 "A loft needs two sections or more: choose their sketches in order."};
  BRepOffsetAPI_ThruSections loft(!surface, ruled, 1e-6);
  loft.CheckCompatibility(true);
  std::vector<std::pair<TopoDS_Shape, sketch::Id>> edges;  // of the first section
  int closed = 0;
  const std::vector<sketch::Id> no_loops;
  const std::vector<Vec2> no_areas;
  for (std::size_t k = 0; k < sections.size(); ++k) {
    const PlacedSketch* placed = find_sketch(site.setting, sections[k]);
    if (placed == nullptr) return sketch_gone();
    auto profile = make_profile(*placed, {no_loops, no_areas, surface}, placed->section_level);
    if (!profile) return profile.error();
    if (profile->shapes.size() != 1)
      return Error{ErrorCode::InvalidInput, "Section " + std::to_string(k + 1) +
                                                " of the loft has " +
                                                std::to_string(profile->shapes.size()) +
                                                " outlines. A section is one outline."};
    const TopoDS_Shape& shape = profile->shapes.front();
    const TopoDS_Wire wire =
        surface ? TopoDS::Wire(shape) : BRepTools::OuterWire(TopoDS::Face(shape));
    closed += wire.Closed() ? 1 : 0;
    if (k == 0) edges = profile->edges;
    loft.AddWire(wire);
  }
  if (closed != 0 && closed != static_cast<int>(sections.size()))
    return Error{ErrorCode::InvalidInput,
                 "Some sections of the loft close and some do not. Close all or none."};
  loft.Build();
  if (!loft.IsDone())
    return Error{ErrorCode::Failed, "No surface goes through these sections in this order."};
  const std::string prefix = prefix_of(site.step);
  Named body;
  body.shape = loft.Shape();
  for (const auto& [edge, entity] : edges) {
    const TopoDS_Shape side = loft.GeneratedFace(edge);
    if (!side.IsNull())
      body.names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
  }
  if (!surface) {
    body.names.emplace_back(loft.FirstShape(), std::vector{prefix + ":start"});
    body.names.emplace_back(loft.LastShape(), std::vector{prefix + ":end"});
  }
  return ToolBody{body, operation, bodies, surface ? BodyKind::Surface : BodyKind::Solid};
}

}  // namespace lostline::model
