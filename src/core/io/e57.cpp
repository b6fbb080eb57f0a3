// E57, ASTM E2807: pages with checksums, a description in XML, points in packets of bit streams.
#include <expat.h>
#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <bit>
#include <boost/crc.hpp>
#include <charconv>
#include <cmath>
#include <cstring>
#include <limits>
#include <map>
#include <memory>
#include <optional>

#include "base/parallel.h"
#include "io/cloud_files.h"
#include "io/files.h"

namespace lostline::io {
namespace {

/// A part of the description: its attributes, its text, what it holds.
struct Node {
  std::string name;
  std::map<std::string, std::string> attributes;
  std::string text;
  std::vector<std::unique_ptr<Node>> children;

  [[nodiscard]] const Node* child(std::string_view wanted) const {
    for (const auto& c : children) {
      if (c->name == wanted) return c.get();
    }
    return nullptr;
  }
  [[nodiscard]] std::string attribute(const char* wanted) const {
    const auto it = attributes.find(wanted);
    return it != attributes.end() ? it->second : std::string();
  }
  [[nodiscard]] double number(const char* of_child, double otherwise) const {
    const Node* c = child(of_child);
    return c != nullptr && !c->text.empty() ? std::strtod(c->text.c_str(), nullptr) : otherwise;
  }
};

double attribute_or(const Node& node, const char* name, double otherwise) {
  const std::string text = node.attribute(name);
  return text.empty() ? otherwise : std::strtod(text.c_str(), nullptr);
}

/// A whole number of an attribute; none where it is missing or none at all.
std::optional<std::uint64_t> whole_of(const Node& node, const char* name) {
  const std::string text = node.attribute(name);
  std::uint64_t value = 0;
  const auto [end, failed] = std::from_chars(text.data(), text.data() + text.size(), value);
  if (failed != std::errc() || end != text.data() + text.size()) return std::nullopt;
  return value;
}

struct Parser {
  Node root;
  std::vector<Node*> open{&root};
  XML_Parser expat = nullptr;
  /// Parts within parts; the standard's own are eight deep. They are taken down one within another.
  static constexpr std::size_t kDeepest = 64;
  bool too_deep = false;
};

Result<std::unique_ptr<Parser>> parse(const std::string& xml, const std::string& path) {
  auto parser = std::make_unique<Parser>();
  const std::unique_ptr<XML_ParserStruct, void (*)(XML_Parser)> expat(XML_ParserCreate(nullptr),
                                                                      XML_ParserFree);
  parser->expat = expat.get();
  XML_SetUserData(expat.get(), parser.get());
  XML_SetElementHandler(
      expat.get(),
      [](void* user, const XML_Char* name, const XML_Char** attributes) {
        auto& p = *static_cast<Parser*>(user);
        if (p.open.size() > Parser::kDeepest) {
          p.too_deep = true;
          XML_StopParser(p.expat, XML_FALSE);
          return;
        }
        auto node = std::make_unique<Node>();
        node->name = name;
        for (; *attributes != nullptr; attributes += 2)
          node->attributes[attributes[0]] = attributes[1];
        Node* added = node.get();
        p.open.back()->children.push_back(std::move(node));
        p.open.push_back(added);
      },
      [](void* user, const XML_Char*) {
        auto& p = *static_cast<Parser*>(user);
        if (!p.too_deep) p.open.pop_back();
      });
  XML_SetCharacterDataHandler(expat.get(), [](void* user, const XML_Char* text, int length) {
    static_cast<Parser*>(user)->open.back()->text.append(text, static_cast<std::size_t>(length));
  });
  if (XML_Parse(expat.get(), xml.data(), static_cast<int>(xml.size()), 1) == XML_STATUS_ERROR ||
      parser->too_deep)
    return Error{ErrorCode::InvalidInput,
                 fmt::format("{}: the description of the scans is damaged at its line {}.", path,
                             XML_GetCurrentLineNumber(expat.get()))};
  return parser;
}

template <class T>
T little(const char* bytes) {
  static_assert(std::endian::native == std::endian::little);
  T value;
  std::memcpy(&value, bytes, sizeof value);
  return value;
}

/// The file without the checksums at the end of its pages.
class Pages {
 public:
  Pages(std::string_view file, std::uint64_t page) : file_(file), page_(page) {}
  [[nodiscard]] std::uint64_t logical(std::uint64_t physical) const {
    return physical / page_ * (page_ - 4) + std::min(physical % page_, page_ - 4);
  }
  /// False when the file ends before.
  [[nodiscard]] bool read(std::uint64_t logical_at, std::size_t count, std::string& bytes) const {
    bytes.clear();
    const std::uint64_t whole = file_.size() / page_ * (page_ - 4) + file_.size() % page_;
    if (logical_at > whole || count > whole - logical_at) return false;
    bytes.reserve(count);
    while (count > 0) {
      const std::uint64_t page = logical_at / (page_ - 4);
      const std::uint64_t in = logical_at % (page_ - 4);
      const std::size_t some = std::min<std::size_t>(count, page_ - 4 - in);
      const std::uint64_t at = page * page_ + in;
      if (at > file_.size() || some > file_.size() - at) return false;
      bytes.append(file_.substr(at, some));
      logical_at += some;
      count -= some;
    }
    return true;
  }

 private:
  std::string_view file_;
  std::uint64_t page_;
};

/// Whether the pages are as they were written: each ends with the CRC-32C of the rest of it, most
/// significant byte first (from memory; the other order is taken as well). Where not one of them
/// has it, the writer left it out, and nothing can be told.
Status check_pages(std::string_view file, std::uint64_t page, const std::string& path,
                   const Task& task) {
  const std::size_t count = file.size() / page;
  std::atomic<std::size_t> bad = 0;
  std::atomic<std::size_t> first = count;
  constexpr std::size_t kTogether = 1 << 20;  // bytes
  parallel_for(count, std::max<std::size_t>(1, kTogether / page),
               [&](std::size_t begin, std::size_t end) {
                 for (std::size_t k = begin; k < end && !task.stopped(); ++k) {
                   const char* bytes = file.data() + k * page;
                   boost::crc_optimal<32, 0x1EDC6F41, 0xFFFFFFFF, 0xFFFFFFFF, true, true> crc;
                   crc.process_bytes(bytes, page - 4);
                   const auto stored = little<std::uint32_t>(bytes + page - 4);
                   if (crc.checksum() == stored || crc.checksum() == __builtin_bswap32(stored))
                     continue;
                   ++bad;
                   std::size_t known = first;
                   while (k < known && !first.compare_exchange_weak(known, k)) {
                   }
                 }
               });
  if (task.stopped()) return cancelled();
  if (bad == 0 || bad == count) return Done{};
  return Error{ErrorCode::InvalidInput,
               fmt::format("{} is damaged: the checksums of {} of its {} pages do not match, the "
                           "first at byte {}. Copy or export the file again.",
                           path, bad.load(), count, first.load() * page)};
}

/// One column of the points and how its numbers are packed.
struct Stream {
  std::string name;
  enum class Packing { Float, Double, Bits } packing = Packing::Double;
  double least = 0;  ///< added to what the bits say
  double scale = 1, offset = 0;
  unsigned bits = 0;
  std::string bytes;
  bool wanted = false;

  [[nodiscard]] std::size_t values() const {
    if (packing == Packing::Float) return bytes.size() / 4;
    if (packing == Packing::Double) return bytes.size() / 8;
    return bits == 0 ? SIZE_MAX : bytes.size() * 8 / bits;
  }
  [[nodiscard]] double value(std::size_t i) const {
    if (packing == Packing::Float) return little<float>(bytes.data() + 4 * i);
    if (packing == Packing::Double) return little<double>(bytes.data() + 8 * i);
    std::uint64_t raw = 0;
    const std::size_t first = i * bits;
    for (unsigned k = 0; k < bits;) {
      const std::size_t at = first + k;
      const unsigned in = at % 8;
      const unsigned some = std::min(8 - in, bits - k);
      const auto byte = static_cast<unsigned char>(bytes[at / 8]);
      raw |= static_cast<std::uint64_t>((byte >> in) & ((1U << some) - 1)) << k;
      k += some;
    }
    return (static_cast<double>(raw) + least) * scale + offset;
  }
};

std::optional<Stream> stream_of(const Node& node) {
  Stream s;
  s.name = node.name;
  const std::string type = node.attribute("type");
  if (type == "Float") {
    s.packing =
        node.attribute("precision") == "single" ? Stream::Packing::Float : Stream::Packing::Double;
    return s;
  }
  if (type != "Integer" && type != "ScaledInteger") return std::nullopt;
  s.packing = Stream::Packing::Bits;
  // Whole numbers of 64 bits: a double does not hold their ends.
  const auto whole = [&](const char* name, std::int64_t otherwise) {
    const std::string text = node.attribute(name);
    std::int64_t value = otherwise;
    std::from_chars(text.data(), text.data() + text.size(), value);
    return value;
  };
  const std::int64_t least = whole("minimum", INT64_MIN);
  const std::int64_t most = whole("maximum", INT64_MAX);
  if (most < least) return std::nullopt;
  const std::uint64_t range = static_cast<std::uint64_t>(most) - static_cast<std::uint64_t>(least);
  s.bits = static_cast<unsigned>(std::bit_width(range));
  s.least = static_cast<double>(least);
  if (type == "ScaledInteger") {
    s.scale = attribute_or(node, "scale", 1);
    s.offset = attribute_or(node, "offset", 0);
  }
  return s;
}

/// Metres in space to millimetres of the file, by the pose of a scan.
Transform pose_of(const Node& scan) {
  Transform pose = Transform::Identity();
  const Node* node = scan.child("pose");
  if (node == nullptr) return pose;
  if (const Node* r = node->child("rotation")) {
    const Eigen::Quaterniond q(r->number("w", 1), r->number("x", 0), r->number("y", 0),
                               r->number("z", 0));
    if (q.norm() > 1e-9) pose.linear() = q.normalized().toRotationMatrix();
  }
  if (const Node* t = node->child("translation"))
    pose.translation() = Vec3(t->number("x", 0), t->number("y", 0), t->number("z", 0));
  return pose;
}

class Reader {
 public:
  Reader(std::string path, std::string_view file, std::uint64_t page, const Task& task)
      : path_(std::move(path)), pages_(file, page), size_(file.size()), task_(task) {}

  Status scan(const Node& node, LoadedCloud& loaded) {
    const Node* points = node.child("points");
    const Node* prototype = points != nullptr ? points->child("prototype") : nullptr;
    if (prototype == nullptr) return Done{};
    std::vector<Stream> streams;
    for (const auto& child : prototype->children) {
      const auto stream = stream_of(*child);
      if (!stream)
        return Error{ErrorCode::Unsupported,
                     fmt::format("{}: the points hold \"{}\" of a kind that is not read here ({}).",
                                 path_, child->name, child->attribute("type"))};
      streams.push_back(*stream);
    }
    const auto column = [&](const char* name) -> Stream* {
      for (Stream& s : streams) {
        if (s.name == name) return &s;
      }
      return nullptr;
    };
    std::array<Stream*, 3> at{column("cartesianX"), column("cartesianY"), column("cartesianZ")};
    const bool spherical = at[0] == nullptr || at[1] == nullptr || at[2] == nullptr;
    if (spherical)
      at = {column("sphericalRange"), column("sphericalAzimuth"), column("sphericalElevation")};
    if (at[0] == nullptr || at[1] == nullptr || at[2] == nullptr)
      return Error{ErrorCode::InvalidInput, path_ + ": a scan has no coordinates."};
    const std::array<Stream*, 3> normal{column("nor:normalX"), column("nor:normalY"),
                                        column("nor:normalZ")};
    const bool normals = normal[0] != nullptr && normal[1] != nullptr && normal[2] != nullptr;
    Stream* invalid = column(spherical ? "sphericalInvalidState" : "cartesianInvalidState");
    for (Stream* s : at) s->wanted = true;
    if (invalid != nullptr) invalid->wanted = true;
    for (Stream* s : normal) {
      if (normals) s->wanted = true;
    }
    const auto announced = whole_of(*points, "recordCount");
    const auto offset = whole_of(*points, "fileOffset");
    if (!announced || !offset)
      return Error{ErrorCode::InvalidInput,
                   fmt::format("{} is damaged: a scan does not say {} as a whole number.", path_,
                               announced ? "where its points begin (fileOffset)"
                                         : "how many points it has (recordCount)")};
    const std::uint64_t count = *announced;
    if (count == 0) return Done{};  // a set-up without points: nothing stands at its place
    if (const Status read = packets(*offset, streams); !read) return read;
    // A column of one value takes no bytes; points need a coordinate that takes a bit.
    const bool told = std::any_of(at.begin(), at.end(), [](const Stream* s) {
      return s->packing != Stream::Packing::Bits || s->bits > 0;
    });
    if (count > (told ? 8 * static_cast<std::uint64_t>(size_) : 1))
      return Error{ErrorCode::InvalidInput,
                   fmt::format("{} is damaged: a scan announces {} points.", path_, count)};
    for (const Stream& s : streams) {
      if (s.wanted && s.values() < count)
        return Error{ErrorCode::InvalidInput,
                     fmt::format("{} is truncated: a scan announces {} points and holds {}.", path_,
                                 count, s.values())};
    }
    const bool all_have_normals =
        normals && loaded.cloud.normals.size() == loaded.cloud.points.size();
    if (!all_have_normals) loaded.cloud.normals.clear();
    const Transform pose = pose_of(node);
    constexpr double kMillimetres = 1000;  // the standard's lengths are metres
    // A scan without a pose, or at the origin, may have been written in any coordinates.
    const bool all_stand = pose.translation().norm() > 0 &&
                           loaded.cloud.seen.size() == loaded.cloud.points.size() &&
                           loaded.cloud.eyes.size() < std::numeric_limits<std::uint16_t>::max();
    const auto eye = static_cast<std::uint16_t>(loaded.cloud.eyes.size());
    if (all_stand)
      loaded.cloud.eyes.emplace_back(kMillimetres * pose.translation());
    else
      loaded.cloud.seen.clear();
    for (std::uint64_t i = 0; i < count; ++i) {
      if (i % 65536 == 0 && task_.stopped()) return cancelled();
      Vec3 p(at[0]->value(i), at[1]->value(i), at[2]->value(i));
      if (spherical) {
        const double level = p.x() * std::cos(p.z());
        p = Vec3(level * std::cos(p.y()), level * std::sin(p.y()), p.x() * std::sin(p.z()));
      }
      p = kMillimetres * (pose * p);
      if (!p.allFinite() || (invalid != nullptr && invalid->value(i) != 0)) {
        ++loaded.skipped;
        continue;
      }
      loaded.cloud.points.push_back(p);
      if (all_stand) loaded.cloud.seen.push_back(eye);
      if (!all_have_normals) continue;
      const Vec3 n(normal[0]->value(i), normal[1]->value(i), normal[2]->value(i));
      const double size = n.norm();
      loaded.cloud.normals.push_back(
          size > 0 && std::isfinite(size) ? Vec3(pose.linear() * n / size) : Vec3(Vec3::Zero()));
    }
    return Done{};
  }

 private:
  /// All packets of a section, their bytes put together for each column.
  Status packets(std::uint64_t physical, std::vector<Stream>& streams) {
    const auto truncated = [&] {
      return Error{ErrorCode::InvalidInput, path_ + " is truncated within the points of a scan."};
    };
    std::string bytes;
    if (!pages_.read(pages_.logical(physical), 32, bytes)) return truncated();
    if (bytes[0] != 1)
      return Error{ErrorCode::InvalidInput,
                   path_ + " is damaged: no points begin where a scan says they do."};
    const auto length = little<std::uint64_t>(bytes.data() + 8);
    std::uint64_t at = pages_.logical(little<std::uint64_t>(bytes.data() + 16));
    const std::uint64_t end = pages_.logical(physical) + length;
    if (length > size_) return truncated();
    while (at + 4 <= end) {
      if (task_.stopped()) return cancelled();
      task_.report(static_cast<double>(at) / static_cast<double>(size_));
      if (!pages_.read(at, 4, bytes)) return truncated();
      const auto type = static_cast<unsigned char>(bytes[0]);
      const std::size_t size = std::size_t{1} + little<std::uint16_t>(bytes.data() + 2);
      if (type > 2 || size % 4 != 0 || size < 4)
        return Error{ErrorCode::InvalidInput, path_ + " is damaged within the points of a scan."};
      if (type == 1) {
        if (!pages_.read(at, size, bytes)) return truncated();
        if (size < 6) return truncated();
        const std::size_t columns = little<std::uint16_t>(bytes.data() + 4);
        std::size_t from = 6 + 2 * columns;
        if (columns != streams.size() || from > size)
          return Error{ErrorCode::InvalidInput,
                       path_ + " is damaged: a packet has other columns than its scan."};
        for (std::size_t c = 0; c < columns; ++c) {
          const std::size_t some = little<std::uint16_t>(bytes.data() + 6 + 2 * c);
          if (some > size - from) return truncated();
          if (streams[c].wanted) streams[c].bytes.append(bytes, from, some);
          from += some;
        }
      }
      at += size;
    }
    return Done{};
  }

  std::string path_;
  Pages pages_;
  std::size_t size_;
  const Task& task_;
};

}  // namespace

Result<LoadedCloud> read_e57(const std::filesystem::path& path, const Task& task) {
  const Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  const std::string name = path.string();
  const std::string_view text = file->text();
  if (text.size() < 48 || !text.starts_with("ASTM-E57"))
    return Error{ErrorCode::InvalidInput, name + " is no E57 file: it begins otherwise."};
  const auto xml_at = little<std::uint64_t>(text.data() + 24);
  const auto xml_length = little<std::uint64_t>(text.data() + 32);
  const auto page = little<std::uint64_t>(text.data() + 40);
  constexpr std::uint64_t kMostPage = 1 << 24;
  if (page < 64 || page > kMostPage)
    return Error{ErrorCode::InvalidInput, name + ": the head of the file is damaged."};
  if (const Status sound = check_pages(text, page, name, task); !sound) return sound.error();
  const Pages pages(text, page);
  std::string xml;
  constexpr std::uint64_t kLongest = 1ULL << 28;  // of a description: points stand elsewhere
  if (xml_length > std::min<std::uint64_t>(text.size(), kLongest) ||
      !pages.read(pages.logical(xml_at), xml_length, xml))
    return Error{ErrorCode::InvalidInput,
                 name + " is truncated: the description of its scans is missing."};
  const auto parsed = parse(xml, name);
  if (!parsed) return parsed.error();
  const Node* root = (*parsed)->root.child("e57Root");
  const Node* scans = root != nullptr ? root->child("data3D") : nullptr;
  LoadedCloud loaded;
  loaded.in_millimetres = true;
  if (scans != nullptr) {
    Reader reader(name, text, page, task);
    for (const auto& scan : scans->children) {
      if (const Status read = reader.scan(*scan, loaded); !read) return read.error();
    }
  }
  if (loaded.cloud.points.empty())
    return Error{ErrorCode::InvalidInput, name + " holds no points."};
  return loaded;
}

}  // namespace lostline::io
