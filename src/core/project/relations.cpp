#include "project/relations.h"

#include <algorithm>

#include "project/datums.h"
#include "project/fits.h"

namespace lostline::project {
namespace {

std::vector<FitRef> named(const FitRelation& r) {
  std::vector<FitRef> refs{r.a};
  if (fit::members_of(r.type) > 1) refs.push_back(r.b);
  if (fit::members_of(r.type) > 2) refs.push_back(r.c);
  return refs;
}

/// Measurements between fits, after the fits have changed.
void measure_again(Document& document) {
  for (Dimension& d : document.dimensions) {
    if (d.owner.fits.size() != 2) continue;
    const auto m = measure(document, d.owner.fits[0], d.owner.fits[1],
                           d.quantity == standards::Quantity::Angle);
    if (!m) continue;
    d.reading = m->value;
    d.u = m->u;
  }
}

}  // namespace

Eigen::Matrix3Xd evidence_of(const Document& document, const Fit& fit) {
  if (!fit.points.empty() || !document.scan) {
    Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(fit.points.size()));
    for (std::size_t i = 0; i < fit.points.size(); ++i)
      points.col(static_cast<Eigen::Index>(i)) = fit.points[i];
    return points;
  }
  return survey::patch_of(*document.scan->mesh, document.scan->topology, *fit.triangles).points;
}

Result<RelationTrial> try_relations(const Document& document,
                                    const std::vector<FitRelation>& relations, const Task& task) {
  std::vector<FitRef> refs;
  std::vector<fit::Member> members;
  std::vector<char> moves;
  const auto place_of = [&](const FitRef& ref) {
    return static_cast<std::size_t>(std::find(refs.begin(), refs.end(), ref) - refs.begin());
  };
  std::vector<fit::Relation> conditions;
  for (const FitRelation& r : relations) {
    const auto parts = named(r);
    for (std::size_t k = 0; k < parts.size(); ++k) {
      const FitRef& ref = parts[k];
      if (ref.empty())
        return Error{ErrorCode::InvalidInput, "Pick the fits that the relation joins."};
      const fit::SurfaceFit* found = document.fit_of(ref);
      if (found == nullptr)
        return Error{ErrorCode::InvalidInput,
                     document.name_of(ref) + " has no surface, so it can have no relation."};
      if (place_of(ref) == refs.size()) {
        refs.push_back(ref);
        moves.push_back(0);
        fit::Member member{*found, {}, false};
        if (const Fit* f = document.find_fit(ref.fit)) {
          member.fit = f->alone;
          if (!f->construction) {
            member.points = evidence_of(document, *f);
            if (document.survey && f->triangles && !f->triangles->empty()) {
              const auto patch =
                  survey::patch_of(*document.scan->mesh, document.scan->topology, *f->triangles);
              if (patch.points.cols() == member.points.cols())
                member.weights = weights_of(document, patch, member.fit.surface.kind);
            }
          }
        }
        members.push_back(std::move(member));
      }
      const Fit* kept = document.find_fit(ref.fit);
      // A construction follows its parts, not a relation.
      const bool may_move = kept != nullptr && !kept->construction && !(r.follow && k > 0);
      if (may_move) moves[place_of(ref)] = 1;
    }
    conditions.push_back({r.type, place_of(parts[0]), place_of(parts.size() > 1 ? parts[1] : r.a),
                          place_of(parts.size() > 2 ? parts[2] : r.a), r.value});
  }
  for (std::size_t i = 0; i < members.size(); ++i) members[i].held = moves[i] == 0;
  RelationTrial trial;
  trial.relations = relations;
  if (relations.empty()) return trial;
  const auto solved = fit::fit_related(members, conditions, task);
  if (!solved) return solved.error();
  for (std::size_t i = 0; i < members.size(); ++i) {
    if (!members[i].held) trial.fits.emplace_back(refs[i].fit, solved->fits[i]);
  }
  for (std::size_t k = 0; k < relations.size(); ++k) trial.relations[k].cost = solved->costs[k];
  return trial;
}

Result<Document> set_relations(const Document& document, const std::vector<FitRelation>& relations,
                               const Task& task) {
  const auto trial = try_relations(document, relations, task);
  if (!trial) return trial.error();
  Document next = document;
  next.relations = trial->relations;
  for (FitRelation& r : next.relations) {
    if (r.id == 0) r.id = next.next_id++;
  }
  for (auto& shared : next.fits) {
    fit::SurfaceFit result = shared->alone;
    for (const auto& [id, fitted] : trial->fits) {
      if (id == shared->id) result = fitted;
    }
    auto changed = std::make_shared<Fit>(*shared);
    changed->result = result;
    shared = std::move(changed);
  }
  follow_constructions(next);
  measure_again(next);
  if (next.frame) return set_frame(next, *next.frame);
  return refresh(std::move(next));
}

FitRef keep_region(Document& document, std::uint32_t region) {
  if (!document.survey || region == 0 || region > document.survey->regions.size()) return {};
  const survey::Region& r = document.survey->regions[region - 1];
  if (!r.fit) return {region, 0};
  Fit fit;
  fit.name = document.name_of({region, 0});
  for (const auto& f : document.fits) {
    if (f->name == fit.name && f->alone.points == r.fit->points) return {0, f->id};
  }
  fit.alone = fit.result = *r.fit;
  fit.triangles = std::make_shared<const std::vector<std::uint32_t>>(
      survey::triangles_of(*document.survey, region));
  fit.id = document.next_id++;
  const Id id = fit.id;
  document.fits.push_back(std::make_shared<const Fit>(std::move(fit)));
  return {0, id};
}

/// A departure matters from this share of the tolerance on. Common practice for what a gauge may
/// take of a tolerance (one fifth), no source.
constexpr double kMatters = 0.2;

std::string describe(const Document& document, const FitRelation& r) {
  std::string text = fit::relation_word(r.type);
  if (fit::members_of(r.type) > 1) text += " " + document.name_of(r.b);
  if (r.type == fit::RelationType::Symmetric) text += " in " + document.name_of(r.c);
  if (r.type == fit::RelationType::Angle) {
    text += ", " + format_trimmed(r.value * kDegrees, 3) + "\u00b0";
  } else if (fit::has_value(r.type)) {
    const fit::SurfaceFit* a = document.fit_of(r.a);
    const bool cone =
        a != nullptr && a->surface.kind == fit::Kind::Cone && r.type == fit::RelationType::Size;
    text += ", " + (cone ? format_trimmed(r.value * kDegrees, 3) + "\u00b0"
                         : format_trimmed(r.value, 3) + " mm");
  }
  const double cost = std::max(0.0, r.cost.rms_with - r.cost.rms_without);
  text += ": costs " + format_fixed(cost, 4) + " mm RMS, ";
  if (r.cost.within_noise) return text + "within noise";
  text += matters(document, r.cost) ? "the part disagrees by " : "no matter: it departs by ";
  std::string by;
  if (r.cost.departure_angle > 0)
    by = format_fixed(r.cost.departure_angle * kDegrees, 3) + "\u00b0";
  if (r.cost.departure > 0)
    by += (by.empty() ? "" : " and ") + format_fixed(r.cost.departure, 3) + " mm";
  return text + by + ", " + format_fixed(r.cost.effect, 3) +
         " mm where its evidence ends, beside \u00b1" + format_trimmed(document.tolerance, 3);
}

bool matters(const Document& document, const fit::RelationCost& cost) {
  return !cost.within_noise && cost.effect > kMatters * document.tolerance;
}

}  // namespace lostline::project
