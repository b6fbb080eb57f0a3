#include "jobs/showing.h"

#include <algorithm>

#include "project/bodies.h"

namespace lostline::app {
namespace {

using Kind = Item::Kind;
using project::Visibility;

/// The name by which the project remembers how a scan is shown; empty for what is none.
std::string scan_name(const project::Document& d, const Item& item) {
  if (item.kind == Kind::Scan && d.scan) return d.scan->name;
  if (item.kind == Kind::OtherScan && item.id < d.other_scans.size())
    return d.other_scans[item.id]->name;
  return {};
}

project::Document shown(project::Document next, const model::Model& solid, const Item& item,
                        Visibility visibility) {
  project::Showing& showing = next.showing;
  if (const std::string name = scan_name(next, item); !name.empty()) {
    if (visibility == Visibility::Shown)
      showing.scans.erase(name);
    else
      showing.scans[name] = visibility;
  } else if (item.kind == Kind::Region) {
    const auto region = static_cast<std::uint32_t>(item.id);
    showing.hidden_regions.erase(region);
    showing.translucent_regions.erase(region);
    if (visibility == Visibility::Hidden) showing.hidden_regions.insert(region);
    if (visibility == Visibility::Translucent) showing.translucent_regions.insert(region);
  } else if (item.kind == Kind::Sketch) {
    if (visibility == Visibility::Hidden)
      showing.sketches.erase(item.id);
    else
      showing.sketches.insert(item.id);
  } else if (item.kind == Kind::Body) {
    const auto body = solid.find_body(item.name);
    if (!body) return next;
    project::BodyLook look = project::look_of(next, solid.body(*body));
    look.shown = visibility != Visibility::Hidden;
    look.translucent = visibility == Visibility::Translucent;
    if (look == project::BodyLook{})
      next.bodies.erase(solid.body(*body).key);
    else
      next.bodies[solid.body(*body).key] = look;
  }
  return next;
}

}  // namespace

bool can_hide(Kind kind) {
  return kind == Kind::Scan || kind == Kind::OtherScan || kind == Kind::Region ||
         kind == Kind::Sketch || kind == Kind::Body;
}

Visibility visibility_of(const project::BodyLook& look) {
  if (!look.shown) return Visibility::Hidden;
  return look.translucent ? Visibility::Translucent : Visibility::Shown;
}

Visibility visibility_of(const Session& session, const Item& item) {
  const project::Document& d = session.document();
  if (const std::string name = scan_name(d, item); !name.empty()) return d.showing.of_scan(name);
  if (item.kind == Kind::Region) return d.showing.of_region(static_cast<std::uint32_t>(item.id));
  if (item.kind == Kind::Sketch)
    return d.showing.sketches.contains(item.id) ? Visibility::Shown : Visibility::Hidden;
  const model::Model& solid = session.route()->solid;
  const auto body = item.kind == Kind::Body ? solid.find_body(item.name) : std::nullopt;
  if (!body) return Visibility::Shown;
  return visibility_of(project::look_of(d, solid.body(*body)));
}

void set_visibility(Session& session, const std::vector<Item>& items, Visibility visibility) {
  const QString what =
      visibility == Visibility::Hidden
          ? QObject::tr("hide %n item(s)", nullptr, static_cast<int>(items.size()))
      : visibility == Visibility::Translucent
          ? QObject::tr("make %n item(s) translucent", nullptr, static_cast<int>(items.size()))
          : QObject::tr("show %n item(s)", nullptr, static_cast<int>(items.size()));
  session.edit(what,
               [items, visibility, solid = session.route()->solid](
                   const project::Document& d) -> Result<project::Document> {
                 project::Document next = d;
                 for (const Item& item : items)
                   next = shown(std::move(next), solid, item, visibility);
                 return next;
               });
}

void show_only(Session& session, const std::vector<Item>& items) {
  session.edit(QObject::tr("show only %n item(s)", nullptr, static_cast<int>(items.size())),
               [items, solid = session.route()->solid](
                   const project::Document& d) -> Result<project::Document> {
                 project::Document next = d;
                 const auto has = [&](Kind kind) {
                   return std::any_of(items.begin(), items.end(),
                                      [&](const Item& i) { return i.kind == kind; });
                 };
                 std::vector<Item> all;
                 if (has(Kind::Region) && d.survey) {
                   for (const survey::Region& r : d.survey->regions)
                     all.push_back({Kind::Region, r.id});
                 }
                 if (has(Kind::Sketch)) {
                   for (const auto& s : d.sketches) all.push_back({Kind::Sketch, s->id});
                 }
                 if (has(Kind::Scan) || has(Kind::OtherScan)) {
                   if (d.scan) all.push_back({Kind::Scan});
                   for (std::size_t i = 0; i < d.other_scans.size(); ++i)
                     all.push_back({Kind::OtherScan, i});
                 }
                 if (has(Kind::Body)) {
                   for (std::size_t b = 0; b < solid.body_count(); ++b)
                     all.push_back({Kind::Body, 0, solid.body(b).key});
                 }
                 for (const Item& item : all) {
                   const bool wanted = std::find(items.begin(), items.end(), item) != items.end();
                   next = shown(std::move(next), solid, item,
                                wanted ? Visibility::Shown : Visibility::Hidden);
                 }
                 return next;
               });
}

void show_all(Session& session) {
  session.edit(
      QObject::tr("show everything"),
      [solid = session.route()->solid](const project::Document& d) -> Result<project::Document> {
        project::Document next = d;
        next.showing.hidden_regions.clear();
        next.showing.translucent_regions.clear();
        next.showing.scans.clear();
        for (std::size_t b = 0; b < solid.body_count(); ++b)
          next =
              shown(std::move(next), solid, {Kind::Body, 0, solid.body(b).key}, Visibility::Shown);
        return next;
      });
}

}  // namespace lostline::app
