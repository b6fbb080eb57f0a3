#pragma once

#include <CLI/CLI.hpp>
#include <chrono>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

#include "base/geometry.h"
#include "base/result.h"
#include "base/task.h"
#include "fit/surface_fit.h"
#include "io/mesh_files.h"

namespace lostline::cli {

using Json = nlohmann::ordered_json;

/// Exit codes of the contract.
constexpr int kDone = 0;
constexpr int kFailed = 1;
constexpr int kBadInput = 2;

/// Options of every subcommand.
struct Common {
  bool json = false;
  bool quiet = false;
  int exit_code = kDone;
};

/// Declares one subcommand; its callback runs when it is chosen and leaves the exit code in
/// `common`.
void add_info(CLI::App& app, Common& common);
void add_clean(CLI::App& app, Common& common);
void add_survey(CLI::App& app, Common& common);
void add_relate(CLI::App& app, Common& common);
void add_align(CLI::App& app, Common& common);
void add_section(CLI::App& app, Common& common);
void add_outline(CLI::App& app, Common& common);
void add_patch(CLI::App& app, Common& common);
void add_free_body(CLI::App& app, Common& common);
void add_centreline(CLI::App& app, Common& common);
void add_mesh(CLI::App& app, Common& common);
void add_register(CLI::App& app, Common& common);
void add_instruments(CLI::App& app, Common& common);
void add_replay(CLI::App& app, Common& common);
void add_valley(CLI::App& app, Common& common);
void add_deviate(CLI::App& app, Common& common);
void add_simulate_scan(CLI::App& app, Common& common);
void add_convert(CLI::App& app, Common& common);
void add_report(CLI::App& app, Common& common);
void add_project(CLI::App& app, Common& common);

/// The options that stand before or after the subcommand.
void add_common_options(CLI::App& app, Common& common);
/// A subcommand with the common options.
CLI::App* subcommand(CLI::App& app, Common& common, const std::string& name,
                     const std::string& description);

/// Prints the JSON object, or its entries line by line for a reader.
void print(const Common& common, const Json& object);
/// Writes the message to standard error and sets the exit code that goes with it.
void fail(Common& common, const Error& error);
/// Progress on standard error, nothing with --quiet.
Task progress_task(const Common& common, const std::string& what);

/// "x,y,z", each possibly negative.
Result<Vec3> parse_vector(const std::string& text);
Json to_json(const Vec3& v);
Json surface_params(const fit::Surface& surface);
Json surface_uncertainties(const fit::SurfaceFit& fit);

/// Reads a scan; --unit names the unit of its numbers, else they are taken as millimetres.
Result<io::LoadedMesh> read_scan(const Common& common, const std::string& path);

/// Whether a path names a project, by its ending.
bool is_project(const std::string& path);

class Stopwatch {
 public:
  [[nodiscard]] double seconds() const {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start_).count();
  }

 private:
  std::chrono::steady_clock::time_point start_ = std::chrono::steady_clock::now();
};

}  // namespace lostline::cli
