#pragma once

#include <nlohmann/json.hpp>

#include "project/document.h"

namespace lostline::project {

using Json = nlohmann::ordered_json;

/// Everything of a document but the bulk data of scan, survey and fits.
Json write_manifest(const Document& document);
/// Fills a document from a manifest; throws nlohmann::json::exception where it does not follow the
/// schema. Bulk data is filled in by the caller.
Document read_manifest(const Json& manifest);

}  // namespace lostline::project
