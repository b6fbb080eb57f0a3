#include "io/step.h"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <IFSelect_ReturnStatus.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <cmath>
#include <fstream>
#include <mutex>
#include <sstream>

#include "base/hash.h"
#include "io/exchange.h"
#include "io/exchange_apart.h"
#include "io/files.h"
#include "io/step_text.h"
#include "model/apart/kernel_process.h"
#include "model/model_impl.h"

namespace lostline::io {

std::mutex& exchange_mutex() {
  static std::mutex mutex;
  return mutex;
}

void silence_exchange() { Message::DefaultMessenger()->ChangePrinters().Clear(); }

namespace {

Quantity_Color kernel_colour(const model::Colour& c) {
  return {c[0] / 255.0, c[1] / 255.0, c[2] / 255.0, Quantity_TOC_sRGB};
}
model::Colour colour_of(const Quantity_Color& c) {
  Standard_Real r = 0;
  Standard_Real g = 0;
  Standard_Real b = 0;
  c.Values(r, g, b, Quantity_TOC_sRGB);
  const auto byte = [](double x) { return static_cast<std::uint8_t>(std::lround(255 * x)); };
  return {byte(r), byte(g), byte(b)};
}

/// Collects the bodies of an exchange document: its products where they stand, with what the file
/// calls them.
class Bodies {
 public:
  explicit Bodies(const Handle(TDocStd_Document) & document)
      : shapes_(XCAFDoc_DocumentTool::ShapeTool(document->Main())),
        colours_(XCAFDoc_DocumentTool::ColorTool(document->Main())) {}

  std::vector<model::BodyShape> take(const std::string& key) {
    TDF_LabelSequence roots;
    shapes_->GetFreeShapes(roots);
    for (Standard_Integer i = 1; i <= roots.Length(); ++i) add(roots.Value(i), {}, {}, {});
    for (model::BodyShape& b : found_) b.body.key = key;
    return std::move(found_);
  }

 private:
  /// A product, or an occurrence of one in an assembly.
  void add(const TDF_Label& label, const TopLoc_Location& place, std::string name,
           std::optional<model::Colour> colour) {
    if (auto own = name_of(label); !own.empty()) name = own;
    if (auto own = colour_of_label(label)) colour = own;
    const TopLoc_Location here = place * XCAFDoc_ShapeTool::GetLocation(label);
    TDF_Label product = label;
    if (XCAFDoc_ShapeTool::GetReferredShape(label, product))
      return add(product, here, name, colour);
    if (XCAFDoc_ShapeTool::IsAssembly(label)) {
      TDF_LabelSequence parts;
      XCAFDoc_ShapeTool::GetComponents(label, parts);
      for (Standard_Integer i = 1; i <= parts.Length(); ++i)
        add(parts.Value(i), here, name, colour);
      return;
    }
    const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label).Moved(here);
    const std::size_t before = found_.size();
    const auto each = [&](TopAbs_ShapeEnum type, TopAbs_ShapeEnum within, model::BodyKind kind) {
      for (TopExp_Explorer it(shape, type, within); it.More(); it.Next()) {
        model::Body body;
        body.kind = kind;
        body.name = name;
        body.colour = colour;
        // A copy of its own: occurrences of a product share its shape.
        found_.push_back({std::move(body), BRepBuilderAPI_Copy(it.Current(), true, false).Shape()});
      }
    };
    each(TopAbs_SOLID, TopAbs_SHAPE, model::BodyKind::Solid);
    each(TopAbs_SHELL, TopAbs_SOLID, model::BodyKind::Surface);
    each(TopAbs_FACE, TopAbs_SHELL, model::BodyKind::Surface);
    each(TopAbs_WIRE, TopAbs_FACE, model::BodyKind::Curve);
    each(TopAbs_EDGE, TopAbs_WIRE, model::BodyKind::Curve);
    // Several of one product are counted.
    for (std::size_t i = before; i < found_.size(); ++i) {
      if (found_.size() - before > 1 && !name.empty())
        found_[i].body.name = name + " " + std::to_string(i - before + 1);
    }
  }
  static std::string name_of(const TDF_Label& label) {
    Handle(TDataStd_Name) name;
    if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
    const TCollection_ExtendedString& text = name->Get();
    std::string result(static_cast<std::size_t>(text.LengthOfCString()), '\0');
    char* bytes = result.data();
    text.ToUTF8CString(bytes);
    return result;
  }
  [[nodiscard]] std::optional<model::Colour> colour_of_label(const TDF_Label& label) const {
    Quantity_Color colour;
    for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen, XCAFDoc_ColorCurv}) {
      if (colours_->GetColor(label, type, colour)) return colour_of(colour);
    }
    return std::nullopt;
  }
  Handle(XCAFDoc_ShapeTool) shapes_;
  Handle(XCAFDoc_ColorTool) colours_;
  std::vector<model::BodyShape> found_;
};

Handle(TDocStd_Document) new_document() {
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("MDTV-XCAF", document);
  return document;
}

/// Closes an exchange document when it goes.
struct OpenDocument {
  Handle(TDocStd_Document) document = new_document();
  OpenDocument() = default;
  OpenDocument(const OpenDocument&) = delete;
  OpenDocument& operator=(const OpenDocument&) = delete;
  ~OpenDocument() { XCAFApp_Application::GetApplication()->Close(document); }
};

Result<model::Model> read_locked(std::istream& stream, const std::string& shown,
                                 const std::string& key) {
  silence_exchange();
  try {
    OpenDocument open;
    STEPCAFControl_Reader reader;
    reader.SetNameMode(true);
    reader.SetColorMode(true);
    if (reader.ChangeReader().ReadStream(key.c_str(), stream) != IFSelect_RetDone ||
        !reader.Transfer(open.document))
      return Error{ErrorCode::InvalidInput, shown + " is damaged or no STEP file."};
    std::vector<model::BodyShape> bodies = Bodies(open.document).take(key);
    if (bodies.empty())
      return Error{ErrorCode::InvalidInput,
                   shown + " holds no solid, surface or curve. Export the part as a solid body."};
    return model::make_model(std::move(bodies), {}, key);
  } catch (const Standard_Failure&) {
    return Error{ErrorCode::InvalidInput,
                 shown + " is damaged: its contents contradict each other."};
  }
}

Status write_locked(const std::filesystem::path& path, const model::Model& model,
                    const std::string& part_name) {
  silence_exchange();
  const OpenDocument open;
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(open.document->Main());
  const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(open.document->Main());
  const auto text = [](const std::string& s) {
    return TCollection_ExtendedString(s.c_str(), true);
  };
  constexpr model::Colour kInk{0x17, 0x32, 0x4D};
  std::vector<TDF_Label> products;
  for (std::size_t b = 0; b < model.body_count(); ++b) {
    const model::Body& body = model.body(b);
    const TDF_Label product = shapes->AddShape(model.impl().bodies[b].shape, false);
    const std::string name = !body.name.empty()       ? body.name
                             : model.body_count() > 1 ? part_name + " " + std::to_string(b + 1)
                                                      : part_name;
    TDataStd_Name::Set(product, text(name));
    colours->SetColor(product, kernel_colour(body.colour.value_or(kInk)), XCAFDoc_ColorGen);
    products.push_back(product);
  }
  for (std::size_t i = 0; i < model.face_count(); ++i) {
    const TDF_Label face = shapes->AddSubShape(products[model.body_of_face(i)],
                                               model.impl().faces(static_cast<int>(i) + 1));
    if (!face.IsNull()) TDataStd_Name::Set(face, text(model.face_name(i)));
  }
  Interface_Static::SetCVal("write.step.schema", "AP214IS");
  Interface_Static::SetCVal("write.step.unit", "MM");
  Interface_Static::SetIVal("write.stepcaf.subshapes.name", 1);
  STEPCAFControl_Writer writer;
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  if (!writer.Transfer(open.document, STEPControl_AsIs))
    return Error{ErrorCode::Failed, "The model cannot be expressed in STEP."};
  APIHeaderSection_MakeHeader header(writer.ChangeWriter().Model());
  header.SetOriginatingSystem(new TCollection_HAsciiString("Lost Line"));
  header.SetName(new TCollection_HAsciiString(part_name.c_str()));
  if (writer.Write(path.c_str()) != IFSelect_RetDone)
    return Error{ErrorCode::Io,
                 "Cannot write " + path.string() + ": no permission or the disk is full."};
  return Done{};
}

/// What a file read back has less or more than what was written; empty when all is there.
std::string difference(const model::Model& back, const model::Model& model) {
  if (back.body_count() != model.body_count()) return "bodies";
  const auto differ = [](double a, double b) { return std::abs(a - b) > 1e-6 * std::abs(b); };
  if (differ(back.volume(), model.volume())) return "volume";
  if (differ(back.area(), model.area())) return "area";
  return {};
}

}  // namespace

Result<model::Model> read_step_text_here(const std::string& text, const std::string& shown,
                                         const std::string& key) {
  std::istringstream stream(text);
  const std::scoped_lock lock(exchange_mutex());
  return read_locked(stream, shown, key);
}

Result<model::Model> read_step_text(const std::string& text, const std::string& shown,
                                    const std::string& key) {
  if (const Status sound = check_step_text(text, shown); !sound) return sound.error();
  return model::has_kernel_process() ? read_step_apart(text, shown, key)
                                     : read_step_text_here(text, shown, key);
}

Result<model::Model> read_step(const std::filesystem::path& path) {
  // Opening it ourselves gives the system's reason when that fails.
  Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  return read_step_text(std::string(file->text()), path.string(), path.stem().string());
}

Result<std::shared_ptr<const model::Imported>> import_text(std::string text,
                                                           const std::string& shown,
                                                           const std::string& file) {
  auto imported = std::make_shared<model::Imported>();
  auto model = read_step_text(text, shown, std::filesystem::path(file).stem().string());
  if (!model) return model.error();
  imported->file = file;
  imported->hash = Hash().add(std::string_view(text)).value();
  imported->bytes = std::move(text);
  imported->model = *std::move(model);
  return std::shared_ptr<const model::Imported>(std::move(imported));
}

Result<std::shared_ptr<const model::Imported>> import_step(const std::filesystem::path& path) {
  Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  return import_text(std::string(file->text()), path.string(), path.filename().string());
}

Status write_step(const std::filesystem::path& path, const model::Model& model,
                  const std::string& part_name) {
  if (model.empty())
    return Error{ErrorCode::InvalidInput,
                 "There is no model to write yet. Build at least one step."};
  const std::scoped_lock lock(exchange_mutex());
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    try {
      if (Status status = write_locked(temporary, model, part_name); !status) {
        if (status.error().code == ErrorCode::Io)
          return Error{ErrorCode::Io, "Cannot write " + path.string() +
                                          ": no permission, no such folder, or the disk is full."};
        return status;
      }
    } catch (const Standard_Failure&) {
      return Error{ErrorCode::Failed, "The model cannot be expressed in STEP."};
    }
    std::ifstream stream(temporary, std::ios::binary);
    const Result<model::Model> back = read_locked(stream, path.string(), "read back");
    if (!back)
      return Error{ErrorCode::Failed,
                   "The STEP file could not be read back: " + back.error().message};
    if (const std::string what = difference(*back, model); !what.empty())
      return Error{ErrorCode::Failed, "The STEP file read back differs from the model in its " +
                                          what + "; it was not kept."};
    return Done{};
  });
}

}  // namespace lostline::io
