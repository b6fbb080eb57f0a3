#pragma once

#include <Eigen/Core>
#include <optional>
#include <string>

#include "fit/surface.h"

namespace lostline::fit {

/// A departure of a real surface from its ideal one that is regular: what is left of the residuals
/// when noise is taken away.
struct Form {
  enum class Type {
    Oval,     ///< two lobes about the axis
    Lobed,    ///< three to six lobes
    Barrel,   ///< wider in the middle of the axis than at its ends; negative amount: waisted
    Bowed,    ///< a plane curved one way; its material stands proud in the middle when positive
    Twisted,  ///< a plane curved two ways against each other
  };
  Type type = Type::Oval;
  int lobes = 2;
  double amount = 0;  ///< mm, greatest less least distance, of the smooth part; Oval: long less
                      ///< short diameter
  double u = 0;       ///< expanded, k = 2
  /// Oval: along the long diameter; Bowed: across which it curves; else the axis.
  Vec3 direction = Vec3::Zero();
  /// "oval by 0.12 ± 0.01 mm", without the direction.
  [[nodiscard]] std::string words() const;
};

/// The strongest regular departure of a plane or of a surface about an axis, when it is
/// significant: four times its standard deviation and more than a third of the noise. Harmonics
/// about the axis and the second order along it (about a plane: the second-order surface) are
/// fitted to the residuals; their uncertainty counts noise that neighbours share, as that of the
/// fit. Arcs of less than three quarters show no lobes.
/// @param points  3 x N, the fit's points, mm.
/// Source: T. S. R. Murthy, A comparison of different algorithms for cylindricity evaluation, Int.
/// J. Mach. Tool Des. Res. 22 (1982), for the expansion in harmonics.
std::optional<Form> form_of(const Surface& surface,
                            const Eigen::Ref<const Eigen::Matrix3Xd>& points);

}  // namespace lostline::fit
