#pragma once

#include <optional>

#include "model/parts.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "patch/free_body.h"
#include "patch/patch.h"
#include "pipe/collar.h"
#include "project/document.h"

// What the scan says for steps that follow it freely: pipes and patches.

namespace lostline::reading {

/// A pipe of the scan as a step has it, part coordinates.
struct PipeReading {
  pipe::Centreline line;
  model::SpacePath path;
  double radius = 0;  ///< mm
  double u_radius = 0;
  /// One radius that all bends share within their uncertainties, weighted by them; empty where they
  /// differ.
  std::optional<double> bend;
  double u_bend = 0;
};

/// @param picks  places on the pipe, part coordinates.
/// @errors as pipe::find_centreline;  InvalidInput  no scan.
Result<PipeReading> read_pipe(const project::Document& document, const std::vector<Vec3>& picks,
                              const pipe::CentrelineOptions& options = {}, const Task& task = {});

/// A stretch of another radius on a pipe of the Route, as a place of the scan shows it. The place
/// in part coordinates.
/// @errors as pipe::find_collar;  InvalidInput  no scan, or a pipe along a curve.
Result<pipe::Collar> read_collar(const project::Document& document, const model::PipeRun& pipe,
                                 const Vec3& place);

/// A free-form face of the scan, part coordinates.
struct PatchReading {
  patch::Patch patch;
  std::size_t triangles = 0;
};
/// Regions, and what goes on smoothly from places.
struct PatchArea {
  std::vector<std::uint32_t> regions;
  std::vector<std::uint32_t> triangles;  ///< to grow from
};
/// @param options  what is held there is in part coordinates.
/// @errors as patch::fit_patch;  InvalidInput  no scan, or nothing picked.
Result<PatchReading> read_patch(const project::Document& document, const PatchArea& area,
                                const patch::PatchOptions& options = {}, const Task& task = {});

/// The whole scan as a closed shape of smooth patches, part coordinates.
/// @errors as patch::fit_free_body;  InvalidInput  no scan.
Result<patch::FreeBody> read_free_body(const project::Document& document,
                                       const patch::FreeBodyOptions& options = {},
                                       const Task& task = {});

}  // namespace lostline::reading
