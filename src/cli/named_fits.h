#pragma once

#include <set>

#include "cli.h"
#include "project/document.h"

namespace lostline::cli {

/// Fits of a surveyed scan as files name them, and the datum features made of them.
class NamedFits {
 public:
  /// A scan file is surveyed; a project brings its own survey along, and the fits kept in it.
  /// @errors as reading, project::prepare_scan and survey::split_into_regions.
  static Result<NamedFits> open(const Common& common, const std::string& path, double sensitivity);

  /// {"region": 3} by its number in a survey; {"near": [x, y, z]}: the region under that point; a
  /// datum feature of such fits: {"midplane": [a, b]}, {"axis_of_two": [a, b]}, {"common_axis":
  /// […]}, {"bolt_circle": […]}, {"intersection": […]}; or {"symmetry_plane": […]}: found on the
  /// scan, near one plane or between two, anywhere when the list is empty.
  /// @errors InvalidInput  another form, or a region that is not there or is free-form; as the
  /// construction.
  Result<project::FitRef> find(const Json& item);

  [[nodiscard]] const project::Document& document() const { return document_; }
  [[nodiscard]] const fit::SurfaceFit& fit(const project::FitRef& ref) const {
    return *document_.fit_of(ref);
  }
  /// Regions that the fits found so far rest on.
  [[nodiscard]] const std::set<std::uint32_t>& regions() const { return regions_; }
  /// Datum features made so far, with name, parameters and uncertainties.
  [[nodiscard]] const Json& features() const { return features_; }

 private:
  NamedFits(const Common& common, project::Document document)
      : common_(&common), document_(std::move(document)) {}
  Result<project::FitRef> region(std::uint32_t id);
  Result<project::FitRef> symmetry_plane(const std::vector<project::FitRef>& guess);

  const Common* common_;
  project::Document document_;
  std::set<std::uint32_t> regions_;
  Json features_ = Json::array();
};

}  // namespace lostline::cli
