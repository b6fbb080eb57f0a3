#pragma once

#include <string_view>
#include <vector>

#include "model/feature.h"

namespace lostline::model {

/// Every kind of step, in the order in which they are offered.
const std::vector<const FeatureKind*>& feature_kinds();
/// Null when there is none of this key.
const FeatureKind* find_feature_kind(std::string_view key);

}  // namespace lostline::model
