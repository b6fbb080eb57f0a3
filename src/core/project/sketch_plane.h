#pragma once

#include "project/document.h"
#include "sketch/solver.h"

// Where a sketch lies, and the cut of the scan there.

namespace lostline::project {

constexpr int kFanBlades =
    72;  ///< of a fan section: every five degrees (common practice, no source)

/// Section of the document's scan at a level of a plane given in part coordinates.
section::Section cut_scan(const Document& document, const Placement& base, double level);
/// Section that a sketch rests on: by its plane, by a half-plane about its axis, by a fan of them,
/// or the outline that the scan has seen along the plane's normal. An outline that cannot be made
/// (its offset leaves nothing) has no runs.
section::Section cut_scan(const Document& document, const TracedSketch& sketch,
                          const Task& task = {});

/// Triangles of the regions of the survey with these numbers, ascending, as the part of the scan
/// that a section goes through. Fails for a region that is not there.
Result<std::shared_ptr<const std::vector<std::uint32_t>>> part_of_regions(
    const Document& document, const std::vector<std::uint32_t>& regions);

/// Where a part of a scan lies on the same scan cleaned, joined or measured anew: its triangles
/// whose middle lies on triangles of the part.
std::shared_ptr<const std::vector<std::uint32_t>> carried_part(
    const std::vector<std::uint32_t>& part, const Scan& before, const Scan& now);

/// With what a sketch is fitted to its section.
sketch::FitOptions fit_options(const Document& document, const TracedSketch& sketch);

/// The nearest level of a plane section at which it runs through walls only, within ten spacings;
/// empty where it does already, or none is near.
std::optional<double> cleaner_level(const Document& document, const TracedSketch& sketch);

/// A plane section that runs along a face of the scan.
struct AlongFace {
  std::size_t runs = 0;          ///< of the cut, most of them noise
  double level = 0;              ///< where
  std::optional<double> better;  ///< a level near that does not, through walls only if there is one
};
/// Whether a section does at one of its levels: then it shows noise instead of an outline, and
/// resolving thousands of its runs takes minutes.
std::optional<AlongFace> along_face(const Document& document, const TracedSketch& sketch);

/// What a new section is resolved with, mm: from the noise and the spacing of the scan.
double resolving_tolerance(const Document& document);

/// "xy + 7", "turn 30°", "plane F2 − 1": where a section was taken.
std::string section_name(const Document& document, const TracedSketch& sketch);

/// The half-plane about an axis: y along the axis, x away from it at `angle` from a direction that
/// depends on the axis alone.
Placement half_plane(const Vec3& point, const Vec3& axis, double angle);

/// A profile that ends near its axis at both ends is closed along it, ready to be turned.
/// @param reach  mm: how far an end may lie off the axis.
void close_on_axis(sketch::Sketch& sketch, double reach);

/// A sketch's plane put onto the surface it refers to, turned and shifted as little as possible.
/// Sketches on faces of the model are put there by the Route.
void follow_reference(const Document& document, TracedSketch& sketch);

}  // namespace lostline::project
