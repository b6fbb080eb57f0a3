#pragma once

#include "curve/space_spline.h"
#include "project/document.h"

// Curves in space from what the scan, the model and sketches show; part coordinates.

namespace lostline::reading {

/// Places of a curve and how far what it follows lies from it.
struct CurveReading {
  std::vector<Vec3> places;
  bool closed = false;
  double rms = 0;       ///< mm
  double greatest = 0;  ///< mm
  std::string source;   ///< in words
};

/// What the noise and spacing of a scan let a curve tell: the tolerance where none is said, mm.
double curve_tolerance(const project::Document& document);

/// A curve through places on the scan that stays on its surface: places are put between where it
/// would leave that by more than the tolerance.
/// @errors InvalidInput  no scan, or too few places;  Failed  the scan has a gap on the way that is
/// wider than a tenth of the curve.
Result<CurveReading> curve_on_scan(const project::Document& document,
                                   const std::vector<Vec3>& places, bool closed, double tolerance);

/// The border of a region that runs nearest to a place.
/// @errors InvalidInput  no such region;  as curve::follow.
Result<CurveReading> border_curve(const project::Document& document, std::uint32_t region,
                                  const Vec3& near, double tolerance);

/// The middle line of a region that is a strip: through the middles of what lies equally far from
/// its end, measured along the surface.
/// @errors InvalidInput  no such region;  Degenerate  it is no strip: as wide as long, forked or
/// closed.
/// Source: level sets of the distance from an end, after F. Lazarus and A. Verroust, Level set
/// diagrams of polyhedral objects, ACM Solid Modeling (1999).
Result<CurveReading> middle_curve(const project::Document& document, std::uint32_t region,
                                  double tolerance);

/// Where the curves of two sketches, each drawn along its own normal, cross.
/// @errors InvalidInput  a sketch without curves, or both planes parallel;  Degenerate  they do not
/// cross.
Result<CurveReading> crossing_curve(const project::TracedSketch& first,
                                    const project::TracedSketch& second, double tolerance);

/// Along points that are known in order, as those of a model's edge or of a probe.
Result<CurveReading> curve_along(const std::vector<Vec3>& points, bool closed, double tolerance,
                                 const std::string& source);

}  // namespace lostline::reading
