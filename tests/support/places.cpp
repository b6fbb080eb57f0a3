#include "support/places.h"

#include <unistd.h>

namespace lostline::testing {
namespace {

struct Scratch {
  std::filesystem::path folder =
      std::filesystem::temp_directory_path() / ("lostline-tests-" + std::to_string(::getpid()));
  pid_t owner = ::getpid();  // a forked copy leaves the folder to who made it
  Scratch() { std::filesystem::create_directories(folder); }
  ~Scratch() {
    std::error_code ignored;
    if (::getpid() == owner) std::filesystem::remove_all(folder, ignored);
  }
  Scratch(const Scratch&) = delete;
  Scratch& operator=(const Scratch&) = delete;
};

}  // namespace

std::string demo_dir() { return LOSTLINE_DEMO_DIR; }
std::string data_dir() { return LOSTLINE_TEST_DATA; }
std::string source_dir() { return LOSTLINE_SOURCE_DIR; }
std::string python() { return LOSTLINE_PYTHON; }

std::filesystem::path scratch() {
  static const Scratch own;
  return own.folder;
}

}  // namespace lostline::testing
