#pragma once

#include <set>

#include "bench/bench_view.h"
#include "project/document.h"

namespace lostline::app {

/// Lines that show a section and a sketch on the Bench: pencil strokes for what is loose, ink for
/// what is held, red for what is picked or clashes.
std::vector<LineBatch> sketch_marks(const Placement& base, double level,
                                    const section::Section& section, const sketch::Sketch& sketch,
                                    const std::set<sketch::Id>& loose,
                                    const std::set<sketch::Id>& picked, bool whiskers,
                                    double reach);

/// How whiskers are drawn longer than they are.
struct WhiskerScale {
  double gain = 1;     ///< one round number, to be told beside the picture
  double longest = 0;  ///< mm as drawn: longer ones are cut off there
};
/// Ordinary whiskers reach a hundredth of the picture, none reaches further than a sixteenth.
WhiskerScale whisker_scale(const sketch::Drift& drift, const section::Section& section);

/// Lines at 45 degrees inside outlines (an outer one and its holes), `apart` mm from each other.
std::vector<std::pair<Vec2, Vec2>> hatch_lines(const std::vector<sketch::Polygon>& outlines,
                                               double apart);

/// The sketch point or entity under the pointer, points first; 0 when there is none within 9
/// pixels.
sketch::Id sketch_item_at(const BenchView& bench, const Camera& camera, const Placement& base,
                          double level, const sketch::Sketch& sketch, const QPointF& at,
                          bool points);

/// Where the pointer's ray meets the plane at `level`, in its 2D frame; none when it looks along
/// the plane.
std::optional<Vec2> plane_point(const Camera& camera, const Placement& base, double level,
                                const QPointF& at);

}  // namespace lostline::app
