#pragma once

#include <any>
#include <string>
#include <utility>

#include "fit/surface_fit.h"
#include "model/description.h"

namespace lostline::model {

class Feature;
struct ToolBody;

/// Where a feature is made: its step, what it may refer to, and the part before it.
struct Site {
  const Step& step;
  const Setting& setting;
  const Model& before;  ///< all of it, or the one body that the step changes
  const Model& whole;   ///< all of it, for what a step refers to
};

/// What the scan says about a number of a feature.
struct NumberReading {
  const char* field;
  double value = 0;     ///< mm or rad
  double u = 0;         ///< expanded, k = 2
  std::string source;   ///< in words
  bool chosen = false;  ///< no measurement but where others are counted from: a decision
};

/// What a kind of step may ask of the scan, in part coordinates; answered by who has one.
class ScanEvidence {
 public:
  virtual ~ScanEvidence() = default;
  /// What the scan shows where a face of the model lies, or before or behind it.
  struct Behind {
    Vec3 normal = Vec3::Zero();  ///< of the scan's surface at one place, out of the material
    double u_slope = 0;          ///< of that direction, expanded, rad
    double shift = 0;            ///< mean distance from the face, outwards, mm
    double u_shift = 0;          ///< expanded, mm
  };
  /// Empty when the scan shows no surface there.
  [[nodiscard]] virtual std::optional<Behind> behind_face(const Model& model,
                                                          std::size_t face) const = 0;
  /// Thickness of the scan's wall under a face of the model: value and U in mm.
  struct Wall {
    double thickness = 0;
    double u = 0;
  };
  [[nodiscard]] virtual std::optional<Wall> wall_under(const Model& model,
                                                       std::size_t face) const = 0;
  /// The surface that a reference means on the scan, with the points it was fitted to.
  struct Covered {
    fit::SurfaceFit fit;
    std::vector<Vec3> points;
    double u = 0;  ///< of where it ends, expanded, mm: ends are seen to half a spacing
  };
  /// Empty when it is no fit or region.
  [[nodiscard]] virtual std::optional<Covered> covered(const Reference& reference) const = 0;
  /// The round that the scan shows along an edge: radius and U in mm.
  struct Round {
    double radius = 0;
    double u = 0;  ///< expanded
  };
  /// Empty when the scan is sharp there or shows too little.
  [[nodiscard]] virtual std::optional<Round> round_along(const Model& model,
                                                         const EdgeRef& edge) const = 0;
  /// How far the surveyed part of the scan reaches.
  struct Reached {
    Box3 box;
    double u = 0;  ///< of its ends, expanded, mm
  };
  [[nodiscard]] virtual std::optional<Reached> box() const = 0;
};

/// What is said about a kind of step; one constant a kind, listed in steps/kinds.cpp.
struct FeatureKind {
  const char* key;    ///< in project files and JSON; never changed once released
  const char* title;  ///< of its tool
  const char* tip;    ///< one line for the engineer
  const char* icon;   ///< of the vendored set
  char letter;        ///< that follows the leader key of Build
  Feature (*make)();
  std::string (*words)(const Feature&);  ///< "cut": what the Route calls it
  void (*describe)(Feature&, Description&);
  Result<Model> (*build)(const Feature&, const Site&);
  /// Readings of its numbers from the scan; null where it has none of its own.
  std::vector<NumberReading> (*read)(const Feature&, const Site&, const ScanEvidence&);
  /// The material added, cut or kept, which patterns repeat; null where there is none.
  Result<ToolBody> (*tool)(const Feature&, const Site&);
  /// Whether that material is quickly made and rests on nothing of the part but what the feature
  /// names, so that steps side by side can be made in one go; null: it does not.
  bool (*stands_alone)(const Feature&);
};

/// What a step does: a value of one of the kinds, such as Extrude or Fillet.
///
/// A kind T is a plain struct with `static const FeatureKind kind`, `describe(Description&)`,
/// `words() const`, and `build(const Site&) const` or `tool(const Site&) const`.
class Feature {
 public:
  Feature();  ///< of no kind: what a step is before it is given one
  template <class T>
  requires requires { T::kind.key; }
  Feature(T value) : kind_(&T::kind), value_(std::move(value)) {}  // NOLINT(*-explicit-*)

  [[nodiscard]] const FeatureKind& kind() const { return *kind_; }
  [[nodiscard]] std::string words() const { return kind_->words(*this); }
  /// Null when it is of another kind.
  template <class T>
  [[nodiscard]] T* as() {
    return std::any_cast<T>(&value_);
  }
  template <class T>
  [[nodiscard]] const T* as() const {
    return std::any_cast<T>(&value_);
  }
  void describe(Description& description) { kind_->describe(*this, description); }
  /// Describes a copy: what the description changes is lost.
  void describe(Description& description) const {
    Feature copy = *this;
    copy.describe(description);
  }

 private:
  const FeatureKind* kind_;
  std::any value_;
};

/// A number of a feature with its description.
struct Field {
  NumberInfo info;
  Quantity* quantity;
};
/// The numbers of a feature that are in force; pointers into it.
std::vector<Field> fields_of(Feature& feature);
/// Every reference of a feature, in force or not; pointers into it.
std::vector<Reference*> references_of(Feature& feature);

/// What a feature rests on.
struct Uses {
  Id sketch = 0;                   ///< the first
  std::vector<Id> sketches;        ///< all
  std::vector<sketch::Id> curves;  ///< of the first sketch; empty: all of it
  std::vector<EdgeRef> edges;
  std::vector<std::string> faces;
  std::vector<std::string> bodies;
  Id step = 0;  ///< an earlier one that it repeats
};
Uses uses_of(const Feature& feature);

}  // namespace lostline::model
