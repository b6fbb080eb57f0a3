#include "tools/receive/instrument_card.h"

#include "look/catalogue.h"

namespace lostline::app {

using instruments::Introduction;

InstrumentCard::InstrumentCard(Workplace place, const QString& title, Introduction::Kind kind)
    : ToolCard(place, title, tr("Receive")), kind_(kind) {
  which_ = new QComboBox;
  which_->setObjectName(QStringLiteral("instrument"));
  which_->addItems(
      {kind == Introduction::Kind::Scanner ? tr("stand-in turntable") : tr("stand-in touch probe"),
       tr("at a socket")});
  which_->setToolTip(tr("A stand-in works on a model of a part; others wait at a local socket"));
  addRow(tr("instrument"), which_);
  where_ = new QLineEdit;
  where_->setObjectName(QStringLiteral("instrumentWhere"));
  where_label_ = addRow(QString(), where_);
  const auto choose = [this] {
    const bool stand_in = which_->currentIndex() == 0;
    where_label_->setText(stand_in ? tr("part") : tr("socket"));
    where_->setPlaceholderText(stand_in ? tr("the demo part") : tr("/run/instrument"));
    where_->setToolTip(stand_in ? tr("Model of the part that it works on; empty: the demo part")
                                : tr("Name in the file system at which the instrument waits"));
    where_->setAccessibleName(where_label_->text());
    hangUp();
  };
  choose();
  connect(which_, &QComboBox::currentIndexChanged, this, choose);
  connect(where_, &QLineEdit::textChanged, this, [this] { hangUp(); });
}

void InstrumentCard::withTalk(TalkWork work) {
  const bool stand_in = which_->currentIndex() == 0;
  aside([this, work = std::move(work), known = talk_, stand_in, kind = kind_,
         where = where_->text().trimmed().toStdString()](const Task& task) -> Session::Finish {
    std::shared_ptr<Talk> talk = known;
    const auto failed = [this](const Error& error) -> Session::Finish {
      return [this, error] {
        hangUp();
        setError(core_text(error.message));
      };
    };
    if (talk == nullptr) {
      std::unique_ptr<StandIn> other;
      std::string socket = where;
      if (stand_in) {
        auto started = StandIn::start(kind, where);
        if (!started) return failed(started.error());
        other = *std::move(started);
        socket = other->socket();
      }
      auto client = instruments::Client::connect(socket, task);
      if (!client) return failed(client.error());
      talk = std::make_shared<Talk>(Talk{std::move(other), *std::move(client)});
      const Introduction& said = talk->client.instrument();
      if (said.kind != kind && kind == Introduction::Kind::Scanner)
        return failed(Error{ErrorCode::InvalidInput, said.name + " is a probe, not a scanner."});
      if (said.kind != kind)
        return failed(Error{ErrorCode::InvalidInput, said.name + " is a scanner, not a probe."});
    }
    Session::Finish finish = work(talk, task);
    return [this, talk, finish] {
      talk_ = talk;
      if (finish) finish();
    };
  });
}

}  // namespace lostline::app
