// Points in columns of text: XYZ, ASC, PTS and PTX.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstring>
#include <limits>

#include "io/cloud_files.h"
#include "io/files.h"

namespace lostline::io {
namespace {

constexpr std::size_t kMostColumns = 32;

/// Lines of a text as numbers; words that are no numbers stop a line.
class Rows {
 public:
  Rows(std::string_view text, bool decimal_comma) : text_(text), decimal_comma_(decimal_comma) {}

  /// The next line that is neither empty nor a comment; false at the end.
  bool next() {
    while (at_ < text_.size()) {
      const std::size_t end = std::min(text_.find('\n', at_), text_.size());
      line = text_.substr(at_, end - at_);
      at_ = end + 1;
      ++number;
      const std::size_t begin = line.find_first_not_of(" \t\r");
      if (begin == std::string_view::npos) continue;
      line.remove_prefix(begin);
      if (line[0] == '#' || line.starts_with("//")) continue;
      read();
      return true;
    }
    return false;
  }
  [[nodiscard]] double share() const {
    return static_cast<double>(at_) / static_cast<double>(std::max<std::size_t>(1, text_.size()));
  }

  std::string_view line;
  std::size_t number = 0;
  std::array<double, kMostColumns> values{};
  std::size_t count = 0;  ///< numbers at the head of the line
  bool whole = false;     ///< nothing but numbers in it

 private:
  void read() {
    count = 0;
    whole = true;
    const char* at = line.data();
    const char* const end = line.data() + line.size();
    const auto separates = [&](char c) {
      return c == ' ' || c == '\t' || c == ';' || c == '\r' || (c == ',' && !decimal_comma_);
    };
    while (count < values.size()) {
      while (at < end && separates(*at)) ++at;
      if (at == end) return;
      if (*at == '+') ++at;
      std::from_chars_result parsed{};
      if (decimal_comma_) {
        std::array<char, 64> copy{};
        std::size_t n = 0;
        while (at + n < end && !separates(at[n]) && n < copy.size()) {
          copy[n] = at[n] == ',' ? '.' : at[n];
          ++n;
        }
        parsed = std::from_chars(copy.data(), copy.data() + n, values[count]);
        parsed.ptr = at + (parsed.ptr - copy.data());
      } else {
        parsed = std::from_chars(at, end, values[count]);
      }
      if (parsed.ec == std::errc::result_out_of_range) values[count] = 0;
      if (parsed.ec == std::errc::invalid_argument ||
          (parsed.ptr < end && !separates(*parsed.ptr))) {
        whole = false;
        return;
      }
      at = parsed.ptr;
      ++count;
    }
  }
  std::string_view text_;
  std::size_t at_ = 0;
  bool decimal_comma_;
};

/// A comma between digits where other things part the columns.
bool has_decimal_comma(std::string_view text) {
  text = text.substr(0, std::min<std::size_t>(text.size(), 4000));
  std::size_t commas = 0;
  std::size_t points = 0;
  std::size_t others = 0;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const bool between = i > 0 && i + 1 < text.size() && text[i - 1] >= '0' && text[i - 1] <= '9' &&
                         text[i + 1] >= '0' && text[i + 1] <= '9';
    if (text[i] == ',' && between) ++commas;
    if (text[i] == '.' && between) ++points;
    if (text[i] == ';' || text[i] == '\t' || text[i] == ' ') ++others;
  }
  return commas > 0 && points == 0 && others > 0;
}

enum class Column { Other, X, Y, Z, Nx, Ny, Nz, Red, Green, Blue, Intensity };
constexpr std::array kWords{"-",  "x",   "y",     "z",    "nx",       "ny",
                            "nz", "red", "green", "blue", "intensity"};

/// Columns by a line of their names; empty when it is none.
std::vector<Column> by_names(std::string_view line) {
  std::vector<Column> columns;
  std::size_t known = 0;
  std::string word;
  const auto take = [&] {
    if (word.empty()) return;
    std::transform(word.begin(), word.end(), word.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    Column column = Column::Other;
    const auto is = [&](std::initializer_list<const char*> names) {
      return std::any_of(names.begin(), names.end(), [&](const char* n) { return word == n; });
    };
    if (is({"x", "px"})) column = Column::X;
    if (is({"y", "py"})) column = Column::Y;
    if (is({"z", "pz"})) column = Column::Z;
    if (is({"nx", "normal_x", "normalx", "i", "xn"})) column = Column::Nx;
    if (is({"ny", "normal_y", "normaly", "j", "yn"})) column = Column::Ny;
    if (is({"nz", "normal_z", "normalz", "k", "zn"})) column = Column::Nz;
    if (is({"r", "red"})) column = Column::Red;
    if (is({"g", "green"})) column = Column::Green;
    if (is({"b", "blue"})) column = Column::Blue;
    if (is({"intensity", "int", "reflectance"})) column = Column::Intensity;
    known += column != Column::Other ? 1 : 0;
    columns.push_back(column);
    word.clear();
  };
  for (const char c : line) {
    if (c == ' ' || c == '\t' || c == ',' || c == ';' || c == '\r')
      take();
    else if (c != '"' && c != '[' && c != ']' && c != '#' && c != '/')
      word += c;
  }
  take();
  const auto has = [&](Column c) {
    return std::find(columns.begin(), columns.end(), c) != columns.end();
  };
  if (known < 3 || !has(Column::X) || !has(Column::Y) || !has(Column::Z)) return {};
  return columns;
}

/// Columns by the values of the first rows.
std::vector<Column> by_values(const std::vector<std::array<double, kMostColumns>>& rows,
                              std::size_t count) {
  std::vector<Column> columns(count, Column::Other);
  columns[0] = Column::X;
  columns[1] = Column::Y;
  columns[2] = Column::Z;
  const auto all = [&](auto holds) { return std::all_of(rows.begin(), rows.end(), holds); };
  for (std::size_t c = 3; c + 2 < count;) {
    const bool unit =
        all([&](const auto& row) {
          const double size = std::hypot(row[c], row[c + 1], row[c + 2]);
          return std::abs(size - 1) < 0.02 || size == 0;
        }) &&
        !all([&](const auto& row) { return row[c] == 0 && row[c + 1] == 0 && row[c + 2] == 0; });
    const bool colour = all([&](const auto& row) {
      return std::all_of(row.begin() + static_cast<std::ptrdiff_t>(c),
                         row.begin() + static_cast<std::ptrdiff_t>(c) + 3,
                         [](double v) { return v >= 0 && v <= 255 && v == std::floor(v); });
    });
    if (unit || colour) {
      for (std::size_t k = 0; k < 3; ++k)
        columns[c + k] = static_cast<Column>(static_cast<int>(unit ? Column::Nx : Column::Red) +
                                             static_cast<int>(k));
      c += 3;
    } else {
      ++c;
    }
  }
  const auto other = std::find(columns.begin(), columns.end(), Column::Other);
  if (other != columns.end()) *other = Column::Intensity;
  return columns;
}

std::string words_of(const std::vector<Column>& columns) {
  std::string text;
  for (const Column c : columns) {
    if (!text.empty()) text += ' ';
    text += kWords[static_cast<std::size_t>(c)];
  }
  return text;
}

}  // namespace

Result<LoadedCloud> read_text_points(const std::filesystem::path& path, const Task& task) {
  const Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  const std::string_view text = file->text();
  if (text.substr(0, 4096).find('\0') != std::string_view::npos)
    return Error{ErrorCode::InvalidInput,
                 path.string() + " is no text: points are read from lines of numbers."};
  const bool comma = has_decimal_comma(text);
  // The first lines tell what the columns are.
  std::vector<Column> columns;
  std::vector<std::array<double, kMostColumns>> first;
  std::size_t most = 0;
  {
    // Names may stand in a comment.
    const std::size_t end = std::min(text.find('\n'), text.size());
    columns = by_names(text.substr(0, end));
    Rows rows(text, comma);
    constexpr std::size_t kEnough = 200;
    while (first.size() < kEnough && rows.next()) {
      if (first.empty() && columns.empty() && rows.count == 0) columns = by_names(rows.line);
      if (rows.count < 3 || !rows.whole) continue;
      first.push_back(rows.values);
      most = first.size() == 1 ? rows.count : std::min(most, rows.count);
    }
  }
  if (first.empty())
    return Error{ErrorCode::InvalidInput,
                 path.string() + " holds no line of at least three numbers."};
  if (columns.size() < 3 || columns.size() > most) columns = by_values(first, most);
  std::array<std::size_t, 6> place{};
  bool normals = true;
  for (std::size_t k = 0; k < place.size(); ++k) {
    const auto wanted = static_cast<Column>(static_cast<int>(Column::X) + static_cast<int>(k));
    const auto at = std::find(columns.begin(), columns.end(), wanted);
    if (at == columns.end()) normals = false;
    place[k] = static_cast<std::size_t>(at - columns.begin());
  }
  LoadedCloud loaded;
  loaded.columns = words_of(columns);
  Rows rows(text, comma);
  const std::size_t needed =
      1 + *std::max_element(place.begin(), place.begin() + (normals ? 6 : 3));
  bool begun = false;
  while (rows.next()) {
    if (rows.number % 65536 == 0) {
      if (task.stopped()) return cancelled();
      task.report(rows.share());
    }
    if (rows.count < 3 || rows.count < needed) {
      // Names and a count may come before the first point, or between the clouds of a file.
      const bool count_line = rows.whole && rows.count == 1;
      if (!begun || count_line) continue;
      return Error{ErrorCode::InvalidInput,
                   fmt::format("{}, line {}: {} numbers where {} were expected ({}).",
                               path.string(), rows.number, rows.count, needed, loaded.columns)};
    }
    begun = true;
    const Vec3 p(rows.values[place[0]], rows.values[place[1]], rows.values[place[2]]);
    if (!p.allFinite()) {
      ++loaded.skipped;
      continue;
    }
    loaded.cloud.points.push_back(p);
    if (!normals) continue;
    const Vec3 n(rows.values[place[3]], rows.values[place[4]], rows.values[place[5]]);
    const double size = n.norm();
    loaded.cloud.normals.push_back(size > 0 && std::isfinite(size) ? Vec3(n / size)
                                                                   : Vec3(Vec3::Zero()));
  }
  if (loaded.cloud.points.empty())
    return Error{ErrorCode::InvalidInput, path.string() + " holds no points."};
  return loaded;
}

Result<LoadedCloud> read_ptx(const std::filesystem::path& path, const Task& task) {
  const Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  Rows rows(file->text(), false);
  LoadedCloud loaded;
  loaded.columns = "x y z intensity";
  const auto bad = [&](const std::string& why) {
    return Error{ErrorCode::InvalidInput,
                 fmt::format("{}, line {}: {}", path.string(), rows.number, why)};
  };
  for (int position = 1; rows.next(); ++position) {
    // Columns and rows, where the scanner stood and how it was turned, and the transform by rows.
    const double across = rows.values[0];
    if (rows.count != 1 || !rows.next() || rows.count != 1)
      return bad("the numbers of columns and rows of a scanner position are missing.");
    const double down = rows.values[0];
    if (!(across >= 1) || !(down >= 1) || across * down > static_cast<double>(file->size()))
      return bad("a scanner position announces more points than the file can hold.");
    for (int k = 0; k < 4; ++k) {
      if (!rows.next() || rows.count != 3)
        return bad("where the scanner stood takes four lines of three numbers.");
    }
    Transform to_file = Transform::Identity();
    for (int k = 0; k < 4; ++k) {
      if (!rows.next() || rows.count != 4)
        return bad("the transform of a scanner position takes four lines of four numbers.");
      // A row vector is multiplied from the left: the last line is the shift.
      for (int c = 0; c < 3; ++c) to_file.matrix()(c, k) = rows.values[static_cast<std::size_t>(c)];
    }
    const auto count = static_cast<std::size_t>(across * down);
    loaded.cloud.eyes.emplace_back(to_file.translation());
    if (loaded.cloud.eyes.size() > std::numeric_limits<std::uint16_t>::max())
      return bad("there are more scanner positions than can be told apart.");
    for (std::size_t i = 0; i < count; ++i) {
      if (!rows.next() || rows.count < 3)
        return bad(
            fmt::format("scanner position {} ends after {} of {} points.", position, i, count));
      if (i % 65536 == 0) {
        if (task.stopped()) return cancelled();
        task.report(rows.share());
      }
      const Vec3 p(rows.values[0], rows.values[1], rows.values[2]);
      if (!p.allFinite() || p.squaredNorm() == 0) {
        ++loaded.skipped;
        continue;
      }
      loaded.cloud.points.emplace_back(to_file * p);
      loaded.cloud.seen.push_back(static_cast<std::uint16_t>(loaded.cloud.eyes.size() - 1));
    }
  }
  if (loaded.cloud.points.empty())
    return Error{ErrorCode::InvalidInput, path.string() + " holds no points."};
  return loaded;
}

Status write_xyz(const std::filesystem::path& path, const scan::PointCloud& cloud) {
  std::string content;
  content.reserve(cloud.points.size() * (cloud.has_normals() ? 90 : 45));
  for (std::size_t i = 0; i < cloud.points.size(); ++i) {
    const Vec3& p = cloud.points[i];
    content += fmt::format("{} {} {}", p.x(), p.y(), p.z());
    if (cloud.has_normals()) {
      const Vec3& n = cloud.normals[i];
      content += fmt::format(" {} {} {}", n.x(), n.y(), n.z());
    }
    content += '\n';
  }
  return write_file_atomically(path, content);
}

}  // namespace lostline::io
