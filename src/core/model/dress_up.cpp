#include "model/dress_up.h"

#include <fmt/format.h>

#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>

#include "base/hash.h"
#include "base/text.h"
#include "model/kernel_call.h"

namespace lostline::model {

Result<std::vector<FoundEdge>> find_edges(const std::vector<EdgeRef>& refs, const Model& before,
                                          const char* what) {
  if (before.empty())
    return Error{ErrorCode::InvalidInput, std::string("There is no edge to ") + what + " yet."};
  if (refs.empty())
    return Error{ErrorCode::InvalidInput, std::string("Pick at least one edge to ") + what + "."};
  std::vector<FoundEdge> edges;
  for (const EdgeRef& ref : refs) {
    const std::optional<std::size_t> edge = before.find_edge(ref);
    if (!edge)
      return Error{ErrorCode::NotFound, "The edge between " + ref.face_a + " and " + ref.face_b +
                                            " is gone. Pick another edge."};
    if (std::none_of(edges.begin(), edges.end(), [&](const auto& e) { return e.edge == *edge; }))
      edges.push_back({*edge, ref.face_a});
  }
  return edges;
}

std::string mark_between(const std::string& face_a, const std::string& face_b) {
  const auto [first, second] = std::minmax(face_a, face_b);
  const std::uint64_t value =
      Hash().add(std::string_view(first)).add(std::string_view(second)).value();
  return fmt::format(":{:06x}", value & 0xffffffU);
}

const TopoDS_Edge& edge_of(const Model& solid, std::size_t edge) {
  return TopoDS::Edge(solid.impl().edges(static_cast<int>(edge) + 1));
}

Result<Model> attempt_or_explain(const Attempt& attempt, double size, const std::string& label,
                                 std::size_t edges, const std::string& prefix) {
  const auto tried = [&](double s, FaceNames* into) -> std::optional<TopoDS_Shape> {
    try {
      return in_kernel([&] { return attempt(s, into); });
    } catch (const Standard_Failure&) {
      return std::nullopt;
    }
  };
  FaceNames names;
  if (const std::optional<TopoDS_Shape> shape = tried(size, &names))
    return make_solid(*shape, names, prefix);
  double low = 0;
  double high = size;
  for (int i = 0; i < 7; ++i) {
    const double middle = 0.5 * (low + high);
    (tried(middle, nullptr) ? low : high) = middle;
  }
  return Error{
      ErrorCode::Failed,
      label + " is too large for the edge" + (edges > 1 ? "s" : "") +
          (low > 0 ? "; up to about " + format_trimmed(std::floor(low * 10) / 10, 1) + " works."
                   : "; no size works there.")};
}

}  // namespace lostline::model
