#include "panels/ledger_model.h"

#include <QApplication>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/formula.h"
#include "project/ledger.h"

namespace lostline::app {
namespace {

constexpr int kSortRole = Qt::UserRole;
constexpr int kShortRole = Qt::UserRole + 1;
constexpr int kNameMargins = 8;  // pixels beside a name in its cell

QString group_of(const project::Document& d, const project::Dimension& row) {
  if (const model::Step* step = d.find_step(row.owner.step))
    return QStringLiteral("%1  %2").arg(step->number).arg(QString::fromStdString(step->name));
  if (const project::TracedSketch* sketch = d.find_sketch(row.owner.sketch))
    return QObject::tr("sketch %1").arg(QString::fromStdString(sketch->name));
  return QObject::tr("measured");
}

}  // namespace

void LedgerModel::reset() {
  beginResetModel();
  lines_.clear();
  const project::Document& d = session_.document();
  // In the order of their first rows: the first thing measured or traced stands first.
  std::vector<std::pair<QString, std::vector<std::size_t>>> groups;
  for (std::size_t i = 0; i < d.dimensions.size(); ++i) {
    const QString name = group_of(d, d.dimensions[i]);
    auto it = std::find_if(groups.begin(), groups.end(),
                           [&](const auto& group) { return group.first == name; });
    if (it == groups.end()) it = groups.insert(groups.end(), {name, {}});
    it->second.push_back(i);
  }
  for (const auto& [name, rows] : groups) {
    lines_.push_back({name, rows.front()});
    for (const std::size_t row : rows) lines_.push_back({{}, row});
  }
  endResetModel();
}

int LedgerModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(lines_.size());
}

const project::Dimension* LedgerModel::at(int row) const {
  const Line& line = lines_[static_cast<std::size_t>(row)];
  const auto& rows = session_.document().dimensions;
  return line.group.isEmpty() && line.row < rows.size() ? &rows[line.row] : nullptr;
}

QVariant LedgerModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  const auto column = static_cast<LedgerColumn>(section);
  const bool words = column == LedgerColumn::Name || column == LedgerColumn::Evidence ||
                     column == LedgerColumn::Reason;
  if (role == Qt::TextAlignmentRole)
    return static_cast<int>(words ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter;
  if (role != Qt::DisplayRole) return {};
  const QString names[] = {QObject::tr("name"),     QObject::tr("reading \u00b1 U"),
                           QObject::tr("intent"),   QStringLiteral("\u0394"),
                           QObject::tr("evidence"), QObject::tr("reason")};
  return names[section];
}

Qt::ItemFlags LedgerModel::flags(const QModelIndex& index) const {
  if (at(index.row()) == nullptr) return Qt::ItemIsEnabled;
  Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
  if (index.column() == 0) flags |= Qt::ItemIsEditable;
  return flags;
}

bool LedgerModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  const project::Dimension* d = at(index.row());
  if (role != Qt::EditRole || index.column() != 0 || d == nullptr) return false;
  return session_.apply(
      QObject::tr("rename"),
      project::rename_dimension(session_.document(), d->id, value.toString().toStdString()));
}

QString LedgerModel::text(const project::Dimension& d, LedgerColumn column) const {
  const QString degree =
      d.quantity == standards::Quantity::Angle ? QString(QChar(0x00b0)) : QString();
  const int decimals = d.u > 0 ? std::clamp(decimals_for_uncertainty(d.u), 0, 3) : 3;
  switch (column) {
    case LedgerColumn::Name:
      return QString::fromStdString(d.name);
    case LedgerColumn::Evidence:
      return core_text(d.source);
    case LedgerColumn::Reason:
      return core_text(d.reason);
    case LedgerColumn::Reading: {
      if (!d.reading) return QObject::tr("no evidence");
      QString text =
          QString::fromStdString(quantity_fixed(d.quantity, *d.reading, decimals)) + degree;
      if (d.u > 0)
        text += QStringLiteral(" \u00b1 ") +
                QString::fromStdString(d.u < 0.0005
                                           ? std::string("<.001")
                                           : quantity_fixed(d.quantity, d.u, std::max(decimals, 1)))
                    .replace(QStringLiteral("0."), QStringLiteral("."));
      return text;
    }
    case LedgerColumn::Intent:
      return d.intent
                 ? (d.expression.empty() ? QString() : QStringLiteral("= ")) +
                       QString::fromStdString(quantity_trimmed(d.quantity, *d.intent, 4)) + degree
                 : QString();
    case LedgerColumn::Difference: {
      if (!d.intent || !d.reading) return {};
      const double difference = *d.intent - *d.reading;
      return (difference > 0 ? QStringLiteral("+") : QString()) +
             QString::fromStdString(quantity_fixed(d.quantity, difference, std::max(2, decimals)));
    }
  }
  return {};
}

QString LedgerModel::tip(const project::Dimension& d) const {
  QString text = QString::fromStdString(d.name) + QLatin1Char('\n') + core_text(d.source);
  if (!d.reason.empty()) text += QObject::tr("\ndecided: %1").arg(core_text(d.reason));
  if (!d.expression.empty())
    text += QStringLiteral("\n= ") +
            QString::fromStdString(project::formula_text(session_.document(), d));
  // Readings of other instruments, each with what the scan's reading says of it.
  for (const project::TypedReading& t : d.typed) {
    text += QLatin1Char('\n') +
            QString::fromStdString(t.instrument + " " + quantity_reading(d.quantity, t.value, t.u));
    if (d.reading && (t.u > 0 || d.u > 0))
      text += project::en_score(*d.reading, d.u, t.value, t.u) <= 1
                  ? QObject::tr(", agrees with the scan")
                  : QObject::tr(", differs from the scan by more than both U");
  }
  return text;
}

QVariant LedgerModel::data(const QModelIndex& index, int role) const {
  const auto column = static_cast<LedgerColumn>(index.column());
  const project::Dimension* row = at(index.row());
  if (row == nullptr) {
    if (role == Qt::DisplayRole && column == LedgerColumn::Name)
      return lines_[static_cast<std::size_t>(index.row())].group;
    if (role == Qt::FontRole) return body_font(11, true);
    if (role == Qt::ForegroundRole) return lostline::app::role::graphite;
    return {};
  }
  const project::Dimension& d = *row;
  switch (role) {
    case kShortRole: {
      const model::Step* step = session_.document().find_step(d.owner.step);
      QString name = QString::fromStdString(d.name);
      if (step != nullptr) name.remove(QString::fromStdString(step->name));
      if (const auto* sketch = session_.document().find_sketch(d.owner.sketch))
        name.remove(QString::fromStdString(" of " + sketch->name));
      return name.trimmed().isEmpty() ? QString::fromStdString(d.name) : name.simplified();
    }
    case Qt::EditRole:
    case Qt::DisplayRole:
      return text(d, column);
    case kSortRole:
      switch (column) {
        case LedgerColumn::Reading:
          return d.reading.value_or(0);
        case LedgerColumn::Intent:
          return d.intent.value_or(-1e300);
        case LedgerColumn::Difference:
          return d.intent && d.reading ? std::abs(*d.intent - *d.reading) : -1.0;
        default:
          return text(d, column).toLower();
      }
    case Qt::TextAlignmentRole: {
      const bool number = column == LedgerColumn::Reading || column == LedgerColumn::Intent ||
                          column == LedgerColumn::Difference;
      return static_cast<int>(number ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter;
    }
    case Qt::BackgroundRole:
      return marked.contains(d.id) ? QVariant(lostline::app::role::marked) : QVariant();
    case Qt::FontRole:
      return body_font(12, column == LedgerColumn::Intent, column == LedgerColumn::Reading);
    case Qt::ForegroundRole:
      return column == LedgerColumn::Intent || (column == LedgerColumn::Name && d.intent)
                 ? lostline::app::role::ink
                 : lostline::app::role::graphite;
    case Qt::ToolTipRole:
      return tip(d);
    default:
      return {};
  }
}

LedgerFilter::LedgerFilter(LedgerModel& model, QObject* parent)
    : QSortFilterProxyModel(parent), rows_(model) {
  setSourceModel(&model);
  setSortRole(kSortRole);
}

void LedgerFilter::setState(State state) {
  state_ = state;
  invalidateFilter();
}

void LedgerFilter::setWords(const QString& words) {
  words_ = words.split(QLatin1Char(' '), Qt::SkipEmptyParts);
  invalidateFilter();
}

void LedgerFilter::sort(int column, Qt::SortOrder order) {
  sorted_ = column >= 0;
  invalidateFilter();
  QSortFilterProxyModel::sort(column, order);
}

bool LedgerFilter::accepts(const project::Dimension& d) const {
  const bool beyond = d.intent && d.reading && d.u > 0 && std::abs(*d.intent - *d.reading) > d.u;
  if ((state_ == Pencilled && d.intent) || (state_ == Inked && !d.intent) ||
      (state_ == BeyondU && !beyond))
    return false;
  const QString text = QString::fromStdString(d.name + " " + d.source + " " + d.reason);
  return std::all_of(words_.begin(), words_.end(),
                     [&](const QString& word) { return text.contains(word, Qt::CaseInsensitive); });
}

bool LedgerFilter::filterAcceptsRow(int row, const QModelIndex&) const {
  if (const project::Dimension* d = rows_.at(row)) return accepts(*d);
  // The line of a group stands over the rows of it that are left.
  for (int next = row + 1; !sorted_ && next < rows_.rowCount(); ++next) {
    const project::Dimension* d = rows_.at(next);
    if (d == nullptr) break;
    if (accepts(*d)) return true;
  }
  return false;
}

namespace {

/// What stands before the point, from it on, and the uncertainty.
struct Parts {
  QString before, after, u;
};
Parts parts_of(const QString& text) {
  const QString number = text.section(QChar(0x00b1), 0, 0).trimmed();
  Parts parts;
  if (text.contains(QChar(0x00b1)))
    parts.u = QStringLiteral(" \u00b1 ") + text.section(QChar(0x00b1), 1).trimmed();
  const auto point = number.indexOf(QLatin1Char('.'));
  parts.before = point < 0 ? number : number.left(point);
  parts.after = point < 0 ? QString() : number.mid(point);
  if (point < 0 && number.endsWith(QChar(0x00b0))) {
    parts.before.chop(1);
    parts.after = QString(QChar(0x00b0));
  }
  return parts;
}

}  // namespace

QString fitted_name(QString name, const QFontMetrics& metrics, int room) {
  const auto fits = [&] { return metrics.horizontalAdvance(name) <= room; };
  if (fits()) return name;
  name.remove(QStringLiteral("centre of "));
  if (fits()) return name;
  const QString between = QStringLiteral(" to ");
  const qsizetype at = name.indexOf(between);
  if (at < 0) return metrics.elidedText(name, Qt::ElideMiddle, room);
  const QString dash = QStringLiteral(" \u2013 ");
  const QString first = name.left(at);
  const QString second = name.mid(at + between.size());
  name = first + dash + second;
  if (fits()) return name;
  // Each end has at least half of the room; what one does not need is the other's.
  const int ends = room - metrics.horizontalAdvance(dash);
  const int left = metrics.horizontalAdvance(first);
  const int right = metrics.horizontalAdvance(second);
  const auto short_of = [&](const QString& text, int width) {
    if (metrics.horizontalAdvance(text) <= width) return text;
    // The kind is cut, its number stays: "ci… 43".
    const qsizetype space = text.lastIndexOf(QLatin1Char(' '));
    const QString number = space < 0 ? QString() : text.mid(space);
    const QString kind = metrics.elidedText(text.left(space), Qt::ElideRight,
                                            width - metrics.horizontalAdvance(number));
    return kind + number;
  };
  return short_of(first, std::max(ends / 2, ends - right)) + dash +
         short_of(second, std::max(ends / 2, ends - left));
}

void RowNameDelegate::initStyleOption(QStyleOptionViewItem* option,
                                      const QModelIndex& index) const {
  QStyledItemDelegate::initStyleOption(option, index);
  if (rows_.grouped() && rows_.at(index) != nullptr)
    option->text = fitted_name(index.data(kShortRole).toString(), option->fontMetrics,
                               option->rect.width() - kNameMargins);
}

PointDelegate::PointDelegate(const QAbstractItemModel& model, QObject* parent)
    : QStyledItemDelegate(parent), model_(model) {
  const auto changed = [this] { rooms_.clear(); };
  connect(&model_, &QAbstractItemModel::modelReset, this, changed);
  connect(&model_, &QAbstractItemModel::layoutChanged, this, changed);
  connect(&model_, &QAbstractItemModel::rowsInserted, this, changed);
  connect(&model_, &QAbstractItemModel::rowsRemoved, this, changed);
  connect(&model_, &QAbstractItemModel::dataChanged, this, changed);
}

std::pair<int, int> PointDelegate::room(int column, const QFontMetrics& metrics) const {
  const auto known = rooms_.find(column);
  if (known != rooms_.end()) return known->second;
  std::pair<int, int> widest(0, 0);
  for (int row = 0; row < model_.rowCount(); ++row) {
    const Parts parts = parts_of(model_.index(row, column).data().toString());
    // A degree sign stands in the gap before the uncertainty.
    QString after = parts.after;
    if (!parts.u.isEmpty() && after.endsWith(QChar(0x00b0))) after.chop(1);
    widest.first = std::max(widest.first, metrics.horizontalAdvance(after));
    widest.second = std::max(widest.second, metrics.horizontalAdvance(parts.u));
  }
  return rooms_[column] = widest;
}

QSize PointDelegate::sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const {
  QSize size = QStyledItemDelegate::sizeHint(option, index);
  const QFontMetrics metrics(index.data(Qt::FontRole).value<QFont>());
  const Parts parts = parts_of(index.data().toString());
  const auto [after, u] = room(index.column(), metrics);
  if (!parts.before.isEmpty())
    size.setWidth(metrics.horizontalAdvance(parts.before) + after + u + 9);
  return size;
}

void PointDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option,
                          const QModelIndex& index) const {
  const QString text = index.data().toString();
  const Parts parts = parts_of(text);
  const bool number = std::any_of(text.begin(), text.end(), [](QChar c) { return c.isDigit(); });
  QStyleOptionViewItem plain = option;
  initStyleOption(&plain, index);
  if (!number) return QStyledItemDelegate::paint(painter, option, index);
  plain.text.clear();
  QApplication::style()->drawControl(QStyle::CE_ItemViewItem, &plain, painter, plain.widget);
  painter->save();
  painter->setFont(index.data(Qt::FontRole).value<QFont>());
  painter->setPen(index.data(Qt::ForegroundRole).value<QColor>());
  const auto [after, u] = room(index.column(), painter->fontMetrics());
  const QRect r = option.rect.adjusted(2, 0, -4, 0);
  const int u_left = r.right() - u;
  const int point = u_left - after;
  painter->drawText(QRect(r.left(), r.top(), point - r.left(), r.height()),
                    Qt::AlignRight | Qt::AlignVCenter, parts.before);
  painter->drawText(QRect(point, r.top(), after + 12, r.height()), Qt::AlignLeft | Qt::AlignVCenter,
                    parts.after);
  painter->drawText(QRect(u_left, r.top(), u + 2, r.height()), Qt::AlignLeft | Qt::AlignVCenter,
                    parts.u);
  painter->restore();
}

}  // namespace lostline::app
