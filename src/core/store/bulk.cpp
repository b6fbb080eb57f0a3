#include "store/bulk.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/hash.h"
#include "io/files.h"

namespace lostline::store {

using namespace project;
namespace {

template <class Array>
std::string_view bytes_of(const Array& array) {
  return {reinterpret_cast<const char*>(array.data()),
          array.size() * sizeof(typename Array::value_type)};
}

/// The models that steps brought with them, each once.
std::map<std::string, std::shared_ptr<const model::Imported>> imports_of(const Document& document) {
  struct Gather : model::Listener {
    std::map<std::string, std::shared_ptr<const model::Imported>> list;
    void imported(const char*, std::shared_ptr<const model::Imported>& imported) override {
      if (imported) list[import_entry(*imported)] = imported;
    }
  } gather;
  for (const model::Step& step : document.steps) step.feature.describe(gather);
  return std::move(gather.list);
}

}  // namespace

std::string scan_entry(std::size_t place, const char* what) {
  return (place == 0 ? std::string("scan/") : "scans/" + std::to_string(place) + "/") + what;
}
std::string fit_entry(Id id) { return "fits/" + std::to_string(id) + ".u32"; }
std::string part_entry(Id id) { return "sketches/" + std::to_string(id) + ".u32"; }
std::string import_entry(const model::Imported& imported) {
  return fmt::format("models/{:016x}", imported.hash);
}

std::vector<Bulk> bulk_of(const Document& document) {
  std::vector<Bulk> all;
  const auto add_scan = [&](const std::shared_ptr<const Scan>& scan, std::size_t place) {
    const auto& mesh = scan->mesh;
    all.push_back({scan_entry(place, "vertices.f64"), mesh, bytes_of(mesh->vertices)});
    all.push_back({scan_entry(place, "triangles.u32"), mesh, bytes_of(mesh->triangles)});
  };
  if (document.scan) add_scan(document.scan, 0);
  for (std::size_t i = 0; i < document.other_scans.size(); ++i)
    add_scan(document.other_scans[i], i + 1);
  if (document.survey)
    all.push_back(
        {"survey/regions.u32", document.survey, bytes_of(document.survey->triangle_region)});
  for (const auto& f : document.fits) {
    if (f->triangles && !f->triangles->empty())
      all.push_back({fit_entry(f->id), f->triangles, bytes_of(*f->triangles)});
  }
  for (const auto& traced : document.sketches) {
    if (traced->part && !traced->part->empty())
      all.push_back({part_entry(traced->id), traced->part, bytes_of(*traced->part)});
  }
  for (const auto& [entry, imported] : imports_of(document))
    all.push_back({entry, imported, imported->bytes, true});
  return all;
}

std::filesystem::path BulkFolder::of(const std::filesystem::path& project) {
  return project.string() + ".data";
}

std::string BulkFolder::name_of(std::string_view bytes) {
  return fmt::format("{:016x}-{:x}", Hash().add_bytes(bytes.data(), bytes.size()).value(),
                     bytes.size());
}

bool BulkFolder::is_name(const std::string& text) {
  return !text.empty() && text.size() < 64 &&
         text.find_first_not_of("0123456789abcdef-") == std::string::npos;
}

Result<std::string> BulkFolder::put(const Bulk& bulk) {
  Known& known = known_[bulk.entry];
  std::error_code code;
  if (bulk.owner && known.owner.lock() == bulk.owner && known.data == bulk.bytes.data() &&
      std::filesystem::exists(folder_ / known.name, code))
    return known.name;
  const std::string name = name_of(bulk.bytes);
  std::filesystem::create_directories(folder_, code);
  const auto path = folder_ / name;
  if (!std::filesystem::exists(path, code)) {
    if (const Status written = io::write_file_atomically(path, bulk.bytes); !written)
      return written.error();
  }
  known = {bulk.owner, bulk.bytes.data(), name};
  return name;
}

void BulkFolder::keep_only(const std::set<std::string>& names) {
  std::error_code code;
  std::vector<std::filesystem::path> stale;
  for (const auto& file : std::filesystem::directory_iterator(folder_, code)) {
    if (!names.contains(file.path().filename().string())) stale.push_back(file.path());
  }
  for (const auto& path : stale) std::filesystem::remove(path, code);
  std::erase_if(known_, [&](const auto& item) { return !names.contains(item.second.name); });
}

}  // namespace lostline::store
