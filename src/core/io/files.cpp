#include "io/files.h"

#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <utility>

namespace lostline::io {
namespace {

Error io_error(const std::string& what, const std::filesystem::path& path, int code) {
  return {ErrorCode::Io, what + " " + path.string() + ": " + std::strerror(code) + "."};
}

}  // namespace

Result<MappedFile> MappedFile::open(const std::filesystem::path& path) {
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (file < 0) return io_error("Cannot open", path, errno);
  struct stat info {};
  if (::fstat(file, &info) != 0 || !S_ISREG(info.st_mode)) {
    ::close(file);
    return Error{ErrorCode::Io, path.string() + " is not a file. Choose a scan file."};
  }
  const auto size = static_cast<std::size_t>(info.st_size);
  if (size == 0) {
    ::close(file);
    return Error{ErrorCode::InvalidInput, path.string() + " is empty (0 bytes)."};
  }
  void* data = ::mmap(nullptr, size, PROT_READ, MAP_PRIVATE | MAP_POPULATE, file, 0);
  const int code = errno;
  ::close(file);
  if (data == MAP_FAILED) return io_error("Cannot read", path, code);
  return MappedFile(static_cast<const char*>(data), size);
}

MappedFile::~MappedFile() {
  if (data_ != nullptr) ::munmap(const_cast<char*>(data_), size_);
}
MappedFile::MappedFile(MappedFile&& other) noexcept
    : data_(std::exchange(other.data_, nullptr)), size_(std::exchange(other.size_, 0)) {}
MappedFile& MappedFile::operator=(MappedFile&& other) noexcept {
  std::swap(data_, other.data_);
  std::swap(size_, other.size_);
  return *this;
}

std::filesystem::path temporary_beside(const std::filesystem::path& path) {
  return path.parent_path() /
         ("." + path.filename().string() + "." + std::to_string(::getpid()) + ".part");
}

Status move_into_place(const std::filesystem::path& temporary, const std::filesystem::path& path) {
  const int file = ::open(temporary.c_str(), O_RDWR | O_CLOEXEC);
  int code = file < 0 ? errno : 0;
  if (file >= 0) {
    if (::fsync(file) != 0) code = errno;
    ::close(file);
  }
  if (code == 0 && ::rename(temporary.c_str(), path.c_str()) != 0) code = errno;
  if (code == 0) {
    // The new name outlasts a loss of power only once the folder is on the disk too. A file system
    // that cannot do that is no reason to call the file unwritten.
    const std::filesystem::path folder = path.has_parent_path() ? path.parent_path() : ".";
    const int listed = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (listed >= 0) {
      ::fsync(listed);
      ::close(listed);
    }
    return Done{};
  }
  ::unlink(temporary.c_str());
  return io_error("Cannot write", path, code);
}

Status write_file_atomically(const std::filesystem::path& path, std::string_view content) {
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    const int file = ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (file < 0) return io_error("Cannot write", path, errno);
    std::size_t done = 0;
    while (done < content.size()) {
      const ssize_t count = ::write(file, content.data() + done, content.size() - done);
      if (count < 0) {
        if (errno == EINTR) continue;
        const int code = errno;
        ::close(file);
        return io_error("Cannot write", path, code);
      }
      done += static_cast<std::size_t>(count);
    }
    if (::close(file) != 0) return io_error("Cannot write", path, errno);
    return Done{};
  });
}

}  // namespace lostline::io
