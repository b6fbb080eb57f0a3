#include "windows/search_box.h"

#include <QCompleter>
#include <QFocusEvent>
#include <QTimer>

#include "look/preferences.h"

namespace lostline::app {

namespace {
constexpr int kEntryKind = Qt::UserRole + 1;
constexpr int kEntryId = Qt::UserRole + 2;
}  // namespace

SearchBox::SearchBox(LedgerPanel& ledger, Session& session)
    : ledger_(ledger), session_(session), found_(new QStandardItemModel(this)) {
  setObjectName(QStringLiteral("search"));
  setPlaceholderText(tr("search tools and values"));
  setAccessibleName(tr("Search tools and values"));
  setToolTip(tr("Tools, Ledger rows and steps by name (Ctrl+F)"));
  setFixedWidth(190);
  setClearButtonEnabled(true);
  auto* completer = new QCompleter(found_, this);
  completer->setFilterMode(Qt::MatchContains);
  completer->setCaseSensitivity(Qt::CaseInsensitive);
  setCompleter(completer);
  connect(completer, qOverload<const QString&>(&QCompleter::activated), this, &SearchBox::choose);
  connect(this, &QLineEdit::returnPressed, this, [this] { choose(text()); });
}

void SearchBox::focusInEvent(QFocusEvent* event) {
  fill();
  QLineEdit::focusInEvent(event);
}

void SearchBox::fill() {
  found_->clear();
  const auto add = [&](const QString& text, Kind kind, qulonglong id) {
    auto* item = new QStandardItem(text);
    item->setData(static_cast<int>(kind), kEntryKind);
    item->setData(id, kEntryId);
    found_->appendRow(item);
  };
  const auto& all = tools();
  for (std::size_t i = 0; i < all.size(); ++i)
    add(tr("%1 (%2)").arg(all[i].title(), stage_name(all[i].stage)), Kind::Tool, i);
  for (const project::Dimension& d : session_.document().dimensions)
    add(tr("%1 = %2").arg(QString::fromStdString(d.name),
                          QString::fromStdString(quantity_trimmed(d.quantity, d.value(), 3))),
        Kind::Row, d.id);
  for (const model::Step& s : session_.document().steps)
    add(tr("step %1 %2").arg(s.number).arg(QString::fromStdString(s.name)), Kind::Step, s.id);
}

void SearchBox::choose(const QString& text) {
  if (text.isEmpty()) return;
  const auto matches = found_->findItems(text, Qt::MatchContains);
  if (matches.isEmpty()) return;
  const QStandardItem* item = matches.front();
  const auto id = item->data(kEntryId).toULongLong();
  const auto kind = static_cast<Kind>(item->data(kEntryKind).toInt());
  // After the list has closed and the text with it.
  QTimer::singleShot(0, this, [this, kind, id] {
    clear();
    if (kind == Kind::Tool) Q_EMIT toolChosen(tools()[id]);
    if (kind == Kind::Row) ledger_.select(id);
    if (kind == Kind::Step) Q_EMIT stepChosen(id);
  });
}

}  // namespace lostline::app
