#pragma once

#include <QString>
#include <functional>
#include <string>

#include "windows/main_window.h"

namespace lostline::testing {

#ifdef LOSTLINE_SANITIZED
constexpr double kPatience = 900;  // seconds; the sanitizers make everything several times slower
#else
constexpr double kPatience = 200;  // on a busy machine too
#endif

/// Works the real window as a person does: mouse and keys only, once the camera is turned.
class WindowDriver {
 public:
  explicit WindowDriver(app::MainWindow& window);

  /// Waits until nothing runs in the background and the Bench is drawn. False after `seconds`.
  bool settle(double seconds = kPatience);
  /// Waits until the Bench has drawn what it draws once the view rests.
  void rest();
  void key(int key, Qt::KeyboardModifiers modifiers = {});
  void stage(int stage) { key(Qt::Key_1 + stage, Qt::ControlModifier); }
  /// Presses a tool of the rail.
  bool tool(const QString& name);
  bool button(const QString& object_name);
  void number(const QString& object_name, double value);
  void choose(const QString& object_name, int index);
  void text(const QString& object_name, const QString& text);
  void click(const QPointF& at);
  void clickPoint(const Vec3& part_point) { click(window_.bench().camera().toScreen(part_point)); }
  /// Clicks a place of a region that can be seen from where `toward` looks.
  bool clickRegion(std::uint32_t region, const Vec3& toward);
  bool selectRow(const QString& row);
  /// Selects the Ledger row and presses a button of its nominals, or types a value when there is
  /// none.
  bool ink(const QString& row, double value);
  [[nodiscard]] const project::Document& document() const { return window_.session().document(); }
  [[nodiscard]] const project::TracedSketch& lastSketch() const {
    return *document().sketches.back();
  }
  /// Clicks the middle of a sketch entity.
  void clickEntity(const project::TracedSketch& traced, const sketch::Sketch& sketch,
                   sketch::Id id);
  void shot(const QString& name);
  QString shot_folder;

 private:
  app::MainWindow& window_;
};

/// The pedestal from the opened scan to the model with all decisions inked and the STEP written to
/// `step_path`. Returns an empty text, or what went wrong.
std::string rebuild_pedestal(WindowDriver& driver, app::MainWindow& window, const QString& scan,
                             const QString& step_path);

}  // namespace lostline::testing
