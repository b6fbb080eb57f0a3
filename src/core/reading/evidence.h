#pragma once

#include <optional>
#include <vector>

#include "model/outline.h"
#include "reading/names.h"

namespace lostline::reading {

/// A flat stretch of scan parallel to a sketch's plane: a candidate for where a feature begins or
/// ends.
struct Level {
  double level = 0;    ///< above the base plane, mm
  double u = 0;        ///< expanded, k = 2, mm
  double area = 0;     ///< mm2
  bool upward = true;  ///< its outward normal points along the base normal
};

/// Levels of the scan inside the profile, lowest first.
std::vector<Level> find_levels(const Document& document, const TracedSketch& sketch,
                               const model::Choice& choice);

/// The pair of levels next to the section, below facing down and above facing up, between which
/// material lies.
struct LevelPair {
  std::optional<Level> below;
  std::optional<Level> above;
};
LevelPair suggest_extent(const std::vector<Level>& levels, double section_level);

/// Taper of the scan along the base normal beside a profile of one circle, from the cone found
/// there: rad, positive when narrowing upwards.
struct DraftReading {
  double angle = 0;
  double u = 0;
};
std::optional<DraftReading> find_draft(const Document& document, const TracedSketch& sketch,
                                       const std::vector<sketch::Id>& loops);

/// Radius of the rounded transition between two surfaces of the scan.
struct RadiusReading {
  double radius = 0;
  double u = 0;            ///< expanded, k = 2: shared noise and both surfaces' own U included
  std::size_t points = 0;  ///< between the tangent lines
};
/// Read along an edge of the model, sharp or not yet made, from the two surveyed surfaces that meet
/// there. Every scan point between the tangent lines has a distance from a ball that rolls along
/// both surfaces; the radius makes the sum of their squares least. Works at any size: it begins
/// with how far the scan stays off the sharp edge.
/// @param along  points of the edge, part coordinates.
/// @return Empty when no two surfaces that cross come near all of the edge, when the scan is sharp
/// there within twice its spacing or rounded by less than that, or when fewer than 40 points show
/// the round.
std::optional<RadiusReading> read_edge_radius(const Document& document,
                                              const std::vector<Vec3>& along);
/// The same along an edge of a model. Where the survey has no surface for one of its sides, or one
/// that holds the round only roughly, as beside lofted blades and patches, the model's own faces
/// stand for them, each moved on to the scan beside the round; what the scan departs from a face
/// there goes into U.
/// @param shape  of the model, as fine as `fine_for`; null: it is made.
std::optional<RadiusReading> read_edge_radius(const Document& document, const model::Model& model,
                                              const model::EdgeRef& edge,
                                              const model::Tessellation* shape = nullptr);
/// Triangles of a model whose chords lie well within what the scan's noise lets be told.
model::TessellationOptions fine_for(const Document& document, const model::Model& model);

/// A bevel found on the scan where the model still has a sharp edge.
struct BevelReading {
  double leg = 0;      ///< on the first face of the edge, mm
  double angle = 0;    ///< to the first face, rad
  double u = 0;        ///< of the leg, expanded, k = 2
  double u_angle = 0;  ///< rad
};
/// Read from the surveyed plane or cone that lies nearest to most of the edge.
/// @param along  points of the edge, part coordinates.
std::optional<BevelReading> read_edge_bevel(const Document& document, const model::Model& model,
                                            const model::EdgeRef& edge,
                                            const std::vector<Vec3>& along);

/// Ledger rows that rest on a region of the scan, on a face of the model (by its name), or on a
/// section whose points pass within `near` mm of a place.
struct Place {
  std::uint32_t region = 0;
  std::string face;
  std::optional<Vec3> point;  ///< part coordinates
  double near = 1.0;
};
std::vector<Id> rows_resting_on(const Document& document, const Place& place);

/// One diameter for several circles of a sketch, read from its section with the circles held equal
/// and no decision in force.
struct DiameterReading {
  double diameter = 0;
  double u = 0;
};
std::optional<DiameterReading> read_diameter(const TracedSketch& traced,
                                             const std::vector<sketch::Id>& circles);

}  // namespace lostline::reading
