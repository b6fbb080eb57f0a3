#include "panels/evidence_rows.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "fit/surface_kind.h"
#include "jobs/showing.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "project/bodies.h"
#include "project/fits.h"
#include "project/patterns.h"
#include "project/relations.h"
#include "survey/plane_sizes.h"

namespace lostline::app {
namespace {

using Row = EvidenceRow;

QString tr(const char* text, const char* disambiguation = nullptr, int n = -1) {
  return QCoreApplication::translate("lostline::app::EvidencePanel", text, disambiguation, n);
}
QString utf8(const std::string& text) { return QString::fromStdString(text); }

/// Triangles in as few letters as the column has room for.
QString brief_count(std::size_t triangles) {
  const QString mark = QStringLiteral(" \u25b5");
  const auto count = static_cast<double>(triangles);
  if (triangles >= 999500)
    return QString::number(1e-6 * count, 'f', 2) + QStringLiteral(" M") + mark;
  if (triangles >= 10000)
    return QString::number(1e-3 * count, 'f', 0) + QStringLiteral(" k") + mark;
  return QString::number(triangles) + mark;
}
QString exact_count(std::size_t triangles) {
  return tr("%1 triangles").arg(utf8(format_count(triangles)));
}

Row group(const QString& key, const QString& what, const QString& state = {}) {
  Row row;
  row.key = key;
  row.what = what;
  row.state = state;
  return row;
}

/// The form characteristic of a surface, ISO 1101: flatness, cylindricity; what is
/// neither is judged by its surface profile.
QString symbol(const fit::SurfaceFit* f) {
  if (f == nullptr) return QStringLiteral("\u223f ");
  switch (f->surface.kind) {
    case fit::Kind::Plane:
      return QStringLiteral("\u25b1 ");
    case fit::Kind::Cylinder:
      return QStringLiteral("\u232d ");
    case fit::Kind::Cone:
    case fit::Kind::Sphere:
    case fit::Kind::Torus:
      return QStringLiteral("\u2313 ");
    case fit::Kind::Line:
      return QStringLiteral("\u23e4 ");
    case fit::Kind::Circle:
      return QStringLiteral("\u25cb ");
    case fit::Kind::Ellipse:
      return QStringLiteral("\u2312 ");
    case fit::Kind::Point:
      return QStringLiteral("\u00d7 ");
  }
  return {};
}

QString size_of(const fit::Surface& s) {
  const fit::SizeInfo* size = fit::about(s.kind).size();
  if (size == nullptr) return {};
  if (size->unit == fit::SizeInfo::Unit::Angle)
    return utf8(format_fixed(size->said(s), 2)) + QChar(0x00b0);
  return QString::fromUtf8(size->symbol) + QLatin1Char(' ') + utf8(length_fixed(size->said(s), 2));
}

/// "+z", or nothing for what is square to no axis of the part.
QString facing(const Vec3& normal) {
  constexpr double kSquare = 0.99985;  // within a degree
  for (int axis = 0; axis < 3; ++axis) {
    if (std::abs(normal[axis]) > kSquare)
      return (normal[axis] > 0 ? QStringLiteral("+") : QStringLiteral("\u2212")) +
             QStringLiteral("xyz").mid(axis, 1);
  }
  return {};
}

QString tip_of(const survey::Region& r) {
  const QString kind =
      r.fit ? core_word(fit::kind_name(r.fit->surface.kind)) : tr("free-form region");
  QString tip =
      tr("%1 %2: %3 triangles, %4").arg(kind).arg(r.id).arg(r.triangles).arg(area_text(r.area));
  if (r.fit)
    tip += tr("\nRMS %1, form error %2")
               .arg(utf8(length_fixed(r.fit->rms, 3)), utf8(length_fixed(r.fit->form_error, 3)));
  if (r.form) tip += QLatin1Char('\n') + core_text(r.form->words());
  if (r.shared != 0 && r.shared != r.id) tip += tr("\non one surface with region %1").arg(r.shared);
  if (r.direction_of != 0)
    tip += tr("\ndirection of region %1: its own is uncertain by %2\u00b0")
               .arg(r.direction_of)
               .arg(r.fit->u_angle * 180 / std::numbers::pi, 0, 'f', 2);
  if (r.locked) tip += tr("\nlocked");
  return tip;
}

Row region_row(const project::Document& d, const survey::Region& r, const RegionExtents& extents) {
  Row row;
  row.item = {Item::Kind::Region, r.id};
  row.visibility = d.showing.of_region(r.id);
  row.area = r.area;
  row.state = core_word(survey::finish_name(r.finish));
  row.tip = tip_of(r);
  row.what = symbol(r.fit ? &*r.fit : nullptr) + QString::number(r.id);
  if (!r.fit) return row;
  row.form = r.fit->form_error;
  row.size = size_of(r.fit->surface);
  if (!fit::is_flat(r.fit->surface.kind)) return row;
  row.what += QLatin1Char(' ') + facing(d.to_part().linear() * r.fit->surface.axis);
  if (extents.survey == d.survey && r.id < extents.size.size()) {
    const Vec2 size = extents.size[r.id];
    row.size = utf8(length_fixed(size.x(), 0)) + QChar(0x00d7) + utf8(length_fixed(size.y(), 0));
  }
  return row;
}

/// The groups that a region stands in, each by its key and title.
std::vector<std::pair<QString, QString>> groups_of(const survey::Survey& survey,
                                                   const survey::Region& r, Grouping grouping,
                                                   const std::vector<QString>& patterns) {
  const QString kind = r.fit ? core_word(fit::kind_name(r.fit->surface.kind)) : tr("free-form");
  if (grouping == Grouping::BySurface && r.shared != 0)
    return {{QStringLiteral("shared %1").arg(r.shared),
             tr("one %1: with region %2").arg(kind).arg(r.shared)}};
  if (grouping == Grouping::ByPattern) {
    std::vector<std::pair<QString, QString>> in;
    for (std::size_t p = 0; p < survey.patterns.size(); ++p) {
      const auto& members = survey.patterns[p].regions;
      if (std::find(members.begin(), members.end(), r.id) != members.end())
        in.emplace_back(QStringLiteral("pattern %1").arg(p), patterns[p]);
    }
    if (!in.empty()) return in;
    return {{QStringLiteral("alone"), tr("in no pattern")}};
  }
  if (grouping == Grouping::BySurface) return {{QStringLiteral("single"), tr("alone")}};
  return {{kind, r.fit ? core_plural(fit::kind_name(r.fit->surface.kind)) : tr("free-form")}};
}

Row region_groups(const project::Document& d, const RegionExtents& extents, Grouping grouping) {
  Row regions = group(QStringLiteral("regions"), tr("Regions"));
  if (!d.survey) {
    regions.what = tr("No regions yet: Survey finds them");
    return regions;
  }
  std::vector<QString> patterns;
  if (grouping == Grouping::ByPattern) {
    for (const survey::Pattern& p : d.survey->patterns)
      patterns.push_back(core_text(project::describe(d, p)));
  }
  std::map<QString, std::size_t> place;
  std::size_t count = 0;
  for (const survey::Region& r : d.survey->regions) {
    if (r.triangles == 0) continue;  // merged into another
    ++count;
    for (const auto& [key, title] : groups_of(*d.survey, r, grouping, patterns)) {
      const auto [it, fresh] = place.emplace(key, regions.children.size());
      if (fresh) regions.children.push_back(group(QStringLiteral("regions/") + key, title));
      regions.children[it->second].children.push_back(region_row(d, r, extents));
    }
  }
  for (Row& g : regions.children) g.state = QString::number(g.children.size());
  // Free-form and what is in no group come last.
  std::stable_partition(regions.children.begin(), regions.children.end(), [](const Row& g) {
    return !g.key.endsWith(tr("free-form")) && !g.key.endsWith(QStringLiteral("alone")) &&
           !g.key.endsWith(QStringLiteral("single"));
  });
  regions.state = QString::number(count);
  return regions;
}

Row fit_rows(const project::Document& d) {
  Row fits = group(QStringLiteral("fits"), tr("Fits"), QString::number(d.fits.size()));
  for (const auto& f : d.fits) {
    Row row;
    row.item = {Item::Kind::Fit, f->id};
    row.removes = true;
    row.what = symbol(&f->result) + utf8(f->name);
    row.size = size_of(f->result.surface);
    row.form = f->result.form_error;
    row.renames = true;
    row.tip = tr("%1: RMS %2, form error %3")
                  .arg(utf8(f->name), utf8(length_fixed(f->result.rms, 3)),
                       utf8(length_fixed(f->result.form_error, 3)));
    fits.children.push_back(row);
  }
  return fits;
}

Row relation_rows(const project::Document& d) {
  Row relations =
      group(QStringLiteral("relations"), tr("Relations"), QString::number(d.relations.size()));
  for (const project::FitRelation& r : d.relations) {
    const QString words = utf8(d.name_of(r.a) + " " + project::describe(d, r));
    Row row;
    row.item = r.a.fit != 0 ? Item{Item::Kind::Fit, r.a.fit} : Item{Item::Kind::Region, r.a.region};
    row.what = words.section(QStringLiteral(": costs"), 0, 0);
    row.wrong = project::matters(d, r.cost);
    row.state = r.cost.within_noise ? tr("within noise")
                : row.wrong         ? tr("disagrees")
                                    : tr("no matter");
    row.tip = words;
    relations.children.push_back(row);
  }
  return relations;
}

Row datum_rows(const project::Document& d) {
  Row datums = group(QStringLiteral("datums"), tr("Datums"));
  const auto datum = [&](const QString& letter, const project::FitRef& ref) {
    const fit::SurfaceFit* f = d.fit_of(ref);
    Row row;
    row.item = ref.fit != 0 ? Item{Item::Kind::Fit, ref.fit} : Item{Item::Kind::Region, ref.region};
    row.what = letter + QStringLiteral("  ") + symbol(f) + utf8(d.name_of(ref));
    if (f != nullptr) row.form = f->form_error;
    datums.children.push_back(row);
  };
  if (d.frame->upon) {
    Row row;
    row.what = tr("upon %1").arg(utf8(d.frame->upon->model));
    row.form = d.frame->upon->rms;
    datums.children.push_back(row);
  } else {
    datum(QStringLiteral("A"), d.frame->primary);
  }
  for (const auto& ref : d.frame->secondary) datum(QStringLiteral("B"), ref);
  for (const auto& ref : d.frame->origin) datum(QStringLiteral("C"), ref);
  return datums;
}

struct HeldState {
  sketch::State state = sketch::State::Clashing;
  int freedoms = 0;
};

/// How a sketch is held. Rows are made anew at every change of the document, of which few touch a
/// sketch: each state of one is solved once.
HeldState held_state(const std::shared_ptr<const project::TracedSketch>& s) {
  static std::map<project::Id, std::pair<std::weak_ptr<const project::TracedSketch>, HeldState>>
      known;
  auto& [of, held] = known[s->id];
  if (of.lock() == s) return held;
  of = s;
  held = {};
  if (const auto solution = sketch::solve(s->sketch)) held = {solution->state, solution->freedoms};
  return held;
}

Row sketch_rows(const project::Document& d) {
  Row sketches = group(QStringLiteral("sketches"), tr("Sections and sketches"),
                       QString::number(d.sketches.size()));
  for (const auto& s : d.sketches) {
    const HeldState held = held_state(s);
    Row row;
    row.item = {Item::Kind::Sketch, s->id};
    row.removes = true;
    row.what = utf8(s->name);
    row.renames = true;
    row.state = tr("clashing");
    if (held.state == sketch::State::Held) row.state = tr("held");
    if (held.state == sketch::State::Loose) row.state = tr("loose %1").arg(held.freedoms);
    row.wrong = held.state == sketch::State::Clashing;
    QStringList users;
    for (const model::Step& step : d.steps) {
      const std::vector<project::Id> rests_on = model::uses_of(step.feature).sketches;
      if (std::find(rests_on.begin(), rests_on.end(), s->id) != rests_on.end())
        users << utf8(step.name);
    }
    row.tip = tr("Double-click to edit the sketch");
    if (!users.isEmpty())
      row.tip += tr("\nsteps that rest on it: %1").arg(users.join(QStringLiteral(", ")));
    sketches.children.push_back(row);
  }
  return sketches;
}

Row body_rows(const project::Document& d, const model::Model& solid) {
  Row bodies = group(QStringLiteral("bodies"), tr("Bodies"), QString::number(solid.body_count()));
  for (std::size_t b = 0; b < solid.body_count(); ++b) {
    const model::Body& body = solid.body(b);
    Row row;
    row.item = {Item::Kind::Body, 0, body.key};
    row.visibility = visibility_of(project::look_of(d, body));
    row.what = utf8(project::body_title(d, body));
    row.size = core_word(model::kind_name(body.kind));
    row.renames = true;
    bodies.children.push_back(row);
  }
  return bodies;
}

}  // namespace

RegionExtents measure_extents(const project::Document& d) {
  RegionExtents extents;
  extents.survey = d.survey;
  if (!d.survey || !d.scan || d.survey->triangle_region.size() != d.scan->mesh->triangles.size())
    return extents;
  extents.size = survey::plane_sizes(*d.survey, *d.scan->mesh, d.scan->topology);
  return extents;
}

std::vector<Row> evidence_rows(const project::Document& d, const RouteState& route,
                               const RegionExtents& extents, Grouping grouping) {
  std::vector<Row> rows;
  if (!d.scan) return rows;
  rows.push_back(
      group(QStringLiteral("scan"), utf8(d.scan->name), brief_count(d.scan->health.triangles)));
  rows.back().tip = exact_count(d.scan->health.triangles);
  rows.back().item = {Item::Kind::Scan};
  rows.back().visibility = d.showing.of_scan(d.scan->name);
  for (std::size_t i = 0; i < d.other_scans.size(); ++i) {
    Row row;
    row.item = {Item::Kind::OtherScan, i};
    row.removes = true;
    row.visibility = d.showing.of_scan(d.other_scans[i]->name);
    row.what = utf8(d.other_scans[i]->name);
    row.state = brief_count(d.other_scans[i]->health.triangles);
    row.tip = exact_count(d.other_scans[i]->health.triangles) + QStringLiteral("\n") +
              tr("Beside the scan worked on; right-click to work on it, join or close it");
    rows.push_back(row);
  }
  if (d.frame) rows.push_back(datum_rows(d));
  if (!d.sketches.empty()) rows.push_back(sketch_rows(d));
  if (!d.fits.empty()) rows.push_back(fit_rows(d));
  if (!d.relations.empty()) rows.push_back(relation_rows(d));
  rows.push_back(region_groups(d, extents, grouping));
  if (!route.solid.empty()) rows.push_back(body_rows(d, route.solid));
  return rows;
}

}  // namespace lostline::app
