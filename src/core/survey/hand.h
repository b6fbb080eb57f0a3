#pragma once

#include <string>

#include "survey/survey.h"

// Corrections of a survey by hand. Region numbers stay: a region that is merged away keeps its
// number with no triangles, new ones are numbered after the last.

namespace lostline::survey {

/// Joins regions into the first of them and fits it anew: as the kind it has, or, when that leaves
/// more than twice the RMS of another kind, as that other.
/// @errors InvalidInput  fewer than two regions, or one is locked.
Result<Survey> merge_regions(const Survey& survey, const scan::Mesh& mesh,
                             const scan::Topology& topology,
                             const std::vector<std::uint32_t>& regions, const Task& task = {});

/// Gives triangles to a region (`to` 0: to a new one), whatever they belonged to, and fits all
/// regions concerned anew. Triangles of locked regions stay.
/// @param to  must not be locked.
/// @errors InvalidInput  no triangles, or `to` is locked or unknown.
Result<Survey> repaint(const Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
                       const std::vector<std::uint32_t>& triangles, std::uint32_t to,
                       const Task& task = {});

/// Splits a region where a plane cuts it: what lies on the plane's far side becomes a new region.
/// @errors InvalidInput  the plane leaves one side empty, or the region is locked.
Result<Survey> split_region(const Survey& survey, const scan::Mesh& mesh,
                            const scan::Topology& topology, std::uint32_t region,
                            const Vec3& on_plane, const Vec3& normal, const Task& task = {});

/// One ring of triangles more (taken from neighbours that are not locked) or less (left without a
/// region).
/// @errors InvalidInput  nothing would be left, or the region is locked.
Result<Survey> grow_region(const Survey& survey, const scan::Mesh& mesh,
                           const scan::Topology& topology, std::uint32_t region, bool more,
                           const Task& task = {});

/// Splits the selected triangles again with other options; the rest stays. Locked regions stay.
/// @errors as split_into_regions.
Result<Survey> split_again(const Survey& survey, const scan::Mesh& mesh,
                           const scan::Topology& topology,
                           const std::vector<std::uint32_t>& triangles,
                           const SurveyOptions& options, const Task& task = {});

/// The surface type that fits a patch best: the simplest whose RMS is within a fifth of the best
/// one's; empty when none is within `limit` mm RMS.
std::optional<fit::SurfaceFit> best_fit(const Patch& patch, double limit);

}  // namespace lostline::survey
