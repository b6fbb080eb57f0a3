#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/result.h"

namespace lostline::standards {

/// Limit deviations of a toleranced size, mm.
struct Limits {
  std::string name;  ///< "H7"
  double lower = 0;
  double upper = 0;
  bool hole = true;
};

/// Tolerance of grade IT4 … IT13 for a nominal size 0 < d <= 500 mm, in mm; empty outside.
/// Source: ISO 286-1:2010, table 1.
std::optional<double> standard_tolerance(double nominal, int grade);

/// Limit deviations of a tolerance class such as "H7" (hole) or "g6" (shaft), d to j s, k, m, n, p,
/// r, s.
/// @errors InvalidInput  the class is not known, or the size is outside 0 … 500 mm.
/// Source: ISO 286-1:2010, tables 2 to 5 (fundamental deviations).
Result<Limits> limits_of(double nominal, const std::string& tolerance_class);

/// Classes in common use (preferred by ISO 286-1, figures 10 and 11) whose limits hold a reading,
/// tightest first.
std::vector<Limits> classes_holding(double nominal, double reading, double u, bool hole);

/// A hole and a shaft together: clearances (negative: interference) and the kind of fit.
struct FitOfSizes {
  double least = 0;       ///< hole lower minus shaft upper, mm
  double most = 0;        ///< hole upper minus shaft lower, mm
  const char* kind = "";  ///< "clearance fit", "transition fit", "interference fit"
};
FitOfSizes fit_of_sizes(const Limits& hole, const Limits& shaft);
/// The kinds of fit a class makes with its usual mates, in words: of a hole H7 "clearance fit with
/// g6, transition fit with k6, interference fit with p6"; of a shaft g6 "clearance fit in H7".
/// Source: the fits of hole and shaft basis preferred by ISO 286-1, figures 10 and 11.
std::string fits_in_words(double nominal, const Limits& limits);

/// Classes of ISO 2768-1:1989 for untoleranced dimensions.
enum class GeneralClass { Fine, Medium, Coarse, VeryCoarse };
/// Permissible deviation of a length (table 1), of a radius or chamfer (table 2), mm; of an angle
/// by the length of its shorter leg (table 3), degrees. Empty where the standard gives none.
std::optional<double> general_length(double nominal, GeneralClass general);
std::optional<double> general_radius(double nominal, GeneralClass general);
std::optional<double> general_angle(double leg, GeneralClass general);
const char* class_letter(GeneralClass general);  ///< "f", "m", "c", "v"

}  // namespace lostline::standards
