#include "support/damage.h"

#include <zip.h>

#include <algorithm>
#include <cctype>
#include <memory>
#include <utility>
#include <vector>

#include "io/formats.h"
#include "store/project_file.h"

namespace lostline::testing {
namespace {

using Entries = std::vector<std::pair<std::string, std::string>>;  // names and what is in them

/// None where it is no archive.
Entries entries_of(const std::string& archive) {
  zip_error_t error;
  zip_error_init(&error);
  Entries entries;
  zip_source_t* source = zip_source_buffer_create(archive.data(), archive.size(), 0, &error);
  zip_t* zip = zip_open_from_source(source, ZIP_RDONLY, &error);
  if (zip == nullptr) {
    zip_source_free(source);
    return entries;
  }
  for (zip_int64_t i = 0; i < zip_get_num_entries(zip, 0); ++i) {
    zip_stat_t info;
    const auto index = static_cast<zip_uint64_t>(i);
    constexpr zip_uint64_t kMost = 1 << 20;  // bytes: small files are fuzzed
    if (zip_stat_index(zip, index, 0, &info) != 0 || info.size > kMost) continue;
    zip_file_t* file = zip_fopen_index(zip, index, 0);
    if (file == nullptr) continue;
    std::string content(info.size, '\0');
    const zip_int64_t read = zip_fread(file, content.data(), content.size());
    content.resize(read > 0 ? static_cast<std::size_t>(read) : 0);
    entries.emplace_back(info.name, std::move(content));
    zip_fclose(file);
  }
  zip_discard(zip);
  return entries;
}

std::string archive_of(const Entries& entries) {
  zip_error_t error;
  zip_error_init(&error);
  zip_source_t* whole = zip_source_buffer_create(nullptr, 0, 0, &error);
  zip_source_keep(whole);
  zip_t* zip = zip_open_from_source(whole, ZIP_TRUNCATE, &error);
  for (const auto& [name, content] : entries) {
    zip_source_t* source = zip_source_buffer(zip, content.data(), content.size(), 0);
    const zip_int64_t index =
        zip_file_add(zip, name.c_str(), source, ZIP_FL_ENC_UTF_8 | ZIP_FL_OVERWRITE);
    if (index < 0)
      zip_source_free(source);
    else
      zip_set_file_compression(zip, static_cast<zip_uint64_t>(index), ZIP_CM_STORE, 0);
  }
  std::string bytes;
  if (zip_close(zip) == 0 && zip_source_open(whole) == 0) {
    zip_source_seek(whole, 0, SEEK_END);
    bytes.resize(static_cast<std::size_t>(std::max<zip_int64_t>(0, zip_source_tell(whole))));
    zip_source_seek(whole, 0, SEEK_SET);
    zip_source_read(whole, bytes.data(), bytes.size());
    zip_source_close(whole);
  } else {
    zip_discard(zip);
  }
  zip_source_free(whole);
  return bytes;
}

/// Every value of a document.
void gather(nlohmann::ordered_json& json, std::vector<nlohmann::ordered_json*>& all) {
  all.push_back(&json);
  if (json.is_structured())
    for (auto& child : json) gather(child, all);
}

}  // namespace

std::string entry_of(const std::string& archive, const std::string& name) {
  for (const auto& [entry, content] : entries_of(archive))
    if (entry == name) return content;
  return {};
}

std::string with_entry(const std::string& archive, const std::string& name,
                       const std::string& content) {
  Entries entries = entries_of(archive);
  for (auto& [entry, old] : entries)
    if (entry == name) old = content;
  return archive_of(entries);
}

void exchange_parts(nlohmann::ordered_json& json, std::mt19937_64& random) {
  using Json = nlohmann::ordered_json;
  static const std::vector<Json> kOdd{nullptr,
                                      true,
                                      0,
                                      1,
                                      -1,
                                      2,
                                      std::uint64_t{1} << 61U,
                                      ~std::uint64_t{0},
                                      0.5,
                                      -1e300,
                                      1e300,
                                      "",
                                      "none",
                                      "{201",
                                      std::string(300, 'x'),
                                      Json::array(),
                                      Json::object(),
                                      Json::array({1, 2, 3}),
                                      Json{{"id", 1}}};
  do {
    std::vector<Json*> all;
    gather(json, all);
    // Of lists and groups there are few, and their damage is the deepest.
    std::vector<Json*> lists;
    std::copy_if(all.begin(), all.end(), std::back_inserter(lists),
                 [](const Json* j) { return j->is_structured() && !j->empty(); });
    const auto any = [&]() -> Json& { return *all[random() % all.size()]; };
    switch (random() % 5) {
      case 0:
        any() = kOdd[random() % kOdd.size()];
        break;
      case 1: {  // a copy of another one of its kind
        Json& to = any();
        std::vector<Json*> alike;
        std::copy_if(all.begin(), all.end(), std::back_inserter(alike),
                     [&](const Json* j) { return j->type() == to.type(); });
        to = Json(*alike[random() % alike.size()]);
        break;
      }
      case 2: {  // anything in the place of anything
        const Json from = any();
        any() = from;
        break;
      }
      case 3: {  // one more
        Json& list = *lists[random() % lists.size()];
        if (list.is_array()) list.push_back(Json(list[random() % list.size()]));
        break;
      }
      default: {  // one less
        Json& list = *lists[random() % lists.size()];
        auto it = list.begin();
        std::advance(it, random() % list.size());
        list.erase(it);
      }
    }
  } while (random() % 3 == 0 && json.is_structured());
}

std::string damaged(const std::string& good, std::mt19937_64& random) {
  if (good.starts_with("PK") && random() % 2 == 0) {
    Entries entries = entries_of(good);
    if (!entries.empty()) {
      std::string& one = entries[random() % entries.size()].second;
      one = damaged(one, random);
      if (std::string sealed = archive_of(entries); !sealed.empty()) return sealed;
    }
  }
  std::string bad = good;
  const auto at = [&]() -> std::size_t { return bad.empty() ? 0 : random() % bad.size(); };
  switch (random() % 5) {
    case 0:  // cut off
      bad.resize(at());
      break;
    case 1:  // single bytes
      for (int k = 0; k < 3 && !bad.empty(); ++k) bad[at()] = static_cast<char>(random());
      break;
    case 4: {  // digits, which leave text and numbers what they are
      for (int k = 0; k < 2; ++k) {
        const auto digit = std::find_if(bad.begin() + static_cast<std::ptrdiff_t>(at()), bad.end(),
                                        [](unsigned char c) { return std::isdigit(c) != 0; });
        constexpr std::string_view kInstead = "0123456789-.e";
        if (digit != bad.end()) *digit = kInstead[random() % kInstead.size()];
      }
      break;
    }
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
