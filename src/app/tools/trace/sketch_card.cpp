// What the card of a sketch shows: its rows, its lists, the sketch on the Bench and in words.
#include "tools/trace/sketch_card.h"

#include <QHBoxLayout>

#include "bench/sketch_marks.h"
#include "fit/surface_kind.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "reading/curve_evidence.h"
#include "sketch/curve_kind.h"
#include "tools/trace/sketch_incoming.h"

namespace lostline::app {
namespace {

/// A list as wide as the column leaves it, whatever its longest entry.
void fit_column(QComboBox* box) {
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  box->setMinimumContentsLength(6);
}

}  // namespace

SketchTool::SketchTool(Workplace place, project::Id id)
    : ToolCard(place, tr("Sketch"),
               QString::fromStdString(place.session.document().find_sketch(id)->name)),
      id_(id),
      traced_(*place.session.document().find_sketch(id)) {
  // What is drawn, then what changes what is drawn; the leader key G reaches them too.
  const auto row_of = [this] {
    auto* widget = new QWidget;
    auto* row = new QHBoxLayout(widget);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    addWide(widget);
    return row;
  };
  const auto add = [&](QHBoxLayout* row, const QString& text, const QString& name,
                       const QString& tip) {
    QPushButton* b = button(text, name, tip, [this, name] { command(name); });
    b->setStyleSheet(QStringLiteral("padding: 2px 3px;"));
    row->addWidget(b);
  };
  QHBoxLayout* buttons = row_of();
  auto* more = new QComboBox;
  fit_column(more);
  more->setObjectName(QStringLiteral("morePens"));
  more->setToolTip(tr("What else can be drawn or brought in (G)"));
  more->addItem(tr("more"));
  for (const Pen& pen : pens()) {
    const QString title = QCoreApplication::translate("tools", pen.title);
    const QString key = QKeySequence(pen.key).toString().toLower();
    const QString tip = QCoreApplication::translate("tools", pen.tip);
    constexpr int kButtons = 3;
    if (buttons->count() < kButtons) {
      add(buttons, title, QLatin1String(pen.command), tr("%1 (G %2)").arg(tip, key));
      continue;
    }
    more->addItem(tr("%1  G %2").arg(title, key), QLatin1String(pen.command));
    more->setItemData(more->count() - 1, tip, Qt::ToolTipRole);
  }
  for (const Incoming& in : incoming()) {
    more->addItem(tr("%1  G %2")
                      .arg(QCoreApplication::translate("tools", in.title),
                           QKeySequence(in.key).toString().toLower()),
                  QLatin1String(in.command));
    more->setItemData(more->count() - 1, QCoreApplication::translate("tools", in.tip),
                      Qt::ToolTipRole);
  }
  buttons->addWidget(more, 1);
  connect(more, &QComboBox::activated, this, [this, more](int at) {
    const QString name = more->itemData(at).toString();
    more->setCurrentIndex(0);
    if (!name.isEmpty()) command(name);
  });
  buttons = row_of();
  add(buttons, tr("trim"), QStringLiteral("trim"),
      tr("Take away stretches between crossings (G t)"));
  add(buttons, tr("extend"), QStringLiteral("extend"), tr("Lengthen ends to the next curve (G e)"));
  add(buttons, tr("break"), QStringLiteral("break"),
      tr("Cut a curve in two where it is clicked (G k)"));
  add(buttons, tr("mirror"), QStringLiteral("mirror"),
      tr("Mirror the picks about the last of them, a line (G m)"));
  addChanges();
  type_ = new QComboBox;
  fit_column(type_);
  for (const auto type : kOffered) type_->addItem(core_word(sketch::constraint_name(type)));
  type_->setObjectName(QStringLiteral("constraintType"));
  auto* line = new QWidget;
  auto* row = new QHBoxLayout(line);
  row->setContentsMargins(0, 0, 0, 0);
  row->addWidget(type_, 1);
  row->addWidget(button(tr("add"), QStringLiteral("addConstraint"),
                        tr("Add the constraint to the picked lines, arcs or points (R)"), [this] {
                          constrain(kOffered[static_cast<std::size_t>(type_->currentIndex())]);
                        }));
  addRow(tr("constraint"), line);
  auto* line2 = new QWidget;
  auto* row2 = new QHBoxLayout(line2);
  row2->setContentsMargins(0, 0, 0, 0);
  row2->addWidget(button(tr("dimension"), QStringLiteral("addDimension"),
                         tr("Size of a picked arc or circle, length of a line, distance of two "
                            "picks, as a Ledger row (V)"),
                         [this] { command(QStringLiteral("dimension")); }));
  row2->addWidget(button(tr("angle"), QStringLiteral("addAngle"),
                         tr("Angle of two picked lines, as a Ledger row (V a)"),
                         [this] { command(QStringLiteral("angle")); }));
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
  offers_ = new QListWidget;
  offers_->setObjectName(QStringLiteral("suggestions"));
  offers_->setMaximumHeight(88);
  offers_->setWordWrap(true);
  offers_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  offers_->setAccessibleName(tr("Suggestions"));
  offers_->setToolTip(
      tr("Constraints that the section allows, each with how far it moves the sketch and the RMS "
         "with it; double-click adds one"));
  connect(offers_, &QListWidget::itemActivated, this, [this] { accept(false); });
  connect(offers_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (row < 0 || row >= static_cast<int>(offered_.all.size())) return;
    const sketch::Constraint& c = offered_.all[static_cast<std::size_t>(row)].constraint;
    picked_ = {c.first};
    if (c.second != 0) picked_.push_back(c.second);
    draw();
  });
  addWide(offers_);
  suggest_ = button(tr("accept suggestions"), QStringLiteral("acceptSuggestions"),
                    tr("Add the constraints that hold within tolerance"), [this] { accept(true); });
  auto* both = new QWidget;
  auto* both_row = new QHBoxLayout(both);
  both_row->setContentsMargins(0, 0, 0, 0);
  both_row->addWidget(suggest_, 1);
  one_ = button(tr("only this"), QStringLiteral("acceptSuggestion"),
                tr("Add the suggestion that is chosen in the list"), [this] { accept(false); });
  both_row->addWidget(one_);
  addWide(both);
  addWide(button(tr("dimension it"), QStringLiteral("dimensionIt"),
                 tr("Add the dimensions that the sketch still lacks, as a draughtsman would: each "
                    "once, from the axes; in pencil, as Ledger rows (V V)"),
                 [this] { dimensionIt(); }));
}

QPushButton* SketchTool::button(const QString& text, const QString& name, const QString& tip,
                                const std::function<void()>& act) {
  return ToolCard::button({text, name, tip, act});
}

void SketchTool::addChanges() {
  change_ = new QComboBox;
  fit_column(change_);
  change_->setObjectName(QStringLiteral("sketchChange"));
  for (const SketchChange& c : sketch_changes())
    change_->addItem(QCoreApplication::translate("tools", c.title));
  auto* line = new QWidget;
  auto* row = new QHBoxLayout(line);
  row->setContentsMargins(0, 0, 0, 0);
  row->addWidget(change_, 1);
  row->addWidget(button(tr("do it"), QStringLiteral("applyChange"), tr("Change the picks so"),
                        [this] { apply(sketch_changes()[current()]); }));
  addRow(tr("change"), line);
  as_ = new QComboBox;
  fit_column(as_);
  as_->setObjectName(QStringLiteral("drawAs"));
  for (const sketch::AsKind& kind : sketch::as_kinds()) as_->addItem(core_word(kind.name));
  asked_.push_back({SketchChange::Kind, addRow(tr("as"), as_), as_});
  x_ = length(10, -10000, 10000, 1, 3, QStringLiteral("changeX"));
  asked_.push_back({SketchChange::Shift, addRow(in_unit(tr("by x, mm")), x_), x_});
  y_ = length(0, -10000, 10000, 1, 3, QStringLiteral("changeY"));
  asked_.push_back({SketchChange::Shift, addRow(in_unit(tr("by y, mm")), y_), y_});
  angle_ = number(90, -360, 360, 5, 3, QStringLiteral("changeAngle"));
  asked_.push_back({SketchChange::Angle, addRow(tr("angle, \u00b0"), angle_), angle_});
  factor_ = number(1, 0.001, 1000, 0.1, 4, QStringLiteral("changeFactor"));
  asked_.push_back({SketchChange::Factor, addRow(tr("factor"), factor_), factor_});
  count_ = number(6, 2, 200, 1, 0, QStringLiteral("changeCount"));
  count_->setToolTip(tr("How many in all; the sides of a polygon"));
  addRow(tr("number"), count_);
  connect(change_, &QComboBox::currentIndexChanged, this, [this] { showAsked(); });
  showAsked();
}

void SketchTool::showAsked() {
  const SketchChange& c = sketch_changes()[current()];
  change_->setToolTip(QCoreApplication::translate("tools", c.tip));
  for (const auto& [ask, label, field] : asked_) {
    label->setVisible((c.asks & ask) != 0);
    field->setVisible((c.asks & ask) != 0);
  }
  settleHeight();
}

void SketchTool::listOffers() {
  const QSignalBlocker block(offers_);
  offers_->clear();
  for (const sketch::Suggestion& s : offered_.all) {
    QString text = core_text(sketch::describe(traced_.sketch, s.constraint));
    if (s.cost)
      text += tr("  \u00b7 off %1, RMS %2 \u2192 %3")
                  .arg(length_shown(s.cost->off), length_shown(offered_.rms),
                       length_shown(s.cost->rms));
    offers_->addItem(text);
  }
  const std::size_t count = offered_.all.size();
  suggest_->setText(count == 0 ? tr("no more suggestions")
                               : tr("accept %1 suggestions").arg(count));
  suggest_->setEnabled(count != 0);
  one_->setVisible(count > 1);
  offers_->setVisible(count > 0);
  settleHeight();
}

void SketchTool::list() {
  const QSignalBlocker block(list_);
  const int row = list_->currentRow();
  list_->clear();
  for (const auto& c : traced_.sketch.constraints) {
    QString text = core_text(sketch::describe(traced_.sketch, c));
    if (c.is_dimension())
      text += QStringLiteral("  ") + dimension_text(traced_.sketch, c, traced_.turn.has_value()) +
              (c.driving ? tr(" inked") : QString());
    auto* item = new QListWidgetItem(text, list_);
    item->setData(Qt::UserRole, c.id);
  }
  if (row < list_->count()) list_->setCurrentRow(row);
}

void SketchTool::draft() {
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

void SketchTool::draw(bool moving) {
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

QString SketchTool::restsOn(sketch::Id entity, const sketch::Drift& drift) const {
  for (const auto& e : reading::curve_evidence(document(), traced_, drift)) {
    if (e.entity != entity) continue;
    for (const survey::Region& r : document().survey->regions) {
      if (r.id != e.region || !r.fit) continue;
      QString words = core_word(fit::kind_name(r.fit->surface.kind));
      for (const fit::SizeInfo& size : fit::about(r.fit->surface.kind).size_list()) {
        const double said = size.said(r.fit->surface);
        const double u = size.said_u(*r.fit);
        words += QStringLiteral(", ") + QString::fromUtf8(size.symbol) + QLatin1Char(' ') +
                 QString::fromStdString(size.unit == fit::SizeInfo::Unit::Angle
                                            ? quantity_reading(standards::Quantity::Angle, said, u)
                                            : length_reading(said, u));
      }
      return tr("\nrests on region %1: %2").arg(r.id).arg(words);
    }
  }
  return {};
}

void SketchTool::describe() {
  if (!fitted_) return setEvidence(tr("fitting to the section \u2026"));
  if (!*fitted_) return setError(core_text(fitted_->error().message));
  QStringList names;
  for (const sketch::Id id : picked_)
    names << QString::fromStdString(sketch::name_of(traced_.sketch, id));
  const auto drift = sketch::measure_drift(traced_.sketch, traced_.section, options_reach());
  const auto& solution = (*fitted_)->solution;
  if (solution.state == sketch::State::Clashing) {
    QStringList clashing;
    for (const sketch::Id id : solution.clashing) {
      const auto* c = traced_.sketch.find_constraint(id);
      if (c != nullptr) clashing << core_text(sketch::describe(traced_.sketch, *c));
    }
    return setError(tr("These contradict each other: %1. Delete or lift one of them.")
                        .arg(clashing.join(QStringLiteral(", "))));
  }
  QString text =
      (solution.state == sketch::State::Held ? tr("held") : tr("loose %1").arg(solution.freedoms)) +
      tr(" \u00b7 RMS %1 \u00b7 greatest %2")
          .arg(length_shown((*fitted_)->rms), length_shown(std::abs(drift.greatest)));
  const WhiskerScale whiskers = whisker_scale(drift, traced_.section);
  if (!drift.whiskers.empty()) text += tr(" \u00b7 whiskers \u00d7 %1").arg(whiskers.gain);
  text += QLatin1Char('\n') +
          (pen_.on()              ? pen_.hint()
           : !changing_.isEmpty() ? modeHint()
           : names.isEmpty() ? tr("Click lines, arcs or points to pick; drag a point to move it.")
                             : tr("picked: ") + names.join(QStringLiteral(", ")));
  if (!(*fitted_)->settled) text += tr("\nnot settled: the sketch still moves on its section");
  if (picked_.size() == 1) text += restsOn(picked_.front(), drift);
  if (!said_.isEmpty()) text += QLatin1Char('\n') + said_;
  setEvidence(text);
}

}  // namespace lostline::app
