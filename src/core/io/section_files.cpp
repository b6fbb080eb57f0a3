#include "io/section_files.h"

#include <dxflib/dl_dxf.h>
#include <fmt/format.h>

#include <array>
#include <cmath>
#include <memory>
#include <numbers>

#include "io/files.h"
#include "sketch/curve_kind.h"

namespace lostline::io {
namespace {

/// Header, tables and blocks, as the version asks for them.
void write_head(DL_Dxf& dxf, DL_WriterA& out) {
  dxf.writeHeader(out);
  out.dxfString(9, "$INSUNITS");
  out.dxfInt(70, 4);  // millimetres
  out.sectionEnd();
  out.sectionTables();
  dxf.writeVPort(out);
  out.tableLinetypes(3);
  for (const char* name : {"BYBLOCK", "BYLAYER", "CONTINUOUS"})
    dxf.writeLinetype(out, DL_LinetypeData(name, "Continuous", 0, 0, 0.0));
  out.tableEnd();
  const std::array layers{"0", "SKETCH", "SECTION"};
  out.tableLayers(static_cast<int>(layers.size()));
  for (const char* layer : layers) {
    dxf.writeLayer(out, DL_LayerData(layer, 0),
                   DL_Attributes("", DL_Codes::black, 25, "CONTINUOUS", 1.0));
  }
  out.tableEnd();
  out.tableStyle(1);
  dxf.writeStyle(out, DL_StyleData("Standard", 0, 2.5, 1.0, 0.0, 0, 2.5, "txt", ""));
  out.tableEnd();
  dxf.writeView(out);
  dxf.writeUcs(out);
  out.tableAppid(1);
  dxf.writeAppid(out, "ACAD");
  out.tableEnd();
  dxf.writeDimStyle(out, 1, 1, 1, 1, 1);
  dxf.writeBlockRecord(out);
  out.tableEnd();
  out.sectionEnd();
  out.sectionBlocks();
  for (const char* name : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
    dxf.writeBlock(out, DL_BlockData(name, 0, 0.0, 0.0, 0.0));
    dxf.writeEndBlock(out, name);
  }
  out.sectionEnd();
  out.sectionEntities();
}

void write_spline(DL_Dxf& dxf, DL_WriterA& out, const DL_Attributes& attributes,
                  const section::PlaneSpline& given) {
  const section::PlaneSpline s = given.closed ? given.between(given.low(), given.high()) : given;
  constexpr int kPlanar = 8;
  dxf.writeSpline(
      out,
      DL_SplineData(section::PlaneSpline::kDegree, static_cast<int>(s.knots.size()),
                    static_cast<int>(s.poles.size()), 0, kPlanar | (given.closed ? 1 : 0)),
      attributes);
  for (const double knot : s.knots) dxf.writeKnot(out, DL_KnotData(knot));
  for (const Vec2& pole : s.poles)
    dxf.writeControlPoint(out, DL_ControlPointData(pole.x(), pole.y(), 0, 1));
}

struct DxfCurve {
  DL_Dxf& dxf;
  DL_WriterA& out;
  DL_Attributes attributes;

  void operator()(const sketch::StraightForm& s) const {
    dxf.writeLine(out, DL_LineData(s.a.x(), s.a.y(), 0, s.b.x(), s.b.y(), 0), attributes);
  }
  void operator()(const sketch::RoundForm& r) const {
    if (r.whole())
      dxf.writeCircle(out, DL_CircleData(r.centre.x(), r.centre.y(), 0, r.radius), attributes);
    else
      dxf.writeArc(out,
                   DL_ArcData(r.centre.x(), r.centre.y(), 0, r.radius, r.start * kDegrees,
                              (r.start + r.sweep) * kDegrees),
                   attributes);
  }
  void operator()(const sketch::EllipticForm& e) const {
    // The format wants the larger radius first.
    const bool turned = e.minor > e.major;
    const Vec2 major =
        turned ? Vec2(e.minor * Vec2(-e.axis.y(), e.axis.x())) : Vec2(e.major * e.axis);
    const double ratio = turned ? e.major / e.minor : e.minor / e.major;
    const double begin = e.start - (turned ? std::numbers::pi / 2 : 0);
    dxf.writeEllipse(
        out,
        DL_EllipseData(e.centre.x(), e.centre.y(), 0, major.x(), major.y(), 0, ratio,
                       e.whole() ? 0 : begin, e.whole() ? 2 * std::numbers::pi : begin + e.sweep),
        attributes);
  }
  void operator()(const sketch::SplineForm& s) const {
    write_spline(dxf, out, attributes, s.spline);
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
  std::string operator()(const sketch::EllipticForm& e) const {
    const double turn = std::atan2(e.axis.y(), e.axis.x()) * 180 / std::numbers::pi;
    if (e.whole())
      return fmt::format(
          "<ellipse cx=\"{0:.5f}\" cy=\"{1:.5f}\" rx=\"{2:.5f}\" ry=\"{3:.5f}\" "
          "transform=\"rotate({4:.6f} {0:.5f} {1:.5f})\"/>\n",
          e.centre.x(), e.centre.y(), e.major, e.minor, turn);
    const Vec2 a = e.at(e.start);
    const Vec2 b = e.at(e.start + e.sweep);
    return fmt::format("<path d=\"M {:.5f} {:.5f} A {:.5f} {:.5f} {:.6f} {} 1 {:.5f} {:.5f}\"/>\n",
                       a.x(), a.y(), e.major, e.minor, turn, e.sweep > std::numbers::pi ? 1 : 0,
                       b.x(), b.y());
  }
  std::string operator()(const sketch::SplineForm& s) const {
    std::string path;
    for (const auto& p : s.spline.beziers()) {
      if (path.empty()) path = fmt::format("<path d=\"M {:.5f} {:.5f}", p[0].x(), p[0].y());
      path += fmt::format(" C {:.5f} {:.5f} {:.5f} {:.5f} {:.5f} {:.5f}", p[1].x(), p[1].y(),
                          p[2].x(), p[2].y(), p[3].x(), p[3].y());
    }
    return path + (s.spline.closed ? " Z\"/>\n" : "\"/>\n");
  }
};

}  // namespace

Status write_dxf(const std::filesystem::path& path, const sketch::Sketch& sketch,
                 const section::Section& section) {
  return write_through_temporary(path, [&](const std::filesystem::path& temporary) -> Status {
    DL_Dxf dxf;
    // The version of 2000: the first with ellipses and splines.
    const std::unique_ptr<DL_WriterA> out(dxf.out(temporary.c_str(), DL_Codes::AC1015));
    if (out == nullptr || out->openFailed())
      return Error{ErrorCode::Io,
                   "Cannot write " + path.string() + ": no permission or no such folder."};
    write_head(dxf, *out);
    const DxfCurve on_sketch{dxf, *out, DL_Attributes("SKETCH", 256, -1, "BYLAYER", 1.0)};
    const DL_Attributes on_section("SECTION", 256, -1, "BYLAYER", 1.0);
    for (const sketch::Entity& e : sketch.entities) {
      if (e.construction) continue;
      std::visit(on_sketch, sketch::placed(sketch, e)->form());
    }
    for (const sketch::Point& p : sketch.points) {
      if (p.own) dxf.writePoint(*out, DL_PointData(p.at.x(), p.at.y(), 0), on_sketch.attributes);
    }
    for (const section::Polyline& line : section.polylines) {
      dxf.writePolyline(
          *out, DL_PolylineData(static_cast<int>(line.points.size()), 0, 0, line.closed ? 1 : 0),
          on_section);
      for (const Vec2& p : line.points) dxf.writeVertex(*out, DL_VertexData(p.x(), p.y(), 0));
      dxf.writePolylineEnd(*out);
    }
    out->sectionEnd();
    dxf.writeObjects(*out);
    dxf.writeObjectsEnd(*out);
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
    if (e.construction) continue;
    svg += std::visit(SvgCurve(), sketch::placed(sketch, e)->form());
  }
  svg += "</g>\n</g>\n</svg>\n";
  return write_file_atomically(path, svg);
}

}  // namespace lostline::io
