#include "sketch/areas.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "sketch/crossing.h"

namespace lostline::sketch {
namespace {

constexpr double kSame = 1e-5;  // mm: ends this near are one node

class Nodes {
 public:
  explicit Nodes(Sketch& pieces) : pieces_(pieces) {}
  Id at(const Vec2& p) {
    for (const Point& known : pieces_.points) {
      if ((known.at - p).squaredNorm() < kSame * kSame) return known.id;
    }
    return pieces_.add_point(p);
  }

 private:
  Sketch& pieces_;
};

void cut_into_pieces(const Sketch& whole, Areas& result) {
  const Sketch sketch = without_construction(whole);
  Nodes nodes(result.pieces);
  std::map<Id, Id> centres;
  const auto centre = [&](Id id) {
    const auto it = centres.find(id);
    if (it != centres.end()) return it->second;
    return centres[id] = result.pieces.add_point(sketch.position(id));
  };
  for (const Entity& e : sketch.entities) {
    std::vector<double> cuts;
    for (const Crossing& c : crossings(sketch, e)) cuts.push_back(c.at);
    const CurveKind& kind = kind_of(e);
    const auto curve = placed(sketch, e);
    const double range = curve->range();
    const auto add = [&](Entity piece) {
      if (kind.has_centre()) piece.centre = centre(e.centre);
      for (Id& pole : piece.poles) pole = centre(pole);
      result.origin[result.pieces.add_entity(piece)] = e.id;
    };
    if (curve->closed()) {
      if (cuts.empty()) {
        add(e);
        continue;
      }
      if (cuts.size() == 1) cuts.push_back(cuts.front() + range / 2);
      std::sort(cuts.begin(), cuts.end());
      cuts.push_back(cuts.front() + range);
    } else {
      cuts.insert(cuts.begin(), 0.0);
      cuts.push_back(range);
    }
    for (std::size_t k = 0; k + 1 < cuts.size(); ++k) {
      const Id a = nodes.at(curve->at(cuts[k]));
      const Id b = nodes.at(curve->at(cuts[k + 1]));
      if (a != b) add(kind.piece(e, a, b));
    }
  }
}

void drop_loose_ends(Areas& result) {
  for (;;) {
    std::map<Id, int> degree;
    for (const Entity& e : result.pieces.entities) {
      if (!kind_of(e).has_ends()) continue;
      ++degree[e.a];
      ++degree[e.b];
    }
    const std::size_t before = result.pieces.entities.size();
    std::erase_if(result.pieces.entities, [&](const Entity& e) {
      return kind_of(e).has_ends() && (degree[e.a] < 2 || degree[e.b] < 2);
    });
    if (result.pieces.entities.size() == before) return;
  }
}

/// Pieces followed in one direction, sorted about their first node.
class Star {
 public:
  explicit Star(const Sketch& pieces) : pieces_(pieces) {}

  void add(const Loop::Use& use) { out_[start(use)].push_back({direction(use), use}); }
  void sort() {
    for (auto& [node, spokes] : out_)
      std::sort(spokes.begin(), spokes.end(),
                [](const Spoke& a, const Spoke& b) { return a.angle < b.angle; });
  }
  [[nodiscard]] Id start(const Loop::Use& use) const {
    const Entity& e = *pieces_.find_entity(use.entity);
    return use.reversed ? e.b : e.a;
  }
  [[nodiscard]] Id end(const Loop::Use& use) const { return start({use.entity, !use.reversed}); }
  /// The first spoke clockwise from the way back: it keeps the area on the left.
  [[nodiscard]] const Loop::Use* next(const Loop::Use& use) const {
    const auto it = out_.find(end(use));
    if (it == out_.end() || it->second.empty()) return nullptr;
    const double back = direction({use.entity, !use.reversed});
    const auto& spokes = it->second;
    const Spoke* best = nullptr;
    for (const Spoke& s : spokes) {
      if (s.angle < back - 1e-12) best = &s;
    }
    return best != nullptr ? &best->use : &spokes.back().use;
  }

 private:
  /// Of a point a little way along, so that a line and an arc that touch are told apart.
  [[nodiscard]] double direction(const Loop::Use& use) const {
    const Entity& e = *pieces_.find_entity(use.entity);
    const auto curve = placed(pieces_, e);
    const Vec2 from = pieces_.position(use.reversed ? e.b : e.a);
    const Vec2 d = curve->at(curve->range() * (use.reversed ? 1 - 1e-3 : 1e-3)) - from;
    return std::atan2(d.y(), d.x());
  }
  struct Spoke {
    double angle;
    Loop::Use use;
  };
  const Sketch& pieces_;
  std::map<Id, std::vector<Spoke>> out_;
};

using Key = std::pair<Id, bool>;

/// Circuits over `uses`, each use once.
std::vector<Loop> circuits(const Sketch& pieces, const std::vector<Loop::Use>& uses) {
  std::vector<Loop> loops;
  Star star(pieces);
  std::set<Key> left;
  for (const Loop::Use& u : uses) {
    if (!kind_of(*pieces.find_entity(u.entity)).has_ends()) {
      loops.push_back({{u}, 0});
      continue;
    }
    star.add(u);
    left.insert({u.entity, u.reversed});
  }
  star.sort();
  while (!left.empty()) {
    Loop loop;
    Loop::Use at{left.begin()->first, left.begin()->second};
    while (left.erase({at.entity, at.reversed}) > 0) {
      loop.uses.push_back(at);
      const Loop::Use* next = star.next(at);
      if (next == nullptr) break;
      at = *next;
    }
    loops.push_back(std::move(loop));
  }
  for (Loop& loop : loops) loop.area = signed_area(polygon_of(pieces, loop));
  return loops;
}

double least_distance(const Polygon& polygon, const Vec2& p) {
  double least = 1e300;
  for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
    const Vec2 d = polygon[i] - polygon[j];
    const double t =
        std::clamp((p - polygon[j]).dot(d) / std::max(d.squaredNorm(), 1e-300), 0., 1.);
    least = std::min(least, (polygon[j] + t * d - p).norm());
  }
  return least;
}

/// The middle of the widest stretch on some level lines.
Vec2 point_inside(const Area& area) {
  double low = 1e300;
  double high = -1e300;
  for (const Vec2& p : area.outlines.front()) {
    low = std::min(low, p.y());
    high = std::max(high, p.y());
  }
  Vec2 best = area.outlines.front().front();
  double widest = -1;
  for (int k = 1; k < 24; ++k) {
    const double y = low + (high - low) * (k + 0.137) / 24.3;
    std::vector<double> xs;
    for (const Polygon& outline : area.outlines) {
      for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
        const Vec2& a = outline[j];
        const Vec2& b = outline[i];
        if ((a.y() > y) != (b.y() > y))
          xs.push_back(a.x() + (b.x() - a.x()) * (y - a.y()) / (b.y() - a.y()));
      }
    }
    std::sort(xs.begin(), xs.end());
    for (std::size_t i = 0; i + 1 < xs.size(); i += 2) {
      const Vec2 p(0.5 * (xs[i] + xs[i + 1]), y);
      double room = 1e300;
      for (const Polygon& outline : area.outlines)
        room = std::min(room, least_distance(outline, p));
      if (room > widest) {
        widest = room;
        best = p;
      }
    }
  }
  return best;
}

}  // namespace

bool Area::has(const Vec2& p) const {
  if (outlines.empty() || !contains(outlines.front(), p)) return false;
  return std::none_of(outlines.begin() + 1, outlines.end(),
                      [&](const Polygon& hole) { return contains(hole, p); });
}

Areas find_areas(const Sketch& sketch) {
  Areas result;
  cut_into_pieces(sketch, result);
  drop_loose_ends(result);
  std::vector<Loop::Use> uses;
  for (const Entity& e : result.pieces.entities) {
    uses.push_back({e.id, false});
    uses.push_back({e.id, true});
  }
  std::vector<Loop> inner;
  std::vector<Loop> outer;  // round connected parts, clockwise
  for (Loop& loop : circuits(result.pieces, uses)) {
    if (std::abs(loop.area) < kSame * kSame) continue;
    (loop.area > 0 ? inner : outer).push_back(std::move(loop));
  }
  std::sort(inner.begin(), inner.end(),
            [](const Loop& a, const Loop& b) { return a.area > b.area; });
  for (const Loop& loop : inner) {
    Area area;
    area.uses = loop.uses;
    area.size = loop.area;
    area.outlines.push_back(polygon_of(result.pieces, loop));
    result.areas.push_back(std::move(area));
  }
  for (const Loop& loop : outer) {
    const Polygon outline = polygon_of(result.pieces, loop);
    Area* around = nullptr;
    for (Area& area : result.areas) {
      const bool own = std::any_of(area.uses.begin(), area.uses.end(),
                                   [&](const Loop::Use& u) { return loop.uses_entity(u.entity); });
      if (own || area.size <= -loop.area || !contains(area.outlines.front(), outline.front()))
        continue;
      if (around == nullptr || area.size < around->size) around = &area;
    }
    if (around == nullptr) continue;
    around->uses.insert(around->uses.end(), loop.uses.begin(), loop.uses.end());
    around->outlines.push_back(outline);
  }
  for (Area& area : result.areas) {
    for (std::size_t i = 1; i < area.outlines.size(); ++i)
      area.size -= std::abs(signed_area(area.outlines[i]));
    std::set<Id> bounds;
    for (const Loop::Use& u : area.uses) bounds.insert(result.origin.at(u.entity));
    area.bounds.assign(bounds.begin(), bounds.end());
    area.inside = point_inside(area);
  }
  std::stable_sort(result.areas.begin(), result.areas.end(),
                   [](const Area& a, const Area& b) { return a.size > b.size; });
  return result;
}

std::vector<Loop> boundary_of(const Areas& areas, const std::vector<std::size_t>& chosen) {
  std::set<Key> used;
  for (const std::size_t i : chosen) {
    for (const Loop::Use& u : areas.areas[i].uses) used.insert({u.entity, u.reversed});
  }
  std::vector<Loop::Use> uses;
  for (const auto& [entity, reversed] : used) {
    if (!used.contains({entity, !reversed})) uses.push_back({entity, reversed});
  }
  std::vector<Loop> loops = circuits(areas.pieces, uses);
  for (Loop& loop : loops) {
    if (loop.area >= 0) continue;
    loop.area = -loop.area;
    std::reverse(loop.uses.begin(), loop.uses.end());
    for (Loop::Use& use : loop.uses) use.reversed = !use.reversed;
  }
  std::stable_sort(loops.begin(), loops.end(),
                   [](const Loop& a, const Loop& b) { return a.area > b.area; });
  return loops;
}

}  // namespace lostline::sketch
