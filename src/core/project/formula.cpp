#include "project/formula.h"

#include <muParser.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <unordered_map>
#include <unordered_set>
#include <utility>
#include <vector>

#include "project/ledger.h"

namespace lostline::project {
namespace {

/// A stretch of a formula: text of the calculation, or a row that stands in it.
struct Piece {
  std::string text;
  Id row = 0;  ///< 0: text
};

/// A stored formula in its pieces; rows stand in it as {id}.
/// @errors InvalidInput  a brace is open, or holds no number of a row.
Result<std::vector<Piece>> pieces_of_formula(const std::string& expression) {
  const auto damaged = [] {
    return Error{ErrorCode::InvalidInput, "The formula is damaged: it cannot be read."};
  };
  std::vector<Piece> pieces;
  std::size_t at = 0;
  while (at < expression.size()) {
    const std::size_t open = expression.find('{', at);
    if (open != at) pieces.push_back({expression.substr(at, open - at), 0});
    if (open == std::string::npos) break;
    const std::size_t close = expression.find('}', open);
    if (close == std::string::npos) return damaged();
    const char* const begin = expression.data() + open + 1;
    const char* const end = expression.data() + close;
    Id id = 0;
    const auto read = std::from_chars(begin, end, id);
    if (read.ec != std::errc() || read.ptr != end || id == 0) return damaged();
    pieces.push_back({{}, id});
    at = close + 1;
  }
  return pieces;
}

/// All formulas of a document, and where each row stands.
class Formulas {
 public:
  explicit Formulas(const Document& document) : document_(document) {
    for (std::size_t i = 0; i < document.dimensions.size(); ++i) {
      const Dimension& d = document.dimensions[i];
      places_.emplace(d.id, i);
      if (!d.expression.empty()) read_.emplace(d.id, pieces_of_formula(d.expression));
    }
  }

  [[nodiscard]] bool has(Id row) const { return places_.contains(row); }
  [[nodiscard]] std::size_t place(Id row) const { return places_.at(row); }
  [[nodiscard]] const Result<std::vector<Piece>>& of(Id row) const { return read_.at(row); }

  /// Rows that a row's formula names; none without one, or with one that cannot be read.
  [[nodiscard]] std::vector<Id> named_by(Id row) const {
    std::vector<Id> ids;
    const auto it = read_.find(row);
    if (it == read_.end() || !it->second) return ids;
    for (const Piece& piece : *it->second)
      if (piece.row != 0) ids.push_back(piece.row);
    return ids;
  }

  /// The rows on a way from one row through what the formulas name to another, both included;
  /// empty when there is none.
  [[nodiscard]] std::vector<Id> way(Id from, Id to) const {
    std::unordered_map<Id, Id> before{{from, 0}};
    std::vector<Id> open{from};
    for (std::size_t k = 0; k < open.size() && !before.contains(to); ++k) {
      for (const Id next : named_by(open[k]))
        if (before.emplace(next, open[k]).second) open.push_back(next);
    }
    std::vector<Id> rows;
    if (!before.contains(to)) return rows;
    for (Id row = to; row != 0; row = before.at(row)) rows.push_back(row);
    std::reverse(rows.begin(), rows.end());
    return rows;
  }

  /// Rows with formulas, each after those that it names; then those that depend on themselves.
  struct Order {
    std::vector<Id> sound;
    std::vector<Id> circular;
  };
  [[nodiscard]] Order order() const {
    std::unordered_map<Id, std::size_t> waits_for;
    std::unordered_map<Id, std::vector<Id>> wanted_by;
    Order order;
    for (const Dimension& d : document_.dimensions) {
      if (!read_.contains(d.id)) continue;
      std::size_t& count = waits_for[d.id];
      for (const Id id : named_by(d.id)) {
        if (!read_.contains(id)) continue;
        ++count;
        wanted_by[id].push_back(d.id);
      }
      if (count == 0) order.sound.push_back(d.id);
    }
    for (std::size_t k = 0; k < order.sound.size(); ++k) {
      for (const Id next : wanted_by[order.sound[k]])
        if (--waits_for[next] == 0) order.sound.push_back(next);
    }
    // Of what is left some only name what is circular, and can be computed once that is decided:
    // those that nothing left names, taken away one after another.
    std::unordered_map<Id, std::size_t> named_from;
    std::vector<Id> loose;
    for (const auto& [row, count] : waits_for) {
      if (count == 0) continue;
      for (const Id id : named_by(row)) ++named_from[id];
    }
    for (const auto& [row, count] : waits_for)
      if (count != 0 && !named_from.contains(row)) loose.push_back(row);
    for (std::size_t k = 0; k < loose.size(); ++k) {
      for (const Id id : named_by(loose[k])) {
        const auto it = waits_for.find(id);
        if (--named_from[id] == 0 && it != waits_for.end() && it->second != 0) loose.push_back(id);
      }
    }
    const std::unordered_set<Id> free(loose.begin(), loose.end());
    for (const Dimension& d : document_.dimensions) {
      const auto it = waits_for.find(d.id);
      if (it != waits_for.end() && it->second != 0 && !free.contains(d.id))
        order.circular.push_back(d.id);
    }
    return order;
  }

 private:
  const Document& document_;
  std::unordered_map<Id, std::size_t> places_;
  std::unordered_map<Id, Result<std::vector<Piece>>> read_;
};

/// The value of a formula whose rows are all there.
Result<double> value_of(const std::vector<Piece>& pieces, const Document& document,
                        const Formulas& formulas, const std::string& name) {
  std::string text;
  mu::Parser parser;
  parser.DefineConst("pi", 3.14159265358979323846);
  try {
    for (const Piece& piece : pieces) {
      if (piece.row == 0) {
        text += piece.text;
        continue;
      }
      const std::string constant = "v" + std::to_string(piece.row);
      parser.DefineConst(constant, document.dimensions[formulas.place(piece.row)].value());
      text += constant;
    }
    parser.SetExpr(text);
    const double value = parser.Eval();
    if (!std::isfinite(value))
      return Error{ErrorCode::InvalidInput, "The formula of " + name + " gives no number."};
    return value;
  } catch (const mu::Parser::exception_type& error) {
    return Error{ErrorCode::InvalidInput,
                 "The formula cannot be read at character " + std::to_string(error.GetPos() + 1) +
                     " (\"" + error.GetToken() + "\"). Write it as in [name] / 2 + 3."};
  }
}

std::string names_along(const Document& document, const std::vector<Id>& rows) {
  std::string text;
  for (const Id row : rows) {
    const Dimension* d = document.find_dimension(row);
    text += (text.empty() ? "\"" : ", \"") + (d != nullptr ? d->name : std::string("?")) + "\"";
  }
  return text;
}

/// What cannot be computed any more keeps its value.
void decide_as_is(Dimension& d, const std::string& why) {
  d.reason = why;
  d.expression.clear();
}

/// Formulas that can no longer be computed become decisions.
void settle_unreadable(Document& document) {
  {
    const Formulas formulas(document);
    for (Dimension& d : document.dimensions) {
      if (d.expression.empty()) continue;
      const auto& pieces = formulas.of(d.id);
      if (!pieces) {
        decide_as_is(d, "formula; it could not be read");
      } else if (std::any_of(pieces->begin(), pieces->end(), [&](const Piece& piece) {
                   return piece.row != 0 && !formulas.has(piece.row);
                 })) {
        decide_as_is(d, "formula; a row it named is gone");
      }
    }
  }
  const Formulas formulas(document);
  for (const Id row : formulas.order().circular)
    decide_as_is(document.dimensions[formulas.place(row)], "formula; it depended on itself");
}

}  // namespace

Result<Document> ink_formula(const Document& document, Id dimension, const std::string& text) {
  const Dimension* row = document.find_dimension(dimension);
  if (row == nullptr) return Error{ErrorCode::NotFound, "This Ledger row is gone."};
  if (text.find_first_of("{}") != std::string::npos)
    return Error{ErrorCode::InvalidInput, "A formula has no braces: write [name] for another row."};
  const Formulas formulas(document);
  std::string expression;
  std::size_t at = 0;
  while (at < text.size()) {
    const std::size_t open = text.find('[', at);
    expression += text.substr(at, open - at);
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
    if (const auto way = formulas.way(found.front(), dimension); !way.empty())
      return Error{ErrorCode::InvalidInput, row->name + " would depend on itself through " +
                                                names_along(document, way) + "."};
    expression += "{" + std::to_string(found.front()) + "}";
    at = end + 1;
  }
  const auto pieces = pieces_of_formula(expression);
  if (!pieces) return pieces.error();
  const auto value = value_of(*pieces, document, formulas, row->name);
  if (!value) return value.error();
  auto inked = ink(document, dimension, *value, "formula");
  if (!inked) return inked.error();
  Document next = *std::move(inked);
  for (Dimension& d : next.dimensions) {
    if (d.id == dimension) d.expression = expression;
  }
  return refresh_rows(std::move(next), {dimension});
}

std::string formula_text(const Document& document, const Dimension& row) {
  const auto pieces = pieces_of_formula(row.expression);
  if (!pieces) return row.expression;
  std::string text;
  for (const Piece& piece : *pieces) {
    if (piece.row == 0) {
      text += piece.text;
      continue;
    }
    const Dimension* d = document.find_dimension(piece.row);
    text += "[" + (d != nullptr ? d->name : std::string("?")) + "]";
  }
  return text;
}

Result<std::set<Id>> evaluate_formulas(Document& document) {
  std::set<Id> changed;
  if (std::none_of(document.dimensions.begin(), document.dimensions.end(),
                   [](const Dimension& d) { return !d.expression.empty(); }))
    return changed;
  settle_unreadable(document);
  const Formulas formulas(document);
  for (const Id row : formulas.order().sound) {
    Dimension& d = document.dimensions[formulas.place(row)];
    const auto value = value_of(*formulas.of(row), document, formulas, d.name);
    if (!value) return value.error();
    if (const Status good = check_value(d, *value); !good) return good.error();
    // What rounding leaves open changes nothing that rests on the row.
    constexpr double kRounding = 1e-12;
    if (!d.intent || std::abs(*d.intent - *value) > kRounding * std::max(1.0, std::abs(*value)))
      changed.insert(row);
    d.intent = *value;
  }
  return changed;
}

}  // namespace lostline::project
