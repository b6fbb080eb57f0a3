#include "io/step.h"

#include <APIHeaderSection_MakeHeader.hxx>
#include <IFSelect_ReturnStatus.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <STEPControl_Reader.hxx>
#include <Standard_Failure.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <cmath>
#include <mutex>

#include "io/files.h"
#include "model/solid_impl.h"

namespace lostline::io {
namespace {

// The exchange library keeps global state; one file at a time.
std::mutex& exchange_mutex() {
  static std::mutex mutex;
  return mutex;
}

void silence() { Message::DefaultMessenger()->ChangePrinters().Clear(); }

Result<model::Solid> read_locked(const std::filesystem::path& path, const std::string& shown) {
  silence();
  try {
    STEPControl_Reader reader;
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone) {
      return Error{ErrorCode::InvalidInput, shown + " is damaged or no STEP file."};
    }
    reader.TransferRoots();
    const TopoDS_Shape shape = reader.OneShape();
    if (shape.IsNull() || !TopExp_Explorer(shape, TopAbs_SOLID).More()) {
      return Error{ErrorCode::InvalidInput,
                   shown + " holds no solid. Export the part as a solid body."};
    }
    return model::make_solid(shape, {}, path.stem().string());
  } catch (const Standard_Failure&) {
    return Error{ErrorCode::InvalidInput,
                 shown + " is damaged: its contents contradict each other."};
  }
}

Status write_locked(const std::filesystem::path& path, const model::Solid& solid,
                    const std::string& part_name) {
  silence();
  const Handle(XCAFApp_Application) application = XCAFApp_Application::GetApplication();
  Handle(TDocStd_Document) document;
  application->NewDocument("MDTV-XCAF", document);
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
  const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(document->Main());
  const TDF_Label part = shapes->AddShape(solid.impl().shape, false);
  TDataStd_Name::Set(part, TCollection_ExtendedString(part_name.c_str(), true));
  const Quantity_Color ink(0x17 / 255.0, 0x32 / 255.0, 0x4D / 255.0, Quantity_TOC_sRGB);
  colours->SetColor(part, ink, XCAFDoc_ColorGen);
  for (std::size_t i = 0; i < solid.face_count(); ++i) {
    const TDF_Label face = shapes->AddSubShape(part, solid.impl().faces(static_cast<int>(i) + 1));
    if (!face.IsNull())
      TDataStd_Name::Set(face, TCollection_ExtendedString(solid.face_name(i).c_str(), true));
  }
  Interface_Static::SetCVal("write.step.schema", "AP214IS");
  Interface_Static::SetCVal("write.step.unit", "MM");
  Interface_Static::SetIVal("write.stepcaf.subshapes.name", 1);
  STEPCAFControl_Writer writer;
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  const bool done = writer.Transfer(document, STEPControl_AsIs);
  if (done) {
    APIHeaderSection_MakeHeader header(writer.ChangeWriter().Model());
    header.SetOriginatingSystem(new TCollection_HAsciiString("Lost Line"));
    header.SetName(new TCollection_HAsciiString(part_name.c_str()));
  }
  const bool written = done && writer.Write(path.c_str()) == IFSelect_RetDone;
  application->Close(document);
  if (!done) return Error{ErrorCode::Failed, "The model cannot be expressed in STEP."};
  if (!written)
    return Error{ErrorCode::Io,
                 "Cannot write " + path.string() + ": no permission or the disk is full."};
  return Done{};
}

}  // namespace

Result<model::Solid> read_step(const std::filesystem::path& path) {
  // Opening it ourselves gives the system's reason when that fails.
  Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  if (file->text().substr(0, 4096).find("ISO-10303-21") == std::string_view::npos) {
    return Error{ErrorCode::InvalidInput,
                 path.string() + " is no STEP file: it does not begin with ISO-10303-21."};
  }
  const std::scoped_lock lock(exchange_mutex());
  return read_locked(path, path.string());
}

Status write_step(const std::filesystem::path& path, const model::Solid& solid,
                  const std::string& part_name) {
  if (solid.empty())
    return Error{ErrorCode::InvalidInput,
                 "There is no model to write yet. Build at least one step."};
  const std::scoped_lock lock(exchange_mutex());
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    try {
      if (Status status = write_locked(temporary, solid, part_name); !status) {
        if (status.error().code == ErrorCode::Io)
          return Error{ErrorCode::Io, "Cannot write " + path.string() +
                                          ": no permission, no such folder, or the disk is full."};
        return status;
      }
    } catch (const Standard_Failure&) {
      return Error{ErrorCode::Failed, "The model cannot be expressed in STEP."};
    }
    const Result<model::Solid> back = read_locked(temporary, path.string());
    if (!back)
      return Error{ErrorCode::Failed,
                   "The STEP file could not be read back: " + back.error().message};
    const double wanted = solid.volume();
    if (std::abs(back->volume() - wanted) > 1e-6 * std::abs(wanted) ||
        std::abs(back->area() - solid.area()) > 1e-6 * solid.area()) {
      return Error{ErrorCode::Failed,
                   "The STEP file read back differs from the model; it was not kept."};
    }
    return Done{};
  });
}

}  // namespace lostline::io
