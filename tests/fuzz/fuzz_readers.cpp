// Damages the files of a corpus by chance, again and again, and reads them: for runs of hours, with
// sanitizers. A crash leaves the file that caused it.
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

/// A project whose manifest has parts exchanged; as it is where it has no manifest to be read.
std::string with_parts_exchanged(const std::string& project, std::mt19937_64& random) {
  auto manifest = nlohmann::ordered_json::parse(
      lostline::testing::entry_of(project, "manifest.json"), nullptr, false);
  if (!manifest.is_object()) return project;
  lostline::testing::exchange_parts(manifest, random);
  return lostline::testing::with_entry(project, "manifest.json", manifest.dump());
}

}  // namespace

// lostline_fuzz CORPUS COUNT [SEED [EXTENSION [parts]]]: so many damaged files of each extension;
// with the last word projects whose manifests have parts exchanged.
int main(int argc, char** argv) {
  if (argc < 3) {
    std::fprintf(stderr, "usage: lostline_fuzz CORPUS COUNT [SEED [EXTENSION [parts]]]\n");
    return 2;
  }
  const long count = std::atol(argv[2]);
  const unsigned long seed = argc > 3 ? std::strtoul(argv[3], nullptr, 10) : 1;
  const bool parts = argc > 5;
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
    long taken = 0;
    for (long k = 0; k < count; ++k) {
      std::string bad = files[random() % files.size()];
      if (parts) {
        bad = with_parts_exchanged(bad, random);
      } else {
        do {
          bad = lostline::testing::damaged(bad, random);
        } while (random() % 3 == 0);
      }
      std::ofstream(path, std::ios::binary | std::ios::trunc) << bad;
      const Outcome outcome = read(path);
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
