#include "cli.h"

namespace lostline::cli {
void add_replay(CLI::App&, Common&) {}
}  // namespace lostline::cli
