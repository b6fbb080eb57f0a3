#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <string_view>
#include <vector>

#include "sketch/plane_curve.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

class Terms;
struct Jet;
struct JetPoint;

/// One kind of sketch curve: its words, what an entity of it names, its geometry, its equations,
/// and what drawing can do with it. A new kind is one file in curves/ and a line in
/// curves/kinds.cpp.
class CurveKind {
 public:
  CurveKind() = default;
  CurveKind(const CurveKind&) = delete;
  CurveKind& operator=(const CurveKind&) = delete;
  virtual ~CurveKind() = default;

  [[nodiscard]] virtual EntityType type() const = 0;
  /// In files, JSON and messages: "line".
  [[nodiscard]] virtual const char* key() const = 0;

  // What of an entity's fields the kind uses.
  [[nodiscard]] virtual bool has_ends() const = 0;
  [[nodiscard]] virtual bool has_centre() const = 0;
  [[nodiscard]] virtual bool has_radius() const = 0;
  [[nodiscard]] virtual bool straight() const { return false; }
  /// Whether an entity has as many poles and knots as the kind needs, and those in order.
  [[nodiscard]] virtual bool complete(const Entity& entity) const {
    return entity.poles.empty() && entity.knots.empty();
  }

  [[nodiscard]] virtual std::unique_ptr<PlaneCurve> placed(const Sketch& sketch,
                                                           const Entity& entity) const = 0;

  // Equations.
  /// What holds an entity together whatever the engineer adds (an arc's ends on its circle).
  [[nodiscard]] virtual std::vector<Jet> ties(Terms& terms, const Entity& entity) const;
  [[nodiscard]] virtual int tie_count(const Entity&) const { return 0; }
  /// Signed distance of a point from the endless curve, mm, signed as PlaneCurve::drift.
  [[nodiscard]] virtual Jet distance(Terms& terms, const Entity& entity,
                                     const JetPoint& p) const = 0;
  /// Along the curve at one of its ends; of any length. Called only where has_ends().
  [[nodiscard]] virtual JetPoint direction(Terms& terms, const Entity& entity, Id end) const;
  /// How the curve bends at one of its ends, 1 / mm, positive to the left along its growing
  /// parameter; none where the kind cannot say. Called only where has_ends().
  [[nodiscard]] virtual std::optional<Jet> curvature(Terms& terms, const Entity& entity,
                                                     Id end) const;
  /// Whether curvature() has an answer.
  [[nodiscard]] virtual bool has_curvature() const { return false; }

  // Drawing.
  /// A piece of the same curve between two points on it, along its growing parameter; without id.
  [[nodiscard]] virtual Entity piece(const Entity& whole, Id a, Id b) const = 0;
  /// What keeps two pieces of one curve on that curve; empty where they share what makes it.
  [[nodiscard]] virtual std::optional<ConstraintType> alike() const { return std::nullopt; }
  /// Drawn on the other side of a line, with the points' twins.
  [[nodiscard]] virtual Entity mirrored(const Entity& entity,
                                        const std::function<Id(Id)>& twin) const = 0;
  /// Draws the curve at a distance (left positive; outside of a whole circle) with points of its
  /// own, for a chain whose corners are found afterwards.
  /// @errors InvalidInput  the distance is more than the curve allows, or the kind has no offset.
  [[nodiscard]] virtual Result<Entity> offset(const Sketch& sketch, const Entity& entity,
                                              double left, Sketch& into) const;
  /// Adds the offset curve beside its original once its ends are known, held to it; with `measure`
  /// and where it can be, the distance gets a dimension. `alone`: nothing else is in the chain.
  /// @returns whether it was measured.
  virtual bool add_beside(Sketch& sketch, const Entity& original, const Entity& offset, Id a, Id b,
                          bool measure, bool alone) const;
};

/// All kinds, in the order of their types.
std::span<const CurveKind* const> curve_kinds();
const CurveKind& kind_of(EntityType type);
inline const CurveKind& kind_of(const Entity& entity) { return kind_of(entity.type); }
/// By its key; null for one that is not known.
const CurveKind* find_curve_kind(std::string_view key);

inline std::unique_ptr<PlaneCurve> placed(const Sketch& sketch, const Entity& entity) {
  return kind_of(entity).placed(sketch, entity);
}
inline bool is_straight(const Entity* entity) {
  return entity != nullptr && kind_of(*entity).straight();
}
inline bool has_radius(const Entity* entity) {
  return entity != nullptr && kind_of(*entity).has_radius();
}

}  // namespace lostline::sketch
