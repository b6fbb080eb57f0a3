#include "by_mouse.h"
#include "model/steps/fillet/fillet.h"
#include "simulate/winch_parts.h"
#include "sketch/sketch.h"

// The crank and the brake drum of the demo: lofted, patched, trimmed.

namespace lostline::testing {
namespace {

using fit::Kind;

void forge_the_crank(Hands& by, const QString& demo) {
  const simulate::CrankDesign design;
  // Two set-ups are brought together first.
  by.open(demo + QStringLiteral("/crank-1.ply"));
  by.window().addScans({demo + QStringLiteral("/crank-2.ply")});
  by.require(by.driver().settle() && by.document().other_scans.size() == 1,
             "the second scan does not open");
  by.tool(app::kReceive, "Join");
  by.shot("crank-1-join");
  by.keepAndGoOn();
  by.require(by.document().scan->name == "joined", "the scans are not joined");
  by.survey();
  // A the hub's lower face, B from hub to boss, C the hub's bore.
  const std::uint32_t hub = by.region("the hub", Hands::of_radius(design.hub_diameter / 2));
  const std::uint32_t bore = by.region("its bore", Hands::of_radius(design.bore / 2));
  const std::uint32_t boss = by.region("the boss", Hands::of_radius(design.boss_diameter / 2));
  const std::uint32_t pin = by.region("the pin", Hands::of_radius(design.pin_diameter / 2));
  const Vec3 up =
      by.document().fit_of({pin, 0})->centroid - by.document().fit_of({boss, 0})->centroid;
  const double face =
      kPi / 4 * (design.hub_diameter * design.hub_diameter - design.bore * design.bore);
  const std::uint32_t low =
      by.region("the hub's lower face", [&](const survey::Region& r, const fit::Surface& s) {
        return s.kind == Kind::Plane && std::abs(r.area - face) < 0.06 * face && s.axis.dot(up) < 0;
      });
  by.frame(low, {bore, boss}, bore);
  const double middle = design.hub_height / 2;  // of the arm, above the hub's lower face
  // Hub and boss straight from the scan.
  const auto primitive = [&](const char* name, std::uint32_t region, std::size_t steps) {
    by.tool(app::kBuild, "Primitive");
    by.chooseText("shape", QStringLiteral("cylinder"));
    by.clickInEvidence(region);
    by.name(name);
    if (std::string_view(name) == "pin") {  // into boss and grip
      by.number("from", middle);
      by.number("to", middle + design.pin_to + 4);
    }
    by.keepStep(steps);
  };
  primitive("hub", hub, 1);
  primitive("boss", boss, 2);
  // The arm over three sections, on into hub and boss.
  std::vector<QString> sections;
  const auto cut = [&](int plane, double level) {
    by.section(plane, level);
    by.keep();
    sections.push_back(QString::fromStdString(by.driver().lastSketch().name));
  };
  const auto loft = [&](const char* name, double start, double end) {
    by.tool(app::kBuild, "Loft");
    by.name(name);
    for (const QString& section : sections) by.tick("sections", section);
    by.number("beyond_start", start);
    by.number("beyond_end", end);
    sections.clear();
  };
  for (const double x : {50.0, 90.0, 130.0}) cut(2, x);
  loft("arm", 35, 40);
  by.lookAlong(0);
  by.shot("crank-2-arm");
  by.keepStep(3);
  const auto& across = by.section(0, middle);
  const auto circles = circles_of(across.sketch, design.bore / 2);
  by.require(circles.size() == 1, "the bore is cut");
  by.keep();
  by.tool(app::kBuild, "Hole");
  by.name("bore");
  by.choose("stepSketch", static_cast<int>(by.document().sketches.size()) - 1);
  by.lookAlong(5);
  by.driver().clickEntity(by.driver().lastSketch(), by.driver().lastSketch().sketch,
                          circles.front());
  by.require(by.driver().settle(), "the bore does not settle");
  by.keepStep(4);
  primitive("pin", pin, 5);
  // The grip: over its sections, under a patch.
  for (const double z : {45.0, 53.0, 64.0, 76.0, 88.0, 100.0, 109.0}) cut(0, middle + z);
  loft("grip", 45 - design.pin_to, 18);
  by.lookAlong(0);
  by.shot("crank-3-grip");
  by.keepStep(6);
  by.tool(app::kBuild, "Patch");
  by.name("top");
  by.window().bench().setShow(app::Show::Scan);
  by.lookAt(Vec3(0.1, -0.2, 1));
  by.driver().clickPoint(Vec3(design.reach, 0, middle + design.grip_top));
  by.require(by.driver().settle(), "the patch does not settle");
  by.number("beyond", 20);
  by.window().bench().setShow(app::Show::Both);
  by.shot("crank-4-patch");
  by.keepStep(7);
  by.trim("trimmed top", QStringLiteral("hub"), QStringLiteral("top"), 8);
  by.prove("crank-6-deviation", 0.1);
}

/// Middle of the outline of a vane in a section.
Vec2 vane_in(const sketch::Sketch& s, const simulate::BrakeDrumDesign& design) {
  for (const sketch::Loop& loop : sketch::find_loops(s)) {
    const sketch::Polygon polygon = sketch::polygon_of(s, loop);
    Vec2 middle = Vec2::Zero();
    for (const Vec2& p : polygon) middle += p / static_cast<double>(polygon.size());
    if (middle.norm() > design.vane_inner && middle.norm() < design.vane_outer) return middle;
  }
  throw Trouble("the section shows no vane");
}

/// Fillets where the vanes stand on the floor, which gives all of its edges; those at hub and wall
/// go. The scan is too coarse to read so small a radius.
void round_the_roots(Hands& by, const simulate::BrakeDrumDesign& design) {
  const model::Model& solid = by.solid();
  const auto shape = model::tessellate(solid);
  std::vector<std::vector<Vec3>> roots;  // the long ones
  for (const auto& line : shape->edges) {
    const auto on_floor = [&](const Vec3& p) {
      const double r = p.head<2>().norm();
      return std::abs(p.z() - design.disc) < 0.05 && r > design.hub_diameter / 2 + 2 &&
             r < design.diameter / 2 - design.wall - 2;
    };
    if (!std::all_of(line.points.begin(), line.points.end(), on_floor)) continue;
    if ((line.points.front() - line.points.back()).norm() < 20) continue;
    roots.push_back(line.points);
  }
  by.require(roots.size() == 2U * static_cast<std::size_t>(design.vanes), "no roots of vanes");
  const std::vector<Vec3>& one = roots.front();
  const auto from = [&](const Vec3& aside) {
    by.lookAt(Vec3(0.45 * aside.normalized() + 0.9 * Vec3::UnitZ()));
  };
  by.tool(app::kBuild, "Fillet");
  by.name("vane roots");
  // Between two vanes, from the side where nothing hides the place.
  const auto gap = [&](bool inner) {
    const auto nearer = [](const Vec3& a, const Vec3& b) {
      return a.head<2>().norm() < b.head<2>().norm();
    };
    const auto [in, out] = std::minmax_element(one.begin(), one.end(), nearer);
    const Vec3 end = inner ? *in : *out;
    const double angle = std::atan2(end.y(), end.x()) + kPi / design.vanes;
    return Vec3(std::cos(angle), std::sin(angle), 0);
  };
  const double wall = design.diameter / 2 - design.wall;
  const Vec3 up(0, 0, design.disc);
  from(gap(true));
  by.driver().clickPoint(up + (design.hub_diameter / 2 + 5) * gap(true));
  by.require(by.driver().settle(), "the floor is not taken");
  by.driver().clickPoint(up + design.hub_diameter / 2 * gap(true));
  by.require(by.driver().settle(), "the hub's edge stays");
  from(-gap(false));
  by.driver().clickPoint(up + wall * gap(false));
  by.require(by.driver().settle(), "the wall's edge stays");
  by.lookAlong(0);
  by.shot("drum-5-roots");
  by.number("radius", design.vane_fillet);
  by.keepStep(6);
  const auto* kept = by.document().steps.back().feature.as<model::Fillet>();
  by.require(kept != nullptr && kept->edges.size() == 4U * static_cast<std::size_t>(design.vanes),
             std::to_string(kept == nullptr ? 0 : kept->edges.size()) + " edges are rounded");
}

void cast_the_brake_drum(Hands& by, const QString& demo) {
  const simulate::BrakeDrumDesign design;
  by.open(demo + QStringLiteral("/brake-drum.ply"));
  by.survey();
  const double outer = design.diameter / 2;
  const std::uint32_t rim = by.region("the rim", Hands::of_radius(outer));
  const std::uint32_t band = by.region("the wall's inside", Hands::of_radius(outer - design.wall));
  const std::uint32_t hub = by.region("the hub", Hands::of_radius(design.hub_diameter / 2));
  const std::uint32_t bore = by.region("the bore", Hands::of_radius(design.bore / 2));
  const auto face = [&](const char* what, double area) {
    return by.region(what, Hands::of_area(Kind::Plane, area));
  };
  const auto ring = [](double wide, double narrow) {
    return kPi * (wide * wide - narrow * narrow);
  };
  const std::uint32_t back = face("the back", ring(outer, design.bore / 2));
  const std::uint32_t edge = face("the rim's edge", ring(outer, outer - design.wall));
  const std::uint32_t top = face("the hub's end", ring(design.hub_diameter / 2, design.bore / 2));
  const Vec3 axis = -by.document().fit_of({back, 0})->surface.axis;
  const std::uint32_t floor =
      by.region("the floor", [&](const survey::Region& r, const fit::Surface& s) {
        return s.kind == Kind::Plane && s.axis.dot(axis) > 0.99 && r.area > 15000;
      });
  const std::uint32_t vane =
      by.region("a vane's side", [&](const survey::Region& r, const fit::Surface& s) {
        return s.kind == Kind::Cylinder && std::abs(r.area - 1620) < 150 &&
               std::abs(s.axis.dot(axis)) > 0.9 && s.radius > 55 && s.radius < 80;
      });
  by.frame(back, {bore, vane}, bore);
  // What was turned, without the vanes.
  by.tool(app::kTrace, "Section");
  by.choose("sectionPlane", 5);
  by.chooseText("sectionScan", QStringLiteral("picked regions"));
  for (const std::uint32_t r : {rim, band, hub, bore, back, edge, top, floor})
    by.clickInEvidence(r);
  by.keepAndGoOn();
  by.require(by.document().sketches.size() == 1 && by.window().card() != nullptr,
             "the turned section is not kept");
  by.pressIfThere("acceptSuggestions");
  by.shot("drum-1-turned");
  by.keep();
  by.tool(app::kBuild, "Revolve");
  by.name("drum");
  by.keepStep(1);
  // A vane over three sections, the lowest just above the round at its root, from within the disc
  // to above its top.
  std::vector<QString> sections;
  for (const double z : {11.5, 18.0, 25.0}) {
    by.section(0, z);
    by.keep();
    sections.push_back(QString::fromStdString(by.driver().lastSketch().name));
  }
  by.tool(app::kBuild, "Loft");
  by.name("vane");
  for (const QString& section : sections) by.tick("sections", section);
  const auto& first = *by.document().sketches[1];
  by.window().bench().setShow(app::Show::Scan);
  by.lookAt(Vec3(0.02, 0.05, 1));
  by.waitFor("outline");
  by.driver().clickPoint(first.base.to_space(vane_in(first.sketch, design), first.level));
  by.require(by.driver().settle(), "the outline is not taken");
  by.number("beyond_start", 11.5 - design.disc / 2);
  by.number("beyond_end", design.vane_top_inner + 5 - 25);
  by.window().bench().setShow(app::Show::Both);
  by.lookAlong(0);
  by.shot("drum-2-vane");
  by.keepStep(2);
  by.tool(app::kBuild, "Pattern");
  by.name("vanes");
  by.number("count", design.vanes);
  by.lookAlong(0);
  by.shot("drum-3-vanes");
  by.keepStep(3);
  // Their tops were turned: the cone of one of them, a millimetre of height longer at both ends.
  const std::uint32_t land =
      by.region("a vane's top", [&](const survey::Region& r, const fit::Surface& f) {
        return f.kind == Kind::Cone && std::abs(f.half_angle) > 1.2 && r.area > 250;
      });
  by.tool(app::kBuild, "Primitive");
  by.name("turned tops");
  by.chooseText("shape", QStringLiteral("cone"));
  by.check("surface", true);
  by.clickInEvidence(land);
  by.number("to", by.value("to") + 1);
  by.number("from", by.value("from") - 1);
  by.lookAlong(0);
  by.shot("drum-4-tops");
  by.keepStep(4);
  by.trim("trimmed vanes", QStringLiteral("drum"), QStringLiteral("turned tops"), 5);
  round_the_roots(by, design);
  by.prove("drum-6-deviation", 0.1);
}

}  // namespace

std::string rebuild_crank(WindowDriver& driver, app::MainWindow& window, const QString& demo) {
  return told([&] {
    Hands by(driver, window);
    forge_the_crank(by, demo);
  });
}

std::string rebuild_brake_drum(WindowDriver& driver, app::MainWindow& window, const QString& demo) {
  return told([&] {
    Hands by(driver, window);
    cast_the_brake_drum(by, demo);
  });
}

}  // namespace lostline::testing
