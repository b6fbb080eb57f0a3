#include "io/curve_models.h"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRep_Builder.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <IGESControl_Controller.hxx>
#include <IGESControl_Reader.hxx>
#include <IGESControl_Writer.hxx>
#include <Interface_Static.hxx>
#include <STEPControl_Reader.hxx>
#include <STEPControl_Writer.hxx>
#include <Standard_Failure.hxx>
#include <StepRepr_RepresentationItem.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TransferBRep.hxx>
#include <TransferBRep_ShapeMapper.hxx>
#include <Transfer_FinderProcess.hxx>
#include <XSControl_TransferWriter.hxx>
#include <XSControl_WorkSession.hxx>
#include <cmath>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>

#include "io/exchange.h"
#include "io/files.h"
#include "io/formats.h"
#include "model/profile.h"

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
    if (writer.Transfer(edge, STEPControl_GeometricCurveSet) != IFSelect_RetDone)
      return Error{ErrorCode::Failed, name + " cannot be expressed in STEP."};
    const Handle(Transfer_FinderProcess) finder = writer.WS()->TransferWriter()->FinderProcess();
    const Handle(StepRepr_RepresentationItem) item = Handle(StepRepr_RepresentationItem)::DownCast(
        finder->FindTransient(TransferBRep::ShapeMapper(finder, edge)));
    if (!item.IsNull()) item->SetName(new TCollection_HAsciiString(name.c_str()));
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

Status iges_file(const std::filesystem::path& path, const Edges& edges) {
  IGESControl_Controller::Init();
  IGESControl_Writer writer("MM", 0);
  for (const auto& [edge, name] : edges) {
    for (const TopoDS_Shape& part : halves(edge)) {
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

gp_Pnt pnt(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
gp_Dir dir(const Vec3& d) { return {d.x(), d.y(), d.z()}; }

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

}  // namespace lostline::io
