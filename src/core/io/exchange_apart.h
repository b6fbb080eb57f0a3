#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/apart.h"
#include "io/read_curves.h"
#include "model/model.h"

// Readers of exchange formats in the kernel's processes: they follow bad pointers, or turn for
// ever, on some damaged files. The same within this process have the ending _here.

namespace lostline::io {

/// What such a process can be asked for.
const std::vector<ApartWork>& exchange_works();

Result<model::Model> read_step_apart(const std::string& text, const std::string& shown,
                                     const std::string& key);
Result<model::Model> read_step_text_here(const std::string& text, const std::string& shown,
                                         const std::string& key);
/// @param iges  else STEP.
Result<PlaneCurves> read_curves_apart(const std::filesystem::path& path, bool iges);
Result<PlaneCurves> read_curves_here(const std::filesystem::path& path, bool iges);

}  // namespace lostline::io
