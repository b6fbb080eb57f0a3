#include "reading/row_nominals.h"

#include <algorithm>
#include <map>
#include <numbers>

#include "reading/region_reading.h"
#include "sketch/curve_kind.h"

// What the finish of the scan says about a Ledger row.

namespace lostline::reading {

using namespace project;  // the document and its edits
namespace {

/// Votes for the finishes of the regions that places on the scan belong to.
class Votes {
 public:
  explicit Votes(const Document& document) : document_(document) {}
  void region(std::uint32_t id) {
    if (id == 0 || id > document_.survey->regions.size()) return;
    ++votes_[document_.survey->regions[id - 1].finish];
  }
  void triangle(std::uint32_t t) { region(document_.survey->triangle_region[t]); }
  /// How far the scan may lie from what rests on it: a few spacings.
  [[nodiscard]] double reach() const {
    const scan::Health& health = document_.scan->health;
    return std::max(2.5 * health.spacing, 10 * health.noise_sigma);
  }
  /// @param place  part coordinates, within `reach` mm of the scan.
  void near(const Vec3& place) { near(place, reach()); }
  void near(const Vec3& place, double reach) {
    const auto hit = document_.scan->index->nearest(document_.to_part().inverse() * place, reach);
    if (hit) triangle(hit->triangle);
  }
  /// The roughest that has a fifth of the votes.
  [[nodiscard]] std::optional<survey::Finish> roughest() const {
    int all = 0;
    for (const auto& [finish, count] : votes_) all += count;
    for (const survey::Finish f :
         {survey::Finish::AsCast, survey::Finish::Formed, survey::Finish::Machined}) {
      const auto found = votes_.find(f);
      if (found != votes_.end() && 5 * found->second >= all) return f;
    }
    return std::nullopt;
  }

 private:
  const Document& document_;
  std::map<survey::Finish, int> votes_;
};

/// Places along a sketch entity at the level of its section.
void along(Votes& votes, const TracedSketch& traced, sketch::Id id) {
  const sketch::Entity* e = traced.sketch.find_entity(id);
  if (e == nullptr || traced.turn) return;
  const auto curve = sketch::placed(traced.sketch, *e);
  constexpr int kPlaces = 24;
  for (int k = 0; k < kPlaces; ++k) {
    const Vec2 p = curve->at(curve->range() * (k + 0.5) / kPlaces);
    votes.near(traced.base.to_space(p, traced.level));
  }
}

/// Planes across a sketch's normal at a level.
void at_level(Votes& votes, const Document& document, const TracedSketch& traced, double level) {
  for (const survey::Region& r : document.survey->regions) {
    if (!r.fit || !fit::is_flat(r.fit->surface.kind) || r.triangles == 0) continue;
    const fit::Surface s = fit::transformed(r.fit->surface, document.to_part());
    if (fit::angle_between(s.axis, traced.base.normal) > 0.02) continue;
    if (std::abs(traced.base.level_of(document.to_part() * r.centre) - level) <
        0.25 * votes.reach())
      votes.region(r.id);
  }
}

}  // namespace

std::optional<survey::Finish> finish_of(const Document& document, const Dimension& row) {
  if (!document.survey || !document.scan) return std::nullopt;
  Votes votes(document);
  for (const FitRef& ref : row.owner.fits) {
    votes.region(ref.region);
    const Fit* kept = document.find_fit(ref.fit);
    if (kept == nullptr || !kept->triangles) continue;
    const auto& all = *kept->triangles;
    for (std::size_t i = 0; i < all.size(); i += std::max<std::size_t>(1, all.size() / 200))
      votes.triangle(all[i]);
  }
  for (const Vec3& p : row.owner.points) votes.near(document.to_part() * p);
  if (const TracedSketch* t = document.find_sketch(row.owner.sketch)) {
    const sketch::Constraint* c = t->sketch.find_constraint(row.owner.constraint);
    if (c != nullptr) {
      along(votes, *t, c->first);
      along(votes, *t, c->second);
    }
  }
  if (const model::Step* step = document.find_step(row.owner.step)) {
    const bool level = row.quantity == standards::Quantity::Length && row.owner.field != "radius";
    const model::Uses uses = model::uses_of(step->feature);
    if (const TracedSketch* t = document.find_sketch(uses.sketch)) {
      if (level)
        at_level(votes, document, *t, row.reading.value_or(row.value()));
      else
        for (const sketch::Id e : uses.curves) along(votes, *t, e);
    }
    // A round or bevel lies off the sharp edge by less than its size.
    for (const model::EdgeRef& e : uses.edges)
      votes.near(e.near, std::max(votes.reach(), row.value()));
  }
  return votes.roughest();
}

namespace {

std::vector<standards::Nominal> nominals_near(const Document& document, const Dimension& row,
                                              const std::optional<SurestReading>& surest) {
  const auto finish = finish_of(document, row);
  const standards::Made made = !finish || *finish == survey::Finish::Unknown
                                   ? standards::Made::Unknown
                               : *finish == survey::Finish::AsCast ? standards::Made::Cast
                               : *finish == survey::Finish::Formed ? standards::Made::Formed
                                                                   : standards::Made::Machined;
  return standards::nominals_near(surest ? surest->value : row.value(), surest ? surest->u : row.u,
                                  row.quantity, row.hole, 6, made);
}

}  // namespace

std::vector<standards::Nominal> nominals_of(const Document& document, const Dimension& row) {
  return nominals_near(document, row, surest_reading(document, row));
}

std::vector<project::Proposal> propose_inks(const Document& document) {
  std::vector<project::Proposal> proposals;
  for (const Dimension& d : document.dimensions) {
    if (d.intent || !d.reading || !(d.u > 0)) continue;
    // What section and regions do not agree on is not certain.
    const auto surest = surest_reading(document, d);
    if (!surest || !surest->agree) continue;
    const auto nominals = nominals_near(document, d, surest);
    if (nominals.empty() || std::abs(nominals.front().value - surest->value) > surest->u) continue;
    double sum = 0;
    for (const auto& n : nominals) sum += n.weight;
    proposals.push_back(
        {d.id, nominals.front().value, nominals.front().source, nominals.front().weight / sum});
  }
  return proposals;
}

}  // namespace lostline::reading
