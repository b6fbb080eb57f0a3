#include "model/steps/hole/hole.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepLib.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrim_Cylinder.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "model/steps/hole/tapped_inside.h"
#include "model/steps/kind_of.h"
#include "sketch/curve_kind.h"
#include "standards/threads.h"

namespace lostline::model {
namespace {

/// A corner of the half section of a hole: distance from its axis, place along it, and what the
/// face from the corner before to this one is called.
struct Corner {
  double r, t;
  const char* name;
};

/// The half section from the axis at the bottom to the axis at the top; places along the boring.
/// @errors InvalidInput  the head does not fit.
Result<std::vector<Corner>> half_section(const Hole& hole, double bottom, double top, bool blind,
                                         double entry) {
  const double r = hole.diameter.value / 2;
  const double head = hole.head_diameter.value / 2;
  std::vector<Corner> corners;
  const bool pointed = blind && hole.bottom == Hole::Bottom::Drilled;
  corners.push_back({0, pointed ? bottom - r / std::tan(kDrillPoint / 2) : bottom, ""});
  corners.push_back({r, bottom, "low"});
  if (hole.head != Hole::Head::None) {
    if (!(head > r))
      return Error{ErrorCode::InvalidInput, "The head of " + format_trimmed(2 * head, 3) +
                                                " mm is no wider than the hole of " +
                                                format_trimmed(2 * r, 3) + " mm."};
    const bool bore = hole.head == Hole::Head::Counterbore;
    const double angle = hole.head_angle.value;
    if (!bore && (!(angle > 0.1) || !(angle < 3.0)))
      return Error{ErrorCode::InvalidInput,
                   "A countersink has an angle between 6 and 170 degrees."};
    const double deep = bore ? hole.head_depth.value : (head - r) / std::tan(angle / 2);
    if (!(deep > 0) || entry - deep <= bottom || entry >= top)
      return Error{ErrorCode::InvalidInput,
                   "The head is " + format_trimmed(deep, 3) +
                       " mm deep: from its entry it does not lie within the hole."};
    corners.push_back({r, entry - deep, "wall"});
    if (bore)
      corners.push_back({head, entry - deep, "head_floor"});
    else
      corners.push_back({head, entry, "head_cone"});
    corners.push_back({head, top, "head_wall"});
    corners.push_back({0, top, "high"});
    return corners;
  }
  corners.push_back({r, top, "wall"});
  corners.push_back({0, top, "high"});
  return corners;
}

/// What the side of the half section is called that a turned face comes from: by the middle of the
/// face along the boring, flat ones by their level alone.
const char* side_of(const TopoDS_Face& face, const std::vector<Corner>& section,
                    const Placement& base, const Vec2& middle, double sense) {
  const BRepAdaptor_Surface surface(face);
  const bool flat = surface.GetType() == GeomAbs_Plane;
  const gp_Pnt p = surface.Value(0.5 * (surface.FirstUParameter() + surface.LastUParameter()),
                                 0.5 * (surface.FirstVParameter() + surface.LastVParameter()));
  const Vec3 at(p.X(), p.Y(), p.Z());
  const Vec2 here(flat ? 0 : (base.to_plane(at) - middle).norm(), sense * base.level_of(at));
  const char* name = "wall";
  double nearest = 1e300;
  for (std::size_t k = 1; k < section.size(); ++k) {
    const bool level = section[k - 1].t == section[k].t;
    if (level != flat) continue;
    const Vec2 half(0.5 * (section[k - 1].r + section[k].r),
                    0.5 * (section[k - 1].t + section[k].t));
    const double off = flat ? std::abs(half.y() - here.y()) : (half - here).norm();
    if (off >= nearest) continue;
    nearest = off;
    name = section[k].name;
  }
  return name;
}

}  // namespace

constinit const FeatureKind Hole::kind =
    kind_of<Hole>("hole", "Hole",
                  "bore holes about circles or points of a sketch, with a seat for a "
                  "screw's head or a thread",
                  "circle-dot", 'h');

const std::vector<const char*>& Hole::threads() {
  static const std::vector<const char*> all{"none", "M3",  "M4",  "M5",  "M6",  "M8", "M10",
                                            "M12",  "M14", "M16", "M18", "M20", "M24"};
  return all;
}

namespace {

constexpr std::array kFits{"6H", "5H", "7H", "6G"};

}  // namespace

std::string Hole::words() const {
  if (thread > 0 && thread < static_cast<int>(threads().size()))
    return std::string("tapped hole ") + threads()[static_cast<std::size_t>(thread)] + " - " +
           kFits[static_cast<std::size_t>(fit)];
  return head == Head::Counterbore   ? "counterbored hole"
         : head == Head::Countersink ? "countersunk hole"
                                     : "hole";
}

void Hole::describe(Description& d) {
  d.sketch("sketch", sketch);
  d.curves("circles", circles);
  d.number({"diameter", NumberInfo::Unit::Diameter, NumberInfo::Sign::Positive}, diameter);
  d.extent(extent);
  d.bodies({"bodies", false}, bodies);
  d.choice({"bottom", {"flat", "drilled"}}, bottom);
  d.choice({"head", {"none", "counterbore", "countersink"}}, head);
  const bool headed = head != Head::None;
  d.number({"head_diameter", NumberInfo::Unit::Diameter, NumberInfo::Sign::Positive, headed},
           head_diameter);
  d.number({"head_depth", NumberInfo::Unit::Length, NumberInfo::Sign::Positive,
            head == Head::Counterbore},
           head_depth);
  d.number({"head_angle", NumberInfo::Unit::Angle, NumberInfo::Sign::Positive,
            head == Head::Countersink},
           head_angle);
  d.number({"entry", NumberInfo::Unit::Length, NumberInfo::Sign::Any, headed}, entry);
  d.flag("from_below", from_below);
  d.choice({"thread", threads()}, thread);
  d.choice({"thread_class", {kFits.begin(), kFits.end()}}, fit);
  d.flag("modelled", modelled);
}

namespace {

/// Levels between which a body is met by a tool, past them by nothing; empty where it is not.
std::optional<Levels> met_between(const Model& part, const TopoDS_Shape& tool,
                                  const Placement& base) {
  if (part.empty()) return std::nullopt;
  BRepAlgoAPI_Common common(part.impl().shape, tool);
  if (!common.IsDone()) return std::nullopt;
  Bnd_Box box;
  for (TopExp_Explorer face(common.Shape(), TopAbs_FACE); face.More(); face.Next())
    BRepBndLib::AddOptimal(face.Current(), box, false, false);
  if (box.IsVoid()) return std::nullopt;
  double low = 1e300;
  double high = -1e300;
  const gp_Pnt a = box.CornerMin();
  const gp_Pnt b = box.CornerMax();
  for (int k = 0; k < 8; ++k) {
    const Vec3 corner((k & 1) != 0 ? b.X() : a.X(), (k & 2) != 0 ? b.Y() : a.Y(),
                      (k & 4) != 0 ? b.Z() : a.Z());
    low = std::min(low, base.level_of(corner));
    high = std::max(high, base.level_of(corner));
  }
  return Levels{low, high};
}

/// A hole's solid with the turns of its thread.
Result<Named> tapped(const Hole& hole, const Named& plain, const Placement& base,
                     const Vec2& middle, const Levels& levels, const Model& before,
                     const std::string& name) {
  const std::string wanted = Hole::threads()[static_cast<std::size_t>(hole.thread)];
  const auto& table = standards::metric_threads();
  const auto found = std::find_if(table.begin(), table.end(), [&](const standards::Thread& t) {
    return t.coarse && t.name() == wanted;
  });
  if (found == table.end())
    return Error{ErrorCode::Unsupported, "The pitch of " + wanted + " is not known."};
  const double pitch = found->pitch;
  // A tap's end leaves two turns of a blind hole uncut (common practice, no source).
  Levels span = levels;
  if (hole.extent.reach == Reach::Through) {
    const auto met = met_between(before, plain.shape, base);
    if (!met) return plain;  // the hole itself says that it meets nothing
    span = *met;
  } else if (hole.from_below) {
    span.to -= 2 * pitch;
  } else {
    span.from += 2 * pitch;
  }
  if (!(span.to - span.from > pitch))
    return Error{ErrorCode::InvalidInput, "The hole is too short for a thread of " +
                                              format_trimmed(pitch, 3) + " mm pitch."};
  Placement axis = base;
  axis.origin = base.to_space(middle, 0);
  // Where more than the tapped hole is made it is wider than drilled by a trifle within its
  // tolerance: the kernel does not unite walls that coincide nearly.
  const bool alone = hole.extent.reach == Reach::Through && hole.head == Hole::Head::None;
  const double crest = hole.diameter.value + (alone ? 0 : 0.04 * pitch);
  const auto groove = tapped_inside(axis, crest, found->diameter, pitch, span.from, span.to);
  if (!groove) return groove.error();
  Named turns{*groove, {}};
  for (TopExp_Explorer face(*groove, TopAbs_FACE); face.More(); face.Next())
    turns.names.emplace_back(face.Current(), std::vector{name});
  if (alone) return turns;
  return boolean_of(plain, turns, Operation::Add);
}

}  // namespace

Result<ToolBody> Hole::tool(const Site& site) const {
  const PlacedSketch* placed = find_sketch(site.setting, sketch);
  if (placed == nullptr) return sketch_gone();
  if (!(diameter.value > 0))
    return Error{ErrorCode::InvalidInput, "A hole needs a diameter greater than zero."};
  const Result<Levels> levels = levels_of(extent, placed->base, site.before);
  if (!levels) return levels.error();
  if (circles.empty())
    return Error{ErrorCode::InvalidInput, "Pick at least one circle for the hole."};
  const std::string prefix = prefix_of(site.step);
  Gathered gathered;
  const double low = std::min(levels->from, levels->to);
  const double high = std::max(levels->from, levels->to);
  const bool blind = extent.reach != Reach::Through;
  const bool plain = head == Head::None && !(blind && bottom == Bottom::Drilled);
  const double sense = from_below ? -1 : 1;
  const auto section = half_section(*this, from_below ? -high : low, from_below ? -low : high,
                                    blind, sense * entry.value);
  if (!section) return section.error();
  const auto add = [&](const Named& plain, const Vec2& middle,
                       const std::string& suffix) -> Status {
    if (thread <= 0 || !modelled) {
      gathered.add(plain.shape, plain.names);
      return Done{};
    }
    const auto made = tapped(*this, plain, placed->base, middle, {low, high}, site.before,
                             prefix + ":thread" + suffix);
    if (!made) return made.error();
    gathered.add(made->shape, made->names);
    return Done{};
  };
  for (const sketch::Id id : circles) {
    const sketch::Entity* circle = placed->sketch.find_entity(id);
    const sketch::Point* point = placed->sketch.find_point(id);
    if (!sketch::has_radius(circle) && (point == nullptr || !point->own)) {
      return Error{ErrorCode::NotFound, "Circle " + std::to_string(id) +
                                            " is no longer in the sketch. Pick the circles again."};
    }
    const Vec2 middle = point != nullptr ? point->at : placed->sketch.position(circle->centre);
    const std::string suffix = ":" + std::to_string(id);
    if (plain) {
      const Vec3 centre = placed->base.to_space(middle, low);
      BRepPrimAPI_MakeCylinder make(
          gp_Ax2(pnt(centre), dir(placed->base.normal), dir(placed->base.x)), diameter.value / 2,
          high - low);
      const TopoDS_Shape solid = make.Solid();
      const Status added = add({solid,
                                {{make.Cylinder().LateralFace(), {prefix + ":wall" + suffix}},
                                 {make.Cylinder().BottomFace(), {prefix + ":low" + suffix}},
                                 {make.Cylinder().TopFace(), {prefix + ":high" + suffix}}}},
                               middle, suffix);
      if (!added) return added.error();
      continue;
    }
    const auto place = [&](const Corner& corner) {
      return pnt(placed->base.to_space(middle, sense * corner.t) + corner.r * placed->base.x);
    };
    BRepBuilderAPI_MakeWire wire;
    for (std::size_t k = 1; k < section->size(); ++k) {
      wire.Add(BRepBuilderAPI_MakeEdge(place((*section)[k - 1]), place((*section)[k])));
    }
    wire.Add(BRepBuilderAPI_MakeEdge(place(section->back()), place(section->front())));
    BRepPrimAPI_MakeRevol turn(
        BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(),
        gp_Ax1(pnt(placed->base.to_space(middle, 0)), dir(placed->base.normal)));
    if (!turn.IsDone())
      return Error{ErrorCode::Failed, "The hole cannot be made with these numbers."};
    TopoDS_Solid solid = TopoDS::Solid(turn.Shape());
    BRepLib::OrientClosedSolid(solid);  // whichever way round the section was turned
    FaceNames names;
    for (TopExp_Explorer face(solid, TopAbs_FACE); face.More(); face.Next()) {
      const char* name =
          side_of(TopoDS::Face(face.Current()), *section, placed->base, middle, sense);
      names.emplace_back(face.Current(), std::vector{prefix + ":" + name + suffix});
    }
    if (const Status added = add({solid, names}, middle, suffix); !added) return added.error();
  }
  return ToolBody{gathered.take(), Operation::Cut, bodies, BodyKind::Solid};
}

}  // namespace lostline::model
