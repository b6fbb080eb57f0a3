#pragma once

#include <cstddef>
#include <filesystem>
#include <memory>
#include <string>
#include <string_view>

#include "base/result.h"

namespace lostline::io {

/// A whole file mapped read-only.
class MappedFile {
 public:
  /// @errors Io  missing, no permission, not a regular file;  InvalidInput  empty.
  static Result<MappedFile> open(const std::filesystem::path& path);
  ~MappedFile();
  MappedFile(MappedFile&& other) noexcept;
  MappedFile& operator=(MappedFile&& other) noexcept;
  MappedFile(const MappedFile&) = delete;
  MappedFile& operator=(const MappedFile&) = delete;

  [[nodiscard]] const char* data() const { return data_; }
  [[nodiscard]] std::size_t size() const { return size_; }
  [[nodiscard]] std::string_view text() const { return {data_, size_}; }

 private:
  MappedFile(const char* data, std::size_t size) : data_(data), size_(size) {}
  const char* data_ = nullptr;
  std::size_t size_ = 0;
};

/// Writes beside the target, flushes to the disk, then renames over it: the old file survives any
/// failure.
/// @errors Io with the system's reason.
Status write_file_atomically(const std::filesystem::path& path, std::string_view content);

/// The same for libraries that write to a path of their own: `write` gets the temporary path and
/// returns its Status.
template <class Write>
Status write_through_temporary(const std::filesystem::path& path, Write write);

/// Flushes `temporary` to the disk and renames it to `path`; removes it when that fails.
Status move_into_place(const std::filesystem::path& temporary, const std::filesystem::path& path);
std::filesystem::path temporary_beside(const std::filesystem::path& path);

template <class Write>
Status write_through_temporary(const std::filesystem::path& path, Write write) {
  const std::filesystem::path temporary = temporary_beside(path);
  if (Status status = write(temporary); !status) {
    std::error_code ignored;
    std::filesystem::remove(temporary, ignored);
    return status;
  }
  return move_into_place(temporary, path);
}

}  // namespace lostline::io
