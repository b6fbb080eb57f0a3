#include "windows/rail.h"

#include <QPainter>

#include "look/theme.h"

namespace lostline::app {
namespace {

/// Number in a circle: filled ink when the stage holds results, red when it is the present one.
QPixmap badge(int number, bool present, bool done) {
  constexpr int kSize = 26;
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

QString Rail::stageName(int stage) {
  const QString names[] = {tr("Receive"), tr("Datum"), tr("Survey"), tr("Trace"),
                           tr("Build"),   tr("Prove"), tr("Release")};
  return names[stage];
}

Rail::Rail(QWidget* parent) : QWidget(parent), layout_(new QVBoxLayout(this)) {
  setObjectName(QStringLiteral("rail"));
  setAttribute(Qt::WA_StyledBackground);
  setFixedWidth(92);
  layout_->setContentsMargins(4, 10, 4, 8);
  layout_->setSpacing(3);
  for (int i = 0; i < 7; ++i) {
    Stage stage;
    stage.button = new QToolButton;
    stage.button->setObjectName(QStringLiteral("stage"));
    stage.button->setText(stageName(i));
    stage.button->setAccessibleName(stageName(i));
    stage.button->setToolTip(tr("%1 (Ctrl+%2)").arg(stageName(i)).arg(i + 1));
    stage.button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    stage.button->setIconSize(QSize(26, 26));
    stage.button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(stage.button, &QToolButton::clicked, this, [this, i] { Q_EMIT stageChosen(i); });
    stage.tools = new QWidget;
    auto* column = new QVBoxLayout(stage.tools);
    column->setContentsMargins(0, 0, 0, 4);
    column->setSpacing(1);
    layout_->addWidget(stage.button);
    layout_->addWidget(stage.tools);
    stages_.push_back(stage);
  }
  layout_->addStretch();
  setStage(0);
}

void Rail::setTools(int stage, std::vector<ToolEntry> tools) {
  Stage& s = stages_[static_cast<std::size_t>(stage)];
  for (QToolButton* old : s.buttons) delete old;
  s.buttons.clear();
  s.entries = std::move(tools);
  for (const ToolEntry& entry : s.entries) {
    auto* button = new QToolButton;
    button->setObjectName(QStringLiteral("tool"));
    button->setText(entry.name);
    button->setAccessibleName(entry.name);
    button->setIcon(icon(entry.icon));
    button->setIconSize(QSize(15, 15));
    button->setToolTip(entry.tip);
    button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    button->setCheckable(true);
    connect(button, &QToolButton::clicked, this, [start = entry.start] { start(); });
    s.tools->layout()->addWidget(button);
    s.buttons.push_back(button);
  }
}

QStringList Rail::toolNames(int stage) const {
  QStringList names;
  for (const ToolEntry& entry : stages_[static_cast<std::size_t>(stage)].entries)
    names << entry.name;
  return names;
}

void Rail::setStage(int stage) {
  stage_ = stage;
  for (std::size_t i = 0; i < stages_.size(); ++i)
    stages_[i].tools->setVisible(static_cast<int>(i) == stage);
}

void Rail::refresh(const std::vector<bool>& done) {
  for (std::size_t i = 0; i < stages_.size(); ++i) {
    stages_[i].button->setIcon(
        QIcon(badge(static_cast<int>(i) + 1, static_cast<int>(i) == stage_, done[i])));
    stages_[i].button->setFont(body_font(11, static_cast<int>(i) == stage_));
    for (std::size_t k = 0; k < stages_[i].buttons.size(); ++k) {
      const bool possible = stages_[i].entries[k].possible();
      stages_[i].buttons[k]->setEnabled(possible);
      stages_[i].buttons[k]->setIcon(
          icon(stages_[i].entries[k].icon, possible ? role::ink : role::graphite_light));
    }
  }
}

void Rail::setRunning(const QString& tool) {
  for (Stage& stage : stages_) {
    for (QToolButton* button : stage.buttons) button->setChecked(button->text() == tool);
  }
}

}  // namespace lostline::app
