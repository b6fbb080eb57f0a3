#pragma once

#include <filesystem>
#include <random>
#include <string>

// Files damaged by chance, and what the readers make of them.

namespace lostline::testing {

/// Cut off, with other bytes, another digit, with a stretch twice or without one. Of an archive half
/// the time what is in it, sealed again: its checksums would keep the damage from those who read
/// that.
std::string damaged(const std::string& good, std::mt19937_64& random);

struct ReadFile {
  bool taken = false;
  bool sound = true;    ///< what was taken names no vertex that is not there, and is finite
  std::string message;  ///< of a file that was refused
};
/// Reads a file as what its name says: a mesh, a cloud, a model, curves or a project.
ReadFile read_any(const std::filesystem::path& path);

}  // namespace lostline::testing
