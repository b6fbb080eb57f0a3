#pragma once

#include <memory>

#include "instruments/client.h"
#include "instruments/instrument.h"
#include "model/model.h"

namespace lostline::simulate {

struct TouchProbeOptions {
  double tip = 3;        ///< mm, diameter of the ball
  double noise = 0.002;  ///< mm, standard deviation of each coordinate
  std::uint64_t seed = 1;
  bool gives_centres = true;  ///< else the place touched, the ball taken off along its way
  bool random_pose = true;    ///< the part lies anyhow on the machine
};

/// A stand-in touch probe with a part on its machine. It touches where it is told to, or works
/// through a programme of its own: the part's larger flat and round faces, one after another.
class TouchProbe : public instruments::Instrument {
 public:
  /// @errors InvalidInput  an empty model, or an option that makes no sense;  Failed.
  static Result<std::unique_ptr<TouchProbe>> make(const model::Model& solid,
                                                  const TouchProbeOptions& options = {});
  ~TouchProbe() override;
  [[nodiscard]] instruments::Introduction introduction() const override;
  void begin() override;
  /// TOUCH x y z i j k: touches there, coming from along (i, j, k); NEXT: the next one of the
  /// programme.
  Status answer(const instruments::Message& command, const Send& send, const Task& task) override;

  /// Where the ball comes to rest on its way to a place, machine coordinates; empty: it met
  /// nothing.
  [[nodiscard]] std::optional<instruments::Touch> touch(const Vec3& at, const Vec3& out) const;
  /// Model to machine.
  [[nodiscard]] const Transform& pose() const;

 private:
  struct Impl;
  explicit TouchProbe(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace lostline::simulate
