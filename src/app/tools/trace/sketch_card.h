#pragma once

#include <QComboBox>
#include <QListWidget>
#include <array>

#include "look/preferences.h"
#include "model/plane_view.h"
#include "sketch/section_judge.h"
#include "tools/tool.h"
#include "tools/trace/sketch_change.h"
#include "tools/trace/sketch_pen.h"

namespace lostline::app {

/// Constraints, dimensions, corners and dragging on a sketch; every change is fitted to the section
/// at once.
class SketchTool : public ToolCard {
 public:
  SketchTool(Workplace place, project::Id id);
  void begin() override;
  void resume() override { begin(); }
  void documentChanged() override;
  bool undoOwn() override;
  bool redoOwn() override;
  bool escape() override;
  void pick(const Pick& pick) override;
  void pickRef(const project::FitRef& ref) override;
  void take(const Item& item) override;
  [[nodiscard]] bool takesDrag(const Pick& pick) const override;
  void point(const QPointF& at) override;
  void drag(const QPointF& at, bool released) override;
  void doubleClick(const QPointF& at) override;
  void command(const QString& name) override;
  bool keep() override;

 private:
  static constexpr std::array kOffered{
      sketch::ConstraintType::Horizontal, sketch::ConstraintType::Vertical,
      sketch::ConstraintType::Parallel,   sketch::ConstraintType::Perpendicular,
      sketch::ConstraintType::Tangent,    sketch::ConstraintType::Equal,
      sketch::ConstraintType::Concentric, sketch::ConstraintType::Coincident,
      sketch::ConstraintType::Midpoint,   sketch::ConstraintType::Symmetric,
      sketch::ConstraintType::Collinear,  sketch::ConstraintType::Smooth,
      sketch::ConstraintType::Fixed,      sketch::ConstraintType::DistanceX,
      sketch::ConstraintType::DistanceY,  sketch::ConstraintType::ArcLength};
  static std::shared_ptr<const project::TracedSketch> shared(const project::Document& d,
                                                             project::Id id);
  QPushButton* button(const QString& text, const QString& name, const QString& tip,
                      const std::function<void()>& act);
  /// The changes of what is picked, with the numbers they ask for.
  void addChanges();
  [[nodiscard]] std::size_t current() const;
  void showAsked();
  void apply(const SketchChange& change);
  /// Between sketches, in place.
  void clipboard(const QString& name);
  /// Adds all suggestions, or the one that is chosen.
  void accept(bool all);
  void listOffers();
  /// Gives a dimension the value that was typed, or frees it.
  void decide(sketch::Id id, QString text);
  void chooseConstraint(sketch::Id id);
  /// Moves the point that is dragged, off the interface's thread: the latest place counts, and what
  /// is on the way is shown as it comes.
  void follow();
  /// Trims or extends what is clicked next, or mirrors the picks about the last of them.
  void change(const QString& name);
  /// What is clicked next picks again.
  void endChange();
  /// Ends drawing, for what is clicked next means something else. A spline under way is drawn.
  void layPenDown();
  /// Takes over what is clicked next, or the cut of the model; false for another command.
  bool startIncoming(const QString& name);
  [[nodiscard]] bool bringing() const;
  void bringPick(const Pick& pick);
  /// @param body  by its key; empty: all of the model.
  void bringCut(const std::string& body);
  void bring(const Result<model::PlaneView>& seen);
  /// What the next click does while `changing_` waits for it.
  [[nodiscard]] QString modeHint() const;
  void constrain(sketch::ConstraintType type);
  void replace(Result<sketch::Sketch> changed);
  void removePicked();
  /// A complete scheme of dimensions, worked out off the interface's thread.
  void dimensionIt();
  void makeCorner();
  /// A step of the card's own, which its undo takes back.
  void record();
  void edited();
  void update();
  void list();
  /// Constraints and dimensions as they stand on the drawing.
  void draft();
  /// @param moving  while a point is dragged: the drift follows when it rests.
  void draw(bool moving = false);
  [[nodiscard]] double options_reach() const { return traced_.reach(); }
  void describe();
  /// Of one curve: the region of the scan that its section runs through, and what that says.
  [[nodiscard]] QString restsOn(sketch::Id entity, const sketch::Drift& drift) const;

  project::Id id_;
  std::shared_ptr<const project::TracedSketch> base_ = shared(document(), id_);
  project::TracedSketch traced_;
  sketch::Sketch last_;                        ///< as it was after the last step
  std::vector<sketch::Sketch> done_, undone_;  ///< steps of the card's own
  std::optional<Result<sketch::FitResult>> fitted_;
  std::vector<sketch::Id> picked_;
  sketch::Suggestions offered_;
  QString said_;  ///< of the last change, in numbers
  sketch::Id grabbed_ = 0;
  sketch::Id grabbed_text_ = 0;  ///< dimension whose text is dragged
  struct Target {
    sketch::Id point;
    Vec2 at;
    bool released;
  };
  std::optional<Target> target_;  ///< where the dragged point is to go next
  bool solving_ = false;
  struct Asked {
    int ask;
    QLabel* label;
    QWidget* field;
  };
  std::vector<Asked> asked_;
  QComboBox* change_;
  QComboBox* as_;
  QDoubleSpinBox *x_, *y_, *angle_, *factor_, *count_;
  QComboBox* type_;
  QDoubleSpinBox* size_;
  QListWidget* list_;
  QListWidget* offers_;
  QPushButton* suggest_;
  QPushButton* one_;
  SketchPen pen_;
  Show shown_ = Show::Both;  ///< on the Bench before something was brought in
  QString changing_;  ///< "trim", "extend", "break" or "bring in" while they wait for a click
};

}  // namespace lostline::app
