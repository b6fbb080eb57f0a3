#pragma once

#include <string>

#include "project/document.h"

namespace lostline::store {

/// Where a document read from a file contradicts itself: a number given twice, something named that
/// is not there, a size that no part has; in words for after "the file is damaged:". Empty when it
/// does not. The next number to give out is raised above all that were.
std::string contradiction_in(project::Document& document);

}  // namespace lostline::store
