#pragma once

#include <memory>

#include "instruments/client.h"
#include "instruments/instrument.h"
#include "model/model.h"

namespace lostline::simulate {

struct TurntableOptions {
  double noise = 0.02;   ///< mm, standard deviation along the ray at normal incidence
  double spacing = 0.6;  ///< mm, of the points where the ray meets the part squarely
  int views = 12;        ///< evenly about a full turn
  std::uint64_t seed = 1;
  Vec3 down = -Vec3::UnitZ();  ///< of the model: the side that it lies on
  double elevation = 0.65;     ///< rad that the scanner looks down by
  bool table = true;           ///< the table is seen as well
};

/// A stand-in scanner beside a turntable on which a part lies: a camera and a projector, both of
/// which must see a place; noise along the ray that grows towards grazing angles; the table is seen
/// too. Points come in the table's coordinates (z up, the table at 0), as if the turns were taken
/// out.
class Turntable : public instruments::Instrument {
 public:
  /// @errors InvalidInput  an empty model, or an option that makes no sense.
  static Result<std::unique_ptr<Turntable>> make(const model::Model& solid,
                                                 const TurntableOptions& options = {});
  ~Turntable() override;
  [[nodiscard]] instruments::Introduction introduction() const override;
  void begin() override;
  /// VIEW: the next view, until the turn is full.
  Status answer(const instruments::Message& command, const Send& send, const Task& task) override;

  /// A view without a socket, from 0. Deterministic for a seed.
  [[nodiscard]] instruments::View view(int number, const Task& task = {}) const;
  /// Model to table.
  [[nodiscard]] const Transform& pose() const;

 private:
  struct Impl;
  explicit Turntable(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace lostline::simulate
