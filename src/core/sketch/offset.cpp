#include <cmath>
#include <map>
#include <optional>

#include "sketch/crossing.h"
#include "sketch/sketch.h"

namespace lostline::sketch {
namespace {

/// A chain of entities in order, from one loose end to the other or round.
struct Chain {
  std::vector<Loop::Use> uses;
  bool closed = false;
};

Id start_of(const Entity& e, bool reversed) { return reversed ? e.b : e.a; }

/// The other entity at a point, if there is exactly one.
const Entity* neighbour(const Sketch& s, Id point, Id except) {
  const Entity* found = nullptr;
  for (const Entity& e : s.entities) {
    if (e.id == except || !kind_of(e).has_ends() || (e.a != point && e.b != point)) continue;
    if (found != nullptr) return nullptr;
    found = &e;
  }
  return found;
}

Chain chain_of(const Sketch& s, const Entity& seed) {
  Chain chain;
  // Back to its beginning, then forward.
  const Entity* first = &seed;
  bool reversed = false;
  for (std::size_t steps = 0; steps < s.entities.size(); ++steps) {
    const Entity* before = neighbour(s, start_of(*first, reversed), first->id);
    if (before == nullptr) break;
    reversed = before->b != start_of(*first, reversed);
    first = before;
    if (first == &seed) break;
  }
  const Id begin = start_of(*first, reversed);
  const Entity* at = first;
  for (std::size_t steps = 0; steps <= s.entities.size(); ++steps) {
    chain.uses.push_back({at->id, reversed});
    const Id end = start_of(*at, !reversed);
    if (end == begin) {
      chain.closed = true;
      break;
    }
    const Entity* next = neighbour(s, end, at->id);
    if (next == nullptr) break;
    reversed = next->a != end;
    at = next;
  }
  return chain;
}

}  // namespace

Result<Sketch> offset(const Sketch& sketch, Id entity, double distance) {
  const Entity* seed = sketch.find_entity(entity);
  if (seed == nullptr) return Error{ErrorCode::NotFound, "This line or arc is gone."};
  if (!std::isfinite(distance) || std::abs(distance) < 1e-6)
    return Error{ErrorCode::InvalidInput, "Type how far the copy shall lie away."};
  Sketch result = sketch;
  // The moved curves, endless, in a sketch of their own; corners are where neighbours meet.
  Sketch moved;
  if (!kind_of(*seed).has_ends()) {
    const Entity original = *seed;
    const auto copy = kind_of(original).offset(sketch, original, distance, moved);
    if (!copy) return copy.error();
    kind_of(original).add_beside(result, original, *copy, 0, 0, true, true);
    return result;
  }
  const Chain chain = chain_of(sketch, *seed);
  double left = distance;  // of the chain's direction
  if (chain.closed) {
    const Loop loop{chain.uses, 0};
    left = signed_area(polygon_of(sketch, loop)) > 0 ? -distance : distance;
  }
  std::vector<Entity> curves;
  for (const Loop::Use& use : chain.uses) {
    const Entity& e = *sketch.find_entity(use.entity);
    const auto copy = kind_of(e).offset(sketch, e, use.reversed ? -left : left, moved);
    if (!copy) return copy.error();
    curves.push_back(*copy);
  }
  const auto end_of = [&](std::size_t i, bool at_end) {
    const bool reversed = chain.uses[i].reversed;
    return moved.position(at_end != reversed ? curves[i].b : curves[i].a);
  };
  const auto corner = [&](std::size_t i, std::size_t j) -> Vec2 {
    Vec2 near = 0.5 * (end_of(i, true) + end_of(j, false));
    if ((end_of(i, true) - end_of(j, false)).norm() < 1e-6) return near;  // tangent: they touch
    Vec2 best = near;
    double least = 1e300;
    for (const Vec2& p :
         meetings(placed(moved, curves[i])->form(), placed(moved, curves[j])->form())) {
      if ((p - near).norm() < least) {
        least = (p - near).norm();
        best = p;
      }
    }
    return best;
  };
  const std::size_t n = chain.uses.size();
  std::vector<Id> nodes(n + 1);
  for (std::size_t i = 0; i <= n; ++i) {
    if (chain.closed && i == n) {
      nodes[n] = nodes[0];
    } else if (i == 0) {
      nodes[0] = result.add_point(chain.closed ? corner(n - 1, 0) : end_of(0, false));
    } else {
      nodes[i] = result.add_point(i == n ? end_of(n - 1, true) : corner(i - 1, i));
    }
  }
  bool measured = false;
  for (std::size_t i = 0; i < n; ++i) {
    const Entity e = *sketch.find_entity(chain.uses[i].entity);
    const Id a = chain.uses[i].reversed ? nodes[i + 1] : nodes[i];
    const Id b = chain.uses[i].reversed ? nodes[i] : nodes[i + 1];
    measured |= kind_of(e).add_beside(result, e, curves[i], a, b, !measured, n == 1);
  }
  // What touched smoothly goes on doing so.
  const auto find_new = [&](Id old) -> Id {
    for (std::size_t i = 0; i < n; ++i) {
      if (chain.uses[i].entity == old) return result.entities[result.entities.size() - n + i].id;
    }
    return 0;
  };
  for (const Constraint& c : sketch.constraints) {
    if (c.type != ConstraintType::Tangent) continue;
    const Id first = find_new(c.first);
    const Id second = find_new(c.second);
    if (first != 0 && second != 0) result.add_constraint(ConstraintType::Tangent, first, second);
  }
  return result;
}

}  // namespace lostline::sketch
