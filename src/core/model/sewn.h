#pragma once

#include <BRepBuilderAPI_Sewing.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include "model/model_impl.h"

namespace lostline::model {

/// Faces that were sewn and close, as a solid with its inside within; null where they do not close.
/// Whether it is sound is the caller's to check.
TopoDS_Solid sewn_solid(const BRepBuilderAPI_Sewing& sewing);

/// Faces that were sewn, or one alone, as an open shell; null where they fall into several.
TopoDS_Shell sewn_shell(const BRepBuilderAPI_Sewing& sewing);

/// Named faces as sewing has left them.
FaceNames sewn_names(const BRepBuilderAPI_Sewing& sewing, const FaceNames& faces);

}  // namespace lostline::model
