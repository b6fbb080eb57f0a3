#include "model/steps/fillet/fillet.h"

#include <BRepFilletAPI_MakeFillet.hxx>
#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "model/dress_up.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind Fillet::kind = kind_of<Fillet>(
    "fillet", "Fillet", "round edges with one radius, or one that grows along them", "spline", 'f');

void Fillet::describe(Description& d) {
  d.edges("edges", edges);
  d.number({"radius", NumberInfo::Unit::Radius, NumberInfo::Sign::Positive}, radius);
  d.flag("grows", grows);
  d.number({"end radius", NumberInfo::Unit::Length, NumberInfo::Sign::Positive, grows}, end_radius);
  d.flag("other end", other_end);
}

std::vector<NumberReading> Fillet::read(const Site& site, const ScanEvidence& scan) const {
  if (grows || edges.empty()) return {};
  // Each takes a tenth of a second; a dozen, spread over all, tell as much as hundreds.
  constexpr std::size_t kMost = 12;
  const std::size_t count = std::min(edges.size(), kMost);
  double weights = 0;
  double sum = 0;
  std::vector<double> radii;
  for (std::size_t k = 0; k < count; ++k) {
    const auto round = scan.round_along(site.before, edges[k * edges.size() / count]);
    if (!round || !(round->u > 0)) continue;
    const double weight = 1 / (round->u * round->u);
    weights += weight;
    sum += weight * round->radius;
    radii.push_back(round->radius);
  }
  if (radii.empty()) return {};
  const double mean = sum / weights;
  double scatter = 0;
  for (const double r : radii) scatter += (r - mean) * (r - mean);
  const auto n = static_cast<double>(radii.size());
  // What the edges differ by counts where it is more than their own U.
  const double u_scatter = radii.size() > 1 ? 2 * std::sqrt(scatter / (n * (n - 1))) : 0;
  return {{"radius", mean, std::max(1 / std::sqrt(weights), u_scatter),
           radii.size() == 1 ? "scan beside the edge"
                             : "scan beside " + std::to_string(radii.size()) + " edges"}};
}

Result<Model> Fillet::build(const Site& site) const {
  const double wanted = radius.value;
  if (!(wanted > 0) || !std::isfinite(wanted))
    return Error{ErrorCode::InvalidInput, "A fillet needs a radius greater than zero."};
  if (grows && (!std::isfinite(end_radius.value) || !(end_radius.value > 0)))
    return Error{ErrorCode::InvalidInput,
                 "A fillet that grows needs a radius greater than zero at its other end too."};
  const double ratio = grows ? end_radius.value / wanted : 1;
  const auto found = find_edges(edges, site.before, "fillet");
  if (!found) return found.error();
  const std::string prefix = prefix_of(site.step);
  const Attempt attempt = [&](double size, FaceNames* names,
                              const Task& task) -> std::optional<TopoDS_Shape> {
    const auto add = [&](BRepFilletAPI_MakeFillet& make, const TopoDS_Edge& edge,
                         const TopoDS_Face&) {
      if (ratio == 1)
        make.Add(size, edge);
      else
        make.Add(other_end ? ratio * size : size, other_end ? size : ratio * size, edge);
    };
    return dress<BRepFilletAPI_MakeFillet>(site.before, *found, add, names, prefix, "fillet", task);
  };
  return attempt_or_explain(attempt, wanted, "R " + format_trimmed(wanted, 3), found->size(),
                            prefix, site.setting.task);
}

}  // namespace lostline::model
