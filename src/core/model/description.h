#pragma once

#include <memory>
#include <string>
#include <vector>

#include "model/parts.h"
#include "patch/spline_surface.h"

namespace lostline::model {

/// A number of a feature, said once: the Ledger row, the file, the card and the report follow.
struct NumberInfo {
  enum class Unit { Length, Angle, Diameter, Radius };
  enum class Sign { Any, NotZero, Positive };
  const char* name;  ///< of the Ledger's field and in files; never changed once released
  Unit unit = Unit::Length;
  Sign sign = Sign::Any;
  bool in_force = true;  ///< off: another choice of the step leaves it unused

  [[nodiscard]] bool is_angle() const { return unit == Unit::Angle; }
};

/// One of several words, kept in files as the word.
struct ChoiceInfo {
  const char* name;
  std::vector<const char*> words;  ///< in the order of the enumeration's values
};

struct CountInfo {
  const char* name;
  int least;
  int most;
};

struct ReferenceInfo {
  enum class Wants { Axis, Plane, Surface };
  const char* name;
  Wants wants;
  bool in_force = true;
};

/// Several sketches in an order that counts.
struct SketchesInfo {
  const char* name;
  std::size_t least;
  std::size_t most;
};

struct BodiesInfo {
  const char* name;
  bool required = true;  ///< off: naming none means something too
};

/// Passed over the parts of a feature in a fixed order. Each kind of step says once what it is made
/// of; hashing, files, Ledger fields, cards and every question about a step are descriptions that
/// listen to what they need. The parts may be changed where the feature is the caller's own.
class Description {
 public:
  virtual ~Description() = default;
  virtual void number(const NumberInfo&, Quantity&) {}
  virtual void count(const CountInfo&, int&) {}
  virtual void flag(const char* /*name*/, bool&) {}
  virtual void reference(const ReferenceInfo&, Reference&) {}
  virtual void sketch(const char* /*name*/, Id&) {}
  virtual void sketches(const SketchesInfo&, std::vector<Id>&) {}
  /// Entities of the sketch named before.
  virtual void curves(const char* /*name*/, std::vector<sketch::Id>&) {}
  virtual void curve(const char* /*name*/, sketch::Id&) {}
  /// A point inside each area picked on that sketch.
  virtual void areas(const char* /*name*/, std::vector<Vec2>&) {}
  virtual void edges(const char* /*name*/, std::vector<EdgeRef>&) {}
  /// Persistent names of faces of the model before the step.
  virtual void faces(const char* /*name*/, std::vector<std::string>&) {}
  /// Keys of bodies of the model before the step.
  virtual void bodies(const BodiesInfo&, std::vector<std::string>&) {}
  /// A model that the step brings with it; null while none is read.
  virtual void imported(const char* /*name*/, std::shared_ptr<const Imported>&) {}
  virtual void path(const char* /*name*/, SpacePath&) {}
  /// A free-form face; null while none is fitted.
  virtual void surface(const char* /*name*/, std::shared_ptr<const patch::SplineSurface>&) {}
  /// Free-form faces that close; null while none are fitted.
  virtual void surfaces(const char* /*name*/, std::shared_ptr<const patch::SplineSurfaces>&) {}
  /// An earlier step, by its id; 0: none.
  virtual void step(const char* /*name*/, Id&) {}
  /// Parts up to the matching `end` belong together under a name in files.
  virtual void begin(const char* /*name*/) {}
  virtual void end() {}

  template <class E>
  void choice(const ChoiceInfo& info, E& value) {
    int index = static_cast<int>(value);
    choose(info, index);
    value = static_cast<E>(index);
  }
  /// What is done with the bodies named, or with those that are touched.
  void operation(Operation& operation, std::vector<std::string>& bodies);
  virtual void extent(Extent& extent);

 protected:
  virtual void choose(const ChoiceInfo&, int&) {}
};

}  // namespace lostline::model
