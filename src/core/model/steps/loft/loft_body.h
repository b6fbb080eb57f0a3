#pragma once

#include <Geom_BSplineSurface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Wire.hxx>
#include <string>
#include <vector>

#include "model/model_impl.h"
#include "model/steps/loft/sections.h"

namespace lostline::model {

/// The sides of a loft as a solid with plane ends called ":start" and ":end", or as a shell.
/// @param names  of each side.
/// @errors Failed  its ends are not flat, or it does not close.
Result<Named> loft_body(const std::vector<Handle(Geom_BSplineSurface)>& sides,
                        const std::vector<std::vector<std::string>>& names, bool solid,
                        const std::string& prefix);

/// A wire and its edges, in the order of the section's curves.
struct LoftWire {
  TopoDS_Wire wire;
  std::vector<TopoDS_Edge> edges;
};
/// Where a loft ends that comes straight from another section and goes on past its last one.
/// @param reach   mm, along the normal; 0: the section itself.
/// @param normal  of the section; either way.
/// @errors Degenerate  it runs nearly along the section's plane.
Result<LoftWire> wire_beyond(const LoftSection& section, const LoftSection& other, double reach,
                             const Vec3& normal);

}  // namespace lostline::model
