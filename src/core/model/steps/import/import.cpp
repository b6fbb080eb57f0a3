#include "model/steps/import/import.h"

#include <fmt/format.h>

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <cmath>

#include "base/hash.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// Six digits for a face's kind of surface, area and place, in steps of a millionth of the model:
/// the same wherever the face stands in its file.
std::string geometry_mark(const TopoDS_Face& face, double step) {
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(face, properties);
  const gp_Pnt c = properties.CentreOfMass();
  Hash hash;
  hash.add(static_cast<int>(BRepAdaptor_Surface(face).GetType()));
  hash.add(std::llround(std::sqrt(properties.Mass()) / step));
  for (const double x : {c.X(), c.Y(), c.Z()}) hash.add(std::llround(x / step));
  return fmt::format("{:06x}", hash.value() & 0xffffffU);
}

}  // namespace

constinit const FeatureKind Import::kind = kind_of<Import>(
    "import", "Import", "bring a model from a file into the Route", "file-input", 'i');

void Import::describe(Description& d) {
  d.imported("model", model);
  d.place("frame", frame);
}

Result<Model> Import::build(const Site& site) const {
  if (model == nullptr)
    return Error{ErrorCode::InvalidInput, "Choose the file of the model to import."};
  const Model own = private_copy(model->model);
  const std::string prefix = prefix_of(site.step);
  const double step = 1e-6 * own.box().diagonal().norm();
  std::vector<BodyShape> bodies;
  FaceNames names = names_of(site.before);
  if (!site.before.empty()) bodies = site.before.impl().bodies;
  const std::size_t first = bodies.size();
  for (BodyShape body : own.impl().bodies) {
    body.body.key = prefix;
    bodies.push_back(std::move(body));
  }
  // Named for the geometry in the file: wherever the model lies, its faces have the same names.
  std::vector<std::string> marks;
  for (int i = 1; i <= own.impl().faces.Extent(); ++i)
    marks.push_back(prefix + ":" + geometry_mark(TopoDS::Face(own.impl().faces(i)), step));
  const gp_Trsf motion = rigid(frame);
  for (std::size_t b = 0; b < own.impl().bodies.size(); ++b) {
    const TopoDS_Shape& there = own.impl().bodies[b].shape;
    BRepBuilderAPI_Transform moved(there, motion, true);
    bodies[first + b].shape = moved.Shape();
    for (TopExp_Explorer it(there, TopAbs_FACE); it.More(); it.Next()) {
      const int i = own.impl().faces.FindIndex(it.Current());
      names.emplace_back(moved.ModifiedShape(it.Current()),
                         std::vector{marks[static_cast<std::size_t>(i - 1)]});
    }
  }
  return make_model(std::move(bodies), names, prefix);
}

}  // namespace lostline::model
