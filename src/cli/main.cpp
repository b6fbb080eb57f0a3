#include "base/memory.h"
#include "cli.h"

int main(int argc, char** argv) {
  lostline::keep_freed_memory();
  using namespace lostline::cli;
  CLI::App app{"Lost Line without a window: from a scan to a proven model"};
  app.set_version_flag("--version", "lostline-cli 0.1.0");
  app.require_subcommand(1);
  Common common;
  add_common_options(app, common);
  add_info(app, common);
  add_clean(app, common);
  add_survey(app, common);
  add_relate(app, common);
  add_align(app, common);
  add_section(app, common);
  add_outline(app, common);
  add_centreline(app, common);
  add_patch(app, common);
  add_free_body(app, common);
  add_mesh(app, common);
  add_register(app, common);
  add_instruments(app, common);
  add_replay(app, common);
  add_valley(app, common);
  add_deviate(app, common);
  add_simulate_scan(app, common);
  add_convert(app, common);
  add_report(app, common);
  add_project(app, common);
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    return app.exit(error) == 0 ? kDone : kBadInput;
  }
  return common.exit_code;
}
