#include "support/damage.h"

#include <algorithm>

#include "io/formats.h"
#include "store/project_file.h"

namespace lostline::testing {

std::string damaged(const std::string& good, std::mt19937_64& random) {
  std::string bad = good;
  const auto at = [&]() -> std::size_t { return bad.empty() ? 0 : random() % bad.size(); };
  switch (random() % 4) {
    case 0:  // cut off
      bad.resize(at());
      break;
    case 1:  // single bytes
      for (int k = 0; k < 3 && !bad.empty(); ++k) bad[at()] = static_cast<char>(random());
      break;
    case 2:  // a stretch repeated
      if (!bad.empty()) {
        const std::size_t from = at();
        bad.insert(at(), bad.substr(from, random() % 64));
      }
      break;
    default:  // a stretch missing
      if (!bad.empty()) bad.erase(at(), random() % 64);
  }
  return bad;
}

ReadFile read_any(const std::filesystem::path& path) {
  const auto of = [](const auto& result) {
    ReadFile read;
    read.taken = static_cast<bool>(result);
    if (!result) read.message = result.error().message;
    return read;
  };
  if (path.extension() == ".lostline") return of(store::load_project(path));
  const io::Format* format = io::format_of(path);
  if (format == nullptr) return {false, true, "no format"};
  if (format->read_model != nullptr) return of(io::read_model(path));
  if (format->read_curves != nullptr) return of(io::read_curves(path));
  if (format->read_mesh == nullptr) {
    const auto loaded = io::read_points(path);
    ReadFile read = of(loaded);
    if (loaded)
      read.sound = std::all_of(loaded->cloud.points.begin(), loaded->cloud.points.end(),
                               [](const Vec3& p) { return p.allFinite(); });
    return read;
  }
  const auto loaded = io::read_mesh(path);
  ReadFile read = of(loaded);
  if (!loaded) return read;
  for (const scan::Triangle& t : loaded->mesh.triangles) {
    for (const std::uint32_t v : t)
      read.sound =
          read.sound && v < loaded->mesh.vertices.size() && loaded->mesh.vertices[v].allFinite();
  }
  return read;
}

}  // namespace lostline::testing
