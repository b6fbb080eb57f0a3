#pragma once

#include <deque>

#include "model/apart/bytes.h"
#include "model/route.h"
#include "patch/spline_surface.h"
#include "sketch/plane_curve.h"

// What steps are made of, as bytes for a process of its own.

namespace lostline::model {

/// A model without what it is called by: shapes in the kernel's binary form, names of faces,
/// bodies.
void pack(Bytes& bytes, const Model& model);
/// @param serial  that the model is known by; 0: a new one.
/// Throws where the bytes are no model.
Model unpack(Bytes& bytes, std::uint64_t serial);

/// Values for a request, with the models that they name beside them.
class Packing {
 public:
  Packing() = default;  ///< writes
  Packing(Bytes bytes, std::vector<Model> models)
      : bytes_(std::move(bytes)), models_(std::move(models)) {}

  [[nodiscard]] bool reading() const { return bytes_.reading(); }
  Bytes& bytes() { return bytes_; }
  [[nodiscard]] const std::vector<Model>& models() const { return models_; }

  void operator()(Model& model);
  void operator()(Transform& motion);
  void operator()(Placement& placement);
  void operator()(fit::Surface& surface);
  void operator()(sketch::Sketch& sketch);
  void operator()(PlacedSketch& placed);
  void operator()(Reference& reference);
  void operator()(patch::SplineSurface& surface);
  void operator()(patch::SplineSurfaces& surfaces);
  void operator()(sketch::Form& form);
  void operator()(Feature& feature);
  void operator()(Step& step);
  void operator()(std::map<Id, PlacedSketch>& sketches);

 private:
  Bytes bytes_;
  std::vector<Model> models_;
};

/// Serials of the models that a process remembers, the last used first, told alike on both sides.
class Remembered {
 public:
  static constexpr std::size_t kMost =
      8;  ///< models: the part, those before repeated steps, trials
  struct Entry {
    std::uint64_t serial = 0;
    Model model;  ///< empty on the side that only knows of it
  };
  [[nodiscard]] const Entry* find(std::uint64_t serial) const;
  /// It has been used; what has not been for longest is forgotten.
  void use(std::uint64_t serial, const Model& model = {});

 private:
  std::deque<Entry> entries_;
};

}  // namespace lostline::model
