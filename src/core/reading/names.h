#pragma once

#include "project/document.h"

// What is read from a project's scan speaks of the project's own things throughout.

namespace lostline::reading {

using project::Dimension;
using project::Document;
using project::FitRef;
using project::Id;
using project::Scan;
using project::TracedSketch;

}  // namespace lostline::reading
