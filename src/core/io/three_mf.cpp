// 3MF: a zip with an XML model. Source: 3MF Core Specification 1.3 and Materials Extension 1.2, 3MF
// Consortium.
#include <expat.h>
#include <fmt/format.h>
#include <zip.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstring>
#include <map>
#include <memory>
#include <sstream>

#include "io/files.h"
#include "io/mesh_files.h"
#include "io/weld.h"

namespace lostline::io {
namespace {

struct CloseZip {
  void operator()(zip_t* archive) const { zip_discard(archive); }
};
using Archive = std::unique_ptr<zip_t, CloseZip>;

constexpr std::size_t kLargestEntry = std::size_t{4} << 30U;  // 4 GiB of XML: more is damage

Result<std::string> read_entry(zip_t* archive, const std::string& name,
                               const std::filesystem::path& path) {
  zip_stat_t info;
  if (zip_stat(archive, name.c_str(), 0, &info) != 0 || (info.valid & ZIP_STAT_SIZE) == 0)
    return Error{ErrorCode::InvalidInput, path.string() + " has no part " + name + "."};
  // Deflate packs at most about a thousand to one.
  if (info.size > kLargestEntry ||
      ((info.valid & ZIP_STAT_COMP_SIZE) != 0 && info.size > 1100 * (info.comp_size + 64)))
    return Error{ErrorCode::InvalidInput, path.string() + ": part " + name + " is damaged."};
  zip_file_t* file = zip_fopen(archive, name.c_str(), 0);
  if (file == nullptr)
    return Error{ErrorCode::InvalidInput, path.string() + ": part " + name + " cannot be read."};
  std::string content(info.size, '\0');
  const zip_int64_t count = zip_fread(file, content.data(), content.size());
  const bool whole = zip_fclose(file) == 0 && count == static_cast<zip_int64_t>(content.size());
  if (!whole)
    return Error{ErrorCode::InvalidInput, path.string() + ": part " + name + " is damaged."};
  return content;
}

struct Object {
  scan::Mesh mesh;
  std::vector<std::pair<std::uint32_t, Transform>> components;
};

/// What the model part says, filled while it is parsed.
struct Model {
  std::string unit = "millimeter";
  std::map<std::uint32_t, Object> objects;
  std::vector<std::pair<std::uint32_t, Transform>> items;
  Object* current = nullptr;
  std::string trouble;
  XML_Parser parser = nullptr;
};

const char* attribute(const char** attributes, const char* name) {
  for (; attributes[0] != nullptr; attributes += 2) {
    if (std::strcmp(attributes[0], name) == 0) return attributes[1];
  }
  return nullptr;
}

template <class T>
bool number(const char** attributes, const char* name, T& value) {
  const char* text = attribute(attributes, name);
  if (text == nullptr) return false;
  const auto [end, error] = std::from_chars(text, text + std::strlen(text), value);
  return error == std::errc{};
}

/// Twelve numbers, row by row of the transposed matrix; the identity when absent.
bool transform(const char** attributes, Transform& result) {
  result = Transform::Identity();
  const char* text = attribute(attributes, "transform");
  if (text == nullptr) return true;
  std::istringstream words(text);
  words.imbue(std::locale::classic());
  for (int row = 0; row < 4; ++row) {
    for (int column = 0; column < 3; ++column) {
      double value = 0;
      if (!(words >> value)) return false;
      result.matrix()(column, row) = value;
    }
  }
  return result.matrix().allFinite();
}

const char* local_name(const char* name) {
  const char* colon = std::strrchr(name, ':');
  return colon != nullptr ? colon + 1 : name;
}

void XMLCALL start_element(void* data, const char* qualified, const char** attributes) {
  auto& model = *static_cast<Model*>(data);
  if (!model.trouble.empty()) return;
  const std::string_view name = local_name(qualified);
  const auto fail = [&](const std::string& what) {
    model.trouble = what;
    XML_StopParser(model.parser, XML_FALSE);
  };
  if (name == "model") {
    if (const char* unit = attribute(attributes, "unit")) model.unit = unit;
  } else if (name == "object") {
    std::uint32_t id = 0;
    if (!number(attributes, "id", id)) return fail("an object has no id");
    model.current = &model.objects[id];
  } else if (name == "vertex" && model.current != nullptr) {
    Vec3 p;
    if (!number(attributes, "x", p.x()) || !number(attributes, "y", p.y()) ||
        !number(attributes, "z", p.z()))
      return fail("a vertex lacks a coordinate");
    model.current->mesh.vertices.push_back(p);
  } else if (name == "triangle" && model.current != nullptr) {
    scan::Triangle t{};
    if (!number(attributes, "v1", t[0]) || !number(attributes, "v2", t[1]) ||
        !number(attributes, "v3", t[2]))
      return fail("a triangle lacks a corner");
    if (*std::max_element(t.begin(), t.end()) >= model.current->mesh.vertices.size())
      return fail("a triangle names a vertex that does not exist");
    model.current->mesh.triangles.push_back(t);
  } else if (name == "component" && model.current != nullptr) {
    std::uint32_t id = 0;
    Transform place;
    if (!number(attributes, "objectid", id) || !transform(attributes, place))
      return fail("a component is damaged");
    model.current->components.emplace_back(id, place);
  } else if (name == "item") {
    std::uint32_t id = 0;
    Transform place;
    if (!number(attributes, "objectid", id) || !transform(attributes, place))
      return fail("a build item is damaged");
    model.items.emplace_back(id, place);
  }
}

/// Adds an object with its components; false when they nest without end or grow past reason.
bool gather(const Model& model, std::uint32_t id, const Transform& place, int depth,
            scan::Mesh& mesh) {
  const auto it = model.objects.find(id);
  if (it == model.objects.end() || depth > 16 || mesh.triangles.size() > 400'000'000) return false;
  const auto base = static_cast<std::uint32_t>(mesh.vertices.size());
  for (const Vec3& v : it->second.mesh.vertices) mesh.vertices.push_back(place * v);
  for (const scan::Triangle& t : it->second.mesh.triangles)
    mesh.triangles.push_back({base + t[0], base + t[1], base + t[2]});
  for (const auto& [child, child_place] : it->second.components) {
    if (!gather(model, child, place * child_place, depth + 1, mesh)) return false;
  }
  return true;
}

}  // namespace

Result<LoadedMesh> read_3mf(const std::filesystem::path& path, const Task& task) {
  Result<MappedFile> file = MappedFile::open(path);  // the system's reason when it fails
  if (!file) return file.error();
  const Archive archive(zip_open(path.c_str(), ZIP_RDONLY, nullptr));
  if (!archive)
    return Error{ErrorCode::InvalidInput,
                 path.string() + " is no 3MF file: it is not a zip archive, or it is truncated."};
  // The model is the part of that ending; its relation names it, its usual place is 3D/.
  std::string part;
  for (zip_int64_t i = 0; i < zip_get_num_entries(archive.get(), 0); ++i) {
    const char* name = zip_get_name(archive.get(), static_cast<zip_uint64_t>(i), 0);
    if (name == nullptr || !std::string_view(name).ends_with(".model")) continue;
    if (part.empty() || std::string_view(name) == "3D/3dmodel.model") part = name;
  }
  if (part.empty())
    return Error{ErrorCode::InvalidInput, path.string() + " is no 3MF file: it holds no model."};
  const Result<std::string> xml = read_entry(archive.get(), part, path);
  if (!xml) return xml.error();
  Model model;
  model.parser = XML_ParserCreate("UTF-8");
  XML_SetUserData(model.parser, &model);
  XML_SetElementHandler(model.parser, start_element, nullptr);
  constexpr std::size_t kPiece = std::size_t{1} << 20U;
  std::string wrong;
  for (std::size_t at = 0; at < xml->size() && wrong.empty(); at += kPiece) {
    const std::size_t size = std::min(kPiece, xml->size() - at);
    const bool last = at + size == xml->size();
    if (XML_Parse(model.parser, xml->data() + at, static_cast<int>(size), last ? 1 : 0) ==
        XML_STATUS_ERROR) {
      wrong =
          model.trouble.empty() ? XML_ErrorString(XML_GetErrorCode(model.parser)) : model.trouble;
      wrong += " (line " + std::to_string(XML_GetCurrentLineNumber(model.parser)) + ")";
    }
    if (task.stopped()) wrong = "stopped";
    task.report(0.7 * static_cast<double>(at + size) / static_cast<double>(xml->size()));
  }
  XML_ParserFree(model.parser);
  if (task.stopped()) return cancelled();
  if (!wrong.empty())
    return Error{ErrorCode::InvalidInput,
                 path.string() + ": its model cannot be understood: " + wrong + "."};
  LoadedMesh loaded;
  if (model.items.empty()) {
    for (const auto& [id, object] : model.objects)
      model.items.emplace_back(id, Transform::Identity());
  }
  for (const auto& [id, place] : model.items) {
    if (!gather(model, id, place, 0, loaded.mesh))
      return Error{ErrorCode::InvalidInput, path.string() + ": it builds object " +
                                                std::to_string(id) +
                                                ", which is missing or holds itself."};
  }
  if (loaded.mesh.triangles.empty())
    return Error{ErrorCode::InvalidInput, path.string() + " holds no triangles."};
  const std::map<std::string, double> units{{"micron", 0.001},  {"millimeter", 1},
                                            {"centimeter", 10}, {"inch", 25.4},
                                            {"foot", 304.8},    {"meter", 1000}};
  const auto unit = units.find(model.unit);
  if (unit == units.end())
    return Error{ErrorCode::InvalidInput, path.string() + ": unknown unit \"" + model.unit + "\"."};
  for (Vec3& v : loaded.mesh.vertices) v *= unit->second;
  loaded.in_millimetres = true;
  return welded(std::move(loaded), task);
}

namespace {

constexpr std::string_view kHead =
    R"(<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en-US" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02" xmlns:m="http://schemas.microsoft.com/3dmanufacturing/material/2015/02">
<metadata name="Application">Lost Line</metadata>
<resources>
)";

class ModelXml {
 public:
  ModelXml() { add("{}", kHead); }
  template <class... A>
  void add(fmt::format_string<A...> text, A&&... arguments) {
    fmt::format_to(std::back_inserter(xml_), text, std::forward<A>(arguments)...);
  }
  void vertices(const scan::Mesh& mesh) {
    add("<mesh>\n<vertices>\n");
    for (const Vec3& v : mesh.vertices)
      add("<vertex x=\"{:.9g}\" y=\"{:.9g}\" z=\"{:.9g}\"/>\n", v.x(), v.y(), v.z());
    add("</vertices>\n<triangles>\n");
  }
  void end_object() { add("</triangles>\n</mesh></object>\n"); }
  void build(std::size_t objects) {
    add("</resources>\n<build>");
    for (std::size_t k = 1; k <= objects; ++k) add("<item objectid=\"{}\"/>", k);
    add("</build>\n</model>\n");
  }
  [[nodiscard]] std::string_view text() const { return {xml_.data(), xml_.size()}; }

 private:
  fmt::memory_buffer xml_;
};

std::string escaped(const std::string& text) {
  std::string result;
  for (const char c : text) {
    if (c == '&')
      result += "&amp;";
    else if (c == '<')
      result += "&lt;";
    else if (c == '>')
      result += "&gt;";
    else if (c == '"')
      result += "&quot;";
    else if (static_cast<unsigned char>(c) >= 0x20)
      result += c;
  }
  return result;
}

Status pack(const std::filesystem::path& path, std::string_view xml) {
  static constexpr std::string_view kTypes =
      R"(<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>
)";
  static constexpr std::string_view kRelations =
      R"(<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>
)";
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    int code = 0;
    zip_t* archive = zip_open(temporary.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &code);
    const Error failed{ErrorCode::Io,
                       "Cannot write " + path.string() + ": no permission, or the disk is full."};
    if (archive == nullptr) return failed;
    const auto entry = [&](const char* name, std::string_view content) {
      zip_source_t* source = zip_source_buffer(archive, content.data(), content.size(), 0);
      return source != nullptr && zip_file_add(archive, name, source, ZIP_FL_ENC_UTF_8) >= 0;
    };
    const bool added = entry("[Content_Types].xml", kTypes) && entry("_rels/.rels", kRelations) &&
                       entry("3D/3dmodel.model", xml);
    if (!added || zip_close(archive) != 0) {
      zip_discard(archive);
      return failed;
    }
    return Done{};
  });
}

}  // namespace

Status write_3mf(const std::filesystem::path& path, const scan::Mesh& mesh,
                 const std::vector<std::uint8_t>& colour,
                 const std::vector<std::array<std::uint8_t, 3>>& palette) {
  ModelXml xml;
  const bool coloured = colour.size() == mesh.vertices.size() && !palette.empty();
  if (coloured) {
    xml.add("<m:colorgroup id=\"2\">\n");
    for (const auto& c : palette)
      xml.add("<m:color color=\"#{:02X}{:02X}{:02X}\"/>\n", c[0], c[1], c[2]);
    xml.add("</m:colorgroup>\n");
  }
  xml.add("<object id=\"1\" type=\"model\"{}>", coloured ? " pid=\"2\" pindex=\"0\"" : "");
  xml.vertices(mesh);
  for (const scan::Triangle& t : mesh.triangles) {
    if (coloured)
      xml.add("<triangle v1=\"{}\" v2=\"{}\" v3=\"{}\" pid=\"2\" p1=\"{}\" p2=\"{}\" p3=\"{}\"/>\n",
              t[0], t[1], t[2], colour[t[0]], colour[t[1]], colour[t[2]]);
    else
      xml.add("<triangle v1=\"{}\" v2=\"{}\" v3=\"{}\"/>\n", t[0], t[1], t[2]);
  }
  xml.end_object();
  xml.build(1);
  return pack(path, xml.text());
}

Status write_3mf_bodies(const std::filesystem::path& path, const std::vector<BodyMesh>& bodies) {
  ModelXml xml;
  const std::size_t materials = bodies.size() + 1;
  xml.add("<basematerials id=\"{}\">\n", materials);
  for (const BodyMesh& body : bodies) {
    const auto c = body.colour.value_or(std::array<std::uint8_t, 3>{0xB0, 0xB8, 0xC0});
    xml.add("<base name=\"{}\" displaycolor=\"#{:02X}{:02X}{:02X}\"/>\n", escaped(body.name), c[0],
            c[1], c[2]);
  }
  xml.add("</basematerials>\n");
  for (std::size_t k = 0; k < bodies.size(); ++k) {
    xml.add("<object id=\"{}\" type=\"model\" name=\"{}\" pid=\"{}\" pindex=\"{}\">", k + 1,
            escaped(bodies[k].name), materials, k);
    xml.vertices(bodies[k].mesh);
    for (const scan::Triangle& t : bodies[k].mesh.triangles)
      xml.add("<triangle v1=\"{}\" v2=\"{}\" v3=\"{}\"/>\n", t[0], t[1], t[2]);
    xml.end_object();
  }
  xml.build(bodies.size());
  return pack(path, xml.text());
}

}  // namespace lostline::io
