#include "tools/trace/sketch_change.h"

#include <QCoreApplication>
#include <numbers>

#include "look/preferences.h"
#include "sketch/copies.h"
#include "sketch/curve_kind.h"

namespace lostline::app {
namespace {

using Ids = std::vector<sketch::Id>;
using Changed = Result<sketch::Sketch>;

QString tr(const char* text) {
  return QCoreApplication::translate("lostline::app::SketchChange", text);
}

/// What turns and what about: the last pick where it is a point and something is picked beside it,
/// else the origin.
std::pair<Ids, Vec2> about(const sketch::Sketch& s, Ids picks) {
  if (picks.size() < 2) return {picks, Vec2::Zero()};
  const sketch::Id last = picks.back();
  if (last != sketch::kOrigin && s.find_point(last) == nullptr) return {picks, Vec2::Zero()};
  picks.pop_back();
  return {picks, s.position(last)};
}

Changed move(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers& n, QString&) {
  sketch::PlaneMotion motion;
  motion.shift = {n.x, n.y};
  return sketch::move(t.sketch, picks, motion);
}
Changed turn(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers& n, QString&) {
  const auto [items, centre] = about(t.sketch, picks);
  sketch::PlaneMotion motion;
  motion.about = centre;
  motion.turn = n.angle;
  return sketch::move(t.sketch, items, motion);
}
Changed scale(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers& n, QString&) {
  const auto [items, centre] = about(t.sketch, picks);
  sketch::PlaneMotion motion;
  motion.about = centre;
  motion.scale = n.factor;
  return sketch::move(t.sketch, items, motion);
}
Changed row(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers& n, QString&) {
  sketch::PlaneMotion motion;
  motion.shift = {n.x, n.y};
  return sketch::copy(t.sketch, picks, motion, n.count - 1);
}
Changed circle(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers& n, QString&) {
  const auto [items, centre] = about(t.sketch, picks);
  sketch::PlaneMotion motion;
  motion.about = centre;
  motion.turn = 2 * std::numbers::pi / std::max(n.count, 1);
  return sketch::copy(t.sketch, items, motion, n.count - 1);
}
Changed anew(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers& n,
             QString& said) {
  sketch::RedrawOptions options;
  options.reach = t.reach();
  options.tolerance = t.tolerance;
  options.sides = n.count;
  auto drawn = sketch::redraw(t.sketch, t.section, picks, n.as, options);
  if (!drawn) return drawn.error();
  const auto mm = [](double v) { return length_shown(v, 3); };
  said = tr("drawn anew: RMS %1 \u2192 %2 \u00b7 greatest %3 \u2192 %4")
             .arg(mm(drawn->rms_before), mm(drawn->rms_after), mm(drawn->greatest_before),
                  mm(drawn->greatest_after));
  if (drawn->follows_noise)
    said += QLatin1Char('\n') + tr("The spline follows noise: fewer places would do.");
  return drawn->sketch;
}
Changed joined(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers&, QString&) {
  if (picks.size() != 2)
    return Error{ErrorCode::InvalidInput, "Pick the two lines or arcs that are one."};
  return sketch::join(t.sketch, picks[0], picks[1], t.reach());
}
Changed construction(const project::TracedSketch& t, const Ids& picks, const ChangeNumbers&,
                     QString&) {
  sketch::Sketch s = t.sketch;
  bool all = true;
  int found = 0;
  for (const sketch::Entity& e : s.entities) {
    if (std::find(picks.begin(), picks.end(), e.id) == picks.end()) continue;
    all = all && e.construction;
    ++found;
  }
  if (found == 0) return Error{ErrorCode::InvalidInput, "Pick curves first."};
  for (sketch::Entity& e : s.entities) {
    if (std::find(picks.begin(), picks.end(), e.id) != picks.end()) e.construction = !all;
  }
  return s;
}

}  // namespace

const std::vector<SketchChange>& sketch_changes() {
  static const std::vector<SketchChange> all{
      {"draw anew", QT_TRANSLATE_NOOP("tools", "draw anew as"),
       QT_TRANSLATE_NOOP("tools",
                         "The stretch of the picks once more from the section: pieces become one, "
                         "or another kind; picks on both sides of a gap are drawn through it"),
       SketchChange::Kind | SketchChange::Count, anew},
      {"move", QT_TRANSLATE_NOOP("tools", "move"), QT_TRANSLATE_NOOP("tools", "Move the picks"),
       SketchChange::Shift, move},
      {"turn", QT_TRANSLATE_NOOP("tools", "turn"),
       QT_TRANSLATE_NOOP("tools", "Turn the picks about the point picked last, or the origin"),
       SketchChange::Angle, turn},
      {"scale", QT_TRANSLATE_NOOP("tools", "scale"),
       QT_TRANSLATE_NOOP("tools", "Scale the picks about the point picked last, or the origin"),
       SketchChange::Factor, scale},
      {"row", QT_TRANSLATE_NOOP("tools", "copies in a row"),
       QT_TRANSLATE_NOOP("tools", "So many in all, each moved by as much"),
       SketchChange::Shift | SketchChange::Count, row},
      {"circle of copies", QT_TRANSLATE_NOOP("tools", "copies in a circle"),
       QT_TRANSLATE_NOOP("tools",
                         "So many in all, evenly about the point picked last, or the origin"),
       SketchChange::Count, circle},
      {"join", QT_TRANSLATE_NOOP("tools", "join"),
       QT_TRANSLATE_NOOP("tools", "Make one of two lines in a row, or two arcs of one circle"),
       SketchChange::Nothing, joined},
      {"construction", QT_TRANSLATE_NOOP("tools", "construction"),
       QT_TRANSLATE_NOOP("tools",
                         "The picks only help to draw: no part of a profile; once more, and they "
                         "are drawn again"),
       SketchChange::Nothing, construction}};
  return all;
}

}  // namespace lostline::app
