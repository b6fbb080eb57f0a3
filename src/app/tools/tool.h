#pragma once

#include <QCoreApplication>
#include <functional>
#include <vector>

#include "model/feature.h"
#include "tools/tool_card.h"

namespace lostline::app {

/// The stages in the order of work.
enum Stage { kReceive, kSurvey, kDatum, kTrace, kBuild, kProve, kRelease };
constexpr int kStages = 7;
struct StageInfo {
  const char* name;
  const char* leader;  ///< what the hint calls its tools
  int key;             ///< leader key of its tools
};
const StageInfo& stage_info(int stage);
QString stage_name(int stage);

/// A tool, described once: the rail, the menus, the search, the leader keys, the desk, the guide
/// and the generic tests all follow from it.
struct Tool {
  const char* name;  ///< on the rail and over its paragraph of the guide
  const char* icon;  ///< its alone
  const char* tip;   ///< one line
  Stage stage;
  char letter;  ///< that follows the leader key of the stage, or a digit where none is left
  enum class Needs { Nothing, Scan, Survey, Sketch, Model, ScanAndModel, Rows } needs;
  /// @param subject  that is worked on, where the tool has one; 0 makes something new.
  std::function<ToolCard*(Workplace, project::Id subject)> make;
  enum class Subject { None, Sketch, Step } subject = Subject::None;
  /// What it takes as its first picks: in the menus of such items it is offered.
  std::vector<Item::Kind> takes = {};
  /// Tools of one group share a button of the rail, which opens a list of them.
  const char* group = nullptr;
  const model::FeatureKind* kind = nullptr;  ///< of the steps that it makes and edits
  /// Among tools of one kind: whether this one edits a given step.
  bool (*edits)(const model::Feature&) = nullptr;

  [[nodiscard]] QString title() const;
  [[nodiscard]] int key() const;  ///< Qt::Key of the letter
  /// The tip with its keys.
  [[nodiscard]] QString hint() const;
  [[nodiscard]] bool possible(const Session& session) const;
  /// What is missing, and which tool gives it.
  [[nodiscard]] QString lack() const;
  /// What it works on when nothing is chosen: the last sketch.
  [[nodiscard]] project::Id usualSubject(const project::Document& document) const;
  /// False once what a card works on is gone.
  [[nodiscard]] bool stands(const Session& session, project::Id subject) const;
};

/// Every tool, in the order of work; a kind of step without a card of its own has one made from
/// its description.
const std::vector<Tool>& tools();
/// By its untranslated name; null when there is none.
const Tool* find_tool(const char* name);
/// The tool that edits a step.
const Tool& tool_of(const model::Feature& feature);

/// The description of a tool of Build from that of its kind of step.
Tool step_tool(const model::FeatureKind& kind, Tool::Needs needs,
               std::function<ToolCard*(Workplace, project::Id step)> make);
/// With the card made from the description as well.
Tool described_tool(const model::FeatureKind& kind);

}  // namespace lostline::app
