#include "project/edits.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "project/formula.h"
#include "project/ledger.h"
#include "project/sketch_plane.h"
#include "project/stated.h"
#include "sketch/curve_kind.h"

namespace lostline::project {
namespace {

/// Ledger value for a constraint value of 1, as the row states it.
double factor_of(const Dimension& row) {
  return row.quantity == standards::Quantity::Angle      ? kDegrees
         : row.quantity == standards::Quantity::Diameter ? 2.0
                                                         : 1.0;
}

std::string dimension_name(const TracedSketch& traced, const sketch::Constraint& c) {
  const sketch::Sketch& s = traced.sketch;
  if (states_diameter(s, c, traced.turn.has_value()))
    return "\u2300 " + sketch::name_of(s, c.first == sketch::kYAxis ? c.second : c.first) + " of " +
           traced.name;
  if (c.type == sketch::ConstraintType::Radius)
    return "R " + sketch::name_of(s, c.first) + " of " + traced.name;
  if (c.type == sketch::ConstraintType::Angle)
    return "angle " + sketch::name_of(s, c.first) + " to " + sketch::name_of(s, c.second) + " of " +
           traced.name;
  if (c.type == sketch::ConstraintType::ArcLength)
    return "arc length " + sketch::name_of(s, c.first) + " of " + traced.name;
  if (c.type == sketch::ConstraintType::DistanceX)
    return "along x, " + sketch::name_of(s, c.first) + " to " + sketch::name_of(s, c.second) +
           " of " + traced.name;
  if (c.type == sketch::ConstraintType::DistanceY)
    return "along y, " + sketch::name_of(s, c.first) + " to " + sketch::name_of(s, c.second) +
           " of " + traced.name;
  std::string name = "length " + sketch::name_of(s, c.first);
  if (c.second != 0) name = sketch::name_of(s, c.first) + " to " + sketch::name_of(s, c.second);
  return name + " of " + traced.name;
}

/// A dimension that follows from others has no row.
bool is_gone(const sketch::Constraint* dimension) {
  return dimension == nullptr || dimension->reference;
}

/// Adds rows for new sketch dimensions and drops those of deleted ones.
void sync_rows(Document& document, const TracedSketch& traced) {
  std::erase_if(document.dimensions, [&](const Dimension& d) {
    return d.owner.sketch == traced.id &&
           is_gone(traced.sketch.find_constraint(d.owner.constraint));
  });
  for (const sketch::Constraint& c : traced.sketch.constraints) {
    if (!c.is_dimension() || c.reference) continue;
    const bool known = std::any_of(
        document.dimensions.begin(), document.dimensions.end(), [&](const Dimension& d) {
          return d.owner.sketch == traced.id && d.owner.constraint == c.id;
        });
    if (known) continue;
    Dimension row;
    row.id = document.next_id++;
    row.name = dimension_name(traced, c);
    row.quantity = states_diameter(traced.sketch, c, traced.turn.has_value())
                       ? standards::Quantity::Diameter
                   : c.type == sketch::ConstraintType::Radius ? standards::Quantity::Radius
                   : c.type == sketch::ConstraintType::Angle  ? standards::Quantity::Angle
                                                              : standards::Quantity::Length;
    row.source = "section " + traced.name;
    row.owner.sketch = traced.id;
    row.owner.constraint = c.id;
    // A circle whose material lies outside is a hole: its section runs clockwise.
    if (row.quantity == standards::Quantity::Diameter && c.type == sketch::ConstraintType::Radius) {
      const sketch::Entity& e = *traced.sketch.find_entity(c.first);
      for (const section::Polyline& line : traced.section.polylines) {
        double area = 0;
        double off = 0;
        for (std::size_t i = 0; i < line.points.size(); ++i) {
          const Vec2& a = line.points[i];
          const Vec2& b = line.points[(i + 1) % line.points.size()];
          area += 0.5 * (a.x() * b.y() - a.y() * b.x());
          off = std::max(off, std::abs(sketch::drift_of(traced.sketch, e, a)));
        }
        if (off < traced.reach() && area < 0) row.hole = true;
      }
    }
    document.dimensions.push_back(std::move(row));
  }
}

/// A dimension that was given a value in the sketch is inked, one that was freed there is lifted.
void decide_rows(Document& document, const sketch::Sketch& before, const TracedSketch& traced) {
  for (Dimension& row : document.dimensions) {
    if (row.owner.sketch != traced.id) continue;
    const sketch::Constraint* now = traced.sketch.find_constraint(row.owner.constraint);
    if (now == nullptr) continue;
    const sketch::Constraint* was = before.find_constraint(row.owner.constraint);
    const bool driven = was != nullptr && was->driving;
    if (now->driving && (!driven || now->value != was->value)) {
      row.intent = now->value * factor_of(row);
      row.reason = "typed in the sketch";
      row.expression.clear();
    } else if (!now->driving && driven) {
      row.intent.reset();
      row.reason.clear();
      row.expression.clear();
    }
  }
}

/// Readings from a fit without decisions, then the sketch fitted with them.
Status refit(Document& document, TracedSketch& traced) {
  for (sketch::Constraint& c : traced.sketch.constraints) {
    if (!c.is_dimension() || c.reference) continue;
    c.driving = false;
    for (const Dimension& d : document.dimensions) {
      if (d.owner.sketch != traced.id || d.owner.constraint != c.id || !d.intent) continue;
      c.driving = true;
      c.value = *d.intent / factor_of(d);
    }
  }
  if (traced.section.polylines.empty() || traced.drawn) {
    const auto solved = sketch::solved_places(traced.sketch);
    if (!solved) return solved.error();
    traced.sketch = *solved;
    for (Dimension& d : document.dimensions) {
      if (!traced.drawn || d.owner.sketch != traced.id) continue;
      const sketch::Constraint* c = traced.sketch.find_constraint(d.owner.constraint);
      if (c == nullptr) continue;
      d.reading = sketch::measured_value(traced.sketch, *c) * factor_of(d);
      d.u = 0;
      d.source = "as drawn in " + traced.name;
    }
    return Done{};
  }
  sketch::FitOptions options = fit_options(document, traced);
  options.hold_dimensions = false;
  options.asked = sketch::Asked::Places;
  const auto free = sketch::fit_to_section(traced.sketch, traced.section, options);
  if (!free) return free.error();
  for (const sketch::DimensionReading& reading : free->readings) {
    const sketch::Constraint& c = *traced.sketch.find_constraint(reading.constraint);
    for (Dimension& d : document.dimensions) {
      if (d.owner.sketch != traced.id || d.owner.constraint != c.id) continue;
      d.reading = reading.value * factor_of(d);
      d.u = reading.u.value_or(0) * factor_of(d);
      d.source =
          "section " + traced.name + (reading.u ? "" : ", of which no point bears on this value");
    }
  }
  const bool decided =
      std::any_of(traced.sketch.constraints.begin(), traced.sketch.constraints.end(),
                  [](const auto& c) { return c.driving; });
  if (!decided) {
    traced.sketch = free->solution.sketch;
    traced.rms = free->rms;
    return Done{};
  }
  options.hold_dimensions = true;
  const auto held = sketch::fit_to_section(traced.sketch, traced.section, options);
  if (!held) return held.error();
  traced.sketch = held->solution.sketch;
  traced.rms = held->rms;
  return Done{};
}

/// References of steps to fits and regions take their present surfaces.
void refer(Document& document) {
  const auto update = [&](model::Reference& reference) {
    if (reference.fit == 0 && reference.region == 0) return;
    const fit::SurfaceFit* fit = document.fit_of({reference.region, reference.fit});
    reference.surface = fit != nullptr
                            ? std::optional(fit::transformed(fit->surface, document.to_part()))
                            : std::nullopt;
  };
  for (model::Step& step : document.steps) {
    for (model::Reference* reference : model::references_of(step.feature)) update(*reference);
  }
}

/// Rows of fields that a step no longer has go.
void drop_stale_rows(Document& document, Id step) {
  const model::Step* found = document.find_step(step);
  if (found == nullptr) return;
  model::Feature feature = found->feature;
  const auto fields = model::fields_of(feature);
  std::erase_if(document.dimensions, [&](const Dimension& d) {
    return d.owner.step == step && std::none_of(fields.begin(), fields.end(), [&](const auto& f) {
             return d.owner.field == f.info.name;
           });
  });
}

/// Steps take the values in force.
void push_values(Document& document) {
  for (const Dimension& d : document.dimensions) {
    if (d.owner.step == 0) continue;
    for (model::Step& step : document.steps) {
      if (step.id != d.owner.step) continue;
      for (const model::Field& field : model::fields_of(step.feature)) {
        if (d.owner.field != field.info.name) continue;
        field.quantity->value = field.info.is_angle() ? d.value() / kDegrees : d.value();
        field.quantity->dimension = d.id;
      }
    }
  }
}

/// What kind of number a field of a step is; a length when the step has no such field.
model::NumberInfo::Unit unit_of(const Document& document, Id step, const std::string& name) {
  const model::Step* found = document.find_step(step);
  if (found == nullptr) return model::NumberInfo::Unit::Length;
  model::Feature feature = found->feature;
  for (const model::Field& field : model::fields_of(feature)) {
    if (name == field.info.name) return field.info.unit;
  }
  return model::NumberInfo::Unit::Length;
}

void set_rows(Document& document, Id step_id, const std::string& step_name,
              const std::vector<FieldReading>& readings) {
  for (const FieldReading& r : readings) {
    auto it = std::find_if(
        document.dimensions.begin(), document.dimensions.end(),
        [&](const Dimension& d) { return d.owner.step == step_id && d.owner.field == r.field; });
    if (it == document.dimensions.end()) {
      Dimension row;
      row.id = document.next_id++;
      row.owner.step = step_id;
      row.owner.field = r.field;
      using Unit = model::NumberInfo::Unit;
      const Unit unit = unit_of(document, step_id, r.field);
      row.name = unit == Unit::Diameter ? "\u2300 " + step_name
                 : unit == Unit::Radius ? "R " + step_name
                                        : step_name + " " + r.field;
      row.quantity = unit == Unit::Diameter ? standards::Quantity::Diameter
                     : unit == Unit::Radius ? standards::Quantity::Radius
                     : unit == Unit::Angle  ? standards::Quantity::Angle
                                            : standards::Quantity::Length;
      row.hole = unit == Unit::Diameter;
      document.dimensions.push_back(std::move(row));
      it = document.dimensions.end() - 1;
    }
    it->reading = r.reading;
    it->u = r.u;
    it->source = r.source;
    // A field shows three decimals: what it shows unchanged is no new decision.
    const bool same = it->intent && r.intent && std::abs(*it->intent - *r.intent) < 5e-4;
    if (r.intent && !same) {
      it->intent = r.intent;
      it->expression.clear();
      it->reason = "typed";
    }
  }
}

}  // namespace

Document with_scan(const Document& document, std::shared_ptr<const Scan> scan) {
  Document next;
  next.title = scan->name;
  next.tolerance = document.tolerance;
  next.deviation_range = document.deviation_range;
  next.scan = std::move(scan);
  return next;
}

Document with_changed_scan(const Document& document, std::shared_ptr<const Scan> scan) {
  Document next = document;
  next.scan = std::move(scan);
  next.survey.reset();
  next.fits.clear();
  next.relations.clear();
  for (auto& shared : next.sketches) {
    if (!shared->part || !document.scan || !next.scan) continue;
    auto traced = std::make_shared<TracedSketch>(*shared);
    traced->part = carried_part(*shared->part, *document.scan, *next.scan);
    shared = std::move(traced);
  }
  return next;
}

Document with_other_scan(const Document& document, std::shared_ptr<const Scan> scan) {
  Document next = document;
  next.other_scans.push_back(std::move(scan));
  return next;
}

namespace {
const Error kNoSuchScan{ErrorCode::NotFound, "This scan is no longer open."};
}

Result<Document> work_on_scan(const Document& document, std::size_t other) {
  if (other >= document.other_scans.size()) return kNoSuchScan;
  Document next = with_changed_scan(document, document.other_scans[other]);
  if (document.scan)
    next.other_scans[other] = document.scan;
  else
    next.other_scans.erase(next.other_scans.begin() + static_cast<std::ptrdiff_t>(other));
  return refresh(std::move(next));
}

Result<Document> remove_other_scan(const Document& document, std::size_t other) {
  if (other >= document.other_scans.size()) return kNoSuchScan;
  Document next = document;
  next.other_scans.erase(next.other_scans.begin() + static_cast<std::ptrdiff_t>(other));
  return next;
}

Result<Document> join_scan(const Document& document, std::size_t other, const Task& task) {
  if (other >= document.other_scans.size() || !document.scan) return kNoSuchScan;
  const Scan& added = *document.other_scans[other];
  scan::Mesh mesh = *document.scan->mesh;
  const auto offset = static_cast<std::uint32_t>(mesh.vertices.size());
  mesh.vertices.insert(mesh.vertices.end(), added.mesh->vertices.begin(),
                       added.mesh->vertices.end());
  for (scan::Triangle t : added.mesh->triangles) {
    for (std::uint32_t& v : t) v += offset;
    mesh.triangles.push_back(t);
  }
  auto joined = prepare_scan(std::move(mesh), document.scan->name + " + " + added.name,
                             document.scan->source, document.scan->unit, task);
  if (!joined) return joined.error();
  Document next = with_changed_scan(document, *joined);
  next.other_scans.erase(next.other_scans.begin() + static_cast<std::ptrdiff_t>(other));
  return refresh(std::move(next));
}

Document with_survey(const Document& document, std::shared_ptr<const survey::Survey> survey) {
  Document next = document;
  next.survey = std::move(survey);
  return next;
}

namespace {

/// Fits those sketches again that a change concerns, and those with rows that formulas change. A
/// formula may rest on a reading, and a reading on a formula, which a few rounds settle.
Status fit_again(Document& document, const std::function<bool(const TracedSketch&)>& concerns) {
  constexpr int kRounds = 4;
  for (int round = 0; round < kRounds; ++round) {
    const auto changed = evaluate_formulas(document);
    if (!changed) return changed.error();
    std::set<Id> follow;
    for (const Dimension& d : document.dimensions) {
      if (changed->contains(d.id)) follow.insert(d.owner.sketch);
    }
    bool fitted = false;
    for (auto& shared : document.sketches) {
      if (!follow.contains(shared->id) && (round > 0 || !concerns(*shared))) continue;
      auto traced = std::make_shared<TracedSketch>(*shared);
      if (const Status status = refit(document, *traced); !status)
        return Error{status.error().code, "Sketch " + traced->name + ": " + status.error().message};
      shared = std::move(traced);
      fitted = true;
    }
    if (!fitted) break;
  }
  return Done{};
}

}  // namespace

Result<Document> refresh(Document document) {
  for (auto& shared : document.sketches) {
    auto traced = std::make_shared<TracedSketch>(*shared);
    follow_reference(document, *traced);
    traced->section = cut_scan(document, *traced);
    sync_rows(document, *traced);
    shared = std::move(traced);
  }
  if (const Status s = fit_again(document, [](const auto&) { return true; }); !s) return s.error();
  refer(document);
  push_values(document);
  return document;
}

Result<Document> refresh_rows(Document document, const std::set<Id>& rows) {
  std::set<Id> sketches;
  for (const Dimension& d : document.dimensions) {
    if (rows.contains(d.id)) sketches.insert(d.owner.sketch);
  }
  const auto concerned = [&](const TracedSketch& s) { return sketches.contains(s.id); };
  if (const Status s = fit_again(document, concerned); !s) return s.error();
  push_values(document);
  return document;
}

Result<Added> add_sketch(const Document& document, TracedSketch sketch) {
  Added added{document, document.next_id};
  sketch.id = added.document.next_id++;
  if (sketch.name.empty()) sketch.name = section_name(document, sketch);
  added.document.sketches.push_back(std::make_shared<const TracedSketch>(std::move(sketch)));
  auto fresh = refresh(std::move(added.document));
  if (!fresh) return fresh.error();
  added.document = *std::move(fresh);
  return added;
}

namespace {

/// Steps, and what formulas change, follow a change of rows.
Result<Document> follow_up(Document document) {
  if (const Status s = fit_again(document, [](const auto&) { return false; }); !s) return s.error();
  push_values(document);
  return document;
}

}  // namespace

Result<Document> edit_sketch(const Document& document, Id sketch, const sketch::Sketch& edited) {
  Document next = document;
  for (auto& shared : next.sketches) {
    if (shared->id != sketch) continue;
    auto traced = std::make_shared<TracedSketch>(*shared);
    traced->sketch = edited;
    sync_rows(next, *traced);
    decide_rows(next, shared->sketch, *traced);
    std::erase_if(traced->text_places, [&](const auto& place) {
      return edited.find_constraint(place.first) == nullptr;
    });
    if (const Status status = refit(next, *traced); !status) return status.error();
    shared = std::move(traced);
    return follow_up(std::move(next));
  }
  return Error{ErrorCode::NotFound, "This sketch has been deleted."};
}

Document place_texts(const Document& document, Id sketch,
                     const std::map<sketch::Id, Vec2>& places) {
  Document next = document;
  for (auto& shared : next.sketches) {
    if (shared->id != sketch) continue;
    auto traced = std::make_shared<TracedSketch>(*shared);
    traced->text_places = places;
    std::erase_if(traced->text_places, [&](const auto& place) {
      return traced->sketch.find_constraint(place.first) == nullptr;
    });
    shared = std::move(traced);
  }
  return next;
}

Result<Document> remove_sketch(const Document& document, Id sketch) {
  for (const model::Step& step : document.steps) {
    const std::vector<Id> rests_on = model::uses_of(step.feature).sketches;
    if (std::find(rests_on.begin(), rests_on.end(), sketch) != rests_on.end()) {
      return Error{ErrorCode::InvalidInput, "Step " + std::to_string(step.number) + " " +
                                                step.name +
                                                " rests on this sketch. Remove the step first."};
    }
  }
  Document next = document;
  std::erase_if(next.sketches, [&](const auto& s) { return s->id == sketch; });
  std::erase_if(next.dimensions, [&](const Dimension& d) { return d.owner.sketch == sketch; });
  return next;
}

namespace {

/// Gives an inserted step a number between its neighbours', as on a routing sheet: 15 between 10
/// and 20. Where none is left all are numbered anew.
void number_between(std::vector<model::Step>& steps, std::vector<model::Step>::iterator at) {
  const int before = at == steps.begin() ? 0 : (at - 1)->number;
  if (at + 1 == steps.end()) {
    at->number = before / 10 * 10 + 10;
    return;
  }
  at->number = (before + (at + 1)->number) / 2;
  if (at->number > before && at->number < (at + 1)->number) return;
  int number = 0;
  for (model::Step& step : steps) step.number = number += 10;
}

}  // namespace

Added add_step(const Document& document, model::Feature feature, const std::string& name,
               const std::vector<FieldReading>& readings, Id after) {
  Added added{document, document.next_id};
  Document& next = added.document;
  model::Step step;
  step.id = next.next_id++;
  step.name = name;
  step.feature = std::move(feature);
  auto place = next.steps.end();
  if (after != 0) {
    const auto it = std::find_if(next.steps.begin(), next.steps.end(),
                                 [&](const model::Step& s) { return s.id == after; });
    if (it != next.steps.end()) place = it + 1;
  }
  number_between(next.steps, next.steps.insert(place, step));
  set_rows(next, step.id, name, readings);
  refer(next);
  push_values(next);
  return added;
}

Result<Document> edit_step(const Document& document, Id id, const model::Feature& feature,
                           const std::vector<FieldReading>& readings) {
  Document next = document;
  for (model::Step& step : next.steps) {
    if (step.id != id) continue;
    step.feature = feature;
    const std::string name = step.name;
    drop_stale_rows(next, id);
    set_rows(next, id, name, readings);
    refer(next);
    return follow_up(std::move(next));
  }
  return Error{ErrorCode::NotFound, "This step has been removed."};
}

Document remove_step(const Document& document, Id id) {
  Document next = document;
  std::erase_if(next.steps, [&](const model::Step& s) { return s.id == id; });
  std::erase_if(next.dimensions, [&](const Dimension& d) { return d.owner.step == id; });
  // Formulas that named them become decisions; no value changes by that, so none can fail.
  static_cast<void>(evaluate_formulas(next));
  return next;
}

Result<Document> move_step(const Document& document, Id id, std::size_t place) {
  Document next = document;
  const auto it = std::find_if(next.steps.begin(), next.steps.end(),
                               [&](const model::Step& s) { return s.id == id; });
  if (it == next.steps.end()) return Error{ErrorCode::NotFound, "This step has been removed."};
  model::Step step = std::move(*it);
  next.steps.erase(it);
  const auto at =
      next.steps.begin() + static_cast<std::ptrdiff_t>(std::min(place, next.steps.size()));
  number_between(next.steps, next.steps.insert(at, std::move(step)));
  return next;
}

namespace {

/// A shared part of the document under another name.
template <class Part>
Result<Document> renamed(const Document& document,
                         std::vector<std::shared_ptr<const Part>> Document::*parts, Id id,
                         const std::string& name, const std::string& what) {
  if (name.find_first_not_of(' ') == std::string::npos)
    return Error{ErrorCode::InvalidInput, "A " + what + " needs a name."};
  Document next = document;
  for (auto& part : next.*parts) {
    if (part->id != id) continue;
    auto changed = std::make_shared<Part>(*part);
    changed->name = name;
    part = std::move(changed);
    return next;
  }
  return Error{ErrorCode::NotFound, "This " + what + " is gone."};
}

}  // namespace

Result<Document> rename_sketch(const Document& document, Id id, const std::string& name) {
  return renamed(document, &Document::sketches, id, name, "sketch");
}

Result<Document> rename_fit(const Document& document, Id id, const std::string& name) {
  return renamed(document, &Document::fits, id, name, "fit");
}

Result<Document> rename_step(const Document& document, Id id, const std::string& name) {
  if (name.find_first_not_of(' ') == std::string::npos)
    return Error{ErrorCode::InvalidInput, "A step needs a name."};
  Document next = document;
  for (model::Step& step : next.steps) {
    if (step.id != id) continue;
    // Rows that carry the step's name follow it.
    for (Dimension& d : next.dimensions) {
      if (d.owner.step != id) continue;
      const auto at = d.name.find(step.name);
      if (at != std::string::npos) d.name.replace(at, step.name.size(), name);
    }
    step.name = name;
    return next;
  }
  return Error{ErrorCode::NotFound, "This step has been removed."};
}

Document set_parked(const Document& document, Id id, bool parked) {
  Document next = document;
  for (model::Step& step : next.steps) {
    if (step.id == id) step.parked = parked;
  }
  return next;
}

}  // namespace lostline::project
