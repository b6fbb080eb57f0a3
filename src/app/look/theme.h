#pragma once

#include <QColor>
#include <QFont>
#include <QIcon>
#include <QString>

namespace lostline::app {

/// Colours by role: paper, graphite, ink, red pencil; set by apply_theme for the sheet preferred.
namespace role {
inline QColor paper{0xF6, 0xF3, 0xEC};
inline QColor bench_low{0xEA, 0xE6, 0xDB};
inline QColor card{0xFF, 0xFD, 0xF8};
inline QColor rule{0xD8, 0xD3, 0xC6};
inline QColor graphite{0x6E, 0x6A, 0x63};
inline QColor graphite_light{0xA9, 0xA4, 0x9A};
inline QColor ink{0x17, 0x32, 0x4D};
inline QColor red_pencil{0xC2, 0x40, 0x2A};
inline QColor moss{0x5E, 0x7F, 0x5A};
inline QColor marked{0xF0, 0xD9, 0xCF};  ///< rows that rest on what is picked
inline QColor chosen{0xE3, 0xDF, 0xD3};  ///< the row or entry that is selected
}  // namespace role

/// Loads the fonts that ship with the program and sets colours, palette and style sheet for the
/// sheet preferred; again after a change.
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
