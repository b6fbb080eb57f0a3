#include "io/section_files.h"

#include <dxflib/dl_dxf.h>
#include <fmt/format.h>

#include <cmath>
#include <memory>
#include <numbers>

#include "io/files.h"
#include "sketch/curve_kind.h"

namespace lostline::io {
namespace {

struct DxfCurve {
  DL_Dxf& dxf;
  DL_WriterA& out;
  DL_Attributes attributes;

  void operator()(const sketch::StraightForm& s) const {
    dxf.writeLine(out, DL_LineData(s.a.x(), s.a.y(), 0, s.b.x(), s.b.y(), 0), attributes);
  }
  void operator()(const sketch::RoundForm& r) const {
    constexpr double kDegrees = 180 / std::numbers::pi;
    if (r.whole())
      dxf.writeCircle(out, DL_CircleData(r.centre.x(), r.centre.y(), 0, r.radius), attributes);
    else
      dxf.writeArc(out,
                   DL_ArcData(r.centre.x(), r.centre.y(), 0, r.radius, r.start * kDegrees,
                              (r.start + r.sweep) * kDegrees),
                   attributes);
  }
};

struct SvgCurve {
  std::string operator()(const sketch::StraightForm& s) const {
    return fmt::format("<line x1=\"{:.5f}\" y1=\"{:.5f}\" x2=\"{:.5f}\" y2=\"{:.5f}\"/>\n", s.a.x(),
                       s.a.y(), s.b.x(), s.b.y());
  }
  std::string operator()(const sketch::RoundForm& r) const {
    if (r.whole())
      return fmt::format("<circle cx=\"{:.5f}\" cy=\"{:.5f}\" r=\"{:.5f}\"/>\n", r.centre.x(),
                         r.centre.y(), r.radius);
    const auto on = [&](double angle) {
      return Vec2(r.centre + r.radius * Vec2(std::cos(angle), std::sin(angle)));
    };
    const Vec2 a = on(r.start);
    const Vec2 b = on(r.start + r.sweep);
    return fmt::format("<path d=\"M {:.5f} {:.5f} A {:.5f} {:.5f} 0 {} 1 {:.5f} {:.5f}\"/>\n",
                       a.x(), a.y(), r.radius, r.radius, r.sweep > std::numbers::pi ? 1 : 0, b.x(),
                       b.y());
  }
};

}  // namespace

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
    const DxfCurve on_sketch{dxf, *out, DL_Attributes("SKETCH", 256, -1, "BYLAYER", 1.0)};
    const DL_Attributes on_section("SECTION", 256, -1, "BYLAYER", 1.0);
    for (const sketch::Entity& e : sketch.entities) {
      std::visit(on_sketch, sketch::placed(sketch, e)->form());
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
    svg += std::visit(SvgCurve(), sketch::placed(sketch, e)->form());
  }
  svg += "</g>\n</g>\n</svg>\n";
  return write_file_atomically(path, svg);
}

}  // namespace lostline::io
