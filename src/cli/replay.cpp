#include "cli.h"
#include "io/files.h"
#include "io/formats.h"
#include "model/apart/kernel_process.h"
#include "project/bodies.h"
#include "store/feature_json.h"
#include "store/project_file.h"

namespace lostline::cli {

void add_replay(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "replay", "recompute the Route of a project");
  const auto path = std::make_shared<std::string>();
  const auto out = std::make_shared<std::string>();
  const auto ledger = std::make_shared<std::string>();
  sub->add_option("PROJECT", *path, "project file (.lostline)")->required();
  sub->add_option("--out", *out, "write the model: .step, .stl or .ply");
  sub->add_option("--ledger", *ledger, "write the Ledger as .csv");
  sub->callback([&common, path, out, ledger] {
    model::start_kernel_process();  // ready by the time the project is read
    const auto document = store::load_project(*path, progress_task(common, "opening"));
    if (!document) return fail(common, document.error());
    const Stopwatch watch;
    model::RouteCache cache;
    const auto results =
        model::recompute(document->steps, document->placed_sketches(), cache,
                         progress_task(common, "recomputing"), model::Wanted::last());
    if (!results) return fail(common, results.error());
    const double seconds = watch.seconds();
    Json steps = Json::array();
    bool broken = false;
    for (std::size_t i = 0; i < results->size(); ++i) {
      const model::Step& step = document->steps[i];
      const model::StepResult& r = (*results)[i];
      broken = broken || r.state == model::StepState::Broken;
      steps.push_back({{"number", step.number},
                       {"name", step.name},
                       {"kind", step.feature.words()},
                       {"parts", store::write_feature(step.feature)},
                       {"state", model::state_name(r.state)},
                       {"reason", r.reason}});
    }
    const model::Model made =
        project::dressed(*document, results->empty() ? model::Model() : results->back().solid);
    if (!out->empty()) {
      if (const Status written = io::write_model(*out, made, document->title); !written)
        return fail(common, written.error());
    }
    Json bodies = Json::array();
    for (std::size_t i = 0; i < made.body_count(); ++i) {
      const model::Model alone = made.only(i);
      const model::Body& body = made.body(i);
      bodies.push_back({{"name", project::body_title(*document, body)},
                        {"key", body.key},
                        {"kind", model::kind_name(body.kind)},
                        {"volume", alone.volume()},
                        {"area", alone.area()},
                        {"faces", alone.face_count()}});
    }
    if (!ledger->empty()) {
      if (const Status written = io::write_file_atomically(*ledger, store::ledger_csv(*document));
          !written)
        return fail(common, written.error());
    }
    if (broken) common.exit_code = kFailed;
    print(common, {{"steps", steps},
                   {"bodies", bodies},
                   {"volume", made.volume()},
                   {"area", made.area()},
                   {"valid", made.valid()},
                   {"seconds", seconds}});
  });
}

}  // namespace lostline::cli
