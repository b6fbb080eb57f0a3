#include "project/join_scans.h"

#include <algorithm>

#include "project/edits.h"
#include "scan/health.h"

namespace lostline::project {

std::vector<std::shared_ptr<const Scan>> open_scans(const Document& document) {
  std::vector<std::shared_ptr<const Scan>> all;
  if (document.scan) all.push_back(document.scan);
  all.insert(all.end(), document.other_scans.begin(), document.other_scans.end());
  return all;
}

Result<Document> with_joined_scans(const Document& document, const std::vector<std::size_t>& which,
                                   const joining::Joined& joined,
                                   const std::vector<double>& weights,
                                   const cloud::MeshingOptions& options, const Task& task) {
  const auto all = open_scans(document);
  if (which.size() < 2 || which.size() != joined.poses.size())
    return Error{ErrorCode::InvalidInput, "Joining takes two scans or more."};
  std::vector<joining::Lying> lying;
  for (const std::size_t i : which) {
    if (i >= all.size())
      return Error{ErrorCode::InvalidInput, "A scan that was to be joined is no longer open."};
    const std::size_t at = lying.size();
    lying.push_back({all[i]->mesh.get(), joined.poses[at], joined.inside_out[at],
                     at < weights.size() ? weights[at] : 1});
  }
  const auto merged = joining::merge_scans(lying, options, task.part(0, 0.6));
  if (!merged) return merged.error();
  const Scan& first = *all[which.front()];
  auto scan =
      prepare_scan(merged->mesh, "joined", first.source, Unit::Millimetre, task.part(0.6, 0.8));
  if (!scan) return scan.error();
  Document next = with_changed_scan(document, *scan);
  next.other_scans.clear();
  for (std::size_t i = 0; i < all.size(); ++i) {
    const auto at = std::find(which.begin(), which.end(), i);
    const auto place = static_cast<std::size_t>(at - which.begin());
    if (at == which.end() ||
        (joined.poses[place].isApprox(Transform::Identity(), 1e-12) && !joined.inside_out[place])) {
      next.other_scans.push_back(all[i]);
      continue;
    }
    scan::Mesh mesh = scan::transformed(*all[i]->mesh, joined.poses[place]);
    if (joined.inside_out[place]) mesh = scan::flipped(std::move(mesh));
    auto moved = prepare_scan(std::move(mesh), all[i]->name, all[i]->source, all[i]->unit,
                              task.part(0.8, 1));
    if (!moved) return moved.error();
    next.other_scans.push_back(*moved);
  }
  return next;
}

}  // namespace lostline::project
