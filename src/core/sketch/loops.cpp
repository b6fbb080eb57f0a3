#include <algorithm>
#include <cmath>
#include <map>

#include "sketch/curve_kind.h"

namespace lostline::sketch {

namespace {

/// Ends of entities that are one point, by sharing it or by a coincident constraint.
class Joints {
 public:
  explicit Joints(const Sketch& sketch) {
    for (const Constraint& c : sketch.constraints) {
      if (c.type == ConstraintType::Coincident && sketch.find_point(c.second) != nullptr)
        root_[find(c.first)] = find(c.second);
    }
    for (const Entity& e : sketch.entities) {
      if (e.construction || !kind_of(e).has_ends()) continue;
      at[find(e.a)].push_back(&e);
      at[find(e.b)].push_back(&e);
    }
  }
  Id find(Id id) {
    while (root_.contains(id) && root_[id] != id) id = root_[id];
    return id;
  }
  std::map<Id, std::vector<const Entity*>> at;

 private:
  std::map<Id, Id> root_;
};

}  // namespace

std::vector<Loop> open_chains(const Sketch& sketch) {
  Joints joints(sketch);
  std::vector<Loop> chains;
  std::map<Id, bool> used;
  for (const auto& [begin, ends] : joints.at) {
    if (ends.size() == 2) continue;
    for (const Entity* first : ends) {
      if (used[first->id]) continue;
      Loop chain;
      const Entity* entity = first;
      for (Id from = begin; entity != nullptr && !used[entity->id];) {
        used[entity->id] = true;
        const bool reversed = joints.find(entity->a) != from;
        chain.uses.push_back({entity->id, reversed});
        from = joints.find(reversed ? entity->a : entity->b);
        const auto& here = joints.at[from];
        entity = here.size() == 2 ? (here[0] == entity ? here[1] : here[0]) : nullptr;
      }
      chains.push_back(std::move(chain));
    }
  }
  return chains;
}

std::vector<Loop> find_loops(const Sketch& sketch, std::vector<Id>* open) {
  std::vector<Loop> loops;
  Joints joints(sketch);
  const auto find = [&](Id id) { return joints.find(id); };
  auto& at = joints.at;
  for (const Entity& e : sketch.entities) {
    if (!e.construction && !kind_of(e).has_ends())
      loops.push_back({{{e.id, false}}, placed(sketch, e)->area_part()});
  }
  std::map<Id, bool> used;
  for (const Entity& seed : sketch.entities) {
    if (seed.construction || !kind_of(seed).has_ends() || used[seed.id]) continue;
    Loop loop;
    const Entity* entity = &seed;
    Id from = find(seed.a);
    const Id begin = from;
    bool closed = false;
    while (entity != nullptr) {
      used[entity->id] = true;
      const bool reversed = find(entity->a) != from;
      loop.uses.push_back({entity->id, reversed});
      loop.area += (reversed ? -1 : 1) * placed(sketch, *entity)->area_part();
      from = reversed ? find(entity->a) : find(entity->b);
      if (from == begin) {
        closed = true;
        break;
      }
      const auto& here = at[from];
      const Entity* next = nullptr;
      if (here.size() == 2) next = used[here[0]->id] ? here[1] : here[0];
      entity = next != nullptr && !used[next->id] ? next : nullptr;
    }
    if (closed) {
      if (loop.area < 0) {
        loop.area = -loop.area;
        std::reverse(loop.uses.begin(), loop.uses.end());
        for (Loop::Use& use : loop.uses) use.reversed = !use.reversed;
      }
      loops.push_back(std::move(loop));
    } else if (open != nullptr) {
      for (const Loop::Use& use : loop.uses) open->push_back(use.entity);
    }
  }
  std::stable_sort(loops.begin(), loops.end(),
                   [](const Loop& a, const Loop& b) { return a.area > b.area; });
  return loops;
}

Polygon polygon_of(const Sketch& sketch, const Loop& loop) {
  Polygon polygon;
  for (const Loop::Use& use : loop.uses) {
    std::vector<Vec2> points = placed(sketch, *sketch.find_entity(use.entity))->chords();
    if (use.reversed) std::reverse(points.begin(), points.end());
    polygon.insert(polygon.end(), points.begin(), points.end() - 1);
  }
  return polygon;
}

bool contains(const Polygon& polygon, const Vec2& p) {
  bool in = false;
  for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
    const Vec2& a = polygon[i];
    const Vec2& b = polygon[j];
    if ((a.y() > p.y()) != (b.y() > p.y()) &&
        p.x() < (b.x() - a.x()) * (p.y() - a.y()) / (b.y() - a.y()) + a.x())
      in = !in;
  }
  return in;
}

double signed_area(const Polygon& polygon) {
  double area = 0;
  for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++)
    area += 0.5 * (polygon[j].x() * polygon[i].y() - polygon[i].x() * polygon[j].y());
  return area;
}

}  // namespace lostline::sketch
