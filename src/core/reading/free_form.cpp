#include "reading/free_form.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "model/path_pieces.h"

namespace lostline::reading {
namespace {

Error no_scan() { return {ErrorCode::InvalidInput, "There is no scan to read from."}; }

pipe::Piece moved(pipe::Piece piece, const Transform& to_part) {
  piece.a = to_part * piece.a;
  piece.b = to_part * piece.b;
  piece.centre = to_part * piece.centre;
  piece.axis = to_part.linear() * piece.axis;
  return piece;
}

/// Corners and bends from the pieces of a centre line; a bend of more than 120 degrees as two.
model::SpacePath path_of(const pipe::Centreline& line) {
  model::SpacePath path;
  const auto& pieces = line.pieces;
  path.corners.push_back(pieces.front().a);
  constexpr double kWidest = 2.1;  // rad at one corner
  for (const pipe::Piece& piece : pieces) {
    if (piece.straight) continue;
    const int parts = std::max(1, static_cast<int>(std::ceil(piece.angle() / kWidest)));
    for (int k = 0; k < parts; ++k) {
      const double from = static_cast<double>(k) / parts;
      const double reach = piece.radius * std::tan(piece.angle() / parts / 2);
      path.corners.push_back(piece.at(from) + reach * piece.direction(from));
      path.bends.push_back(piece.radius);
    }
  }
  path.corners.push_back(pieces.back().b);
  return path;
}

}  // namespace

Result<PipeReading> read_pipe(const project::Document& document, const std::vector<Vec3>& picks,
                              const pipe::CentrelineOptions& options, const Task& task) {
  if (!document.scan) return no_scan();
  const Transform to_part = document.to_part();
  std::vector<Vec3> in_scan;
  for (const Vec3& pick : picks) in_scan.push_back(to_part.inverse() * pick);
  pipe::CentrelineOptions known = options;
  known.spacing = document.scan->health.spacing;
  auto found = pipe::find_centreline(*document.scan->mesh, in_scan, known, task);
  if (!found) return found.error();
  PipeReading reading;
  reading.line = *std::move(found);
  for (pipe::Piece& piece : reading.line.pieces) piece = moved(piece, to_part);
  reading.path = path_of(reading.line);
  reading.radius = reading.line.radius;
  reading.u_radius = reading.line.u_radius;
  double weights = 0;
  double sum = 0;
  bool alike = true;
  for (const pipe::Piece& piece : reading.line.pieces) {
    if (piece.straight) continue;
    const double u = std::max(piece.u_radius.value_or(0.01 * piece.radius), 1e-4 * piece.radius);
    weights += 1 / (u * u);
    sum += piece.radius / (u * u);
  }
  if (weights > 0) {
    const double mean = sum / weights;
    for (const pipe::Piece& piece : reading.line.pieces) {
      // Bends of one tool spring back alike but for a hundredth (common practice, no source).
      constexpr double kSpring = 0.01;
      if (!piece.straight)
        alike = alike &&
                std::abs(piece.radius - mean) < 1.5 * piece.u_radius.value_or(0) + kSpring * mean;
    }
    if (alike) {
      reading.bend = mean;
      reading.u_bend = 1 / std::sqrt(weights);
    }
  }
  return reading;
}

Result<pipe::Collar> read_collar(const project::Document& document, const model::PipeRun& pipe,
                                 const Vec3& place) {
  if (!document.scan) return no_scan();
  if (!pipe.along.empty())
    return Error{ErrorCode::InvalidInput,
                 "A pipe along a curve has no stretches. Choose one that was clicked on the scan."};
  auto pieces = model::pieces_of(pipe.path, pipe.bend.value);
  if (!pieces) return pieces.error();
  const Transform to_scan = document.to_part().inverse();
  pipe::Centreline line;
  for (const pipe::Piece& piece : *pieces) line.pieces.push_back(moved(piece, to_scan));
  line.radius = pipe.radius.value;
  pipe::CentrelineOptions options;
  options.spacing = document.scan->health.spacing;
  options.noise = document.scan->health.noise_sigma;
  const scan::Mesh& mesh = *document.scan->mesh;
  return pipe::find_collar(mesh.vertices, pipe::normals_of(mesh, document.scan->topology), line,
                           to_scan * place, options);
}

Result<PatchReading> read_patch(const project::Document& document, const PatchArea& area,
                                const patch::PatchOptions& options, const Task& task) {
  if (!document.scan) return no_scan();
  const scan::Mesh& mesh = *document.scan->mesh;
  std::set<std::uint32_t> triangles;
  if (document.survey && !area.regions.empty()) {
    for (std::uint32_t t = 0; t < document.survey->triangle_region.size(); ++t) {
      if (std::find(area.regions.begin(), area.regions.end(),
                    document.survey->triangle_region[t]) != area.regions.end())
        triangles.insert(t);
    }
  }
  if (!area.triangles.empty()) {
    const auto grown = patch::smooth_area(mesh, document.scan->topology, area.triangles);
    triangles.insert(grown.begin(), grown.end());
  }
  if (triangles.empty())
    return Error{ErrorCode::InvalidInput, "Click an area of the scan for the patch."};
  patch::PatchOptions known = options;
  known.noise = document.scan->health.noise_sigma;
  const Transform to_part = document.to_part();
  const Transform to_scan = to_part.inverse();
  for (patch::HeldPlace& place : known.held) {
    place.at = to_scan * place.at;
    if (place.normal) place.normal = to_scan.linear() * *place.normal;
  }
  auto fitted = patch::fit_patch(mesh, {triangles.begin(), triangles.end()}, known, task);
  if (!fitted) return fitted.error();
  PatchReading reading;
  reading.triangles = triangles.size();
  reading.patch = *std::move(fitted);
  for (Vec3& pole : reading.patch.surface.poles) pole = to_part * pole;
  return reading;
}

Result<patch::FreeBody> read_free_body(const project::Document& document,
                                       const patch::FreeBodyOptions& options, const Task& task) {
  if (!document.scan) return no_scan();
  patch::FreeBodyOptions known = options;
  known.noise = document.scan->health.noise_sigma;
  auto fitted = patch::fit_free_body(*document.scan->mesh, known, task);
  if (!fitted) return fitted.error();
  patch::FreeBody body = *std::move(fitted);
  const Transform to_part = document.to_part();
  for (patch::SplineSurface& patch : body.patches)
    for (Vec3& pole : patch.poles) pole = to_part * pole;
  return body;
}

}  // namespace lostline::reading
