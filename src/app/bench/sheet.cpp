// The drawing sheet around and over the 3D view: edge with zones, grid, title block, scale, axes,
// callouts.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "bench/bench_view.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"

namespace lostline::app {
namespace {

constexpr int kMargin = 16;

QString number(double value, int decimals) { return length_shown(value, decimals); }

}  // namespace

void BenchView::paintSheet(QPainter& painter) {
  const QRectF sheet = QRectF(rect()).adjusted(kMargin, kMargin, -kMargin, -kMargin);
  if (grid_) {
    QColor faint = role::ink;
    faint.setAlpha(70);
    painter.setPen(QPen(faint, 1));
    // A straight line every round number of millimetres, about 60 pixels apart.
    double step = std::pow(10.0, std::floor(std::log10(60 / camera_.scale)));
    while (step * camera_.scale < 40) step *= step * camera_.scale < 20 ? 5 : 2;
    const QPointF zero = camera_.toScreen(Vec3::Zero());
    const double pixels = step * camera_.scale;
    const auto lines = [&](double first, double extent, const auto& draw) {
      for (int k = 0; first + k * pixels < extent; ++k) draw(first + k * pixels);
    };
    lines(std::fmod(zero.x(), pixels), width(),
          [&](double x) { painter.drawLine(QPointF(x, kMargin), QPointF(x, height() - kMargin)); });
    lines(std::fmod(zero.y(), pixels), height(),
          [&](double y) { painter.drawLine(QPointF(kMargin, y), QPointF(width() - kMargin, y)); });
  }
  painter.fillRect(QRectF(0, 0, width(), kMargin), role::paper);
  painter.fillRect(QRectF(0, height() - kMargin, width(), kMargin), role::paper);
  painter.fillRect(QRectF(0, 0, kMargin, height()), role::paper);
  painter.fillRect(QRectF(width() - kMargin, 0, kMargin, height()), role::paper);
  painter.setPen(QPen(role::graphite_light, 1.2));
  painter.setBrush(Qt::NoBrush);
  painter.drawRect(sheet);
  painter.setFont(lettering_font(12));
  const int columns = std::max(2, width() / 120);
  const int rows = std::max(2, height() / 130);
  for (int i = 0; i < columns; ++i) {
    const double x0 = sheet.left() + sheet.width() * i / columns;
    const double x1 = sheet.left() + sheet.width() * (i + 1) / columns;
    const QString letter(QChar(u'A' + i));
    painter.drawText(QRectF(x0, 0, x1 - x0, kMargin), Qt::AlignCenter, letter);
    painter.drawText(QRectF(x0, height() - kMargin, x1 - x0, kMargin), Qt::AlignCenter, letter);
    if (i > 0) {
      painter.drawLine(QPointF(x0, 3), QPointF(x0, kMargin));
      painter.drawLine(QPointF(x0, height() - kMargin), QPointF(x0, height() - 3));
    }
  }
  for (int i = 0; i < rows; ++i) {
    const double y0 = sheet.top() + sheet.height() * i / rows;
    const double y1 = sheet.top() + sheet.height() * (i + 1) / rows;
    painter.drawText(QRectF(0, y0, kMargin, y1 - y0), Qt::AlignCenter, QString::number(i + 1));
    painter.drawText(QRectF(width() - kMargin, y0, kMargin, y1 - y0), Qt::AlignCenter,
                     QString::number(i + 1));
    if (i > 0) {
      painter.drawLine(QPointF(3, y0), QPointF(kMargin, y0));
      painter.drawLine(QPointF(width() - kMargin, y0), QPointF(width() - 3, y0));
    }
  }
}

void BenchView::paintTitleBlock(QPainter& painter) {
  const project::Document& d = session_.document();
  const double w = 236;
  const double row = 20;
  const QRectF box(width() - kMargin - w, height() - kMargin - 3 * row, w, 3 * row);
  painter.setPen(QPen(role::ink, 1));
  QColor block = role::paper;
  block.setAlpha(235);
  painter.setBrush(block);
  painter.drawRect(box);
  painter.drawLine(QPointF(box.left(), box.top() + row), QPointF(box.right(), box.top() + row));
  painter.drawLine(QPointF(box.left(), box.top() + 2 * row),
                   QPointF(box.right(), box.top() + 2 * row));
  painter.drawLine(QPointF(box.left() + 126, box.top() + row),
                   QPointF(box.left() + 126, box.bottom()));
  painter.setFont(lettering_font(14));
  const auto cell = [&](double x, int line, double cell_width, const QString& text,
                        Qt::Alignment align = Qt::AlignLeft) {
    const QRectF r(box.left() + x + 7, box.top() + line * row, cell_width - 14, row);
    painter.drawText(
        r, align | Qt::AlignVCenter,
        painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(r.width())));
  };
  cell(0, 0, 190, QString::fromStdString(d.title).toUpper());
  cell(180, 0, 56, length_unit(), Qt::AlignRight);
  cell(0, 1, 126,
       !d.frame        ? tr("frame none")
       : d.frame->upon ? tr("frame by model")
                       : tr("frame 3-2-1"));
  cell(126, 1, 110, d.scan ? tr("noise %1").arg(number(d.scan->health.noise_sigma, 3)) : QString());
  cell(0, 2, 126,
       tr("within \u00b1%1").arg(QString::fromStdString(length_trimmed(d.tolerance, 3))));
  const auto route = session_.route();
  const bool known = route->map && route->statistics.n > 0;
  // What is of the model before this one is no number of this one.
  const bool old = known && (route->map_is_old || route->stopped);
  cell(126, 2, 110,
       old     ? (route->stopped ? tr("stopped") : tr("comparing \u2026"))
       : known ? QString::fromStdString(format_fixed(100 * route->statistics.within_fraction, 1)) +
                     QStringLiteral(" %")
               : tr("no model yet"),
       Qt::AlignRight);
}

void BenchView::paintScale(QPainter& painter) {
  const project::Document& d = session_.document();
  const QRectF bar(width() - kMargin - 34, kMargin + 46, 16, std::min(220.0, height() - 220.0));
  const double range = field_ ? static_cast<double>(field_->range) : d.deviation_range;
  const double share = field_ ? static_cast<double>(field_->tolerance / field_->range)
                              : d.tolerance / d.deviation_range;
  painter.setPen(Qt::NoPen);
  const int steps = static_cast<int>(bar.height());
  for (int i = 0; i < steps; ++i) {
    painter.setBrush(deviation_colour(1 - 2.0 * (i + 0.5) / steps, share));
    painter.drawRect(QRectF(bar.left(), bar.top() + i, bar.width(), 1.5));
  }
  painter.setPen(QPen(role::ink, 1));
  painter.setBrush(Qt::NoBrush);
  painter.drawRect(bar);
  painter.setFont(body_font(10));
  const auto tick = [&](double value, const QString& text) {
    const double y = bar.top() + bar.height() * (0.5 - 0.5 * value / range);
    painter.setPen(QPen(role::ink, 1));
    painter.drawLine(QPointF(bar.left() - 4, y), QPointF(bar.right(), y));
    painter.drawText(QRectF(bar.left() - 60, y - 8, 52, 16), Qt::AlignRight | Qt::AlignVCenter,
                     text);
  };
  if (field_) {
    for (const auto& [value, text] : field_->ticks) tick(value, text);
  } else {
    for (const double v : {d.deviation_range, d.tolerance, -d.tolerance, -d.deviation_range})
      tick(v, (v > 0 ? QStringLiteral("+") : QString()) + number(v, 2));
  }
  painter.setPen(role::graphite);
  const auto route = session_.route();
  if (!field_ && (route->map_is_old || route->stopped)) {
    painter.setPen(role::red_pencil);
    painter.drawText(QRectF(bar.right() - 260, bar.bottom() + 22, 260, 16), Qt::AlignRight,
                     tr("of the model as it was before"));
    painter.setPen(role::graphite);
  }
  painter.drawText(QRectF(bar.left() - 40, bar.top() - 20, 74, 14), Qt::AlignRight,
                   field_ ? field_->high : tr("proud"));
  painter.drawText(QRectF(bar.left() - 40, bar.bottom() + 6, 74, 14), Qt::AlignRight,
                   field_ ? field_->low : tr("short"));
}

void BenchView::paintFinishKey(QPainter& painter) {
  const project::Document& d = session_.document();
  if (!d.survey) return;
  double x = kMargin + 112;
  const double y = height() - kMargin - 26;
  painter.setFont(body_font(10));
  const auto entry = [&](Qt::BrushStyle pattern, const QString& text) {
    painter.setPen(QPen(role::graphite, 1));
    painter.setBrush(role::card);
    painter.drawRect(QRectF(x, y, 18, 12));
    painter.setBrush(QBrush(role::graphite, pattern));
    painter.drawRect(QRectF(x, y, 18, 12));
    painter.setPen(role::ink);
    const double wide = painter.fontMetrics().horizontalAdvance(text);
    painter.drawText(QRectF(x + 24, y - 2, wide + 4, 16), Qt::AlignLeft | Qt::AlignVCenter, text);
    x += wide + 40;
  };
  for (const survey::Finish f :
       {survey::Finish::Machined, survey::Finish::Formed, survey::Finish::AsCast}) {
    const bool used = std::any_of(
        d.survey->regions.begin(), d.survey->regions.end(),
        [&](const survey::Region& r) { return r.fit && r.triangles > 0 && r.finish == f; });
    if (!used) continue;
    entry(f == survey::Finish::Machined ? Qt::NoBrush
          : f == survey::Finish::Formed ? Qt::BDiagPattern
                                        : Qt::Dense6Pattern,
          core_word(survey::finish_name(f)));
  }
}

std::array<QPointF, 3> BenchView::triadTips() const {
  const QPointF centre(kMargin + 46, height() - kMargin - 46);
  std::array<QPointF, 3> tips;
  for (int k = 0; k < 3; ++k) {
    const Vec3 e = camera_.rotation * Vec3::Unit(k);
    tips.at(static_cast<std::size_t>(k)) = centre + 32 * QPointF(e.x(), -e.y());
  }
  return tips;
}

void BenchView::paintTriad(QPainter& painter) {
  const QPointF centre(kMargin + 46, height() - kMargin - 46);
  const auto tips = triadTips();
  painter.setFont(body_font(11));
  const char* const names[] = {"x", "y", "z"};
  for (int k = 0; k < 3; ++k) {
    const Vec3 e = camera_.rotation * Vec3::Unit(k);
    const QPointF tip = tips.at(static_cast<std::size_t>(k));
    painter.setPen(QPen(role::ink, 1.6));
    painter.drawLine(centre, tip);
    painter.drawText(QRectF(tip.x() + 6 * e.x() - 8, tip.y() - 6 * e.y() - 8, 16, 16),
                     Qt::AlignCenter, QString::fromLatin1(names[k]));
  }
}

void BenchView::paintHovered(QPainter& painter) {
  if (hovered_borders_.empty() || moving_) return;
  QVector<QLineF> lines;
  lines.reserve(static_cast<qsizetype>(hovered_borders_.size()));
  for (const auto& [a, b] : hovered_borders_)
    lines << QLineF(camera_.toScreen(a), camera_.toScreen(b));
  // A pale line under an inked one: seen on any wash. Square ends close the corners too, and a
  // border of thousands of pieces is stroked in a quarter of the time.
  QColor pale = role::card;
  pale.setAlpha(200);
  painter.setPen(QPen(pale, 4, Qt::SolidLine, Qt::SquareCap));
  painter.drawLines(lines);
  painter.setPen(QPen(role::ink, 1.6, Qt::SolidLine, Qt::SquareCap));
  painter.drawLines(lines);
}

void BenchView::paintCallouts(QPainter& painter) {
  double y = 60;
  for (const Callout& c : callouts_) {
    const QPointF at = camera_.toScreen(c.at);
    painter.setFont(body_font(12, false, c.pencil));
    const double text_width = painter.fontMetrics().horizontalAdvance(c.text) + 12;
    const bool right = at.x() < width() * 0.55;
    const double x = std::clamp(right ? at.x() + 60 : at.x() - 60 - text_width, 30.0,
                                std::max(30.0, width() - text_width - 30.0));
    const double line_y = std::clamp(at.y() - 46, y, std::max(y, height() - 100.0));
    QPen pen(c.pencil ? role::graphite : role::ink, 1);
    if (c.pencil) pen.setStyle(Qt::DashLine);
    painter.setPen(pen);
    painter.drawLine(at, QPointF(right ? x : x + text_width, line_y));
    painter.drawLine(QPointF(x, line_y), QPointF(x + text_width, line_y));
    // On paper of its own: legible over surfaces too.
    QColor paper = role::card;
    paper.setAlpha(215);
    painter.fillRect(QRectF(x, line_y - 20, text_width, 19), paper);
    painter.setPen(c.pencil ? role::graphite : role::ink);
    painter.drawText(QRectF(x, line_y - 20, text_width, 18), Qt::AlignCenter, c.text);
    y = line_y + 24;
  }
}

}  // namespace lostline::app
