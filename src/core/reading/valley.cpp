#include "reading/valley.h"

#include <algorithm>
#include <cmath>

#include "deviation/deviation.h"
#include "project/ledger.h"

namespace lostline::reading {

using namespace project;  // the document and its edits
namespace {

/// Points further from the model than this share of its size are not evidence for a value (common
/// practice, no source).
constexpr double kSearchShare = 0.02;

/// Distances of points from the model with one value changed; empty when the Route breaks at or
/// after a step that was sound.
std::optional<std::vector<float>> distances(const Document& document, Id dimension, double value,
                                            std::size_t sound, const std::vector<Vec3>& points,
                                            double search, model::RouteCache& cache,
                                            const Task& task) {
  const auto changed = ink(document, dimension, value, "trial");
  if (!changed) return std::nullopt;
  const auto results = model::recompute(changed->steps, changed->placed_sketches(), cache, task,
                                        model::Wanted::last());
  if (!results || results->empty()) return std::nullopt;
  std::size_t good = 0;
  for (const auto& r : *results) good += r.state == model::StepState::Sound;
  if (good < sound) return std::nullopt;
  const auto comparator = deviation::Comparator::build(results->back().solid);
  if (!comparator) return std::nullopt;
  auto map = comparator->compare(points, 2 * search, task);
  if (!map) return std::nullopt;
  return std::move(*map).value;
}

}  // namespace

Result<Valley> compute_valley(const Document& document, Id id, const ValleyOptions& options,
                              const Task& task) {
  const Dimension* row = document.find_dimension(id);
  if (row == nullptr || (row->owner.step == 0 && row->owner.sketch == 0))
    return Error{ErrorCode::NotFound, "This Ledger row does not shape the model."};
  if (!document.scan || document.steps.empty())
    return Error{ErrorCode::InvalidInput, "There is no model to compare with the scan yet."};
  model::RouteCache cache;
  const auto now = model::recompute(document.steps, document.placed_sketches(), cache, task,
                                    model::Wanted::last());
  if (!now) return now.error();
  std::size_t sound = 0;
  for (const auto& r : *now) sound += r.state == model::StepState::Sound;
  const bool angle = row->quantity == standards::Quantity::Angle;
  const double centre = row->value();
  const double extent = document.scan->health.box.diagonal().norm();
  const double search = kSearchShare * extent;
  const double noise = document.scan->health.noise_sigma;
  double reach = options.reach;
  if (!(reach > 0)) {
    reach = angle ? std::max(0.5, 3 * row->u) : std::max({20 * noise, 3 * row->u, 2e-3 * extent});
    if (row->reading) reach = std::max(reach, 1.5 * std::abs(*row->reading - centre));
  }
  const bool size = row->quantity == standards::Quantity::Diameter ||
                    row->quantity == standards::Quantity::Radius;
  if (size) reach = std::min(reach, 0.6 * centre);

  // Every n-th point of the scan, then those that the value moves.
  const auto& vertices = document.scan->mesh->vertices;
  const std::size_t stride = std::max<std::size_t>(1, vertices.size() / (12 * options.points));
  const Transform to_part = document.to_part();
  std::vector<Vec3> points;
  for (std::size_t i = 0; i < vertices.size(); i += stride) points.push_back(to_part * vertices[i]);
  const auto low = distances(document, id, centre - reach, sound, points, search, cache, task);
  const auto high = distances(document, id, centre + reach, sound, points, search, cache, task);
  if (task.stopped()) return cancelled();
  task.report(0.2);
  std::optional<std::vector<float>> middle;
  if (!low || !high) middle = distances(document, id, centre, sound, points, search, cache, task);
  const auto& a = low ? low : middle;
  const auto& b = high ? high : middle;
  if (!a || !b || (!low && !high))
    return Error{ErrorCode::Degenerate,
                 "The model breaks for every other value of " + row->name + "."};
  std::vector<Vec3> affected;
  double most = 0;
  for (std::size_t i = 0; i < points.size(); ++i) {
    const double change = std::abs((*a)[i] - (*b)[i]);
    if (std::isfinite(change)) most = std::max(most, std::min(change, 2 * reach));
  }
  for (std::size_t i = 0; i < points.size(); ++i) {
    const double change = std::abs((*a)[i] - (*b)[i]);
    if (std::isfinite(change) && change > 0.1 * most && change > 1e-6 &&
        std::min(std::abs((*a)[i]), std::abs((*b)[i])) < search)
      affected.push_back(points[i]);
  }
  if (affected.size() < 20)
    return Error{ErrorCode::Degenerate, "The scan shows nothing of what " + row->name + " moves."};
  if (affected.size() > options.points) {
    std::vector<Vec3> fewer;
    for (std::size_t k = 0; k < options.points; ++k)
      fewer.push_back(affected[k * affected.size() / options.points]);
    affected = std::move(fewer);
  }

  // The same points for every value, so that the curve is of the value alone: a point counts with
  // at most the search limit.
  Valley valley;
  valley.points = affected.size();
  for (int k = 0; k < options.samples; ++k) {
    if (task.stopped()) return cancelled();
    const double value = centre + reach * (2.0 * k / std::max(1, options.samples - 1) - 1.0);
    const auto d = distances(document, id, value, sound, affected, search, cache, task);
    task.report(0.2 + 0.8 * (k + 1) / options.samples);
    if (!d) continue;
    double sum = 0;
    for (const float v : *d) {
      const double capped =
          std::isfinite(v) ? std::min(std::abs(static_cast<double>(v)), search) : search;
      sum += capped * capped;
    }
    valley.samples.push_back({value, std::sqrt(sum / static_cast<double>(d->size()))});
  }
  if (task.stopped()) return cancelled();
  if (valley.samples.size() < 3)
    return Error{ErrorCode::Degenerate,
                 "The model breaks for nearly every other value of " + row->name + "."};
  // The lowest point: a parabola through the mean squares around the lowest sample.
  std::size_t best = 0;
  for (std::size_t k = 1; k < valley.samples.size(); ++k) {
    if (valley.samples[k].rms < valley.samples[best].rms) best = k;
  }
  valley.lowest = valley.samples[best].value;
  if (best > 0 && best + 1 < valley.samples.size()) {
    const auto square = [&](std::size_t k) {
      return valley.samples[k].rms * valley.samples[k].rms;
    };
    const double h = valley.samples[best + 1].value - valley.samples[best].value;
    const double curvature = square(best - 1) - 2 * square(best) + square(best + 1);
    if (curvature > 0)
      valley.lowest +=
          std::clamp(0.5 * (square(best - 1) - square(best + 1)) / curvature, -1.0, 1.0) * h;
  }
  return valley;
}

}  // namespace lostline::reading
