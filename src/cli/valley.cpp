#include "reading/valley.h"

#include "cli.h"
#include "model/apart/kernel_process.h"
#include "store/project_file.h"

namespace lostline::cli {

void add_valley(CLI::App& app, Common& common) {
  struct ValleyArguments {
    std::string project, row;
    int samples = 17;
    double reach = 0;
  };
  CLI::App* sub = subcommand(app, common, "valley",
                             "how the deviation depends on one value of a project's Ledger");
  const auto a = std::make_shared<ValleyArguments>();
  sub->add_option("PROJECT", a->project, "project file (.lostline)")->required();
  sub->add_option("--row", a->row, "name of the Ledger row")->required();
  sub->add_option("--samples", a->samples, "values tried, odd")->check(CLI::Range(5, 201));
  sub->add_option("--reach", a->reach, "half the width of the curve, mm or degrees")
      ->check(CLI::PositiveNumber);
  sub->callback([&common, a] {
    model::start_kernel_process();  // ready by the time the project is read
    const auto document = store::load_project(a->project, progress_task(common, "opening"));
    if (!document) return fail(common, document.error());
    const project::Dimension* row = nullptr;
    for (const project::Dimension& d : document->dimensions) {
      if (d.name == a->row) row = &d;
    }
    if (row == nullptr) {
      std::string names;
      for (const project::Dimension& d : document->dimensions) names += "\n  " + d.name;
      return fail(common, {ErrorCode::InvalidInput,
                           "The Ledger has no row \"" + a->row + "\"; it has:" + names});
    }
    const Stopwatch watch;
    const auto valley = reading::compute_valley(*document, row->id, {a->samples, a->reach, 12000},
                                                progress_task(common, "computing"));
    if (!valley) return fail(common, valley.error());
    Json samples = Json::array();
    for (const auto& s : valley->samples) samples.push_back({{"value", s.value}, {"rms", s.rms}});
    print(common, {{"row", row->name},
                   {"lowest", valley->lowest},
                   {"reading", row->reading ? Json(*row->reading) : Json()},
                   {"u", row->u},
                   {"intent", row->intent ? Json(*row->intent) : Json()},
                   {"points", valley->points},
                   {"samples", samples},
                   {"seconds", watch.seconds()}});
  });
}

}  // namespace lostline::cli
