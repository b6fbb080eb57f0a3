#pragma once

#include <QString>
#include <vector>

#include "project/document.h"
#include "sketch/redraw.h"

namespace lostline::app {

/// The numbers a change of a sketch may ask for.
struct ChangeNumbers {
  double x = 0, y = 0;  ///< mm
  double angle = 0;     ///< rad
  double factor = 1;
  int count = 6;
  sketch::As as = sketch::As::Fewest;
};

/// One change of what is picked in a sketch, with the numbers it asks for.
struct SketchChange {
  const char* command;
  const char* title;
  const char* tip;
  enum Asks { Nothing = 0, Shift = 1, Angle = 2, Factor = 4, Count = 8, Kind = 16 };
  int asks;
  /// @param said  receives what it did, in numbers, where there is something to say.
  Result<sketch::Sketch> (*apply)(const project::TracedSketch& traced,
                                  const std::vector<sketch::Id>& picks,
                                  const ChangeNumbers& numbers, QString& said);
};
const std::vector<SketchChange>& sketch_changes();

}  // namespace lostline::app
