#pragma once

#include "project/edits.h"
#include "reading/names.h"

namespace lostline::reading {

/// What the scan says about the numbers of a step, as its kind reads them: Ledger fields in mm or
/// degrees; what was chosen and not measured as the intent. Empty without a scan, or for kinds that
/// read nothing.
/// @param before  the part that the step is made on.
/// @param id  of the step; a new one's is the document's next.
std::vector<project::FieldReading> read_step(const Document& document,
                                             const model::Feature& feature,
                                             const model::Model& before, Id id,
                                             const Task& task = {});

}  // namespace lostline::reading
