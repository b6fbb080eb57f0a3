#include "model/sewn.h"

#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepLib.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>

namespace lostline::model {

TopoDS_Solid sewn_solid(const BRepBuilderAPI_Sewing& sewing) {
  TopExp_Explorer shells(sewing.SewedShape(), TopAbs_SHELL);
  if (!shells.More() || !BRep_Tool::IsClosed(shells.Current())) return {};
  TopoDS_Solid solid = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shells.Current())).Solid();
  return BRepLib::OrientClosedSolid(solid) ? solid : TopoDS_Solid();
}

FaceNames sewn_names(const BRepBuilderAPI_Sewing& sewing, const FaceNames& faces) {
  FaceNames names;
  for (const auto& [face, own] : faces)
    names.emplace_back(sewing.IsModifiedSubShape(face) ? sewing.ModifiedSubShape(face) : face, own);
  return names;
}

}  // namespace lostline::model
