#pragma once

#include "project/ledger.h"
#include "reading/names.h"

namespace lostline::reading {

/// The roughest finish among the regions that a row's reading rests on; empty when none is known.
std::optional<survey::Finish> finish_of(const Document& document, const Dimension& row);
/// Standard values near a row's surest reading (its value where it has none), ranked with the
/// finish of its evidence.
std::vector<standards::Nominal> nominals_of(const Document& document, const Dimension& row);
/// Decisions that the evidence supports, a row each; none where the section and whole regions tell
/// different values.
std::vector<project::Proposal> propose_inks(const Document& document);

}  // namespace lostline::reading
