#pragma once

#include <nlohmann/json.hpp>

#include "project/document.h"

namespace lostline::store {

using Json = nlohmann::ordered_json;

/// Everything of a document but the bulk data of scan, survey and fits.
Json write_manifest(const project::Document& document);
/// Fills a document from a manifest; throws nlohmann::json::exception where it does not follow the
/// schema. Bulk data is filled in by the caller.
project::Document read_manifest(const Json& manifest);
/// The file that a scan came from, from the entry of the scan.
std::string read_source(const Json& scan);
/// How a scan was meshed from points, from the entry of the scan; empty where it was not.
std::optional<project::FromPoints> read_from_points(const Json& scan);

}  // namespace lostline::store
