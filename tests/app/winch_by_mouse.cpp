#include "by_mouse.h"
#include "model/faces.h"
#include "simulate/winch_parts.h"

// The drum flange and the wall bracket of the demo.

namespace lostline::testing {
namespace {

using fit::Kind;

void turn_the_flange(Hands& by, const QString& demo) {
  const simulate::DrumFlangeDesign design;
  by.open(demo + QStringLiteral("/drum-flange.ply"));
  by.survey();
  // A the back, B the keyway's floor, C the bore.
  const double spigot = design.register_diameter / 2;
  const double edge = design.diameter / 2 - design.edge_chamfer;
  const double back =
      kPi * (edge * edge - spigot * spigot) - design.holes * kPi * design.hole * design.hole / 4;
  const std::uint32_t a = by.region("the back", Hands::of_area(Kind::Plane, back));
  const std::uint32_t b = by.region(
      "the keyway's floor",
      Hands::of_area(Kind::Plane, design.key_width * (design.hub_height + design.register_height)));
  const std::uint32_t c = by.region("the bore", Hands::of_radius(design.bore / 2));
  by.frame(a, {b}, c);
  // Half of its section, between the holes.
  by.section(4, 0);
  by.pressIfThere("acceptSuggestions");
  by.shot("flange-1-turn");
  by.keep();
  by.tool(app::kBuild, "Revolve");
  by.name("turned");
  by.lookAlong(0);
  by.shot("flange-2-revolve");
  by.keepStep(1);
  // The holes: one of them, and six round the axis.
  const auto& plate = by.section(0, design.thickness / 2);
  const auto holes = circles_of(plate.sketch, design.hole / 2);
  by.require(holes.size() == static_cast<std::size_t>(design.holes), "six holes are cut");
  by.keep();
  by.tool(app::kBuild, "Hole");
  by.choose("stepSketch", 1);
  by.name("bolt hole");
  by.lookAlong(5);
  by.driver().clickEntity(by.driver().lastSketch(), by.driver().lastSketch().sketch, holes.front());
  by.require(by.driver().settle(), "the hole does not settle");
  by.keepStep(2);
  by.tool(app::kBuild, "Pattern");
  by.name("bolt holes");
  by.number("count", design.holes);
  by.lookAlong(0);
  by.shot("flange-3-pattern");
  by.keepStep(3);
  // The keyway from a section through the hub.
  by.section(0, 0.6 * design.hub_height);
  by.pressIfThere("acceptSuggestions");
  by.keep();
  const auto& hub = by.driver().lastSketch();
  by.tool(app::kBuild, "Cut");
  by.name("keyway");
  by.choose("stepSketch", 2);
  by.lookAlong(5);
  // The outline of bore and keyway instead of the hub's.
  const sketch::Id floor = line_near(hub.sketch, Vec2(-design.key_top, 0));
  for (const sketch::Id hub_circle : circles_of(hub.sketch, design.hub_diameter / 2))
    by.driver().clickEntity(hub, hub.sketch, hub_circle);
  by.driver().clickEntity(hub, hub.sketch, floor);
  by.require(by.driver().settle(), "the keyway does not settle");
  by.lookAlong(0);
  by.shot("flange-4-keyway");
  by.keepStep(4);
  by.prove("flange-5-deviation", 0.05);
}

void weld_the_bracket(Hands& by, const QString& demo) {
  const simulate::WallBracketDesign design;
  by.open(demo + QStringLiteral("/wall-bracket.ply"));
  by.survey();
  // A the wall's side of the plate, B one end of it, C the tube.
  const double bottom = design.length * design.width - kPi * design.hole * design.hole;
  const std::uint32_t a = by.region("the wall's side", Hands::of_area(Kind::Plane, bottom));
  const std::uint32_t c = by.region("the tube", Hands::of_radius(design.tube_radius));
  const Vec3 up = -by.document().fit_of({a, 0})->surface.axis;
  const Vec3 tube = by.document().fit_of({c, 0})->centroid;
  // The end towards which the tube does not bend: nearer to its foot.
  const std::uint32_t b = by.region("an end", [&](const survey::Region& r, const fit::Surface& s) {
    return s.kind == Kind::Plane && std::abs(s.axis.dot(up)) < 0.01 &&
           std::abs(r.area - design.width * design.thickness) < 70 &&
           (r.fit->centroid - tube).dot(s.axis) > 0.6 * design.length;
  });
  by.frame(a, {b}, c);
  by.section(0, design.thickness / 2);
  by.pressIfThere("acceptSuggestions");
  by.keep();
  by.tool(app::kBuild, "Extrude");
  by.name("plate");
  by.keepStep(1);
  const auto& plate = by.driver().lastSketch();
  by.tool(app::kBuild, "Hole");
  by.name("fixing holes");
  by.lookAlong(5);
  for (const sketch::Id hole : circles_of(plate.sketch, design.hole / 2))
    by.driver().clickEntity(plate, plate.sketch, hole);
  by.require(by.driver().settle(), "the holes do not settle");
  by.keepStep(2);
  // A strap: its sides run down to the plate's underside.
  by.section(1, 0.5 * (design.strap_from + design.strap_to));
  const auto strap = by.driver().lastSketch();
  const double foot = design.strap_x - design.tube_x;
  const auto in_plane = [&](double x, double z) { return strap.base.to_plane(Vec3(x, 0, z)); };
  const double lean = std::tan(design.strap_lean);
  by.lookAlong(1);
  by.zoomAt(strap.base.to_space(in_plane(foot, 0), strap.level), 6);
  by.number("cornerRadius", 0);
  for (const double side : {0.0, design.strap_thickness}) {
    by.driver().clickPoint(strap.base.to_space(
        in_plane(foot + side + lean * (design.thickness + 6), design.thickness + 6), strap.level));
    // What is clicked is the part that stays: between the two sides.
    by.driver().clickPoint(
        strap.base.to_space(in_plane(foot + 0.5 * design.strap_thickness, 0), strap.level));
    by.press("makeCorner");
  }
  by.pressIfThere("acceptSuggestions");
  by.shot("bracket-1-strap");
  by.keep();
  by.tool(app::kBuild, "Extrude");
  by.name("strap");
  by.lookAlong(0);
  by.keepStep(3);
  by.tool(app::kBuild, "Mirror");
  by.name("other strap");
  by.chooseText("plane", QStringLiteral("xz"));
  by.lookAlong(0);
  by.shot("bracket-2-mirror");
  by.keepStep(4);
  // The tube, from within the plate.
  by.tool(app::kBuild, "Pipe");
  by.name("tube");
  by.window().bench().setShow(app::Show::Scan);
  by.lookAt(Vec3(0.3, -1, 0.3));
  by.driver().clickPoint(Vec3(0, -design.tube_radius, 0.6 * design.tube_rise));
  by.require(by.driver().settle(), "the tube is not followed");
  by.number("wall", design.tube_wall);
  by.window().bench().setShow(app::Show::Both);
  by.lookAlong(0);
  by.shot("bracket-3-tube");
  by.check("inPart", true);
  by.number("from", -design.thickness / 2);
  by.keepStep(5);
  by.prove("bracket-4-deviation", 0.05);
}

}  // namespace

std::string rebuild_drum_flange(WindowDriver& driver, app::MainWindow& window,
                                const QString& demo) {
  return told([&] {
    Hands by(driver, window);
    turn_the_flange(by, demo);
  });
}

std::string rebuild_wall_bracket(WindowDriver& driver, app::MainWindow& window,
                                 const QString& demo) {
  return told([&] {
    Hands by(driver, window);
    weld_the_bracket(by, demo);
  });
}

}  // namespace lostline::testing
