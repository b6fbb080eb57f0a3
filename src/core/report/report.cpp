#include "report/report.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "deviation/places.h"
#include "project/bodies.h"
#include "project/relations.h"
#include "report/figures.h"
#include "standards/limits.h"

namespace lostline::report {
namespace {

using project::Document;

std::string fixed(double v, int decimals = 3) { return format_fixed(v, decimals); }
std::string signed_value(double v) { return (v > 0 ? "+" : "") + fixed(v); }

void add_scan(Report& report, const Document& d) {
  if (!d.scan) return;
  const scan::Health& h = d.scan->health;
  const Vec3 size = h.box.sizes();
  report.blocks.emplace_back(Heading{"Evidence"});
  report.blocks.emplace_back(Paragraph{fmt::format(
      "Scan \"{}\" ({}): {} triangles over {} \u00d7 {} \u00d7 {} mm, median point spacing {} mm, "
      "noise along the surface normal {} mm (one standard deviation{}). Numbers of the file were "
      "read as {}.",
      d.scan->name, d.scan->source, format_count(h.triangles), fixed(size.x(), 1),
      fixed(size.y(), 1), fixed(size.z(), 1), fixed(h.spacing, 3), fixed(h.noise_sigma, 4),
      h.noise_correlation > 0
          ? fmt::format(", which neighbours share over {} mm", fixed(h.noise_correlation, 2))
          : std::string(),
      unit_symbol(d.scan->unit))});
}

void add_datums(Report& report, const Document& d) {
  if (!d.frame) return;
  report.blocks.emplace_back(Heading{"Datums"});
  Table table{{"datum", "feature", "becomes", "form error, mm", "RMS, mm", "points"},
              {false, false, false, true, true, true},
              {0.1, 0.34, 0.16, 0.14, 0.12, 0.14},
              {}};
  const auto row = [&](const char* letter, const project::FitRef& ref, const std::string& becomes) {
    const fit::SurfaceFit* f = d.fit_of(ref);
    if (f == nullptr) {
      table.rows.push_back({letter, d.name_of(ref), becomes, "gone", "", ""});
      return;
    }
    table.rows.push_back({letter, d.name_of(ref), becomes, fixed(f->form_error), fixed(f->rms),
                          format_count(f->used)});
  };
  if (d.frame->upon) {
    const project::BroughtUpon& u = *d.frame->upon;
    report.blocks.emplace_back(Paragraph{
        fmt::format("The scan was brought upon the model {} by a robust best fit weighted by "
                    "trust: RMS {} mm on "
                    "{:.1f} % of the scan; {:.1f} % agrees with the model within the scatter.",
                    u.model, fixed(u.rms), 100 * u.used_fraction, 100 * u.agreement)});
    return;
  }
  row("A", d.frame->primary, datum::axis_name(d.frame->primary_axis));
  for (const auto& ref : d.frame->secondary)
    row("B", ref, datum::axis_name(d.frame->secondary_axis));
  for (const auto& ref : d.frame->origin) row("C", ref, "origin");
  report.blocks.emplace_back(std::move(table));
  const auto& held = d.frame->frame.held_by;
  report.blocks.emplace_back(Paragraph{fmt::format(
      "Frame by 3-2-1 (ISO 5459): rotation held by the {}, then by the {}; origin by the {}.",
      held[0], held[1], held[2])});
}

void add_ledger(Report& report, const Document& d) {
  if (d.dimensions.empty()) return;
  const auto inked = std::count_if(d.dimensions.begin(), d.dimensions.end(),
                                   [](const auto& row) { return row.intent.has_value(); });
  report.blocks.emplace_back(Heading{"Ledger"});
  report.blocks.emplace_back(Paragraph{fmt::format(
      "{} dimensions, {} decided (inked), {} still as read (pencilled). U is expanded (k = 2) and "
      "statistical: it excludes systematic error of the scanner. The last column holds the reading "
      "against the intent with the general tolerance of ISO 2768-m.",
      d.dimensions.size(), inked, d.dimensions.size() - static_cast<std::size_t>(inked))});
  Table table{{"dimension", "reading", "U", "intent", "diff.", "evidence; reason", "2768-m"},
              {false, true, true, true, true, false, true},
              {0.2, 0.12, 0.09, 0.1, 0.1, 0.28, 0.11},
              {}};
  for (const project::Dimension& row : d.dimensions) {
    const bool angle = row.quantity == standards::Quantity::Angle;
    const std::string unit = angle ? "\u00b0" : "";
    std::string check;
    if (row.intent && row.reading) {
      const double off = std::abs(*row.reading - *row.intent);
      const auto allowed =
          angle ? standards::general_angle(50, standards::GeneralClass::Medium)
          : row.quantity == standards::Quantity::Radius
              ? standards::general_radius(*row.intent, standards::GeneralClass::Medium)
              : standards::general_length(*row.intent, standards::GeneralClass::Medium);
      if (allowed)
        check = (off <= *allowed ? "within \u00b1" : "beyond \u00b1") + fixed(*allowed, 2);
    }
    table.rows.push_back(
        {row.name,
         row.reading ? fixed(*row.reading, std::min(4, decimals_for_uncertainty(row.u))) + unit
                     : "none",
         row.u > 0 ? fixed(row.u, std::min(4, decimals_for_uncertainty(row.u))) : "",
         row.intent ? format_trimmed(*row.intent, 4) + unit : "",
         row.intent && row.reading ? signed_value(*row.intent - *row.reading) : "",
         row.source + (row.reason.empty() ? "" : "; " + row.reason), check});
  }
  report.blocks.emplace_back(std::move(table));
}

void add_relations(Report& report, const Document& d) {
  Table table{{"fit", "relation", "RMS without, mm", "RMS with, mm", "verdict"},
              {false, false, true, true, false},
              {0.16, 0.3, 0.13, 0.12, 0.29},
              {}};
  for (const project::FitRelation& r : d.relations) {
    const std::string words = project::describe(d, r);
    const std::size_t colon = words.find(": costs");
    const std::size_t comma = words.find(", ", colon);
    table.rows.push_back({d.name_of(r.a), words.substr(0, colon), fixed(r.cost.rms_without, 4),
                          fixed(r.cost.rms_with, 4), words.substr(comma + 2)});
  }
  if (table.rows.empty()) return;
  report.blocks.emplace_back(Heading{"Relations and their cost"});
  report.blocks.emplace_back(std::move(table));
}

void add_route(Report& report, const Document& d, const std::vector<model::StepResult>& results) {
  if (d.steps.empty()) return;
  report.blocks.emplace_back(Heading{"Route"});
  Table table{{"step", "kind", "name", "values", "state"},
              {true, false, false, false, false},
              {0.07, 0.13, 0.22, 0.34, 0.24},
              {}};
  for (std::size_t i = 0; i < d.steps.size(); ++i) {
    model::Feature feature = d.steps[i].feature;
    std::string values;
    for (const model::Field& field : model::fields_of(feature)) {
      const bool angle = field.info.is_angle();
      const double v = angle ? field.quantity->value * kDegrees : field.quantity->value;
      if (angle && v == 0) continue;
      values += (values.empty() ? "" : ", ") + std::string(field.info.name) + " " +
                format_trimmed(v, 3) + (angle ? "\u00b0" : "");
    }
    const bool broken = results[i].state == model::StepState::Broken;
    table.rows.push_back({std::to_string(d.steps[i].number), feature.words(), d.steps[i].name,
                          values,
                          std::string(model::state_name(results[i].state)) +
                              (broken ? ": " + results[i].reason : "")});
  }
  report.blocks.emplace_back(std::move(table));
}

void add_sketches(Report& report, const Document& d) {
  bool first = true;
  for (const auto& t : d.sketches) {
    if (t->section.polylines.empty()) continue;
    if (first) report.blocks.emplace_back(Heading{"Sketches against their sections"});
    first = false;
    const double reach = t->reach();
    const auto drift = sketch::measure_drift(t->sketch, t->section, reach);
    report.blocks.emplace_back(
        Drawn{section_figure(*t, drift),
              fmt::format("{}: drift RMS {} mm, greatest {} mm (ringed); whiskers enlarged.",
                          t->name, fixed(drift.rms), signed_value(drift.greatest))});
  }
}

void add_bodies(Report& report, const Document& d, const model::Model& model) {
  if (model.body_count() < 2) return;
  report.blocks.emplace_back(Heading{"Bodies"});
  Table table{{"body", "kind", "volume, cm\u00b3", "area, cm\u00b2"},
              {false, false, true, true},
              {0.4, 0.2, 0.2, 0.2},
              {}};
  for (std::size_t i = 0; i < model.body_count(); ++i) {
    const model::Body& body = model.body(i);
    const model::Model alone = model.only(i);
    table.rows.push_back(
        {project::body_title(d, body), model::kind_name(body.kind),
         body.kind == model::BodyKind::Solid ? fixed(alone.volume() / 1000, 2) : "",
         body.kind == model::BodyKind::Curve ? "" : fixed(alone.area() / 100, 2)});
  }
  report.blocks.emplace_back(std::move(table));
}

/// The statement and tables of deviation.
Status add_deviation(Report& report, const Document& d, const model::Model& solid,
                     const ReportOptions& options, const Task& task) {
  const auto comparator = deviation::Comparator::build(solid);
  if (!comparator) return comparator.error();
  const Transform to_part = d.to_part();
  std::vector<Vec3> points;
  points.reserve(d.scan->mesh->vertices.size());
  for (const Vec3& v : d.scan->mesh->vertices) points.push_back(to_part * v);
  const auto map = comparator->compare(points, 0, task.part(0, 0.5));
  if (!map) return map.error();
  const deviation::Statistics s = deviation::statistics(*map, d.tolerance);
  report.blocks.emplace_back(Heading{"Deviation"});
  report.blocks.emplace_back(Paragraph{fmt::format(
      "Signed distance of {} scan points from the exact surfaces of the model; positive is proud "
      "of "
      "it. RMS {} mm, mean {} mm, standard deviation {} mm; 95 % of the points lie within {} mm, "
      "{} % within the tolerance of \u00b1{} mm. Most proud {} mm, most short {} mm. {} points lie "
      "further than {} mm (a tenth of the model's diagonal) from the model and are left out.",
      format_count(s.n), fixed(s.rms), fixed(s.mean), fixed(s.sd), fixed(s.p95_abs),
      fixed(100 * s.within_fraction, 1), format_trimmed(d.tolerance, 3), signed_value(s.max),
      signed_value(s.min), format_count(s.unmatched), fixed(comparator->default_limit(), 1))});
  report.blocks.emplace_back(
      Drawn{histogram_figure(deviation::histogram(*map, -d.deviation_range, d.deviation_range, 60),
                             d.tolerance),
            "Share of the points by deviation; the lines are the tolerance."});
  // Pictures from two sides.
  const auto colour = [&](std::uint32_t t, const Vec3& w) {
    const scan::Triangle& tri = d.scan->mesh->triangles[t];
    double v = 0;
    for (int k = 0; k < 3; ++k) v += w[k] * map->value[tri[static_cast<std::size_t>(k)]];
    return deviation_colour(v / d.deviation_range, d.tolerance / d.deviation_range);
  };
  const Eigen::Matrix3d to_scan = to_part.linear().transpose();
  for (const Vec3& toward : {Vec3(-0.55, 0.75, -0.5), Vec3(0.55, -0.75, 0.5)}) {
    if (task.stopped()) return cancelled();
    View view;
    view.toward = to_scan * toward;
    view.up = to_scan * Vec3::UnitZ();
    report.blocks.emplace_back(
        Shown{render(*d.scan->mesh, *d.scan->index, view, colour),
              fmt::format("Deviation on the scan, {}; orange proud, purple short, full colour at "
                          "\u00b1{} mm.",
                          toward.z() < 0 ? "from above" : "from below",
                          format_trimmed(d.deviation_range, 3))});
  }
  for (const project::SavedView& saved : d.views) {
    if (task.stopped()) return cancelled();
    const auto clay = [](std::uint32_t, const Vec3&) { return Colour{0xB9, 0xB4, 0xAA}; };
    const auto blue = [](std::uint32_t, const Vec3&) { return Colour{0x8F, 0xA3, 0xB8}; };
    View view;
    view.toward = saved.towards;
    view.up = saved.up;
    view.centre = saved.centre;
    view.seen = saved.height;
    if (saved.scan) {
      view.toward = to_scan * saved.towards;
      view.up = to_scan * saved.up;
      view.centre = to_part.inverse() * saved.centre;
      report.blocks.emplace_back(
          Shown{render(*d.scan->mesh, *d.scan->index, view,
                       saved.deviation ? std::function<Colour(std::uint32_t, const Vec3&)>(colour)
                                       : clay),
                saved.name + (saved.deviation ? ": deviation on the scan." : ": the scan.")});
    } else {
      const auto tessellation = model::tessellate(solid);
      if (!tessellation) return tessellation.error();
      const scan::MeshIndex index(tessellation->mesh);
      report.blocks.emplace_back(
          Shown{render(tessellation->mesh, index, view, blue), saved.name + ": the model."});
    }
  }
  const auto statistics_table = [&](const char* what, const auto& groups, const auto& name) {
    Table table{
        {what, "points", "RMS", "mean", "95 % within", "most proud", "most short", "% within tol."},
        {false, true, true, true, true, true, true, true},
        {0.24, 0.1, 0.1, 0.1, 0.12, 0.12, 0.12, 0.1},
        {}};
    for (const auto& g : groups)
      table.rows.push_back({name(g.group), format_count(g.statistics.n), fixed(g.statistics.rms),
                            signed_value(g.statistics.mean), fixed(g.statistics.p95_abs),
                            signed_value(g.statistics.max), signed_value(g.statistics.min),
                            fixed(100 * g.statistics.within_fraction, 1)});
    report.blocks.emplace_back(std::move(table));
  };
  if (solid.body_count() > 1) {
    report.blocks.emplace_back(Heading{"Deviation by body"});
    statistics_table("body",
                     deviation::by_group(*map, deviation::bodies_of(*map, solid),
                                         [&](std::uint32_t) { return d.tolerance; }),
                     [&](std::uint32_t b) { return project::body_title(d, solid.body(b)); });
  }
  report.blocks.emplace_back(Heading{"Deviation by face of the model"});
  statistics_table(
      "face",
      deviation::by_group(*map, map->face,
                          [&](std::uint32_t f) { return d.tolerance_of(solid.face_name(f)); }),
      [&](std::uint32_t f) { return project::face_title(d, solid.face_name(f)); });
  if (d.survey) {
    std::vector<std::uint32_t> region(points.size(), scan::kNone);
    for (std::size_t t = 0; t < d.scan->mesh->triangles.size(); ++t) {
      if (d.survey->triangle_region[t] == 0) continue;
      for (const std::uint32_t v : d.scan->mesh->triangles[t])
        region[v] = d.survey->triangle_region[t];
    }
    report.blocks.emplace_back(Heading{"Deviation by region of the scan"});
    statistics_table("region",
                     deviation::by_group(*map, region, [&](std::uint32_t) { return d.tolerance; }),
                     [&](std::uint32_t r) {
                       return d.name_of({r, 0});
                     });
  }
  report.blocks.emplace_back(Heading{"Worst places"});
  const double apart = std::max(5.0, d.scan->health.box.diagonal().norm() / 25);
  Table worst{{"place x, y, z, mm", "deviation, mm", "face", "points there"},
              {false, true, false, true},
              {0.34, 0.18, 0.32, 0.16},
              {}};
  for (const auto& p : deviation::worst_places(*map, points, options.worst_places, apart))
    worst.rows.push_back(
        {fmt::format("{}, {}, {}", fixed(p.at.x(), 1), fixed(p.at.y(), 1), fixed(p.at.z(), 1)),
         signed_value(p.value), project::face_title(d, solid.face_name(p.face)),
         format_count(p.points)});
  report.blocks.emplace_back(std::move(worst));
  const auto tessellation = model::tessellate(solid);
  if (!tessellation) return tessellation.error();
  const double limit = std::max(5 * d.scan->health.spacing, 5 * d.tolerance);
  const auto covered = deviation::coverage(*tessellation, solid.face_count(), *d.scan->index,
                                           to_part.inverse(), limit, task.part(0.6, 1.0));
  if (!covered) return covered.error();
  std::string missing;
  for (std::size_t f = 0; f < covered->face_share.size(); ++f) {
    if (covered->face_share[f] < 0.5)
      missing += (missing.empty() ? "" : "; ") + project::face_title(d, solid.face_name(f)) + " (" +
                 fixed(100 * covered->face_share[f], 0) + " %)";
  }
  report.blocks.emplace_back(Heading{"What the scan does not show"});
  report.blocks.emplace_back(Paragraph{
      fmt::format("Seen from the model, {} % of its area has scan within {} mm. ",
                  fixed(100 * covered->share, 1), format_trimmed(limit, 2)) +
      (missing.empty() ? "No face is less than half covered."
                       : "Less than half covered, so resting on decisions: " + missing + ".")});
  return Done{};
}

}  // namespace

Result<Report> make_report(const Document& document, const ReportOptions& options,
                           const Task& task) {
  if (!document.scan && document.steps.empty())
    return Error{ErrorCode::InvalidInput, "There is nothing to report on: open a scan first."};
  Report report;
  report.title = document.title;
  report.subtitle = "Lost Line report";
  for (const std::string& part : {options.date, options.author}) {
    if (!part.empty()) report.subtitle += " \u00b7 " + part;
  }
  model::RouteCache cache;
  const auto results = model::recompute(document.steps, document.placed_sketches(), cache,
                                        task.part(0, 0.2), model::Wanted::last());
  if (!results) return results.error();
  const model::Model solid = results->empty() ? model::Model() : results->back().solid;
  if (!solid.empty()) {
    const auto tessellation = model::tessellate(solid);
    if (!tessellation) return tessellation.error();
    const scan::MeshIndex index(tessellation->mesh);
    report.blocks.emplace_back(
        Shown{render(tessellation->mesh, index, {},
                     [](std::uint32_t, const Vec3&) {
                       return Colour{0x8F, 0xA3, 0xB8};
                     }),
              fmt::format("The model: {} cm\u00b3, {} faces.", fixed(solid.volume() / 1000, 2),
                          solid.face_count())});
  }
  task.report(0.3);
  add_scan(report, document);
  add_datums(report, document);
  add_ledger(report, document);
  add_relations(report, document);
  add_route(report, document, *results);
  add_bodies(report, document, solid);
  add_sketches(report, document);
  if (document.scan && !solid.empty()) {
    if (const Status done = add_deviation(report, document, solid, options, task.part(0.4, 1.0));
        !done)
      return done.error();
  }
  task.report(1.0);
  return report;
}

}  // namespace lostline::report
