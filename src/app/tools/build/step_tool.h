#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <set>

#include "sketch/areas.h"
#include "standards/nominals.h"
#include "tools/tool_card.h"

namespace lostline::app {

/// What the tools that make or edit a step of the Route share: its name, the trial of the step off
/// the interface's thread, its Ledger fields, and keeping it.
class StepTool : public ToolCard {
 protected:
  StepTool(Workplace place, const QString& title, project::Id step, const QString& new_name,
           const QString& stage = QObject::tr("Build"));

  /// Tries the step again on what document and model are now, with what was entered.
  virtual void tryAgain() = 0;
  void documentChanged() override;
  void resume() override { tryAgain(); }
  /// The lists of what can be chosen follow the document.
  virtual void refill() {}

  /// A step as tried, with what the scan read for it.
  struct Trial {
    model::Feature feature;
    Result<model::Model> solid;
    LineBatch edges;                                  ///< of the solid, for the preview
    std::shared_ptr<const model::Tessellation> made;  ///< the faces that the step makes
    std::shared_ptr<const BenchView::Guest> guest;  ///< the model before it, where another is shown
  };
  /// What a trial works on; safe to hand to a worker.
  struct Ground {
    std::shared_ptr<const project::Document> document;
    model::Model before;  ///< what the Route gives before this step
    std::shared_ptr<model::RouteCache> cache;
    project::Id step = 0;
    project::Id after = 0;  ///< step that a new one is inserted behind; 0: at the end
    std::string name;
    bool show_before = false;  ///< the Bench shows a later state of the model
    [[nodiscard]] Trial attempt(const model::Feature& feature, const Task& task) const;
  };
  [[nodiscard]] Ground ground() const;
  /// Shows a trial: its edges in red pencil, or its error. True when it can be kept.
  bool showTrial(const Trial& trial);
  void commit(const model::Feature& feature, const std::vector<project::FieldReading>& readings);
  /// Once a step was inserted behind `after`: the next one goes behind it, not before it.
  void insertNextBehind(project::Id after);
  /// What the Bench shows and picks are of: the model before the step.
  [[nodiscard]] model::Model shownModel() const;
  [[nodiscard]] std::shared_ptr<const model::Tessellation> shownTriangles() const;
  /// The body that was clicked: by its face, or a curve by itself.
  [[nodiscard]] std::optional<model::Body> bodyAt(const Pick& pick) const;
  /// A number that can be dragged on the Bench.
  struct Grip {
    QDoubleSpinBox* box;
    Vec3 at;                             ///< part coordinates
    Vec3 along;                          ///< unit direction
    double gain = 1;                     ///< of the number for a millimetre
    std::optional<double> reading = {};  ///< that it snaps to, and to the nominals near it
    standards::Quantity quantity = standards::Quantity::Length;
  };
  /// Asked after every trial that succeeded.
  virtual std::vector<Grip> grips() { return {}; }
  /// Value typed beside what the scan says: typed away from the reading it is a decision.
  static project::FieldReading field(const char* name, const QDoubleSpinBox* box,
                                     std::optional<double> reading, double u,
                                     const std::string& source);
  /// The step being edited; null for a new one.
  [[nodiscard]] const model::Step* editedStep() const { return document().find_step(step_); }

  project::Id step_;
  QLineEdit* name_;

 private:
  void showGrips();
  void dragGrip(int id, double moved, bool released);

  std::shared_ptr<const BenchView::Guest> guest_;
  std::vector<Grip> grips_;
  std::optional<double> grip_start_;  ///< of the number being dragged
  int held_grip_ = -1;                ///< dragged last
  QString snapped_;                   ///< what it stands on now, in words
  /// What the last trial rested on.
  std::shared_ptr<const project::Document> tried_on_;
  std::shared_ptr<const RouteState> tried_with_;
};

/// A step on a sketch, whose closed areas or circles are picked on the Bench.
class SketchedTool : public StepTool {
 protected:
  SketchedTool(Workplace place, const QString& title, project::Id step, project::Id sketch,
               const QString& new_name);
  virtual void sketchChanged() = 0;
  virtual void choose(sketch::Id entity) = 0;
  /// Clicked inside an area among crossing lines: chosen, or no longer; the tool is told by
  /// `areasChanged`. False when the sketch has no area there.
  bool chooseArea(const QPointF& at);
  virtual void areasChanged() {}
  /// The choice between a body with an inside and a surface body swept out by the curves alone.
  void addSurfaceChoice();
  virtual void surfaceToggled() {}
  /// The choice of bodies that the material is for, offered where the model has several; `named`
  /// are those of a step being edited.
  void addBodyChoice(const std::vector<std::string>& named);
  virtual void bodiesChosen() {}
  [[nodiscard]] std::vector<std::string> bodies() const;
  /// What can be chosen: closed outlines, for a surface open chains too.
  [[nodiscard]] std::vector<sketch::Loop> loops() const;
  void pick(const Pick& pick) override;
  /// A sketch chosen in Evidence is the one that the step stands on.
  void take(const Item& item) override;
  void refill() override;
  void fillSketches(project::Id chosen);
  /// What the choice leaves: outlines inside a chosen one, and outlines that do not close, with
  /// the place of the gap; a line each.
  [[nodiscard]] QString leftOut() const;
  /// Draws the sketch with the whole loop of every chosen entity marked.
  void draw();
  [[nodiscard]] const project::TracedSketch* traced() const {
    return document().find_sketch(sketch_->currentData().toULongLong());
  }

  QComboBox* sketch_;
  QCheckBox* surface_ = nullptr;
  QComboBox* onto_ = nullptr;
  std::set<sketch::Id> chosen_;
  std::vector<Vec2> areas_;  ///< a point inside each area chosen instead of loops
};

}  // namespace lostline::app
