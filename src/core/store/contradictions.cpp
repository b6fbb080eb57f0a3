#include "store/contradictions.h"

#include <algorithm>
#include <unordered_set>

#include "sketch/curve_kind.h"

namespace lostline::store {

using namespace project;  // the document and its edits
namespace {

/// What of a sketch names something that the sketch does not have; empty when all is there.
std::string dangling_in(const TracedSketch& traced) {
  const sketch::Sketch& s = traced.sketch;
  const auto point = [&](sketch::Id id) {
    return id == sketch::kOrigin || s.find_point(id) != nullptr;
  };
  for (const sketch::Entity& e : s.entities) {
    const sketch::CurveKind& kind = sketch::kind_of(e);
    const bool ends = !kind.has_ends() || (point(e.a) && point(e.b));
    const bool centre = !kind.has_centre() || point(e.centre);
    const bool poles = std::all_of(e.poles.begin(), e.poles.end(), point);
    if (!ends || !centre || !poles || !kind.complete(e))
      return "curve " + std::to_string(e.id) + " of sketch " + traced.name;
  }
  const auto known = [&](sketch::Id id) {
    return id == 0 || id == sketch::kXAxis || id == sketch::kYAxis || point(id) ||
           s.find_entity(id) != nullptr;
  };
  for (const sketch::Constraint& c : s.constraints) {
    if (!known(c.first) || !known(c.second) || !known(c.third))
      return "constraint " + std::to_string(c.id) + " of sketch " + traced.name;
  }
  return {};
}

/// A number of a list that is 0 or given twice; 0: none.
template <class List, class IdOf>
std::string given_twice(const List& list, const IdOf& id_of, const std::string& what) {
  std::unordered_set<Id> seen;
  for (const auto& one : list) {
    const Id id = id_of(one);
    if (id == 0 || !seen.insert(id).second)
      return what + " " + std::to_string(id) + (id == 0 ? " has no number" : " is there twice");
  }
  return {};
}

std::string numbers_of(TracedSketch& traced) {
  sketch::Sketch& s = traced.sketch;
  std::unordered_set<Id> seen;
  sketch::Id most = sketch::kFirstFree - 1;
  std::string wrong;
  const auto give = [&](sketch::Id id) {
    if (id < sketch::kFirstFree || !seen.insert(id).second)
      wrong = "sketch " + traced.name + " has number " + std::to_string(id) + " twice";
    most = std::max(most, id);
  };
  for (const sketch::Point& p : s.points) give(p.id);
  for (const sketch::Entity& e : s.entities) give(e.id);
  for (const sketch::Constraint& c : s.constraints) give(c.id);
  if (most == std::numeric_limits<sketch::Id>::max())
    return "sketch " + traced.name + " has no numbers left";
  s.next_id = std::max(s.next_id, most + 1);
  return wrong;
}

}  // namespace

std::string contradiction_in(Document& document) {
  const auto own = [](const auto& one) { return one.id; };
  const auto shared = [](const auto& one) { return one->id; };
  for (const std::string& wrong :
       {given_twice(document.fits, shared, "fit"), given_twice(document.relations, own, "relation"),
        given_twice(document.sketches, shared, "sketch"), given_twice(document.steps, own, "step"),
        given_twice(document.dimensions, own, "Ledger row")})
    if (!wrong.empty()) return wrong;
  for (auto& kept : document.sketches) {
    auto traced = std::make_shared<TracedSketch>(*kept);
    if (std::string wrong = numbers_of(*traced); !wrong.empty()) return wrong;
    if (const std::string what = dangling_in(*traced); !what.empty())
      return what + " names something that is not there";
    kept = std::move(traced);
  }
  Id most = 0;
  for (const auto& f : document.fits) most = std::max(most, f->id);
  for (const FitRelation& r : document.relations) most = std::max(most, r.id);
  for (const auto& s : document.sketches) most = std::max(most, s->id);
  for (const model::Step& s : document.steps) most = std::max(most, s.id);
  for (const Dimension& d : document.dimensions) most = std::max(most, d.id);
  if (most == std::numeric_limits<Id>::max()) return "there are no numbers left";
  document.next_id = std::max(document.next_id, most + 1);
  return {};
}

}  // namespace lostline::store
