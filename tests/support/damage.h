#pragma once

#include <filesystem>
#include <nlohmann/json.hpp>
#include <random>
#include <string>

// Files damaged by chance, and what the readers make of them.

namespace lostline::testing {

/// Cut off, with other bytes, another digit, with a stretch twice or without one. Of an archive
/// half the time what is in it, sealed again: its checksums would keep the damage from those who
/// read that.
std::string damaged(const std::string& good, std::mt19937_64& random);

/// What an entry of an archive holds; empty when it has none of that name.
std::string entry_of(const std::string& archive, const std::string& name);
/// The archive with other content of an entry.
std::string with_entry(const std::string& archive, const std::string& name,
                       const std::string& content);
/// A manifest, or anything of that form, with some of its parts of another type, beyond its size,
/// twice, missing, or in each other's place: numbers that name something then name something else.
void exchange_parts(nlohmann::ordered_json& json, std::mt19937_64& random);

struct ReadFile {
  bool taken = false;
  bool sound = true;    ///< what was taken names no vertex that is not there, and is finite
  std::string message;  ///< of a file that was refused
};
/// Reads a file as what its name says: a mesh, a cloud, a model, curves or a project.
ReadFile read_any(const std::filesystem::path& path);

}  // namespace lostline::testing
