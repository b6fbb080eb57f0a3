#include "model/apart/steps_apart.h"

#include <algorithm>

#include "model/apart/kernel_process.h"
#include "model/tool_body.h"

namespace lostline::model {
namespace {

/// Steps with what they rest on besides the part before them.
struct Rest {
  std::vector<Step> steps;
  std::map<Id, PlacedSketch> sketches;
  std::map<Id, Model> before_step;

  void add_sketches(const Step& step, const Setting& setting) {
    for (const Id id : uses_of(step.feature).sketches) {
      const auto it = setting.sketches.find(id);
      if (it != setting.sketches.end()) sketches.insert(*it);
    }
  }
  void pass(Packing& packing) {
    packing.bytes().each(steps, [&](Step& step) { packing(step); });
    packing(sketches);
    std::uint64_t count = before_step.size();
    packing.bytes()(count);
    if (!packing.reading()) {
      for (auto& [id, model] : before_step) {
        Id key = id;
        packing.bytes()(key);
        packing(model);
      }
      return;
    }
    for (; count > 0; --count) {
      Id id = 0;
      packing.bytes()(id);
      packing(before_step[id]);
    }
  }
};

/// A step behind those that it repeats, and so on.
Rest rest_of(const Step& step, const Setting& setting) {
  Rest rest;
  std::vector<Id> wanted{step.id};
  rest.add_sketches(step, setting);
  if (const Id source = uses_of(step.feature).step; source != 0) wanted.push_back(source);
  // Sources come before what repeats them: from the step backwards each is met once.
  const auto self = std::find_if(setting.steps.begin(), setting.steps.end(),
                                 [&](const Step& s) { return s.id == step.id; });
  for (auto it = self; it != setting.steps.begin();) {
    --it;
    if (std::find(wanted.begin(), wanted.end(), it->id) == wanted.end()) continue;
    rest.steps.push_back(*it);
    rest.add_sketches(*it, setting);
    if (const Id source = uses_of(it->feature).step; source != 0) wanted.push_back(source);
    if (setting.before_step == nullptr) continue;
    const auto before = setting.before_step->find(it->id);
    if (before != setting.before_step->end()) rest.before_step.insert(*before);
  }
  std::reverse(rest.steps.begin(), rest.steps.end());
  rest.steps.push_back(step);
  return rest;
}

constexpr const char* kApply = "apply";
constexpr const char* kSideBySide = "side by side";
constexpr const char* kCut = "cut";
constexpr const char* kFreeBody = "free body";

std::string apply_work(std::string_view request, const Task& task) {
  Asked asked = open_request(request);
  Rest rest;
  bool knows_before = false;
  Model before;
  rest.pass(asked.values);
  asked.values.bytes()(knows_before);
  asked.values(before);
  const Setting setting{rest.sketches, rest.steps, knows_before ? &rest.before_step : nullptr,
                        task};
  return answer_with(apply_here(rest.steps.back(), setting, before), asked.serial);
}

std::string side_by_side_work(std::string_view request, const Task& task) {
  Asked asked = open_request(request);
  Rest rest;
  std::uint64_t most = 0;
  Model before;
  rest.pass(asked.values);
  asked.values.bytes()(most);
  asked.values(before);
  const Setting setting{rest.sketches, rest.steps, nullptr, task};
  SideBySide made =
      make_side_by_side_here(setting, 0, std::vector<bool>(rest.steps.size(), false), most, before);
  remember_answer(asked.serial, made.model.value_or(Model()));
  return answer_with([&](Packing& answer) {
    answer.bytes()(made.end);
    answer.bytes()(made.steps);
    bool good = made.model.has_value();
    answer.bytes()(good);
    if (good) pack(answer.bytes(), *made.model);
  });
}

void pass(Packing& packing, PlaneView& view) {
  packing.bytes().each(view.curves, [&](sketch::Form& form) { packing(form); });
  packing.bytes()(view.points);
}

std::string cut_work(std::string_view request, const Task& /*task*/) {
  Asked asked = open_request(request);
  Model model;
  Placement plane;
  std::optional<std::size_t> body;
  asked.values(model);
  asked.values(plane);
  asked.values.bytes().maybe(body, [&](std::size_t& b) { asked.values.bytes()(b); });
  auto view = cut_by_plane_here(model, plane, body);
  if (!view) return answer_with(view.error());
  return answer_with([&, seen = *view](Packing& answer) mutable { pass(answer, seen); });
}

std::string free_body_work(std::string_view request, const Task& /*task*/) {
  Asked asked = open_request(request);
  patch::SplineSurfaces surfaces;
  std::string name;
  asked.values(surfaces);
  asked.values.bytes()(name);
  return answer_with(free_body_here(surfaces, name), asked.serial);
}

}  // namespace

const std::vector<ApartWork>& kernel_works() {
  static const std::vector<ApartWork> works{{kApply, apply_work},
                                            {kSideBySide, side_by_side_work},
                                            {kCut, cut_work},
                                            {kFreeBody, free_body_work}};
  return works;
}

Result<Model> apply_apart(const Step& step, const Setting& setting, const Model& before) {
  return ask_for_model(
      {kApply, title_of(step)},
      [&](Packing& packing) {
        rest_of(step, setting).pass(packing);
        bool knows_before = setting.before_step != nullptr;
        packing.bytes()(knows_before);
        Model model = before;
        packing(model);
      },
      setting.task);
}

SideBySide side_by_side_apart(const Setting& setting, std::size_t first, std::size_t end,
                              std::size_t most, const Model& before) {
  SideBySide made{first, 0, {}};
  const std::uint64_t serial = next_serial();
  const Status status = ask_kernel(
      {kSideBySide, title_of(setting.steps[first]), serial, false},
      [&](Packing& packing) {
        Rest rest;
        for (std::size_t i = first; i < end; ++i) {
          rest.steps.push_back(setting.steps[i]);
          rest.add_sketches(setting.steps[i], setting);
        }
        rest.pass(packing);
        std::uint64_t count = most;
        packing.bytes()(count);
        Model model = before;
        packing(model);
      },
      [&](Packing& answer) {
        answer.bytes()(made.end);
        answer.bytes()(made.steps);
        made.end += first;
        bool good = false;
        answer.bytes()(good);
        if (good) made.model = unpack(answer.bytes(), serial);
      },
      setting.task);
  // What failed together is tried one by one, and told then.
  if (!status) return {first, 0, {}};
  return made;
}

Result<PlaneView> cut_apart(const Model& model, const Placement& plane,
                            std::optional<std::size_t> body) {
  PlaneView view;
  const Status status = ask_kernel(
      {kCut, "The cut through the model"},
      [&](Packing& packing) {
        Model part = model;
        Placement there = plane;
        std::optional<std::size_t> of = body;
        packing(part);
        packing(there);
        packing.bytes().maybe(of, [&](std::size_t& b) { packing.bytes()(b); });
      },
      [&](Packing& answer) { pass(answer, view); }, Task());
  if (!status) return status.error();
  return view;
}

Result<Model> free_body_apart(const patch::SplineSurfaces& surfaces, const std::string& name) {
  return ask_for_model(
      {kFreeBody, "The free body"},
      [&](Packing& packing) {
        patch::SplineSurfaces copy = surfaces;
        std::string called = name;
        packing(copy);
        packing.bytes()(called);
      },
      Task());
}

}  // namespace lostline::model
