#pragma once

#include <future>
#include <memory>
#include <stop_token>
#include <string>

#include "instruments/instrument.h"

namespace lostline::app {

/// A stand-in instrument that waits at a socket of its own on a thread, as a real one would beside
/// the computer. Stops when it goes.
class StandIn {
 public:
  /// @param model  file of the part; empty: the demo part.
  /// @errors as io::read_model and the instrument.
  /// Takes a second: not on the interface's thread.
  static Result<std::unique_ptr<StandIn>> start(instruments::Introduction::Kind kind,
                                                const std::string& model);
  ~StandIn();
  StandIn(const StandIn&) = delete;
  StandIn& operator=(const StandIn&) = delete;
  [[nodiscard]] const std::string& socket() const { return socket_; }

 private:
  explicit StandIn(std::unique_ptr<instruments::Instrument> instrument);
  std::unique_ptr<instruments::Instrument> instrument_;
  std::string socket_;
  std::stop_source stop_;
  std::future<Status> serving_;
};

}  // namespace lostline::app
