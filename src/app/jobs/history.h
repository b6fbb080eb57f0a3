#pragma once

#include <QObject>
#include <QString>
#include <deque>
#include <functional>
#include <memory>

#include "project/document.h"

namespace lostline::app {

/// Undo and redo by snapshots of the whole document. Documents share what did not change, so a step
/// costs what it replaced; once that is more than the bound, the oldest steps are forgotten.
class History : public QObject {
  Q_OBJECT
 public:
  using Snapshot = std::shared_ptr<const project::Document>;
  /// @param show  makes a snapshot the current document.
  explicit History(std::function<void(Snapshot)> show, QObject* parent = nullptr);

  /// Shows `after`, and forgets what was undone.
  void push(const QString& name, Snapshot before, Snapshot after);
  void undo() { go(index_ - 1); }
  void redo() { go(index_ + 1); }
  void setIndex(int index) { go(index); }
  void clear();
  /// The document now is the one on the disk.
  void setClean();
  /// Bytes that the steps that can be undone may hold.
  void setBound(std::size_t bytes);

  [[nodiscard]] bool isClean() const { return clean_ == index_; }
  [[nodiscard]] bool canUndo() const { return index_ > 0; }
  [[nodiscard]] bool canRedo() const { return index_ < count(); }
  [[nodiscard]] int index() const { return index_; }
  [[nodiscard]] int count() const { return static_cast<int>(steps_.size()); }
  [[nodiscard]] QString undoText() const;
  [[nodiscard]] QString redoText() const;
  [[nodiscard]] std::size_t bytes() const;

 Q_SIGNALS:
  void indexChanged(int index);
  void cleanChanged(bool clean);

 private:
  struct Step {
    QString name;
    Snapshot before, after;
    std::size_t bytes;  ///< kept alive by the step alone
  };
  void go(int index);
  void moved(bool was_clean);
  void trim();

  std::function<void(Snapshot)> show_;
  std::deque<Step> steps_;
  int index_ = 0;  ///< steps done
  int clean_ = 0;  ///< index that is on the disk; -1 when it was forgotten
  std::size_t bound_;
};

/// Bytes that `document` holds and `other` does not.
std::size_t bytes_of_its_own(const project::Document& document, const project::Document& other);

}  // namespace lostline::app
