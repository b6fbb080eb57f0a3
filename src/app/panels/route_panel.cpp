#include "panels/route_panel.h"

#include <QAction>
#include <QDropEvent>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QMenu>
#include <QPainter>
#include <QPainterPath>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <functional>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "panels/panel_head.h"

namespace lostline::app {
namespace {

constexpr int kStepId = Qt::UserRole;
constexpr int kNumber = Qt::UserRole + 1;
constexpr int kDetail = Qt::UserRole + 2;
constexpr int kStepState = Qt::UserRole + 3;
constexpr int kInsertion = Qt::UserRole + 4;
constexpr int kGroup = Qt::UserRole + 5;  ///< first step of the group that a line is of; 0: none
constexpr int kPlace = Qt::UserRole + 6;  ///< of a step in the Route; of a group's first step
constexpr int kCount = Qt::UserRole + 7;  ///< steps of the group that this line heads; 0: a step
constexpr int kFolded = Qt::UserRole + 8;

/// So many steps of one kind in a row are a group.
constexpr std::size_t kFewest = 3;

QString capital(const QString& text) { return text.left(1).toUpper() + text.mid(1); }

QString values_of(const project::Document& d, const model::Step& step) {
  QStringList parts;
  for (const project::Dimension& row : d.dimensions) {
    if (row.owner.step != step.id) continue;
    const QString unit =
        row.quantity == standards::Quantity::Angle ? QStringLiteral("\u00b0") : QString();
    const QString prefix = row.quantity == standards::Quantity::Diameter ? QStringLiteral("\u2300 ")
                           : row.quantity == standards::Quantity::Radius ? QStringLiteral("R ")
                           : row.owner.field == "draft"                  ? QObject::tr("draft ")
                           : row.owner.field == "leg"                    ? QObject::tr("leg ")
                                                                         : QString();
    parts << prefix +
                 QString::fromStdString(
                     quantity_trimmed(row.quantity, row.value(), row.intent ? 4 : 2)) +
                 unit;
  }
  return parts.join(QStringLiteral(", "));
}

/// Steps that are dragged to another place.
class StepList : public QListWidget {
 public:
  /// Of a step, from its place in the Route to another.
  std::function<void(int from, int to)> moved;
  std::function<void(const QListWidgetItem*)> folded;
  StepList() {
    setDragDropMode(QAbstractItemView::InternalMove);
    setDefaultDropAction(Qt::MoveAction);
  }

 protected:
  void dropEvent(QDropEvent* event) override {
    // The document moves it; the list follows.
    event->setDropAction(Qt::IgnoreAction);
    event->accept();
    const QListWidgetItem* dragged = currentItem();
    if (dragged == nullptr || dragged->data(kCount).toInt() > 0) return;
    const int from = dragged->data(kPlace).toInt();
    // Into the gap that the mark shows: above or below the line under the pointer.
    const QListWidgetItem* under = itemAt(event->position().toPoint());
    int gap = 0;
    if (under == nullptr) {
      for (int i = 0; i < count(); ++i) gap += item(i)->data(kCount).toInt() == 0 ? 1 : 0;
    } else {
      gap = under->data(kPlace).toInt();
      if (dropIndicatorPosition() == QAbstractItemView::BelowItem) {
        const int head = under->data(kCount).toInt();
        gap += head == 0 ? 1 : under->data(kFolded).toBool() ? head : 0;
      }
    }
    const int to = gap > from ? gap - 1 : gap;
    if (to != from && moved) moved(from, to);
  }
  void keyPressEvent(QKeyEvent* event) override {
    const QListWidgetItem* line = currentItem();
    if (line != nullptr && line->data(kCount).toInt() > 0) {
      const bool shut = line->data(kFolded).toBool();
      if ((event->key() == Qt::Key_Left && !shut) || (event->key() == Qt::Key_Right && shut))
        return folded(line);
    }
    QListWidget::keyPressEvent(event);
  }
};

/// A step like a line of a shop routing sheet: number in a box, name, values, state.
class StepDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;
  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
    if (index.data(kCount).toInt() > 0) return {100, 24};
    if (index.data(kStepState).toString() != QLatin1String("broken")) return {100, 40};
    // The whole reason, where it is looked for.
    const auto* view = qobject_cast<const QAbstractItemView*>(parent());
    const int wide = (view != nullptr ? view->viewport()->width() : 250) - 50;
    const QRect text =
        QFontMetrics(body_font(11))
            .boundingRect(0, 0, wide, 1000, Qt::TextWordWrap, index.data(kDetail).toString());
    return {100, 28 + text.height()};
  }
  void paint(QPainter* painter, const QStyleOptionViewItem& option,
             const QModelIndex& index) const override {
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    const QRect r = option.rect;
    if (index.data(kCount).toInt() > 0) {
      paintHead(painter, option, index);
      return painter->restore();
    }
    if ((option.state & QStyle::State_Selected) != 0) painter->fillRect(r, role::chosen);
    const QString state = index.data(kStepState).toString();
    const bool broken = state == QLatin1String("broken");
    const bool parked = state == QLatin1String("parked");
    painter->setPen(QPen(role::graphite_light, 1));
    painter->drawLine(r.left() + 19, r.top() + (index.row() == 0 ? 10 : 0), r.left() + 19,
                      r.bottom());
    const QRectF box(r.left() + 4, r.top() + 5, 30, 18);
    painter->setPen(QPen(broken   ? role::red_pencil
                         : parked ? role::graphite_light
                                  : role::ink,
                         1.2));
    painter->setBrush(role::card);
    painter->drawRoundedRect(box, 2, 2);
    painter->setFont(body_font(11));
    painter->drawText(box, Qt::AlignCenter, index.data(kNumber).toString());
    painter->setPen(parked ? role::graphite : role::ink);
    painter->setFont(body_font(12));
    const QRectF text(r.left() + 42, r.top() + 4, r.width() - 120, 18);
    painter->drawText(text, Qt::AlignVCenter,
                      painter->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight,
                                                        static_cast<int>(text.width())));
    const bool sound = state == QLatin1String("sound");
    painter->setPen(sound ? role::moss : broken ? role::red_pencil : role::graphite);
    painter->drawText(QRectF(r.right() - 76, r.top() + 4, 70, 18),
                      Qt::AlignRight | Qt::AlignVCenter,
                      sound ? QStringLiteral("\u2713") : core_word(state.toUtf8().constData()));
    painter->setFont(body_font(11));
    const QRectF detail(r.left() + 42, r.top() + 21, r.width() - 50, broken ? r.height() - 22 : 16);
    if (broken) {
      painter->drawText(detail, Qt::TextWordWrap, index.data(kDetail).toString());
    } else {
      painter->setPen(role::graphite);
      painter->drawText(
          detail, Qt::AlignVCenter,
          painter->fontMetrics().elidedText(index.data(kDetail).toString(), Qt::ElideRight,
                                            static_cast<int>(detail.width())));
    }
    if (index.data(kInsertion).toBool()) {
      painter->setPen(QPen(role::red_pencil, 1.4));
      painter->drawLine(r.left() + 8, r.bottom(), r.right() - 8, r.bottom());
      painter->drawText(QRectF(r.right() - 96, r.bottom() - 15, 88, 14),
                        Qt::AlignRight | Qt::AlignVCenter, QObject::tr("new steps here"));
    }
    painter->restore();
  }

 private:
  /// The line over steps of one kind: folded or open, how many, and whether one of them is broken.
  static void paintHead(QPainter* painter, const QStyleOptionViewItem& option,
                        const QModelIndex& index) {
    const QRect r = option.rect;
    if ((option.state & QStyle::State_Selected) != 0) painter->fillRect(r, role::chosen);
    painter->setPen(QPen(role::graphite_light, 1));
    painter->drawLine(r.left() + 19, r.top() + (index.row() == 0 ? 10 : 0), r.left() + 19,
                      r.bottom());
    const QPointF middle(r.left() + 19, r.center().y() + 0.5);
    painter->setBrush(role::paper);
    painter->setPen(QPen(role::graphite, 1.2));
    painter->drawRect(QRectF(middle - QPointF(5, 5), QSizeF(10, 10)));
    painter->drawLine(middle - QPointF(2.5, 0), middle + QPointF(2.5, 0));
    if (index.data(kFolded).toBool())
      painter->drawLine(middle - QPointF(0, 2.5), middle + QPointF(0, 2.5));
    painter->setFont(body_font(11, true));
    painter->setPen(role::ink);
    painter->drawText(QRectF(r.left() + 42, r.top(), r.width() - 130, r.height()), Qt::AlignVCenter,
                      index.data().toString());
    painter->setFont(body_font(11));
    const bool broken = index.data(kStepState).toString() == QLatin1String("broken");
    painter->setPen(broken ? role::red_pencil : role::graphite);
    painter->drawText(QRectF(r.right() - 96, r.top(), 90, r.height()),
                      Qt::AlignRight | Qt::AlignVCenter, index.data(kDetail).toString());
  }
};

}  // namespace

RoutePanel::RoutePanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      list_(new StepList),
      summary_(new QLabel),
      empty_(new QLabel) {
  setObjectName(QStringLiteral("page"));
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 8, 6, 4);
  layout->addLayout(panel_head(tr("Route"), summary_));
  empty_->setObjectName(QStringLiteral("empty"));
  empty_->setWordWrap(true);
  empty_->setText(
      tr("The steps that build the part will be listed here. Trace a sketch, then extrude it in "
         "Build."));
  empty_->setAlignment(Qt::AlignTop);
  layout->addWidget(empty_, 1);
  list_->setItemDelegate(new StepDelegate(list_));
  list_->setAccessibleName(tr("Route"));
  list_->setToolTip(
      tr("Double-click or Return to edit a step; drag it to another place; P parks it, I inserts "
         "after it, Ctrl+Up and "
         "Ctrl+Down move it, F2 renames it, Del removes it"));
  layout->addWidget(list_, 1);
  connect(&session_, &Session::changed, this, &RoutePanel::rebuild);
  connect(&session_, &Session::routeChanged, this, &RoutePanel::rebuild);
  connect(list_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    if (item->data(kCount).toInt() == 0) Q_EMIT stepOpened(item->data(kStepId).toULongLong());
  });
  connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
    if (item->data(kCount).toInt() > 0) return toggleGroup(item);
    Q_EMIT chosen({Item::Kind::Step, item->data(kStepId).toULongLong()});
  });
  connect(&session_.selection(), &Selection::changed, this, [this] {
    for (int i = 0; i < list_->count(); ++i) {
      const Item item{Item::Kind::Step, list_->item(i)->data(kStepId).toULongLong()};
      if (item.id == 0 || !session_.selection().has(item)) continue;
      // What is chosen elsewhere is not left out of sight.
      if (folded_.erase(list_->item(i)->data(kGroup).toULongLong()) > 0) showFolded();
      list_->setCurrentRow(i);
    }
  });
  const auto action = [&](const QString& name, const QKeySequence& key, auto slot) {
    auto* a = new QAction(name, this);
    a->setShortcut(key);
    a->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    list_->addAction(a);
    connect(a, &QAction::triggered, this, slot);
  };
  static_cast<StepList*>(list_)->moved = [this](int from, int to) {
    const auto& steps = session_.document().steps;
    const auto place = static_cast<std::size_t>(from);
    if (place >= steps.size()) return;
    session_.apply(
        tr("move step %1").arg(QString::fromStdString(steps[place].name)),
        project::move_step(session_.document(), steps[place].id, static_cast<std::size_t>(to)));
  };
  static_cast<StepList*>(list_)->folded = [this](const QListWidgetItem* l) { toggleGroup(l); };
  list_->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(list_, &QWidget::customContextMenuRequested, this, [this](const QPoint& at) {
    const QListWidgetItem* item = list_->itemAt(at);
    if (item == nullptr || item->data(kCount).toInt() > 0) return;
    // Chosen for the menu only: it is no pick for a card that runs.
    session_.selection().set({{Item::Kind::Step, item->data(kStepId).toULongLong()}});
    QMenu menu(this);
    Q_EMIT menuWanted(&menu);
    menu.addActions(list_->actions());
    menu.exec(list_->viewport()->mapToGlobal(at));
  });
  action(tr("Edit"), {}, [this] {
    if (current() != 0) Q_EMIT stepOpened(current());
  });
  action(tr("Park or take up"), QKeySequence(Qt::Key_P), [this] {
    const model::Step* step = session_.document().find_step(current());
    if (step != nullptr)
      session_.commit(step->parked ? tr("take up %1").arg(QString::fromStdString(step->name))
                                   : tr("park %1").arg(QString::fromStdString(step->name)),
                      project::set_parked(session_.document(), step->id, !step->parked));
  });
  action(tr("Insert new steps after this one, or at the end"), QKeySequence(Qt::Key_I),
         [this] { session_.setInsertAfter(session_.insertAfter() == current() ? 0 : current()); });
  const auto move = [this](int by) {
    const auto& steps = session_.document().steps;
    for (std::size_t i = 0; i < steps.size(); ++i) {
      if (steps[i].id != current()) continue;
      if ((by < 0 && i == 0) || (by > 0 && i + 1 == steps.size())) return;
      session_.apply(tr("move step %1").arg(QString::fromStdString(steps[i].name)),
                     project::move_step(session_.document(), steps[i].id, by < 0 ? i - 1 : i + 1));
      return;
    }
  };
  action(tr("Earlier"), QKeySequence(Qt::CTRL | Qt::Key_Up), [move] { move(-1); });
  action(tr("Later"), QKeySequence(Qt::CTRL | Qt::Key_Down), [move] { move(1); });
  action(tr("Rename \u2026"), QKeySequence(Qt::Key_F2), [this] {
    const model::Step* step = session_.document().find_step(current());
    if (step == nullptr) return;
    bool good = false;
    const QString name =
        QInputDialog::getText(this, tr("Rename step %1").arg(step->number), tr("name"),
                              QLineEdit::Normal, QString::fromStdString(step->name), &good);
    if (good)
      session_.apply(tr("rename step"),
                     project::rename_step(session_.document(), step->id, name.toStdString()));
  });
  action(tr("Remove"), QKeySequence::Delete, [this] {
    const model::Step* step = session_.document().find_step(current());
    if (step != nullptr)
      session_.commit(tr("remove step %1").arg(QString::fromStdString(step->name)),
                      project::remove_step(session_.document(), step->id));
  });
  rebuild();
}

project::Id RoutePanel::current() const {
  return list_->currentItem() != nullptr ? list_->currentItem()->data(kStepId).toULongLong() : 0;
}

void RoutePanel::toggleGroup(const QListWidgetItem* line) {
  const project::Id group = line->data(kGroup).toULongLong();
  if (folded_.erase(group) == 0) folded_.insert(group);
  showFolded();
}

void RoutePanel::showFolded() {
  for (int i = 0; i < list_->count(); ++i) {
    QListWidgetItem* line = list_->item(i);
    const bool folded = folded_.contains(line->data(kGroup).toULongLong());
    const int head = line->data(kCount).toInt();
    if (head == 0) {
      line->setHidden(folded);
    } else {
      line->setData(kFolded, folded);
      line->setData(Qt::AccessibleDescriptionRole, folded ? tr("folded") : tr("open"));
    }
  }
}

void RoutePanel::rebuild() {
  const project::Id chosen = current();
  const project::Document& d = session_.document();
  const auto route = session_.route();
  list_->clear();
  int sound = 0;
  int broken = 0;
  std::size_t group_end = 0;
  QListWidgetItem* head = nullptr;
  int broken_in_group = 0;
  for (std::size_t i = 0; i < d.steps.size(); ++i) {
    const model::Step& step = d.steps[i];
    const QString kind = core_text(step.feature.words());
    if (i >= group_end) {
      head = nullptr;
      group_end = i + 1;
      while (group_end < d.steps.size() &&
             d.steps[group_end].feature.words() == step.feature.words())
        ++group_end;
      if (group_end - i >= kFewest) {
        head = new QListWidgetItem(tr("%1 \u00d7 %2").arg(group_end - i).arg(kind), list_);
        head->setData(kGroup, static_cast<qulonglong>(step.id));
        head->setData(kPlace, static_cast<int>(i));
        head->setData(kCount, static_cast<int>(group_end - i));
        head->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsDropEnabled);
        broken_in_group = 0;
      }
    }
    const QString name = QString::fromStdString(step.name);
    auto* item = new QListWidgetItem(
        // A step that still has its first name needs its kind said once only.
        name.startsWith(kind) ? capital(name) : capital(kind) + QLatin1Char(' ') + name, list_);
    item->setData(kStepId, static_cast<qulonglong>(step.id));
    item->setData(kPlace, static_cast<int>(i));
    if (head != nullptr) item->setData(kGroup, head->data(kGroup));
    item->setData(kNumber, step.number);
    model::StepState state = step.parked ? model::StepState::Parked : model::StepState::Stale;
    QString detail = values_of(d, step);
    if (i < route->steps.size() && route->steps.size() == d.steps.size()) {
      state = route->steps[i].state;
      if (state == model::StepState::Broken) detail = core_text(route->steps[i].reason);
    }
    sound += state == model::StepState::Sound;
    broken += state == model::StepState::Broken;
    if (head != nullptr && state == model::StepState::Broken) {
      head->setData(kStepState, QString::fromUtf8(model::state_name(state)));
      head->setData(kDetail, tr("%1 broken").arg(++broken_in_group));
    }
    item->setData(kStepState, QString::fromUtf8(model::state_name(state)));
    item->setData(kDetail, detail);
    item->setToolTip(detail);
    item->setData(Qt::AccessibleTextRole,
                  tr("step %1, %2, %3")
                      .arg(step.number)
                      .arg(item->text(), core_word(model::state_name(state))));
    item->setData(Qt::AccessibleDescriptionRole, detail);
    item->setData(kInsertion, step.id == session_.insertAfter());
    if (step.id == chosen) list_->setCurrentItem(item);
  }
  showFolded();
  summary_->setText(d.steps.empty()
                        ? QString()
                        : tr("%1 sound").arg(sound) +
                              (broken > 0 ? tr(" \u00b7 %1 broken").arg(broken) : QString()));
  empty_->setVisible(d.steps.empty());
  list_->setVisible(!d.steps.empty());
}

}  // namespace lostline::app
