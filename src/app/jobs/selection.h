#pragma once

#include <QObject>
#include <compare>
#include <string>
#include <vector>

#include "project/document.h"

namespace lostline::app {

/// Anything that can be chosen on the Bench or in a list.
struct Item {
  enum class Kind { None, Scan, OtherScan, Region, Fit, Sketch, Step, Row, Face, Edge, Body };
  Kind kind = Kind::None;
  /// Region, fit, sketch, step or Ledger row; place among the other scans; edge of the model as it
  /// is now.
  std::uint64_t id = 0;
  std::string name = {};  ///< persistent, of a face or body
  auto operator<=>(const Item&) const = default;
  bool operator==(const Item&) const = default;
  [[nodiscard]] project::FitRef ref() const {
    if (kind == Kind::Region) return {static_cast<std::uint32_t>(id), 0};
    if (kind == Kind::Fit) return {0, id};
    return {};
  }
};

/// What is chosen: one selection, the same on the Bench and in every list.
class Selection : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;
  [[nodiscard]] const std::vector<Item>& items() const { return items_; }
  [[nodiscard]] bool has(const Item& item) const;
  void set(std::vector<Item> items);
  /// Takes it in, or out when it is in.
  void toggle(const Item& item);
  void clear() { set({}); }
  /// Drops what is no longer there. The numbers of edges hold for one model only.
  void prune(const project::Document& document, const model::Model& solid, bool same_model);

 Q_SIGNALS:
  void changed();

 private:
  std::vector<Item> items_;
};

}  // namespace lostline::app
