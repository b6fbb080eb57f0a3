#include "windows/leader_keys.h"

#include <QCoreApplication>
#include <QKeySequence>

#include "tools/trace/sketch_incoming.h"
#include "tools/trace/sketch_pen.h"

namespace lostline::app {
namespace {

QString translated(const char* text) { return QCoreApplication::translate("tools", text); }

LeaderKey view(int key, const char* label, int which) { return {key, label, which}; }
LeaderKey command(int key, const char* label, const char* name) {
  return {key, label, -1, nullptr, name};
}

/// The tools of a stage.
Leader tools_of(int stage) {
  Leader leader{stage_info(stage).key, stage_info(stage).leader, {}};
  for (const Tool& tool : tools()) {
    if (tool.stage == stage) leader.keys.push_back({tool.key(), tool.name, -1, &tool, nullptr});
  }
  return leader;
}

}  // namespace

const std::vector<Leader>& leaders() {
  static const std::vector<Leader> all = [] {
    std::vector<Leader> list{
        {Qt::Key_W,
         QT_TRANSLATE_NOOP("tools", "view"),
         {view(Qt::Key_1, QT_TRANSLATE_NOOP("tools", "front"), 1),
          view(Qt::Key_2, QT_TRANSLATE_NOOP("tools", "back"), 2),
          view(Qt::Key_3, QT_TRANSLATE_NOOP("tools", "left"), 3),
          view(Qt::Key_4, QT_TRANSLATE_NOOP("tools", "right"), 4),
          view(Qt::Key_5, QT_TRANSLATE_NOOP("tools", "top"), 5),
          view(Qt::Key_6, QT_TRANSLATE_NOOP("tools", "bottom"), 6),
          view(Qt::Key_O, QT_TRANSLATE_NOOP("tools", "oblique"), 0),
          view(Qt::Key_0, QT_TRANSLATE_NOOP("tools", "whole"), kFitView),
          view(Qt::Key_S, QT_TRANSLATE_NOOP("tools", "selection"), kFitSelection),
          view(Qt::Key_W, QT_TRANSLATE_NOOP("tools", "window"), kWindow),
          view(Qt::Key_N, QT_TRANSLATE_NOOP("tools", "straight at the selection"), kNormal),
          view(Qt::Key_C, QT_TRANSLATE_NOOP("tools", "clip plane"), kClip),
          view(Qt::Key_F, QT_TRANSLATE_NOOP("tools", "its other side"), kFlipClip),
          view(Qt::Key_P, QT_TRANSLATE_NOOP("tools", "scan as points"), kAsPoints)}},
        {Qt::Key_R,
         QT_TRANSLATE_NOOP("tools", "constraint of the picks"),
         {command(Qt::Key_H, QT_TRANSLATE_NOOP("tools", "horizontal"), "horizontal"),
          command(Qt::Key_V, QT_TRANSLATE_NOOP("tools", "vertical"), "vertical"),
          command(Qt::Key_P, QT_TRANSLATE_NOOP("tools", "parallel"), "parallel"),
          command(Qt::Key_S, QT_TRANSLATE_NOOP("tools", "perpendicular"), "perpendicular"),
          command(Qt::Key_T, QT_TRANSLATE_NOOP("tools", "tangent"), "tangent"),
          command(Qt::Key_E, QT_TRANSLATE_NOOP("tools", "equal"), "equal"),
          command(Qt::Key_C, QT_TRANSLATE_NOOP("tools", "concentric"), "concentric"),
          command(Qt::Key_O, QT_TRANSLATE_NOOP("tools", "coincident"), "coincident"),
          command(Qt::Key_M, QT_TRANSLATE_NOOP("tools", "midpoint"), "midpoint"),
          command(Qt::Key_Y, QT_TRANSLATE_NOOP("tools", "symmetric"), "symmetric"),
          command(Qt::Key_L, QT_TRANSLATE_NOOP("tools", "collinear"), "collinear"),
          command(Qt::Key_B, QT_TRANSLATE_NOOP("tools", "smooth"), "smooth"),
          command(Qt::Key_F, QT_TRANSLATE_NOOP("tools", "fixed"), "fixed")}},
        {Qt::Key_G,
         QT_TRANSLATE_NOOP("tools", "draw"),
         {command(Qt::Key_T, QT_TRANSLATE_NOOP("tools", "trim"), "trim"),
          command(Qt::Key_E, QT_TRANSLATE_NOOP("tools", "extend"), "extend"),
          command(Qt::Key_K, QT_TRANSLATE_NOOP("tools", "break"), "break"),
          command(Qt::Key_M, QT_TRANSLATE_NOOP("tools", "mirror"), "mirror"),
          command(Qt::Key_J, QT_TRANSLATE_NOOP("tools", "join"), "join"),
          command(Qt::Key_X, QT_TRANSLATE_NOOP("tools", "construction"), "construction"),
          command(Qt::Key_W, QT_TRANSLATE_NOOP("tools", "copy"), "copy"),
          command(Qt::Key_V, QT_TRANSLATE_NOOP("tools", "paste"), "paste"),
          command(Qt::Key_O, QT_TRANSLATE_NOOP("tools", "offset"), "offset")}},
        {Qt::Key_V,
         QT_TRANSLATE_NOOP("tools", "value"),
         {command(Qt::Key_D, QT_TRANSLATE_NOOP("tools", "dimension of the picks"), "dimension"),
          command(Qt::Key_A, QT_TRANSLATE_NOOP("tools", "angle of two lines"), "angle"),
          command(Qt::Key_V, QT_TRANSLATE_NOOP("tools", "all dimensions that are missing"),
                  "dimension it")}},
    };
    // The pens first.
    for (Leader& leader : list) {
      if (leader.key != Qt::Key_G) continue;
      std::vector<LeaderKey> keys;
      for (const Pen& pen : pens()) keys.push_back(command(pen.key, pen.title, pen.command));
      leader.keys.insert(leader.keys.begin(), keys.begin(), keys.end());
      for (const Incoming& in : incoming())
        leader.keys.push_back(command(in.key, in.title, in.command));
    }
    for (int stage = kReceive; stage <= kRelease; ++stage) list.push_back(tools_of(stage));
    return list;
  }();
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
            (k.tool != nullptr ? k.tool->title().toLower() : translated(k.label));
  return text;
}

}  // namespace lostline::app
