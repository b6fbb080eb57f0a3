#pragma once

#include <array>
#include <string>
#include <vector>

#include "base/geometry.h"

namespace lostline::report {

using Colour = std::array<std::uint8_t, 3>;

// The roles of the product's colours, as on the screen.
constexpr Colour kInk{0x17, 0x32, 0x4D};
constexpr Colour kGraphite{0x6E, 0x6A, 0x63};
constexpr Colour kRule{0xD8, 0xD3, 0xC6};
constexpr Colour kRedPencil{0xC2, 0x40, 0x2A};
constexpr Colour kPaper{0xFB, 0xF9, 0xF3};

/// Purple where the scan falls short of the model, orange where it stands proud, paper within
/// tolerance. @param value, tolerance  as shares of the ends of the scale. NaN is graphite.
Colour deviation_colour(double value, double tolerance);

/// A flat picture of lines and texts in points (1/72 inch), y downwards; written as vectors.
struct Drawing {
  struct Line {
    std::vector<Vec2> points;
    Colour colour = kInk;
    double width = 1;
    bool closed = false;
    bool filled = false;
    bool dashed = false;
  };
  struct Text {
    Vec2 at;
    std::string text;
    Colour colour = kGraphite;
    double size = 8;
    int align = 0;  ///< -1 ends at `at`, 0 centred, 1 begins there
  };
  double width = 480;
  double height = 160;
  std::vector<Line> lines;
  std::vector<Text> texts;
};
std::string to_svg(const Drawing& drawing);

/// Text safe inside HTML and SVG.
std::string escaped(const std::string& text);

}  // namespace lostline::report
