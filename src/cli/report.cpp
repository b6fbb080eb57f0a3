#include "report/report.h"

#include "cli.h"
#include "model/apart/kernel_process.h"
#include "store/project_file.h"

namespace lostline::cli {

void add_report(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "report", "write the report of a project");
  const auto path = std::make_shared<std::string>();
  const auto out = std::make_shared<std::string>();
  const auto options = std::make_shared<report::ReportOptions>();
  sub->add_option("PROJECT", *path, "project file (.lostline)")->required();
  sub->add_option("--out", *out, "report to write, .pdf or .html")->required();
  sub->add_option("--date", options->date, "date printed on the report");
  sub->add_option("--author", options->author, "who answers for it");
  sub->callback([&common, path, out, options] {
    model::start_kernel_process();  // ready by the time the project is read
    const auto document = store::load_project(*path, progress_task(common, "opening"));
    if (!document) return fail(common, document.error());
    const auto made = report::make_report(*document, *options, progress_task(common, "reporting"));
    if (!made) return fail(common, made.error());
    const auto pages = report::write_report(*out, *made);
    if (!pages) return fail(common, pages.error());
    print(common, {{"pages", *pages}, {"out", *out}});
  });
}

}  // namespace lostline::cli
