#pragma once

#include "datum/place.h"
#include "instruments/probing.h"
#include "project/edits.h"

// Features of a touch probe beside the scan of the same part.

namespace lostline::project {

/// A feature as probed, in the machine's coordinates.
struct ProbedFeature {
  std::string name;  ///< "plane 1"
  instruments::Probed kind = instruments::Probed::Plane;
  instruments::ProbedFit fitted;
};

/// Brings the machine's coordinates to the scan's without help: the probed features are matched
/// with the survey's surfaces, and the places touched are laid on the scan. Every way they lie
/// alike, best first.
/// @errors Degenerate  no survey, or too few features to hold the motion;  as datum::place_on.
Result<std::vector<datum::Candidate>> place_probed(const Document& document,
                                                   const std::vector<ProbedFeature>& features,
                                                   const Task& task = {});

/// The same from what the engineer says belongs together: a feature's number and a fit or region.
struct ProbedPair {
  std::size_t feature = 0;
  FitRef fit;
};
/// @errors InvalidInput  a pair of two kinds;  Degenerate  the pairs leave a motion open: the
/// message says which.
Result<datum::Candidate> place_probed_by(const Document& document,
                                         const std::vector<ProbedFeature>& features,
                                         const std::vector<ProbedPair>& pairs);

/// The region that a probed feature lies on: of its kind and side, nearest to its places; 0: none.
std::uint32_t region_under(const Document& document, const ProbedFeature& feature,
                           const Transform& to_scan);

/// Keeps probed features as fits, in the scan's coordinates, and their sizes as rows of the Ledger;
/// a curve as a step of the Route.
/// Where the scan shows the same surface both readings stand in the row, the one of smaller U as
/// its reading, so that their agreement is told (see en_score).
/// @param to_scan  of the machine's coordinates.
Result<Document> add_probed(const Document& document, const std::vector<ProbedFeature>& features,
                            const Transform& to_scan);

}  // namespace lostline::project
