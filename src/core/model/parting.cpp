#include "model/parting.h"

#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepGProp.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS_Shell.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>

#include "model/bodies.h"
#include "model/kernel_progress.h"

namespace lostline::model {
namespace {

GProp_GProps properties_of(const TopoDS_Shape& shape) {
  GProp_GProps properties;
  if (shape.ShapeType() == TopAbs_SOLID)
    BRepGProp::VolumeProperties(shape, properties);
  else
    BRepGProp::SurfaceProperties(shape, properties);
  return properties;
}

/// Faces that hang together over other edges than those of the cut, each lot as a shell.
std::vector<TopoDS_Shape> shells_of(const TopoDS_Shape& parted, const TopTools_MapOfShape& cut) {
  TopTools_IndexedDataMapOfShapeListOfShape around;
  TopExp::MapShapesAndAncestors(parted, TopAbs_EDGE, TopAbs_FACE, around);
  TopTools_MapOfShape seen;
  std::vector<TopoDS_Shape> shells;
  for (TopExp_Explorer it(parted, TopAbs_FACE); it.More(); it.Next()) {
    if (!seen.Add(it.Current())) continue;
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    std::vector<TopoDS_Shape> open{it.Current()};
    while (!open.empty()) {
      const TopoDS_Shape face = open.back();
      open.pop_back();
      builder.Add(shell, face);
      for (TopExp_Explorer edge(face, TopAbs_EDGE); edge.More(); edge.Next()) {
        if (cut.Contains(edge.Current())) continue;
        for (const TopoDS_Shape& next : around.FindFromKey(edge.Current()))
          if (seen.Add(next)) open.push_back(next);
      }
    }
    shells.push_back(shell);
  }
  return shells;
}

}  // namespace

TopoDS_Shape face_past(const fit::Surface& s, const Box3& box) {
  const double size = 2 * (box.diagonal().norm() + (box.center() - s.point).norm());
  const gp_Ax3 place(pnt(s.point), dir(s.axis));
  if (fit::is_flat(s.kind))
    return BRepBuilderAPI_MakeFace(gp_Pln(place), -size, size, -size, size).Face();
  if (s.kind == fit::Kind::Cylinder)
    return BRepBuilderAPI_MakeFace(gp_Cylinder(place, s.radius), 0, kTurn, -size, size).Face();
  // Along its slant, from the apex on the side where the radius grows.
  const double apex = -s.radius / std::sin(s.half_angle);
  const double low = s.half_angle > 0 ? apex : -size;
  const double high = s.half_angle > 0 ? size : apex;
  return BRepBuilderAPI_MakeFace(gp_Cone(place, s.half_angle, s.radius), 0, kTurn, low, high)
      .Face();
}

Result<std::vector<std::size_t>> add_surface_bodies(Knife& knife, const Model& model,
                                                    const std::vector<std::string>& keys,
                                                    const std::string& prefix) {
  auto found = find_bodies(keys, model, "split along");
  if (!found) return found.error();
  for (const std::size_t body : *found) {
    if (model.body(body).kind != BodyKind::Surface)
      return Error{ErrorCode::InvalidInput,
                   std::string("A body is split along surface bodies; this is a ") +
                       kind_name(model.body(body).kind) + " body. Pick another."};
    const Named surface = copied(named_body(model, body));
    knife.faces.Append(surface.shape);
    for (const auto& [face, list] : surface.names)
      knife.names.emplace_back(face, std::vector{prefix + ":cut:" + list.front()});
  }
  return found;
}

bool beyond(const fit::Surface& surface, const TopoDS_Shape& piece) {
  const gp_Pnt c = properties_of(piece).CentreOfMass();
  return surface.distance({c.X(), c.Y(), c.Z()}) > 0;
}

Result<std::vector<Named>> pieces_of(const Named& body, BodyKind kind, const Knife& knife,
                                     const Task& task) {
  TopTools_ListOfShape arguments;
  arguments.Append(body.shape);
  BRepAlgoAPI_Splitter splitter;
  splitter.SetArguments(arguments);
  splitter.SetTools(knife.faces);
  splitter.SetNonDestructive(true);
  const Handle(KernelProgress) progress = new KernelProgress(task);
  splitter.Build(progress->Start());
  if (task.stopped()) return cancelled();
  if (!splitter.IsDone() || splitter.HasErrors())
    return Error{ErrorCode::Failed, "The body cannot be split there."};
  FaceNames names;
  carry(body.names, splitter, names);
  carry(knife.names, splitter, names);
  std::vector<Named> pieces;
  if (kind == BodyKind::Solid) {
    for (TopExp_Explorer it(splitter.Shape(), TopAbs_SOLID); it.More(); it.Next())
      pieces.push_back(copied({it.Current(), names}));
  } else {
    TopTools_MapOfShape cut;
    for (const TopoDS_Shape& edge : splitter.SectionEdges()) cut.Add(edge);
    for (const TopoDS_Shape& shell : shells_of(splitter.Shape(), cut))
      pieces.push_back(copied({shell, names}));
  }
  std::stable_sort(pieces.begin(), pieces.end(), [&](const Named& a, const Named& b) {
    if (knife.surface) {
      const bool far_a = beyond(*knife.surface, a.shape);
      const bool far_b = beyond(*knife.surface, b.shape);
      if (far_a != far_b) return far_a;
    }
    return properties_of(a.shape).Mass() > properties_of(b.shape).Mass();
  });
  return pieces;
}

}  // namespace lostline::model
