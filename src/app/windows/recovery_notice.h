#pragma once

#include <QFrame>
#include <QVBoxLayout>

#include "jobs/autosave.h"

namespace lostline::app {

/// Work that an earlier run left unsaved: every copy by its name and time, each recovered or thrown
/// away by itself.
class RecoveryNotice : public QFrame {
  Q_OBJECT
 public:
  explicit RecoveryNotice(const std::vector<Autosave::Left>& left);

 Q_SIGNALS:
  void recoverWanted(const lostline::app::Autosave::Left& left);

 private:
  void add(const Autosave::Left& left);
  void done(QWidget* row);

  QVBoxLayout* rows_;
};

}  // namespace lostline::app
