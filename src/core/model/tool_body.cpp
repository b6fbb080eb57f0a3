#include "model/tool_body.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <algorithm>
#include <cmath>

#include "model/bodies.h"
#include "model/operate.h"

namespace lostline::model {

std::string title_of(const Step& step) { return "The " + step.feature.words() + " " + step.name; }

std::string prefix_of(const Step& step) { return "s" + std::to_string(step.id); }

Result<TopoDS_Wire> curve_body(const Model& model, const std::string& key) {
  const auto body = model.find_body(key);
  if (!body) return Error{ErrorCode::NotFound, "The curve is gone. Choose another one."};
  if (model.body(*body).kind != BodyKind::Curve)
    return Error{ErrorCode::InvalidInput, "Choose a body that is a curve in space: this is a " +
                                              std::string(kind_name(model.body(*body).kind)) + "."};
  BRepBuilderAPI_MakeWire wire;
  TopTools_ListOfShape edges;
  for (TopExp_Explorer at(model.impl().bodies[*body].shape, TopAbs_EDGE); at.More(); at.Next())
    edges.Append(at.Current());
  wire.Add(edges);
  if (!wire.IsDone())
    return Error{ErrorCode::InvalidInput, "The curve is not one chain from end to end."};
  return wire.Wire();
}

const PlacedSketch* find_sketch(const Setting& setting, Id id) {
  const auto it = setting.sketches.find(id);
  return it == setting.sketches.end() ? nullptr : &it->second;
}

Error sketch_gone() {
  return {ErrorCode::NotFound,
          "Its sketch has been deleted. Pick another sketch or remove the step."};
}

Result<Levels> levels_of(const Extent& extent, const Placement& base, const Model& before) {
  if (extent.reach == Reach::Through) {
    if (before.empty())
      return Error{ErrorCode::InvalidInput, "There is nothing to go through yet. Give a distance."};
    const Box3 box = before.box();
    double low = 1e300;
    double high = -1e300;
    for (int corner = 0; corner < 8; ++corner) {
      const double level = base.level_of(box.corner(static_cast<Box3::CornerType>(corner)));
      low = std::min(low, level);
      high = std::max(high, level);
    }
    const double past = 0.01 * box.diagonal().norm();  // clear of the part at any size
    return Levels{low - past, high + past};
  }
  if (extent.reach == Reach::Symmetric) {
    const double half = extent.thickness.value / 2;
    if (!std::isfinite(half) || !(half > 5e-7) || !std::isfinite(extent.middle.value))
      return Error{ErrorCode::InvalidInput, "A thickness must be greater than zero."};
    return Levels{extent.middle.value - half, extent.middle.value + half};
  }
  const double to = extent.reach == Reach::UpTo ? extent.from.value + 1 : extent.to.value;
  if (!std::isfinite(extent.from.value) || !std::isfinite(to) ||
      std::abs(to - extent.from.value) < 1e-6) {
    return Error{ErrorCode::InvalidInput,
                 "From and to are the same level: the feature has no height."};
  }
  return Levels{extent.from.value, to};
}

namespace {

/// Whether a corner or the middle of an edge of one lies in a solid.
bool reaches_into(const TopoDS_Shape& one, const TopoDS_Shape& solid) {
  BRepClass3d_SolidClassifier classifier(solid);
  constexpr int kMost = 200;  // places tried
  int tried = 0;
  for (TopExp_Explorer edges(one, TopAbs_EDGE); edges.More() && tried < kMost; edges.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges.Current());
    if (BRep_Tool::Degenerated(edge)) continue;
    const BRepAdaptor_Curve curve(edge);
    for (const double share : {0.0, 0.5}) {
      classifier.Perform(
          curve.Value((1 - share) * curve.FirstParameter() + share * curve.LastParameter()), 1e-7);
      if (classifier.State() == TopAbs_IN) return true;
      ++tried;
    }
  }
  return false;
}

/// Whether two shapes have a point in common, or one lies in the other.
bool touch(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  const Bnd_Box one = bounds_of(a);
  if (one.IsOut(bounds_of(b))) return false;
  // Most that touch have a corner or the middle of an edge in each other, which is told at once.
  if (reaches_into(a, b) || reaches_into(b, a)) return true;
  const BRepExtrema_DistShapeShape distance(a, b);
  // Far below what is made, well above what the kernel takes for the same place.
  return distance.IsDone() && distance.Value() <= 1e-7 * std::sqrt(one.SquareExtent());
}

/// The bodies that a tool is meant for.
Result<std::vector<std::size_t>> bodies_meant(const Model& before, const ToolBody& tool) {
  std::vector<std::size_t> meant;
  if (!tool.onto.empty()) {
    for (const std::string& key : tool.onto) {
      const auto body = before.find_body(key);
      if (!body) return Error{ErrorCode::NotFound, "Body " + key + " is gone. Pick another body."};
      if (before.body(*body).kind == BodyKind::Curve ||
          (before.body(*body).kind == BodyKind::Surface && tool.operation == Operation::Add))
        return Error{ErrorCode::InvalidInput,
                     std::string("Material cannot be ") +
                         (tool.operation == Operation::Add ? "added to" : "taken from") + " a " +
                         kind_name(before.body(*body).kind) + " body. Pick a solid."};
      if (std::find(meant.begin(), meant.end(), *body) == meant.end()) meant.push_back(*body);
    }
    std::sort(meant.begin(), meant.end());
    return meant;
  }
  for (std::size_t i = 0; i < before.body_count(); ++i) {
    if (before.body(i).kind == BodyKind::Solid) meant.push_back(i);
  }
  // Of a single one the operation itself finds out.
  if (meant.size() > 1) {
    std::erase_if(meant, [&](std::size_t i) {
      return !touch(before.impl().bodies[i].shape, tool.body.shape);
    });
  }
  return meant;
}

/// It did something when a face of the tool is in the result, however small beside the part; a tool
/// that coincides with the part changes its size no more than rounding.
bool did_something(const Combined& combined, bool solid) {
  return (!solid || combined.bears.front() != Combined::Bears::Not) && combined.changes;
}

Error nothing_there(Operation operation) {
  return {ErrorCode::InvalidInput,
          operation == Operation::Cut
              ? "There is nothing to cut yet. Add material first."
              : "There is nothing to have in common with yet. Add material first."};
}

Error nothing_done(Operation operation) {
  return {ErrorCode::Failed,
          operation == Operation::Add
              ? "The profile lies wholly inside the part and adds nothing. Change its levels."
          : operation == Operation::Cut
              ? "The cut does not touch the part. Change its levels or its profile."
              : "The part lies wholly inside the profile: nothing changes."};
}

/// The bodies of a model while they are changed.
struct Bench {
  std::vector<BodyShape> bodies;
  FaceNames names;
  explicit Bench(const Model& model) : names(names_of(model)) {
    if (!model.empty()) bodies = model.impl().bodies;
  }
  void append(const Named& shape, BodyKind kind, const std::string& key) {
    Body body;
    body.key = key;
    body.kind = kind;
    bodies.push_back({std::move(body), shape.shape});
    names.insert(names.end(), shape.names.begin(), shape.names.end());
  }
};

Result<Model> add(const Model& before, const ToolBody& tool, const std::vector<std::size_t>& meant,
                  const std::string& prefix, const Task& task) {
  Bench bench(before);
  const auto beside = [&] {
    bench.append({alone(tool.body.shape), tool.body.names}, tool.kind, prefix);
    return make_model(std::move(bench.bodies), bench.names, prefix);
  };
  if (meant.empty() || tool.operation == Operation::NewBody) return beside();
  TopTools_ListOfShape arguments;
  FaceNames names;
  int lumps = pieces_of(tool.body.shape, TopAbs_SOLID).Extent();
  for (const std::size_t i : meant) {
    arguments.Append(bench.bodies[i].shape);
    lumps += pieces_of(bench.bodies[i].shape, TopAbs_SOLID).Extent();
    const FaceNames own = named_body(before, i).names;
    names.insert(names.end(), own.begin(), own.end());
  }
  const auto combined = operate(arguments, names, {&tool.body}, Operation::Add, task);
  if (!combined) return combined.error();
  if (!did_something(*combined, true)) return nothing_done(Operation::Add);
  if (tool.onto.empty() && combined->lumps == lumps) return beside();
  BodyShape& first = bench.bodies[meant.front()];
  first.shape = alone(combined->made.shape);
  for (std::size_t k = 1; k < meant.size(); ++k) {
    const Body& joined = bench.bodies[meant[k]].body;
    first.body.merged.push_back(joined.key);
    first.body.merged.insert(first.body.merged.end(), joined.merged.begin(), joined.merged.end());
  }
  for (std::size_t k = meant.size(); k-- > 1;)
    bench.bodies.erase(bench.bodies.begin() + static_cast<std::ptrdiff_t>(meant[k]));
  bench.names.insert(bench.names.end(), combined->made.names.begin(), combined->made.names.end());
  return make_model(std::move(bench.bodies), bench.names, prefix);
}

Result<Model> take(const Model& before, const ToolBody& tool, const std::vector<std::size_t>& meant,
                   const std::string& prefix, const Task& task) {
  Bench bench(before);
  bool done = false;
  for (const std::size_t i : meant) {
    const bool solid = bench.bodies[i].body.kind == BodyKind::Solid;
    TopTools_ListOfShape arguments;
    arguments.Append(bench.bodies[i].shape);
    const auto combined =
        operate(arguments, named_body(before, i).names, {&tool.body}, tool.operation, task);
    if (!combined) return combined.error();
    if (pieces_of(combined->made.shape, solid ? TopAbs_SOLID : TopAbs_FACE).IsEmpty())
      return Error{ErrorCode::Failed, tool.operation == Operation::Common
                                          ? "The profile and the part have nothing in common."
                                          : "The cut leaves nothing of the part."};
    if (!did_something(*combined, solid)) continue;
    done = true;
    bench.bodies[i].shape = alone(combined->made.shape);
    bench.names.insert(bench.names.end(), combined->made.names.begin(), combined->made.names.end());
  }
  if (!done) return nothing_done(tool.operation);
  return make_model(std::move(bench.bodies), bench.names, prefix);
}

}  // namespace

Result<Named> boolean_of(const Named& body, const Named& tool, Operation operation,
                         const Task& task) {
  TopTools_ListOfShape arguments;
  arguments.Append(body.shape);
  const auto combined = operate(arguments, body.names, {&tool}, operation, task);
  if (!combined) return combined.error();
  if (combined->lumps == 0)
    return Error{ErrorCode::Failed, "The two have nothing in common, or nothing would be left."};
  return Named{alone(combined->made.shape), combined->made.names};
}

Result<Model> combine(const Model& before, const ToolBody& tool, const std::string& prefix,
                      const Task& task) {
  if (tool.kind == BodyKind::Solid) {
    if (const Status sound = has_inside(tool.body.shape); !sound) return sound.error();
  }
  const bool adds = tool.operation == Operation::Add || tool.operation == Operation::NewBody;
  if (tool.kind != BodyKind::Solid && !adds)
    return Error{ErrorCode::InvalidInput,
                 "A surface has no inside to cut with. Split the body by it instead."};
  if (tool.kind != BodyKind::Solid || tool.operation == Operation::NewBody)
    return add(before, tool, {}, prefix, task);
  const auto meant = bodies_meant(before, tool);
  if (!meant) return meant.error();
  if (adds) return add(before, tool, *meant, prefix, task);
  if (!before.has(BodyKind::Solid) && tool.onto.empty()) return nothing_there(tool.operation);
  if (meant->empty()) return nothing_done(tool.operation);
  return take(before, tool, *meant, prefix, task);
}

}  // namespace lostline::model
