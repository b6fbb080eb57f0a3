#include "windows/recovery_notice.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>

namespace lostline::app {

RecoveryNotice::RecoveryNotice(const std::vector<Autosave::Left>& left)
    : rows_(new QVBoxLayout(this)) {
  setObjectName(QStringLiteral("card"));
  rows_->setContentsMargins(10, 8, 10, 8);
  auto* title = new QLabel(tr("Not saved when the program ended"));
  title->setObjectName(QStringLiteral("heading"));
  title->setWordWrap(true);
  rows_->addWidget(title);
  for (const Autosave::Left& one : left) add(one);
}

void RecoveryNotice::add(const Autosave::Left& left) {
  auto* row = new QWidget;
  auto* lines = new QVBoxLayout(row);
  lines->setContentsMargins(0, 2, 0, 2);
  lines->setSpacing(3);
  auto* what =
      new QLabel(tr("%1, %2").arg(left.title, QLocale().toString(left.when, QLocale::ShortFormat)));
  what->setWordWrap(true);
  if (!left.project.isEmpty()) what->setToolTip(tr("Unsaved changes of %1").arg(left.project));
  lines->addWidget(what);
  auto* buttons = new QHBoxLayout;
  auto* recover = new QPushButton(tr("Recover"));
  recover->setObjectName(QStringLiteral("recover"));
  recover->setAccessibleName(tr("Recover %1").arg(left.title));
  auto* decline = new QPushButton(tr("Throw away"));
  decline->setObjectName(QStringLiteral("declineRecovery"));
  decline->setAccessibleName(tr("Throw away %1").arg(left.title));
  buttons->addWidget(recover, 1);
  buttons->addWidget(decline);
  lines->addLayout(buttons);
  rows_->addWidget(row);
  connect(recover, &QPushButton::clicked, this, [this, row, left] {
    Q_EMIT recoverWanted(left);
    done(row);
  });
  connect(decline, &QPushButton::clicked, this, [this, row, left] {
    Autosave::forget(left.copy);
    done(row);
  });
}

void RecoveryNotice::done(QWidget* row) {
  row->hide();
  row->deleteLater();
  rows_->removeWidget(row);
  if (rows_->count() == 1) deleteLater();
}

}  // namespace lostline::app
