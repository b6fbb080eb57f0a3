#include "support/places.h"

namespace lostline::testing {

std::string demo_dir() { return LOSTLINE_DEMO_DIR; }
std::string data_dir() { return LOSTLINE_TEST_DATA; }
std::string source_dir() { return LOSTLINE_SOURCE_DIR; }
std::string python() { return LOSTLINE_PYTHON; }

}  // namespace lostline::testing
