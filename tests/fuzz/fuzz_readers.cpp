// Damages the files of a corpus by chance, again and again, and reads them: for runs of hours, with
// sanitizers. A crash leaves the file that caused it.
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <iterator>
#include <map>

#include "support/damage.h"

namespace fs = std::filesystem;

namespace {

constexpr unsigned kHangs = 30;  // s: the alarm ends a read that does not come to an end

enum Outcome { kTaken, kRefused, kUnsound };

Outcome read(const fs::path& path) {
  ::alarm(kHangs);
  const auto read = lostline::testing::read_any(path);
  ::alarm(0);
  if (!read.sound || (!read.taken && read.message.empty())) return kUnsound;
  return read.taken ? kTaken : kRefused;
}

/// In a process of its own, as an application reads one file and not thousands: what the kernel
/// leaves behind when it is stopped within a damaged file adds up.
Outcome read_apart(const fs::path& path) {
  const pid_t child = ::fork();
  if (child == 0) ::_exit(read(path));
  int status = 0;
  if (::waitpid(child, &status, 0) != child || !WIFEXITED(status)) return kUnsound;
  return static_cast<Outcome>(WEXITSTATUS(status));
}

}  // namespace

// lostline_fuzz CORPUS COUNT [SEED [EXTENSION]]: so many damaged files of each extension.
int main(int argc, char** argv) {
  if (argc < 3) {
    std::fprintf(stderr, "usage: lostline_fuzz CORPUS COUNT [SEED [EXTENSION]]\n");
    return 2;
  }
  const long count = std::atol(argv[2]);
  const unsigned long seed = argc > 3 ? std::strtoul(argv[3], nullptr, 10) : 1;
  std::map<std::string, std::vector<std::string>> corpus;
  for (const auto& entry : fs::directory_iterator(argv[1])) {
    const std::string extension = entry.path().extension().string();
    if (extension == ".md" || (argc > 4 && extension != argv[4])) continue;
    std::ifstream file(entry.path(), std::ios::binary);
    corpus[extension].emplace_back(std::istreambuf_iterator<char>(file),
                                   std::istreambuf_iterator<char>());
  }
  const fs::path folder = fs::temp_directory_path() / ("fuzz" + std::to_string(::getpid()));
  fs::create_directories(folder);
  bool sound = true;
  for (const auto& [extension, files] : corpus) {
    std::mt19937_64 random(seed);
    const auto start = std::chrono::steady_clock::now();
    const fs::path path = folder / ("damaged" + extension);
    const bool by_kernel = extension == ".step" || extension == ".igs";
    long taken = 0;
    for (long k = 0; k < count; ++k) {
      std::string bad = lostline::testing::damaged(files[random() % files.size()], random);
      while (random() % 3 == 0) bad = lostline::testing::damaged(bad, random);
      std::ofstream(path, std::ios::binary | std::ios::trunc) << bad;
      const Outcome outcome = by_kernel ? read_apart(path) : read(path);
      taken += outcome == kTaken ? 1 : 0;
      if (outcome != kUnsound) continue;
      sound = false;
      std::printf("%s: seed %lu, file %ld is not read soundly\n", extension.c_str(), seed, k);
      fs::copy_file(path, folder / ("unsound" + std::to_string(k) + extension));
    }
    const double seconds =
        std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    std::printf("%-10s %ld files, %ld taken, %.1f s\n", extension.c_str(), count, taken, seconds);
    std::fflush(stdout);
  }
  if (sound) fs::remove_all(folder);
  return sound ? 0 : 1;
}
