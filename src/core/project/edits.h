#pragma once

#include <set>
#include <string>
#include <vector>

#include "project/document.h"

namespace lostline::project {

// Every edit is a pure function from a document to the next one. Numbers that depend on the change
// are brought up to date before it returns: sketches are fitted again, readings follow, steps take
// the values in force. The Route itself is recomputed elsewhere, in the background.

/// A document and the id of what an edit added to it.
struct Added {
  Document document;
  Id id = 0;
};

/// A new scan in place of the present one; everything that rested on the old one goes.
Document with_scan(const Document& document, std::shared_ptr<const Scan> scan);
/// The scan after cleaning or a change of unit: the survey and fits that name its triangles go,
/// frame and everything after stay.
Document with_changed_scan(const Document& document, std::shared_ptr<const Scan> scan);
/// Another scan beside the one worked on.
Document with_other_scan(const Document& document, std::shared_ptr<const Scan> scan);
/// Works on another of the open scans; the present one stays beside it. Survey and fits go, frame
/// and everything after stay.
/// @errors NotFound  there is no other scan of this place in the list.
Result<Document> work_on_scan(const Document& document, std::size_t other);
Result<Document> remove_other_scan(const Document& document, std::size_t other);
/// Adds the other scan's surface to the one worked on, as it lies.
Result<Document> join_scan(const Document& document, std::size_t other, const Task& task = {});

/// The survey after edits by hand, which keep the numbers of regions.
Document with_survey(const Document& document, std::shared_ptr<const survey::Survey> survey);
/// A new split, whose regions are numbered anew: regions that frame, relations, measurements,
/// sketches or steps name are kept as fits first, so that these rest on what they rested on.
Document with_new_split(const Document& document, std::shared_ptr<const survey::Survey> survey);

/// Adds a sketch with the constraints given in it; fits it.
Result<Added> add_sketch(const Document& document, TracedSketch sketch);
/// Replaces a sketch's geometry and constraints (drawn, constrained or dragged by hand), fits it
/// and brings its readings up to date.
/// @errors Degenerate  when the constraints contradict each other: the message names them.
Result<Document> edit_sketch(const Document& document, Id sketch, const sketch::Sketch& edited);
/// Puts the texts of a sketch's dimensions elsewhere on the drawing; see TracedSketch.
Document place_texts(const Document& document, Id sketch, const std::map<sketch::Id, Vec2>& places);
/// @errors InvalidInput  a step rests on it.
Result<Document> remove_sketch(const Document& document, Id sketch);

/// Readings that a new step's numbers come with, by field (see model::fields_of).
struct FieldReading {
  std::string field;
  std::optional<double> reading;  ///< mm or degrees
  double u = 0;
  std::string source;
  std::optional<double> intent;
};
/// Adds a step at the end, numbered ten after the last, or behind step `after` with a number
/// between; each reading becomes a Ledger row. Fields without one keep the feature's value.
Added add_step(const Document& document, model::Feature feature, const std::string& name,
               const std::vector<FieldReading>& readings, Id after = 0);
/// Replaces a step's feature; the Ledger rows of fields named in `readings` follow.
Result<Document> edit_step(const Document& document, Id step, const model::Feature& feature,
                           const std::vector<FieldReading>& readings = {});
Document remove_step(const Document& document, Id step);
/// Moves a step to a place in the Route (0 is first) and numbers it between its neighbours.
Result<Document> move_step(const Document& document, Id step, std::size_t place);
Result<Document> rename_step(const Document& document, Id step, const std::string& name);
/// @errors InvalidInput  a name without letters;  NotFound.
Result<Document> rename_sketch(const Document& document, Id sketch, const std::string& name);
Result<Document> rename_fit(const Document& document, Id fit, const std::string& name);
Document set_parked(const Document& document, Id step, bool parked);

/// Brings sketches, readings and step values up to date with the Ledger and the frame; what the
/// edits end with and what opening a file needs.
/// @errors Degenerate  a sketch's constraints and inked values clash.
Result<Document> refresh(Document document);
/// The same after what was decided of some rows changed: sections stay, and only the sketches that
/// own one of the rows are fitted again, or all of them where there are formulas.
Result<Document> refresh_rows(Document document, const std::set<Id>& rows);

}  // namespace lostline::project
