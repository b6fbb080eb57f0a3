#pragma once

#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <functional>
#include <optional>

#include "model/tool_body.h"

// What fillets and chamfers share.

namespace lostline::model {

/// Edges of the part that references mean, without repeats.
struct FoundEdge {
  std::size_t edge;
  std::string face;  ///< the first of its two faces
};
Result<std::vector<FoundEdge>> find_edges(const std::vector<EdgeRef>& refs, const Model& before,
                                          const char* what);
const TopoDS_Edge& edge_of(const Model& solid, std::size_t edge);

/// ":3fa29c" for two faces, whichever comes first: the same wherever the edge stands in a list.
std::string mark_between(const std::string& face_a, const std::string& face_b);

/// Builds with one size; names are filled when given. Empty when the size does not work; the
/// kernel's exceptions may pass.
using Attempt =
    std::function<std::optional<TopoDS_Shape>(double size, FaceNames* names, const Task& task)>;

/// Chains of edges that meet each other at their ends, as places in the list of edges.
std::vector<std::vector<std::size_t>> chains_of(const Model& before,
                                                const std::vector<FoundEdge>& edges);

/// Edges of a part while one chain of them after another is dressed: an edge and one of its faces
/// as the chains so far have left them.
class Dressing {
 public:
  Dressing(const Model& before, const std::vector<FoundEdge>& edges);
  [[nodiscard]] const TopoDS_Shape& shape() const { return shape_; }
  [[nodiscard]] const TopoDS_Edge& edge(std::size_t k) const { return edges_[k]; }
  /// Null where it is no longer known.
  [[nodiscard]] const TopoDS_Face& face(std::size_t k) const { return faces_[k]; }

  /// Goes on from what `make` has built.
  template <class Maker>
  void follow(Maker& make) {
    for (std::size_t k = 0; k < edges_.size(); ++k) {
      const TopTools_ListOfShape& now = make.Modified(edges_[k]);
      if (now.Extent() == 1) edges_[k] = TopoDS::Edge(now.First());
      if (faces_[k].IsNull()) continue;
      const TopTools_ListOfShape& faces = make.Modified(faces_[k]);
      if (!faces.IsEmpty()) faces_[k] = piece_at(faces, edges_[k]);
    }
    shape_ = make.Shape();
  }

 private:
  static TopoDS_Face piece_at(const TopTools_ListOfShape& faces, const TopoDS_Edge& edge);
  TopoDS_Shape shape_;
  std::vector<TopoDS_Edge> edges_;
  std::vector<TopoDS_Face> faces_;
};

/// Dresses all edges, those that meet in one go and such chains one after another, and names the
/// faces made at them. Empty when that does not work or the task is stopped.
/// @param add  tells the maker of one edge: (maker, edge, its face).
template <class Maker, class Add>
std::optional<TopoDS_Shape> dress(const Model& before, const std::vector<FoundEdge>& edges,
                                  const Add& add, FaceNames* names, const std::string& prefix,
                                  const char* role, const Task& task) {
  Dressing dressing(before, edges);
  FaceNames carried = names_of(before);
  std::vector<std::vector<std::size_t>> chains = chains_of(before, edges);
  const std::size_t all = chains.size();
  while (!chains.empty()) {
    if (task.stopped()) return std::nullopt;
    task.report(static_cast<double>(all - chains.size()) / static_cast<double>(all));
    Maker make(dressing.shape());
    std::vector<std::size_t> made;
    // With the chains that the maker takes in too, as it goes on where edges run on smoothly.
    const auto taken_in = [&](const std::vector<std::size_t>& chain) {
      return std::any_of(chain.begin(), chain.end(),
                         [&](std::size_t k) { return make.Contour(dressing.edge(k)) > 0; });
    };
    for (auto chain = chains.begin(); chain != chains.end();
         chain = std::find_if(chains.begin(), chains.end(), taken_in)) {
      for (const std::size_t k : *chain) {
        add(make, dressing.edge(k), dressing.face(k));
        made.push_back(k);
      }
      chains.erase(chain);
    }
    make.Build();
    if (!make.IsDone()) return std::nullopt;
    FaceNames now;
    carry(carried, make, now);
    for (const std::size_t k : made) {
      // Named for the faces it lies between; its number in the list of before is known too.
      const EdgeRef between = before.ref_of_edge(edges[k].edge, Vec3::Zero());
      const std::vector<std::string> own{
          prefix + ":" + role + mark_between(between.face_a, between.face_b),
          prefix + ":" + role + ":" + std::to_string(k)};
      for (const TopoDS_Shape& face : make.Generated(dressing.edge(k))) now.emplace_back(face, own);
    }
    carried = std::move(now);
    dressing.follow(make);
  }
  if (!make_solid(dressing.shape(), {}, prefix).valid()) return std::nullopt;
  if (names != nullptr) *names = std::move(carried);
  return dressing.shape();
}

/// Tries the size wanted; when it fails says the largest that works, by halving.
/// @errors Failed, Cancelled.
Result<Model> attempt_or_explain(const Attempt& attempt, double size, const std::string& label,
                                 std::size_t edges, const std::string& prefix, const Task& task);

}  // namespace lostline::model
