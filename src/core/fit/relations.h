#pragma once

#include <Eigen/Core>
#include <string>
#include <vector>

#include "base/task.h"
#include "fit/surface_fit.h"

namespace lostline::fit {

/// A condition between fits, imposed exactly while they are fitted. The direction of a circle is
/// its axis.
enum class RelationType {
  Parallel,
  Perpendicular,
  Angle,      ///< `value`, rad
  Coaxial,    ///< on one axis; of spheres: the centre on it
  Coplanar,   ///< in one plane: planes, circles
  EqualSize,  ///< one radius; of tori that of the tube
  Distance,   ///< `value`, mm, of parallel planes and axes, of centres
  Size,       ///< radius of `a` is `value`, mm; half angle of a cone, rad
  Symmetric,  ///< `a` and `b` mirrored in the plane `c`
};
const char* relation_word(RelationType type);  ///< "parallel to", "on one axis with" …
/// How many of `a`, `b`, `c` a relation names: 1, 2 or 3.
int members_of(RelationType type);
bool has_value(RelationType type);

struct Relation {
  RelationType type = RelationType::Parallel;
  std::size_t a = 0;  ///< places in the list of members
  std::size_t b = 0;
  std::size_t c = 0;
  double value = 0;
};

/// One fit among those solved together.
struct Member {
  SurfaceFit fit;           ///< as fitted alone
  Eigen::Matrix3Xd points;  ///< mm, those it was fitted to
  bool held = false;        ///< stays as it is; the others follow it
  /// Weight of each point as in SurfaceFitOptions; empty: all alike.
  Eigen::VectorXd weights = {};
};

/// What one relation takes from the evidence, the others being imposed.
struct RelationCost {
  /// How far the fits are from it without it: rad for directions and angles, mm for the rest; the
  /// greater of the two shares when a relation has both is told by `departure_angle`.
  double departure = 0;        ///< mm
  double departure_angle = 0;  ///< rad
  double rms_without = 0;      ///< of the members it names, together, mm
  double rms_with = 0;
  /// That it takes besides the others: the rank it adds, 0 when it follows from them.
  int freedoms = 0;
  double chi2 = 0;  ///< rise of the weighted sum of squares by it
  /// The rise stays below the 95 % point of chi-squared for its freedoms. With many points a
  /// departure far below anything that matters is significant too: `effect` says how large it is.
  bool within_noise = true;
  /// Departure in mm where the evidence of the members ends: lengths, and angles over half the
  /// extent of the evidence.
  double effect = 0;
};
/// The 95 % point of chi-squared, which the rise is held against; 0 for no freedoms.
double chi2_limit(int freedoms);

struct RelatedFits {
  std::vector<SurfaceFit> fits;     ///< members in their order, obeying every relation
  std::vector<RelationCost> costs;  ///< relations in their order
};

/// Fits all members together under all relations: the sum of their squared residuals, each weighted
/// by its noise (with its correlation), is least among everything that obeys the relations.
///
/// @param members  each fitted alone before; their points are weighed by the fit's sigma, a
/// micrometre at least.
/// @return Uncertainties are those of the constrained estimate: what a relation fixes has none.
/// @errors InvalidInput  a relation that its members cannot have: the message says which;
/// Degenerate  the relations contradict each other;  Cancelled.
/// O(points) a few times; the rest depends on the numbers of members and relations only.
/// Source: sequential quadratic programming with a null-space step, J. Nocedal and S. Wright,
/// Numerical Optimization (2006), 18.1 and 16.2; the test of a condition by the rise of the
/// weighted sum of squares: W. Fuller, Measurement Error Models (1987), 1.3.
Result<RelatedFits> fit_related(const std::vector<Member>& members,
                                const std::vector<Relation>& relations, const Task& task = {});

/// The equations of a relation: zero where it holds; rad or mm. For tests and previews.
/// @errors InvalidInput  the members cannot have it.
Result<Eigen::VectorXd> relation_residual(const Relation& relation,
                                          const std::vector<Surface>& surfaces);

}  // namespace lostline::fit
