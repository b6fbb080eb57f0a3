#pragma once

#include <GeomAdaptor_Surface.hxx>
#include <Geom_Surface.hxx>
#include <optional>

#include "base/geometry.h"
#include "fit/surface_kernels.h"
#include "model/model.h"

// The exact surface of a face; for the .cpp files of this module.

namespace lostline::deviation {

/// A face's surface in closed form, or a free-form one; `sign` turns a free-form surface's outward
/// side into that of the material.
struct FaceSurface {
  std::optional<fit::Surface> form;
  fit::Numbers numbers{fit::Surface()};
  double sign = 1;
  Handle(Geom_Surface) free_form;
  Vec2 low = Vec2::Zero();
  Vec2 high = Vec2::Zero();

  /// Where a point falls on the unbounded surface.
  struct Foot {
    double distance = 0;  ///< signed: positive outside the material
    Vec3 at = Vec3::Zero();
    Vec3 normal = Vec3::UnitZ();  ///< outwards, at the foot
  };
  /// @param seed  surface parameters near the foot, used by free-form surfaces.
  /// @param adaptor  of the free-form surface, the caller's own: it caches spans and is not shared
  /// by threads.
  [[nodiscard]] Foot foot_of(const Vec3& p, const Vec2& seed,
                             const Adaptor3d_Surface* adaptor) const;

 private:
  [[nodiscard]] Foot newton(const Vec3& p, Vec2 uv, const Adaptor3d_Surface& adaptor) const;
};

FaceSurface surface_of(const model::Model& model, std::size_t face);

}  // namespace lostline::deviation
