#include "look/theme.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QPixmap>
#include <QPixmapCache>
#include <QSvgRenderer>
#include <algorithm>
#include <array>
#include <cmath>

// Resources of a static library are linked in by asking for them, outside any namespace.
static void load_resources() {
  Q_INIT_RESOURCE(lostline);
  Q_INIT_RESOURCE(icons);
}

#include "look/preferences.h"
#include "report/drawing.h"

namespace lostline::app {
namespace {

const char* const kStyle = R"(
* { color: #17324D; }
QMainWindow, QWidget#page { background: #F6F3EC; }
QMenuBar { background: #F6F3EC; border-bottom: 1px solid #D8D3C6; padding: 2px 6px; }
QMenuBar::item { background: transparent; padding: 4px 9px; }
QMenuBar::item:selected, QMenu::item:selected { background: #E3DFD3; }
QMenu { background: #FFFDF8; border: 1px solid #D8D3C6; }
QMenu::item { padding: 4px 24px 4px 14px; }
QMenu::item:disabled { color: #8B867D; }
QStatusBar { background: #EFEBE1; border-top: 1px solid #D8D3C6; }
QStatusBar::item { border: none; }
QSplitter::handle { background: #D8D3C6; }
QToolTip { background: #FFFDF8; color: #17324D; border: 1px solid #A9A49A; padding: 3px; }
QWidget#rail { background: #EFEBE1; border-right: 1px solid #D8D3C6; }
QLabel#heading { font-weight: bold; }
QLabel#quiet, QLabel#summary { color: #6E6A63; }
QLabel#evidence { color: #17324D; }
QLabel#error { color: #C2402A; }
QLabel#empty { color: #6E6A63; padding: 6px 10px; }
QFrame#card { background: #FFFDF8; border: 1px solid #C9C3B5; border-top: 3px solid #C2402A; border-radius: 3px; }
QFrame#card QScrollArea, QWidget#cardBody { background: transparent; }
QPushButton#next { background: transparent; border: none; border-bottom: 1px solid #D8D3C6; border-radius: 0; text-align: left; padding: 5px 8px; }
QPushButton#next:hover { background: #E3DFD3; }
QPushButton { outline: none; background: #FFFDF8; border: 1px solid #A9A49A; border-radius: 3px; padding: 4px 10px; min-height: 16px; }
QPushButton:hover { background: #F1EDE3; }
QPushButton:focus { border: 1px solid #17324D; }
QPushButton:disabled { color: #8B867D; border-color: #D8D3C6; }
QPushButton:checked { background: #E3DFD3; border-color: #17324D; }
QPushButton#keep { background: #17324D; color: #FFFDF8; border-color: #17324D; }
QPushButton#keep:hover { background: #24486B; }
QPushButton#keep:disabled { background: #B5B6B5; border-color: #B5B6B5; color: #FFFDF8; }
QComboBox, QLineEdit, QDoubleSpinBox, QSpinBox { background: #FFFDF8; border: 1px solid #C9C3B5; border-radius: 3px; padding: 2px 5px; min-height: 18px; selection-background-color: #17324D; selection-color: #FFFDF8; }
QComboBox:focus, QLineEdit:focus, QDoubleSpinBox:focus { border-color: #17324D; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox::down-arrow { image: url(:/icons/chevron-down.svg); width: 12px; height: 12px; }
QComboBox QAbstractItemView { background: #FFFDF8; selection-background-color: #E3DFD3; selection-color: #17324D; }
QTreeWidget, QTableView, QListWidget { background: #F6F3EC; border: none; outline: none; alternate-background-color: #F6F3EC; selection-background-color: #E3DFD3; selection-color: #17324D; }
QTreeWidget::item, QListWidget::item { padding: 2px 0; }
QTreeWidget::item:selected, QTableView::item:selected, QListWidget::item:selected { background: #E3DFD3; color: #17324D; }
QHeaderView::section { background: #F6F3EC; color: #6E6A63; border: none; border-bottom: 1px solid #D8D3C6; padding: 2px 4px; }
QScrollBar:vertical { background: transparent; width: 8px; }
QScrollBar::handle:vertical { background: #C9C3B5; border-radius: 4px; min-height: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
QScrollBar:horizontal { background: transparent; height: 8px; }
QScrollBar::handle:horizontal { background: #C9C3B5; border-radius: 4px; }
QProgressBar { background: #E3DFD3; border: none; border-radius: 3px; max-height: 7px; }
QProgressBar::chunk { background: #17324D; border-radius: 3px; }
QSlider::groove:horizontal { background: #D8D3C6; height: 3px; }
QSlider::handle:horizontal { background: #17324D; width: 11px; height: 11px; margin: -5px 0; border-radius: 5px; }
QToolButton#stage { border: none; background: transparent; color: #17324D; padding: 2px 0; text-align: left; }
QToolButton#tool { border: none; background: transparent; padding: 3px 2px; border-radius: 3px; color: #17324D; }
QToolButton#tool:hover { background: #E3DFD3; }
QToolButton#tool:checked { color: #C2402A; background: #FFFDF8; }
QToolButton#tool:disabled { color: #8B867D; }
QToolButton#tool::menu-indicator { image: url(:/icons/chevron-down.svg); width: 9px; height: 9px; subcontrol-origin: padding; subcontrol-position: center right; right: 1px; }
)";

/// One colour of the style sheet on paper and on blueprint; contrast of text at least 4.5 : 1 on
/// both.
struct Shade {
  QColor* role;
  const char* light;
  const char* dark;
};
const std::array<Shade, 13> kShades{{{&role::paper, "#F6F3EC", "#17293A"},
                                     {&role::bench_low, "#EAE6DB", "#122231"},
                                     {&role::card, "#FFFDF8", "#1E3448"},
                                     {&role::rule, "#D8D3C6", "#36506A"},
                                     {&role::graphite, "#6E6A63", "#A9B5C0"},
                                     {&role::graphite_light, "#A9A49A", "#6D8296"},
                                     {&role::ink, "#17324D", "#E9EEF2"},
                                     {&role::red_pencil, "#C2402A", "#F4826B"},
                                     {&role::moss, "#5E7F5A", "#93B88E"},
                                     {&role::marked, "#F0D9CF", "#4A3238"},
                                     {&role::chosen, "#E3DFD3", "#2B455E"},
                                     {nullptr, "#EFEBE1", "#14263A"},
                                     {nullptr, "#C9C3B5", "#44607C"}}};

}  // namespace

void apply_theme() {
  load_resources();
  const std::array<Shade, 13>& shades = kShades;
  const bool dark = preferences().dark_sheet;
  for (const Shade& s : shades) {
    if (s.role != nullptr) *s.role = QColor(QLatin1String(dark ? s.dark : s.light));
  }
  for (const char* font : {"B612-Regular.otf", "B612-Bold.otf", "B612-Italic.otf", "osifont.ttf"}) {
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/") + QLatin1String(font));
  }
  QPalette palette;
  palette.setColor(QPalette::Window, role::paper);
  palette.setColor(QPalette::Base, role::paper);
  palette.setColor(QPalette::Button, role::card);
  for (const auto group : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
    palette.setColor(group, role::ink);
  palette.setColor(QPalette::Highlight, role::chosen);
  palette.setColor(QPalette::HighlightedText, role::ink);
  palette.setColor(QPalette::PlaceholderText, role::graphite);
  QApplication::setStyle(QStringLiteral("Fusion"));
  QApplication::setPalette(palette);
  QApplication::setFont(body_font());
  QString style = QLatin1String(kStyle);
  if (dark) {
    for (const Shade& s : shades) style.replace(QLatin1String(s.light), QLatin1String(s.dark));
    style.replace(QStringLiteral("chevron-down.svg"), QStringLiteral("chevron-down-light.svg"));
  }
  qApp->setStyleSheet(style);
}

QFont body_font(int pixels, bool bold, bool italic) {
  QFont font(QStringLiteral("B612"));
  font.setPixelSize(pixels);
  font.setBold(bold);
  font.setItalic(italic);
  return font;
}

QFont lettering_font(int pixels) {
  QFont font(QStringLiteral("osifont"));
  font.setPixelSize(pixels);
  return font;
}

QIcon icon(const QString& name, const QColor& colour) {
  // The rail asks for all of them at every change of the document; drawing one takes a millisecond.
  const QString key = QStringLiteral("icon %1 %2").arg(name, colour.name());
  QPixmap pixmap(48, 48);
  if (QPixmapCache::find(key, &pixmap)) return pixmap;
  QFile file(QStringLiteral(":/icons/") + name + QStringLiteral(".svg"));
  if (!file.open(QIODevice::ReadOnly)) return {};
  QByteArray svg = file.readAll();
  svg.replace("currentColor", colour.name().toLatin1());
  QSvgRenderer renderer(svg);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  renderer.render(&painter);
  painter.end();
  QPixmapCache::insert(key, pixmap);
  return pixmap;
}

QColor deviation_colour(double value, double tolerance) {
  const report::Colour c = report::deviation_colour(value, tolerance);
  return {c[0], c[1], c[2]};
}

QColor region_wash(int index) {
  static const std::array<QColor, kWashes> kWash{
      QColor(0xC9, 0xD6, 0xD8), QColor(0xE2, 0xD3, 0xBC), QColor(0xCF, 0xDC, 0xC6),
      QColor(0xDD, 0xCF, 0xDA), QColor(0xE6, 0xDF, 0xB9), QColor(0xBF, 0xCB, 0xDE),
      QColor(0xE4, 0xC8, 0xBD), QColor(0xC4, 0xDA, 0xD1)};
  return kWash[static_cast<std::size_t>(index % kWashes)];
}

}  // namespace lostline::app
