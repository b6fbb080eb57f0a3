#pragma once

#include "deviation/deviation.h"
#include "project/document.h"
#include "report/drawing.h"

namespace lostline::report {

Drawing histogram_figure(const deviation::Histogram& histogram, double tolerance);
/// Section, sketch and enlarged whiskers.
Drawing section_figure(const project::TracedSketch& traced, const sketch::Drift& drift);

}  // namespace lostline::report
