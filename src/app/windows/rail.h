#pragma once

#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

#include "tools/tool.h"

namespace lostline::app {

/// The seven stages down the left edge; the present one unfolds its tools beneath it.
class Rail : public QWidget {
  Q_OBJECT
 public:
  explicit Rail(QWidget* parent = nullptr);
  void setStage(int stage);
  /// Names of the tools of a stage, in order.
  [[nodiscard]] QStringList toolNames(int stage) const;
  [[nodiscard]] int stage() const { return stage_; }
  /// Marks stages that hold results, and enables the tools that can work now.
  void refresh(const std::vector<bool>& done, const Session& session);
  void setRunning(const QString& tool);
  /// Marks tools, and stages, whose cards wait with work that is not kept.
  void setWaiting(const QStringList& tools, const std::vector<int>& stages);

 Q_SIGNALS:
  void stageChosen(int stage);
  void toolChosen(const lostline::app::Tool& tool);
  void openWanted();  ///< a file is to be opened

 private:
  struct Stage {
    QToolButton* button;
    QWidget* tools;
    /// A tool with its own button, or with that of its group and its line in the list.
    struct Shown {
      const Tool* tool;
      QToolButton* button;
      QAction* line;
    };
    std::vector<Shown> shown;
  };
  void fill(int stage);
  static QToolButton* make_button(const QString& name, const QString& icon, const QString& tip);
  std::vector<Stage> stages_;
  QVBoxLayout* layout_;
  int stage_ = 0;
};

}  // namespace lostline::app
