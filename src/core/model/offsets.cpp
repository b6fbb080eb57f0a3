#include "model/offsets.h"

#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepLib.hxx>
#include <BRepOffset_MakeOffset.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "fit/surface_kind.h"
#include "model/apart/kernel_process.h"
#include "model/face_refs.h"
#include "model/faces.h"

namespace lostline::model {
namespace {

/// The kernel gives a shell where a solid is meant.
Result<TopoDS_Shape> closed(const TopoDS_Shape& shape) {
  TopoDS_Shape solid = shape;
  if (!TopExp_Explorer(shape, TopAbs_SOLID).More()) {
    TopExp_Explorer shell(shape, TopAbs_SHELL);
    if (!shell.More()) return Error{ErrorCode::Failed, "The moved faces do not meet again."};
    BRepBuilderAPI_MakeSolid make(TopoDS::Shell(shell.Current()));
    if (!make.IsDone()) return Error{ErrorCode::Failed, "The moved faces do not meet again."};
    solid = make.Solid();
  }
  if (solid.ShapeType() == TopAbs_SOLID) {
    TopoDS_Solid oriented = TopoDS::Solid(solid);
    BRepLib::OrientClosedSolid(oriented);
    solid = oriented;
  }
  return solid;
}

}  // namespace

Result<Named> move_faces(const Model& before, const std::map<std::size_t, double>& distances,
                         const std::function<std::string(std::size_t face)>& made) {
  const Model::Impl& impl = before.impl();
  for (const auto& [face, distance] : distances) {
    const auto shape = surface_of_face(before, face);
    if (!shape || fit::is_flat(shape->kind)) continue;
    // A cone goes on beyond its apex.
    const fit::SizeInfo* size = fit::about(shape->kind).size();
    if (size != nullptr && size->unit != fit::SizeInfo::Unit::Angle &&
        !(fit::at_distance(*shape, distance).*size->value > 0))
      return Error{ErrorCode::Failed, "A round face would be moved past its own axis."};
  }
  BRepOffset_MakeOffset offset;
  const double tolerance = 1e-6 * before.box().diagonal().norm();  // far below what is measured
  offset.Initialize(impl.shape, 0.0, tolerance, BRepOffset_Skin, false, false, GeomAbs_Intersection,
                    false, false);
  for (const auto& [face, distance] : distances)
    offset.SetOffsetOnFace(TopoDS::Face(impl.faces(static_cast<int>(face) + 1)), distance);
  offset.MakeOffsetShape();
  if (!offset.IsDone()) return Error{ErrorCode::Failed, "The moved faces do not meet again."};
  const auto shape = closed(offset.Shape());
  if (!shape) return shape.error();
  Named moved;
  moved.shape = *shape;
  const BRepAlgo_Image& images = offset.OffsetFacesFromShapes();
  for (std::size_t i = 0; i < before.face_count(); ++i) {
    const TopoDS_Shape& face = impl.faces(static_cast<int>(i) + 1);
    const std::vector<std::string> names =
        made && distances.contains(i) ? std::vector{made(i)} : impl.names[i];
    if (!images.HasImage(face)) {
      moved.names.emplace_back(face, names);
      continue;
    }
    TopTools_ListOfShape last;
    images.LastImage(face, last);
    for (const TopoDS_Shape& piece : last) moved.names.emplace_back(piece, names);
  }
  return moved;
}

Result<std::vector<std::size_t>> find_faces(const std::vector<std::string>& names,
                                            const Model& before, const char* what) {
  if (before.empty())
    return Error{ErrorCode::InvalidInput, std::string("There is no face to ") + what + " yet."};
  if (names.empty())
    return Error{ErrorCode::InvalidInput, std::string("Pick at least one face to ") + what + "."};
  std::vector<std::size_t> faces;
  for (const std::string& name : names) {
    const auto meant = find_faces(before, name);
    if (!meant) return meant.error();
    for (const std::size_t face : *meant)
      if (std::find(faces.begin(), faces.end(), face) == faces.end()) faces.push_back(face);
  }
  return faces;
}

std::string in_millimetres(double size) {
  const double step = std::abs(size) < 1 ? 100 : 10;
  return format_trimmed(std::trunc(size * step) / step, 2) + " mm";
}

Result<Model> largest_or_explain(double size, const char* what,
                                 const std::function<std::string(double size)>& says,
                                 const std::function<std::optional<Model>(double size)>& attempt) {
  const auto guarded_attempt = [&](double s) -> std::optional<Model> {
    try {
      auto made = attempt(s);
      if (made && made->valid()) return made;
    } catch (const Standard_Failure&) {
    }
    return std::nullopt;
  };
  const auto would_work = [&](double s) {
    return works_out([&] { return guarded_attempt(s).has_value(); }, Task());
  };
  if (!with_care() || would_work(size)) {
    if (auto solid = guarded_attempt(size)) return *std::move(solid);
  }
  double low = 0;
  double high = size;
  for (int i = 0; i < 7; ++i) {
    const double middle = 0.5 * (low + high);
    (would_work(middle) ? low : high) = middle;
  }
  return Error{ErrorCode::Failed,
               std::string(what) + " of " + says(size) + " is more than these faces allow; " +
                   (low != 0 ? "up to about " + says(low) + " works." : "no size works there.")};
}

Named shell_of(const Model& before, const std::vector<std::size_t>& picked) {
  Named made;
  TopoDS_Shell shell;
  BRep_Builder builder;
  builder.MakeShell(shell);
  for (const std::size_t face : picked) {
    const TopoDS_Shape& shape = before.impl().faces(static_cast<int>(face) + 1);
    builder.Add(shell, shape);
    made.names.emplace_back(shape, std::vector{before.face_name(face)});
  }
  made.shape = shell;
  return made;
}

std::vector<NumberReading> read_shift(const std::vector<std::string>& faces, const Site& site,
                                      const ScanEvidence& scan, const char* field) {
  const auto picked = find_faces(faces, site.before, "offset");
  if (!picked) return {};
  const auto behind = scan.behind_face(site.before, picked->front());
  if (!behind) return {};
  return {{field, behind->shift, behind->u_shift, "scan behind the face"}};
}

}  // namespace lostline::model
