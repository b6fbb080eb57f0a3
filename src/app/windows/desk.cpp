#include "windows/desk.h"

#include <algorithm>

namespace lostline::app {

Desk::Desk(Workplace place, QVBoxLayout* slot, QObject* parent)
    : QObject(parent), place_(place), slot_(slot) {}

void Desk::start(const Tool& tool, project::Id subject) {
  setAside();
  const auto waits = std::find_if(waiting_.begin(), waiting_.end(), [&](const Open& o) {
    return o.tool == &tool && o.subject == subject;
  });
  shown_ = place_.bench.show();
  if (waits != waiting_.end()) {
    const Open open = *waits;
    waiting_.erase(waits);
    open.card->wake();
    place(open);
    open.card->documentChanged();
    open.card->resume();
  } else {
    ToolCard* card = tool.make(place_, subject);
    connect(card, &ToolCard::finished, this, [this, card] { ended(card); });
    connect(card, &ToolCard::sketchWanted, this, &Desk::sketchWanted);
    place({&tool, subject, card});
    card->begin();
  }
  place_.bench.setFocus();
}

void Desk::place(Open open) {
  running_ = std::move(open);
  slot_->insertWidget(0, running_.card);
  running_.card->show();
  Q_EMIT changed(running_.tool->title());
}

void Desk::setAside() {
  if (running_.card == nullptr) return;
  if (!running_.card->touched()) return running_.card->close();
  Open open = std::exchange(running_, {});
  open.card->suspend();
  slot_->removeWidget(open.card);
  waiting_.push_back(std::move(open));
  place_.bench.setShow(shown_);
  Q_EMIT changed({});
}

void Desk::comeBack(int stage) {
  if (running_.card != nullptr) return;
  const auto waits = std::find_if(waiting_.rbegin(), waiting_.rend(),
                                  [&](const Open& o) { return o.tool->stage == stage; });
  if (waits != waiting_.rend()) start(*waits->tool, waits->subject);
}

void Desk::ended(ToolCard* card) {
  card->hide();
  slot_->removeWidget(card);
  card->deleteLater();
  std::erase_if(waiting_, [&](const Open& o) { return o.card == card; });
  if (running_.card != card)
    return Q_EMIT changed(running_.card != nullptr ? running_.tool->title() : QString());
  running_ = {};
  place_.bench.setShow(shown_);
  Q_EMIT changed({});
}

void Desk::clear() {
  if (running_.card != nullptr) running_.card->close();
  while (!waiting_.empty()) waiting_.back().card->close();
}

void Desk::retire(Open& open) {
  Q_EMIT said(
      tr("%1 was closed: what it worked on is gone. Redo brings it back.").arg(open.tool->title()));
  open.card->close();
}

void Desk::documentChanged() {
  const std::vector<Open> waiting = waiting_;
  for (Open open : waiting) {
    if (!open.tool->stands(place_.session, open.subject)) retire(open);
  }
  if (running_.card == nullptr) return;
  if (!running_.tool->stands(place_.session, running_.subject)) return retire(running_);
  if (!running_.card->keeping()) running_.card->documentChanged();
}

void Desk::unitChanged() {
  for (const Open& open : waiting_) open.card->unitChanged();
  if (running_.card != nullptr) running_.card->unitChanged();
}

QStringList Desk::unkept(bool running) const {
  QStringList names;
  for (const Open& open : waiting_) names << open.tool->title();
  if (running && running_.card != nullptr && running_.card->touched())
    names << running_.tool->title();
  return names;
}

std::vector<int> Desk::waitingStages() const {
  std::vector<int> stages;
  for (const Open& open : waiting_) stages.push_back(open.tool->stage);
  return stages;
}

}  // namespace lostline::app
