#include "windows/row_evidence.h"

#include "bench/sketch_marks.h"
#include "look/preferences.h"
#include "sketch/curve_kind.h"
#include "tools/tool_card.h"

namespace lostline::app {

void show_row_evidence(const Session& session, BenchView& bench, Strip& strip, project::Id id) {
  const project::Document& d = session.document();
  const project::Dimension* row = d.find_dimension(id);
  if (row == nullptr) return;
  std::vector<Callout> callouts;
  const QString text = QString::fromStdString(
      row->name + "  " +
      (row->intent    ? quantity_trimmed(row->quantity, *row->intent)
       : row->reading ? quantity_reading(row->quantity, *row->reading, row->u)
                      : ""));
  std::vector<LineBatch> marks;
  const project::TracedSketch* sketch = d.find_sketch(row->owner.sketch);
  std::set<sketch::Id> entities;
  if (sketch != nullptr) {
    const sketch::Constraint* c = sketch->sketch.find_constraint(row->owner.constraint);
    if (c != nullptr) entities = {c->first, c->second};
  } else if (const model::Step* step = d.find_step(row->owner.step)) {
    const model::Uses uses = model::uses_of(step->feature);
    sketch = d.find_sketch(uses.sketch);
    entities.insert(uses.curves.begin(), uses.curves.end());
    if (!uses.edges.empty()) callouts.push_back({uses.edges.front().near, text, !row->intent});
    // Faces that the step made.
    std::vector<std::uint32_t> faces;
    const auto& solid = session.route()->solid;
    for (std::size_t i = 0; i < solid.face_count(); ++i) {
      if (solid.face_name(i).starts_with("s" + std::to_string(step->id) + ":"))
        faces.push_back(static_cast<std::uint32_t>(i));
    }
    bench.setModelSelection(faces);
  }
  if (sketch != nullptr) {
    marks = sketch_marks(sketch->base, sketch->level, sketch->section, sketch->sketch, {}, entities,
                         true, sketch->reach());
    strip.showSection(sketch->section, sketch->sketch, sketch->reach(),
                      QObject::tr("Evidence of %1").arg(QString::fromStdString(row->name)));
    for (const sketch::Id e : entities) {
      if (const sketch::Entity* entity = sketch->sketch.find_entity(e);
          entity != nullptr && callouts.empty()) {
        const auto curve = sketch::placed(sketch->sketch, *entity);
        const Vec2 p = curve->closed() ? curve->start() : curve->middle();
        callouts.push_back({sketch->base.to_space(p, sketch->level), text, !row->intent});
      }
    }
  }
  if (!row->owner.fits.empty()) {
    bench.setSelection(regions_of(row->owner.fits));
    if (const fit::SurfaceFit* f = d.fit_of(row->owner.fits.front()))
      callouts.push_back({d.to_part() * f->centroid, text, !row->intent});
  }
  bench.setMarks(std::move(marks), std::move(callouts));
}

}  // namespace lostline::app
