#include "model/steps/primitive/primitive.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <array>
#include <cmath>

#include "model/copies.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// An axis along the datum axis that it is nearest to.
Vec3 forward(const Vec3& axis) {
  Eigen::Index most = 0;
  axis.cwiseAbs().maxCoeff(&most);
  return axis[most] < 0 ? Vec3(-axis) : axis;
}

/// The place of a level along an axis.
Vec3 at_level(const fit::Surface& s, const Vec3& axis, double level) {
  return s.point + (level - s.point.dot(axis)) * axis;
}

/// A level of few decimals next to one, of a surface between `low` and `high`.
double round_level(double level, double low, double high) {
  const double step = std::pow(10.0, std::floor(std::log10(std::max(high - low, 1e-9) / 5)));
  return step * std::round(level / step);
}

bool good(const Quantity& q, bool positive) {
  return std::isfinite(q.value) && (!positive || q.value > 0);
}

const char* role_of(const TopoDS_Shape& face, bool low) {
  const BRepAdaptor_Surface surface(TopoDS::Face(face));
  return surface.GetType() != GeomAbs_Plane ? "side" : low ? "start" : "end";
}

}  // namespace

constinit const FeatureKind Primitive::kind = kind_of<Primitive>(
    "primitive", "Primitive", "a block, cylinder, cone, ball or ring straight from a surface",
    "cuboid", '8');

std::string Primitive::words() const {
  constexpr std::array kWords{"block", "cylinder", "cone", "ball", "ring"};
  const std::string word = kWords.at(static_cast<std::size_t>(shape));
  return surface ? word + " surface" : operation == Operation::Cut ? word + " cut" : word;
}

void Primitive::describe(Description& d) {
  using Unit = NumberInfo::Unit;
  using Sign = NumberInfo::Sign;
  const bool block = shape == Shape::Block;
  const bool long_one = shape == Shape::Cylinder || shape == Shape::Cone;
  d.choice({"shape", {"block", "cylinder", "cone", "ball", "ring"}}, shape);
  d.reference({"on", ReferenceInfo::Wants::Surface, !block}, on);
  d.number({"radius", Unit::Radius, Sign::Positive, !block}, radius);
  d.number({"tube", Unit::Radius, Sign::Positive, shape == Shape::Ring}, tube);
  d.number({"at", Unit::Length, Sign::Any, shape == Shape::Cone}, at);
  d.number({"half_angle", Unit::Angle, Sign::NotZero, shape == Shape::Cone}, half_angle);
  d.number({"from", Unit::Length, Sign::Any, long_one}, from);
  d.number({"to", Unit::Length, Sign::Any, long_one}, to);
  d.number({"x_from", Unit::Length, Sign::Any, block}, x_from);
  d.number({"x_to", Unit::Length, Sign::Any, block}, x_to);
  d.number({"y_from", Unit::Length, Sign::Any, block}, y_from);
  d.number({"y_to", Unit::Length, Sign::Any, block}, y_to);
  d.number({"z_from", Unit::Length, Sign::Any, block}, z_from);
  d.number({"z_to", Unit::Length, Sign::Any, block}, z_to);
  d.operation(operation, bodies);
  d.flag("surface", surface);
  d.place("frame", frame);
}

Result<ToolBody> Primitive::tool(const Site& site) const {
  const std::string prefix = prefix_of(site.step);
  Named body;
  if (shape == Shape::Block) {
    const Vec3 low(x_from.value, y_from.value, z_from.value);
    const Vec3 high(x_to.value, y_to.value, z_to.value);
    if (!low.allFinite() || !high.allFinite() || !((high - low).cwiseAbs().minCoeff() > 1e-6))
      return Error{ErrorCode::InvalidInput,
                   "A block needs two different levels along each of x, y and z."};
    BRepPrimAPI_MakeBox box(pnt(low.cwiseMin(high)), pnt(low.cwiseMax(high)));
    body.shape = box.Solid();
    for (const auto& [face, name] :
         {std::pair{box.BackFace(), "x_low"}, std::pair{box.FrontFace(), "x_high"},
          std::pair{box.LeftFace(), "y_low"}, std::pair{box.RightFace(), "y_high"},
          std::pair{box.BottomFace(), "z_low"}, std::pair{box.TopFace(), "z_high"}})
      body.names.emplace_back(face, std::vector{prefix + ":" + name});
  } else {
    auto meant = resolve(on, site.whole);
    if (!meant) return meant.error();
    meant = fit::transformed(*meant, frame.inverse());
    if (!good(radius, true))
      return Error{ErrorCode::InvalidInput, "Give a radius greater than zero."};
    const Vec3 axis = forward(meant->axis);
    const double height = std::abs(to.value - from.value);
    const bool up = to.value > from.value;
    const bool long_one = shape == Shape::Cylinder || shape == Shape::Cone;
    if (long_one && (!good(from, false) || !good(to, false) || !(height > 1e-6)))
      return Error{ErrorCode::InvalidInput,
                   "From and to are the same level: the body has no height."};
    const gp_Ax2 place(pnt(long_one ? at_level(*meant, axis, from.value) : meant->point),
                       dir(up || !long_one ? axis : Vec3(-axis)));
    switch (shape) {
      case Shape::Cone: {
        const double grows = std::tan(half_angle.value);
        const double near = radius.value + (up ? 1 : -1) * (from.value - at.value) * grows;
        const double far = near + height * grows;
        if (!good(at, false) || !good(half_angle, false) || std::abs(half_angle.value) < 1e-6 ||
            std::abs(half_angle.value) > 1.5 || !(near >= 0) || !(far >= 0))
          return Error{ErrorCode::InvalidInput,
                       "A cone needs a half angle other than zero, and it must not shrink to "
                       "nothing before its end."};
        body.shape = BRepPrimAPI_MakeCone(place, near, far, height).Solid();
        break;
      }
      case Shape::Ball:
        body.shape = BRepPrimAPI_MakeSphere(pnt(meant->point), radius.value).Solid();
        break;
      case Shape::Ring:
        if (!good(tube, true) || !(tube.value < radius.value))
          return Error{ErrorCode::InvalidInput,
                       "The tube of a ring is thinner than the ring's own radius."};
        body.shape = BRepPrimAPI_MakeTorus(place, radius.value, tube.value).Solid();
        break;
      default:
        body.shape = BRepPrimAPI_MakeCylinder(place, radius.value, height).Solid();
    }
    for (TopExp_Explorer it(body.shape, TopAbs_FACE); it.More(); it.Next()) {
      const BRepAdaptor_Surface face(TopoDS::Face(it.Current()));
      bool low = false;
      if (face.GetType() == GeomAbs_Plane) {
        const gp_Pnt p = face.Plane().Location();
        low = Vec3(p.X() - place.Location().X(), p.Y() - place.Location().Y(),
                   p.Z() - place.Location().Z())
                  .norm() < 0.5 * height;
      }
      body.names.emplace_back(it.Current(), std::vector{prefix + ":" + role_of(it.Current(), low)});
    }
  }
  body = placed(body, frame);
  if (!surface) return ToolBody{body, operation, bodies, BodyKind::Solid};
  BRep_Builder builder;
  TopoDS_Shell shell;
  builder.MakeShell(shell);
  Named skin;
  for (const auto& [face, list] : body.names) {
    const bool end = list.front().ends_with(":start") || list.front().ends_with(":end");
    if (end) continue;
    builder.Add(shell, face);
    skin.names.emplace_back(face, list);
  }
  skin.shape = shell;
  return ToolBody{skin, Operation::NewBody, {}, BodyKind::Surface};
}

std::vector<NumberReading> Primitive::read(const Site& /*site*/, const ScanEvidence& scan) const {
  const std::string end_of_scan = "end of the scan";
  const std::string end_of_surface = "end of the surface on the scan";
  const std::string from_fit = "fit";
  if (shape == Shape::Block) {
    const auto box = scan.box();
    // What the scan's ends are along other axes is not known.
    if (!box || !frame.isApprox(Transform::Identity(), 0)) return {};
    std::vector<NumberReading> readings;
    constexpr std::array kLow{"x_from", "y_from", "z_from"};
    constexpr std::array kHigh{"x_to", "y_to", "z_to"};
    for (std::size_t k = 0; k < 3; ++k) {
      const auto axis = static_cast<Eigen::Index>(k);
      readings.push_back({kLow[k], box->box.min()[axis], box->u, end_of_scan});
      readings.push_back({kHigh[k], box->box.max()[axis], box->u, end_of_scan});
    }
    return readings;
  }
  const auto covered = scan.covered(on);
  if (!covered) return {};
  const fit::SurfaceFit& fit = covered->fit;
  const Transform to_own = frame.inverse();
  const fit::Surface s = fit::transformed(fit.surface, to_own);
  const Vec3 axis = forward(s.axis);
  std::vector<NumberReading> readings;
  if (shape == Shape::Cylinder || shape == Shape::Cone) {
    double low = 1e300;
    double high = -1e300;
    for (const Vec3& p : covered->points) {
      const double level = (to_own * p).dot(axis);
      low = std::min(low, level);
      high = std::max(high, level);
    }
    readings.push_back({"from", low, covered->u, end_of_surface});
    readings.push_back({"to", high, covered->u, end_of_surface});
    if (s.kind == fit::Kind::Cone && shape == Shape::Cone) {
      const double along = s.axis.dot(axis) > 0 ? 1 : -1;  // the cone opens along its axis
      // Where the fit's own point is its radius is known best.
      const double level = round_level(s.point.dot(axis), low, high);
      const double away = level - s.point.dot(axis);
      // Radius and angle of a fit stray by themselves where its own point is.
      const double lean = away * fit.u_half_angle / std::pow(std::cos(s.half_angle), 2);
      readings.push_back({"at", level, 0, "a round level of the surface", true});
      readings.push_back({"radius", s.radius + along * std::tan(s.half_angle) * away,
                          std::hypot(fit.u_radius, lean), from_fit});
      readings.push_back({"half_angle", along * s.half_angle, fit.u_half_angle, from_fit});
    }
  }
  const bool like = (shape == Shape::Cylinder && s.kind == fit::Kind::Cylinder) ||
                    (shape == Shape::Ball && s.kind == fit::Kind::Sphere) ||
                    (shape == Shape::Ring && s.kind == fit::Kind::Torus);
  if (like) readings.push_back({"radius", s.radius, fit.u_radius, from_fit});
  if (like && shape == Shape::Ring)
    readings.push_back({"tube", s.minor_radius, fit.u_minor_radius, from_fit});
  return readings;
}

}  // namespace lostline::model
