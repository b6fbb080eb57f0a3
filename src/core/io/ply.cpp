#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <charconv>
#include <cmath>
#include <cstring>
#include <optional>
#include <sstream>

#include "io/cloud_files.h"
#include "io/files.h"
#include "io/mesh_files.h"

namespace lostline::io {
namespace {

enum class Encoding { Ascii, Little, Big };
enum class Type { I8, U8, I16, U16, I32, U32, F32, F64 };

std::optional<Type> type_named(std::string_view name) {
  if (name == "char" || name == "int8") return Type::I8;
  if (name == "uchar" || name == "uint8") return Type::U8;
  if (name == "short" || name == "int16") return Type::I16;
  if (name == "ushort" || name == "uint16") return Type::U16;
  if (name == "int" || name == "int32") return Type::I32;
  if (name == "uint" || name == "uint32") return Type::U32;
  if (name == "float" || name == "float32") return Type::F32;
  if (name == "double" || name == "float64") return Type::F64;
  return std::nullopt;
}

std::size_t size_of(Type type) {
  switch (type) {
    case Type::I8:
    case Type::U8:
      return 1;
    case Type::I16:
    case Type::U16:
      return 2;
    case Type::I32:
    case Type::U32:
    case Type::F32:
      return 4;
    case Type::F64:
      return 8;
  }
  return 0;
}

struct Property {
  std::string name;
  Type type = Type::F32;
  std::optional<Type> count_type;  // a list
};
struct Element {
  std::string name;
  std::size_t count = 0;
  std::vector<Property> properties;
};

/// Reads the body's numbers one after the other; `failed` once it runs out or meets something that
/// is no number.
class Body {
 public:
  Body(std::string_view text, Encoding encoding) : text_(text), encoding_(encoding) {}

  double next(Type type) {
    if (encoding_ == Encoding::Ascii) return next_ascii();
    const std::size_t size = size_of(type);
    if (text_.size() - at_ < size) {
      failed = true;
      return 0;
    }
    unsigned char bytes[8] = {};
    std::memcpy(bytes, text_.data() + at_, size);
    at_ += size;
    if (encoding_ == Encoding::Big) std::reverse(bytes, bytes + size);
    switch (type) {
      case Type::I8:
        return as<std::int8_t>(bytes);
      case Type::U8:
        return as<std::uint8_t>(bytes);
      case Type::I16:
        return as<std::int16_t>(bytes);
      case Type::U16:
        return as<std::uint16_t>(bytes);
      case Type::I32:
        return as<std::int32_t>(bytes);
      case Type::U32:
        return as<std::uint32_t>(bytes);
      case Type::F32:
        return as<float>(bytes);
      case Type::F64:
        return as<double>(bytes);
    }
    return 0;
  }
  [[nodiscard]] std::size_t left() const { return text_.size() - at_; }
  [[nodiscard]] double share() const {
    return static_cast<double>(at_) / static_cast<double>(text_.size() + 1);
  }
  bool failed = false;

 private:
  template <class T>
  static double as(const unsigned char* bytes) {
    T value;
    std::memcpy(&value, bytes, sizeof value);
    return static_cast<double>(value);
  }
  double next_ascii() {
    while (at_ < text_.size() &&
           (text_[at_] == ' ' || text_[at_] == '\n' || text_[at_] == '\r' || text_[at_] == '\t'))
      ++at_;
    double value = 0;
    const auto [end, error] =
        std::from_chars(text_.data() + at_, text_.data() + text_.size(), value);
    if (error == std::errc::invalid_argument) failed = true;
    at_ = static_cast<std::size_t>(end - text_.data());
    return value;
  }
  std::string_view text_;
  std::size_t at_ = 0;
  Encoding encoding_;
};

struct Header {
  Encoding encoding = Encoding::Ascii;
  std::vector<Element> elements;
  std::size_t size = 0;
};

Result<Header> read_header(const std::string& path, std::string_view text) {
  const auto bad = [&](std::size_t line, const std::string& why) {
    return Error{ErrorCode::InvalidInput, fmt::format("{} line {}: {}", path, line, why)};
  };
  Header header;
  std::size_t line_number = 0;
  bool has_format = false;
  while (header.size < text.size()) {
    const std::size_t end = text.find('\n', header.size);
    if (end == std::string_view::npos || end - header.size > 4096) break;
    std::istringstream line{std::string(text.substr(header.size, end - header.size))};
    header.size = end + 1;
    ++line_number;
    std::string word;
    line >> word;
    if (line_number == 1 && word != "ply") return bad(1, "this is no PLY file.");
    if (word == "format") {
      line >> word;
      has_format = true;
      if (word == "ascii")
        header.encoding = Encoding::Ascii;
      else if (word == "binary_little_endian")
        header.encoding = Encoding::Little;
      else if (word == "binary_big_endian")
        header.encoding = Encoding::Big;
      else
        return bad(line_number, "unknown encoding \"" + word + "\".");
    } else if (word == "element") {
      Element element;
      if (!(line >> element.name >> element.count))
        return bad(line_number, "an element without a count.");
      header.elements.push_back(std::move(element));
    } else if (word == "property") {
      if (header.elements.empty()) return bad(line_number, "a property before any element.");
      Property property;
      line >> word;
      if (word == "list") {
        std::string count_type;
        line >> count_type >> word;
        property.count_type = type_named(count_type);
        if (!property.count_type) return bad(line_number, "unknown type \"" + count_type + "\".");
      }
      const std::optional<Type> type = type_named(word);
      if (!type || !(line >> property.name))
        return bad(line_number, "unknown type \"" + word + "\".");
      property.type = *type;
      header.elements.back().properties.push_back(std::move(property));
    } else if (word == "end_header") {
      if (!has_format) return bad(line_number, "the header names no encoding.");
      return header;
    }
  }
  return bad(line_number, "the header has no end: the file is truncated or no PLY.");
}

/// Everything of a PLY file that is read.
struct PlyContent {
  LoadedMesh loaded;
  std::vector<Vec3> normals;  ///< of the vertices, as in the file
  bool has_faces = false;
};

Result<PlyContent> read_content(const std::filesystem::path& path, const Task& task) {
  Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  const std::string name = path.string();
  Result<Header> header = read_header(name, file->text());
  if (!header) return header.error();
  Body body(file->text().substr(header->size), header->encoding);
  PlyContent content;
  LoadedMesh& loaded = content.loaded;
  scan::Mesh& mesh = loaded.mesh;
  for (const Element& element : header->elements) {
    // Each property takes at least a byte: a count beyond the file's size is a lie, not a reason to
    // reserve memory.
    if (element.count > body.left() + 1) {
      return Error{
          ErrorCode::InvalidInput,
          fmt::format(
              "{} is truncated: it announces {} of \"{}\", more than its {} bytes can hold.", name,
              element.count, element.name, file->size())};
    }
    const bool vertices = element.name == "vertex";
    const bool faces = element.name == "face";
    content.has_faces = content.has_faces || faces;
    // Which property is x, y, z and nx, ny, nz.
    constexpr std::array kNames{"x", "y", "z", "nx", "ny", "nz"};
    std::array<int, kNames.size()> axes{-1, -1, -1, -1, -1, -1};
    bool normals = false;
    if (vertices) {
      for (std::size_t i = 0; i < element.properties.size(); ++i) {
        for (std::size_t axis = 0; axis < axes.size(); ++axis) {
          if (element.properties[i].name == kNames[axis] && !element.properties[i].count_type)
            axes[axis] = static_cast<int>(i);
        }
      }
      normals = axes[3] >= 0 && axes[4] >= 0 && axes[5] >= 0;
      if (axes[0] < 0 || axes[1] < 0 || axes[2] < 0) {
        return Error{ErrorCode::InvalidInput, name + ": the vertices have no x, y and z."};
      }
      mesh.vertices.reserve(element.count);
    }
    std::vector<std::uint32_t> polygon;
    for (std::size_t i = 0; i < element.count; ++i) {
      if (i % 65536 == 0) {
        if (task.stopped()) return cancelled();
        task.report(body.share());
      }
      Vec3 p = Vec3::Zero();
      Vec3 normal = Vec3::Zero();
      for (std::size_t k = 0; k < element.properties.size(); ++k) {
        const Property& property = element.properties[k];
        std::size_t count = 1;
        if (property.count_type) {
          const double announced = body.next(*property.count_type);
          if (!(announced >= 0) || announced > 1e6) body.failed = true;
          count = body.failed ? 0 : static_cast<std::size_t>(announced);
        }
        const bool corners = faces && property.count_type &&
                             (property.name == "vertex_indices" || property.name == "vertex_index");
        if (corners) polygon.clear();
        for (std::size_t c = 0; c < count && !body.failed; ++c) {
          const double value = body.next(property.type);
          if (vertices && !property.count_type) {
            for (int axis = 0; axis < 6; ++axis) {
              if (axes[static_cast<std::size_t>(axis)] == static_cast<int>(k))
                (axis < 3 ? p : normal)[axis % 3] = value;
            }
          }
          if (corners) {
            if (!(value >= 0) || value >= static_cast<double>(mesh.vertices.size())) {
              return Error{ErrorCode::InvalidInput,
                           fmt::format("{}: face {} names vertex {}, there are {}.", name, i, value,
                                       mesh.vertices.size())};
            }
            polygon.push_back(static_cast<std::uint32_t>(value));
          }
        }
      }
      if (body.failed) {
        return Error{ErrorCode::InvalidInput,
                     fmt::format("{} is truncated or garbled at {} {} of {}.", name, element.name,
                                 i + 1, element.count)};
      }
      if (vertices) mesh.vertices.push_back(p);
      if (normals) content.normals.push_back(normal);
      if (!faces) continue;
      for (std::size_t c = 2; c < polygon.size(); ++c) {
        const scan::Triangle t{polygon[0], polygon[c - 1], polygon[c]};
        if (t[0] == t[1] || t[1] == t[2] || t[0] == t[2]) {
          ++loaded.skipped_triangles;
        } else {
          mesh.triangles.push_back(t);
        }
      }
    }
  }
  return content;
}

}  // namespace

Result<LoadedMesh> read_ply(const std::filesystem::path& path, const Task& task) {
  Result<PlyContent> read = read_content(path, task);
  if (!read) return read.error();
  PlyContent content = *std::move(read);
  const std::string name = path.string();
  LoadedMesh& loaded = content.loaded;
  scan::Mesh& mesh = loaded.mesh;
  if (mesh.triangles.empty()) {
    if (!content.has_faces && !mesh.vertices.empty()) {
      return Error{ErrorCode::Unsupported,
                   fmt::format("{} is a point cloud of {} points without triangles. Mesh it first "
                               "and open the mesh.",
                               name, mesh.vertices.size())};
    }
    return Error{ErrorCode::InvalidInput, name + " holds no triangles."};
  }
  std::vector<char> keep(mesh.triangles.size(), 1);
  for (std::size_t t = 0; t < keep.size(); ++t) {
    for (int k = 0; k < 3; ++k) {
      if (!mesh.corner(t, k).allFinite()) keep[t] = 0;
    }
    if (keep[t] == 0) ++loaded.skipped_not_finite;
  }
  if (loaded.skipped_not_finite > 0) mesh = scan::extract(mesh, keep);
  if (mesh.triangles.empty()) {
    return Error{ErrorCode::InvalidInput, name + ": no triangle has finite coordinates."};
  }
  return std::move(loaded);
}

Result<LoadedCloud> read_ply_points(const std::filesystem::path& path, const Task& task) {
  Result<PlyContent> content = read_content(path, task);
  if (!content) return content.error();
  const std::vector<Vec3>& points = content->loaded.mesh.vertices;
  LoadedCloud loaded;
  const bool normals = content->normals.size() == points.size();
  for (std::size_t i = 0; i < points.size(); ++i) {
    if (!points[i].allFinite()) {
      ++loaded.skipped;
      continue;
    }
    loaded.cloud.points.push_back(points[i]);
    if (!normals) continue;
    const double size = content->normals[i].norm();
    loaded.cloud.normals.push_back(
        size > 0 && std::isfinite(size) ? Vec3(content->normals[i] / size) : Vec3(Vec3::Zero()));
  }
  if (loaded.cloud.points.empty())
    return Error{ErrorCode::InvalidInput, path.string() + " holds no points."};
  return loaded;
}

Status write_ply_points(const std::filesystem::path& path, const scan::PointCloud& cloud) {
  const bool normals = cloud.has_normals();
  std::string content = fmt::format(
      "ply\nformat binary_little_endian 1.0\ncomment millimetres\nelement vertex {}\nproperty "
      "double x\nproperty double y\nproperty double z\n{}end_header\n",
      cloud.points.size(),
      normals ? "property double nx\nproperty double ny\nproperty double nz\n" : "");
  const std::size_t size = normals ? 48 : 24;
  std::size_t at = content.size();
  content.resize(at + size * cloud.points.size());
  for (std::size_t i = 0; i < cloud.points.size(); ++i, at += size) {
    std::memcpy(content.data() + at, cloud.points[i].data(), 24);
    if (normals) std::memcpy(content.data() + at + 24, cloud.normals[i].data(), 24);
  }
  return write_file_atomically(path, content);
}

Status write_ply(const std::filesystem::path& path, const scan::Mesh& mesh,
                 const std::vector<float>& quality) {
  const bool with_quality = quality.size() == mesh.vertices.size() && !quality.empty();
  std::string content = fmt::format(
      "ply\nformat binary_little_endian 1.0\ncomment millimetres\nelement vertex {}\nproperty "
      "double x\nproperty double "
      "y\nproperty double z\n{}element face {}\nproperty list uchar uint "
      "vertex_indices\nend_header\n",
      mesh.vertices.size(), with_quality ? "property float quality\n" : "", mesh.triangles.size());
  const std::size_t vertex_size = with_quality ? 28 : 24;
  std::size_t at = content.size();
  content.resize(at + vertex_size * mesh.vertices.size() + 13 * mesh.triangles.size());
  for (std::size_t i = 0; i < mesh.vertices.size(); ++i) {
    std::memcpy(content.data() + at, mesh.vertices[i].data(), 24);
    if (with_quality) std::memcpy(content.data() + at + 24, &quality[i], 4);
    at += vertex_size;
  }
  for (const scan::Triangle& t : mesh.triangles) {
    content[at] = 3;
    std::memcpy(content.data() + at + 1, t.data(), 12);
    at += 13;
  }
  return write_file_atomically(path, content);
}

}  // namespace lostline::io
