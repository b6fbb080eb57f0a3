#include "project/ledger.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace lostline::project {

Status check_value(const Dimension& d, double value) {
  if (!std::isfinite(value)) return Error{ErrorCode::InvalidInput, "This is not a number."};
  const bool size = d.quantity == standards::Quantity::Diameter ||
                    d.quantity == standards::Quantity::Radius || d.owner.sketch != 0;
  if (size && !(value > 0))
    return Error{ErrorCode::InvalidInput, d.name + " must be greater than zero."};
  return Done{};
}

Result<Document> ink(const Document& document, Id dimension, double value,
                     const std::string& reason) {
  Document next = document;
  for (Dimension& d : next.dimensions) {
    if (d.id != dimension) continue;
    if (const Status good = check_value(d, value); !good) return good.error();
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
      if (d.id != p.dimension || !check_value(d, p.value)) continue;
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

}  // namespace lostline::project
