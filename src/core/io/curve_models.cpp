#include "io/curve_models.h"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRep_Builder.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <IGESControl_Controller.hxx>
#include <IGESControl_Reader.hxx>
#include <IGESControl_Writer.hxx>
#include <Interface_Static.hxx>
#include <STEPControl_Reader.hxx>
#include <STEPControl_Writer.hxx>
#include <Standard_Failure.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <cmath>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>
#include <gp_Pln.hxx>

#include "io/exchange.h"
#include "io/files.h"
#include "io/formats.h"
#include "model/model_impl.h"
#include "model/profile.h"
#include "sketch/copies.h"
#include "sketch/curve_kind.h"

namespace lostline::io {
namespace {

/// Edges with their names.
using Edges = std::vector<std::pair<TopoDS_Shape, std::string>>;

/// mm, of all edges, by adaptive integration: the kernel's plain one is a thousandth off for a
/// whole ellipse.
double length_of(const TopoDS_Shape& shape) {
  constexpr double kWithin = 1e-9;  // of the length of each
  double sum = 0;
  for (TopExp_Explorer edge(shape, TopAbs_EDGE); edge.More(); edge.Next()) {
    const BRepAdaptor_Curve curve(TopoDS::Edge(edge.Current()));
    sum += GCPnts_AbscissaPoint::Length(curve, kWithin);
  }
  return sum;
}

Status kept_whole(const TopoDS_Shape& back, const Edges& edges, const char* format) {
  double length = 0;
  for (const auto& [edge, name] : edges) length += length_of(edge);
  if (back.IsNull() || std::abs(length_of(back) - length) > 1e-5 * length)
    return Error{ErrorCode::Failed, std::string("The ") + format +
                                        " file read back has other curves than the sketch; it was "
                                        "not kept."};
  return Done{};
}

Status step_file(const std::filesystem::path& path, const Edges& edges) {
  STEPControl_Writer writer;
  Interface_Static::SetCVal("write.step.unit", "MM");
  for (const auto& [edge, name] : edges) {
    const auto as = edge.ShapeType() == TopAbs_FACE ? STEPControl_ShellBasedSurfaceModel
                                                    : STEPControl_GeometricCurveSet;
    // One product each, which bears the name.
    Interface_Static::SetCVal("write.step.product.name", name.c_str());
    if (writer.Transfer(edge, as) != IFSelect_RetDone)
      return Error{ErrorCode::Failed, name + " cannot be expressed in STEP."};
  }
  APIHeaderSection_MakeHeader header(writer.Model());
  header.SetOriginatingSystem(new TCollection_HAsciiString("Lost Line"));
  if (writer.Write(path.c_str()) != IFSelect_RetDone)
    return Error{ErrorCode::Io,
                 "Cannot write " + path.string() + ": no permission or the disk is full."};
  STEPControl_Reader reader;
  if (reader.ReadFile(path.c_str()) != IFSelect_RetDone) return kept_whole({}, edges, "STEP");
  reader.TransferRoots();
  return kept_whole(reader.OneShape(), edges, "STEP");
}

/// A whole ellipse as its two halves: as one it comes back as a spline.
std::vector<TopoDS_Shape> halves(const TopoDS_Shape& edge) {
  const BRepAdaptor_Curve curve(TopoDS::Edge(edge));
  const double from = curve.FirstParameter();
  const double to = curve.LastParameter();
  if (curve.GetType() != GeomAbs_Ellipse || to - from < 2 * M_PI - 1e-9) return {edge};
  const double middle = 0.5 * (from + to);
  return {BRepBuilderAPI_MakeEdge(curve.Ellipse(), from, middle).Shape(),
          BRepBuilderAPI_MakeEdge(curve.Ellipse(), middle, to).Shape()};
}

/// What IGES takes one by one: edges, faces and points.
std::vector<TopoDS_Shape> parts_of(const TopoDS_Shape& shape) {
  if (shape.ShapeType() == TopAbs_EDGE) return halves(shape);
  if (shape.ShapeType() != TopAbs_COMPOUND) return {shape};
  std::vector<TopoDS_Shape> parts;
  for (TopExp_Explorer edge(shape, TopAbs_EDGE); edge.More(); edge.Next()) {
    for (const TopoDS_Shape& half : halves(edge.Current())) parts.push_back(half);
  }
  return parts;
}

Status iges_file(const std::filesystem::path& path, const Edges& edges) {
  IGESControl_Controller::Init();
  IGESControl_Writer writer("MM", 0);
  for (const auto& [edge, name] : edges) {
    for (const TopoDS_Shape& part : parts_of(edge)) {
      if (writer.AddShape(part)) continue;
      return Error{ErrorCode::Failed, name + " cannot be expressed in IGES."};
    }
  }
  writer.ComputeModel();
  if (!writer.Write(path.c_str()))
    return Error{ErrorCode::Io,
                 "Cannot write " + path.string() + ": no permission or the disk is full."};
  IGESControl_Reader reader;
  if (reader.ReadFile(path.c_str()) != IFSelect_RetDone) return kept_whole({}, edges, "IGES");
  reader.TransferRoots();
  return kept_whole(reader.OneShape(), edges, "IGES");
}

using Writer = Status (*)(const std::filesystem::path&, const Edges&);

Status write_edges(const std::filesystem::path& path, const Edges& edges, Writer write) {
  const std::scoped_lock lock(exchange_mutex());
  silence_exchange();
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    try {
      return write(temporary, edges);
    } catch (const Standard_Failure&) {
      return Error{ErrorCode::Failed, "The curves cannot be expressed in this format."};
    }
  });
}

Status write_sketch(const std::filesystem::path& path, const sketch::Sketch& sketch,
                    const section::Section& section, Writer write) {
  if (sketch.entities.empty())
    return Error{ErrorCode::InvalidInput,
                 "There are no curves to write yet. Resolve the section first."};
  const auto made = model::sketch_edges(sketch, section.plane);
  if (!made) return made.error();
  Edges edges;
  for (const auto& [edge, id] : *made) edges.emplace_back(edge, sketch::name_of(sketch, id));
  return write_edges(path, edges, write);
}

using model::dir;
using model::pnt;

TopoDS_Shape edge_of(const SpaceCurve& curve) {
  if (!curve.centre) return BRepBuilderAPI_MakeEdge(pnt(curve.a), pnt(curve.b)).Shape();
  const Vec3 arm = curve.a - *curve.centre;
  const gp_Circ circle(
      gp_Ax2(pnt(*curve.centre), dir(curve.axis.normalized()), dir(arm.normalized())), arm.norm());
  const Vec3 to = curve.b - *curve.centre;
  double turn = std::atan2(curve.axis.normalized().dot(arm.cross(to)), arm.dot(to));
  if (turn <= 0) turn += 2 * M_PI;
  return BRepBuilderAPI_MakeEdge(circle, 0, turn).Shape();
}

}  // namespace

Status write_curves_step(const std::filesystem::path& path, const sketch::Sketch& sketch,
                         const section::Section& section) {
  return write_sketch(path, sketch, section, step_file);
}

Status write_curves_iges(const std::filesystem::path& path, const sketch::Sketch& sketch,
                         const section::Section& section) {
  return write_sketch(path, sketch, section, iges_file);
}

Status write_space_curves(const std::filesystem::path& path,
                          const std::vector<SpaceCurve>& curves) {
  const std::string extension = extension_of(path);
  const bool step = extension == ".step" || extension == ".stp";
  if (!step && extension != ".igs" && extension != ".iges")
    return Error{ErrorCode::Unsupported,
                 path.string() + ": curves in space are written as .step or .igs."};
  if (curves.empty()) return Error{ErrorCode::InvalidInput, "There are no curves to write."};
  Edges edges;
  try {
    for (const SpaceCurve& curve : curves) edges.emplace_back(edge_of(curve), curve.name);
  } catch (const Standard_Failure&) {
    return Error{ErrorCode::Degenerate, "A curve has no length."};
  }
  return write_edges(path, edges, step ? step_file : iges_file);
}

namespace {

/// A point that a geometric curve set can hold.
std::vector<TopoDS_Shape> cross_at(const Vec3& at, double size) {
  std::vector<TopoDS_Shape> lines;
  for (const Vec3& way : {Vec3(Vec3::UnitX()), Vec3(Vec3::UnitY()), Vec3(Vec3::UnitZ())})
    lines.push_back(BRepBuilderAPI_MakeEdge(pnt(at - size * way), pnt(at + size * way)).Shape());
  return lines;
}

TopoDS_Shape together(const std::vector<TopoDS_Shape>& shapes) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const TopoDS_Shape& shape : shapes) builder.Add(compound, shape);
  return compound;
}

TopoDS_Shape shape_of(const CurveSet::Mark& mark, bool step) {
  constexpr double kCross = 0.05;  // of its size
  switch (mark.kind) {
    case CurveSet::Mark::Kind::Plane:
      return BRepBuilderAPI_MakeFace(gp_Pln(pnt(mark.at), dir(mark.direction)), -mark.size,
                                     mark.size, -mark.size, mark.size)
          .Shape();
    case CurveSet::Mark::Kind::Axis:
      return BRepBuilderAPI_MakeEdge(pnt(mark.at - mark.size * mark.direction),
                                     pnt(mark.at + mark.size * mark.direction))
          .Shape();
    default:
      return step ? together(cross_at(mark.at, kCross * mark.size))
                  : BRepBuilderAPI_MakeVertex(pnt(mark.at)).Shape();
  }
}

Status write_in_space(const std::filesystem::path& path, const CurveSet& set, bool step) {
  Edges edges;
  for (const CurveSet::Drawing& drawing : set.drawings) {
    const auto made = model::sketch_edges(drawing.sketch, drawing.plane);
    if (!made) return made.error();
    std::vector<TopoDS_Shape> own;
    for (const auto& [edge, id] : *made) own.push_back(edge);
    edges.emplace_back(together(own), drawing.name);
  }
  for (const auto& [name, curve] : set.curves) {
    std::vector<TopoDS_Shape> own;
    for (TopExp_Explorer it(curve.impl().shape, TopAbs_EDGE); it.More(); it.Next())
      own.push_back(it.Current());
    edges.emplace_back(together(own), name);
  }
  for (const CurveSet::Mark& mark : set.reference) {
    edges.emplace_back(shape_of(mark, step), mark.name);
  }
  if (edges.empty()) return Error{ErrorCode::InvalidInput, "There are no curves to write."};
  return write_edges(path, edges, step ? step_file : iges_file);
}

Status write_flat(const std::filesystem::path& path, const CurveSet& set) {
  CurveSet::Drawing all;
  double right = 0;
  for (const CurveSet::Drawing& drawing : set.drawings) {
    Eigen::AlignedBox2d box;
    for (const sketch::Point& p : drawing.sketch.points) box.extend(p.at);
    for (const sketch::Entity& e : drawing.sketch.entities) {
      if (const auto curve = sketch::placed(drawing.sketch, e)) {
        for (const Vec2& p : curve->chords()) box.extend(p);
      }
    }
    if (box.isEmpty()) continue;
    constexpr double kApart = 0.2;  // of the width of the one before
    const Vec2 shift =
        all.sketch.entities.empty() ? Vec2(Vec2::Zero()) : Vec2(right - box.min().x(), 0);
    sketch::Sketch moved = drawing.sketch;
    for (sketch::Point& p : moved.points) p.at += shift;
    all.sketch = sketch::paste(all.sketch, moved);
    for (section::Polyline line : drawing.section.polylines) {
      for (Vec2& p : line.points) p += shift;
      all.section.polylines.push_back(std::move(line));
    }
    right = box.max().x() + shift.x() + kApart * box.sizes().x();
  }
  if (all.sketch.entities.empty())
    return Error{ErrorCode::InvalidInput,
                 "There is no sketch to write flat. Curves in space go into .step and .igs."};
  return write_curves(path, all.sketch, all.section);
}

}  // namespace

Status write_curve_set(const std::filesystem::path& path, const CurveSet& set) {
  const Format* format = format_of(path);
  if (format == nullptr || format->write_curves == nullptr)
    return Error{ErrorCode::Unsupported, path.string() + ": curves are written as " +
                                             format_extensions({writes_curves}) + "."};
  if (!format->space_curves) return write_flat(path, set);
  const bool step = extension_of(path).starts_with(".st");
  try {
    return write_in_space(path, set, step);
  } catch (const Standard_Failure&) {
    return Error{ErrorCode::Degenerate, "A curve has no length."};
  }
}

}  // namespace lostline::io
