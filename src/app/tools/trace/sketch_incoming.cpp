// What the card of a sketch takes over from the model, the scan and other sketches.
#include "tools/trace/sketch_incoming.h"

#include <QCoreApplication>

#include "look/catalogue.h"
#include "project/seen_in_sketch.h"
#include "tools/trace/sketch_card.h"

namespace lostline::app {

const std::vector<Incoming>& incoming() {
  static const std::vector<Incoming> all{
      {kBringIn, QT_TRANSLATE_NOOP("tools", "bring in"),
       QT_TRANSLATE_NOOP("tools",
                         "Draw edges and faces of the model, axes, centres and planes of regions "
                         "and fits, and other sketches, seen square to the sketch, as construction "
                         "that stays where it is"),
       Qt::Key_F},
      {kBringInCut, QT_TRANSLATE_NOOP("tools", "cut of the model"),
       QT_TRANSLATE_NOOP("tools",
                         "Draw where the plane of the sketch cuts the model, as construction that "
                         "stays where it is"),
       Qt::Key_H}};
  return all;
}

bool SketchTool::bringing() const { return changing_ == QLatin1String(kBringIn); }

bool SketchTool::startIncoming(const QString& name) {
  if (name == QLatin1String(kBringIn)) {
    if (!bringing()) shown_ = place_.bench.show();
    changing_ = name;
    layPenDown();
    // What is to be picked has to be seen.
    if (!place_.session.route()->solid.empty() && place_.bench.show() == Show::Scan)
      place_.bench.setShow(Show::Both);
    describe();
    return true;
  }
  if (name != QLatin1String(kBringInCut)) return false;
  bringCut({});
  return true;
}

void SketchTool::bringCut(const std::string& body) {
  const auto route = place_.session.route();
  const auto number = body.empty() ? std::nullopt : route->solid.find_body(body);
  solving_ = false;
  aside([this, model = route->solid, number,
         plane = project::plane_of(traced_)](const Task&) -> Session::Finish {
    return [this, seen = model::cut_by_plane(model, plane, number)] {
      setKeepEnabled(true);
      bring(seen);
    };
  });
}

void SketchTool::bring(const Result<model::PlaneView>& seen) {
  if (!seen) return setError(core_text(seen.error().message));
  std::vector<sketch::Id> added;
  sketch::Sketch with = project::with_seen(traced_, *seen, &added);
  if (added.empty()) return setEvidence(tr("This is in the sketch already."));
  replace(std::move(with));
  picked_ = added;
  draw();
}

void SketchTool::bringPick(const Pick& pick) {
  const auto route = place_.session.route();
  const Placement plane = project::plane_of(traced_);
  if (pick.what == Pick::What::Model && pick.edge)
    return bring(model::edge_seen(route->solid, *pick.edge, plane));
  if (pick.what == Pick::What::Model && pick.face < route->solid.face_count())
    return bring(model::face_seen(route->solid, pick.face, plane));
  if (pick.region != 0) return pickRef({pick.region, 0});
  setEvidence(modeHint());
}

void SketchTool::pickRef(const project::FitRef& ref) {
  bring(project::fit_seen(document(), ref, project::plane_of(traced_)));
}

void SketchTool::take(const Item& item) {
  if (!bringing()) return setEvidence(tr("To take it into the sketch, press G f first: bring in."));
  if (item.kind == Item::Kind::Sketch) {
    const project::TracedSketch* other = document().find_sketch(item.id);
    if (other == nullptr || item.id == id_)
      return setError(tr("A sketch cannot be brought into itself."));
    return bring(
        model::sketch_seen(other->sketch, project::plane_of(*other), project::plane_of(traced_)));
  }
  if (item.kind == Item::Kind::Body) return bringCut(item.name);
  ToolCard::take(item);
}

QString SketchTool::modeHint() const {
  if (bringing())
    return tr(
        "Click edges or faces of the model, or regions of the scan; fits, sketches and "
        "bodies in Evidence. Esc ends.");
  if (changing_ == QStringLiteral("trim")) return tr("Click the stretch that goes; Esc ends.");
  if (changing_ == QStringLiteral("break")) return tr("Click where the curve is cut; Esc ends.");
  return tr("Click near the end that grows; Esc ends.");
}

}  // namespace lostline::app
