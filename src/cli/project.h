#pragma once

#include "cli.h"
#include "project/document.h"

// What the acts on a project share.

namespace lostline::cli {

using project::Document;

struct Arguments {
  std::string path, out, scan, frame, plane = "xy", sketch, row, file, name, as = "fewest curves";
  double level = 0, offset = 0, sensitivity = 0.5, tolerance = 0, value = 0, reach = 1;
  bool propose = false, certain = false, all = false, reference = false, bare = false,
       solid = false;
  bool outer = false;
  bool overwrite = false;
  std::string origin, normal;
  std::vector<std::size_t> numbers;
  std::vector<double> levels;
  std::vector<std::string> at, also, sketches;
  std::vector<std::uint32_t> regions;
  std::string profile, path_sketch, operation = "add", screw, head, bottom = "flat",
                                    thread = "none";
  double wall = 0, bridge = 3, simpler = 0, stiffness = 1e-4;
  std::size_t spans = 0, patches = 0;
  bool ruled = false, parallel = false;
  std::vector<sketch::Id> entities;
  std::string kind, step, behind;
  std::string socket;
  std::vector<std::string> set, pairs, faces, edges, fits;
  bool cut = false;
  bool park = false, unpark = false;
  bool on_scan = false, closed = false, middle = false, straight = false;
  int sides = 6;
  std::optional<double> from, to, diameter, entry;
};

/// By its name, or the first one without.
/// @errors InvalidInput  with the names that there are.
Result<const project::TracedSketch*> find_sketch(const Document& d, const std::string& name);

/// The part that the step at a place of the Route is made on; at its end, all of it.
Result<model::Model> model_before(const Document& d, std::size_t place, const Task& task);

/// Draws into a sketch what it takes from the model, the scan and other sketches.
Result<Document> bring_in(const Common& common, const Arguments& a, const Document& d, Json& said);

/// Adds the acts of Trace.
/// @param editing  declares an act that changes the project.
using Run = std::function<Result<Document>(const Arguments&, const Document&, Json& said)>;
using Declare = std::function<std::pair<CLI::App*, std::shared_ptr<Arguments>>(
    const char* name, const char* description, const Run& run)>;
void add_project_trace(Common& common, const Declare& editing);
/// Adds the acts of Build that need no more than the scan or sketches.
void add_project_build(Common& common, const Declare& editing);
/// Adds the acts on steps of any kind.
void add_project_step(CLI::App& all, Common& common, const Declare& editing);
void write_sketch(Common& common, const Arguments& a);

}  // namespace lostline::cli
