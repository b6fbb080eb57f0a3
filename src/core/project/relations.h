#pragma once

#include "project/edits.h"

namespace lostline::project {

/// Fits under relations, before they are kept.
struct RelationTrial {
  std::vector<std::pair<Id, fit::SurfaceFit>> fits;
  std::vector<FitRelation> relations;  ///< with their costs
};

/// Solves all relations together. A region stays as it is; so does a fit that is only followed.
/// @errors as fit_related;  InvalidInput  a fit is missing.
Result<RelationTrial> try_relations(const Document& document,
                                    const std::vector<FitRelation>& relations,
                                    const Task& task = {});
/// Imposes exactly these relations: fits that are in none return to what the evidence says. The
/// frame and measurements that rest on the fits follow.
Result<Document> set_relations(const Document& document, const std::vector<FitRelation>& relations,
                               const Task& task = {});
/// The reference of a fit like the region's, added to the document when it is not there yet.
FitRef keep_region(Document& document, std::uint32_t region);

/// The points a fit rests on, scan coordinates.
Eigen::Matrix3Xd evidence_of(const Document& document, const Fit& fit);

/// Whether the part disagrees with a relation by what matters: significantly, and by more than a
/// fifth of the deviation's tolerance. Of many points smaller departures are significant too.
bool matters(const Document& document, const fit::RelationCost& cost);
/// "on one axis with cylinder 3: costs 0.0003 mm, within noise".
std::string describe(const Document& document, const FitRelation& relation);

}  // namespace lostline::project
