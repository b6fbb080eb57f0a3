#include "model/steps/chamfer/chamfer.h"

#include <BRepFilletAPI_MakeChamfer.hxx>
#include <Standard_Failure.hxx>
#include <cmath>

#include "base/text.h"
#include "model/dress_up.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind Chamfer::kind =
    kind_of<Chamfer>("chamfer", "Chamfer", "bevel edges with a leg and an angle", "octagon", 'b');

void Chamfer::describe(Description& d) {
  d.edges("edges", edges);
  d.number({"leg", NumberInfo::Unit::Length, NumberInfo::Sign::Positive}, distance);
  d.number({"angle", NumberInfo::Unit::Angle, NumberInfo::Sign::Positive}, angle);
}

Result<Model> Chamfer::build(const Site& site) const {
  const double leg = distance.value;
  const double slant = angle.value;
  if (!(leg > 0) || !std::isfinite(leg))
    return Error{ErrorCode::InvalidInput, "A chamfer needs a leg greater than zero."};
  if (!(slant > 0.01) || !(slant < 1.56))
    return Error{ErrorCode::InvalidInput, "A chamfer's angle lies between 1\u00b0 and 89\u00b0."};
  const auto found = find_edges(edges, site.before, "chamfer");
  if (!found) return found.error();
  const std::string prefix = prefix_of(site.step);
  const double ratio = std::tan(slant);
  const Attempt attempt = [&](double size, FaceNames* names,
                              const Task& task) -> std::optional<TopoDS_Shape> {
    const auto add = [&](BRepFilletAPI_MakeChamfer& make, const TopoDS_Edge& edge,
                         const TopoDS_Face& face) {
      if (face.IsNull()) throw Standard_Failure();  // it went with another chamfer
      make.Add(size, size * ratio, edge, face);
    };
    return dress<BRepFilletAPI_MakeChamfer>(site.before, *found, add, names, prefix, "chamfer",
                                            task);
  };
  return attempt_or_explain(attempt, leg, "A leg of " + format_trimmed(leg, 3), found->size(),
                            prefix, site.setting.task);
}

}  // namespace lostline::model
