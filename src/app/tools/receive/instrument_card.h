#pragma once

#include <QComboBox>
#include <QLineEdit>

#include "instruments/client.h"
#include "jobs/stand_in.h"
#include "tools/tool.h"

namespace lostline::app {

/// A talk with an instrument, and the stand-in at its other end where it is one. Used by one worker
/// at a time.
struct Talk {
  std::unique_ptr<StandIn> stand_in;
  instruments::Client client;
};

/// What the cards of instruments share: which one, and connecting to it.
class InstrumentCard : public ToolCard {
 protected:
  InstrumentCard(Workplace place, const QString& title, instruments::Introduction::Kind kind);

  /// Connects where that was not done, then works with the talk on a worker.
  using TalkWork = std::function<Session::Finish(const std::shared_ptr<Talk>&, const Task&)>;
  void withTalk(TalkWork work);
  /// The next talk begins anew.
  void hangUp() { talk_.reset(); }

 private:
  instruments::Introduction::Kind kind_;
  QComboBox* which_;
  QLineEdit* where_;
  QLabel* where_label_;
  std::shared_ptr<Talk> talk_;
};

}  // namespace lostline::app
