#pragma once

#include <BRep_Builder.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Wire.hxx>

#include "model/model_impl.h"
#include "model/profile.h"
#include "model/route.h"

// What the kinds of steps share while they make geometry.

namespace lostline::model {

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

/// The material that a step adds, cuts or keeps, before it meets the bodies there are.
struct ToolBody {
  Named body;
  Operation operation = Operation::Add;
  std::vector<std::string> onto;  ///< keys of the bodies it is meant for; empty: those it touches
  BodyKind kind = BodyKind::Solid;
};

/// The model with the tool added to, cut from or kept in common with the bodies it is meant for, or
/// beside them as a body of its own.
/// @errors NotFound  a body is gone;  InvalidInput  nothing to cut from;  Failed  the tool does not
/// bear on any of them;  Cancelled.
Result<Model> combine(const Model& before, const ToolBody& tool, const std::string& prefix,
                      const Task& task = {});
/// One body under its key after a boolean with a shape; names are carried on.
/// @errors Failed, Cancelled.
Result<Named> boolean_of(const Named& body, const Named& tool, Operation operation,
                         const Task& task = {});

/// "The fillet round": what messages about a step begin with.
std::string title_of(const Step& step);
/// "s12": what the names of a step's faces begin with.
std::string prefix_of(const Step& step);

/// Null when it is gone; `sketch_gone` says so.
const PlacedSketch* find_sketch(const Setting& setting, Id id);
/// The curve body of a key, as one wire.
/// @errors NotFound  it is gone;  InvalidInput  the body is no curve, or not one chain.
Result<TopoDS_Wire> curve_body(const Model& model, const std::string& key);
Error sketch_gone();

/// The span of levels a feature runs over; through means past everything that is there.
struct Levels {
  double from, to;
};
/// @errors InvalidInput  no height, or nothing to go through.
Result<Levels> levels_of(const Extent& extent, const Placement& base, const Model& before);

/// Collects the bodies of a profile's faces into one.
struct Gathered {
  TopoDS_Compound compound;
  Named body;
  BRep_Builder builder;
  Gathered() { builder.MakeCompound(compound); }
  void add(const TopoDS_Shape& shape, const FaceNames& names) {
    builder.Add(compound, shape);
    body.names.insert(body.names.end(), names.begin(), names.end());
  }
  Named take() {
    body.shape = compound;
    return std::move(body);
  }
};

/// Names of what a profile sweeps out: a side for each of its edges, and the two ends.
template <class Sweep>
FaceNames names_of_sweep(Sweep& sweep, const Profile& profile, const std::string& prefix,
                         bool has_ends) {
  FaceNames names;
  for (const auto& [edge, entity] : profile.edges) {
    for (const TopoDS_Shape& side : sweep.Generated(edge))
      names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
  }
  if (has_ends) {
    names.emplace_back(sweep.FirstShape(), std::vector{prefix + ":start"});
    names.emplace_back(sweep.LastShape(), std::vector{prefix + ":end"});
  }
  return names;
}

}  // namespace lostline::model
