#include "model/side_by_side.h"

#include <Bnd_Box.hxx>
#include <algorithm>
#include <gp_Trsf.hxx>
#include <optional>
#include <set>

#include "base/linear.h"
#include "model/apart/kernel_process.h"
#include "model/apart/steps_apart.h"
#include "model/bodies.h"
#include "model/operate.h"

namespace lostline::model {
namespace {

/// A sketch's base put onto the face it lies on.
Result<Placement> on_face(const PlacedSketch& placed, const Model& before) {
  Reference reference;
  reference.face = placed.face;
  const auto face = resolve(reference, before);
  if (!face) return face.error();
  if (!fit::is_flat(face->kind)) return placed.base;
  const Vec3 normal = face->axis.dot(placed.base.normal) < 0 ? Vec3(-face->axis) : face->axis;
  const Eigen::Matrix3d turn = rotation_onto(placed.base.normal, normal);
  Placement base{placed.base.origin, turn * placed.base.x, turn * placed.base.y, normal};
  base.origin += normal * (face->point - base.origin).dot(normal);
  return base;
}

/// What a step names of the model before it.
class Rests : public Listener {
 public:
  explicit Rests(const std::map<Id, PlacedSketch>& sketches) : sketches_(sketches) {}
  void reference(const ReferenceInfo& info, Reference& reference) override {
    if (info.in_force && !reference.face.empty()) faces_named.push_back(reference.face);
  }
  void sketch(const char*, Id& id) override {
    const auto it = sketches_.find(id);
    if (it == sketches_.end()) return;
    normal_ = it->second.base.normal;
    if (!it->second.face.empty()) faces_named.push_back(it->second.face);
  }
  void sketches(const SketchesInfo&, std::vector<Id>& ids) override {
    for (Id& id : ids) sketch("", id);
  }
  void edges(const char*, std::vector<EdgeRef>& edges) override { more |= !edges.empty(); }
  void faces(const char*, std::vector<std::string>& faces) override { more |= !faces.empty(); }
  void step(const char*, Id& id) override { more |= id != 0; }
  void extent(Extent& extent) override {
    if (extent.reach == Reach::Through) through = normal_;
    Listener::extent(extent);
  }

  std::vector<std::string> faces_named;  ///< planes and axes taken from faces
  bool more = false;                     ///< edges, faces themselves, or another step
  std::optional<Vec3> through;           ///< along it as far as the part reaches

 private:
  const std::map<Id, PlacedSketch>& sketches_;
  Vec3 normal_ = Vec3::UnitZ();  // of the last sketch
};

/// The only solid of a model; empty when there are none or several.
std::optional<std::size_t> only_solid(const Model& model) {
  std::optional<std::size_t> only;
  for (std::size_t i = 0; i < model.body_count(); ++i) {
    if (model.body(i).kind != BodyKind::Solid) continue;
    if (only) return std::nullopt;
    only = i;
  }
  return only;
}

/// The bounds of a tool with what lies too near to be clear of it; of one that goes through the
/// part, with what it would go through if the part grew.
Bnd_Box reach_of(const TopoDS_Shape& shape, const std::optional<Vec3>& through) {
  Bnd_Box box = bounds_of(shape);
  const double size = std::sqrt(box.SquareExtent());
  // Far above what the kernel takes for the same place.
  box.Enlarge(1e-5 * size);
  if (!through) return box;
  const Bnd_Box there = box;
  for (const double sense : {-1.0, 1.0}) {
    gp_Trsf motion;
    motion.SetTranslation(vec(Vec3(sense * 10 * size * *through)));
    box.Add(there.Transformed(motion));
  }
  return box;
}

struct Run {
  std::vector<ToolBody> tools;
  std::vector<Bnd_Box> boxes;
  std::vector<std::string> faces_named;
};

bool belongs(const Run& run, const ToolBody& tool, const Bnd_Box& box, const Model& before,
             std::size_t body) {
  if (tool.kind != BodyKind::Solid ||
      (tool.operation != Operation::Add && tool.operation != Operation::Cut))
    return false;
  if (std::any_of(tool.onto.begin(), tool.onto.end(),
                  [&](const std::string& key) { return before.find_body(key) != body; }))
    return false;
  return std::all_of(run.boxes.begin(), run.boxes.end(),
                     [&](const Bnd_Box& other) { return box.IsOut(other); }) &&
         has_inside(tool.body.shape);
}

/// Whether every face keeps a name that it had in the model before or has in a tool: none fell
/// into pieces, and none is without a name.
bool names_hold(const Model& after, const Model& before, const std::vector<ToolBody>& tools) {
  std::set<std::string> known;
  for (std::size_t f = 0; f < before.face_count(); ++f) known.insert(before.face_name(f));
  for (const ToolBody& tool : tools) {
    for (const auto& [face, names] : tool.body.names) known.insert(names.front());
  }
  for (std::size_t f = 0; f < after.face_count(); ++f) {
    if (!known.contains(after.face_name(f))) return false;
  }
  return true;
}

/// One operation on a body for all tools of a kind; empty when one of them does not do what it
/// would do alone.
std::optional<Named> apply(const std::vector<ToolBody>& all, Operation operation, const Named& body,
                           const Task& task) {
  std::vector<const Named*> tools;
  for (const ToolBody& tool : all) {
    if (tool.operation == operation) tools.push_back(&tool.body);
  }
  if (tools.empty()) return body;
  TopTools_ListOfShape arguments;
  arguments.Append(body.shape);
  const auto combined = operate(arguments, body.names, tools, operation, task);
  if (!combined || !combined->changes || combined->lumps == 0) return std::nullopt;
  if (std::any_of(combined->bears.begin(), combined->bears.end(),
                  [](Combined::Bears b) { return b != Combined::Bears::Alone; }))
    return std::nullopt;
  if (operation == Operation::Add &&
      combined->lumps != pieces_of(body.shape, TopAbs_SOLID).Extent())
    return std::nullopt;
  return combined->made;
}

std::optional<Model> together(const Run& run, const Model& before, std::size_t body,
                              const Task& task) {
  // What lies clear of each other may be added first and cut then.
  auto made = apply(run.tools, Operation::Add, named_body(before, body), task);
  if (made) made = apply(run.tools, Operation::Cut, *made, task);
  if (!made) return std::nullopt;
  std::vector<BodyShape> bodies = before.impl().bodies;
  bodies[body].shape = alone(made->shape);
  FaceNames names = names_of(before);
  names.insert(names.end(), made->names.begin(), made->names.end());
  Model after = make_model(std::move(bodies), names, "unnamed");
  if (!names_hold(after, before, run.tools) || !still_valid(after, before)) return std::nullopt;
  if (std::any_of(run.faces_named.begin(), run.faces_named.end(),
                  [&](const std::string& face) { return !after.find_face(face); }))
    return std::nullopt;
  return after;
}

}  // namespace

std::map<Id, PlacedSketch> placed_on(const std::map<Id, PlacedSketch>& sketches,
                                     const Model& before) {
  std::map<Id, PlacedSketch> placed = sketches;
  for (auto& [id, sketch] : placed) {
    if (sketch.face.empty()) continue;
    // A sketch whose face comes later in the Route is none of this step's.
    if (const auto base = on_face(sketch, before)) sketch.base = *base;
  }
  return placed;
}

namespace {

bool says_stands_alone(const Step& step) {
  const auto says = step.feature.kind().stands_alone;
  return says != nullptr && says(step.feature);
}

/// Whether there are two at least that may be made together: asked before anything is made.
bool several(const Setting& given, std::size_t first, const std::vector<bool>& begins,
             std::size_t most, const Model& before) {
  if (!only_solid(before) || most < 2) return false;
  std::size_t next = first + 1;
  while (next < given.steps.size() && given.steps[next].parked && !begins[next]) ++next;
  return says_stands_alone(given.steps[first]) && next < given.steps.size() && !begins[next] &&
         says_stands_alone(given.steps[next]);
}

}  // namespace

SideBySide make_side_by_side(const Setting& given, std::size_t first,
                             const std::vector<bool>& begins, std::size_t most,
                             const Model& before) {
  if (!several(given, first, begins, most, before)) return {first, 0, {}};
  if (!has_kernel_process()) return make_side_by_side_here(given, first, begins, most, before);
  // Those behind the run are none of its business.
  std::size_t end = first + 1;
  while (end < given.steps.size() && !begins[end] &&
         (given.steps[end].parked || says_stands_alone(given.steps[end])))
    ++end;
  return side_by_side_apart(given, first, end, most, before);
}

SideBySide make_side_by_side_here(const Setting& given, std::size_t first,
                                  const std::vector<bool>& begins, std::size_t most,
                                  const Model& before) {
  SideBySide made{first, 0, {}};
  if (!several(given, first, begins, most, before)) return made;
  const auto body = only_solid(before);
  const auto tried = guarded(title_of(given.steps[first]), [&]() -> Result<Model> {
    const Model own = private_copy(before);
    const auto sketches = placed_on(given.sketches, own);
    const Setting setting{sketches, given.steps, given.before_step, given.task};
    Run run;
    for (std::size_t i = first; i < given.steps.size() && made.steps < most; ++i) {
      const Step& step = given.steps[i];
      if (i > first && begins[i]) break;
      if (step.parked) continue;
      if (!says_stands_alone(step)) break;
      Rests rests(given.sketches);
      step.feature.describe(rests);
      if (rests.more || std::any_of(rests.faces_named.begin(), rests.faces_named.end(),
                                    [&](const std::string& face) { return !own.find_face(face); }))
        break;
      const auto tool = step.feature.kind().tool(step.feature, {step, setting, own, own});
      // What is added through everything would change with what grows beside it.
      if (!tool || (rests.through && tool->operation != Operation::Cut)) break;
      const Bnd_Box box = reach_of(tool->body.shape, rests.through);
      if (!belongs(run, *tool, box, own, *body)) break;
      run.tools.push_back(*tool);
      run.boxes.push_back(box);
      run.faces_named.insert(run.faces_named.end(), rests.faces_named.begin(),
                             rests.faces_named.end());
      made.end = i + 1;
      ++made.steps;
    }
    if (made.steps < 2) return Model();
    return together(run, own, *body, given.task).value_or(Model());
  });
  if (tried && !tried->empty()) made.model = *tried;
  return made;
}

}  // namespace lostline::model
