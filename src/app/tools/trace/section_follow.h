#pragma once

#include <QPointF>
#include <QString>

#include "bench/camera.h"
#include "project/document.h"
#include "sketch/along_section.h"

namespace lostline::app {

/// Draws along the section with the pointer: a click begins, each further one draws the fewest
/// curves of the stretch that the pointer went along, from the end of the last one on.
class SectionFollow {
 public:
  /// Ends what is under way; false when nothing was.
  bool stop();
  [[nodiscard]] bool under_way() const { return at_.has_value(); }
  /// The pointer went there: what the next click would draw is worked out.
  void move(const Camera& camera, const project::TracedSketch& traced, const QPointF& at);
  /// True when the sketch changed.
  /// @errors InvalidInput  no section lies here, or another outline than the one that is followed,
  /// or too little of it.
  Result<bool> click(const Camera& camera, project::TracedSketch& traced, const QPointF& at);
  /// What the next click would draw, in the plane of the sketch.
  [[nodiscard]] const std::vector<std::vector<Vec2>>& ahead() const { return ahead_; }
  /// The kinds of those curves and how far the section lies from them; empty where that is not
  /// known.
  [[nodiscard]] const QString& told() const { return told_; }
  /// The section point at the pointer.
  [[nodiscard]] const std::optional<Vec2>& place() const { return place_; }

 private:
  struct Under {
    sketch::AlongRun run;  ///< its stretch: from the last click to the pointer
    long begun = 0;        ///< point of the first click
  };
  /// The section point near a place of the screen.
  static std::optional<sketch::SectionPlace> place_at(const Camera& camera,
                                                      const project::TracedSketch& traced,
                                                      const QPointF& at);
  /// Whether the stretch has come back to where the first click was.
  [[nodiscard]] bool closes(const Camera& camera, const project::TracedSketch& traced) const;

  std::optional<Under> at_;
  std::optional<Vec2> place_;
  std::vector<std::vector<Vec2>> ahead_;
  QString told_;
};

}  // namespace lostline::app
