#pragma once

#include "model/feature.h"
#include "model/model_impl.h"

// What steps that change whole bodies share.

namespace lostline::model {

/// The one body on which the faces and edges lie that a feature names; empty when it names none
/// that are there.
/// @errors InvalidInput  they are of several bodies.
Result<std::optional<std::size_t>> body_meant(const Feature& feature, const Model& model);

/// The model with other bodies in the place of one; none: it goes.
Model replaced(const Model& whole, std::size_t body, const Model& with, const std::string& prefix);

/// Indices of bodies by their keys, ascending, without repeats.
/// @errors NotFound  one is gone;  InvalidInput  none is named.
Result<std::vector<std::size_t>> find_bodies(const std::vector<std::string>& keys,
                                             const Model& model, const char* what);

/// The same shape anew: a body made from it shares nothing with where it came from.
Named copied(const Named& original);

/// A body's shape with the names of its faces.
Named named_body(const Model& model, std::size_t body);

/// Builds a step that changes one body: `build` sees that body alone as the part before it.
template <class Build>
Result<Model> on_one_body(const Feature& feature, const Site& site, const std::string& prefix,
                          const Build& build) {
  const auto meant = body_meant(feature, site.before);
  if (!meant) return meant.error();
  const bool single = site.before.body_count() == 1;
  if (!*meant && !single) return build(site);  // which says what is gone
  const std::size_t body = meant->value_or(0);
  const Model part = site.before.only(body);
  const Result<Model> made = build(Site{site.step, site.setting, part, site.whole});
  if (!made) return made.error();
  return replaced(site.before, body, *made, prefix);
}

}  // namespace lostline::model
