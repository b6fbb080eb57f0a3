#include "windows/preferences_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>

#include "look/catalogue.h"
#include "look/preferences.h"

namespace lostline::app {

PreferencesDialog::PreferencesDialog(QWidget* parent) : QDialog(parent) {
  setWindowTitle(tr("Preferences"));
  setObjectName(QStringLiteral("page"));
  const Preferences& p = preferences();
  auto* form = new QFormLayout(this);
  const auto name = [](QWidget* widget, const QString& object, const QString& accessible) {
    widget->setObjectName(object);
    widget->setAccessibleName(accessible);
  };
  unit_ = new QComboBox;
  unit_->addItems({tr("millimetres"), tr("inches")});
  unit_->setCurrentIndex(p.inches ? 1 : 0);
  name(unit_, QStringLiteral("prefUnit"), tr("Unit"));
  unit_->setToolTip(tr("How lengths are shown and typed; files and projects stay in millimetres"));
  form->addRow(tr("unit"), unit_);
  sheet_ = new QComboBox;
  sheet_->addItems({tr("light: ink on paper"), tr("dark: ink on blueprint")});
  sheet_->setCurrentIndex(p.dark_sheet ? 1 : 0);
  name(sheet_, QStringLiteral("prefSheet"), tr("Sheet"));
  form->addRow(tr("sheet"), sheet_);
  size_ = new QComboBox;
  for (const int percent : {90, 100, 115, 130, 150})
    size_->addItem(percent == 100 ? tr("as the desktop") : tr("%1 % of it").arg(percent), percent);
  size_->setCurrentIndex(std::max(0, size_->findData(p.size_percent)));
  name(size_, QStringLiteral("prefSize"), tr("Size of text"));
  size_->setToolTip(tr("In force at the next start"));
  form->addRow(tr("size of text"), size_);
  const auto length = [&](double value, const QString& object, const QString& accessible) {
    auto* box = new LengthBox(3);
    box->setRange(0.001, 100);
    box->setValue(value);
    box->setLocale(QLocale::c());
    name(box, object, accessible);
    return box;
  };
  tolerance_ = length(p.tolerance, QStringLiteral("prefTolerance"), tr("Tolerance"));
  form->addRow(in_unit(tr("tolerance of new projects \u00b1, mm")), tolerance_);
  range_ = length(p.deviation_range, QStringLiteral("prefRange"), tr("Ends of the scale"));
  form->addRow(in_unit(tr("ends of their scale \u00b1, mm")), range_);
  language_ = new QComboBox;
  language_->addItem(tr("as the desktop"), QString());
  language_->addItem(QStringLiteral("English"), QStringLiteral("en"));
  language_->addItem(QStringLiteral("Deutsch"), QStringLiteral("de"));
  language_->setCurrentIndex(std::max(0, language_->findData(chosen_language())));
  name(language_, QStringLiteral("prefLanguage"), tr("Language"));
  language_->setToolTip(tr("In force at the next start"));
  form->addRow(tr("language"), language_);
  error_ = new QLabel;
  error_->setObjectName(QStringLiteral("error"));
  form->addRow(error_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  connect(buttons, &QDialogButtonBox::accepted, this, &PreferencesDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &PreferencesDialog::reject);
  form->addRow(buttons);
}

void PreferencesDialog::accept() {
  if (range_->value() <= tolerance_->value())
    return error_->setText(tr("The ends of the scale must lie beyond the tolerance."));
  set_preferences({unit_->currentIndex() == 1, sheet_->currentIndex() == 1, tolerance_->value(),
                   range_->value(), size_->currentData().toInt()});
  choose_language(language_->currentData().toString());
  QDialog::accept();
}

}  // namespace lostline::app
