#pragma once

#include "project/edits.h"

namespace lostline::project {

/// Whether a row can mean a value.
/// @errors InvalidInput  not a finite number, or zero or less where that makes no sense.
Status check_value(const Dimension& row, double value);
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

}  // namespace lostline::project
