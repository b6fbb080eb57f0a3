#pragma once

#include <QSplitter>

namespace lostline::app {

/// A splitter whose outer parts fold away by a double click on their handle or by a key, and come
/// back with the size they had.
class FoldSplitter : public QSplitter {
  Q_OBJECT
 public:
  explicit FoldSplitter(Qt::Orientation orientation);
  void fold(int part);  ///< or unfolds it

 protected:
  QSplitterHandle* createHandle() override;

 private:
  std::vector<int> unfolded_;  ///< sizes to come back to
};

}  // namespace lostline::app
