#include "panels/ledger_panel.h"

#include <QAction>
#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QMenu>
#include <QPushButton>
#include <QRegularExpression>
#include <QSettings>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "panels/elided_label.h"
#include "panels/ledger_model.h"
#include "panels/panel_head.h"
#include "project/formula.h"
#include "project/ledger.h"
#include "reading/region_reading.h"
#include "reading/row_nominals.h"

namespace lostline::app {

namespace {

/// The chosen row stays in sight when its candidates take room beneath.
class Rows : public QTableView {
 protected:
  void resizeEvent(QResizeEvent* event) override {
    const QRect row = visualRect(currentIndex());
    const bool seen = row.isValid() && row.top() >= 0 && row.bottom() <= event->oldSize().height();
    QTableView::resizeEvent(event);
    if (seen) scrollTo(currentIndex());
  }
};

}  // namespace

LedgerPanel::LedgerPanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      model_(new LedgerModel(session)),
      filter_(new LedgerFilter(*model_, this)),
      table_(new Rows),
      summary_(new QLabel),
      empty_(new QLabel),
      decide_(new QWidget) {
  setObjectName(QStringLiteral("page"));
  model_->setParent(this);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 8, 6, 4);
  layout->setSpacing(4);
  layout->addLayout(panel_head(tr("Ledger"), summary_));
  empty_->setObjectName(QStringLiteral("empty"));
  empty_->setWordWrap(true);
  empty_->setText(
      tr("Dimensions will be listed here with their reading and uncertainty. Dimension a sketch, "
         "build a step or measure between fits."));
  empty_->setAlignment(Qt::AlignTop);
  layout->addWidget(empty_, 1);
  find_ = new QWidget;
  auto* find_row = new QHBoxLayout(find_);
  find_row->setContentsMargins(0, 0, 0, 0);
  auto* words = new QLineEdit;
  words->setObjectName(QStringLiteral("ledgerSearch"));
  words->setPlaceholderText(tr("search"));
  words->setAccessibleName(tr("Search the Ledger"));
  words->setToolTip(tr("Rows with these words in name, evidence or reason"));
  words->setClearButtonEnabled(true);
  auto* state = new QComboBox;
  state->setObjectName(QStringLiteral("ledgerState"));
  state->setAccessibleName(tr("Rows shown"));
  state->addItems({tr("all"), tr("pencilled"), tr("inked"), tr("beyond U")});
  auto* certain = new QPushButton(tr("ink \u2026"));
  certain->setObjectName(QStringLiteral("inkCertain"));
  certain->setAccessibleName(tr("Ink all within U"));
  certain->setToolTip(tr("Propose a nominal for every pencilled row that has one within U"));
  find_row->addWidget(words, 1);
  find_row->addWidget(state);
  find_row->addWidget(certain);
  layout->addWidget(find_);
  connect(words, &QLineEdit::textChanged, this,
          [this](const QString& text) { filter_->setWords(text); });
  connect(state, &QComboBox::currentIndexChanged, this,
          [this](int index) { filter_->setState(static_cast<LedgerFilter::State>(index)); });
  connect(certain, &QPushButton::clicked, this, [this] { Q_EMIT inkingWanted(); });
  table_->setModel(filter_);
  table_->setSortingEnabled(true);
  table_->sortByColumn(-1, Qt::AscendingOrder);  // as they were made, until a head is clicked
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  table_->setShowGrid(false);
  table_->setTabKeyNavigation(false);  // Tab goes on to the next thing, not to the next cell
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(20);
  table_->setTextElideMode(Qt::ElideMiddle);
  table_->setAccessibleName(tr("Ledger"));
  table_->setObjectName(QStringLiteral("ledger"));
  table_->setVerticalScrollBarPolicy(Qt::ScrollBarAsNeeded);
  table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* header = table_->horizontalHeader();
  header->setSectionResizeMode(0, QHeaderView::Stretch);
  for (int c = 1; c < kLedgerColumns; ++c) {
    header->setSectionResizeMode(c, QHeaderView::ResizeToContents);
    table_->setColumnHidden(
        c, !QSettings().value(QStringLiteral("ledger/column%1").arg(c), c < 4).toBool());
  }
  table_->setItemDelegateForColumn(0, new RowNameDelegate(*filter_, table_));
  for (int c = 1; c < 4; ++c)
    table_->setItemDelegateForColumn(c, new PointDelegate(*filter_, table_));
  header->setHighlightSections(false);
  header->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(header, &QWidget::customContextMenuRequested, this, &LedgerPanel::showColumnMenu);
  auto* copy = new QAction(tr("Copy the rows"), this);
  copy->setShortcut(QKeySequence::Copy);
  copy->setShortcutContext(Qt::WidgetWithChildrenShortcut);
  connect(copy, &QAction::triggered, this, &LedgerPanel::copyRows);
  table_->addAction(copy);
  table_->setContextMenuPolicy(Qt::ActionsContextMenu);
  connect(filter_, &QAbstractItemModel::layoutChanged, this, [this] { spanGroups(); });
  connect(filter_, &QAbstractItemModel::modelReset, this, &LedgerPanel::spanGroups);
  connect(filter_, &QAbstractItemModel::rowsInserted, this, &LedgerPanel::spanGroups);
  connect(filter_, &QAbstractItemModel::rowsRemoved, this, &LedgerPanel::spanGroups);
  layout->addWidget(table_, 1);
  decide_layout_ = new QVBoxLayout(decide_);
  decide_layout_->setContentsMargins(0, 2, 0, 2);
  decide_layout_->setSpacing(2);
  layout->addWidget(decide_);
  connect(&session_, &Session::changed, this, &LedgerPanel::refresh);
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
          [this](const QModelIndex& index) {
            const project::Dimension* row = index.isValid() ? filter_->at(index) : nullptr;
            if (row == nullptr) return;
            current_ = row->id;
            showNominals();
            Q_EMIT rowPicked(current_);
          });
  refresh();
}

const project::Dimension* LedgerPanel::current() const {
  return session_.document().find_dimension(current_);
}

void LedgerPanel::select(project::Id dimension) {
  for (int row = 0; row < filter_->rowCount(); ++row) {
    const project::Dimension* d = filter_->at(filter_->index(row, 0));
    if (d != nullptr && d->id == dimension) table_->selectRow(row);
  }
}

void LedgerPanel::spanGroups() {
  table_->clearSpans();
  for (int row = 0; row < filter_->rowCount(); ++row) {
    if (filter_->at(filter_->index(row, 0)) == nullptr) table_->setSpan(row, 0, 1, kLedgerColumns);
  }
}

void LedgerPanel::copyRows() {
  // As a table: fields apart by tabs, so that a spreadsheet takes it.
  QStringList lines;
  QStringList cells;
  for (int c = 0; c < kLedgerColumns; ++c)
    cells << filter_->headerData(c, Qt::Horizontal, Qt::DisplayRole).toString();
  lines << cells.join(QLatin1Char('\t'));
  QModelIndexList rows = table_->selectionModel()->selectedRows();
  std::sort(rows.begin(), rows.end(),
            [](const QModelIndex& a, const QModelIndex& b) { return a.row() < b.row(); });
  for (const QModelIndex& index : rows) {
    const project::Dimension* d = filter_->at(index);
    if (d == nullptr) continue;
    cells.clear();
    for (int c = 0; c < kLedgerColumns; ++c)
      cells << model_->text(*d, static_cast<LedgerColumn>(c));
    lines << cells.join(QLatin1Char('\t'));
  }
  if (lines.size() < 2) return;
  QGuiApplication::clipboard()->setText(lines.join(QLatin1Char('\n')));
  Q_EMIT session_.said(tr("%n row(s) copied", nullptr, static_cast<int>(lines.size()) - 1));
}

void LedgerPanel::showColumnMenu(const QPoint& at) {
  QMenu menu(this);
  for (int c = 1; c < kLedgerColumns; ++c) {
    QAction* action =
        menu.addAction(filter_->headerData(c, Qt::Horizontal, Qt::DisplayRole).toString());
    action->setCheckable(true);
    action->setChecked(!table_->isColumnHidden(c));
    connect(action, &QAction::toggled, this, [this, c](bool on) {
      table_->setColumnHidden(c, !on);
      QSettings().setValue(QStringLiteral("ledger/column%1").arg(c), on);
    });
  }
  menu.addAction(tr("By step and sketch"), this,
                 [this] { table_->sortByColumn(-1, Qt::AscendingOrder); });
  menu.exec(table_->horizontalHeader()->mapToGlobal(at));
}

void LedgerPanel::mark(const std::vector<project::Id>& rows) {
  model_->marked = {rows.begin(), rows.end()};
  for (int row = 0; row < filter_->rowCount(); ++row) {
    const project::Dimension* d = filter_->at(filter_->index(row, 0));
    if (!rows.empty() && d != nullptr && d->id == rows.front())
      table_->scrollTo(filter_->index(row, 0));
  }
  table_->viewport()->update();
}

void LedgerPanel::refresh() {
  {
    const QSignalBlocker block(table_->selectionModel());
    model_->reset();
  }
  const auto& rows = session_.document().dimensions;
  const auto inked =
      std::count_if(rows.begin(), rows.end(), [](const auto& d) { return d.intent.has_value(); });
  summary_->setText(rows.empty() ? QString()
                                 : tr("%1 inked \u00b7 %2 in pencil")
                                       .arg(inked)
                                       .arg(static_cast<qsizetype>(rows.size()) - inked));
  empty_->setVisible(rows.empty());
  table_->setVisible(!rows.empty());
  if (current() == nullptr) current_ = 0;
  find_->setVisible(!rows.empty());
  if (current_ != 0) {
    const QSignalBlocker block(table_->selectionModel());
    select(current_);
  }
  showNominals();
}

void LedgerPanel::ink(double value, const QString& reason) {
  const project::Dimension* d = current();
  if (d == nullptr) return;
  session_.edit(
      tr("ink %1 %2")
          .arg(QString::fromStdString(d->name),
               QString::fromStdString(quantity_trimmed(d->quantity, value))),
      [id = d->id, value, reason = reason.toStdString()](const project::Document& document) {
        return project::ink(document, id, value, reason);
      });
}

void LedgerPanel::inkFormula(const QString& text) {
  session_.edit(tr("ink a formula"),
                [id = current_, text = text.toStdString()](const project::Document& document) {
                  return project::ink_formula(document, id, text);
                });
}

void LedgerPanel::addTyped(const QString& text) {
  // "caliper 62.01 ± 0.02": an instrument, the value, its U if known.
  static const QRegularExpression kForm(QStringLiteral(
      "^(\\p{L}[\\p{L} ]*?)\\s+([-+]?[0-9]+[.,]?[0-9]*)\\s*(?:(?:\u00b1|\\+-|\\+/-)\\s*"
      "([0-9]+[.,]?[0-9]*|[.,][0-9]+))?$"));
  const auto match = kForm.match(text);
  if (!match.hasMatch())
    return session_.report({ErrorCode::InvalidInput,
                            "\"" + text.toStdString() +
                                "\" cannot be read. Write the instrument, the value and its U, as "
                                "in: caliper 62.01 +- 0.02"});
  const auto value = [](QString t) {
    return t.replace(QLatin1Char(','), QLatin1Char('.')).toDouble();
  };
  const project::Dimension* row = current();
  const double unit =
      row != nullptr && row->quantity != standards::Quantity::Angle ? 1 / length_factor() : 1;
  const project::TypedReading typed{value(match.captured(2)) * unit,
                                    value(match.captured(3)) * unit,
                                    match.captured(1).toStdString()};
  session_.edit(tr("typed reading"), [id = current_, typed](const project::Document& document) {
    return project::add_typed(document, id, typed);
  });
}

void LedgerPanel::showNominals() {
  while (QLayoutItem* item = decide_layout_->takeAt(0)) {
    if (item->widget() != nullptr) item->widget()->deleteLater();
    delete item;
  }
  const project::Dimension* d = current();
  decide_->setVisible(d != nullptr);
  if (d == nullptr) return;
  auto* title = new QLabel(QString::fromStdString(d->name));
  title->setObjectName(QStringLiteral("heading"));
  decide_layout_->addWidget(title);
  const auto candidate = [&](const QString& value, const QString& text, const QString& tip,
                             const std::function<void()>& act, const QString& name) {
    auto* line = new QWidget;
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(6, 0, 0, 0);
    auto* number = new QLabel(value);
    number->setMinimumWidth(52);
    number->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    auto* why = new ElidedLabel(text);
    why->setObjectName(QStringLiteral("quiet"));
    why->setToolTip(text == tip ? tip : text + QLatin1Char('\n') + tip);
    auto* button = new QPushButton(name);
    button->setObjectName(name + QStringLiteral(" ") + value);
    button->setAccessibleName(name + QStringLiteral(" ") + value);
    button->setToolTip(tip);
    button->setMaximumHeight(20);
    button->setStyleSheet(QStringLiteral("padding: 0 8px; min-height: 16px;"));
    connect(button, &QPushButton::clicked, this, act);
    button->setVisible(static_cast<bool>(act));
    row->addWidget(number);
    row->addWidget(why, 1);
    row->addWidget(button);
    decide_layout_->addWidget(line);
  };
  if (d->reading) {
    int shown = 0;
    for (const standards::Nominal& n : reading::nominals_of(session_.document(), *d)) {
      if (++shown > 4) break;
      const QString reason = core_text(n.reason);
      const QString tip = n.fit.empty() ? reason : reason + QLatin1Char('\n') + core_text(n.fit);
      candidate(
          QString::fromStdString(quantity_trimmed(d->quantity, n.value)), reason, tip,
          [this, n] { ink(n.value, QString::fromStdString(n.source)); }, tr("ink"));
    }
  }
  if (const auto whole = reading::region_reading(session_.document(), *d)) {
    QStringList names;
    for (const std::uint32_t region : whole->regions) names << QString::number(region);
    const bool agrees = project::en_score(*d->reading, d->u, whole->value, whole->u) <= 1;
    candidate(
        QString::fromStdString(quantity_fixed(d->quantity, whole->value, 3)),
        tr("region %1 as a whole: %2")
                .arg(names.join(QStringLiteral(", ")), QString::fromStdString(quantity_reading(
                                                           d->quantity, whole->value, whole->u))) +
            (agrees ? tr(", agrees") : tr(", differs")),
        tr("What the whole regions say that the section runs through. Nominals rest on it "
           "where it is the surer one and agrees with the section."),
        {}, {});
  }
  if (d->intent && d->reading) {
    candidate(
        QString::fromStdString(quantity_fixed(d->quantity, *d->reading, 3)),
        tr("take the decision back: the reading counts again"), tr("Lift the ink"),
        [this] {
          if (const project::Dimension* row = current())
            session_.edit(tr("lift %1").arg(QString::fromStdString(row->name)),
                          [id = row->id](const project::Document& document) {
                            return project::lift(document, id);
                          });
        },
        tr("lift"));
  }
  for (std::size_t i = 0; i < d->typed.size(); ++i) {
    const project::TypedReading& t = d->typed[i];
    const bool agrees = !d->reading || project::en_score(*d->reading, d->u, t.value, t.u) <= 1;
    candidate(
        QString::fromStdString(quantity_trimmed(d->quantity, t.value, 3)),
        QString::fromStdString(t.instrument + " " + quantity_reading(d->quantity, t.value, t.u)) +
            (agrees ? tr(", agrees") : tr(", differs")),
        tr("Typed reading beside the scan's"),
        [this, i] {
          session_.edit(tr("remove a typed reading"),
                        [id = current_, i](const project::Document& document) {
                          return project::remove_typed(document, id, i);
                        });
        },
        tr("remove"));
  }
  auto* line = new QWidget;
  auto* row = new QHBoxLayout(line);
  row->setContentsMargins(6, 0, 0, 0);
  typed_ = new QLineEdit;
  typed_->setObjectName(QStringLiteral("typedIntent"));
  typed_->setPlaceholderText(tr("another value"));
  typed_->setAccessibleName(tr("Another value for %1").arg(QString::fromStdString(d->name)));
  if (!d->expression.empty())
    typed_->setText(QStringLiteral("= ") +
                    QString::fromStdString(project::formula_text(session_.document(), *d)));
  typed_->setToolTip(
      tr("The value that was meant, or = and a formula with other rows in brackets, as in\n"
         "= [height] / 2 + 3; Return decides. \u201c"
         "caliper 62.01 \u00b1 0.02\u201d adds a typed "
         "reading."));
  connect(typed_, &QLineEdit::returnPressed, this, [this] {
    bool good = false;
    QString text = typed_->text().trimmed();
    if (text.startsWith(QLatin1Char('='))) return inkFormula(text.mid(1).trimmed());
    if (!text.isEmpty() && text.front().isLetter()) return addTyped(text);
    const double value = text.replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&good);
    const project::Dimension* row = current();
    const bool length = row != nullptr && row->quantity != standards::Quantity::Angle;
    if (good)
      ink(length ? value / length_factor() : value, tr("typed"));
    else
      session_.report(
          {ErrorCode::InvalidInput, "\"" + typed_->text().toStdString() +
                                        "\" is not a number. Type the value in mm or degrees."});
  });
  row->addWidget(typed_, 1);
  if (d->owner.step != 0 || d->owner.sketch != 0) {
    auto* valley = new QPushButton(tr("valley"));
    valley->setObjectName(QStringLiteral("valleyButton"));
    valley->setAccessibleName(tr("Valley of %1").arg(QString::fromStdString(d->name)));
    valley->setToolTip(tr("Draw in the Strip how the deviation depends on this value"));
    valley->setStyleSheet(QStringLiteral("padding: 0 8px; min-height: 16px;"));
    connect(valley, &QPushButton::clicked, this, [this] { Q_EMIT valleyWanted(current_); });
    row->addWidget(valley);
  }
  decide_layout_->addWidget(line);
}

}  // namespace lostline::app
