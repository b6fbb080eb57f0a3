#pragma once

#include <set>
#include <string>

#include "project/document.h"

// Ledger rows that are computed from others.

namespace lostline::project {

/// Decides a value by a formula of other rows, named in brackets: "[\u2300 bore] / 2 + 3".
/// @errors InvalidInput  it cannot be read, a row is unknown or named by several, or the row would
/// depend on itself (the message names the rows between);  as ink.
Result<Document> ink_formula(const Document& document, Id dimension, const std::string& text);

/// The formula of a row in words, with the present names; empty without one.
std::string formula_text(const Document& document, const Dimension& row);

/// Intents of all rows with a formula, from the values in force, each computed once and after those
/// that it names. A formula that names a row that is gone or itself, or that cannot be read,
/// becomes a plain decision with its last value; its reason says so.
/// @return Rows whose intent changed by more than rounding.
/// @errors InvalidInput  a formula gives no number, or one that its row cannot mean.
/// O(rows), however long the chains.
Result<std::set<Id>> evaluate_formulas(Document& document);

}  // namespace lostline::project
