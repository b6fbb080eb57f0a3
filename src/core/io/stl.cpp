#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cstring>

#include "io/files.h"
#include "io/mesh_files.h"
#include "io/weld.h"

namespace lostline::io {
namespace {

constexpr std::size_t kHeader = 84;
constexpr std::size_t kRecord = 50;

/// Words of a text with their line, for messages.
class Words {
 public:
  explicit Words(std::string_view text) : text_(text) {}
  std::string_view next() {
    while (at_ < text_.size() && is_space(text_[at_])) {
      if (text_[at_] == '\n') ++line;
      ++at_;
    }
    const std::size_t begin = at_;
    while (at_ < text_.size() && !is_space(text_[at_])) ++at_;
    return text_.substr(begin, at_ - begin);
  }
  void skip_line() {
    while (at_ < text_.size() && text_[at_] != '\n') ++at_;
  }
  [[nodiscard]] double share() const {
    return static_cast<double>(at_) / static_cast<double>(text_.size());
  }
  std::size_t line = 1;

 private:
  static bool is_space(char c) { return c == ' ' || c == '\n' || c == '\r' || c == '\t'; }
  std::string_view text_;
  std::size_t at_ = 0;
};

bool equals_ignoring_case(std::string_view a, std::string_view b) {
  return a.size() == b.size() && std::equal(a.begin(), a.end(), b.begin(), [](char x, char y) {
           return std::tolower(static_cast<unsigned char>(x)) == y;
         });
}

Result<LoadedMesh> read_ascii(const std::filesystem::path& path, std::string_view text,
                              const Task& task) {
  std::vector<float> soup;
  Words words(text);
  words.skip_line();  // solid NAME
  std::size_t in_facet = 0;
  bool ended = false;
  for (std::string_view word = words.next(); !word.empty(); word = words.next()) {
    if (equals_ignoring_case(word, "vertex")) {
      for (int k = 0; k < 3; ++k) {
        const std::string_view number = words.next();
        float value = 0;
        const char* first = number.data() + (number.starts_with('+') ? 1 : 0);
        const auto [rest, error] = std::from_chars(first, number.data() + number.size(), value);
        if (error == std::errc::invalid_argument || rest != number.data() + number.size()) {
          return Error{ErrorCode::InvalidInput,
                       fmt::format("{} line {}: \"{}\" is not a coordinate.", path.string(),
                                   words.line, number.substr(0, 40))};
        }
        soup.push_back(value);
      }
      ++in_facet;
      if (soup.size() % 30000 == 0) {
        if (task.stopped()) return cancelled();
        task.report(0.7 * words.share());
      }
    } else if (equals_ignoring_case(word, "endfacet")) {
      if (in_facet != 3) {
        return Error{ErrorCode::InvalidInput,
                     fmt::format("{} line {}: a facet has {} corners instead of 3.", path.string(),
                                 words.line, in_facet)};
      }
      in_facet = 0;
    } else if (equals_ignoring_case(word, "endsolid")) {
      ended = true;
      words.skip_line();
    } else if (equals_ignoring_case(word, "solid")) {
      ended = false;
      words.skip_line();
    }
  }
  if (in_facet != 0 || !ended) {
    return Error{
        ErrorCode::InvalidInput,
        fmt::format("{} ends in the middle (line {}): the file is truncated after {} triangles.",
                    path.string(), words.line, soup.size() / 9)};
  }
  if (soup.empty()) {
    return Error{ErrorCode::InvalidInput, path.string() + " holds no triangles."};
  }
  return weld_soup(reinterpret_cast<const char*>(soup.data()), soup.size() / 9, 36,
                   task.part(0.7, 1.0));
}

}  // namespace

Result<LoadedMesh> read_stl(const std::filesystem::path& path, const Task& task) {
  Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  const std::size_t size = file->size();
  std::uint32_t count = 0;
  if (size >= kHeader) std::memcpy(&count, file->data() + 80, sizeof count);
  const bool exact = size >= kHeader && size == kHeader + kRecord * static_cast<std::size_t>(count);
  // Many binary files begin with "solid" too; the size decides, then the presence of facets.
  const std::string_view start = file->text().substr(0, 4096);
  const bool looks_ascii =
      start.starts_with("solid") && (start.find("facet") != std::string_view::npos ||
                                     start.find("endsolid") != std::string_view::npos);
  if (!exact && looks_ascii) return read_ascii(path, file->text(), task);
  if (size < kHeader) {
    return Error{
        ErrorCode::InvalidInput,
        fmt::format("{} is no STL file: {} bytes are less than its header.", path.string(), size)};
  }
  const std::size_t held = (size - kHeader) / kRecord;
  if (count == 0 && held == 0) {
    return Error{ErrorCode::InvalidInput, path.string() + " holds no triangles."};
  }
  if (held < count) {
    return Error{
        ErrorCode::InvalidInput,
        fmt::format(
            "{} is truncated or no STL file: its header announces {} triangles, its {} bytes "
            "hold {}. Export or copy it again.",
            path.string(), count, size, held)};
  }
  if (count == 0) {
    return Error{ErrorCode::InvalidInput, path.string() + " announces no triangles in its header."};
  }
  return weld_soup(file->data() + kHeader + 12, count, kRecord, task);
}

Status write_stl(const std::filesystem::path& path, const scan::Mesh& mesh) {
  std::string content(kHeader + kRecord * mesh.triangles.size(), '\0');
  const std::string title = "triangles in millimetres";
  std::copy(title.begin(), title.end(), content.begin());
  const auto count = static_cast<std::uint32_t>(mesh.triangles.size());
  std::memcpy(content.data() + 80, &count, sizeof count);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    char* record = content.data() + kHeader + kRecord * t;
    const Vec3 area = mesh.area_vector(t);
    const double length = area.norm();
    std::array<float, 12> numbers{};
    for (int k = 0; k < 3; ++k) {
      numbers[static_cast<std::size_t>(k)] =
          static_cast<float>(length > 0 ? area[k] / length : 0.0);
      for (int c = 0; c < 3; ++c) {
        numbers[3 + 3 * static_cast<std::size_t>(c) + static_cast<std::size_t>(k)] =
            static_cast<float>(mesh.corner(t, c)[k]);
      }
    }
    std::memcpy(record, numbers.data(), sizeof numbers);
  }
  return write_file_atomically(path, content);
}

}  // namespace lostline::io
