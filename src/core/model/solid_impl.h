#pragma once

// The open side of Solid, for the .cpp files that work on the boundary representation itself.

#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Shape.hxx>
#include <functional>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>
#include <string>
#include <vector>

#include "model/solid.h"

namespace lostline::model {

inline gp_Vec vec(const Vec3& v) { return {v.x(), v.y(), v.z()}; }
inline gp_Pnt pnt(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
inline gp_Dir dir(const Vec3& d) { return {d.x(), d.y(), d.z()}; }

struct Solid::Impl {
  TopoDS_Shape shape;
  TopTools_IndexedMapOfShape faces;  // 1-based
  TopTools_IndexedMapOfShape edges;  // 1-based, degenerated ones left out
  std::vector<std::vector<std::string>>
      names;  // of face i + 1; the first is shown, the others are those merged into it
};

using FaceNames = std::vector<std::pair<TopoDS_Shape, std::vector<std::string>>>;

/// The same solid with a shape of its own, which a feature may work on: the kernel completes shapes
/// as it goes (curves on surfaces, tolerances), and those of solids are shared between threads.
Solid private_copy(const Solid& solid);

/// Wraps a shape; faces not in `names` are called `fallback` with a number. Equal names get "#2",
/// "#3" by position.
Solid make_solid(const TopoDS_Shape& shape, const FaceNames& names, const std::string& fallback);

/// Runs OCCT code, turning its exceptions into an Error that says what failed.
Result<Solid> guarded(const std::string& what, const std::function<Result<Solid>()>& work);

}  // namespace lostline::model
