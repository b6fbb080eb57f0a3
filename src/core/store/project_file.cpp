#include "store/project_file.h"

#include <fmt/format.h>
#include <zip.h>

#include <algorithm>
#include <cstring>
#include <limits>
#include <memory>

#include "io/files.h"
#include "io/step.h"
#include "project/edits.h"
#include "project/sketch_plane.h"
#include "store/bulk.h"
#include "store/contradictions.h"
#include "store/manifest.h"
#include "survey/finish.h"

namespace lostline::store {

using namespace project;  // the document and its edits
namespace {

struct ZipCloser {
  void operator()(zip_t* archive) const { zip_discard(archive); }
};
using Zip = std::unique_ptr<zip_t, ZipCloser>;

/// Adds bytes that stay alive until the archive is closed, uncompressed: reading them back is then
/// one copy.
bool add_bytes(zip_t* archive, const std::string& name, const void* data, std::size_t size,
               bool compress) {
  zip_source_t* source = zip_source_buffer(archive, data, size, 0);
  if (source == nullptr) return false;
  const zip_int64_t index =
      zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8 | ZIP_FL_OVERWRITE);
  if (index < 0) {
    zip_source_free(source);
    return false;
  }
  zip_set_file_compression(archive, static_cast<zip_uint64_t>(index),
                           compress ? ZIP_CM_DEFLATE : ZIP_CM_STORE, 0);
  // A fixed time makes equal documents equal files.
  zip_file_set_mtime(archive, static_cast<zip_uint64_t>(index), 946684800, 0);
  return true;
}

/// Bulk data of a project file, in the archive or in the folder beside it.
class Entries {
 public:
  Entries(zip_t* archive, std::filesystem::path folder)
      : archive_(archive), folder_(std::move(folder)) {}

  /// What the manifest says of data beside the file.
  void beside(std::map<std::string, std::string> names) { names_ = std::move(names); }

  /// A whole entry; empty optional when it is missing, larger than `most` or damaged.
  [[nodiscard]] std::optional<std::string> read(const std::string& name, std::size_t most) const {
    if (const auto file = file_of(name)) {
      if (file->size() > most) return std::nullopt;
      return std::string(file->text());
    }
    const auto size = size_of(name);
    if (!size || *size > most) return std::nullopt;
    std::string content(*size, '\0');
    if (!fill(name, content.data(), *size)) return std::nullopt;
    return content;
  }
  /// An entry of `count` items, read to where they stay.
  template <class T>
  [[nodiscard]] std::optional<std::vector<T>> array(const std::string& name,
                                                    std::size_t count) const {
    if (count > std::numeric_limits<std::size_t>::max() / sizeof(T)) return std::nullopt;
    const std::size_t size = count * sizeof(T);
    if (size == 0) return std::vector<T>();
    const auto file = file_of(name);
    const auto there = file ? std::optional(file->size()) : size_of(name);
    if (!there || *there != size) return std::nullopt;
    std::vector<T> items(count);
    if (file)
      std::memcpy(static_cast<void*>(items.data()), file->data(), size);
    else if (!fill(name, items.data(), size))
      return std::nullopt;
    return items;
  }

 private:
  [[nodiscard]] std::optional<io::MappedFile> file_of(const std::string& name) const {
    const auto it = names_.find(name);
    if (it == names_.end() || !BulkFolder::is_name(it->second)) return std::nullopt;
    auto file = io::MappedFile::open(folder_ / it->second);
    if (!file || BulkFolder::name_of(file->text()) != it->second) return std::nullopt;
    return *std::move(file);
  }
  /// Bytes of an entry; none where it is missing or cannot be as large as it claims.
  [[nodiscard]] std::optional<std::size_t> size_of(const std::string& name) const {
    zip_stat_t info;
    if (zip_stat(archive_, name.c_str(), 0, &info) != 0 || (info.valid & ZIP_STAT_SIZE) == 0)
      return std::nullopt;
    // Deflated data grow by 1032 at most (RFC 1951: 258 bytes of two bits): what claims more is
    // refused before memory is taken for it.
    if ((info.valid & ZIP_STAT_COMP_SIZE) == 0 || info.size / 1100 > info.comp_size + 1)
      return std::nullopt;
    return info.size;
  }
  /// False when the entry is cut off or its checksum does not match.
  bool fill(const std::string& name, void* to, std::size_t size) const {
    zip_file_t* file = zip_fopen(archive_, name.c_str(), 0);
    if (file == nullptr) return false;
    std::size_t done = 0;
    while (done < size) {
      const zip_int64_t count = zip_fread(file, static_cast<char*>(to) + done, size - done);
      if (count <= 0) break;
      done += static_cast<std::size_t>(count);
    }
    char extra = 0;
    const bool complete =
        done == size && zip_fread(file, &extra, 1) == 0;  // past the end it checks the checksum
    return zip_fclose(file) == 0 && complete;
  }

  zip_t* archive_;
  std::filesystem::path folder_;
  std::map<std::string, std::string> names_;
};

/// Reads the model that a step brought with it.
class FillImports : public model::Listener {
 public:
  FillImports(const Entries& entries, std::string path)
      : entries_(entries), path_(std::move(path)) {}
  void imported(const char*, std::shared_ptr<const model::Imported>& imported) override {
    if (!imported) return;
    constexpr std::uint64_t kMost = std::uint64_t{4} << 30U;  // far above any model
    auto bytes = entries_.read(import_entry(*imported), kMost);
    if (!bytes) {
      wrong = "the model " + imported->file + " is missing";
      return;
    }
    const auto read =
        io::import_text(*std::move(bytes), imported->file + " in " + path_, imported->file);
    if (!read)
      wrong = read.error().message;
    else if ((*read)->hash != imported->hash)
      wrong = "the model " + imported->file + " is not the one that was saved";
    else
      imported = *read;
  }
  std::string wrong;  ///< empty when all was well

 private:
  const Entries& entries_;
  std::string path_;
};

std::string quoted(const std::string& text) {
  std::string result = "\"";
  for (const char c : text) {
    if (c == '"') result += '"';
    result += c;
  }
  return result + "\"";
}

}  // namespace

namespace {

/// What libraries throw stops here: it says that memory or the file does not suffice.
template <class R, class Work>
R without_exceptions(const std::string& what, const Work& work) {
  const auto failed = [&](const std::string& why) {
    return Error{ErrorCode::Failed, what + ": " + why + "."};
  };
  try {
    return work();
  } catch (const std::bad_alloc&) {
    return failed("the memory does not suffice");
  } catch (const std::length_error&) {
    return failed("the memory does not suffice");
  } catch (const std::exception& exception) {
    return failed(exception.what());
  }
}

Status save_checked(const std::filesystem::path& path, const Document& document, BulkFolder* beside,
                    const Task& task) {
  const std::vector<Bulk> bulk = bulk_of(document);
  Json contents = write_manifest(document);
  std::set<std::string> names;
  if (beside != nullptr) {
    Json& said = contents["beside"] = Json::object();
    for (const Bulk& item : bulk) {
      const auto name = beside->put(item);
      if (!name) return name.error();
      said[item.entry] = *name;
      names.insert(*name);
      if (task.stopped()) return cancelled();
    }
  }
  const Status saved =
      io::write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
        int code = 0;
        Zip archive(zip_open(temporary.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &code));
        const auto failed = [&](const std::string& why) -> Status {
          return Error{ErrorCode::Io, "Cannot save " + path.string() + ": " + why + "."};
        };
        if (!archive) {
          zip_error_t error;
          zip_error_init_with_code(&error, code);
          const std::string why = zip_error_strerror(&error);
          zip_error_fini(&error);
          return failed(why);
        }
        // Names may come from files and other systems: what is no text is replaced, not refused.
        const std::string manifest = contents.dump(1, ' ', false, Json::error_handler_t::replace);
        bool good =
            add_bytes(archive.get(), "manifest.json", manifest.data(), manifest.size(), true);
        for (const Bulk& item : bulk) {
          if (beside != nullptr) break;
          good = good && add_bytes(archive.get(), item.entry, item.bytes.data(), item.bytes.size(),
                                   item.compress);
        }
        if (!good) return failed(zip_strerror(archive.get()));
        if (task.stopped()) return cancelled();
        task.report(0.2);
        if (zip_close(archive.get()) != 0) return failed(zip_strerror(archive.get()));
        static_cast<void>(archive.release());  // closed
        task.report(1.0);
        return Done{};
      });
  // Not before the file that named them is replaced.
  if (saved && beside != nullptr) beside->keep_only(names);
  return saved;
}

Result<Document> load_checked(const std::filesystem::path& path, const Task& task) {
  if (auto file = io::MappedFile::open(path); !file)
    return file.error();  // gives the system's reason
  const auto damaged = [&](const std::string& what) {
    return Error{ErrorCode::InvalidInput,
                 path.string() + " is damaged: " + what + ". Open a backup copy of it."};
  };
  int code = 0;
  Zip archive(zip_open(path.c_str(), ZIP_RDONLY, &code));
  if (!archive)
    return Error{
        ErrorCode::InvalidInput,
        path.string() + " is no project file, or is cut off: it cannot be opened as an archive."};
  Entries entries(archive.get(), BulkFolder::of(path));
  const auto text = entries.read("manifest.json", 1U << 30U);
  if (!text) return damaged("its manifest is missing or unreadable");
  Document document;
  try {
    const Json manifest = Json::parse(*text);
    if (manifest.value("format", "") != "lostline-project")
      return Error{ErrorCode::InvalidInput, path.string() + " is no Lost Line project."};
    if (manifest.value("version", 0) > kFormatVersion) {
      return Error{
          ErrorCode::Unsupported,
          path.string() +
              " was saved by a newer version of Lost Line. Update the program to open it."};
    }
    if (manifest.contains("beside"))
      entries.beside(manifest["beside"].get<std::map<std::string, std::string>>());
    document = read_manifest(manifest);
    if (const std::string what = contradiction_in(document); !what.empty())
      return damaged("in its manifest " + what);
    const auto read_scan = [&](const Json& s, std::size_t place,
                               const Task& part) -> Result<std::shared_ptr<const Scan>> {
      scan::Mesh mesh;
      auto vertices = entries.array<Vec3>(scan_entry(place, "vertices.f64"),
                                          s.at("vertices").get<std::size_t>());
      auto triangles = entries.array<scan::Triangle>(scan_entry(place, "triangles.u32"),
                                                     s.at("triangles").get<std::size_t>());
      if (!vertices || !triangles) return damaged("the scan data is incomplete");
      mesh.vertices = *std::move(vertices);
      mesh.triangles = *std::move(triangles);
      for (const Vec3& v : mesh.vertices) {
        if (!v.allFinite()) return damaged("the scan holds a coordinate that is no number");
      }
      for (const scan::Triangle& t : mesh.triangles) {
        if (std::max({t[0], t[1], t[2]}) >= mesh.vertices.size())
          return damaged("the scan names points that are not there");
      }
      Unit unit = Unit::Millimetre;
      for (const Unit u : {Unit::Millimetre, Unit::Inch, Unit::Metre, Unit::Centimetre}) {
        if (s.at("unit").get<std::string>() == unit_symbol(u)) unit = u;
      }
      return prepare_scan(std::move(mesh), s.at("name").get<std::string>(), read_source(s), unit,
                          part, read_from_points(s));
    };
    if (manifest.contains("scan")) {
      const auto scan = read_scan(manifest["scan"], 0, task.part(0.2, 0.9));
      if (!scan) return scan.error();
      document.scan = *scan;
    }
    if (manifest.contains("other_scans")) {  // since version 3
      for (const Json& s : manifest["other_scans"]) {
        const auto scan = read_scan(s, document.other_scans.size() + 1, task.part(0.9, 0.95));
        if (!scan) return scan.error();
        document.other_scans.push_back(*scan);
      }
    }
    for (model::Step& step : document.steps) {
      FillImports fill(entries, path.string());
      step.feature.describe(fill);
      if (!fill.wrong.empty()) return damaged("step " + step.name + ": " + fill.wrong);
    }
    if (document.survey) {
      auto survey = std::make_shared<survey::Survey>(*document.survey);
      const std::size_t count = document.scan ? document.scan->mesh->triangles.size() : 0;
      auto labels = entries.array<std::uint32_t>("survey/regions.u32", count);
      if (!labels) return damaged("the regions are incomplete");
      survey->triangle_region = *std::move(labels);
      for (const std::uint32_t label : survey->triangle_region) {
        if (label > survey->regions.size())
          return damaged("a triangle names a region that is not there");
      }
      if (document.scan)
        survey::draw_conclusions(*survey, *document.scan->mesh, document.scan->topology);
      document.survey = std::move(survey);
    }
    /// Triangles of the scan that an entry lists, for what is named.
    const auto listed =
        [&](const std::string& entry, const Json& json,
            const std::string& what) -> Result<std::shared_ptr<const std::vector<std::uint32_t>>> {
      const auto count = json.get<std::size_t>();
      auto triangles = std::make_shared<std::vector<std::uint32_t>>();
      if (count > 0) {
        auto read = entries.array<std::uint32_t>(entry, count);
        if (!read) return damaged("the evidence of " + what + " is incomplete");
        *triangles = std::move(*read);
      }
      const std::size_t all = document.scan ? document.scan->mesh->triangles.size() : 0;
      if (std::any_of(triangles->begin(), triangles->end(),
                      [&](std::uint32_t t) { return t >= all; }))
        return damaged(what + " names triangles that the scan does not have");
      return std::shared_ptr<const std::vector<std::uint32_t>>(std::move(triangles));
    };
    for (std::size_t i = 0; i < document.fits.size(); ++i) {
      auto fit = std::make_shared<Fit>(*document.fits[i]);
      const auto triangles =
          listed(fit_entry(fit->id), manifest["fits"][i].at("triangles"), "fit " + fit->name);
      if (!triangles) return triangles.error();
      fit->triangles = *triangles;
      document.fits[i] = std::move(fit);
    }
    for (std::size_t i = 0; i < document.sketches.size(); ++i) {
      const Json& json = manifest["sketches"][i];
      if (!json.contains("part") || json["part"].is_null()) continue;  // since version 9
      auto traced = std::make_shared<TracedSketch>(*document.sketches[i]);
      const auto part = listed(part_entry(traced->id), json["part"], "sketch " + traced->name);
      if (!part) return part.error();
      traced->part = *part;
      document.sketches[i] = std::move(traced);
    }
  } catch (const nlohmann::json::exception& error) {
    return damaged(std::string("its manifest cannot be understood (") + error.what() + ")");
  }
  if (task.stopped()) return cancelled();
  // Sections are cut afresh. The sketches stand as they were saved.
  for (auto& shared : document.sketches) {
    auto traced = std::make_shared<TracedSketch>(*shared);
    traced->section = cut_scan(document, *traced);
    shared = std::move(traced);
  }
  task.report(1.0);
  return document;
}

}  // namespace

Status save_project(const std::filesystem::path& path, const Document& document, const Task& task) {
  return without_exceptions<Status>("Cannot save " + path.string(),
                                    [&] { return save_checked(path, document, nullptr, task); });
}

Status save_beside(const std::filesystem::path& path, const Document& document, BulkFolder& bulk,
                   const Task& task) {
  return without_exceptions<Status>("Cannot save " + path.string(),
                                    [&] { return save_checked(path, document, &bulk, task); });
}

Result<Document> load_project(const std::filesystem::path& path, const Task& task) {
  return without_exceptions<Result<Document>>("Cannot open " + path.string(),
                                              [&] { return load_checked(path, task); });
}

std::string ledger_csv(const Document& document) {
  std::string csv = "name,reading,U (k=2),intent,intent - reading,unit,state,evidence,reason\r\n";
  for (const Dimension& d : document.dimensions) {
    const auto number = [](std::optional<double> v) {
      return v ? fmt::format("{:.6g}", *v) : std::string();
    };
    std::optional<double> difference;
    if (d.intent && d.reading) difference = *d.intent - *d.reading;
    csv += fmt::format("{},{},{},{},{},{},{},{},{}\r\n", quoted(d.name), number(d.reading),
                       d.u > 0 ? fmt::format("{:.2g}", d.u) : "", number(d.intent),
                       difference ? fmt::format("{:.4f}", *difference) : "",
                       d.quantity == standards::Quantity::Angle ? "deg" : "mm",
                       d.intent ? "inked" : "pencilled", quoted(d.source), quoted(d.reason));
  }
  return csv;
}

}  // namespace lostline::store
