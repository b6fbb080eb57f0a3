#pragma once

#include "project/edits.h"

namespace lostline::project {

/// Decides a value. @errors InvalidInput  not a finite number, or zero or less where that makes no
/// sense;  NotFound;  Degenerate  when it contradicts the sketch: the message names what clashes.
Result<Document> ink(const Document& document, Id dimension, double value,
                     const std::string& reason);
/// A decision that the evidence supports: the likeliest nominal of a pencilled row, when it lies
/// within U of the reading.
struct Proposal {
  Id dimension = 0;
  double value = 0;
  std::string reason;
  double share = 0;  ///< of the plausibility of all nominals offered, 0 … 1
};
/// Decides several values at one go.
/// @errors as ink: nothing is changed then, and the message names the row.
Result<Document> ink_all(const Document& document, const std::vector<Proposal>& proposals);
Result<Document> lift(const Document& document, Id dimension);
Result<Document> rename_dimension(const Document& document, Id dimension, const std::string& name);
/// Adds or takes away a value read with another instrument.
/// @errors InvalidInput  not a finite number;  NotFound.
Result<Document> add_typed(const Document& document, Id dimension, const TypedReading& typed);
Result<Document> remove_typed(const Document& document, Id dimension, std::size_t place);
/// How far two readings disagree in units of their joint uncertainty; up to 1 they agree.
/// Source: ISO 13528:2022, 9.7, the E_n score.
double en_score(double value, double u, double other, double u_other);

/// Decides a value by a formula of other rows, named in brackets: "[\u2300 bore] / 2 + 3".
/// @errors InvalidInput  it cannot be read, a row is unknown or named by several, or the row would
/// depend on itself;  as ink.
Result<Document> ink_formula(const Document& document, Id dimension, const std::string& text);
/// The formula of a row in words, with the present names; empty without one.
std::string formula_text(const Document& document, const Dimension& row);
/// Intents of all rows with a formula, from the values in force. A formula that names a row that is
/// gone becomes a plain decision with its last value.
/// @errors InvalidInput  a formula gives no number, or one that its row cannot mean.
Status evaluate_formulas(Document& document);

}  // namespace lostline::project
