// What is done with the card of a sketch: picks, drags, drawing, constraints, undo of its own.
#include <QKeyEvent>
#include <QLineEdit>
#include <QRegularExpression>
#include <numbers>

#include "bench/sketch_marks.h"
#include "look/catalogue.h"
#include "look/theme.h"
#include "project/stated.h"
#include "sketch/constrain.h"
#include "sketch/copies.h"
#include "sketch/curve_kind.h"
#include "sketch/dimension_scheme.h"
#include "sketch/solver.h"
#include "tools/trace/sketch_card.h"

namespace lostline::app {
namespace {

/// Takes a value where its dimension stands. Return is its own: it must not keep the card.
class ValueField : public QLineEdit {
 public:
  using QLineEdit::QLineEdit;

 protected:
  void keyPressEvent(QKeyEvent* event) override {
    QLineEdit::keyPressEvent(event);
    event->accept();
  }
};

/// Fitted to its section; what has none keeps its numbers and only its constraints are met.
Result<sketch::FitResult> settled(const sketch::Sketch& sketch, const section::Section& section,
                                  const sketch::FitOptions& options, const Task& task) {
  if (!section.polylines.empty()) return sketch::fit_to_section(sketch, section, options, task);
  auto solved = sketch::solve(sketch);
  if (!solved) return solved.error();
  sketch::FitResult result;
  result.settled = true;
  result.solution = *std::move(solved);
  return result;
}

}  // namespace

void SketchTool::begin() {
  place_.bench.setSeeThrough(true);
  place_.bench.keepView();
  place_.bench.lookAt(traced_.base.normal, traced_.base.y);
  solving_ = false;
  update();
}

void SketchTool::documentChanged() {
  const auto now = shared(document(), id_);
  if (now == nullptr || now == base_) return;
  // Changed beneath the card, as by undo: what is there now counts.
  base_ = now;
  traced_ = *now;
  undone_.clear();
  done_.clear();
  picked_.clear();
  grabbed_ = 0;
  update();
}

bool SketchTool::undoOwn() {
  if (done_.empty()) return false;
  undone_.push_back(std::exchange(traced_.sketch, done_.back()));
  done_.pop_back();
  picked_.clear();
  update();
  return true;
}

bool SketchTool::redoOwn() {
  if (undone_.empty()) return false;
  done_.push_back(std::exchange(traced_.sketch, undone_.back()));
  undone_.pop_back();
  picked_.clear();
  update();
  return true;
}

bool SketchTool::escape() {
  bool drawn = false;
  const bool drawing = pen_.stop(traced_.sketch, drawn);
  place_.bench.setGuides({});
  if (drawn) edited();
  const bool changing = !changing_.isEmpty();
  endChange();
  if (drawing || changing) describe();
  if (drawing && pen_.on()) setEvidence(pen_.hint());
  return drawing || changing;
}

void SketchTool::pick(const Pick& pick) {
  if (pen_.on()) {
    grabbed_ = 0;
    pen_.setSides(static_cast<int>(count_->value()));
    const auto clicked = pen_.click(place_.bench.camera(), traced_, pick.screen);
    if (!clicked) return setError(core_text(clicked.error().message));
    if (*clicked) edited();
    return setEvidence(pen_.hint());
  }
  if (const auto drafted =
          changing_.isEmpty() ? place_.bench.draftedAt(pick.screen) : std::nullopt) {
    grabbed_ = 0;
    grabbed_text_ = drafted->dimension ? drafted->constraint : 0;
    return chooseConstraint(drafted->constraint);
  }
  grabbed_text_ = 0;
  if (bringing()) return bringPick(pick);
  const sketch::Id item =
      sketch_item_at(place_.bench, place_.bench.camera(), traced_.base, traced_.level,
                     traced_.sketch, pick.screen, changing_.isEmpty());
  if (!changing_.isEmpty()) {
    const auto at = plane_point(place_.bench.camera(), traced_.base, traced_.level, pick.screen);
    if (item == 0 || !at) return;
    return replace(changing_ == QStringLiteral("trim") ? sketch::trim(traced_.sketch, item, *at)
                   : changing_ == QStringLiteral("break")
                       ? sketch::break_at(traced_.sketch, item, *at)
                       : sketch::extend(traced_.sketch, item, *at));
  }
  grabbed_ = traced_.sketch.find_point(item) != nullptr ? item : 0;
  if (item == 0) {
    picked_.clear();
  } else if (std::erase(picked_, item) == 0) {
    if (picked_.size() == 12) picked_.erase(picked_.begin());
    picked_.resize(picked_.size() + 1, item);
  }
  draw();
  describe();
}

bool SketchTool::takesDrag(const Pick& pick) const {
  if (pen_.on() || !changing_.isEmpty()) return false;
  if (const auto drafted = place_.bench.draftedAt(pick.screen)) return drafted->dimension;
  return traced_.sketch.find_point(sketch_item_at(place_.bench, place_.bench.camera(), traced_.base,
                                                  traced_.level, traced_.sketch, pick.screen,
                                                  true)) != nullptr;
}

void SketchTool::point(const QPointF& at) {
  if (!pen_.on()) return;
  pen_.setSides(static_cast<int>(count_->value()));
  pen_.move(place_.bench.camera(), traced_, at);
  if (pen_.follows()) setEvidence(pen_.hint());
  place_.bench.setGuides(pen_.preview(place_.bench.camera(), traced_, at));
}

void SketchTool::drag(const QPointF& at, bool released) {
  const auto target = plane_point(place_.bench.camera(), traced_.base, traced_.level, at);
  if (!target) return;
  if (grabbed_text_ != 0) {
    traced_.text_places[grabbed_text_] = *target;
    return draft();
  }
  if (grabbed_ == 0) return;
  if (released) picked_.clear();
  target_ = {grabbed_, *target, released};
  if (released) grabbed_ = 0;
  place_.bench.stir();
  follow();
}

void SketchTool::doubleClick(const QPointF& at) {
  const auto drafted = place_.bench.draftedAt(at);
  const sketch::Constraint* c =
      drafted ? traced_.sketch.find_constraint(drafted->constraint) : nullptr;
  if (c == nullptr || !c->is_dimension()) return;
  // The value is typed where it stands; Return decides, emptied it is read again.
  auto* edit = new ValueField(&place_.bench);
  edit->setObjectName(QStringLiteral("dimensionText"));
  edit->setAccessibleName(tr("Value of the dimension"));
  edit->setAlignment(Qt::AlignCenter);
  edit->setText(dimension_text(traced_.sketch, *c, traced_.turn.has_value())
                    .remove(QRegularExpression(QStringLiteral("[^0-9.\\-]"))));
  edit->selectAll();
  edit->setGeometry(drafted->box.adjusted(-14, -3, 14, 3).toRect());
  edit->show();
  edit->setFocus();
  connect(edit, &QLineEdit::returnPressed, this, [this, edit, id = c->id] {
    const QString text = edit->text();
    edit->hide();
    place_.bench.setFocus();
    decide(id, text);
  });
  connect(edit, &QLineEdit::editingFinished, edit, &QObject::deleteLater);
}

void SketchTool::command(const QString& name) {
  if (name == QStringLiteral("dimension"))
    return replace(sketch::with_dimension(traced_.sketch, picked_));
  if (name == QStringLiteral("angle")) return replace(sketch::with_angle(traced_.sketch, picked_));
  if (name == QStringLiteral("dimension it")) return dimensionIt();
  if (name == QStringLiteral("offset")) {
    if (picked_.empty()) return setError(tr("Pick a line, arc or circle of the outline first."));
    return replace(sketch::offset(traced_.sketch, picked_.back(), size_->value()));
  }
  if (name == QStringLiteral("trim") || name == QStringLiteral("extend") ||
      name == QStringLiteral("break") || name == QStringLiteral("mirror"))
    return change(name);
  if (name == QStringLiteral("copy") || name == QStringLiteral("paste")) return clipboard(name);
  if (startIncoming(name)) return;
  for (std::size_t k = 0; k < sketch_changes().size(); ++k) {
    if (name == QLatin1String(sketch_changes()[k].command)) return apply(sketch_changes()[k]);
  }
  for (const Pen& pen : pens()) {
    if (name != QLatin1String(pen.command)) continue;
    endChange();
    pen_.start(name);
    return setEvidence(pen_.hint());
  }
  for (const auto type : kOffered) {
    if (name == QString::fromUtf8(sketch::constraint_name(type))) return constrain(type);
  }
}

bool SketchTool::keep() {
  commitAside(tr("edit sketch %1").arg(QString::fromStdString(traced_.name)),
              [id = id_, edited = traced_.sketch, places = traced_.text_places](
                  const project::Document& d) -> Result<project::Document> {
                const auto next = project::edit_sketch(d, id, edited);
                return next ? Result(project::place_texts(*next, id, places)) : next;
              });
  return false;
}

std::shared_ptr<const project::TracedSketch> SketchTool::shared(const project::Document& d,
                                                                project::Id id) {
  const auto it = std::find_if(d.sketches.begin(), d.sketches.end(),
                               [id](const auto& s) { return s->id == id; });
  return it != d.sketches.end() ? *it : nullptr;
}

std::size_t SketchTool::current() const {
  return static_cast<std::size_t>(std::max(change_->currentIndex(), 0));
}

void SketchTool::apply(const SketchChange& change) {
  if (picked_.empty()) return setError(tr("Pick what is changed first."));
  ChangeNumbers numbers;
  numbers.x = x_->value();
  numbers.y = y_->value();
  numbers.angle = angle_->value() * std::numbers::pi / 180;
  numbers.factor = factor_->value();
  numbers.count = static_cast<int>(count_->value());
  numbers.as = sketch::as_kinds()[static_cast<std::size_t>(std::max(as_->currentIndex(), 0))].as;
  // Off the interface's thread: a stretch drawn anew is resolved and fitted.
  solving_ = false;
  aside(
      [this, &change, traced = traced_, picks = picked_, numbers](const Task&) -> Session::Finish {
        QString said;
        auto changed = change.apply(traced, picks, numbers, said);
        return [this, changed = std::move(changed), said] {
          setKeepEnabled(true);
          const bool done = static_cast<bool>(changed);
          replace(changed);
          if (!done) return;
          said_ = said;
          describe();
        };
      });
}

void SketchTool::clipboard(const QString& name) {
  static sketch::Sketch held;
  if (name == QStringLiteral("copy")) {
    if (picked_.empty()) return setError(tr("Pick what is copied first."));
    held = sketch::part_of(traced_.sketch, picked_);
    return setEvidence(tr("Copied. Paste puts it at the same place of any sketch (G v)."));
  }
  if (held.entities.empty() && held.points.empty()) return setError(tr("Nothing was copied yet."));
  std::vector<sketch::Id> added;
  sketch::Sketch pasted = sketch::paste(traced_.sketch, held, &added);
  replace(std::move(pasted));
  picked_ = added;
  draw();
}

void SketchTool::accept(bool all) {
  const int row = offers_->currentRow();
  if (!all && (row < 0 || row >= static_cast<int>(offered_.all.size())))
    return setError(tr("Choose a suggestion in the list first."));
  for (std::size_t k = 0; k < offered_.all.size(); ++k) {
    if (!all && k != static_cast<std::size_t>(row)) continue;
    const sketch::Constraint& c = offered_.all[k].constraint;
    traced_.sketch.add_constraint(c.type, c.first, c.second);
  }
  picked_.clear();
  edited();
}

void SketchTool::decide(sketch::Id id, QString text) {
  sketch::Sketch trial = traced_.sketch;
  sketch::Constraint* c = trial.find_constraint(id);
  if (c == nullptr) return;
  text = text.trimmed().replace(QLatin1Char(','), QLatin1Char('.'));
  bool good = false;
  const double typed = text.toDouble(&good);
  if (text.isEmpty()) {
    c->driving = false;
  } else if (!good) {
    return setError(
        tr("\u201c%1\u201d is not a number. Type the value of the dimension.").arg(text));
  } else {
    c->reference = false;  // decided, if it can be
    const bool angle = c->type == sketch::ConstraintType::Angle;
    c->value = typed / (angle ? 1 : length_factor()) /
               project::stated_factor(trial, *c, traced_.turn.has_value());
    c->driving = true;
  }
  const auto solved = sketch::solve(trial);
  if (!solved) return setError(core_text(solved.error().message));
  if (std::find(solved->redundant.begin(), solved->redundant.end(), id) != solved->redundant.end())
    return setError(tr("This dimension follows from others and cannot be decided."));
  if (solved->state == sketch::State::Clashing)
    return setError(tr("This value clashes with other constraints; nothing was changed."));
  traced_.sketch = trial;
  edited();
}

void SketchTool::chooseConstraint(sketch::Id id) {
  for (int row = 0; row < list_->count(); ++row) {
    if (list_->item(row)->data(Qt::UserRole).toUInt() == id) list_->setCurrentRow(row);
  }
  draft();
}

void SketchTool::follow() {
  if (solving_ || !target_) return;
  solving_ = true;
  aside([this, sketch = traced_.sketch,
         target = *std::exchange(target_, std::nullopt)](const Task&) -> Session::Finish {
    return [this, target,
            moved = sketch::drag(sketch, target.point, target.at, sketch::Asked::Places)] {
      solving_ = false;
      setKeepEnabled(true);
      if (moved) traced_.sketch = moved->sketch;
      if (target.released) {
        record();
        draw();
      } else {
        draw(true);
      }
      follow();
    };
  });
}

void SketchTool::change(const QString& name) {
  if (name == QStringLiteral("mirror")) {
    if (picked_.size() < 2) return setError(tr("Pick what is mirrored, then the line."));
    const std::vector<sketch::Id> what(picked_.begin(), picked_.end() - 1);
    return replace(sketch::mirror(traced_.sketch, what, picked_.back()));
  }
  endChange();
  changing_ = name;
  layPenDown();
  setEvidence(modeHint());
}

void SketchTool::endChange() {
  if (bringing()) place_.bench.setShow(shown_);
  changing_.clear();
}

void SketchTool::layPenDown() {
  bool drawn = false;
  for (bool one = false; pen_.stop(traced_.sketch, one); one = false) drawn = drawn || one;
  place_.bench.setGuides({});
  if (drawn) edited();
}

void SketchTool::constrain(sketch::ConstraintType type) {
  replace(sketch::with_constraint(traced_.sketch, type, picked_));
}

void SketchTool::replace(Result<sketch::Sketch> changed) {
  if (!changed) return setError(core_text(changed.error().message));
  traced_.sketch = *std::move(changed);
  picked_.clear();
  edited();
}

void SketchTool::removePicked() {
  if (list_->currentRow() >= 0 && picked_.empty()) {
    traced_.sketch.remove(list_->currentItem()->data(Qt::UserRole).toUInt());
  } else {
    for (const sketch::Id id : picked_) {
      const sketch::Point* point = traced_.sketch.find_point(id);
      if (traced_.sketch.find_entity(id) != nullptr || (point != nullptr && point->own))
        traced_.sketch.remove(id);
    }
  }
  picked_.clear();
  edited();
}

void SketchTool::dimensionIt() {
  setEvidence(tr("looking for the dimensions that are missing \u2026"));
  solving_ = false;
  aside([this, sketch = traced_.sketch, turned = traced_.turn.has_value(),
         nothing = 0.5 * traced_.tolerance](const Task& task) -> Session::Finish {
    sketch::SchemeOptions options;
    options.turned = turned;
    options.nothing = nothing;
    auto scheme = sketch::dimension_scheme(sketch, options, task);
    return [this, scheme = std::move(scheme)] {
      if (scheme.dimensions.empty()) {
        describe();
        return setEvidence(
            scheme.freedoms == 0
                ? tr("The sketch has all the dimensions it needs.")
                : tr("No dimension holds what is left loose: %1 numbers.").arg(scheme.freedoms));
      }
      for (const sketch::Constraint& c : scheme.dimensions)
        traced_.sketch.add_constraint(c.type, c.first, c.second, c.value);
      picked_.clear();
      edited();
    };
  });
}

void SketchTool::makeCorner() {
  if (picked_.size() != 2) return setError(tr("Pick the two lines that make the corner."));
  auto made = sketch::make_corner(traced_.sketch, picked_[0], picked_[1], size_->value());
  if (!made) return setError(core_text(made.error().message));
  traced_.sketch = *made;
  picked_.clear();
  edited();
}

void SketchTool::record() {
  done_.push_back(std::exchange(last_, traced_.sketch));
  undone_.clear();
}

void SketchTool::edited() {
  said_.clear();
  record();
  update();
}

void SketchTool::update() {
  sketch::FitOptions options;
  options.reach = traced_.reach();
  options.corner_margin = 1.5 * document().scan->health.spacing;
  list();
  draw();
  describe();
  // Fitted off the interface's thread; a change made meanwhile is fitted instead.
  target_.reset();
  solving_ = false;
  const auto section = traced_.drawn ? section::Section() : traced_.section;
  aside([this, sketch = traced_.sketch, section, options,
         nothing = 0.25 * traced_.tolerance](const Task& task) -> Session::Finish {
    auto fitted = settled(sketch, section, options, task);
    auto offered = sketch::suggestions_with_cost(fitted ? fitted->solution.sketch : sketch, section,
                                                 options, nothing, {}, task);
    return [this, fitted = std::move(fitted), offered = std::move(offered)] {
      setKeepEnabled(true);
      fitted_ = fitted;
      if (*fitted_) traced_.sketch = (*fitted_)->solution.sketch;
      last_ = traced_.sketch;
      offered_ = offered;
      listOffers();
      list();
      draw();
      describe();
    };
  });
}

}  // namespace lostline::app
