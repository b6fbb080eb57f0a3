#include "model/sewn.h"

#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

namespace lostline::model {

TopoDS_Solid sewn_solid(const BRepBuilderAPI_Sewing& sewing) {
  TopExp_Explorer shells(sewing.SewedShape(), TopAbs_SHELL);
  if (!shells.More() || !BRep_Tool::IsClosed(shells.Current())) return {};
  TopoDS_Solid solid = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shells.Current())).Solid();
  return BRepLib::OrientClosedSolid(solid) ? solid : TopoDS_Solid();
}

TopoDS_Shell sewn_shell(const BRepBuilderAPI_Sewing& sewing) {
  TopoDS_Shell shell;
  for (TopExp_Explorer it(sewing.SewedShape(), TopAbs_SHELL); it.More(); it.Next()) {
    if (!shell.IsNull()) return {};
    shell = TopoDS::Shell(it.Current());
  }
  if (!shell.IsNull()) return shell;
  BRep_Builder builder;
  builder.MakeShell(shell);
  for (TopExp_Explorer it(sewing.SewedShape(), TopAbs_FACE); it.More(); it.Next())
    builder.Add(shell, it.Current());
  return shell;
}

FaceNames sewn_names(const BRepBuilderAPI_Sewing& sewing, const FaceNames& faces) {
  FaceNames names;
  for (const auto& [face, own] : faces)
    names.emplace_back(sewing.IsModifiedSubShape(face) ? sewing.ModifiedSubShape(face) : face, own);
  return names;
}

}  // namespace lostline::model
