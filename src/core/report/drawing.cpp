#include "report/drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace lostline::report {
namespace {

std::string hex(const Colour& c) { return fmt::format("#{:02X}{:02X}{:02X}", c[0], c[1], c[2]); }

}  // namespace

Colour deviation_colour(double value, double tolerance) {
  if (!std::isfinite(value)) return {0xA9, 0xA4, 0x9A};
  const double size = std::abs(value);
  if (size <= tolerance) return kPaper;
  const double t = std::clamp((size - tolerance) / std::max(1e-9, 1 - tolerance), 0.0, 1.0);
  // From just off paper to full colour.
  constexpr std::array<Colour, 3> kProud{Colour{0xF6, 0xD9, 0xA8}, Colour{0xE8, 0x91, 0x2D},
                                         Colour{0xA6, 0x4A, 0x04}};
  constexpr std::array<Colour, 3> kShort{Colour{0xD5, 0xCD, 0xE6}, Colour{0x8C, 0x6B, 0xB8},
                                         Colour{0x47, 0x22, 0x7E}};
  const auto& ramp = value > 0 ? kProud : kShort;
  const std::size_t i = t < 0.5 ? 0 : 1;
  const double f = t < 0.5 ? 2 * t : 2 * t - 1;
  Colour mixed{};
  for (std::size_t k = 0; k < 3; ++k)
    mixed[k] =
        static_cast<std::uint8_t>(std::lround(ramp[i][k] + f * (ramp[i + 1][k] - ramp[i][k])));
  return mixed;
}

std::string escaped(const std::string& text) {
  std::string result;
  for (const char c : text) {
    switch (c) {
      case '&':
        result += "&amp;";
        break;
      case '<':
        result += "&lt;";
        break;
      case '>':
        result += "&gt;";
        break;
      case '"':
        result += "&quot;";
        break;
      default:
        result += c;
    }
  }
  return result;
}

std::string to_svg(const Drawing& d) {
  std::string svg = fmt::format(
      "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {0:.1f} {1:.1f}\" width=\"{0:.1f}\" "
      "height=\"{1:.1f}\" role=\"img\">\n",
      d.width, d.height);
  for (const Drawing::Line& line : d.lines) {
    std::string points;
    for (const Vec2& p : line.points) points += fmt::format("{:.2f},{:.2f} ", p.x(), p.y());
    svg += fmt::format("<{} points=\"{}\" fill=\"{}\" stroke=\"{}\" stroke-width=\"{:.2f}\"{}/>\n",
                       line.closed ? "polygon" : "polyline", points,
                       line.filled ? hex(line.colour) : "none",
                       line.width > 0 ? hex(line.colour) : "none", line.width,
                       line.dashed ? " stroke-dasharray=\"3 2\"" : "");
  }
  for (const Drawing::Text& t : d.texts) {
    svg += fmt::format(
        "<text x=\"{:.1f}\" y=\"{:.1f}\" font-size=\"{:.1f}\" fill=\"{}\" text-anchor=\"{}\">{}"
        "</text>\n",
        t.at.x(), t.at.y(), t.size, hex(t.colour),
        t.align < 0   ? "end"
        : t.align > 0 ? "start"
                      : "middle",
        escaped(t.text));
  }
  return svg + "</svg>\n";
}

}  // namespace lostline::report
