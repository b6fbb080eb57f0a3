#include "look/preferences.h"

#include <QSettings>

#include "base/text.h"

namespace lostline::app {
namespace {

constexpr double kInch = 25.4;

Preferences load() {
  const QSettings s;
  Preferences p;
  p.inches = s.value(QStringLiteral("preferences/inches"), p.inches).toBool();
  p.dark_sheet = s.value(QStringLiteral("preferences/darkSheet"), p.dark_sheet).toBool();
  p.tolerance = s.value(QStringLiteral("preferences/tolerance"), p.tolerance).toDouble();
  p.deviation_range =
      s.value(QStringLiteral("preferences/deviationRange"), p.deviation_range).toDouble();
  p.size_percent = preferred_size_percent();
  if (!(p.tolerance > 0) || !(p.deviation_range > p.tolerance)) {
    p.tolerance = Preferences().tolerance;
    p.deviation_range = Preferences().deviation_range;
  }
  return p;
}

Preferences& current() {
  static Preferences preferences = load();
  return preferences;
}

}  // namespace

int preferred_size_percent() {
  // Named, since it is asked before the application has its name.
  const QSettings s(QStringLiteral("Lost Line"), QStringLiteral("Lost Line"));
  const int percent = s.value(QStringLiteral("preferences/sizePercent"), 100).toInt();
  return percent >= 75 && percent <= 200 ? percent : 100;
}

const Preferences& preferences() { return current(); }

void set_preferences(const Preferences& p) {
  current() = p;
  QSettings s;
  s.setValue(QStringLiteral("preferences/inches"), p.inches);
  s.setValue(QStringLiteral("preferences/darkSheet"), p.dark_sheet);
  s.setValue(QStringLiteral("preferences/tolerance"), p.tolerance);
  s.setValue(QStringLiteral("preferences/deviationRange"), p.deviation_range);
  QSettings(QStringLiteral("Lost Line"), QStringLiteral("Lost Line"))
      .setValue(QStringLiteral("preferences/sizePercent"), p.size_percent);
}

double length_factor() { return preferences().inches ? 1 / kInch : 1; }
QString length_unit() { return preferences().inches ? QStringLiteral("in") : QStringLiteral("mm"); }

std::string length_fixed(double mm, int decimals) {
  return format_fixed(mm * length_factor(), decimals + (preferences().inches ? 1 : 0));
}
QString length_shown(double mm, int decimals) {
  return QString::fromStdString(length_fixed(mm, decimals));
}
std::string length_trimmed(double mm, int decimals) {
  return format_trimmed(mm * length_factor(), decimals + (preferences().inches ? 1 : 0));
}
std::string length_reading(double mm, double u) {
  return format_reading(mm * length_factor(), u * length_factor());
}

std::string quantity_fixed(standards::Quantity quantity, double value, int decimals) {
  return quantity == standards::Quantity::Angle ? format_fixed(value, decimals)
                                                : length_fixed(value, decimals);
}
std::string quantity_trimmed(standards::Quantity quantity, double value, int decimals) {
  return quantity == standards::Quantity::Angle ? format_trimmed(value, decimals)
                                                : length_trimmed(value, decimals);
}
std::string quantity_reading(standards::Quantity quantity, double value, double u) {
  return quantity == standards::Quantity::Angle ? format_reading(value, u)
                                                : length_reading(value, u);
}

QString in_unit(QString label) {
  if (preferences().inches && label.endsWith(QStringLiteral("mm"))) {
    label.chop(2);
    label += QStringLiteral("in");
  }
  return label;
}

QString area_text(double square_mm, int decimals) {
  const double factor = length_factor();
  return QStringLiteral("%1 %2\u00b2")
      .arg(QString::fromStdString(format_fixed(square_mm * factor * factor,
                                               decimals + (preferences().inches ? 3 : 0))),
           length_unit());
}

LengthBox::LengthBox(int decimals) : decimals_(decimals) { setLength(true); }

void LengthBox::setLength(bool on) {
  is_length_ = on;
  // A hundredth of a typed inch must survive the box's own rounding in mm.
  setDecimals(inInches() ? decimals_ + 3 : decimals_);
}

QString LengthBox::textFromValue(double mm) const {
  if (!inInches()) return QDoubleSpinBox::textFromValue(mm);
  return QString::fromStdString(format_fixed(mm / kInch, decimals_ + 1));
}

double LengthBox::valueFromText(const QString& text) const {
  if (!inInches()) return QDoubleSpinBox::valueFromText(text);
  return QLocale::c().toDouble(text) * kInch;
}

QValidator::State LengthBox::validate(QString& text, int& at) const {
  if (!inInches()) return QDoubleSpinBox::validate(text, at);
  if (text.isEmpty() || text == QStringLiteral("-") || text.endsWith(QLatin1Char('.')))
    return QValidator::Intermediate;
  bool good = false;
  const double mm = QLocale::c().toDouble(text, &good) * kInch;
  if (!good) return QValidator::Invalid;
  return mm < minimum() || mm > maximum() ? QValidator::Intermediate : QValidator::Acceptable;
}

}  // namespace lostline::app
