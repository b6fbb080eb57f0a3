#pragma once

#include <TopoDS_Edge.hxx>
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
using Attempt = std::function<std::optional<TopoDS_Shape>(double size, FaceNames* names)>;

/// Builds what was added to `make`, and names the faces made at the edges.
template <class Maker>
std::optional<TopoDS_Shape> finish(Maker& make, const Model& before,
                                   const std::vector<FoundEdge>& edges, FaceNames* names,
                                   const std::string& prefix, const char* role) {
  make.Build();
  if (!make.IsDone()) return std::nullopt;
  const Model trial = make_solid(make.Shape(), {}, prefix);
  if (!trial.valid()) return std::nullopt;
  if (names != nullptr) {
    carry(names_of(before), make, *names);
    for (std::size_t k = 0; k < edges.size(); ++k) {
      // Named for the faces it lies between; its number in the list of before is known too.
      const EdgeRef between = before.ref_of_edge(edges[k].edge, Vec3::Zero());
      const std::vector<std::string> own{
          prefix + ":" + role + mark_between(between.face_a, between.face_b),
          prefix + ":" + role + ":" + std::to_string(k)};
      for (const TopoDS_Shape& face : make.Generated(edge_of(before, edges[k].edge)))
        names->emplace_back(face, own);
    }
  }
  return make.Shape();
}

/// Tries the size wanted; when it fails says the largest that works, by halving.
Result<Model> attempt_or_explain(const Attempt& attempt, double size, const std::string& label,
                                 std::size_t edges, const std::string& prefix);

}  // namespace lostline::model
