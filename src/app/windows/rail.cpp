#include "windows/rail.h"

#include <QMenu>
#include <QPainter>
#include <map>
#include <set>

#include "look/theme.h"

namespace lostline::app {
namespace {

/// Number in a circle: filled ink when the stage holds results, red when it is the present one.
QPixmap badge(int number, bool present, bool done) {
  constexpr int kSize = 24;
  QPixmap pixmap(2 * kSize, 2 * kSize);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  const QColor colour = present ? role::red_pencil : done ? role::ink : role::graphite;
  painter.setPen(QPen(colour, 1.6));
  painter.setBrush(done && !present ? QBrush(role::ink) : QBrush(role::card));
  painter.drawEllipse(QRectF(2, 2, kSize - 4, kSize - 4));
  painter.setPen(done && !present ? role::card : colour);
  painter.setFont(body_font(11));
  painter.drawText(QRectF(0, 0, kSize, kSize), Qt::AlignCenter, QString::number(number));
  return pixmap;
}

}  // namespace

Rail::Rail(QWidget* parent) : QWidget(parent), layout_(new QVBoxLayout(this)) {
  setObjectName(QStringLiteral("rail"));
  setAttribute(Qt::WA_StyledBackground);
  setFixedWidth(98);
  layout_->setContentsMargins(3, 8, 3, 6);
  layout_->setSpacing(4);
  for (int i = 0; i < kStages; ++i) {
    Stage stage;
    stage.button = new QToolButton;
    stage.button->setObjectName(QStringLiteral("stage"));
    stage.button->setText(stage_name(i));
    stage.button->setAccessibleName(stage_name(i));
    stage.button->setToolTip(tr("%1 (Ctrl+%2)").arg(stage_name(i)).arg(i + 1));
    stage.button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    stage.button->setIconSize(QSize(24, 24));
    stage.button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(stage.button, &QToolButton::clicked, this, [this, i] { Q_EMIT stageChosen(i); });
    stage.tools = new QWidget;
    auto* column = new QVBoxLayout(stage.tools);
    column->setContentsMargins(0, 0, 0, 4);
    column->setSpacing(1);
    layout_->addWidget(stage.button);
    layout_->addWidget(stage.tools);
    stages_.push_back(stage);
    fill(i);
  }
  layout_->addStretch();
  setStage(0);
}

QToolButton* Rail::make_button(const QString& name, const QString& icon_name, const QString& tip) {
  auto* button = new QToolButton;
  button->setObjectName(QStringLiteral("tool"));
  button->setText(name);
  button->setProperty("name", name);
  button->setAccessibleName(name);
  button->setIcon(icon(icon_name));
  button->setIconSize(QSize(15, 15));
  button->setToolTip(tip);
  button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  button->setCheckable(true);
  return button;
}

void Rail::fill(int stage) {
  Stage& s = stages_[static_cast<std::size_t>(stage)];
  if (stage == kReceive) {
    QToolButton* open =
        make_button(tr("Open"), QStringLiteral("scan-line"), tr("Open a scan or project (Ctrl+O)"));
    open->setCheckable(false);
    connect(open, &QToolButton::clicked, this, &Rail::openWanted);
    s.tools->layout()->addWidget(open);
  }
  std::map<QString, QToolButton*> groups;
  for (const Tool& tool : tools()) {
    if (tool.stage != stage) continue;
    const QString drawn = QString::fromUtf8(tool.icon);
    const auto start = [this, &tool] { Q_EMIT toolChosen(tool); };
    if (tool.group == nullptr) {
      QToolButton* button = make_button(tool.title(), drawn, tool.hint());
      connect(button, &QToolButton::clicked, this, start);
      s.tools->layout()->addWidget(button);
      s.shown.push_back({&tool, button, nullptr});
      continue;
    }
    const QString group = QCoreApplication::translate("tools", tool.group);
    QToolButton*& button = groups[group];
    if (button == nullptr) {
      button = make_button(group, drawn, tr("A list of tools"));
      button->setPopupMode(QToolButton::InstantPopup);
      button->setMenu(new QMenu(button));
      button->menu()->setToolTipsVisible(true);
      s.tools->layout()->addWidget(button);
    }
    QAction* line = button->menu()->addAction(icon(drawn), tool.title());
    line->setToolTip(tool.hint());
    connect(line, &QAction::triggered, this, start);
    s.shown.push_back({&tool, button, line});
  }
}

QStringList Rail::toolNames(int stage) const {
  QStringList names;
  for (const auto& shown : stages_[static_cast<std::size_t>(stage)].shown)
    names << shown.tool->title();
  return names;
}

void Rail::setStage(int stage) {
  stage_ = stage;
  // The others fold before it unfolds: both at once would push a small window larger.
  for (std::size_t i = 0; i < stages_.size(); ++i) {
    if (static_cast<int>(i) != stage) stages_[i].tools->hide();
  }
  stages_[static_cast<std::size_t>(stage)].tools->show();
}

void Rail::refresh(const std::vector<bool>& done, const Session& session) {
  for (std::size_t i = 0; i < stages_.size(); ++i) {
    stages_[i].button->setIcon(
        QIcon(badge(static_cast<int>(i) + 1, static_cast<int>(i) == stage_, done[i])));
    stages_[i].button->setFont(body_font(11, static_cast<int>(i) == stage_));
    std::set<QToolButton*> useful;
    for (const auto& [tool, button, line] : stages_[i].shown) {
      const bool possible = tool->possible(session);
      const QIcon drawn =
          icon(QString::fromUtf8(tool->icon), possible ? role::ink : role::graphite_light);
      // The button of a group bears the icon of its first tool.
      if (line != nullptr && button->menu()->actions().front() == line) button->setIcon(drawn);
      if (possible) useful.insert(button);
      button->setEnabled(useful.contains(button));
      const QString tip = possible ? tool->hint() : tool->hint() + QLatin1Char('\n') + tool->lack();
      if (line == nullptr) {
        button->setIcon(drawn);
        button->setToolTip(tip);
      } else {
        line->setEnabled(possible);
        line->setIcon(drawn);
        line->setToolTip(tip);
      }
    }
  }
}

void Rail::setRunning(const QString& tool) {
  for (Stage& stage : stages_) {
    for (const auto& shown : stage.shown) shown.button->setChecked(false);
    for (const auto& shown : stage.shown) {
      if (shown.tool->title() == tool) shown.button->setChecked(true);
    }
  }
}

void Rail::setWaiting(const QStringList& tools, const std::vector<int>& stages) {
  const auto mark = [](const QString& name, bool waits) {
    return waits ? name + QStringLiteral(" \u2022") : name;
  };
  for (std::size_t i = 0; i < stages_.size(); ++i) {
    const bool any = std::find(stages.begin(), stages.end(), static_cast<int>(i)) != stages.end();
    const QString stage = stage_name(static_cast<int>(i));
    stages_[i].button->setText(mark(stage, any));
    stages_[i].button->setAccessibleName(any ? tr("%1, work waits here").arg(stage) : stage);
    std::map<QToolButton*, bool> waits;
    for (const auto& [tool, button, line] : stages_[i].shown) {
      const bool on = tools.contains(tool->title());
      waits[button] = waits[button] || on;
      const QString tip =
          on ? tr("%1\nWaits with work that is not kept: click to go on with it").arg(tool->hint())
             : tool->hint();
      if (line != nullptr) {
        line->setText(mark(tool->title(), on));
        line->setToolTip(tip);
      } else {
        button->setToolTip(tip);
      }
    }
    for (const auto& [button, on] : waits)
      button->setText(mark(button->property("name").toString(), on));
  }
}

}  // namespace lostline::app
