#pragma once

#include "jobs/session.h"

namespace lostline::app {

/// What comes next in the order of work, as the project stands.
struct NextThing {
  QString text;  ///< "12 planes and 9 cylinders found: choose a datum frame"
  int stage = 0;
  QString tool;          ///< of the stage's rail
  project::Id step = 0;  ///< to be opened instead of a tool
};

NextThing next_thing(const project::Document& document, const RouteState& route);

}  // namespace lostline::app
