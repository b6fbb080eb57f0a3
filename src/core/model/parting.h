#pragma once

#include <TopTools_ListOfShape.hxx>
#include <optional>
#include <vector>

#include "model/tool_body.h"

// Parting bodies by faces.

namespace lostline::model {

/// What a body is split by.
struct Knife {
  TopTools_ListOfShape faces;
  FaceNames names;
  std::optional<fit::Surface> surface;  ///< when it is one of closed form
};

/// A face of a plane, cylinder or cone that reaches past a box everywhere.
TopoDS_Shape face_past(const fit::Surface& surface, const Box3& box);

/// Adds surface bodies of a model to what is split by; their faces are named for the step.
/// @errors NotFound  one is gone;  InvalidInput  one is no surface body.
Result<std::vector<std::size_t>> add_surface_bodies(Knife& knife, const Model& model,
                                                    const std::vector<std::string>& keys,
                                                    const std::string& prefix);

/// Pieces of one solid or surface body, each sharing nothing with the others: those on the far side
/// of the knife's surface first, then the largest.
/// @errors Failed, Cancelled.
Result<std::vector<Named>> pieces_of(const Named& body, BodyKind kind, const Knife& knife,
                                     const Task& task = {});

/// Whether the middle of a piece lies where a surface's normal points.
bool beyond(const fit::Surface& surface, const TopoDS_Shape& piece);

}  // namespace lostline::model
