#include "windows/next_thing.h"

#include <QCoreApplication>
#include <QStringList>
#include <map>

#include "base/text.h"
#include "fit/surface_kind.h"
#include "look/catalogue.h"
#include "look/preferences.h"

namespace lostline::app {
namespace {

QString tr(const char* text, int n = -1) {
  return QCoreApplication::translate("lostline::app::NextThing", text, nullptr, n);
}
QString found(const survey::Survey& survey) {
  std::map<fit::Kind, int> counts;
  for (const survey::Region& r : survey.regions) {
    if (r.triangles > 0 && r.fit) ++counts[r.fit->surface.kind];
  }
  QStringList parts;
  for (const auto& [kind, count] : counts) {
    if (parts.size() == 2) break;
    parts << QStringLiteral("%1 %2").arg(count).arg(count == 1 ? core_word(fit::kind_name(kind))
                                                               : core_plural(fit::kind_name(kind)));
  }
  return parts.isEmpty() ? tr("no faces") : parts.join(tr(" and "));
}

/// With a model: what is broken, what is not explained, what is still in pencil, then the end.
NextThing after_model(const project::Document& d, const RouteState& route) {
  int broken = 0;
  project::Id first = 0;
  for (std::size_t i = 0; i < route.steps.size() && i < d.steps.size(); ++i) {
    if (route.steps[i].state != model::StepState::Broken) continue;
    if (broken++ == 0) first = d.steps[i].id;
  }
  if (broken > 0) return {tr("%n step(s) broken: open the first", broken), nullptr, first};
  const double within = route.statistics.within_fraction;
  const QString share = QString::fromStdString(format_fixed(100 * within, 0));
  const QString band = QString::fromStdString(length_trimmed(d.tolerance, 3));
  constexpr double kExplained = 0.9;  // of the scan: less, and features are missing
  const bool known = route.map && !route.map_is_old;
  if (known && within < kExplained)
    return {tr("%1 % of the scan within \u00b1%2: see where the model departs").arg(share, band),
            find_tool("Deviation"), 0};
  const auto pencilled = std::count_if(d.dimensions.begin(), d.dimensions.end(),
                                       [](const auto& row) { return !row.intent; });
  if (pencilled > 0)
    return {tr("%n row(s) in pencil: ink what is certain", static_cast<int>(pencilled)),
            find_tool("Ink"), 0};
  if (known)
    return {tr("%1 % within \u00b1%2, all inked: hand the model on").arg(share, band),
            find_tool("Hand on"), 0};
  return {tr("All inked: hand the model on"), find_tool("Hand on"), 0};
}

}  // namespace

NextThing next_thing(const project::Document& d, const RouteState& route) {
  if (!d.scan && d.steps.empty()) return {tr("Open a scan of the part"), nullptr, 0};
  if (!d.steps.empty()) return after_model(d, route);
  if (!d.survey)
    return {tr("%1 triangles received: split them into regions")
                .arg(QString::fromStdString(format_count(d.scan->health.triangles))),
            find_tool("Regions"), 0};
  if (!d.frame)
    return {tr("%1 found: choose a datum frame").arg(found(*d.survey)), find_tool("Frame"), 0};
  if (d.sketches.empty()) return {tr("The frame is set: cut a section"), find_tool("Section"), 0};
  return {tr("%n sketch(es): make the first body of them", static_cast<int>(d.sketches.size())),
          find_tool("Extrude"), 0};
}

}  // namespace lostline::app
