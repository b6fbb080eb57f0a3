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
  std::string thread_class = "6H";
  double beyond_start = 0, beyond_end = 0;
  std::vector<std::string> curves;
  bool tangent = false, modelled = false, read_twist = false;
  std::optional<double> twist;
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

/// Add, cut, common or new.
Result<model::Operation> operation_of(const std::string& word);
Result<std::vector<Vec3>> places(const std::vector<std::string>& texts);
std::string name_or(const Arguments& a, const char* usual);
/// What the acts that make material end with: how it meets what is there, and the step's name.
void finish_build(CLI::App* sub, const std::shared_ptr<Arguments>& a);

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
void add_project_free_form(Common& common, const Declare& editing);
/// Adds the acts on steps of any kind.
/// Further scans of the part.
void add_project_join(Common& common, const Declare& editing);
/// The scan meshed anew, and fits.
void add_project_scan(Common& common, const Declare& editing);
void add_project_step(CLI::App& all, Common& common, const Declare& editing);
void write_sketch(Common& common, const Arguments& a);

}  // namespace lostline::cli
