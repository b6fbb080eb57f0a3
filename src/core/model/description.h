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
/// take the parts. They may be changed where the feature is the caller's own.
///
/// Those who have to treat every part (the key of the result, files, what follows a new frame, the
/// way to another process) derive from this class: one that forgets a part does not compile. Those
/// who only look for some derive from Listener.
class Description {
 public:
  virtual ~Description() = default;
  virtual void number(const NumberInfo& info, Quantity& quantity) = 0;
  virtual void count(const CountInfo& info, int& count) = 0;
  virtual void flag(const char* name, bool& on) = 0;
  virtual void reference(const ReferenceInfo& info, Reference& reference) = 0;
  virtual void sketch(const char* name, Id& id) = 0;
  virtual void sketches(const SketchesInfo& info, std::vector<Id>& ids) = 0;
  /// Entities of the sketch named before.
  virtual void curves(const char* name, std::vector<sketch::Id>& ids) = 0;
  virtual void curve(const char* name, sketch::Id& id) = 0;
  /// A point inside each area picked on that sketch.
  virtual void areas(const char* name, std::vector<Vec2>& areas) = 0;
  virtual void edges(const char* name, std::vector<EdgeRef>& edges) = 0;
  /// Persistent names of faces of the model before the step.
  virtual void faces(const char* name, std::vector<std::string>& faces) = 0;
  /// Keys of bodies of the model before the step.
  virtual void bodies(const BodiesInfo& info, std::vector<std::string>& bodies) = 0;
  /// A model that the step brings with it; null while none is read.
  virtual void imported(const char* name, std::shared_ptr<const Imported>& imported) = 0;
  virtual void path(const char* name, SpacePath& path) = 0;
  /// A free-form face; null while none is fitted.
  virtual void surface(const char* name, std::shared_ptr<const patch::SplineSurface>& surface) = 0;
  /// Free-form faces that close; null while none are fitted.
  virtual void surfaces(const char* name,
                        std::shared_ptr<const patch::SplineSurfaces>& surfaces) = 0;
  /// An earlier step, by its id; 0: none.
  virtual void step(const char* name, Id& id) = 0;
  /// Where the step's own coordinates lie: a rigid motion from them to those of the part. It is not
  /// entered; a new frame changes it.
  virtual void place(const char* name, Transform& place) = 0;
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
  virtual void choose(const ChoiceInfo& info, int& value) = 0;
};

/// A description that passes over the parts that it does not ask for.
class Listener : public Description {
 public:
  void number(const NumberInfo&, Quantity&) override {}
  void count(const CountInfo&, int&) override {}
  void flag(const char*, bool&) override {}
  void reference(const ReferenceInfo&, Reference&) override {}
  void sketch(const char*, Id&) override {}
  void sketches(const SketchesInfo&, std::vector<Id>&) override {}
  void curves(const char*, std::vector<sketch::Id>&) override {}
  void curve(const char*, sketch::Id&) override {}
  void areas(const char*, std::vector<Vec2>&) override {}
  void edges(const char*, std::vector<EdgeRef>&) override {}
  void faces(const char*, std::vector<std::string>&) override {}
  void bodies(const BodiesInfo&, std::vector<std::string>&) override {}
  void imported(const char*, std::shared_ptr<const Imported>&) override {}
  void path(const char*, SpacePath&) override {}
  void surface(const char*, std::shared_ptr<const patch::SplineSurface>&) override {}
  void surfaces(const char*, std::shared_ptr<const patch::SplineSurfaces>&) override {}
  void step(const char*, Id&) override {}
  void place(const char*, Transform&) override {}

 protected:
  void choose(const ChoiceInfo&, int&) override {}
};

}  // namespace lostline::model
