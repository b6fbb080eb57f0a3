#include <QKeySequence>
#include <algorithm>
#include <array>
#include <cassert>
#include <cstring>

#include "model/steps/kinds.h"
#include "tools/tool.h"

namespace lostline::app {

Tool health_tool();
Tool quality_tool();
Tool clean_tool();
Tool mesh_tool();
Tool scale_tool();
Tool join_tool();
Tool scanner_tool();
Tool probe_tool();
Tool regions_tool();
Tool repaint_tool();
Tool fit_tool();
Tool patterns_tool();
Tool relate_tool();
Tool measure_tool();
Tool frame_tool();
Tool feature_tool();
Tool targets_tool();
Tool to_model_tool();
Tool section_tool();
Tool outline_tool();
Tool sketch_tool();
Tool curve_tool();
Tool extrude_tool();
Tool cut_tool();
Tool revolve_tool();
Tool regions_step_tool();
Tool pipe_tool();
Tool patch_tool();
Tool free_body_tool();
Tool hole_tool();
Tool fillet_tool();
Tool chamfer_tool();
Tool pattern_tool();
Tool mirror_tool();
Tool bodies_tool();
Tool ink_tool();
Tool deviation_tool();
Tool compare_tool();
Tool missing_tool();
Tool hand_on_tool();

namespace {

std::vector<Tool> make_tools() {
  std::vector<Tool> all{
      health_tool(),  quality_tool(),  clean_tool(),    mesh_tool(),    scale_tool(),
      join_tool(),    scanner_tool(),  probe_tool(),    regions_tool(), repaint_tool(),
      fit_tool(),     patterns_tool(), relate_tool(),   measure_tool(), frame_tool(),
      feature_tool(), targets_tool(),  to_model_tool(), section_tool(), outline_tool(),
      sketch_tool(),  curve_tool(),    extrude_tool(),  cut_tool(),     revolve_tool(),
      hole_tool(),    fillet_tool(),   chamfer_tool(),  pattern_tool(), mirror_tool()};
  std::vector<Tool> grouped{bodies_tool(), regions_step_tool(), pipe_tool(), patch_tool(),
                            free_body_tool()};
  for (const model::FeatureKind* kind : model::feature_kinds()) {
    const auto makes = [&](const Tool& t) { return t.kind == kind; };
    if (std::any_of(all.begin(), all.end(), makes) ||
        std::any_of(grouped.begin(), grouped.end(), makes))
      continue;
    const Tool tool = described_tool(*kind);
    (tool.group != nullptr ? grouped : all).push_back(tool);
  }
  all.insert(all.end(), grouped.begin(), grouped.end());
  for (const Tool& tool :
       {ink_tool(), deviation_tool(), compare_tool(), missing_tool(), hand_on_tool()})
    all.push_back(tool);
  return all;
}

constexpr std::array<StageInfo, kStages> kStageInfo{{
    {QT_TRANSLATE_NOOP("tools", "Receive"), QT_TRANSLATE_NOOP("tools", "receive"), Qt::Key_I},
    {QT_TRANSLATE_NOOP("tools", "Survey"), QT_TRANSLATE_NOOP("tools", "survey"), Qt::Key_F},
    {QT_TRANSLATE_NOOP("tools", "Datum"), QT_TRANSLATE_NOOP("tools", "datum"), Qt::Key_D},
    {QT_TRANSLATE_NOOP("tools", "Trace"), QT_TRANSLATE_NOOP("tools", "section"), Qt::Key_K},
    {QT_TRANSLATE_NOOP("tools", "Build"), QT_TRANSLATE_NOOP("tools", "build"), Qt::Key_B},
    {QT_TRANSLATE_NOOP("tools", "Prove"), QT_TRANSLATE_NOOP("tools", "prove"), Qt::Key_P},
    {QT_TRANSLATE_NOOP("tools", "Release"), QT_TRANSLATE_NOOP("tools", "hand on"), Qt::Key_O},
}};

QString tr(const char* text) { return QCoreApplication::translate("tools", text); }

}  // namespace

const StageInfo& stage_info(int stage) { return kStageInfo.at(static_cast<std::size_t>(stage)); }

QString stage_name(int stage) { return tr(stage_info(stage).name); }

const std::vector<Tool>& tools() {
  static const std::vector<Tool> all = make_tools();
  return all;
}

const Tool* find_tool(const char* name) {
  const auto it = std::find_if(tools().begin(), tools().end(),
                               [name](const Tool& t) { return std::strcmp(t.name, name) == 0; });
  return it != tools().end() ? &*it : nullptr;
}

const Tool& tool_of(const model::Feature& feature) {
  const auto it = std::find_if(tools().begin(), tools().end(), [&](const Tool& t) {
    return t.kind == &feature.kind() && (t.edits == nullptr || t.edits(feature));
  });
  assert(it != tools().end());
  return *it;
}

Tool step_tool(const model::FeatureKind& kind, Tool::Needs needs,
               std::function<ToolCard*(Workplace, project::Id step)> make) {
  Tool tool{kind.title, kind.icon, kind.tip, kBuild, kind.letter, needs, std::move(make)};
  tool.subject = Tool::Subject::Step;
  tool.kind = &kind;
  if (needs == Tool::Needs::Sketch) tool.takes = {Item::Kind::Sketch};
  return tool;
}

QString Tool::title() const {
  return QCoreApplication::translate(kind != nullptr ? "steps" : "tools", name);
}

int Tool::key() const {
  return letter <= '9' ? Qt::Key_0 + (letter - '0') : Qt::Key_A + (letter - 'a');
}

QString Tool::hint() const {
  const QString text = QCoreApplication::translate(kind != nullptr ? "steps" : "tools", tip);
  return QStringLiteral("%1%2 (%3 %4)")
      .arg(text.left(1).toUpper(), text.mid(1), QKeySequence(stage_info(stage).key).toString(),
           QString(QLatin1Char(letter)));
}

bool Tool::possible(const Session& session) const {
  const project::Document& d = session.document();
  const bool model = session.route()->tessellation != nullptr;
  switch (needs) {
    case Needs::Nothing:
      return true;
    case Needs::Scan:
      return d.scan != nullptr;
    case Needs::Survey:
      return d.survey != nullptr;
    case Needs::Sketch:
      return !d.sketches.empty();
    case Needs::Model:
      return model;
    case Needs::ScanAndModel:
      return model && d.scan != nullptr;
    case Needs::Rows:
      return !d.dimensions.empty();
  }
  return false;
}

QString Tool::lack() const {
  switch (needs) {
    case Needs::Nothing:
      break;
    case Needs::Scan:
      return tr("It needs a scan: open one first.");
    case Needs::Survey:
      return tr("It needs regions: split the scan first (Survey, Regions).");
    case Needs::Sketch:
      return tr("It needs a sketch: cut a section first (Trace, Section).");
    case Needs::Model:
      return tr("It needs a model: build a step first (Build, Extrude).");
    case Needs::ScanAndModel:
      return tr("It needs a scan and a model: build a step first (Build, Extrude).");
    case Needs::Rows:
      return tr("It needs rows in the Ledger: trace, build or measure first.");
  }
  return {};
}

project::Id Tool::usualSubject(const project::Document& document) const {
  return subject == Subject::Sketch && !document.sketches.empty() ? document.sketches.back()->id
                                                                  : 0;
}

bool Tool::stands(const Session& session, project::Id id) const {
  if (subject == Subject::Sketch) return session.document().find_sketch(id) != nullptr;
  if (subject == Subject::Step && id != 0) return session.document().find_step(id) != nullptr;
  return possible(session);
}

}  // namespace lostline::app
