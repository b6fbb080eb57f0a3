#include "model/dress_up.h"

#include <fmt/format.h>

#include <TopExp_Explorer.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>

#include "base/hash.h"
#include "base/text.h"
#include "model/apart/kernel_process.h"
#include "model/edge_refs.h"

namespace lostline::model {

Result<std::vector<FoundEdge>> find_edges(const std::vector<EdgeRef>& refs, const Model& before,
                                          const char* what) {
  if (before.empty())
    return Error{ErrorCode::InvalidInput, std::string("There is no edge to ") + what + " yet."};
  if (refs.empty())
    return Error{ErrorCode::InvalidInput, std::string("Pick at least one edge to ") + what + "."};
  std::vector<FoundEdge> edges;
  for (const EdgeRef& ref : refs) {
    const auto meant = edges_meant(before, ref);
    if (!meant) return meant.error();
    for (const EdgeMeant& m : *meant) {
      if (std::none_of(edges.begin(), edges.end(), [&](const auto& e) { return e.edge == m.edge; }))
        edges.push_back({m.edge, before.face_name(m.face)});
    }
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

std::vector<std::vector<std::size_t>> chains_of(const Model& before,
                                                const std::vector<FoundEdge>& edges) {
  std::vector<std::vector<std::size_t>> chains;
  std::vector<TopTools_MapOfShape> corners;  // of each chain
  for (std::size_t k = 0; k < edges.size(); ++k) {
    std::vector<std::size_t> chain{k};
    TopTools_MapOfShape ends;
    for (TopExp_Explorer it(edge_of(before, edges[k].edge), TopAbs_VERTEX); it.More(); it.Next())
      ends.Add(it.Current());
    for (std::size_t c = chains.size(); c-- > 0;) {
      if (!corners[c].HasIntersection(ends)) continue;
      chain.insert(chain.end(), chains[c].begin(), chains[c].end());
      ends.Unite(corners[c]);
      chains.erase(chains.begin() + static_cast<std::ptrdiff_t>(c));
      corners.erase(corners.begin() + static_cast<std::ptrdiff_t>(c));
    }
    std::sort(chain.begin(), chain.end());
    chains.push_back(std::move(chain));
    corners.push_back(ends);
  }
  return chains;
}

Dressing::Dressing(const Model& before, const std::vector<FoundEdge>& edges)
    : shape_(before.impl().shape) {
  for (const FoundEdge& found : edges) {
    edges_.push_back(edge_of(before, found.edge));
    const auto face = before.find_face(found.face);
    faces_.push_back(face ? TopoDS::Face(before.impl().faces(static_cast<int>(*face) + 1))
                          : TopoDS_Face());
  }
}

TopoDS_Face Dressing::piece_at(const TopTools_ListOfShape& faces, const TopoDS_Edge& edge) {
  for (const TopoDS_Shape& face : faces) {
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
      if (it.Current().IsSame(edge)) return TopoDS::Face(face);
  }
  return {};
}

Result<Model> attempt_or_explain(const Attempt& attempt, double size, const std::string& label,
                                 std::size_t edges, const std::string& prefix, const Task& task) {
  const auto tried = [&](double s, FaceNames* into,
                         const Task& part) -> std::optional<TopoDS_Shape> {
    try {
      return attempt(s, into, part);
    } catch (const Standard_Failure&) {
      return std::nullopt;
    }
  };
  const auto would_work = [&](double s) {
    return works_out([&] { return attempt(s, nullptr, Task()).has_value(); }, task);
  };
  FaceNames names;
  if (!with_care() || would_work(size)) {
    if (const std::optional<TopoDS_Shape> shape = tried(size, &names, task))
      return make_solid(*shape, names, prefix);
  }
  double low = 0;
  double high = size;
  for (int i = 0; i < 7 && !task.stopped(); ++i) {
    const double middle = 0.5 * (low + high);
    (would_work(middle) ? low : high) = middle;
  }
  if (task.stopped()) return cancelled();
  return Error{
      ErrorCode::Failed,
      label + " is too large for the edge" + (edges > 1 ? "s" : "") +
          (low > 0 ? "; up to about " + format_trimmed(std::floor(low * 10) / 10, 1) + " works."
                   : "; no size works there.")};
}

}  // namespace lostline::model
