#include "windows/start_page.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSettings>

#include "look/theme.h"

namespace lostline::app {
namespace {

constexpr int kMost = 5;  // recent files listed

}  // namespace

StartPage::StartPage(QWidget* parent) : QWidget(parent), recent_(new QVBoxLayout) {
  setObjectName(QStringLiteral("startPage"));
  setFixedWidth(440);
  auto* layout = new QVBoxLayout(this);
  layout->setSpacing(10);
  auto* text =
      new QLabel(tr("Open a scan of the part, or drop a file here.\n"
                    "Then work down the seven stages at the left; each offers its tools.\n"
                    "What the scan says is pencilled; what you decide is inked."));
  text->setFont(body_font(13));
  text->setWordWrap(true);
  layout->addWidget(text);
  auto* buttons = new QHBoxLayout;
  const auto add = [&](const QString& name, const QString& tip, bool first, auto signal) {
    auto* button = new QPushButton(name);
    if (first) button->setObjectName(QStringLiteral("keep"));
    button->setToolTip(tip);
    connect(button, &QPushButton::clicked, this, signal);
    buttons->addWidget(button);
  };
  add(tr("Open a scan \u2026"), tr("A scan or a project (Ctrl+O)"), false, &StartPage::openWanted);
  add(tr("Open the demo"), tr("The scan of the worn pedestal that ships with the program"), true,
      &StartPage::demoWanted);
  add(tr("Take the tour"), tr("Five steps on the demo, from scan to model; leave it at any time"),
      false, &StartPage::tourWanted);
  layout->addLayout(buttons);
  layout->addLayout(recent_);
  recent_->setSpacing(2);
  refresh();
}

void StartPage::refresh() {
  while (QLayoutItem* item = recent_->takeAt(0)) {
    if (item->widget() != nullptr) item->widget()->deleteLater();
    delete item;
  }
  int listed = 0;
  for (const QString& path : QSettings().value(QStringLiteral("files/recent")).toStringList()) {
    const QFileInfo info(path);
    if (!info.exists() || listed == kMost) continue;
    if (listed++ == 0) {
      auto* head = new QLabel(tr("Worked on before"));
      head->setObjectName(QStringLiteral("heading"));
      recent_->addWidget(head);
    }
    auto* button =
        new QPushButton(QStringLiteral("%1    %2")
                            .arg(info.fileName(),
                                 info.lastModified().toString(QStringLiteral("yyyy-MM-dd hh:mm"))));
    button->setObjectName(QStringLiteral("recentFile"));
    button->setStyleSheet(QStringLiteral("text-align: left;"));
    button->setAccessibleName(tr("Open %1").arg(info.fileName()));
    button->setToolTip(path);
    connect(button, &QPushButton::clicked, this, [this, path] { Q_EMIT fileWanted(path); });
    recent_->addWidget(button);
  }
  adjustSize();
}

}  // namespace lostline::app
