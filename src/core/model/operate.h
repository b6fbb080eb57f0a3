#pragma once

#include <Bnd_Box.hxx>
#include <TopAbs_ShapeEnum.hxx>
#include <TopTools_ListOfShape.hxx>
#include <vector>

#include "model/tool_body.h"

// A boolean operation with what is needed to judge it.

namespace lostline::model {

/// What a boolean made.
struct Combined {
  Named made;
  enum class Bears {
    Not,     ///< no face of the tool is in the result
    Shared,  ///< only where it lies in a face that was there before
    Alone,   ///< a face that is the tool's own
  };
  std::vector<Bears> bears;  ///< of each tool
  bool changes = false;      ///< it is not what went into it, but for rounding
  int lumps = 0;             ///< solids in it
};

/// Tools added to, cut from or kept in common with shapes whose faces have the names `before`;
/// faces that go on in each other become one. The shapes are not changed.
/// @errors Failed, Cancelled.
Result<Combined> operate(const TopTools_ListOfShape& arguments, const FaceNames& before,
                         const std::vector<const Named*>& tools, Operation operation,
                         const Task& task = {});

/// Whether a solid encloses space: the kernel's booleans turn for ever about one that does not, as
/// of a profile that is swept along itself.
/// @errors Failed  it does not.
Status has_inside(const TopoDS_Shape& shape);

TopTools_ListOfShape pieces_of(const TopoDS_Shape& shape, TopAbs_ShapeEnum type);
Bnd_Box bounds_of(const TopoDS_Shape& shape);
/// Without the compound round a single solid or shell.
TopoDS_Shape alone(const TopoDS_Shape& shape);

}  // namespace lostline::model
