#pragma once

#include <QString>
#include <vector>

#include "jobs/session.h"

namespace lostline::app {

/// How regions are grouped in Evidence.
enum class Grouping { ByKind, BySurface, ByPattern };

/// A row of Evidence; a group has children.
struct EvidenceRow {
  Item item;         ///< that it stands for; of no kind for a group
  QString key;       ///< of a group, the same from one document to the next
  QString what;      ///< with the form characteristic's symbol of ISO 1101
  QString size;      ///< diameter, radius, angle, or the extents of a plane
  double area = -1;  ///< mm2; negative: none
  double form = -1;  ///< form error, mm; negative: none
  QString state;     ///< finish, "held", "disagrees"
  QString tip;
  bool wrong = false;    ///< to be seen in red pencil
  bool renames = false;  ///< its name can be changed in place
  bool removes = false;
  project::Visibility visibility = project::Visibility::Shown;  ///< on the Bench
  std::vector<EvidenceRow> children;
};

/// What planes measure and which way they face, which takes a pass over the scan.
struct RegionExtents {
  std::shared_ptr<const survey::Survey> survey;
  std::vector<Vec2> size;  ///< of the smallest rectangle around each plane, mm
};
RegionExtents measure_extents(const project::Document& document);

/// All rows, in the order of work.
std::vector<EvidenceRow> evidence_rows(const project::Document& document, const RouteState& route,
                                       const RegionExtents& extents, Grouping grouping);

}  // namespace lostline::app
