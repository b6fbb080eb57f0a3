#include "panels/evidence_panel.h"

#include <QAction>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QMenu>
#include <QPainter>
#include <QScrollBar>
#include <QSettings>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "look/preferences.h"
#include "look/theme.h"
#include "project/bodies.h"
#include "project/fits.h"

namespace lostline::app {
namespace {

using Kind = Item::Kind;

constexpr int kKind = Qt::UserRole;
constexpr int kId = Qt::UserRole + 1;
constexpr int kKey = Qt::UserRole + 2;
constexpr int kSort = Qt::UserRole + 3;
constexpr int kName = Qt::UserRole + 4;
constexpr int kRemoves = Qt::UserRole + 5;
enum Column { kWhat, kSize, kForm, kState, kArea, kColumns };

/// A row that is sorted by its numbers where it has some.
class Line : public QTreeWidgetItem {
 public:
  using QTreeWidgetItem::QTreeWidgetItem;
  bool operator<(const QTreeWidgetItem& other) const override {
    const int column = treeWidget() != nullptr ? treeWidget()->sortColumn() : 0;
    const QVariant a = data(column, kSort);
    const QVariant b = other.data(column, kSort);
    if (a.isValid() && b.isValid()) return a.toDouble() < b.toDouble();
    return text(column).localeAwareCompare(other.text(column)) < 0;
  }
};

/// Can be told that its rows are placed later, all at once: else each group that unfolds places
/// them anew.
class Tree : public QTreeWidget {
 public:
  void placeLater() { scheduleDelayedItemsLayout(); }
};

/// A name goes on over the size's column where there is no size: names of datums and sketches are
/// long and have none.
class NameDelegate : public QStyledItemDelegate {
 public:
  explicit NameDelegate(QTreeWidget& tree) : QStyledItemDelegate(&tree), tree_(tree) {}
  void paint(QPainter* painter, const QStyleOptionViewItem& option,
             const QModelIndex& index) const override {
    QStyledItemDelegate::paint(painter, option, index);
    if (index.column() != kSize || !goes_on(index)) return;
    // Its own background has covered the rest of the name.
    const QModelIndex name = index.siblingAtColumn(kWhat);
    QStyleOptionViewItem whole = option;
    whole.rect = tree_.visualRect(name);
    initStyleOption(&whole, name);
    const QRect room = text_rect(whole).adjusted(0, 0, option.rect.width(), 0);
    painter->save();
    painter->setClipRect(option.rect);
    painter->setFont(whole.font);
    const bool chosen = (option.state & QStyle::State_Selected) != 0;
    painter->setPen(whole.palette.color(chosen ? QPalette::HighlightedText : QPalette::Text));
    painter->drawText(room, static_cast<int>(Qt::AlignLeft | Qt::AlignVCenter), whole.text);
    painter->restore();
  }

 protected:
  void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override {
    QStyledItemDelegate::initStyleOption(option, index);
    if (index.column() != kWhat || !goes_on(index)) return;
    const int room = text_rect(*option).width() + tree_.columnWidth(kSize);
    option->text = option->fontMetrics.elidedText(option->text, Qt::ElideRight, room);
    option->textElideMode = Qt::ElideNone;
  }

 private:
  [[nodiscard]] static bool goes_on(const QModelIndex& index) {
    return index.siblingAtColumn(kSize).data().toString().isEmpty();
  }
  [[nodiscard]] QRect text_rect(const QStyleOptionViewItem& option) const {
    const QStyle& style = *tree_.style();
    const int margin = style.pixelMetric(QStyle::PM_FocusFrameHMargin, nullptr, &tree_) + 1;
    return style.subElementRect(QStyle::SE_ItemViewItemText, &option, &tree_)
        .adjusted(margin, 0, 0, 0);
  }
  QTreeWidget& tree_;
};

Item item_of(const QTreeWidgetItem* row) {
  return {static_cast<Kind>(row->data(0, kKind).toInt()), row->data(0, kId).toULongLong(),
          row->data(0, kName).toString().toStdString()};
}

}  // namespace

EvidencePanel::EvidencePanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      aside_(session),
      tree_(new Tree),
      words_(new QLineEdit),
      grouping_(new QComboBox) {
  setObjectName(QStringLiteral("page"));
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(4, 4, 0, 2);
  layout->setSpacing(3);
  auto* head = new QHBoxLayout;
  auto* heading = new QLabel(tr("Evidence"));
  heading->setObjectName(QStringLiteral("heading"));
  words_->setObjectName(QStringLiteral("evidenceFilter"));
  words_->setPlaceholderText(tr("narrow"));
  words_->setAccessibleName(tr("Narrow the evidence"));
  words_->setToolTip(
      tr("Rows with all these words: \u201cplane machined\u201d, \u201c"
         "13.5\u201d"));
  words_->setClearButtonEnabled(true);
  grouping_->setObjectName(QStringLiteral("evidenceGrouping"));
  grouping_->setAccessibleName(tr("Group regions"));
  grouping_->setToolTip(tr("How the regions are grouped"));
  grouping_->addItems({tr("by kind"), tr("by surface"), tr("by pattern")});
  head->addWidget(heading);
  head->addWidget(words_, 1);
  head->addWidget(grouping_);
  layout->addLayout(head);
  narrowed_ = new QPushButton(tr("only what suits the input \u00b7 show all"));
  narrowed_->setObjectName(QStringLiteral("quietButton"));
  narrowed_->setAccessibleName(tr("Show all evidence again"));
  narrowed_->setToolTip(
      tr("The card waits for a pick: only regions and fits that it takes are listed"));
  narrowed_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  narrowed_->hide();
  layout->addWidget(narrowed_);
  connect(narrowed_, &QPushButton::clicked, this, [this] { setWanted({}); });
  tree_->setObjectName(QStringLiteral("evidence"));
  tree_->setColumnCount(kColumns);
  tree_->setHeaderLabels({tr("what"), tr("size"), tr("form"), tr("state"), tr("area")});
  tree_->headerItem()->setToolTip(kForm, tr("Form error"));
  tree_->setIndentation(8);
  tree_->setUniformRowHeights(true);
  tree_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  tree_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  tree_->setSortingEnabled(true);
  tree_->sortByColumn(-1, Qt::AscendingOrder);  // in the order of work, until a head is clicked
  QHeaderView* header = tree_->header();
  header->setStretchLastSection(false);
  header->setMinimumSectionSize(30);
  header->setSectionResizeMode(QHeaderView::ResizeToContents);
  header->setSectionResizeMode(kWhat, QHeaderView::Stretch);
  tree_->setItemDelegate(new NameDelegate(*tree_));
  header->setContextMenuPolicy(Qt::CustomContextMenu);
  for (int c = kSize; c < kColumns; ++c) {
    tree_->headerItem()->setTextAlignment(c, Qt::AlignRight | Qt::AlignVCenter);
    tree_->setColumnHidden(
        c, !QSettings().value(QStringLiteral("evidence/column%1").arg(c), c != kArea).toBool());
  }
  tree_->setAccessibleName(tr("Evidence"));
  empty_ = new QLabel(
      tr("Scans, regions, fits and sections will be listed here. Open a scan to begin."));
  empty_->setObjectName(QStringLiteral("empty"));
  empty_->setWordWrap(true);
  empty_->setAlignment(Qt::AlignTop);
  layout->addWidget(empty_, 1);
  layout->addWidget(tree_, 1);
  connect(&session_, &Session::changed, this, &EvidencePanel::rebuild);
  connect(&session_, &Session::routeChanged, this, &EvidencePanel::rebuild);
  connect(words_, &QLineEdit::textChanged, this, &EvidencePanel::filter);
  connect(grouping_, &QComboBox::currentIndexChanged, this, &EvidencePanel::rebuild);
  connect(header, &QWidget::customContextMenuRequested, this, &EvidencePanel::showColumnMenu);
  connect(tree_, &QTreeWidget::itemClicked, this,
          [this](QTreeWidgetItem* item) { Q_EMIT chosen(chosenItems(), item_of(item)); });
  connect(&session_.selection(), &Selection::changed, this, &EvidencePanel::showSelection);
  tree_->setMouseTracking(true);
  tree_->viewport()->installEventFilter(this);
  connect(tree_, &QTreeWidget::itemEntered, this,
          [this](QTreeWidgetItem* item) { Q_EMIT rowHovered(item_of(item).ref()); });
  connect(tree_, &QTreeWidget::itemActivated, this,
          [this](QTreeWidgetItem* item) { Q_EMIT opened(item_of(item)); });
  connect(tree_, &QTreeWidget::itemChanged, this, &EvidencePanel::renamed);
  connect(tree_, &QTreeWidget::itemCollapsed, this,
          [this](QTreeWidgetItem* item) { folded_.insert(item->data(0, kKey).toString()); });
  connect(tree_, &QTreeWidget::itemExpanded, this,
          [this](QTreeWidgetItem* item) { folded_.erase(item->data(0, kKey).toString()); });
  tree_->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(tree_, &QTreeWidget::customContextMenuRequested, this, &EvidencePanel::showMenu);
  auto* rename = new QAction(tr("Rename"), this);
  rename->setShortcut(Qt::Key_F2);
  rename->setShortcutContext(Qt::WidgetWithChildrenShortcut);
  tree_->addAction(rename);
  // The name alone, whatever column was clicked.
  connect(rename, &QAction::triggered, this, [this] {
    QTreeWidgetItem* item = tree_->currentItem();
    if (item != nullptr && (item->flags() & Qt::ItemIsEditable) != 0) tree_->editItem(item, kWhat);
  });
  auto* remove = new QAction(tr("Remove"), this);
  remove->setShortcut(QKeySequence::Delete);
  remove->setShortcutContext(Qt::WidgetWithChildrenShortcut);
  tree_->addAction(remove);
  connect(remove, &QAction::triggered, this, &EvidencePanel::removeSelected);
  rebuild();
}

std::vector<Item> EvidencePanel::chosenItems() const {
  std::vector<Item> items;
  for (QTreeWidgetItemIterator it(tree_, QTreeWidgetItemIterator::Selected); *it != nullptr; ++it) {
    const std::function<void(const QTreeWidgetItem*)> take = [&](const QTreeWidgetItem* row) {
      const Item item = item_of(row);
      const bool known = std::find(items.begin(), items.end(), item) != items.end();
      if (item.kind != Kind::None && !known) items.push_back(item);
      if (item.kind != Kind::None) return;
      for (int i = 0; i < row->childCount(); ++i) take(row->child(i));
    };
    take(*it);
  }
  return items;
}

void EvidencePanel::showSelection() {
  const Selection& selection = session_.selection();
  const std::vector<Item> here = chosenItems();
  if (here == selection.items()) return;
  const QSignalBlocker block(tree_);
  tree_->clearSelection();
  QTreeWidgetItem* first = nullptr;
  for (QTreeWidgetItemIterator it(tree_); *it != nullptr; ++it) {
    const Item item = item_of(*it);
    if (item.kind == Kind::None || !selection.has(item)) continue;
    (*it)->setSelected(true);
    if (first == nullptr) first = *it;
  }
  if (first != nullptr) tree_->scrollToItem(first);
  tree_->viewport()->update();
}

void EvidencePanel::setWanted(Wanted wanted) {
  wanted_ = std::move(wanted);
  narrowed_->setVisible(static_cast<bool>(wanted_));
  filter();
}

void EvidencePanel::showHovered(std::uint32_t region) {
  if (region == hovered_) return;
  const QSignalBlocker block(tree_);
  for (QTreeWidgetItemIterator it(tree_); *it != nullptr; ++it) {
    const std::uint32_t id = item_of(*it).ref().region;
    if (id == 0 || (id != region && id != hovered_)) continue;
    (*it)->setBackground(kWhat, id == region ? QBrush(role::marked) : QBrush());
  }
  hovered_ = region;
}

bool EvidencePanel::eventFilter(QObject* object, QEvent* event) {
  if (event->type() == QEvent::Leave) Q_EMIT rowHovered({});
  return QWidget::eventFilter(object, event);
}

void EvidencePanel::rebuild() {
  const project::Document& d = session_.document();
  empty_->setVisible(!d.scan);
  tree_->setVisible(d.scan != nullptr);
  words_->setVisible(d.scan != nullptr);
  grouping_->setVisible(d.survey != nullptr);
  if (!d.scan) return tree_->clear();
  // Off the interface's thread: sketches are solved and planes measured for it.
  aside_.run([this, document = session_.snapshot(), route = session_.route(), extents = extents_,
              grouping = static_cast<Grouping>(grouping_->currentIndex())](
                 const Task&) mutable -> Session::Finish {
    if (extents.survey != document->survey) extents = measure_extents(*document);
    auto rows = evidence_rows(*document, *route, extents, grouping);
    return [this, extents, rows = std::move(rows)] {
      extents_ = extents;
      fill(rows);
    };
  });
}

void EvidencePanel::fill(const std::vector<EvidenceRow>& rows) {
  const QSignalBlocker block(tree_);
  const int scrolled = tree_->verticalScrollBar()->value();
  tree_->setUpdatesEnabled(false);
  tree_->setSortingEnabled(false);
  tree_->clear();
  for (const EvidenceRow& row : rows) add(tree_->invisibleRootItem(), row);
  static_cast<Tree*>(tree_)->placeLater();
  QItemSelection selected;
  for (QTreeWidgetItemIterator it(tree_); *it != nullptr; ++it) {
    if ((*it)->childCount() > 0)
      (*it)->setExpanded(!folded_.contains((*it)->data(0, kKey).toString()));
    if (!session_.selection().has(item_of(*it))) continue;
    const QModelIndex row = tree_->indexFromItem(*it);
    selected.select(row, row.siblingAtColumn(kColumns - 1));
  }
  tree_->selectionModel()->select(selected, QItemSelectionModel::Select);
  tree_->setSortingEnabled(true);
  filter();
  tree_->setUpdatesEnabled(true);
  tree_->verticalScrollBar()->setValue(scrolled);
}

void EvidencePanel::add(QTreeWidgetItem* parent, const EvidenceRow& row) {
  auto* item = new Line(parent);
  item->setData(0, kKind, static_cast<int>(row.item.kind));
  item->setData(0, kId, static_cast<qulonglong>(row.item.id));
  item->setData(0, kName, QString::fromStdString(row.item.name));
  item->setData(0, kRemoves, row.removes);
  item->setData(0, kKey, row.key);
  item->setText(kWhat, row.what);
  item->setText(kSize, row.size);
  item->setText(kState, row.visibility == project::Visibility::Hidden        ? tr("hidden")
                        : row.visibility == project::Visibility::Translucent ? tr("translucent")
                                                                             : row.state);
  if (row.form >= 0) {
    item->setText(kForm, length_shown(row.form, 3));
    item->setData(kForm, kSort, row.form);
  }
  if (row.area >= 0) {
    item->setText(kArea, area_text(row.area, 0));
    item->setData(kArea, kSort, row.area);
  }
  for (int c = 0; c < kColumns; ++c) {
    item->setToolTip(c, row.tip);
    if (c == kWhat) continue;
    item->setTextAlignment(c, Qt::AlignRight | Qt::AlignVCenter);
    item->setForeground(c, row.wrong && c == kState ? role::red_pencil : role::graphite);
  }
  if (!row.children.empty() || row.item.kind == Kind::None) {
    if (!row.state.isEmpty()) item->setText(kWhat, row.what + QStringLiteral("  ") + row.state);
    item->setFont(kWhat, body_font(12, parent == tree_->invisibleRootItem()));
    item->setFirstColumnSpanned(true);
  }
  if (row.renames) item->setFlags(item->flags() | Qt::ItemIsEditable);
  for (const EvidenceRow& child : row.children) add(item, child);
}

void EvidencePanel::filter() {
  const QStringList words = words_->text().split(QLatin1Char(' '), Qt::SkipEmptyParts);
  const std::function<bool(QTreeWidgetItem*, const QString&)> narrow = [&](QTreeWidgetItem* item,
                                                                           const QString& above) {
    QString text = above + QLatin1Char(' ') + item->text(kWhat) + QLatin1Char(' ') +
                   item->text(kSize) + QLatin1Char(' ') + item->text(kState);
    bool shown = std::all_of(words.begin(), words.end(), [&](const QString& word) {
      return text.contains(word, Qt::CaseInsensitive);
    });
    if (wanted_ && item->childCount() == 0) {
      const project::FitRef ref = item_of(item).ref();
      const fit::SurfaceFit* fit = ref.empty() ? nullptr : session_.document().fit_of(ref);
      shown = shown && fit != nullptr && wanted_(*fit);
    }
    if (item->childCount() > 0) {
      shown = false;
      for (int i = 0; i < item->childCount(); ++i) shown = narrow(item->child(i), text) || shown;
    }
    item->setHidden(!shown && (wanted_ || !words.isEmpty()));
    return shown;
  };
  for (int i = 0; i < tree_->topLevelItemCount(); ++i) narrow(tree_->topLevelItem(i), {});
}

void EvidencePanel::renamed(QTreeWidgetItem* item) {
  // The symbol before the name is not part of it.
  QString name = item->text(kWhat).trimmed();
  const Item what = item_of(item);
  if (what.kind == Kind::Fit && name.size() > 1 && !name.front().isLetterOrNumber())
    name = name.mid(1).trimmed();
  const std::string text = name.toStdString();
  using Renamed = Result<project::Document>;
  Session::Edit edit;
  if (what.kind == Kind::Fit)
    edit = [id = what.id, text](const project::Document& d) -> Renamed {
      return project::rename_fit(d, id, text);
    };
  if (what.kind == Kind::Sketch)
    edit = [id = what.id, text](const project::Document& d) -> Renamed {
      return project::rename_sketch(d, id, text);
    };
  const model::Model& solid = session_.route()->solid;
  if (const auto body = what.kind == Kind::Body ? solid.find_body(what.name) : std::nullopt)
    edit = [body = solid.body(*body), text](const project::Document& d) -> Renamed {
      project::BodyLook look = project::look_of(d, body);
      look.name = text;
      return project::with_body_look(d, body.key, look);
    };
  if (!edit) return;
  session_.edit(tr("rename %1").arg(name), std::move(edit), [this](const Error* error) {
    if (error == nullptr) return;
    session_.report(*error);
    rebuild();
  });
}

void EvidencePanel::removeSelected() {
  std::vector<Item> gone;
  QStringList names;
  for (const QTreeWidgetItem* item : tree_->selectedItems()) {
    if (!item->data(0, kRemoves).toBool()) continue;
    gone.push_back(item_of(item));
    names << item->text(kWhat).trimmed();
  }
  if (gone.empty()) {
    if (tree_->selectedItems().isEmpty()) return;
    return session_.report({ErrorCode::InvalidInput,
                            "Only fits, sketches and scans beside can be removed here. Regions are "
                            "changed by Repaint, steps in the Route."});
  }
  // Scans by their place: the last first, so that the others keep theirs.
  std::sort(gone.begin(), gone.end(), [](const Item& a, const Item& b) { return a.id > b.id; });
  session_.edit(
      tr("remove %1").arg(names.join(QStringLiteral(", "))),
      [gone](const project::Document& document) -> Result<project::Document> {
        Result<project::Document> next = document;
        for (const Item& g : gone) {
          if (!next) return next;
          next = g.kind == Kind::Fit ? project::remove_fit(*next, g.id)
                 : g.kind == Kind::Sketch
                     ? project::remove_sketch(*next, g.id)
                     : project::remove_other_scan(*next, static_cast<std::size_t>(g.id));
        }
        return next;
      },
      [this, names](const Error* error) {
        if (error != nullptr) return session_.report(*error);
        Q_EMIT session_.said(tr("removed %1").arg(names.join(QStringLiteral(", "))));
      });
}

void EvidencePanel::showMenu(const QPoint& at) {
  QTreeWidgetItem* item = tree_->itemAt(at);
  if (item == nullptr) return;
  session_.selection().set(chosenItems());  // the right button chooses rows too
  QMenu menu(this);
  Q_EMIT menuWanted(&menu);
  if (item_of(item).kind == Kind::OtherScan) addScanActions(menu, *item);
  if ((item->flags() & Qt::ItemIsEditable) != 0)
    menu.addAction(tr("Rename\tF2"), this, [this, item] { tree_->editItem(item, kWhat); });
  if (item->data(0, kRemoves).toBool())
    menu.addAction(tr("Remove\tDel"), this, &EvidencePanel::removeSelected);
  if (!menu.isEmpty()) menu.exec(tree_->viewport()->mapToGlobal(at));
}

void EvidencePanel::addScanActions(QMenu& menu, const QTreeWidgetItem& item) {
  const auto place = static_cast<std::size_t>(item_of(&item).id);
  const QString name = item.text(kWhat);
  menu.addAction(tr("Work on %1").arg(name), this, [this, place, name] {
    session_.edit(tr("work on %1").arg(name),
                  [place](const project::Document& d) { return project::work_on_scan(d, place); });
  });
  menu.addAction(tr("Join %1 to the scan worked on").arg(name), this, [this, place, name] {
    session_.edit(tr("join %1").arg(name),
                  [place](const project::Document& d) { return project::join_scan(d, place); });
  });
}

void EvidencePanel::showColumnMenu(const QPoint& at) {
  QMenu menu(this);
  for (int c = kSize; c < kColumns; ++c) {
    QAction* action = menu.addAction(tree_->headerItem()->text(c));
    action->setCheckable(true);
    action->setChecked(!tree_->isColumnHidden(c));
    connect(action, &QAction::toggled, this, [this, c](bool on) {
      tree_->setColumnHidden(c, !on);
      QSettings().setValue(QStringLiteral("evidence/column%1").arg(c), on);
    });
  }
  menu.addAction(tr("In the order of work"), this,
                 [this] { tree_->sortByColumn(-1, Qt::AscendingOrder), rebuild(); });
  menu.exec(tree_->header()->mapToGlobal(at));
}

}  // namespace lostline::app
