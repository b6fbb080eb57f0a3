#pragma once

#include <Message_ProgressIndicator.hxx>

#include "base/task.h"

namespace lostline::model {

/// A task as the geometry kernel asks for it: hand `progress->Start()` to one of its algorithms,
/// and ask the task afterwards whether it was stopped.
class KernelProgress : public Message_ProgressIndicator {
 public:
  explicit KernelProgress(const Task& task) : task_(task) {}

 protected:
  Standard_Boolean UserBreak() override { return task_.stopped(); }
  void Show(const Message_ProgressScope&, Standard_Boolean) override {
    if (!task_.stopped()) task_.report(GetPosition());  // it runs to its end when it is left
  }

 private:
  Task task_;
};

}  // namespace lostline::model
