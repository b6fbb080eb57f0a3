#pragma once

#include "bench/bench_view.h"
#include "panels/strip.h"

namespace lostline::app {

/// Shows on Bench and Strip what a Ledger row rests on: its curves in the section, the faces its
/// step made, or the regions it was measured between.
void show_row_evidence(const Session& session, BenchView& bench, Strip& strip, project::Id row);

}  // namespace lostline::app
