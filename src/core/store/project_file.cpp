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

/// Reads a whole entry; empty optional when it is missing or its checksum does not match.
std::optional<std::string> read_entry(zip_t* archive, const std::string& name, std::size_t most) {
  zip_stat_t info;
  if (zip_stat(archive, name.c_str(), 0, &info) != 0 || (info.valid & ZIP_STAT_SIZE) == 0 ||
      info.size > most)
    return std::nullopt;
  // Deflated data grow by 1032 at most (RFC 1951: 258 bytes of two bits): what claims more is
  // refused before memory is taken for it.
  if ((info.valid & ZIP_STAT_COMP_SIZE) == 0 || info.size / 1100 > info.comp_size + 1)
    return std::nullopt;
  zip_file_t* file = zip_fopen(archive, name.c_str(), 0);
  if (file == nullptr) return std::nullopt;
  std::string content(info.size, '\0');
  std::size_t done = 0;
  while (done < content.size()) {
    const zip_int64_t count = zip_fread(file, content.data() + done, content.size() - done);
    if (count <= 0) break;
    done += static_cast<std::size_t>(count);
  }
  char extra = 0;
  const bool complete =
      done == content.size() &&
      zip_fread(file, &extra, 1) == 0;  // reading past the end checks the checksum
  const bool sound = zip_fclose(file) == 0;
  if (!complete || !sound) return std::nullopt;
  return content;
}

template <class T>
std::optional<std::vector<T>> read_array(zip_t* archive, const std::string& name,
                                         std::size_t count) {
  if (count > std::numeric_limits<std::size_t>::max() / sizeof(T)) return std::nullopt;
  const std::size_t size = count * sizeof(T);
  const auto content = read_entry(archive, name, size);
  if (!content || content->size() != size) return std::nullopt;
  std::vector<T> array(count);
  std::memcpy(static_cast<void*>(array.data()), content->data(), size);
  return array;
}

/// Where the bulk data of the scan worked on (0) and of those beside it lie.
std::string scan_entry(std::size_t place, const char* what) {
  return (place == 0 ? std::string("scan/") : "scans/" + std::to_string(place) + "/") + what;
}

std::string fit_entry(Id id) { return "fits/" + std::to_string(id) + ".u32"; }
std::string part_entry(Id id) { return "sketches/" + std::to_string(id) + ".u32"; }

/// Where the bytes of an imported model lie.
std::string import_entry(const model::Imported& imported) {
  return fmt::format("models/{:016x}", imported.hash);
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

/// Reads the model that a step brought with it.
class FillImports : public model::Listener {
 public:
  FillImports(zip_t* archive, std::string path) : archive_(archive), path_(std::move(path)) {}
  void imported(const char*, std::shared_ptr<const model::Imported>& imported) override {
    if (!imported) return;
    constexpr std::uint64_t kMost = std::uint64_t{4} << 30U;  // far above any model
    auto bytes = read_entry(archive_, import_entry(*imported), kMost);
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
  zip_t* archive_;
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

Status save_checked(const std::filesystem::path& path, const Document& document, const Task& task) {
  return io::write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
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
    const std::string manifest =
        write_manifest(document).dump(1, ' ', false, Json::error_handler_t::replace);
    bool good = add_bytes(archive.get(), "manifest.json", manifest.data(), manifest.size(), true);
    const auto add_scan = [&](const Scan& scan, std::size_t place) {
      const scan::Mesh& mesh = *scan.mesh;
      good = good && add_bytes(archive.get(), scan_entry(place, "vertices.f64"),
                               mesh.vertices.data(), mesh.vertices.size() * sizeof(Vec3), false);
      good = good &&
             add_bytes(archive.get(), scan_entry(place, "triangles.u32"), mesh.triangles.data(),
                       mesh.triangles.size() * sizeof(scan::Triangle), false);
    };
    if (document.scan) add_scan(*document.scan, 0);
    for (std::size_t i = 0; i < document.other_scans.size(); ++i)
      add_scan(*document.other_scans[i], i + 1);
    if (document.survey) {
      const auto& labels = document.survey->triangle_region;
      good = good && add_bytes(archive.get(), "survey/regions.u32", labels.data(),
                               labels.size() * sizeof(std::uint32_t), false);
    }
    for (const auto& f : document.fits) {
      if (f->triangles && !f->triangles->empty())
        good = good && add_bytes(archive.get(), fit_entry(f->id), f->triangles->data(),
                                 f->triangles->size() * sizeof(std::uint32_t), false);
    }
    for (const auto& traced : document.sketches) {
      if (traced->part && !traced->part->empty())
        good = good && add_bytes(archive.get(), part_entry(traced->id), traced->part->data(),
                                 traced->part->size() * sizeof(std::uint32_t), false);
    }
    for (const auto& [entry, imported] : imports_of(document))
      good = good &&
             add_bytes(archive.get(), entry, imported->bytes.data(), imported->bytes.size(), true);
    if (!good) return failed(zip_strerror(archive.get()));
    if (task.stopped()) return cancelled();
    task.report(0.2);
    if (zip_close(archive.get()) != 0) return failed(zip_strerror(archive.get()));
    static_cast<void>(archive.release());  // closed
    task.report(1.0);
    return Done{};
  });
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
  const auto text = read_entry(archive.get(), "manifest.json", 1U << 30U);
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
    document = read_manifest(manifest);
    if (const std::string what = contradiction_in(document); !what.empty())
      return damaged("in its manifest " + what);
    const auto read_scan = [&](const Json& s, std::size_t place,
                               const Task& part) -> Result<std::shared_ptr<const Scan>> {
      scan::Mesh mesh;
      const auto vertices = read_array<Vec3>(archive.get(), scan_entry(place, "vertices.f64"),
                                             s.at("vertices").get<std::size_t>());
      const auto triangles = read_array<scan::Triangle>(
          archive.get(), scan_entry(place, "triangles.u32"), s.at("triangles").get<std::size_t>());
      if (!vertices || !triangles) return damaged("the scan data is incomplete");
      mesh.vertices = *vertices;
      mesh.triangles = *triangles;
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
      FillImports fill(archive.get(), path.string());
      step.feature.describe(fill);
      if (!fill.wrong.empty()) return damaged("step " + step.name + ": " + fill.wrong);
    }
    if (document.survey) {
      auto survey = std::make_shared<survey::Survey>(*document.survey);
      const std::size_t count = document.scan ? document.scan->mesh->triangles.size() : 0;
      const auto labels = read_array<std::uint32_t>(archive.get(), "survey/regions.u32", count);
      if (!labels) return damaged("the regions are incomplete");
      survey->triangle_region = *labels;
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
        auto read = read_array<std::uint32_t>(archive.get(), entry, count);
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
                                    [&] { return save_checked(path, document, task); });
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
