#include "model/operate.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepGProp_Face.hxx>
#include <BRepGProp_Vinert.hxx>
#include <BRepTools_History.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <cmath>
#include <gp.hxx>

#include "model/apart/kernel_process.h"
#include "model/kernel_progress.h"

namespace lostline::model {
namespace {

using Bears = Combined::Bears;

/// Calls `use` with every piece of a face that the operation's result may have.
template <class Use>
void each_piece(const TopoDS_Shape& face, BRepAlgoAPI_BooleanOperation& boolean, const Use& use) {
  if (boolean.IsDeleted(face)) return;
  const TopTools_ListOfShape& pieces = boolean.Modified(face);
  if (pieces.IsEmpty()) return use(face);
  for (const TopoDS_Shape& piece : pieces) use(piece);
}

/// What the faces of a tool, or the pieces that the operation left of them, do in its result.
std::vector<Bears> bearing(const FaceNames& before, const std::vector<const Named*>& tools,
                           BRepAlgoAPI_BooleanOperation& boolean) {
  TopTools_IndexedMapOfShape result;
  TopExp::MapShapes(boolean.Shape(), TopAbs_FACE, result);
  TopTools_MapOfShape there;
  for (const auto& named : before)
    each_piece(named.first, boolean, [&](const TopoDS_Shape& piece) { there.Add(piece); });
  std::vector<Bears> all;
  for (const Named* tool : tools) {
    Bears bears = Bears::Not;
    for (const auto& named : tool->names) {
      each_piece(named.first, boolean, [&](const TopoDS_Shape& piece) {
        if (result.Contains(piece))
          bears = std::max(bears, there.Contains(piece) ? Bears::Shared : Bears::Alone);
      });
    }
    all.push_back(bears);
  }
  return all;
}

/// What a face adds to the volume of the solid that it bounds, about the origin; its area where it
/// bounds none.
double share_of(const TopoDS_Face& face, bool solid) {
  GProp_GProps properties;
  if (!solid) {
    BRepGProp::SurfaceProperties(face, properties);
    return properties.Mass();
  }
  const BRepGProp_Vinert inside(BRepGProp_Face(face), gp::Origin(), gp::Origin());
  return inside.Mass();
}

/// Whether the size of what was made is another than that of what went into it, told by the faces
/// that only one of the two has: the others add the same to both.
bool changes(const TopTools_ListOfShape& arguments, const TopoDS_Shape& made) {
  bool solid = TopExp_Explorer(made, TopAbs_SOLID).More();
  TopTools_IndexedMapOfShape before;
  TopTools_IndexedMapOfShape after;
  for (const TopoDS_Shape& shape : arguments) {
    TopExp::MapShapes(shape, TopAbs_FACE, before);
    solid = solid || TopExp_Explorer(shape, TopAbs_SOLID).More();
  }
  TopExp::MapShapes(made, TopAbs_FACE, after);
  double change = 0;
  double size = 0;
  const auto add = [&](const TopTools_IndexedMapOfShape& faces,
                       const TopTools_IndexedMapOfShape& others, double sign) {
    for (int k = 1; k <= faces.Extent(); ++k) {
      const int same = others.FindIndex(faces(k));
      if (same != 0 && others(same).Orientation() == faces(k).Orientation()) continue;
      const double share = share_of(TopoDS::Face(faces(k)), solid);
      change += sign * share;
      size += std::abs(share);
    }
  };
  add(after, before, 1);
  add(before, after, -1);
  return std::abs(change) > 1e-11 * size;
}

/// mm3 of a solid, mm2 of a surface.
double size_of(const TopoDS_Shape& shape, bool solid) {
  GProp_GProps properties;
  if (solid)
    BRepGProp::VolumeProperties(shape, properties);
  else
    BRepGProp::SurfaceProperties(shape, properties);
  return properties.Mass();
}

}  // namespace

TopTools_ListOfShape pieces_of(const TopoDS_Shape& shape, TopAbs_ShapeEnum type) {
  TopTools_ListOfShape list;
  for (TopExp_Explorer it(shape, type); it.More(); it.Next()) list.Append(it.Current());
  return list;
}

Bnd_Box bounds_of(const TopoDS_Shape& shape) {
  Bnd_Box bounds;
  BRepBndLib::Add(shape, bounds);
  return bounds;
}

TopoDS_Shape alone(const TopoDS_Shape& shape) {
  for (const TopAbs_ShapeEnum type : {TopAbs_SOLID, TopAbs_SHELL}) {
    const TopTools_ListOfShape parts = pieces_of(shape, type);
    if (parts.Extent() == 1) return parts.First();
    if (!parts.IsEmpty()) break;
  }
  return shape;
}

Result<Combined> operate(const TopTools_ListOfShape& arguments, const FaceNames& before,
                         const std::vector<const Named*>& tools, Operation operation,
                         const Task& task) {
  BRepAlgoAPI_Fuse fuse;
  BRepAlgoAPI_Cut cut;
  BRepAlgoAPI_Common common;
  BRepAlgoAPI_BooleanOperation& boolean =
      operation == Operation::Add   ? static_cast<BRepAlgoAPI_BooleanOperation&>(fuse)
      : operation == Operation::Cut ? static_cast<BRepAlgoAPI_BooleanOperation&>(cut)
                                    : common;
  TopTools_ListOfShape solids;
  for (const Named* tool : tools) {
    for (const TopoDS_Shape& solid : pieces_of(tool->shape, TopAbs_SOLID)) solids.Append(solid);
  }
  boolean.SetArguments(arguments);
  boolean.SetTools(solids);
  boolean.SetNonDestructive(true);
  boolean.SetRunParallel(!in_copy());
  const Handle(KernelProgress) progress = new KernelProgress(task);
  boolean.Build(progress->Start());
  if (task.stopped()) return cancelled();
  if (!boolean.IsDone() || boolean.HasErrors()) {
    return Error{ErrorCode::Failed, operation == Operation::Add
                                        ? "The new material cannot be joined to the part."
                                        : "The cut cannot be made."};
  }
  FaceNames carried;
  carry(before, boolean, carried);
  for (const Named* tool : tools) carry(tool->names, boolean, carried);
  Combined result;
  result.bears = bearing(before, tools, boolean);
  result.changes = changes(arguments, boolean.Shape());
  result.made.shape = boolean.Shape();
  if (!TopExp_Explorer(boolean.Shape(), TopAbs_FACE).More()) return result;  // nothing is left
  ShapeUpgrade_UnifySameDomain unify(boolean.Shape(), true, true, false);
  unify.Build();
  const Handle(BRepTools_History) history = unify.History();
  carry(carried, *history, result.made.names);
  result.made.shape = unify.Shape();
  result.lumps = pieces_of(result.made.shape, TopAbs_SOLID).Extent();
  return result;
}

Status has_inside(const TopoDS_Shape& shape) {
  const Error none{ErrorCode::Failed,
                   "The body that this step makes has no inside: it lies in itself or crosses "
                   "itself. Change its path, its profile or its numbers."};
  // Of the cube of the same area.
  constexpr double kThin = 1e-7;
  for (const TopoDS_Shape& solid : pieces_of(shape, TopAbs_SOLID)) {
    const double area = size_of(solid, false);
    if (!(std::abs(size_of(solid, true)) > kThin * std::pow(area / 6, 1.5))) return none;
    if (!BRepCheck_Analyzer(solid).IsValid()) return none;
  }
  return Done{};
}

}  // namespace lostline::model
