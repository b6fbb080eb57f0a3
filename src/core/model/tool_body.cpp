#include "model/tool_body.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepTools_History.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <algorithm>
#include <cmath>

namespace lostline::model {

std::string prefix_of(const Step& step) { return "s" + std::to_string(step.id); }

FaceNames names_of(const Solid& solid) {
  FaceNames names;
  if (solid.empty()) return names;
  const Solid::Impl& impl = solid.impl();
  for (int i = 1; i <= impl.faces.Extent(); ++i)
    names.emplace_back(impl.faces(i), impl.names[static_cast<std::size_t>(i - 1)]);
  return names;
}

const PlacedSketch* find_sketch(const Setting& setting, Id id) {
  const auto it = setting.sketches.find(id);
  return it == setting.sketches.end() ? nullptr : &it->second;
}

Error sketch_gone() {
  return {ErrorCode::NotFound,
          "Its sketch has been deleted. Pick another sketch or remove the step."};
}

Result<Levels> levels_of(const Extent& extent, const Placement& base, const Solid& before) {
  if (extent.reach == Reach::Through) {
    if (before.empty())
      return Error{ErrorCode::InvalidInput, "There is nothing to go through yet. Give a distance."};
    const Box3 box = before.box();
    double low = 1e300;
    double high = -1e300;
    for (int corner = 0; corner < 8; ++corner) {
      const double level = base.level_of(box.corner(static_cast<Box3::CornerType>(corner)));
      low = std::min(low, level);
      high = std::max(high, level);
    }
    const double past = 0.01 * box.diagonal().norm();  // clear of the part at any size
    return Levels{low - past, high + past};
  }
  if (extent.reach == Reach::Symmetric) {
    const double half = extent.thickness.value / 2;
    if (!std::isfinite(half) || !(half > 5e-7) || !std::isfinite(extent.middle.value))
      return Error{ErrorCode::InvalidInput, "A thickness must be greater than zero."};
    return Levels{extent.middle.value - half, extent.middle.value + half};
  }
  const double to = extent.reach == Reach::UpTo ? extent.from.value + 1 : extent.to.value;
  if (!std::isfinite(extent.from.value) || !std::isfinite(to) ||
      std::abs(to - extent.from.value) < 1e-6) {
    return Error{ErrorCode::InvalidInput,
                 "From and to are the same level: the feature has no height."};
  }
  return Levels{extent.from.value, to};
}

namespace {

/// Whether a face of the tool, or a piece that the operation left of one, is in its result.
bool bears_on(const Named& tool, BRepAlgoAPI_BooleanOperation& boolean) {
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(boolean.Shape(), TopAbs_FACE, faces);
  return std::any_of(tool.names.begin(), tool.names.end(), [&](const auto& named) {
    if (boolean.IsDeleted(named.first)) return false;
    const TopTools_ListOfShape& pieces = boolean.Modified(named.first);
    if (pieces.IsEmpty()) return faces.Contains(named.first);
    return std::any_of(pieces.begin(), pieces.end(),
                       [&](const TopoDS_Shape& piece) { return faces.Contains(piece); });
  });
}

}  // namespace

Result<Solid> combine(const Solid& before, const Named& tool, Operation operation,
                      const std::string& prefix) {
  TopTools_ListOfShape tools;
  for (TopExp_Explorer it(tool.shape, TopAbs_SOLID); it.More(); it.Next())
    tools.Append(it.Current());
  if (before.empty()) {
    if (operation != Operation::Add)
      return Error{ErrorCode::InvalidInput,
                   operation == Operation::Cut
                       ? "There is nothing to cut yet. Add material first."
                       : "There is nothing to have in common with yet. Add material first."};
    return make_solid(tools.Extent() == 1 ? tools.First() : tool.shape, tool.names, prefix);
  }
  TopTools_ListOfShape arguments;
  arguments.Append(before.impl().shape);
  BRepAlgoAPI_Fuse fuse;
  BRepAlgoAPI_Cut cut;
  BRepAlgoAPI_Common common;
  BRepAlgoAPI_BooleanOperation& boolean =
      operation == Operation::Add   ? static_cast<BRepAlgoAPI_BooleanOperation&>(fuse)
      : operation == Operation::Cut ? static_cast<BRepAlgoAPI_BooleanOperation&>(cut)
                                    : common;
  boolean.SetArguments(arguments);
  boolean.SetTools(tools);
  boolean.SetNonDestructive(true);
  boolean.SetRunParallel(true);
  boolean.Build();
  if (!boolean.IsDone() || boolean.HasErrors()) {
    return Error{ErrorCode::Failed, operation == Operation::Add
                                        ? "The new material cannot be joined to the part."
                                        : "The cut cannot be made."};
  }
  FaceNames carried;
  carry(names_of(before), boolean, carried);
  carry(tool.names, boolean, carried);
  ShapeUpgrade_UnifySameDomain unify(boolean.Shape(), true, true, false);
  unify.Build();
  FaceNames unified;
  const Handle(BRepTools_History) history = unify.History();
  carry(carried, *history, unified);
  const TopoDS_Shape shape = unify.Shape();
  if (!TopExp_Explorer(shape, TopAbs_SOLID).More())
    return Error{ErrorCode::Failed, operation == Operation::Common
                                        ? "The profile and the part have nothing in common."
                                        : "The cut leaves nothing of the part."};
  Solid result = make_solid(shape, unified, prefix);
  // It did something when a face of the tool is in the result, however small beside the part; a
  // tool that coincides with the part changes no volume beyond rounding.
  const bool bears = bears_on(tool, boolean);
  const double change = std::abs(result.volume() - before.volume());
  if (!bears || change < 1e-11 * before.volume()) {
    return Error{
        ErrorCode::Failed,
        operation == Operation::Add
            ? "The profile lies wholly inside the part and adds nothing. Change its levels."
        : operation == Operation::Cut
            ? "The cut does not touch the part. Change its levels or its profile."
            : "The part lies wholly inside the profile: nothing changes."};
  }
  return result;
}

}  // namespace lostline::model
