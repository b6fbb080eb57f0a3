#pragma once

#include <span>
#include <vector>

#include "sketch/jet.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

class System;
class Terms;

/// What a constraint may name in a sketch.
class Refs {
 public:
  explicit Refs(const System& system) : system_(system) {}
  [[nodiscard]] bool point(Id id) const;
  [[nodiscard]] bool straight(Id id) const;  ///< a straight entity or an axis
  [[nodiscard]] bool own_line(Id id) const;  ///< a straight entity, not an axis
  [[nodiscard]] bool radius(Id id) const;    ///< an entity with a centre and one radius
  [[nodiscard]] bool on_curve(Id id) const;  ///< an entity or an axis
  [[nodiscard]] bool has_ends(Id id) const;  ///< an entity with two ends
  [[nodiscard]] Id common_end(Id first, Id second) const;  ///< 0 when they share none
  [[nodiscard]] const Entity* entity(Id id) const;         ///< null when there is none

 private:
  const System& system_;
};

/// A constraint as equations, with the choices that were made at the start and then stay.
struct Equation {
  Constraint constraint;  ///< id 0: what holds the entity `first` together
  int count = 1;
  double side = 1;            ///< of a distance or tangency: the one it has at the start
  double reach = 1;           ///< mm for a rad: the shorter line of an angle, at the start
  Id shared = 0;              ///< the common end of a tangency, that of a curve square to a line
  Vec2 place = Vec2::Zero();  ///< of a fixed point; x: radius of a fixed circle
};

struct ConstraintKind {
  ConstraintType type;
  const char* name;
  /// Equations it amounts to; 0 when it does not go with what it names.
  int (*equations)(const Refs& refs, const Constraint& c);
  std::vector<Jet> (*residual)(const Equation& equation, Terms& terms);
  /// Fixes side and shared end; null where there is nothing to choose.
  void (*choose)(const Refs& refs, Equation& equation, Terms& now) = nullptr;
};
std::span<const ConstraintKind> constraint_kinds();
const ConstraintKind& kind_of(ConstraintType type);

}  // namespace lostline::sketch
