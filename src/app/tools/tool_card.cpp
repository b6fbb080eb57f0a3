#include "tools/tool_card.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPointer>
#include <QVBoxLayout>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/progress.h"
#include "look/theme.h"
#include "tools/reference_field.h"

namespace lostline::app {
namespace {

constexpr int kLeastBody = 80;  // pixels of a card's inputs that show in a low window

}  // namespace

ToolCard::ToolCard(Workplace place, const QString& title, const QString& kind)
    : place_(place),
      scroll_(new QScrollArea),
      grid_(new QGridLayout),
      evidence_(new QLabel),
      progress_(new QProgressBar),
      aside_(place.session) {
  setObjectName(QStringLiteral("card"));
  setAccessibleName(title);
  setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(10, 8, 10, 8);
  layout->setSpacing(6);
  auto* head = new QHBoxLayout;
  auto* heading = new QLabel(title);
  heading->setObjectName(QStringLiteral("heading"));
  auto* step = new QLabel(kind);
  step->setObjectName(QStringLiteral("quiet"));
  head->addWidget(heading);
  head->addStretch();
  head->addWidget(step);
  layout->addLayout(head);
  auto* body = new QWidget;
  body->setObjectName(QStringLiteral("cardBody"));
  auto* inside = new QVBoxLayout(body);
  inside->setContentsMargins(0, 0, 2, 0);
  inside->setSpacing(6);
  grid_->setHorizontalSpacing(8);
  grid_->setVerticalSpacing(5);
  grid_->setColumnStretch(1, 1);
  inside->addLayout(grid_);
  evidence_->setObjectName(QStringLiteral("evidence"));
  evidence_->setWordWrap(true);
  evidence_->setStyleSheet(
      QStringLiteral("border-top: 1px solid %1; padding-top: 4px;").arg(role::rule.name()));
  inside->addWidget(evidence_);
  inside->addStretch();
  scroll_->setWidget(body);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll_->setFocusPolicy(Qt::NoFocus);
  scroll_->viewport()->setAutoFillBackground(false);
  scroll_->setMinimumHeight(kLeastBody);
  layout->addWidget(scroll_, 1);
  progress_->setRange(0, 100);
  progress_->setTextVisible(false);
  progress_->setFixedHeight(4);
  progress_->setAccessibleName(tr("Progress; Discard stops it"));
  progress_->hide();
  layout->addWidget(progress_);
  auto* buttons = new QHBoxLayout;
  discard_ = new QPushButton(tr("Discard  Esc"));
  discard_->setAccessibleName(tr("Discard"));
  discard_->setToolTip(tr("Close without a change (Esc)"));
  keep_ = new QPushButton(tr("Keep  \u23ce"));
  keep_->setObjectName(QStringLiteral("keep"));
  keep_->setAccessibleName(tr("Keep"));
  keep_->setToolTip(tr("Keep the result (Return)"));
  buttons->addWidget(discard_);
  buttons->addWidget(keep_, 1);
  layout->addLayout(buttons);
  connect(discard_, &QPushButton::clicked, this, &ToolCard::close);
  connect(keep_, &QPushButton::clicked, this, &ToolCard::tryKeep);
  connect(&aside_, &Aside::progressed, this, [this](double share) {
    if (!progress_->isVisible()) {
      progress_->show();
      settleHeight();
    }
    show_progress(*progress_, share);
  });
  connect(&aside_, &Aside::settled, this, [this] {
    if (progress_->isVisible()) {
      progress_->hide();
      settleHeight();
    }
    if (std::exchange(keep_when_settled_, false)) tryKeep();
  });
}

void ToolCard::take(const Item& item) {
  if (!item.ref().empty()) return pickRef(item.ref());
  const auto route = place_.session.route();
  Pick pick;
  pick.what = Pick::What::Model;
  if (item.kind == Item::Kind::Edge && route->tessellation) {
    for (const auto& line : route->tessellation->edges) {
      if (line.edge != item.id || line.points.empty()) continue;
      pick.edge = line.edge;
      pick.point = line.points[line.points.size() / 2];
      return this->pick(pick);
    }
    return;
  }
  std::optional<std::size_t> face;
  if (item.kind == Item::Kind::Face) face = route->solid.find_face(item.name);
  if (const auto body =
          item.kind == Item::Kind::Body ? route->solid.find_body(item.name) : std::nullopt) {
    for (std::size_t f = 0; f < route->solid.face_count() && !face; ++f) {
      if (route->solid.body_of_face(f) == *body) face = f;
    }
  }
  if (!face || !route->tessellation) return;
  pick.face = static_cast<std::uint32_t>(*face);
  const scan::Mesh& mesh = route->tessellation->mesh;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    if (route->tessellation->triangle_face[t] != pick.face) continue;
    pick.point = mesh.centroid(t);
    break;
  }
  pick.screen = place_.bench.camera().toScreen(pick.point);
  this->pick(pick);
}

std::function<bool(const fit::SurfaceFit&)> ToolCard::wanted() const {
  // Who asks may outlive the card: lists are filled anew later than it closes.
  const auto asks = [](const auto* field) {
    return [field = QPointer(field)](const fit::SurfaceFit& fit) {
      return field == nullptr || field->takes(fit);
    };
  };
  for (const PickField* field : findChildren<PickField*>()) {
    if (field->waiting() && !field->isHidden()) return asks(field);
  }
  for (const ReferenceField* field : findChildren<ReferenceField*>()) {
    if (field->waiting()) return asks(field);
  }
  return {};
}

void ToolCard::tryKeep() {
  if (entered()) return;
  if (aside_.running()) {
    keep_when_settled_ = true;
    return;
  }
  if (keep_->isEnabled() && keep()) close();
}

void ToolCard::setKeepEnabled(bool on) {
  keep_->setEnabled(on);
  if (on || !aside_.wanted()) return;
  aside_.drop();
  // Asked anew in the same act, the progress stays and so does a Return pressed meanwhile.
  QTimer::singleShot(0, this, [this] {
    if (aside_.wanted()) return;
    keep_when_settled_ = false;
    progress_->hide();
    settleHeight();
  });
}

void ToolCard::aside(Session::Work work) {
  keep_->setEnabled(false);
  aside_.run(std::move(work));
}

void ToolCard::commitAside(const QString& name, Session::Edit edit, std::function<void()> kept) {
  keep_->setEnabled(false);
  keeping_ = true;
  const QPointer<ToolCard> self(this);
  Session& session = place_.session;
  session.edit(name, std::move(edit), [self, &session, kept](const Error* error) {
    if (!self || self->closed_) {  // closed meanwhile: an error still has to be seen
      if (error != nullptr) session.report(*error);
      return;
    }
    self->keeping_ = false;
    if (error != nullptr) {
      self->setError(core_text(error->message));
      self->keep_->setEnabled(true);
      return;
    }
    if (kept) kept();
    self->close();
  });
}

void ToolCard::close() {
  if (std::exchange(closed_, true)) return;
  aside_.drop();  // what it still computes would land on another's Bench
  // One that waits has nothing on the Bench: what is there is another's.
  if (!suspended_) clearBench();
  Q_EMIT finished();
}

void ToolCard::suspend() {
  suspended_ = true;
  aside_.drop();
  keep_when_settled_ = false;
  progress_->hide();
  clearBench();
  hide();
}

void ToolCard::clearBench() {
  place_.bench.setMarks({});
  place_.bench.setPoints({});
  place_.bench.setPreviewPlacement({});
  place_.bench.setGrid(false);
  place_.bench.setGuest({});
  place_.bench.setPreview({});
  place_.bench.setHandles({});
  place_.bench.setDrafting({});
  place_.bench.setField({});
  place_.bench.setRubber({});
  place_.bench.setSelection({});
  place_.bench.setModelSelection({});
  place_.bench.restoreView();
}

void ToolCard::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
    tryKeep();
  else if (event->key() == Qt::Key_Escape)
    close();
  else
    QFrame::keyPressEvent(event);
}

QLabel* ToolCard::addRow(const QString& label, QWidget* field) {
  auto* text = new QLabel(label);
  text->setBuddy(field);
  // A long entry of a list must not push the card wider than its column.
  if (auto* box = qobject_cast<QComboBox*>(field)) {
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(6);
  }
  if (field->accessibleName().isEmpty()) field->setAccessibleName(label);
  if (auto* pick = qobject_cast<PickField*>(field))
    connect(pick, &PickField::waitingChanged, this, &ToolCard::wantsOther);
  if (auto* reference = qobject_cast<ReferenceField*>(field))
    connect(reference, &ReferenceField::waitingChanged, this, &ToolCard::wantsOther);
  grid_->addWidget(text, row_, 0);
  grid_->addWidget(field, row_++, 1);
  return text;
}

void ToolCard::addWide(QWidget* widget) { grid_->addWidget(widget, row_++, 0, 1, 2); }

QPushButton* ToolCard::button(const Press& press) {
  auto* button = new QPushButton(press.text);
  button->setObjectName(press.name);
  button->setAccessibleName(press.text);
  button->setToolTip(press.tip);
  button->setStyleSheet(QStringLiteral("padding: 3px 6px;"));
  connect(button, &QPushButton::clicked, this, press.act);
  return button;
}

void ToolCard::addButtons(const std::vector<Press>& presses) {
  auto* line = new QWidget;
  auto* row = new QHBoxLayout(line);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  for (const Press& press : presses) row->addWidget(button(press));
  addWide(line);
}

void ToolCard::addCheckViews() {
  auto* check = new QComboBox;
  check->setObjectName(QStringLiteral("checkView"));
  check->addItems(
      {tr("free view"), tr("front, with grid"), tr("right, with grid"), tr("top, with grid")});
  check->setToolTip(tr("Principal views with straight grid lines, to judge parallelism"));
  addRow(tr("check"), check);
  connect(check, &QComboBox::currentIndexChanged, this, [this](int view) {
    place_.bench.setGrid(view > 0);
    constexpr int kViews[] = {0, 1, 4, 5};
    place_.bench.lookAlong(kViews[view]);
  });
}

void ToolCard::setEvidence(const QString& text) {
  evidence_->setStyleSheet(QStringLiteral("border-top: 1px solid %1; padding-top: 4px; color: %2;")
                               .arg(role::rule.name(), role::ink.name()));
  evidence_->setText(text);
  settleHeight();
}

void ToolCard::settleHeight() {
  scroll_->widget()->layout()->activate();
  updateGeometry();
  showBarWhereNeeded();
}

void ToolCard::showBarWhereNeeded() {
  // A bar makes the inputs narrower, so that texts wrap and need it: only where it is needed
  // without one.
  const bool fits = height() >= sizeHint().height();
  scroll_->setVerticalScrollBarPolicy(fits ? Qt::ScrollBarAlwaysOff : Qt::ScrollBarAsNeeded);
}

void ToolCard::resizeEvent(QResizeEvent* event) {
  QFrame::resizeEvent(event);
  // A wrapped text's height follows from the width.
  if (event->oldSize().width() != event->size().width()) updateGeometry();
  showBarWhereNeeded();
}

QSize ToolCard::sizeHint() const {
  // A wrapped text's height follows from the card's width.
  const QMargins edge = layout()->contentsMargins();
  const int inside = std::max(200, contentsRect().width() - edge.left() - edge.right());
  const QLayout* body = scroll_->widget()->layout();
  // The scroll area asks for either: the least height is told without regard to the width.
  const int wanted = std::max(body->hasHeightForWidth() ? body->totalHeightForWidth(inside) : 0,
                              body->totalMinimumSize().height());
  return {290, minimumSizeHint().height() - scroll_->minimumHeight() + wanted};
}

QSize ToolCard::minimumSizeHint() const {
  // The style sheet's border is none of the layout's.
  return {230, layout()->totalMinimumSize().height() + height() - contentsRect().height()};
}

void ToolCard::unitChanged() {
  for (LengthBox* box : findChildren<LengthBox*>()) box->setLength(box->isLength());
  for (QLabel* label : findChildren<QLabel*>()) {
    for (const char* end : {", mm", ", in"}) {
      if (label->text().endsWith(QLatin1String(end)))
        label->setText(label->text().chopped(2) + length_unit());
    }
  }
}

void ToolCard::setOnlyDone() {
  only_done_ = true;
  discard_->hide();
  setKeepText(tr("Done  \u23ce"));
  keep_->setToolTip(tr("Every act here is kept at once and can be undone (Return or Esc)"));
}

void ToolCard::setError(const QString& text) {
  evidence_->setStyleSheet(QStringLiteral("border-top: 1px solid %1; padding-top: 4px; color: %1;")
                               .arg(role::red_pencil.name()));
  evidence_->setText(text);
  settleHeight();
}

namespace {

template <class Box>
Box* prepared(Box* box, double value, double low, double high, double step, const QString& name) {
  box->setRange(low, high);
  box->setSingleStep(step);
  box->setValue(value);
  box->setAlignment(Qt::AlignRight);
  box->setButtonSymbols(QAbstractSpinBox::NoButtons);  // the arrow keys step
  box->setKeyboardTracking(false);
  box->setAccessibleName(name);
  box->setObjectName(name);
  box->setLocale(QLocale::c());
  return box;
}

}  // namespace

QDoubleSpinBox* ToolCard::number(double value, double low, double high, double step, int decimals,
                                 const QString& name) {
  auto* box = new QDoubleSpinBox;
  box->setDecimals(decimals);
  return prepared(box, value, low, high, step, name);
}

LengthBox* ToolCard::length(double value, double low, double high, double step, int decimals,
                            const QString& name) {
  return prepared(new LengthBox(decimals), value, low, high, step, name);
}

PickField::PickField(const QString& prompt, std::size_t most, const QString& name, Takes takes)
    : prompt_(prompt), most_(most), takes_(std::move(takes)) {
  setAccessibleName(name);
  setObjectName(name);
  tip_ = prompt + QObject::tr(" on the Bench or in Evidence; click here to pick again");
  setToolTip(tip_);
  setText(prompt);
}

void PickField::setWaiting(bool on) {
  if (waiting_ != on) {
    waiting_ = on;
    Q_EMIT waitingChanged();
  }
  setStyleSheet(
      on ? QStringLiteral("border: 1px solid %1; text-align: left;").arg(role::red_pencil.name())
         : QStringLiteral("text-align: left;"));
}

void PickField::offer(const project::FitRef& ref, const project::Document& document) {
  const fit::SurfaceFit* fit = document.fit_of(ref);
  if (fit == nullptr || !takes(*fit)) return;
  const auto same = std::find(refs_.begin(), refs_.end(), ref);
  if (same != refs_.end()) {
    refs_.erase(same);
  } else {
    if (full()) refs_.erase(refs_.begin());
    refs_.push_back(ref);
  }
  refresh(document);
}

void PickField::clear(const project::Document& document) { assign({}, document); }

bool PickField::prune(const project::Document& document) {
  const auto gone = std::erase_if(
      refs_, [&](const project::FitRef& ref) { return document.fit_of(ref) == nullptr; });
  refresh(document);
  return gone > 0;
}

void PickField::assign(std::vector<project::FitRef> refs, const project::Document& document) {
  refs_ = std::move(refs);
  refresh(document);
}

void PickField::refresh(const project::Document& document) {
  QStringList names;
  for (const auto& ref : refs_) names << QString::fromStdString(document.name_of(ref));
  // A card is narrow: of many the first stands for all, the tip names them.
  constexpr int kMost = 2;
  const QString all = names.join(QStringLiteral(", "));
  setText(names.isEmpty() ? prompt_
          : names.size() <= kMost
              ? all
              : QObject::tr("%1 and %n more", nullptr, static_cast<int>(names.size()) - 1)
                    .arg(names.front()));
  setToolTip((names.size() > kMost ? all + QLatin1Char('\n') : QString()) + tip_);
}

std::vector<std::uint32_t> regions_of(const std::vector<project::FitRef>& refs) {
  std::vector<std::uint32_t> regions;
  for (const auto& ref : refs) {
    if (ref.region != 0) regions.push_back(ref.region);
  }
  return regions;
}

}  // namespace lostline::app
