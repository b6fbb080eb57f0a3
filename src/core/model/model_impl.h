#pragma once

// The open side of Model, for the .cpp files that work on the boundary representation itself.

#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Shape.hxx>
#include <cstdint>
#include <functional>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <gp_Trsf.hxx>
#include <gp_Vec.hxx>
#include <mutex>
#include <string>
#include <vector>

#include "model/model.h"

namespace lostline::model {

inline gp_Vec vec(const Vec3& v) { return {v.x(), v.y(), v.z()}; }
inline Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }
inline gp_Pnt pnt(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
inline gp_Dir dir(const Vec3& d) { return {d.x(), d.y(), d.z()}; }

/// A rigid motion for the kernel.
gp_Trsf rigid(const Transform& motion);

struct BodyShape {
  Body body;
  TopoDS_Shape shape;  // shares no face or edge with another body
};

struct Model::Impl {
  TopoDS_Shape shape;  // of the only body, or a compound of all
  std::vector<BodyShape> bodies;
  std::vector<std::uint32_t> face_body;  // of face i + 1
  TopTools_IndexedMapOfShape faces;      // 1-based
  TopTools_IndexedMapOfShape edges;      // 1-based, degenerated ones left out
  std::vector<std::vector<std::string>>
      names;  // of face i + 1; the first is shown, the others are those merged into it
  struct Measured {
    std::once_flag once;
    double volume = 0;
  };
  // Once asked for, shared with copies of the same shapes: of free-form faces it takes long.
  std::shared_ptr<Measured> measured = std::make_shared<Measured>();
  // What a process of the kernel knows it by; a copy is another model.
  struct Serial {
    std::uint64_t value;
    Serial();
    Serial(const Serial&) : Serial() {}
    Serial& operator=(const Serial&) = delete;
    ~Serial() = default;
  };
  Serial serial{};
};

using FaceNames = std::vector<std::pair<TopoDS_Shape, std::vector<std::string>>>;
/// A shape with the names of its faces, while a feature is being made.
struct Named {
  TopoDS_Shape shape;
  FaceNames names;
};
FaceNames names_of(const Model& model);

/// The same model with shapes of its own, which a feature may work on: the kernel completes shapes
/// as it goes (curves on surfaces, tolerances), and those of solids are shared between threads.
Model private_copy(const Model& solid);

/// `Model::valid` of what was made from a valid model: faces that are still the same are not looked
/// at again.
bool still_valid(const Model& made, const Model& before);

/// Wraps bodies; faces not in `names` are called `fallback` with a number. Pieces of one name are
/// told apart.
Model make_model(std::vector<BodyShape> bodies, const FaceNames& names,
                 const std::string& fallback);
/// A model of one solid body, with `fallback` for its key.
Model make_solid(const TopoDS_Shape& shape, const FaceNames& names, const std::string& fallback);

/// Wraps bodies whose faces have all their names, in the order of the faces.
/// @param serial  that it is known by.
Model make_named(std::vector<BodyShape> bodies, std::vector<std::vector<std::string>> names,
                 std::uint64_t serial);

/// Runs OCCT code, turning its exceptions into an Error that says what failed.
Result<Model> guarded(const std::string& what, const std::function<Result<Model>()>& work);

}  // namespace lostline::model
