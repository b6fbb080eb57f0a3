#include <algorithm>
#include <cmath>

#include "model/steps/kinds.h"
#include "project.h"
#include "project/edits.h"
#include "reading/step_reading.h"
#include "step_fields.h"

// Any kind of step without the window, by the parts that its description names.

namespace lostline::cli {
namespace {

/// Place of a step by its name or number.
Result<std::size_t> find_step(const Document& d, const std::string& name) {
  std::string names;
  for (std::size_t i = 0; i < d.steps.size(); ++i) {
    const model::Step& step = d.steps[i];
    if (step.name == name || std::to_string(step.number) == name) return i;
    names += (names.empty() ? "" : ", ") + std::to_string(step.number) + " " + step.name;
  }
  return Error{ErrorCode::InvalidInput,
               "There is no step \"" + name + "\"." +
                   (names.empty() ? " The Route is empty." : " There are: " + names + ".")};
}

/// Ledger rows for the numbers of a step: decided where said, else read where the scan shows them.
std::vector<project::FieldReading> rows_of(model::Feature& feature,
                                           const std::vector<project::FieldReading>& read,
                                           const std::set<std::string>& typed, bool is_new) {
  std::vector<project::FieldReading> rows;
  for (const model::Field& f : model::fields_of(feature)) {
    const double scale = f.info.is_angle() ? kDegree : 1;
    const auto said = std::find_if(read.begin(), read.end(),
                                   [&](const auto& r) { return r.field == f.info.name; });
    project::FieldReading row{f.info.name, std::nullopt, 0, "typed", std::nullopt};
    if (said != read.end()) row = *said;
    const bool decided = typed.contains(f.info.name);
    if (!decided && !is_new) continue;  // stays as it is
    // Where zero makes no sense, a reading that is zero within its U says nothing is to do.
    const bool tells =
        !decided && row.reading &&
        (f.info.sign == model::NumberInfo::Sign::Any || std::abs(*row.reading) > row.u);
    if (tells)
      f.quantity->value = *row.reading * scale;
    else if (!decided && !row.reading && row.intent)
      f.quantity->value = *row.intent * scale;
    else
      row.intent = f.quantity->value / scale;
    rows.push_back(row);
  }
  return rows;
}

/// The document, unless the step is broken in it.
Result<Document> if_sound(const Document& d, model::Id step, const Task& task) {
  model::RouteCache cache;
  const auto results =
      model::recompute(d.steps, d.placed_sketches(), cache, task, model::Wanted::last());
  if (!results) return results.error();
  for (std::size_t i = 0; i < results->size(); ++i) {
    if (d.steps[i].id == step && (*results)[i].state == model::StepState::Broken)
      return Error{ErrorCode::Failed, (*results)[i].reason};
  }
  return d;
}

Result<Document> add(const Arguments& a, const Document& d, const Task& task) {
  const model::FeatureKind* kind = model::find_feature_kind(a.kind);
  if (kind == nullptr) {
    std::string all;
    for (const model::FeatureKind* k : model::feature_kinds())
      all += (all.empty() ? "" : ", ") + std::string(k->key);
    return Error{ErrorCode::InvalidInput,
                 "There is no kind of step \"" + a.kind + "\". There are: " + all + "."};
  }
  std::size_t place = d.steps.size();
  model::Id after = 0;
  if (!a.behind.empty()) {
    const auto found = find_step(d, a.behind);
    if (!found) return found.error();
    place = *found + 1;
    after = d.steps[*found].id;
  }
  const auto before = model_before(d, place, task);
  if (!before) return before.error();
  model::Feature feature = kind->make();
  std::set<std::string> typed;
  if (const Status set = set_fields(d, *before, a.set, feature, typed); !set) return set.error();
  const auto read = reading::read_step(d, feature, *before, d.next_id, task);
  const auto rows = rows_of(feature, read, typed, true);
  const auto added =
      project::add_step(d, feature, a.name.empty() ? kind->key : a.name, rows, after);
  return if_sound(added.document, added.id, task);
}

Result<Document> edit(const Arguments& a, const Document& d, const Task& task) {
  const auto place = find_step(d, a.step);
  if (!place) return place.error();
  const auto before = model_before(d, *place, task);
  if (!before) return before.error();
  const model::Step& step = d.steps[*place];
  model::Feature feature = step.feature;
  std::set<std::string> typed;
  if (const Status set = set_fields(d, *before, a.set, feature, typed); !set) return set.error();
  const auto read = reading::read_step(d, feature, *before, step.id, task);
  auto edited = project::edit_step(d, step.id, feature, rows_of(feature, read, typed, false));
  if (edited && !a.name.empty()) edited = project::rename_step(*edited, step.id, a.name);
  if (edited && a.park) edited = project::set_parked(*edited, step.id, true);
  if (edited && a.unpark) edited = project::set_parked(*edited, step.id, false);
  if (!edited) return edited;
  return if_sound(*edited, step.id, task);
}

}  // namespace

Result<model::Model> model_before(const Document& d, std::size_t place, const Task& task) {
  model::RouteCache cache;
  const std::vector<model::Step> steps(d.steps.begin(),
                                       d.steps.begin() + static_cast<std::ptrdiff_t>(place));
  const auto results =
      model::recompute(steps, d.placed_sketches(), cache, task, model::Wanted::last());
  if (!results) return results.error();
  return results->empty() ? model::Model() : results->back().solid;
}

void add_project_step(CLI::App& all, Common& common, const Declare& editing) {
  {
    CLI::App* sub = subcommand(all, common, "kinds", "the kinds of steps and what each is made of");
    sub->callback([&common] {
      Json kinds = Json::array();
      for (const model::FeatureKind* kind : model::feature_kinds())
        kinds.push_back({{"kind", kind->key},
                         {"title", kind->title},
                         {"tip", kind->tip},
                         {"parts", describe_fields(*kind)}});
      print(common, {{"kinds", kinds}});
    });
  }
  const char* const set_help =
      "NAME=VALUE of a part of the step, as `project kinds` lists them; several with \";\" between";
  {
    const auto [sub, a] = editing("step", "add a step of any kind to the Route",
                                  [&common](const Arguments& a, const Document& d, Json&) {
                                    return add(a, d, progress_task(common, "building"));
                                  });
    sub->add_option("KIND", a->kind, "as `project kinds` lists them")->required();
    sub->add_option("--set", a->set, set_help)->allow_extra_args(false);
    sub->add_option("--behind", a->behind, "name or number of the step that it follows");
    sub->add_option("--name", a->name, "of the step");
  }
  {
    const auto [sub, a] = editing("edit-step", "change parts of a step, its name, park it",
                                  [&common](const Arguments& a, const Document& d, Json&) {
                                    return edit(a, d, progress_task(common, "building"));
                                  });
    sub->add_option("STEP", a->step, "name or number")->required();
    sub->add_option("--set", a->set, set_help)->allow_extra_args(false);
    sub->add_option("--name", a->name, "its new name");
    CLI::Option* park = sub->add_flag("--park", a->park, "leave it out for now");
    sub->add_flag("--unpark", a->unpark, "take it in again")->excludes(park);
  }
  {
    const auto [sub, a] =
        editing("remove-step", "take a step out of the Route",
                [](const Arguments& a, const Document& d, Json&) -> Result<Document> {
                  const auto place = find_step(d, a.step);
                  if (!place) return place.error();
                  return project::remove_step(d, d.steps[*place].id);
                });
    sub->add_option("STEP", a->step, "name or number")->required();
  }
}

}  // namespace lostline::cli
