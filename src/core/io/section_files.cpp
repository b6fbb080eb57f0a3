#include "io/section_files.h"

#include <dxflib/dl_dxf.h>
#include <fmt/format.h>

#include <cmath>
#include <memory>
#include <numbers>

#include "io/files.h"

namespace lostline::io {

Status write_dxf(const std::filesystem::path& path, const sketch::Sketch& sketch,
                 const section::Section& section) {
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    DL_Dxf dxf;
    const std::unique_ptr<DL_WriterA> out(dxf.out(temporary.c_str(), DL_Codes::AC1009));
    if (out == nullptr || out->openFailed())
      return Error{ErrorCode::Io,
                   "Cannot write " + path.string() + ": no permission or no such folder."};
    dxf.writeHeader(*out);
    out->sectionEnd();
    out->sectionTables();
    out->tableLinetypes(1);
    dxf.writeLinetype(*out, DL_LinetypeData("CONTINUOUS", "Continuous", 0, 0, 0.0));
    out->tableEnd();
    out->tableLayers(3);
    for (const char* layer : {"0", "SKETCH", "SECTION"}) {
      dxf.writeLayer(*out, DL_LayerData(layer, 0),
                     DL_Attributes("", DL_Codes::black, 25, "CONTINUOUS", 1.0));
    }
    out->tableEnd();
    out->sectionEnd();
    out->sectionEntities();
    const DL_Attributes on_sketch("SKETCH", 256, -1, "BYLAYER", 1.0);
    const DL_Attributes on_section("SECTION", 256, -1, "BYLAYER", 1.0);
    constexpr double kDegrees = 180 / std::numbers::pi;
    for (const sketch::Entity& e : sketch.entities) {
      if (e.type == sketch::EntityType::Line) {
        const Vec2 a = sketch.position(e.a);
        const Vec2 b = sketch.position(e.b);
        dxf.writeLine(*out, DL_LineData(a.x(), a.y(), 0, b.x(), b.y(), 0), on_sketch);
        continue;
      }
      const Vec2 c = sketch.position(e.centre);
      if (e.type == sketch::EntityType::Circle) {
        dxf.writeCircle(*out, DL_CircleData(c.x(), c.y(), 0, e.radius), on_sketch);
      } else {
        const sketch::ArcAngles angles = sketch::arc_angles(sketch, e);
        dxf.writeArc(*out,
                     DL_ArcData(c.x(), c.y(), 0, e.radius, angles.start * kDegrees,
                                (angles.start + angles.sweep) * kDegrees),
                     on_sketch);
      }
    }
    for (const section::Polyline& line : section.polylines) {
      dxf.writePolyline(
          *out, DL_PolylineData(static_cast<int>(line.points.size()), 0, 0, line.closed ? 1 : 0),
          on_section);
      for (const Vec2& p : line.points) dxf.writeVertex(*out, DL_VertexData(p.x(), p.y(), 0));
      dxf.writePolylineEnd(*out);
    }
    out->sectionEnd();
    out->dxfEOF();
    out->close();
    return Done{};
  });
}

Status write_svg(const std::filesystem::path& path, const sketch::Sketch& sketch,
                 const section::Section& section) {
  Eigen::AlignedBox2d box;
  for (const section::Polyline& line : section.polylines) {
    for (const Vec2& p : line.points) box.extend(p);
  }
  for (const sketch::Point& p : sketch.points) box.extend(p.at);
  if (box.isEmpty()) box.extend(Vec2(0, 0));
  const Vec2 low = box.min() - Vec2(5, 5);
  const Vec2 size = box.sizes() + Vec2(10, 10);
  std::string svg = fmt::format(
      "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" "
      "viewBox=\"{2:.3f} {3:.3f} {0:.3f} {1:.3f}\">\n"
      "<g transform=\"scale(1,-1)\" fill=\"none\" stroke-linecap=\"round\">\n<g stroke=\"#A9A49A\" "
      "stroke-width=\"0.15\">\n",
      size.x(), size.y(), low.x(), -(low.y() + size.y()));
  for (const section::Polyline& line : section.polylines) {
    svg += line.closed ? "<polygon points=\"" : "<polyline points=\"";
    for (const Vec2& p : line.points) svg += fmt::format("{:.4f},{:.4f} ", p.x(), p.y());
    svg += "\"/>\n";
  }
  svg += "</g>\n<g stroke=\"#17324D\" stroke-width=\"0.35\">\n";
  for (const sketch::Entity& e : sketch.entities) {
    if (e.type == sketch::EntityType::Circle) {
      const Vec2 c = sketch.position(e.centre);
      svg += fmt::format("<circle cx=\"{:.5f}\" cy=\"{:.5f}\" r=\"{:.5f}\"/>\n", c.x(), c.y(),
                         e.radius);
      continue;
    }
    const Vec2 a = sketch.position(e.a);
    const Vec2 b = sketch.position(e.b);
    if (e.type == sketch::EntityType::Line) {
      svg += fmt::format("<line x1=\"{:.5f}\" y1=\"{:.5f}\" x2=\"{:.5f}\" y2=\"{:.5f}\"/>\n", a.x(),
                         a.y(), b.x(), b.y());
    } else {
      const int large = sketch::arc_angles(sketch, e).sweep > std::numbers::pi ? 1 : 0;
      svg += fmt::format("<path d=\"M {:.5f} {:.5f} A {:.5f} {:.5f} 0 {} 1 {:.5f} {:.5f}\"/>\n",
                         a.x(), a.y(), e.radius, e.radius, large, b.x(), b.y());
    }
  }
  svg += "</g>\n</g>\n</svg>\n";
  return write_file_atomically(path, svg);
}

}  // namespace lostline::io
