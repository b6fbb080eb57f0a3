#include "io/curve_models.h"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepGProp.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <IGESControl_Controller.hxx>
#include <IGESControl_Reader.hxx>
#include <IGESControl_Writer.hxx>
#include <Interface_Static.hxx>
#include <STEPControl_Reader.hxx>
#include <STEPControl_Writer.hxx>
#include <Standard_Failure.hxx>
#include <StepRepr_RepresentationItem.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TopoDS_Compound.hxx>
#include <TransferBRep.hxx>
#include <TransferBRep_ShapeMapper.hxx>
#include <Transfer_FinderProcess.hxx>
#include <XSControl_TransferWriter.hxx>
#include <XSControl_WorkSession.hxx>
#include <cmath>

#include "io/exchange.h"
#include "io/files.h"
#include "model/profile.h"

namespace lostline::io {
namespace {

using Edges = std::vector<std::pair<TopoDS_Shape, sketch::Id>>;

double length_of(const TopoDS_Shape& shape) {
  GProp_GProps properties;
  BRepGProp::LinearProperties(shape, properties);
  return properties.Mass();
}

Status kept_whole(const TopoDS_Shape& back, const Edges& edges, const char* format) {
  double length = 0;
  for (const auto& [edge, id] : edges) length += length_of(edge);
  if (back.IsNull() || std::abs(length_of(back) - length) > 1e-5 * length)
    return Error{ErrorCode::Failed, std::string("The ") + format +
                                        " file read back has other curves than the sketch; it was "
                                        "not kept."};
  return Done{};
}

Status step_file(const std::filesystem::path& path, const Edges& edges,
                 const sketch::Sketch& sketch) {
  STEPControl_Writer writer;
  Interface_Static::SetCVal("write.step.unit", "MM");
  for (const auto& [edge, id] : edges) {
    if (writer.Transfer(edge, STEPControl_GeometricCurveSet) != IFSelect_RetDone)
      return Error{ErrorCode::Failed,
                   sketch::name_of(sketch, id) + " cannot be expressed in STEP."};
    const Handle(Transfer_FinderProcess) finder = writer.WS()->TransferWriter()->FinderProcess();
    const Handle(StepRepr_RepresentationItem) item = Handle(StepRepr_RepresentationItem)::DownCast(
        finder->FindTransient(TransferBRep::ShapeMapper(finder, edge)));
    if (!item.IsNull())
      item->SetName(new TCollection_HAsciiString(sketch::name_of(sketch, id).c_str()));
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

Status iges_file(const std::filesystem::path& path, const Edges& edges,
                 const sketch::Sketch& sketch) {
  IGESControl_Controller::Init();
  IGESControl_Writer writer("MM", 0);
  for (const auto& [edge, id] : edges) {
    if (!writer.AddShape(edge))
      return Error{ErrorCode::Failed,
                   sketch::name_of(sketch, id) + " cannot be expressed in IGES."};
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

Status write_edges(const std::filesystem::path& path, const sketch::Sketch& sketch,
                   const section::Section& section,
                   Status (*write)(const std::filesystem::path&, const Edges&,
                                   const sketch::Sketch&)) {
  if (sketch.entities.empty())
    return Error{ErrorCode::InvalidInput,
                 "There are no curves to write yet. Resolve the section first."};
  const auto edges = model::sketch_edges(sketch, section.plane);
  if (!edges) return edges.error();
  const std::scoped_lock lock(exchange_mutex());
  silence_exchange();
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    try {
      return write(temporary, *edges, sketch);
    } catch (const Standard_Failure&) {
      return Error{ErrorCode::Failed, "The curves cannot be expressed in this format."};
    }
  });
}

}  // namespace

Status write_curves_step(const std::filesystem::path& path, const sketch::Sketch& sketch,
                         const section::Section& section) {
  return write_edges(path, sketch, section, step_file);
}

Status write_curves_iges(const std::filesystem::path& path, const sketch::Sketch& sketch,
                         const section::Section& section) {
  return write_edges(path, sketch, section, iges_file);
}

}  // namespace lostline::io
