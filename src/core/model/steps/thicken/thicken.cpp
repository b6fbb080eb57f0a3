#include "model/steps/thicken/thicken.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepLib.hxx>
#include <BRepOffset_MakeOffset.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <cmath>

#include "base/text.h"
#include "model/offsets.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// A layer on one side of a shell of faces: its far side and its rim are named, the near side is
/// the shell.
Result<Named> layer(const TopoDS_Shape& shell, double thickness, double tolerance,
                    const FaceNames& names, const std::string& prefix) {
  BRepOffset_MakeOffset make;
  make.Initialize(shell, thickness, tolerance, BRepOffset_Skin, true, false, GeomAbs_Intersection,
                  true, false);
  make.MakeOffsetShape();
  if (!make.IsDone() || !TopExp_Explorer(make.Shape(), TopAbs_SOLID).More())
    return Error{ErrorCode::Failed,
                 "A layer of " + format_trimmed(std::abs(thickness), 3) +
                     " mm does not fit over these faces. Try a thinner one or fewer faces."};
  TopoDS_Solid solid = TopoDS::Solid(TopExp_Explorer(make.Shape(), TopAbs_SOLID).Current());
  BRepLib::OrientClosedSolid(solid);
  Named body;
  body.shape = solid;
  const BRepAlgo_Image& images = make.OffsetFacesFromShapes();
  for (const auto& [face, list] : names) {
    if (!images.HasImage(face)) continue;
    TopTools_ListOfShape last;
    images.LastImage(face, last);
    for (const TopoDS_Shape& piece : last)
      body.names.emplace_back(piece, std::vector{prefix + ":over:" + list.front()});
  }
  return body;
}

}  // namespace

constinit const FeatureKind Thicken::kind = kind_of<Thicken>(
    "thicken", "Thicken", "lay material of one thickness over faces", "layers-2", 't');

std::string Thicken::words() const {
  return operation == Operation::Add ? "thicken" : operation == Operation::Cut ? "thin" : "common";
}

void Thicken::describe(Description& d) {
  d.faces("faces", faces);
  d.number({"thickness", NumberInfo::Unit::Length, NumberInfo::Sign::Positive}, thickness);
  d.choice({"side", {"outwards", "inwards", "both sides"}}, side);
  d.operation(operation, bodies);
}

Result<ToolBody> Thicken::tool(const Site& site) const {
  if (!std::isfinite(thickness.value) || !(thickness.value > 0))
    return Error{ErrorCode::InvalidInput, "Give a thickness greater than zero."};
  const auto picked = find_faces(faces, site.before, "thicken");
  if (!picked) return picked.error();
  const auto [shell, names] = shell_of(site.before, *picked);
  const std::string prefix = prefix_of(site.step);
  const double tolerance = 1e-6 * site.before.box().diagonal().norm();
  const double share = side == Side::Both ? 0.5 : 1.0;
  Gathered gathered;
  for (const double sign : {1.0, -1.0}) {
    if (side == (sign > 0 ? Side::Inwards : Side::Outwards)) continue;
    const auto made = layer(shell, sign * share * thickness.value, tolerance, names, prefix);
    if (!made) return made.error();
    gathered.add(made->shape, made->names);
  }
  return ToolBody{gathered.take(), operation, bodies, BodyKind::Solid};
}

std::vector<NumberReading> Thicken::read(const Site& site, const ScanEvidence& scan) const {
  const auto picked = find_faces(faces, site.before, "thicken");
  if (!picked || side == Side::Both) return {};
  const auto behind = scan.behind_face(site.before, picked->front());
  if (!behind) return {};
  const double outwards = side == Side::Outwards ? behind->shift : -behind->shift;
  if (!(outwards > behind->u_shift)) return {};  // the scan lies on the other side
  return {{"thickness", outwards, behind->u_shift, "scan over the face"}};
}

}  // namespace lostline::model
