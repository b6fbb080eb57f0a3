#include "windows/leader_keys.h"

#include <QCoreApplication>
#include <QKeySequence>

#include "tools/step_cards.h"

namespace lostline::app {
namespace {

// Names of tools are those of the rail, in the window's translation context.
QString translated(const char* text) {
  return QCoreApplication::translate("lostline::app::MainWindow", text);
}

LeaderKey view(int key, const char* label, int which) { return {key, label, which}; }
LeaderKey tool(int key, const char* label, int stage, const char* name) {
  return {key, label, -1, stage, name};
}
LeaderKey command(int key, const char* label, const char* name) {
  return {key, label, -1, 0, nullptr, name};
}

std::vector<LeaderKey> build_keys() {
  // The names outlive the list that refers to them.
  static const std::vector<std::pair<QByteArray, QByteArray>> names = [] {
    std::vector<std::pair<QByteArray, QByteArray>> list;
    for (const StepCard& card : step_cards())
      list.emplace_back(card.name.toLower().toUtf8(), card.name.toUtf8());
    return list;
  }();
  std::vector<LeaderKey> keys;
  for (std::size_t i = 0; i < names.size(); ++i)
    keys.push_back(
        tool(step_cards()[i].key, names[i].first.constData(), kBuild, names[i].second.constData()));
  return keys;
}

}  // namespace

const std::vector<Leader>& leaders() {
  static const std::vector<Leader> all{
      {Qt::Key_W,
       QT_TRANSLATE_NOOP("lostline::app::MainWindow", "view"),
       {view(Qt::Key_1, "front", 1), view(Qt::Key_2, "back", 2), view(Qt::Key_3, "left", 3),
        view(Qt::Key_4, "right", 4), view(Qt::Key_5, "top", 5), view(Qt::Key_6, "bottom", 6),
        view(Qt::Key_O, "oblique", 0), view(Qt::Key_0, "whole", kFitView),
        view(Qt::Key_S, "selection", kFitSelection), view(Qt::Key_W, "window", kWindow),
        view(Qt::Key_N, "straight at the selection", kNormal)}},
      {Qt::Key_F,
       QT_TRANSLATE_NOOP("lostline::app::MainWindow", "fit"),
       {tool(Qt::Key_S, "regions", kSurvey, "Regions"), tool(Qt::Key_F, "fit", kSurvey, "Fit"),
        tool(Qt::Key_R, "relate", kSurvey, "Relate"),
        tool(Qt::Key_P, "repaint", kSurvey, "Repaint"),
        tool(Qt::Key_M, "measure", kSurvey, "Measure")}},
      {Qt::Key_K,
       QT_TRANSLATE_NOOP("lostline::app::MainWindow", "section"),
       {tool(Qt::Key_K, "plane section", kTrace, "Section"),
        tool(Qt::Key_S, "sketch", kTrace, "Sketch")}},
      {Qt::Key_B, QT_TRANSLATE_NOOP("lostline::app::MainWindow", "build"), build_keys()},
      {Qt::Key_R,
       QT_TRANSLATE_NOOP("lostline::app::MainWindow", "constraint of the picks"),
       {command(Qt::Key_H, "horizontal", "horizontal"), command(Qt::Key_V, "vertical", "vertical"),
        command(Qt::Key_P, "parallel", "parallel"),
        command(Qt::Key_S, "perpendicular", "perpendicular"),
        command(Qt::Key_T, "tangent", "tangent"), command(Qt::Key_E, "equal", "equal"),
        command(Qt::Key_C, "concentric", "concentric"),
        command(Qt::Key_O, "coincident", "coincident"), command(Qt::Key_M, "midpoint", "midpoint"),
        command(Qt::Key_Y, "symmetric", "symmetric")}},
      {Qt::Key_G,
       QT_TRANSLATE_NOOP("lostline::app::MainWindow", "draw"),
       {command(Qt::Key_L, "line", "draw line"), command(Qt::Key_A, "arc", "draw arc"),
        command(Qt::Key_C, "circle", "draw circle"), command(Qt::Key_T, "trim", "trim"),
        command(Qt::Key_E, "extend", "extend"), command(Qt::Key_M, "mirror", "mirror"),
        command(Qt::Key_O, "offset", "offset")}},
      {Qt::Key_V,
       QT_TRANSLATE_NOOP("lostline::app::MainWindow", "value"),
       {command(Qt::Key_D, "dimension of the picks", "dimension"),
        command(Qt::Key_A, "angle of two lines", "angle")}},
  };
  return all;
}

const Leader* find_leader(int key) {
  for (const Leader& leader : leaders()) {
    if (leader.key == key) return &leader;
  }
  return nullptr;
}

const LeaderKey* find_key(const Leader& leader, int key) {
  for (const LeaderKey& k : leader.keys) {
    if (k.key == key) return &k;
  }
  return nullptr;
}

QString hint(const Leader& leader) {
  QString text = translated(leader.title) + QLatin1Char(':');
  for (const LeaderKey& k : leader.keys)
    text += QStringLiteral("  ") + QKeySequence(k.key).toString().toLower() + QLatin1Char(' ') +
            translated(k.label);
  return text;
}

}  // namespace lostline::app
