#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QRegularExpression>
#include <numbers>

#include "bench/sketch_marks.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/stated.h"
#include "sketch/curve_kind.h"
#include "sketch/dimension_scheme.h"
#include "sketch/section_judge.h"
#include "tools/tool.h"
#include "tools/trace/sketch_pen.h"

namespace lostline::app {
namespace {

QString fixed(double value, int decimals = 3) {
  return QString::fromStdString(length_fixed(value, decimals));
}

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

/// Constraints, dimensions, corners and dragging on a sketch; every change is fitted to the section
/// at once.
class SketchTool : public ToolCard {
 public:
  SketchTool(Workplace place, project::Id id)
      : ToolCard(place, tr("Sketch"),
                 QString::fromStdString(place.session.document().find_sketch(id)->name)),
        id_(id),
        traced_(*place.session.document().find_sketch(id)) {
    // What is drawn, then what changes what is drawn; the leader key G reaches them too.
    const auto pen_row = [&](const std::vector<std::array<QString, 3>>& list) {
      auto* widget = new QWidget;
      auto* pens = new QHBoxLayout(widget);
      pens->setContentsMargins(0, 0, 0, 0);
      pens->setSpacing(4);
      for (const auto& [text, name, tip] : list) {
        QPushButton* b = button(text, name, tip, [this, name = name] { command(name); });
        b->setStyleSheet(QStringLiteral("padding: 2px 4px;"));  // six stand in a row
        pens->addWidget(b);
      }
      addWide(widget);
    };
    pen_row(
        {{tr("line"), QStringLiteral("draw line"), tr("Draw lines, snapping to the section (G l)")},
         {tr("arc"), QStringLiteral("draw arc"),
          tr("Draw an arc: start, end, a place on it (G a)")},
         {tr("circle"), QStringLiteral("draw circle"), tr("Draw a circle: centre, rim (G c)")},
         {tr("trim"), QStringLiteral("trim"), tr("Take away stretches between crossings (G t)")},
         {tr("extend"), QStringLiteral("extend"), tr("Lengthen ends to the next curve (G e)")},
         {tr("mirror"), QStringLiteral("mirror"),
          tr("Mirror the picks about the last of them, a line (G m)")}});
    type_ = new QComboBox;
    for (const auto type : kOffered) type_->addItem(core_word(sketch::constraint_name(type)));
    type_->setObjectName(QStringLiteral("constraintType"));
    auto* line = new QWidget;
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(type_, 1);
    row->addWidget(button(
        tr("add"), QStringLiteral("addConstraint"),
        tr("Add the constraint to the picked lines, arcs or points (R)"),
        [this] { addConstraint(kOffered[static_cast<std::size_t>(type_->currentIndex())]); }));
    addRow(tr("constraint"), line);
    auto* line2 = new QWidget;
    auto* row2 = new QHBoxLayout(line2);
    row2->setContentsMargins(0, 0, 0, 0);
    row2->addWidget(button(tr("dimension"), QStringLiteral("addDimension"),
                           tr("Size of a picked arc or circle, length of a line, distance of two "
                              "picks, as a Ledger row (V)"),
                           [this] { addDimension(); }));
    row2->addWidget(button(tr("angle"), QStringLiteral("addAngle"),
                           tr("Angle of two picked lines, as a Ledger row (V a)"),
                           [this] { addAngle(); }));
    row2->addWidget(button(tr("delete"), QStringLiteral("deletePicked"),
                           tr("Delete the picked lines and arcs, or the chosen constraint (Del)"),
                           [this] { removePicked(); }));
    addWide(line2);
    size_ = length(0, -1000, 1000, 0.5, 2, QStringLiteral("cornerRadius"));
    size_->setToolTip(
        tr("Radius of the corner, 0 for a sharp one; distance of the offset, of a "
           "closed outline outward, minus inward"));
    auto* line3 = new QWidget;
    auto* row3 = new QHBoxLayout(line3);
    row3->setContentsMargins(0, 0, 0, 0);
    row3->setSpacing(4);
    row3->addWidget(size_, 1);
    for (const auto& [text, name, tip, act] :
         {std::tuple{tr("corner"), QStringLiteral("makeCorner"),
                     tr("Extend two picked lines to their corner and drop what lies between"),
                     std::function<void()>([this] { makeCorner(); })},
          std::tuple{tr("offset"), QStringLiteral("makeOffset"),
                     tr("Copy the outline of the pick at this distance (G o)"),
                     std::function<void()>([this] { command(QStringLiteral("offset")); })}}) {
      QPushButton* b = button(text, name, tip, act);
      row3->addWidget(b);
    }
    addRow(in_unit(tr("R, mm")), line3);
    list_ = new QListWidget;
    list_->setMaximumHeight(96);
    list_->setAccessibleName(tr("Constraints"));
    list_->setToolTip(tr("Constraints of the sketch; Del deletes the chosen one"));
    connect(list_, &QListWidget::currentRowChanged, this, [this] { draft(); });
    addWide(list_);
    suggest_ = button(tr("accept suggestions"), QStringLiteral("acceptSuggestions"),
                      tr("Add the constraints that hold within tolerance"), [this] {
                        for (const auto& c : offered_)
                          traced_.sketch.add_constraint(c.type, c.first, c.second);
                        edited();
                      });
    addWide(suggest_);
    addWide(
        button(tr("dimension it"), QStringLiteral("dimensionIt"),
               tr("Add the dimensions that the sketch still lacks, as a draughtsman would: each "
                  "once, from the axes; in pencil, as Ledger rows (V V)"),
               [this] { dimensionIt(); }));
  }
  void begin() override {
    place_.bench.setSeeThrough(true);
    place_.bench.keepView();
    place_.bench.lookAt(traced_.base.normal, traced_.base.y);
    solving_ = false;
    update();
  }
  void resume() override { begin(); }
  void documentChanged() override {
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
  bool undoOwn() override {
    if (done_.empty()) return false;
    undone_.push_back(std::exchange(traced_.sketch, done_.back()));
    done_.pop_back();
    picked_.clear();
    update();
    return true;
  }
  bool redoOwn() override {
    if (undone_.empty()) return false;
    done_.push_back(std::exchange(traced_.sketch, undone_.back()));
    undone_.pop_back();
    picked_.clear();
    update();
    return true;
  }
  bool escape() override {
    const bool drawing = pen_.stop();
    const bool changing = !changing_.isEmpty();
    changing_.clear();
    if (drawing || changing) describe();
    if (drawing && pen_.mode() != SketchPen::Mode::Off) setEvidence(pen_.hint());
    return drawing || changing;
  }
  void pick(const Pick& pick) override {
    if (pen_.mode() != SketchPen::Mode::Off) {
      grabbed_ = 0;
      if (pen_.click(place_.bench.camera(), traced_, pick.screen)) edited();
      return setEvidence(pen_.hint());
    }
    if (const auto drafted =
            changing_.isEmpty() ? place_.bench.draftedAt(pick.screen) : std::nullopt) {
      grabbed_ = 0;
      grabbed_text_ = drafted->dimension ? drafted->constraint : 0;
      return chooseConstraint(drafted->constraint);
    }
    grabbed_text_ = 0;
    const sketch::Id item =
        sketch_item_at(place_.bench, place_.bench.camera(), traced_.base, traced_.level,
                       traced_.sketch, pick.screen, changing_.isEmpty());
    if (!changing_.isEmpty()) {
      const auto at = plane_point(place_.bench.camera(), traced_.base, traced_.level, pick.screen);
      if (item == 0 || !at) return;
      return replace(changing_ == QStringLiteral("trim")
                         ? sketch::trim(traced_.sketch, item, *at)
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
  [[nodiscard]] bool takesDrag(const Pick& pick) const override {
    if (pen_.mode() != SketchPen::Mode::Off || !changing_.isEmpty()) return false;
    if (const auto drafted = place_.bench.draftedAt(pick.screen)) return drafted->dimension;
    return traced_.sketch.find_point(sketch_item_at(place_.bench, place_.bench.camera(),
                                                    traced_.base, traced_.level, traced_.sketch,
                                                    pick.screen, true)) != nullptr;
  }
  void drag(const QPointF& at, bool released) override {
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
  void doubleClick(const QPointF& at) override {
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
  void command(const QString& name) override {
    if (name == QStringLiteral("dimension")) return addDimension();
    if (name == QStringLiteral("angle")) return addAngle();
    if (name == QStringLiteral("dimension it")) return dimensionIt();
    if (name == QStringLiteral("offset")) {
      if (picked_.empty()) return setError(tr("Pick a line, arc or circle of the outline first."));
      return replace(sketch::offset(traced_.sketch, picked_.back(), size_->value()));
    }
    if (name == QStringLiteral("trim") || name == QStringLiteral("extend") ||
        name == QStringLiteral("mirror"))
      return change(name);
    if (name.startsWith(QStringLiteral("draw "))) {
      changing_.clear();
      pen_.start(name.endsWith(QStringLiteral("line"))  ? SketchPen::Mode::Line
                 : name.endsWith(QStringLiteral("arc")) ? SketchPen::Mode::Arc
                                                        : SketchPen::Mode::Circle);
      return setEvidence(pen_.hint());
    }
    for (const auto type : kOffered) {
      if (name == QString::fromUtf8(sketch::constraint_name(type))) return addConstraint(type);
    }
  }
  bool keep() override {
    commitAside(tr("edit sketch %1").arg(QString::fromStdString(traced_.name)),
                [id = id_, edited = traced_.sketch, places = traced_.text_places](
                    const project::Document& d) -> Result<project::Document> {
                  const auto next = project::edit_sketch(d, id, edited);
                  return next ? Result(project::place_texts(*next, id, places)) : next;
                });
    return false;
  }

 private:
  static constexpr std::array kOffered{
      sketch::ConstraintType::Horizontal, sketch::ConstraintType::Vertical,
      sketch::ConstraintType::Parallel,   sketch::ConstraintType::Perpendicular,
      sketch::ConstraintType::Tangent,    sketch::ConstraintType::Equal,
      sketch::ConstraintType::Concentric, sketch::ConstraintType::Coincident,
      sketch::ConstraintType::Midpoint,   sketch::ConstraintType::Symmetric};
  static std::shared_ptr<const project::TracedSketch> shared(const project::Document& d,
                                                             project::Id id) {
    const auto it = std::find_if(d.sketches.begin(), d.sketches.end(),
                                 [id](const auto& s) { return s->id == id; });
    return it != d.sketches.end() ? *it : nullptr;
  }
  QPushButton* button(const QString& text, const QString& name, const QString& tip,
                      const std::function<void()>& act) {
    return ToolCard::button({text, name, tip, act});
  }
  /// Gives a dimension the value that was typed, or frees it.
  void decide(sketch::Id id, QString text) {
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
      const bool angle = c->type == sketch::ConstraintType::Angle;
      c->value = typed / (angle ? 1 : length_factor()) /
                 project::stated_factor(trial, *c, traced_.turn.has_value());
      c->driving = true;
    }
    const auto solved = sketch::solve(trial);
    if (!solved) return setError(QString::fromStdString(solved.error().message));
    if (solved->state == sketch::State::Clashing)
      return setError(tr("This value clashes with other constraints; nothing was changed."));
    traced_.sketch = trial;
    edited();
  }
  void chooseConstraint(sketch::Id id) {
    for (int row = 0; row < list_->count(); ++row) {
      if (list_->item(row)->data(Qt::UserRole).toUInt() == id) list_->setCurrentRow(row);
    }
    draft();
  }
  /// Moves the point that is dragged, off the interface's thread: the latest place counts, and what
  /// is on the way is shown as it comes.
  void follow() {
    if (solving_ || !target_) return;
    solving_ = true;
    aside([this, sketch = traced_.sketch,
           target = *std::exchange(target_, std::nullopt)](const Task&) -> Session::Finish {
      return [this, target, moved = sketch::drag(sketch, target.point, target.at, false)] {
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
  void addConstraint(sketch::ConstraintType type) {
    if (picked_.empty()) return setError(tr("Pick one or two lines, arcs or points first."));
    sketch::Sketch trial = traced_.sketch;
    if (type == sketch::ConstraintType::Symmetric || type == sketch::ConstraintType::Midpoint)
      return addBetween(type);
    const sketch::Id first = picked_[0];
    const sketch::Id second = picked_.size() > 1 ? picked_[1] : 0;
    // A coincident constraint names the point first; a circle's centre stands for it.
    const auto point_of = [&](sketch::Id id) {
      const sketch::Entity* e = trial.find_entity(id);
      return e != nullptr && sketch::kind_of(*e).has_centre() ? e->centre : id;
    };
    const bool coincident = type == sketch::ConstraintType::Coincident;
    sketch::Id a = coincident ? point_of(first) : first;
    sketch::Id b = coincident && second != 0 ? point_of(second) : second;
    if (coincident && trial.find_point(a) == nullptr) std::swap(a, b);
    trial.add_constraint(type, a, b);
    const auto solved = sketch::solve(trial);
    if (!solved) return setError(QString::fromStdString(solved.error().message));
    traced_.sketch = trial;
    picked_.clear();
    edited();
  }
  /// Symmetric: two points or rounds, then the line; midpoint: a point and a line.
  void addBetween(sketch::ConstraintType type) {
    sketch::Sketch trial = traced_.sketch;
    std::vector<sketch::Id> picks = picked_;
    if (type == sketch::ConstraintType::Midpoint && picks.size() == 2) {
      if (trial.find_point(picks[0]) == nullptr) std::swap(picks[0], picks[1]);
      trial.add_constraint(type, picks[0], picks[1]);
    } else if (type == sketch::ConstraintType::Symmetric && picks.size() >= 2) {
      // Without a line the upright axis is meant.
      trial.add_constraint(type, picks[0], picks[1], 0, false,
                           picks.size() > 2 ? picks[2] : sketch::kYAxis);
    } else {
      return setError(type == sketch::ConstraintType::Midpoint
                          ? tr("Pick a point and a line first.")
                          : tr("Pick two points or circles, then the line, first."));
    }
    const auto solved = sketch::solve(trial);
    if (!solved) return setError(QString::fromStdString(solved.error().message));
    traced_.sketch = trial;
    picked_.clear();
    edited();
  }
  void addAngle() {
    if (picked_.size() != 2) return setError(tr("Pick the two lines of the angle first."));
    sketch::Sketch trial = traced_.sketch;
    const sketch::Id added =
        trial.add_constraint(sketch::ConstraintType::Angle, picked_[0], picked_[1]);
    sketch::Sketch held = trial;
    held.find_constraint(added)->driving = true;
    held.find_constraint(added)->value = sketch::measured_value(held, *held.find_constraint(added));
    if (const auto solved = sketch::solve(held); !solved)
      return setError(QString::fromStdString(solved.error().message));
    traced_.sketch = trial;
    picked_.clear();
    edited();
  }
  /// Trims or extends what is clicked next, or mirrors the picks about the last of them.
  void change(const QString& name) {
    if (name == QStringLiteral("mirror")) {
      if (picked_.size() < 2) return setError(tr("Pick what is mirrored, then the line."));
      const std::vector<sketch::Id> what(picked_.begin(), picked_.end() - 1);
      return replace(sketch::mirror(traced_.sketch, what, picked_.back()));
    }
    changing_ = name;
    setEvidence(name == QStringLiteral("trim") ? tr("Click the stretch that goes; Esc ends.")
                                               : tr("Click near the end that grows; Esc ends."));
  }
  void replace(Result<sketch::Sketch> changed) {
    if (!changed) return setError(QString::fromStdString(changed.error().message));
    traced_.sketch = *std::move(changed);
    picked_.clear();
    edited();
  }
  void addDimension() {
    if (picked_.empty() || picked_.size() > 2)
      return setError(tr("Pick a circle, an arc, a line, or two things first."));
    const sketch::Entity* e = traced_.sketch.find_entity(picked_[0]);
    if (picked_.size() == 1 && sketch::has_radius(e)) {
      traced_.sketch.add_constraint(sketch::ConstraintType::Radius, picked_[0]);
    } else {
      sketch::Id first = picked_[0];
      sketch::Id second = picked_.size() > 1 ? picked_[1] : 0;
      for (sketch::Id* id : {&first, &second}) {
        const sketch::Entity* entity = traced_.sketch.find_entity(*id);
        if (entity != nullptr && sketch::kind_of(*entity).has_centre()) *id = entity->centre;
      }
      const sketch::Id added =
          traced_.sketch.add_constraint(sketch::ConstraintType::Distance, first, second);
      sketch::Sketch trial = traced_.sketch;
      trial.find_constraint(added)->driving = true;
      trial.find_constraint(added)->value =
          sketch::measured_value(trial, *trial.find_constraint(added));
      if (const auto solved = sketch::solve(trial); !solved) {
        traced_.sketch.remove(added);
        return setError(QString::fromStdString(solved.error().message));
      }
    }
    picked_.clear();
    edited();
  }
  void removePicked() {
    if (list_->currentRow() >= 0 && picked_.empty()) {
      traced_.sketch.remove(list_->currentItem()->data(Qt::UserRole).toUInt());
    } else {
      for (const sketch::Id id : picked_) {
        if (traced_.sketch.find_entity(id) != nullptr) traced_.sketch.remove(id);
      }
    }
    picked_.clear();
    edited();
  }
  /// A complete scheme of dimensions, worked out off the interface's thread.
  void dimensionIt() {
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
  void makeCorner() {
    if (picked_.size() != 2) return setError(tr("Pick the two lines that make the corner."));
    auto made = sketch::make_corner(traced_.sketch, picked_[0], picked_[1], size_->value());
    if (!made) return setError(QString::fromStdString(made.error().message));
    traced_.sketch = *made;
    picked_.clear();
    edited();
  }
  /// A step of the card's own, which its undo takes back.
  void record() {
    done_.push_back(std::exchange(last_, traced_.sketch));
    undone_.clear();
  }
  void edited() {
    record();
    update();
  }
  void update() {
    sketch::FitOptions options;
    options.reach = traced_.reach();
    options.corner_margin = 1.5 * document().scan->health.spacing;
    list();
    draw();
    describe();
    // Fitted off the interface's thread; a change made meanwhile is fitted instead.
    target_.reset();
    solving_ = false;
    aside([this, sketch = traced_.sketch, section = traced_.section, options,
           nothing = 0.25 * traced_.tolerance](const Task& task) -> Session::Finish {
      auto fitted = sketch::fit_to_section(sketch, section, options, task);
      auto offered = sketch::suggest_constraints(fitted ? fitted->solution.sketch : sketch, section,
                                                 options, nothing, {}, task);
      return [this, fitted = std::move(fitted), offered = std::move(offered)] {
        setKeepEnabled(true);
        fitted_ = fitted;
        if (*fitted_) traced_.sketch = (*fitted_)->solution.sketch;
        last_ = traced_.sketch;
        offered_ = offered;
        suggest_->setText(offered.empty() ? tr("no more suggestions")
                                          : tr("accept %1 suggestions").arg(offered.size()));
        suggest_->setEnabled(!offered.empty());
        list();
        draw();
        describe();
      };
    });
  }
  void list() {
    const QSignalBlocker block(list_);
    const int row = list_->currentRow();
    list_->clear();
    for (const auto& c : traced_.sketch.constraints) {
      QString text = QString::fromStdString(sketch::describe(traced_.sketch, c));
      if (c.is_dimension())
        text += QStringLiteral("  ") + dimension_text(traced_.sketch, c, traced_.turn.has_value()) +
                (c.driving ? tr(" inked") : QString());
      auto* item = new QListWidgetItem(text, list_);
      item->setData(Qt::UserRole, c.id);
    }
    if (row < list_->count()) list_->setCurrentRow(row);
  }
  /// Constraints and dimensions as they stand on the drawing.
  void draft() {
    auto drafting = std::make_shared<Drafting>();
    drafting->base = traced_.base;
    drafting->level = traced_.level;
    drafting->sketch = traced_.sketch;
    drafting->turned = traced_.turn.has_value();
    drafting->text_places = traced_.text_places;
    drafting->picked = {picked_.begin(), picked_.end()};
    if (list_->currentItem() != nullptr)
      drafting->chosen = list_->currentItem()->data(Qt::UserRole).toUInt();
    if (fitted_ && *fitted_) {
      const auto& clashing = (*fitted_)->solution.clashing;
      drafting->clashing = {clashing.begin(), clashing.end()};
    }
    place_.bench.setDrafting(std::move(drafting));
  }
  /// @param moving  while a point is dragged: the drift follows when it rests.
  void draw(bool moving = false) {
    std::set<sketch::Id> loose;
    if (fitted_ && *fitted_)
      loose.insert((*fitted_)->solution.loose_entities.begin(),
                   (*fitted_)->solution.loose_entities.end());
    place_.bench.setMarks(sketch_marks(traced_.base, traced_.level, traced_.section, traced_.sketch,
                                       loose, {picked_.begin(), picked_.end()}, !moving,
                                       options_reach()));
    draft();
    if (moving) return;
    place_.strip.showSection(
        traced_.section, traced_.sketch, options_reach(),
        tr("Sketch %1 against its section").arg(QString::fromStdString(traced_.name)));
  }
  [[nodiscard]] double options_reach() const { return traced_.reach(); }
  void describe() {
    if (!fitted_) return setEvidence(tr("fitting to the section \u2026"));
    if (!*fitted_) return setError(QString::fromStdString(fitted_->error().message));
    QStringList names;
    for (const sketch::Id id : picked_)
      names << QString::fromStdString(sketch::name_of(traced_.sketch, id));
    const auto drift = sketch::measure_drift(traced_.sketch, traced_.section, options_reach());
    const auto& solution = (*fitted_)->solution;
    QString text = (solution.state == sketch::State::Held ? tr("held")
                                                          : tr("loose %1").arg(solution.freedoms)) +
                   tr(" \u00b7 RMS %1 \u00b7 greatest %2")
                       .arg(fixed((*fitted_)->rms), fixed(std::abs(drift.greatest)));
    const WhiskerScale whiskers = whisker_scale(drift, traced_.section);
    if (!drift.whiskers.empty()) text += tr(" \u00b7 whiskers \u00d7 %1").arg(whiskers.gain);
    text += QLatin1Char('\n') +
            (names.isEmpty() ? tr("Click lines, arcs or points to pick; drag a point to move it.")
                             : tr("picked: ") + names.join(QStringLiteral(", ")));
    setEvidence(text);
  }

  project::Id id_;
  std::shared_ptr<const project::TracedSketch> base_ = shared(document(), id_);
  project::TracedSketch traced_;
  sketch::Sketch last_;                        ///< as it was after the last step
  std::vector<sketch::Sketch> done_, undone_;  ///< steps of the card's own
  std::optional<Result<sketch::FitResult>> fitted_;
  std::vector<sketch::Id> picked_;
  std::vector<sketch::Constraint> offered_;
  sketch::Id grabbed_ = 0;
  sketch::Id grabbed_text_ = 0;  ///< dimension whose text is dragged
  struct Target {
    sketch::Id point;
    Vec2 at;
    bool released;
  };
  std::optional<Target> target_;  ///< where the dragged point is to go next
  bool solving_ = false;
  QComboBox* type_;
  QDoubleSpinBox* size_;
  QListWidget* list_;
  QPushButton* suggest_;
  SketchPen pen_;
  QString changing_;  ///< "trim" or "extend" while they wait for a click
};

}  // namespace

Tool sketch_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Sketch"),
            "pen-tool",
            QT_TRANSLATE_NOOP("tools", "Constraints and dimensions of the last sketch"),
            kTrace,
            's',
            Tool::Needs::Sketch,
            [](Workplace place, project::Id sketch) -> ToolCard* {
              return new SketchTool(place, sketch);
            }};
  tool.subject = Tool::Subject::Sketch;
  return tool;
}

}  // namespace lostline::app
