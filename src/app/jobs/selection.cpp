#include "jobs/selection.h"

#include <algorithm>

namespace lostline::app {

bool Selection::has(const Item& item) const {
  return std::find(items_.begin(), items_.end(), item) != items_.end();
}

void Selection::set(std::vector<Item> items) {
  std::erase_if(items, [](const Item& item) { return item.kind == Item::Kind::None; });
  if (items == items_) return;
  items_ = std::move(items);
  Q_EMIT changed();
}

void Selection::toggle(const Item& item) {
  std::vector<Item> next = items_;
  if (std::erase(next, item) == 0) next.push_back(item);
  set(std::move(next));
}

void Selection::prune(const project::Document& d, const model::Model& solid, bool same_model) {
  const auto there = [&](const Item& item) {
    switch (item.kind) {
      case Item::Kind::None:
        return false;
      case Item::Kind::Scan:
        return d.scan != nullptr;
      case Item::Kind::OtherScan:
        return item.id < d.other_scans.size();
      case Item::Kind::Region:
        return d.survey && item.id >= 1 && item.id <= d.survey->regions.size() &&
               d.survey->regions[item.id - 1].triangles > 0;
      case Item::Kind::Fit:
        return d.find_fit(item.id) != nullptr;
      case Item::Kind::Sketch:
        return d.find_sketch(item.id) != nullptr;
      case Item::Kind::Step:
        return d.find_step(item.id) != nullptr;
      case Item::Kind::Row:
        return d.find_dimension(item.id) != nullptr;
      case Item::Kind::Face:
        return solid.find_face(item.name).has_value();
      case Item::Kind::Edge:
        return same_model;
      case Item::Kind::Body:
        return solid.find_body(item.name).has_value();
    }
    return false;
  };
  std::vector<Item> next = items_;
  std::erase_if(next, [&](const Item& item) { return !there(item); });
  set(std::move(next));
}

}  // namespace lostline::app
