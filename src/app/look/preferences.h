#pragma once

#include <QDoubleSpinBox>
#include <QString>
#include <string>

#include "standards/nominals.h"

namespace lostline::app {

/// What the engineer prefers; kept between runs.
struct Preferences {
  bool inches = false;           ///< lengths are shown and typed in inches; inside all is mm
  bool dark_sheet = false;       ///< ink on blueprint instead of ink on paper
  double tolerance = 0.1;        ///< of the deviation of a new project, mm
  double deviation_range = 0.3;  ///< ends of its colour scale, mm
  int size_percent = 100;        ///< of text and everything with it, on top of the desktop's scale
};
/// The size preferred, asked before the application exists: Qt scales by it from the start.
int preferred_size_percent();
const Preferences& preferences();
void set_preferences(const Preferences& preferences);  ///< and stores them

/// Shown lengths for millimetres: 1, or 1 / 25.4.
double length_factor();
QString length_unit();  ///< "mm" or "in"
/// A length in the unit shown; `decimals` are those of millimetres, an inch has one more.
std::string length_fixed(double mm, int decimals);
QString length_shown(double mm, int decimals = 3);  ///< the same for a widget
std::string length_trimmed(double mm, int decimals = 4);
std::string length_reading(double mm, double u);
/// A Ledger value: a length in the unit shown, or an angle in degrees.
std::string quantity_fixed(standards::Quantity quantity, double value, int decimals);
std::string quantity_trimmed(standards::Quantity quantity, double value, int decimals = 4);
std::string quantity_reading(standards::Quantity quantity, double value, double u);
/// "offset, mm" with the unit shown.
QString in_unit(QString label);
/// An area given in mm\u00b2, in the unit shown with its name: "12.5 mm\u00b2".
QString area_text(double square_mm, int decimals = 1);

/// A number in mm that is shown and typed in the unit preferred.
class LengthBox : public QDoubleSpinBox {
  Q_OBJECT
 public:
  /// @param decimals  of millimetres.
  explicit LengthBox(int decimals);
  /// For a field that holds a length or, as another choice has it, an angle or a count, which no
  /// unit preferred changes.
  void setLength(bool on);
  [[nodiscard]] bool isLength() const { return is_length_; }

 protected:
  [[nodiscard]] QString textFromValue(double mm) const override;
  [[nodiscard]] double valueFromText(const QString& text) const override;
  QValidator::State validate(QString& text, int& at) const override;

 private:
  [[nodiscard]] bool inInches() const { return is_length_ && preferences().inches; }
  int decimals_;  ///< of millimetres
  bool is_length_ = true;
};

}  // namespace lostline::app
