#pragma once

#include <QDialog>

class QComboBox;
class QLabel;

namespace lostline::app {

class LengthBox;

/// Unit, sheet and the tolerances that a new project begins with.
class PreferencesDialog : public QDialog {
  Q_OBJECT
 public:
  explicit PreferencesDialog(QWidget* parent = nullptr);
  void accept() override;

 private:
  QComboBox* unit_;
  QComboBox* sheet_;
  QComboBox* size_;
  QComboBox* language_;
  LengthBox* tolerance_;
  LengthBox* range_;
  QLabel* error_;
};

}  // namespace lostline::app
