#pragma once

#include "datum/targets.h"
#include "project/edits.h"

// Datum features and the frame of a document.

namespace lostline::project {

/// The frame a specification gives, without changing anything: for a preview.
Result<datum::Frame> compute_frame(const Document& document, const DatumFrame& specification);
/// Sets or changes the frame. Sketches move with the scan: their planes are put onto the new datum
/// planes where they nearly lie on one already, and they are fitted again to the section cut there;
/// steps follow.
Result<Document> set_frame(const Document& document, const DatumFrame& specification);

/// Puts the scan where a model has it.
/// @param to_part  scan to model coordinates.
Result<Document> set_frame_upon(const Document& document, const Transform& to_part,
                                const BroughtUpon& upon);

/// Datum systems proposed from the survey, best first, with the reason for primary, secondary and
/// tertiary.
struct ProposedFrame {
  DatumFrame specification;
  std::array<std::string, 3> reason;
};
std::vector<ProposedFrame> propose_frames(const Document& document);

/// What a construction gives, without keeping it.
/// @errors as datum/construct.h;  InvalidInput  a reference without a surface.
Result<fit::SurfaceFit> construct(const Document& document, const Construction& construction);
/// Keeps a construction as a fit; regions among its parts are kept too, so that a later split does
/// not take them away.
Result<Added> add_construction(const Document& document, Construction construction);
/// Constructions after the fits they rest on have changed.
void follow_constructions(Document& document);
/// Keeps a plane of symmetry that was found.
Added add_symmetry(const Document& document, const fit::SurfaceFit& plane);
/// Keeps the planes of six datum targets and sets the frame by them.
/// @param targets  A1, A2, A3, B1, B2, C1, scan coordinates.
/// @param primary, secondary  what the normals of A and B become.
/// @errors as datum::planes_of_targets and datum::frame_321.
Result<Document> set_frame_on_targets(const Document& document,
                                      const std::array<datum::TargetPoint, 6>& targets,
                                      datum::Axis primary, datum::Axis secondary);
const char* construction_name(Construction::Type type);  ///< "midplane" …

/// Says what finish regions have; their trust goes with it.
/// @errors NotFound  a region that is not there.
Result<Document> set_finish(const Document& document, const std::vector<std::uint32_t>& regions,
                            survey::Finish finish);

}  // namespace lostline::project
