// Indexed meshes in text: OBJ and OFF.
#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstring>

#include "io/files.h"
#include "io/mesh_files.h"
#include "io/weld.h"

namespace lostline::io {
namespace {

constexpr std::size_t kMostCorners = 100000;  // of one polygon: more is damage

/// Lines of a text cut into words; `#` begins a comment.
class Lines {
 public:
  explicit Lines(std::string_view text) : text_(text) {}
  /// The next line with words in it; empty at the end.
  const std::vector<std::string_view>& next() {
    words_.clear();
    while (words_.empty() && at_ < text_.size()) {
      const std::size_t end = std::min(text_.find('\n', at_), text_.size());
      split(text_.substr(at_, end - at_));
      at_ = end + 1;
      ++number;
    }
    return words_;
  }
  [[nodiscard]] double share() const {
    return static_cast<double>(at_) / static_cast<double>(std::max<std::size_t>(1, text_.size()));
  }
  std::size_t number = 0;

 private:
  void split(std::string_view line) {
    line = line.substr(0, line.find('#'));
    std::size_t i = 0;
    while (i < line.size()) {
      const std::size_t begin = line.find_first_not_of(" \t\r", i);
      if (begin == std::string_view::npos) return;
      const std::size_t end = std::min(line.find_first_of(" \t\r", begin), line.size());
      words_.push_back(line.substr(begin, end - begin));
      i = end;
    }
  }
  std::string_view text_;
  std::size_t at_ = 0;
  std::vector<std::string_view> words_;
};

template <class T>
bool read_number(std::string_view word, T& value) {
  if (word.starts_with('+')) word.remove_prefix(1);
  const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
  return error == std::errc{} && end == word.data() + word.size();
}

Error at_line(const std::filesystem::path& path, std::size_t line, const std::string& what) {
  return {ErrorCode::InvalidInput, path.string() + ", line " + std::to_string(line) + ": " + what};
}

/// A polygon as a fan of triangles; corners that repeat make no triangle.
void add_polygon(const std::vector<std::uint32_t>& corners, LoadedMesh& loaded) {
  for (std::size_t c = 2; c < corners.size(); ++c)
    loaded.mesh.triangles.push_back({corners[0], corners[c - 1], corners[c]});
}

}  // namespace

Result<LoadedMesh> read_obj(const std::filesystem::path& path, const Task& task) {
  Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  Lines lines(file->text());
  LoadedMesh loaded;
  std::vector<Vec3>& vertices = loaded.mesh.vertices;
  std::vector<std::uint32_t> polygon;
  for (const auto* words = &lines.next(); !words->empty(); words = &lines.next()) {
    if (lines.number % 65536 == 0) {
      if (task.stopped()) return cancelled();
      task.report(0.8 * lines.share());
    }
    if ((*words)[0] == "v") {
      Vec3 p;
      if (words->size() < 4 || !read_number((*words)[1], p.x()) ||
          !read_number((*words)[2], p.y()) || !read_number((*words)[3], p.z()))
        return at_line(path, lines.number, "a vertex needs three numbers.");
      vertices.push_back(p);
    } else if ((*words)[0] == "f") {
      polygon.clear();
      if (words->size() > kMostCorners) return at_line(path, lines.number, "this face is damaged.");
      for (std::size_t i = 1; i < words->size(); ++i) {
        const std::string_view word = (*words)[i].substr(0, (*words)[i].find('/'));
        long long index = 0;
        if (!read_number(word, index) || index == 0)
          return at_line(path, lines.number,
                         "\"" + std::string((*words)[i]) + "\" is no corner of a face.");
        // Counted from 1, or backwards from the vertices read so far.
        index = index > 0 ? index - 1 : index + static_cast<long long>(vertices.size());
        if (index < 0 || index > 0xfffffffeLL)
          return at_line(path, lines.number, "the face names a vertex that does not exist.");
        polygon.push_back(static_cast<std::uint32_t>(index));
      }
      if (polygon.size() < 3) return at_line(path, lines.number, "a face needs three corners.");
      add_polygon(polygon, loaded);
    }
  }
  for (const scan::Triangle& t : loaded.mesh.triangles) {
    if (*std::max_element(t.begin(), t.end()) >= vertices.size())
      return Error{ErrorCode::InvalidInput,
                   path.string() + ": a face names a vertex that does not exist."};
  }
  if (loaded.mesh.triangles.empty()) {
    return Error{vertices.empty() ? ErrorCode::InvalidInput : ErrorCode::Unsupported,
                 path.string() + (vertices.empty() ? " is no OBJ file: it holds no vertices."
                                                   : " holds points but no faces: a point cloud "
                                                     "must be meshed first.")};
  }
  return welded(std::move(loaded), task);
}

Result<LoadedMesh> read_off(const std::filesystem::path& path, const Task& task) {
  Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  Lines lines(file->text());
  std::vector<std::string_view> words = lines.next();
  const bool known = !words.empty() && (words[0] == "OFF" || words[0] == "COFF" ||
                                        words[0] == "NOFF" || words[0] == "CNOFF");
  if (!known)
    return Error{ErrorCode::InvalidInput, path.string() + " is no OFF file: it begins otherwise."};
  words.erase(words.begin());
  if (words.empty()) words = lines.next();
  std::size_t vertex_count = 0;
  std::size_t face_count = 0;
  if (words.size() < 2 || !read_number(words[0], vertex_count) ||
      !read_number(words[1], face_count))
    return at_line(path, lines.number, "the numbers of vertices and faces are missing.");
  // Each takes at least two characters: a larger count is a lie, not a reason to run out of memory.
  if (vertex_count > file->size() || face_count > file->size())
    return at_line(path, lines.number, "the file is too short for what it announces.");
  LoadedMesh loaded;
  loaded.mesh.vertices.reserve(vertex_count);
  for (std::size_t i = 0; i < vertex_count; ++i) {
    const auto& line = lines.next();
    Vec3 p;
    if (line.size() < 3 || !read_number(line[0], p.x()) || !read_number(line[1], p.y()) ||
        !read_number(line[2], p.z()))
      return at_line(path, lines.number,
                     line.empty() ? "the file is truncated." : "a vertex needs three numbers.");
    loaded.mesh.vertices.push_back(p);
    if (i % 65536 == 0) {
      if (task.stopped()) return cancelled();
      task.report(0.8 * lines.share());
    }
  }
  std::vector<std::uint32_t> polygon;
  for (std::size_t i = 0; i < face_count; ++i) {
    const auto& line = lines.next();
    std::size_t corners = 0;
    if (line.empty() || !read_number(line[0], corners) || corners > kMostCorners ||
        line.size() < corners + 1)
      return at_line(path, lines.number,
                     line.empty() ? "the file is truncated." : "this face is damaged.");
    polygon.clear();
    for (std::size_t k = 1; k <= corners; ++k) {
      std::uint32_t index = 0;
      if (!read_number(line[k], index) || index >= vertex_count)
        return at_line(path, lines.number, "the face names a vertex that does not exist.");
      polygon.push_back(index);
    }
    add_polygon(polygon, loaded);
    if (i % 65536 == 0) {
      if (task.stopped()) return cancelled();
      task.report(0.8 * lines.share());
    }
  }
  if (loaded.mesh.triangles.empty())
    return Error{ErrorCode::Unsupported,
                 path.string() + " holds no faces: a point cloud must be meshed first."};
  return welded(std::move(loaded), task);
}

}  // namespace lostline::io
