#pragma once

#include <QAbstractTableModel>
#include <QFontMetrics>
#include <QSortFilterProxyModel>
#include <QStyledItemDelegate>
#include <map>
#include <set>

#include "jobs/session.h"

namespace lostline::app {

enum class LedgerColumn { Name, Reading, Intent, Difference, Evidence, Reason };
constexpr int kLedgerColumns = 6;

/// Rows of the document's dimensions under a line for each sketch, step or measurement they belong
/// to.
class LedgerModel : public QAbstractTableModel {
 public:
  explicit LedgerModel(Session& session) : session_(session) {}
  std::set<project::Id> marked;  ///< rows that rest on what is picked on the Bench
  void reset();
  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex&) const override { return kLedgerColumns; }
  /// The dimension of a row; null for a line that names a group.
  [[nodiscard]] const project::Dimension* at(int row) const;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;
  QVariant data(const QModelIndex& index, int role) const override;
  /// The text of a cell, as it is shown and copied.
  [[nodiscard]] QString text(const project::Dimension& d, LedgerColumn column) const;

 private:
  struct Line {
    QString group;        ///< not empty: the name of a group
    std::size_t row = 0;  ///< of the document's dimensions
  };
  [[nodiscard]] QString tip(const project::Dimension& d) const;
  Session& session_;
  std::vector<Line> lines_;
};

/// Rows by state and by words in their name, evidence or reason; sorted, they stand without groups.
class LedgerFilter : public QSortFilterProxyModel {
 public:
  enum State { All, Pencilled, Inked, BeyondU };
  LedgerFilter(LedgerModel& model, QObject* parent);
  void setState(State state);
  void setWords(const QString& words);
  void sort(int column, Qt::SortOrder order) override;
  [[nodiscard]] bool grouped() const { return !sorted_; }
  [[nodiscard]] const project::Dimension* at(const QModelIndex& index) const {
    return rows_.at(mapToSource(index).row());
  }

 protected:
  bool filterAcceptsRow(int row, const QModelIndex& parent) const override;

 private:
  [[nodiscard]] bool accepts(const project::Dimension& d) const;
  LedgerModel& rows_;
  State state_ = All;
  QStringList words_;
  bool sorted_ = false;
};

/// Of two things, as “circle 43 to circle 23”, as much as there is room for: what sets rows of
/// one kind apart, the numbers at the end of either, goes last.
QString fitted_name(QString name, const QFontMetrics& metrics, int room);

/// Names of rows; under the line of a step without the name of the step once more.
class RowNameDelegate : public QStyledItemDelegate {
 public:
  RowNameDelegate(const LedgerFilter& rows, QObject* parent)
      : QStyledItemDelegate(parent), rows_(rows) {}

 protected:
  void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override;

 private:
  const LedgerFilter& rows_;
};

/// Numbers that stand with their points below each other, however many decimals they have.
class PointDelegate : public QStyledItemDelegate {
 public:
  PointDelegate(const QAbstractItemModel& model, QObject* parent);
  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  void paint(QPainter* painter, const QStyleOptionViewItem& option,
             const QModelIndex& index) const override;

 private:
  /// Room of the widest decimals and uncertainty of a column, in pixels; kept until the rows
  /// change.
  [[nodiscard]] std::pair<int, int> room(int column, const QFontMetrics& metrics) const;
  const QAbstractItemModel& model_;
  mutable std::map<int, std::pair<int, int>> rooms_;
};

}  // namespace lostline::app
