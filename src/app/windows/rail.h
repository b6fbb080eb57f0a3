#pragma once

#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>
#include <functional>
#include <vector>

namespace lostline::app {

/// A tool as the rail offers it.
struct ToolEntry {
  QString name;
  QString icon;
  QString tip;
  std::function<void()> start;
  std::function<bool()> possible;
  QString group = {};  ///< tools of one group share a button, which opens a list of them
};

/// The seven stages down the left edge; the present one unfolds its tools beneath it.
class Rail : public QWidget {
  Q_OBJECT
 public:
  explicit Rail(QWidget* parent = nullptr);
  void setTools(int stage, std::vector<ToolEntry> tools);
  void setStage(int stage);
  /// Names of the tools of a stage, in order.
  [[nodiscard]] QStringList toolNames(int stage) const;
  [[nodiscard]] int stage() const { return stage_; }
  /// Marks stages that hold results, and enables the tools that can work now.
  void refresh(const std::vector<bool>& done);
  void setRunning(const QString& tool);
  /// Marks tools, and stages, whose cards wait with work that is not kept.
  void setWaiting(const QStringList& tools, const std::vector<int>& stages);
  /// Starts a tool by its name; false when there is none that can work now.
  bool startTool(const QString& name);
  static QString stageName(int stage);

 Q_SIGNALS:
  void stageChosen(int stage);

 private:
  struct Stage {
    QToolButton* button;
    QWidget* tools;
    std::vector<ToolEntry> entries;
    /// Of each entry: its own button, or that of its group and its line in the list.
    struct Shown {
      QToolButton* button;
      QAction* line;
    };
    std::vector<Shown> shown;
  };
  static QToolButton* make_button(const QString& name, const QString& icon, const QString& tip);
  std::vector<Stage> stages_;
  QVBoxLayout* layout_;
  int stage_ = 0;
};

}  // namespace lostline::app
