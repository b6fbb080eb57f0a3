#pragma once

#include <QHBoxLayout>
#include <QLabel>

namespace lostline::app {

/// The line at the top of a panel: its name, and a summary at the right.
inline QHBoxLayout* panel_head(const QString& name, QLabel* summary) {
  auto* head = new QHBoxLayout;
  auto* heading = new QLabel(name);
  heading->setObjectName(QStringLiteral("heading"));
  summary->setObjectName(QStringLiteral("summary"));
  head->addWidget(heading);
  head->addStretch();
  head->addWidget(summary);
  return head;
}

}  // namespace lostline::app
