#pragma once

#include "deviation/deviation.h"
#include "section/section.h"

namespace lostline::deviation {

/// A plane section of scan against model, in the plane's 2D frame.
struct SectionComparison {
  struct Whisker {
    Vec2 foot;     ///< on the model's section
    Vec2 point;    ///< of the scan's section
    double value;  ///< signed: proud positive, mm
  };
  section::Section scan;
  section::Section model;
  std::vector<Whisker> whiskers;  ///< of every scan point within reach of the model
  std::size_t far = 0;            ///< scan points beyond reach
  double rms = 0, mean = 0;
  double greatest = 0;  ///< signed
  Vec2 greatest_at = Vec2::Zero();
  double within_fraction = 0;  ///< of the whiskers
};

/// Section of a solid: its faces in chords within a hundredth of a millimetre.
/// @errors Failed  a face cannot be triangulated.
Result<section::Section> cut_solid(const model::Model& solid, const Placement& plane);

/// @param scan, model  sections by one plane.
/// @param reach  mm: scan points further from the model's section have no counterpart.
SectionComparison compare_sections(section::Section scan, section::Section model, double reach,
                                   double tolerance);

}  // namespace lostline::deviation
