#include "model/steps/offset_surface/offset_surface.h"

#include <BRepLib.hxx>
#include <BRepOffset_MakeOffset.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <cmath>

#include "base/text.h"
#include "model/offsets.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind OffsetSurface::kind =
    kind_of<OffsetSurface>("offset_surface", "Offset surface",
                           "faces once more, at a distance, as a surface body", "copy-plus", 'z');

void OffsetSurface::describe(Description& d) {
  d.faces("faces", faces);
  d.number({"distance", NumberInfo::Unit::Length}, distance);
  d.number({"beyond", NumberInfo::Unit::Length}, beyond);
}

namespace {

/// A single face going on past its borders, as the kernel continues its surface.
Result<Named> extended(const Named& body, double by) {
  TopExp_Explorer faces(body.shape, TopAbs_FACE);
  const TopoDS_Face face = TopoDS::Face(faces.Current());
  faces.Next();
  if (faces.More())
    return Error{ErrorCode::InvalidInput,
                 "One face at a time goes on past its borders. Pick a single face."};
  TopoDS_Face wide;
  BRepLib::ExtendFace(face, by, true, true, true, true, wide);
  if (wide.IsNull()) return Error{ErrorCode::Failed, "This face cannot go on past its borders."};
  BRep_Builder builder;
  TopoDS_Shell shell;
  builder.MakeShell(shell);
  builder.Add(shell, wide);
  return Named{shell, {{wide, body.names.front().second}}};
}

}  // namespace

Result<ToolBody> OffsetSurface::tool(const Site& site) const {
  if (!std::isfinite(distance.value) || !std::isfinite(beyond.value) || beyond.value < 0)
    return Error{ErrorCode::InvalidInput,
                 "Give a distance that is a number, and beyond not below zero."};
  const auto picked = find_faces(faces, site.before, "offset");
  if (!picked) return picked.error();
  const std::string prefix = prefix_of(site.step);
  auto [shell, names] = shell_of(site.before, *picked);
  for (auto& [face, list] : names) list = {prefix + ":over:" + list.front()};
  const auto finished = [&](const Named& body) -> Result<ToolBody> {
    if (beyond.value == 0) return ToolBody{body, Operation::NewBody, {}, BodyKind::Surface};
    const auto wide = extended(body, beyond.value);
    if (!wide) return wide.error();
    return ToolBody{*wide, Operation::NewBody, {}, BodyKind::Surface};
  };
  if (distance.value == 0) return finished(copied({shell, names}));
  BRepOffset_MakeOffset make;
  make.Initialize(shell, distance.value, 1e-6 * site.before.box().diagonal().norm(),
                  BRepOffset_Skin, true, false, GeomAbs_Intersection, false, false);
  make.MakeOffsetShape();
  if (!make.IsDone() || !TopExp_Explorer(make.Shape(), TopAbs_FACE).More())
    return Error{ErrorCode::Failed,
                 "These faces have no surface " + format_trimmed(std::abs(distance.value), 3) +
                     " mm from them that holds together. Try a smaller distance or fewer faces."};
  Named body;
  body.shape = make.Shape();
  const BRepAlgo_Image& images = make.OffsetFacesFromShapes();
  for (const auto& [face, list] : names) {
    if (!images.HasImage(face)) continue;
    TopTools_ListOfShape last;
    images.LastImage(face, last);
    for (const TopoDS_Shape& piece : last) body.names.emplace_back(piece, list);
  }
  return finished(body);
}

std::vector<NumberReading> OffsetSurface::read(const Site& site, const ScanEvidence& scan) const {
  return read_shift(faces, site, scan, "distance");
}

}  // namespace lostline::model
