#include "model/outline.h"

#include <algorithm>
#include <string>

#include "base/text.h"
#include "sketch/areas.h"

namespace lostline::model {

Result<Outline> make_outline(const sketch::Sketch& s, const Choice& choice) {
  Outline outline;
  std::vector<sketch::Id> open;
  std::vector<sketch::Loop> loops = sketch::find_loops(s, &open);
  if (choice.surface) {
    const std::vector<sketch::Loop> chains = sketch::open_chains(s);
    loops.insert(loops.end(), chains.begin(), chains.end());
    open.clear();
  }
  if (!choice.areas.empty() || (loops.empty() && choice.loops.empty() && !choice.surface)) {
    const sketch::Areas found = sketch::find_areas(s);
    std::vector<std::size_t> chosen;
    for (std::size_t i = 0; i < found.areas.size(); ++i) {
      const bool wanted =
          choice.areas.empty() || std::any_of(choice.areas.begin(), choice.areas.end(),
                                              [&](const Vec2& p) { return found.areas[i].has(p); });
      if (wanted) chosen.push_back(i);
    }
    for (const Vec2& p : choice.areas) {
      if (std::none_of(found.areas.begin(), found.areas.end(),
                       [&](const sketch::Area& area) { return area.has(p); }))
        return Error{ErrorCode::NotFound, "The area at " + format_trimmed(p.x(), 1) + ", " +
                                              format_trimmed(p.y(), 1) +
                                              " is no longer closed. Pick the areas again."};
    }
    if (!chosen.empty()) {
      outline.loops = sketch::boundary_of(found, chosen);
      outline.sketch = found.pieces;
      outline.origin = found.origin;
      return outline;
    }
  }
  const std::vector<sketch::Id>& wanted = choice.loops;
  if (!wanted.empty()) {
    for (const sketch::Id id : wanted) {
      const bool found = std::any_of(loops.begin(), loops.end(), [&](const sketch::Loop& loop) {
        return loop.uses_entity(id);
      });
      if (found) continue;
      if (s.find_entity(id) == nullptr)
        return Error{ErrorCode::NotFound,
                     "The profile's curve " + std::to_string(id) +
                         " is no longer in the sketch. Pick the profile again."};
      return Error{ErrorCode::Degenerate, "The profile does not close at " +
                                              sketch::name_of(s, id) + ". Join its loose end."};
    }
    std::erase_if(loops, [&](const sketch::Loop& loop) {
      return std::none_of(wanted.begin(), wanted.end(),
                          [&](sketch::Id id) { return loop.uses_entity(id); });
    });
  }
  if (loops.empty()) {
    std::string where;
    if (!open.empty()) where = ": " + sketch::name_of(s, open.front()) + " has a loose end";
    return Error{ErrorCode::Degenerate, "The sketch has no closed profile" + where + "."};
  }
  outline.sketch = s;
  outline.loops = std::move(loops);
  return outline;
}

}  // namespace lostline::model
