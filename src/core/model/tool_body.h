#pragma once

#include <TopTools_ListOfShape.hxx>

#include "model/route.h"
#include "model/solid_impl.h"

namespace lostline::model {

/// A shape with the names of its faces, while a feature is being made.
struct Named {
  TopoDS_Shape shape;
  FaceNames names;
};

FaceNames names_of(const Solid& solid);

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

/// The material that a step adds, cuts or keeps, before it meets the part.
struct ToolBody {
  Named body;
  Operation operation = Operation::Add;
};
/// Of an extrude, revolve or hole. @errors as apply_feature;  Unsupported  for other features.
Result<ToolBody> make_tool(const Step& step, const Setting& setting, const Solid& before);

/// The part with the tool added, cut or kept in common.
Result<Solid> combine(const Solid& before, const Named& tool, Operation operation,
                      const std::string& prefix);

/// "s12": what the names of a step's faces begin with.
std::string prefix_of(const Step& step);

Result<Solid> fillet(const Step& step, const Fillet& feature, const Solid& before);
Result<Solid> chamfer(const Step& step, const Chamfer& feature, const Solid& before);
Result<Solid> pattern(const Step& step, const Pattern& feature, const Setting& setting,
                      const Solid& before);
Result<Solid> mirror(const Step& step, const Mirror& feature, const Setting& setting,
                     const Solid& before);

}  // namespace lostline::model
