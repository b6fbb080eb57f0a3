#include "project/ledger.h"

#include <muParser.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <set>

namespace lostline::project {

namespace {

/// Whether a row can mean a value.
Status suits(const Dimension& d, double value) {
  if (!std::isfinite(value)) return Error{ErrorCode::InvalidInput, "This is not a number."};
  const bool size = d.quantity == standards::Quantity::Diameter ||
                    d.quantity == standards::Quantity::Radius || d.owner.sketch != 0;
  if (size && !(value > 0))
    return Error{ErrorCode::InvalidInput, d.name + " must be greater than zero."};
  return Done{};
}

}  // namespace

Result<Document> ink(const Document& document, Id dimension, double value,
                     const std::string& reason) {
  Document next = document;
  for (Dimension& d : next.dimensions) {
    if (d.id != dimension) continue;
    if (const Status good = suits(d, value); !good) return good.error();
    d.intent = value;
    d.reason = reason;
    d.expression.clear();
    return refresh_rows(std::move(next), {dimension});
  }
  return Error{ErrorCode::NotFound, "This Ledger row is gone."};
}

Result<Document> ink_all(const Document& document, const std::vector<Proposal>& proposals) {
  // Together, which fits each sketch once; one after the other only to find what clashes.
  Document all = document;
  std::set<Id> rows;
  for (const Proposal& p : proposals) {
    for (Dimension& d : all.dimensions) {
      if (d.id != p.dimension || !suits(d, p.value)) continue;
      d.intent = p.value;
      d.reason = p.reason;
      d.expression.clear();
      rows.insert(d.id);
    }
  }
  if (rows.size() == proposals.size()) {
    auto together = refresh_rows(std::move(all), rows);
    if (together) return together;
  }
  Document next = document;
  for (const Proposal& p : proposals) {
    auto inked = ink(next, p.dimension, p.value, p.reason);
    if (!inked) {
      const Dimension* row = document.find_dimension(p.dimension);
      return Error{inked.error().code,
                   (row != nullptr ? row->name + ": " : std::string()) + inked.error().message};
    }
    next = *std::move(inked);
  }
  return next;
}

Result<Document> lift(const Document& document, Id dimension) {
  Document next = document;
  for (Dimension& d : next.dimensions) {
    if (d.id != dimension) continue;
    if (!d.reading)
      return Error{ErrorCode::InvalidInput,
                   d.name + " has no reading to fall back on; type another value instead."};
    d.intent.reset();
    d.reason.clear();
    d.expression.clear();
    return refresh_rows(std::move(next), {dimension});
  }
  return Error{ErrorCode::NotFound, "This Ledger row is gone."};
}

Result<Document> rename_dimension(const Document& document, Id dimension, const std::string& name) {
  if (name.find_first_not_of(' ') == std::string::npos)
    return Error{ErrorCode::InvalidInput, "A Ledger row needs a name."};
  Document next = document;
  for (Dimension& d : next.dimensions) {
    if (d.id == dimension) d.name = name;
  }
  return next;
}

Result<Document> add_typed(const Document& document, Id dimension, const TypedReading& typed) {
  if (!std::isfinite(typed.value) || !std::isfinite(typed.u) || typed.u < 0)
    return Error{ErrorCode::InvalidInput, "Type the reading as a number, and its U as one."};
  Document next = document;
  for (Dimension& d : next.dimensions) {
    if (d.id != dimension) continue;
    d.typed.push_back(typed);
    return next;
  }
  return Error{ErrorCode::NotFound, "This Ledger row is gone."};
}

Result<Document> remove_typed(const Document& document, Id dimension, std::size_t place) {
  Document next = document;
  for (Dimension& d : next.dimensions) {
    if (d.id != dimension || place >= d.typed.size()) continue;
    d.typed.erase(d.typed.begin() + static_cast<std::ptrdiff_t>(place));
    return next;
  }
  return Error{ErrorCode::NotFound, "This reading is gone."};
}

double en_score(double value, double u, double other, double u_other) {
  const double joint = std::hypot(u, u_other);
  return joint > 0 ? std::abs(value - other) / joint : 0;
}

namespace {

/// Rows that a stored formula names, as {id}.
std::vector<Id> rows_in(const std::string& expression) {
  std::vector<Id> ids;
  for (std::size_t at = 0; (at = expression.find('{', at)) != std::string::npos; ++at)
    ids.push_back(std::strtoull(expression.c_str() + at + 1, nullptr, 10));
  return ids;
}

/// The value of a stored formula.
Result<double> evaluate(const Document& document, const Dimension& row) {
  std::string text;
  mu::Parser parser;
  parser.DefineConst("pi", 3.14159265358979323846);
  std::size_t at = 0;
  try {
    while (at < row.expression.size()) {
      const std::size_t open = row.expression.find('{', at);
      text += row.expression.substr(at, open - at);
      if (open == std::string::npos) break;
      const Id id = std::strtoull(row.expression.c_str() + open + 1, nullptr, 10);
      const Dimension* other = document.find_dimension(id);
      if (other == nullptr)
        return Error{ErrorCode::InvalidInput,
                     "The formula of " + row.name + " names a row that is gone. Ink it anew."};
      const std::string name = "v" + std::to_string(id);
      parser.DefineConst(name, other->value());
      text += name;
      at = row.expression.find('}', open) + 1;
    }
    parser.SetExpr(text);
    const double value = parser.Eval();
    if (!std::isfinite(value))
      return Error{ErrorCode::InvalidInput, "The formula of " + row.name + " gives no number."};
    return value;
  } catch (const mu::Parser::exception_type& error) {
    return Error{ErrorCode::InvalidInput,
                 "The formula cannot be read at character " + std::to_string(error.GetPos() + 1) +
                     " (\"" + error.GetToken() + "\"). Write it as in [name] / 2 + 3."};
  }
}

bool depends_on(const Document& document, Id row, Id on, int depth = 0) {
  if (row == on) return true;
  if (depth > 64) return true;
  const Dimension* d = document.find_dimension(row);
  if (d == nullptr) return false;
  const auto ids = rows_in(d->expression);
  return std::any_of(ids.begin(), ids.end(),
                     [&](Id id) { return depends_on(document, id, on, depth + 1); });
}

}  // namespace

Result<Document> ink_formula(const Document& document, Id dimension, const std::string& text) {
  const Dimension* row = document.find_dimension(dimension);
  if (row == nullptr) return Error{ErrorCode::NotFound, "This Ledger row is gone."};
  Dimension trial = *row;
  trial.expression.clear();
  std::size_t at = 0;
  while (at < text.size()) {
    const std::size_t open = text.find('[', at);
    trial.expression += text.substr(at, open - at);
    if (open == std::string::npos) break;
    const std::size_t end = text.find(']', open);
    if (end == std::string::npos)
      return Error{ErrorCode::InvalidInput, "A bracket is open: write [name] for another row."};
    const std::string name = text.substr(open + 1, end - open - 1);
    std::vector<Id> found;
    for (const Dimension& d : document.dimensions) {
      if (d.name == name) found.push_back(d.id);
    }
    if (found.empty())
      return Error{ErrorCode::InvalidInput, "There is no row named \"" + name + "\"."};
    if (found.size() > 1)
      return Error{ErrorCode::InvalidInput,
                   "Several rows are named \"" + name + "\". Rename one of them first."};
    if (depends_on(document, found.front(), dimension))
      return Error{ErrorCode::InvalidInput,
                   row->name + " would depend on itself through \"" + name + "\"."};
    trial.expression += "{" + std::to_string(found.front()) + "}";
    at = end + 1;
  }
  const auto value = evaluate(document, trial);
  if (!value) return value.error();
  auto inked = ink(document, dimension, *value, "formula");
  if (!inked) return inked.error();
  Document next = *std::move(inked);
  for (Dimension& d : next.dimensions) {
    if (d.id == dimension) d.expression = trial.expression;
  }
  return refresh_rows(std::move(next), {dimension});
}

std::string formula_text(const Document& document, const Dimension& row) {
  std::string text;
  std::size_t at = 0;
  while (at < row.expression.size()) {
    const std::size_t open = row.expression.find('{', at);
    text += row.expression.substr(at, open - at);
    if (open == std::string::npos) break;
    const Dimension* d =
        document.find_dimension(std::strtoull(row.expression.c_str() + open + 1, nullptr, 10));
    text += "[" + (d != nullptr ? d->name : std::string("?")) + "]";
    at = row.expression.find('}', open) + 1;
  }
  return text;
}

Status evaluate_formulas(Document& document) {
  // What named a row that is gone keeps its value as a decision of its own.
  for (Dimension& d : document.dimensions) {
    const auto ids = rows_in(d.expression);
    if (std::all_of(ids.begin(), ids.end(),
                    [&](Id id) { return document.find_dimension(id) != nullptr; }))
      continue;
    d.reason = "formula; a row it named is gone";
    d.expression.clear();
  }
  // What a formula names comes before it.
  std::set<Id> done;
  std::function<Status(Dimension&)> settle = [&](Dimension& d) -> Status {
    if (d.expression.empty() || !done.insert(d.id).second) return Done{};
    for (const Id id : rows_in(d.expression)) {
      for (Dimension& other : document.dimensions) {
        if (other.id != id) continue;
        if (Status s = settle(other); !s) return s;
      }
    }
    const auto value = evaluate(document, d);
    if (!value) return value.error();
    if (const Status good = suits(d, *value); !good) return good.error();
    d.intent = *value;
    return Done{};
  };
  for (Dimension& d : document.dimensions) {
    if (Status s = settle(d); !s) return s;
  }
  return Done{};
}

}  // namespace lostline::project
