#include "io/exchange_apart.h"

#include "model/apart/kernel_process.h"

namespace lostline::io {
namespace {

constexpr const char* kReadStep = "read step";
constexpr const char* kReadCurves = "read curves";

std::string read_step_work(std::string_view request, const Task& /*task*/) {
  model::Asked asked = model::open_request(request);
  std::string text;
  std::string shown;
  std::string key;
  for (std::string* part : {&text, &shown, &key}) asked.values.bytes()(*part);
  return model::answer_with(read_step_text_here(text, shown, key), asked.serial);
}

void pass(model::Packing& packing, PlaneCurves& curves) {
  packing(curves.plane);
  packing.bytes().each(curves.curves, [&](sketch::Form& form) { packing(form); });
  packing.bytes()(curves.points);
  packing.bytes()(curves.left_out);
}

std::string read_curves_work(std::string_view request, const Task& /*task*/) {
  model::Asked asked = model::open_request(request);
  std::string path;
  bool iges = false;
  asked.values.bytes()(path);
  asked.values.bytes()(iges);
  auto curves = read_curves_here(path, iges);
  if (!curves) return model::answer_with(curves.error());
  return model::answer_with([&](model::Packing& answer) {
    PlaneCurves read = *curves;
    pass(answer, read);
  });
}

/// What went down on a file was the file's doing.
Error damaged(const std::string& shown, const Error& error) {
  if (error.code != ErrorCode::Failed) return error;
  return {ErrorCode::InvalidInput,
          shown + " is damaged: the geometry kernel cannot read it. Export it anew."};
}

}  // namespace

const std::vector<ApartWork>& exchange_works() {
  static const std::vector<ApartWork> works{{kReadStep, read_step_work},
                                            {kReadCurves, read_curves_work}};
  return works;
}

Result<model::Model> read_step_apart(const std::string& text, const std::string& shown,
                                     const std::string& key) {
  auto read = model::ask_for_model(
      {kReadStep, shown, 0, false},
      [&](model::Packing& packing) {
        for (std::string part : {text, shown, key}) packing.bytes()(part);
      },
      Task());
  if (!read) return damaged(shown, read.error());
  return read;
}

Result<PlaneCurves> read_curves_apart(const std::filesystem::path& path, bool iges) {
  PlaneCurves curves;
  const Status status = model::ask_kernel(
      {kReadCurves, path.string(), 0, false},
      [&](model::Packing& packing) {
        std::string text = path.string();
        bool which = iges;
        packing.bytes()(text);
        packing.bytes()(which);
      },
      [&](model::Packing& answer) { pass(answer, curves); }, Task());
  if (!status) return damaged(path.string(), status.error());
  return curves;
}

}  // namespace lostline::io
