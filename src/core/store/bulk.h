#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "project/document.h"

namespace lostline::store {

/// Data of a project that its manifest does not hold.
struct Bulk {
  std::string entry;                  ///< in the archive: "scan/vertices.f64"
  std::shared_ptr<const void> owner;  ///< keeps the bytes, which never change while it lives
  std::string_view bytes;
  bool compress = false;
};

/// All of a document's, in the order in which they are written.
std::vector<Bulk> bulk_of(const project::Document& document);

// Names of entries.
/// Where the bulk data of the scan worked on (0) and of those beside it lie.
std::string scan_entry(std::size_t place, const char* what);
std::string fit_entry(project::Id id);
std::string part_entry(project::Id id);
std::string import_entry(const model::Imported& imported);

/// A folder that holds bulk data beside a project file, each in a file named by its content: what
/// lies there already is not written again.
class BulkFolder {
 public:
  /// Of a project file: its name with ".data" behind it.
  [[nodiscard]] static std::filesystem::path of(const std::filesystem::path& project);
  explicit BulkFolder(const std::filesystem::path& project) : folder_(of(project)) {}

  /// Writes what is not there; atomic.
  /// @returns the name of the file.
  /// @errors Io with the system's reason.
  Result<std::string> put(const Bulk& bulk);
  /// Removes files that none of `names` means.
  void keep_only(const std::set<std::string>& names);

  [[nodiscard]] static std::string name_of(std::string_view bytes);
  /// Whether a text can be a name that name_of() gives; nothing else is looked for in the folder.
  [[nodiscard]] static bool is_name(const std::string& text);

 private:
  struct Known {
    std::weak_ptr<const void> owner;
    const char* data = nullptr;
    std::string name;
  };
  std::filesystem::path folder_;
  std::map<std::string, Known> known_;  // by entry: what was written last, so that it is not read
};

}  // namespace lostline::store
