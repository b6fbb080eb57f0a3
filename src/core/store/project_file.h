#pragma once

#include <filesystem>

#include "project/document.h"

namespace lostline::store {

constexpr int kFormatVersion = 10;

/// Writes a project: a zip with manifest.json and binary scan data, described in
/// docs/design/project-format.md. Atomic: a failure leaves the old file.
/// @errors Io with the system's reason;  Cancelled.
Status save_project(const std::filesystem::path& path, const project::Document& document,
                    const Task& task = {});

class BulkFolder;
/// Writes a project whose bulk data lie in a folder beside it, each written once: the next time
/// only the manifest and what is new. Atomic as save_project(); what the file named before stays
/// until it is replaced. For copies that stay where they are; load_project() reads them.
/// @errors as save_project.
Status save_beside(const std::filesystem::path& path, const project::Document& document,
                   BulkFolder& bulk, const Task& task = {});

/// Reads a project and brings it up to date (sections are cut again, sketches checked).
/// @errors Io;  InvalidInput  no project, damaged (the message says which part), or written by a
/// newer version;  Cancelled.
Result<project::Document> load_project(const std::filesystem::path& path, const Task& task = {});

/// The Ledger as CSV (RFC 4180, UTF-8), one line a row with name, reading, U, intent, difference,
/// unit, source, reason.
std::string ledger_csv(const project::Document& document);

}  // namespace lostline::store
