#pragma once

#include <QPolygonF>
#include <span>

#include "bench/camera.h"
#include "project/document.h"
#include "sketch/drawing.h"
#include "tools/trace/section_follow.h"

namespace lostline::app {

/// A place clicked with a pen: a point of the sketch, a place on one of its curves, on the section,
/// in line with what was clicked before, or free.
struct PenSpot : sketch::Spot {
  sketch::Id on = 0;                                 ///< curve that it lies on
  std::optional<sketch::ConstraintType> level = {};  ///< of the line to it: horizontal, vertical
};

/// One thing that can be drawn by clicks.
struct Pen {
  const char* command;  ///< "draw line"
  const char* title;    ///< on its button
  const char* tip;
  int key;                         ///< after the leader key G
  std::vector<const char*> hints;  ///< what each click does; the last one for all further
  /// Clicks it takes; 0: as many as wanted, until it is closed or ended.
  int clicks;
  /// @errors InvalidInput  the places make nothing.
  Result<std::vector<sketch::Id>> (*draw)(sketch::Sketch&, const std::vector<sketch::Spot>&,
                                          int sides, bool closed);
  bool follows = false;  ///< draws along the section instead
};
const std::vector<Pen>& pens();

/// Draws into a sketch by clicks that snap to its points and curves, to the section, and level and
/// upright to the last place.
class SketchPen {
 public:
  void start(const QString& command);
  [[nodiscard]] bool on() const { return pen_ != nullptr; }
  /// Whether it is the pen that goes along the section.
  [[nodiscard]] bool follows() const { return on() && pen_->follows; }
  void setSides(int sides) { sides_ = sides; }
  /// Ends what is being drawn, then the drawing. A spline under way is drawn as far as it goes:
  /// `changed` is set. False when it was off already.
  bool stop(sketch::Sketch& sketch, bool& changed);
  /// One click. True when the sketch changed.
  Result<bool> click(const Camera& camera, project::TracedSketch& traced, const QPointF& at);
  /// The pointer went there.
  void move(const Camera& camera, const project::TracedSketch& traced, const QPointF& at);
  /// What the next click does, in words; and what it would draw, where that is known.
  [[nodiscard]] QString hint() const;
  /// What would be drawn if the next click was here, on the screen; and what it snaps to.
  [[nodiscard]] std::vector<QPolygonF> preview(const Camera& camera,
                                               const project::TracedSketch& traced,
                                               const QPointF& at) const;

 private:
  [[nodiscard]] std::optional<PenSpot> snap(const Camera& camera,
                                            const project::TracedSketch& traced,
                                            const QPointF& at) const;
  [[nodiscard]] bool isLine() const;
  Result<bool> draw(sketch::Sketch& sketch, bool closed);

  const Pen* pen_ = nullptr;
  int sides_ = 6;
  std::vector<PenSpot> clicks_;
  SectionFollow follow_;
};

}  // namespace lostline::app
