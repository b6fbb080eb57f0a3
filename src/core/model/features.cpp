#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeShape.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrim_Cylinder.hxx>
#include <BRepTools_History.hxx>
#include <BRep_Builder.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Pln.hxx>

#include "base/text.h"
#include "model/profile.h"
#include "model/solid_impl.h"

namespace lostline::model {
namespace {

/// A shape with the names of its faces, while a feature is being made.
struct Named {
  TopoDS_Shape shape;
  FaceNames names;
};

gp_Vec vec(const Vec3& v) { return {v.x(), v.y(), v.z()}; }
gp_Pnt pnt(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
gp_Dir dir(const Vec3& d) { return {d.x(), d.y(), d.z()}; }

FaceNames names_of(const Solid& solid) {
  FaceNames names;
  if (solid.empty()) return names;
  const Solid::Impl& impl = solid.impl();
  for (int i = 1; i <= impl.faces.Extent(); ++i)
    names.emplace_back(impl.faces(i), impl.names[static_cast<std::size_t>(i - 1)]);
  return names;
}

/// Follows each named face through an operation's history.
template <class History>
void carry(const FaceNames& before, History& history, FaceNames& after) {
  for (const auto& [face, names] : before) {
    const TopTools_ListOfShape& modified = history.Modified(face);
    if (modified.IsEmpty()) {
      after.emplace_back(face, names);  // ignored when it is no longer there
    } else {
      for (const TopoDS_Shape& piece : modified) after.emplace_back(piece, names);
    }
  }
}

/// The span of levels a feature runs over; through means past everything that is there.
struct Levels {
  double from, to;
};
Result<Levels> levels_of(const Extent& extent, const Placement& base, const Solid& before) {
  if (extent.through) {
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
    return Levels{low - 1, high + 1};
  }
  if (!std::isfinite(extent.from.value) || !std::isfinite(extent.to.value) ||
      std::abs(extent.to.value - extent.from.value) < 1e-6) {
    return Error{ErrorCode::InvalidInput,
                 "From and to are the same level: the feature has no height."};
  }
  return Levels{extent.from.value, extent.to.value};
}

Result<Solid> combine(const Solid& before, const Named& tool, Operation operation,
                      const std::string& prefix) {
  if (before.empty()) {
    if (operation == Operation::Cut)
      return Error{ErrorCode::InvalidInput, "There is nothing to cut yet. Add material first."};
    return make_solid(tool.shape, tool.names, prefix);
  }
  TopTools_ListOfShape arguments;
  arguments.Append(before.impl().shape);
  TopTools_ListOfShape tools;
  for (TopExp_Explorer it(tool.shape, TopAbs_SOLID); it.More(); it.Next())
    tools.Append(it.Current());
  BRepAlgoAPI_Fuse fuse;
  BRepAlgoAPI_Cut cut;
  BRepAlgoAPI_BooleanOperation& boolean =
      operation == Operation::Add ? static_cast<BRepAlgoAPI_BooleanOperation&>(fuse) : cut;
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
    return Error{ErrorCode::Failed, "The cut leaves nothing of the part."};
  Solid result = make_solid(shape, unified, prefix);
  const double change = std::abs(result.volume() - before.volume());
  if (change < 1e-6 * before.volume()) {
    return Error{
        ErrorCode::Failed,
        operation == Operation::Add
            ? "The profile lies wholly inside the part and adds nothing. Change its levels."
            : "The cut does not touch the part. Change its levels or its profile."};
  }
  return result;
}

const PlacedSketch* find_sketch(const std::map<Id, PlacedSketch>& sketches, Id id) {
  const auto it = sketches.find(id);
  return it == sketches.end() ? nullptr : &it->second;
}
Error sketch_gone() {
  return {ErrorCode::NotFound,
          "Its sketch has been deleted. Pick another sketch or remove the step."};
}

Result<Solid> extrude(const Step& step, const Extrude& feature,
                      const std::map<Id, PlacedSketch>& sketches, const Solid& before) {
  const PlacedSketch* placed = find_sketch(sketches, feature.sketch);
  if (placed == nullptr) return sketch_gone();
  const Result<Levels> levels = levels_of(feature.extent, placed->base, before);
  if (!levels) return levels.error();
  Result<Profile> profile = make_profile(*placed, feature.loops, levels->from);
  if (!profile) return profile.error();
  const std::string prefix = "s" + std::to_string(step.id);
  const double height = levels->to - levels->from;
  Named tool;
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const TopoDS_Face& face : profile->faces) {
    BRepPrimAPI_MakePrism prism(face, vec(placed->base.normal * height));
    if (!prism.IsDone()) return Error{ErrorCode::Failed, "The profile cannot be extruded."};
    FaceNames names;
    for (const auto& [edge, entity] : profile->edges) {
      for (const TopoDS_Shape& side : prism.Generated(edge))
        names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
    }
    names.emplace_back(prism.FirstShape(), std::vector{prefix + ":start"});
    names.emplace_back(prism.LastShape(), std::vector{prefix + ":end"});
    TopoDS_Shape shape = prism.Shape();
    if (std::abs(feature.draft.value) > 1e-9) {
      if (std::abs(feature.draft.value) > 1.0)
        return Error{ErrorCode::InvalidInput, "A draft of more than 57 degrees is not a draft."};
      const gp_Pln neutral(
          pnt(placed->base.shifted(feature.extent.through ? 0 : placed->section_level).origin),
          dir(placed->base.normal));
      const gp_Dir pull = dir(height > 0 ? placed->base.normal : Vec3(-placed->base.normal));
      BRepOffsetAPI_DraftAngle draft(shape);
      for (const auto& [side, list] : names) {
        if (list.front().find(":side:") == std::string::npos) continue;
        draft.Add(TopoDS::Face(side), pull, feature.draft.value, neutral);
        if (!draft.AddDone())
          return Error{ErrorCode::Failed, "The draft does not work on " + list.front() +
                                              ". Try a smaller angle or none."};
      }
      draft.Build();
      if (!draft.IsDone())
        return Error{ErrorCode::Failed,
                     "The draft of " + format_trimmed(feature.draft.value * 57.29577951308232, 2) +
                         "\u00b0 closes the profile before its end. Try a smaller angle."};
      FaceNames drafted;
      carry(names, draft, drafted);
      names = std::move(drafted);
      shape = draft.Shape();
    }
    builder.Add(compound, shape);
    tool.names.insert(tool.names.end(), names.begin(), names.end());
  }
  tool.shape = compound;
  if (before.empty() && profile->faces.size() == 1)
    tool.shape = TopExp_Explorer(compound, TopAbs_SOLID).Current();
  return combine(before, tool, feature.operation, prefix);
}

Result<Solid> hole(const Step& step, const Hole& feature,
                   const std::map<Id, PlacedSketch>& sketches, const Solid& before) {
  const PlacedSketch* placed = find_sketch(sketches, feature.sketch);
  if (placed == nullptr) return sketch_gone();
  if (!(feature.diameter.value > 0))
    return Error{ErrorCode::InvalidInput, "A hole needs a diameter greater than zero."};
  const Result<Levels> levels = levels_of(feature.extent, placed->base, before);
  if (!levels) return levels.error();
  if (feature.circles.empty())
    return Error{ErrorCode::InvalidInput, "Pick at least one circle for the hole."};
  const std::string prefix = "s" + std::to_string(step.id);
  Named tool;
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  const double low = std::min(levels->from, levels->to);
  const double high = std::max(levels->from, levels->to);
  for (const sketch::Id id : feature.circles) {
    const sketch::Entity* circle = placed->sketch.find_entity(id);
    if (circle == nullptr || circle->type == sketch::EntityType::Line) {
      return Error{ErrorCode::NotFound, "Circle " + std::to_string(id) +
                                            " is no longer in the sketch. Pick the circles again."};
    }
    const Vec3 centre = placed->base.to_space(placed->sketch.position(circle->centre), low);
    BRepPrimAPI_MakeCylinder make(
        gp_Ax2(pnt(centre), dir(placed->base.normal), dir(placed->base.x)),
        feature.diameter.value / 2, high - low);
    builder.Add(compound, make.Solid());
    const std::string suffix = ":" + std::to_string(id);
    tool.names.emplace_back(make.Cylinder().LateralFace(), std::vector{prefix + ":wall" + suffix});
    tool.names.emplace_back(make.Cylinder().BottomFace(), std::vector{prefix + ":low" + suffix});
    tool.names.emplace_back(make.Cylinder().TopFace(), std::vector{prefix + ":high" + suffix});
  }
  tool.shape = compound;
  return combine(before, tool, Operation::Cut, prefix);
}

std::optional<TopoDS_Shape> filleted(const Solid& before, const std::vector<std::size_t>& edges,
                                     double radius, FaceNames* names, const std::string& prefix) {
  try {
    BRepFilletAPI_MakeFillet make(before.impl().shape);
    for (const std::size_t e : edges)
      make.Add(radius, TopoDS::Edge(before.impl().edges(static_cast<int>(e) + 1)));
    make.Build();
    if (!make.IsDone()) return std::nullopt;
    const Solid trial = make_solid(make.Shape(), {}, prefix);
    if (!trial.valid()) return std::nullopt;
    if (names != nullptr) {
      carry(names_of(before), make, *names);
      for (std::size_t k = 0; k < edges.size(); ++k) {
        for (const TopoDS_Shape& face :
             make.Generated(before.impl().edges(static_cast<int>(edges[k]) + 1))) {
          names->emplace_back(face, std::vector{prefix + ":fillet:" + std::to_string(k)});
        }
      }
    }
    return make.Shape();
  } catch (const Standard_Failure&) {
    return std::nullopt;
  }
}

Result<Solid> fillet(const Step& step, const Fillet& feature, const Solid& before) {
  if (before.empty()) return Error{ErrorCode::InvalidInput, "There is no edge to fillet yet."};
  const double radius = feature.radius.value;
  if (!(radius > 0) || !std::isfinite(radius))
    return Error{ErrorCode::InvalidInput, "A fillet needs a radius greater than zero."};
  if (feature.edges.empty())
    return Error{ErrorCode::InvalidInput, "Pick at least one edge to fillet."};
  std::vector<std::size_t> edges;
  for (const EdgeRef& ref : feature.edges) {
    const std::optional<std::size_t> edge = before.find_edge(ref);
    if (!edge)
      return Error{ErrorCode::NotFound, "The edge between " + ref.face_a + " and " + ref.face_b +
                                            " is gone. Pick another edge."};
    if (std::find(edges.begin(), edges.end(), *edge) == edges.end()) edges.push_back(*edge);
  }
  const std::string prefix = "s" + std::to_string(step.id);
  FaceNames names;
  if (const std::optional<TopoDS_Shape> shape = filleted(before, edges, radius, &names, prefix))
    return make_solid(*shape, names, prefix);
  // Say what would work: the largest radius that does, by halving.
  double low = 0;
  double high = radius;
  for (int i = 0; i < 7; ++i) {
    const double middle = 0.5 * (low + high);
    (filleted(before, edges, middle, nullptr, prefix) ? low : high) = middle;
  }
  std::string message = "R " + format_trimmed(radius, 3) + " is too large for the edge" +
                        (edges.size() > 1 ? "s" : "");
  message += low > 0 ? "; up to about " + format_trimmed(std::floor(low * 10) / 10, 1) + " works."
                     : "; no radius works there.";
  return Error{ErrorCode::Failed, message};
}

}  // namespace

const char* feature_name(const Feature& feature) {
  if (const auto* e = std::get_if<Extrude>(&feature))
    return e->operation == Operation::Add ? "extrude" : "cut";
  return std::holds_alternative<Hole>(feature) ? "hole" : "fillet";
}

Result<Solid> apply_feature(const Step& step, const std::map<Id, PlacedSketch>& sketches,
                            const Solid& before) {
  const std::scoped_lock lock(shape_mutex());
  return guarded(
      "The " + std::string(feature_name(step.feature)) + " " + step.name, [&]() -> Result<Solid> {
        Result<Solid> result = std::visit(
            [&](const auto& feature) -> Result<Solid> {
              using T = std::decay_t<decltype(feature)>;
              if constexpr (std::is_same_v<T, Extrude>)
                return extrude(step, feature, sketches, before);
              else if constexpr (std::is_same_v<T, Hole>)
                return hole(step, feature, sketches, before);
              else
                return fillet(step, feature, before);
            },
            step.feature);
        if (result && !result->valid())
          return Error{ErrorCode::Failed,
                       "The result is not a sound solid. Change the values of this step."};
        return result;
      });
}

}  // namespace lostline::model
