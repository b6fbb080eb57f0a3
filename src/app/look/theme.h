#pragma once

#include <QColor>
#include <QFont>
#include <QIcon>
#include <QString>

namespace lostline::app {

/// Colours by role: paper, graphite, ink, red pencil.
namespace role {
inline const QColor paper{0xF6, 0xF3, 0xEC};
inline const QColor bench_low{0xEA, 0xE6, 0xDB};
inline const QColor card{0xFF, 0xFD, 0xF8};
inline const QColor rule{0xD8, 0xD3, 0xC6};
inline const QColor graphite{0x6E, 0x6A, 0x63};
inline const QColor graphite_light{0xA9, 0xA4, 0x9A};
inline const QColor ink{0x17, 0x32, 0x4D};
inline const QColor red_pencil{0xC2, 0x40, 0x2A};
inline const QColor moss{0x5E, 0x7F, 0x5A};
}  // namespace role

/// Loads the fonts that ship with the program and sets palette and style sheet.
void apply_theme();
QFont body_font(int pixels = 12, bool bold = false, bool italic = false);
/// Technical lettering, for the sheet's edge and the title block only.
QFont lettering_font(int pixels = 14);
/// A vendored stroke icon in a role's colour.
QIcon icon(const QString& name, const QColor& colour = role::ink);
/// Colour of a signed deviation: purple short, paper within tolerance, orange proud. `value` and
/// `tolerance` in units of the scale's end.
QColor deviation_colour(double value, double tolerance);
/// Quiet washes for regions.
QColor region_wash(int index);
constexpr int kWashes = 8;

}  // namespace lostline::app
