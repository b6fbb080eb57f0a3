#pragma once

#include "tools/tool.h"

namespace lostline::app {

/// What comes next in the order of work, as the project stands.
struct NextThing {
  QString text;                ///< "12 planes and 9 cylinders found: choose a datum frame"
  const Tool* tool = nullptr;  ///< null: a file is to be opened
  project::Id step = 0;        ///< to be opened instead of a tool
};

NextThing next_thing(const project::Document& document, const RouteState& route);

}  // namespace lostline::app
