#pragma once

#include <filesystem>
#include <string>

namespace lostline::testing {

/// Where the tests of this build find what they read. Functions, so that the folder of a checkout
/// is compiled into one file only.
std::string demo_dir();    ///< scans and models that the build made
std::string data_dir();    ///< data/ of the repository
std::string source_dir();  ///< the repository
std::string python();      ///< interpreter that has the second opinions' packages

/// A folder of this process alone, for what a test writes: tests run beside each other, and a name
/// that two of them share would give one the other's file. Gone when the process ends.
std::filesystem::path scratch();

}  // namespace lostline::testing
