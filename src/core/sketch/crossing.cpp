#include "sketch/crossing.h"

#include <algorithm>

namespace lostline::sketch {

std::vector<Crossing> crossings(const Sketch& s, const Entity& e) {
  std::vector<Crossing> list;
  const auto curve = placed(s, e);
  for (const Entity& other : s.entities) {
    if (other.id == e.id) continue;
    const auto by = placed(s, other);
    for (const Vec2& p : meetings(curve->form(), by->form())) {
      if (!by->holds(p)) continue;
      const double t = curve->parameter(p);
      // Its own ends are no cuts.
      if (!curve->closed() && (t < curve->slack() || t > curve->range() - curve->slack())) continue;
      list.push_back({t, p, other.id});
    }
  }
  std::sort(list.begin(), list.end(),
            [](const Crossing& a, const Crossing& b) { return a.at < b.at; });
  return list;
}

}  // namespace lostline::sketch
