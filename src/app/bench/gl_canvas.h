#pragma once

#include <QImage>
#include <QOpenGLFramebufferObject>
#include <QSurfaceFormat>
#include <QTimer>
#include <QWidget>
#include <functional>
#include <memory>
#include <vector>

class QOffscreenSurface;
class QOpenGLContext;

namespace lostline::app {

/// A widget whose ground is a picture drawn by OpenGL.
///
/// The picture is drawn into a buffer of its own and copied into plain painting. A widget that is
/// composed by OpenGL makes Qt compose the whole window so, at every blinking cursor: where the
/// processor draws, in a remote session or on a virtual display, that costs more than the scan.
///
/// A picture that takes long is drawn piece by piece over several turns of the event loop; the one
/// before stays until it is done, and what makes it stale ends it.
class GlCanvas : public QWidget {
  Q_OBJECT
 public:
  /// With 4 samples a pixel unless the default format says another number.
  explicit GlCanvas(QWidget* parent = nullptr, int major = 3, int minor = 3);
  ~GlCanvas() override;

  /// As it was drawn last; null before.
  [[nodiscard]] const QImage& picture() const { return picture_; }
  /// Of the last picture, with its copying; of all its turns.
  [[nodiscard]] double lastFrameMilliseconds() const { return frame_ms_; }
  /// Whether a picture is being drawn, and the one before still shown.
  [[nodiscard]] bool drawing() const { return state_ != State::Still; }
  /// How often the picture was drawn; what lies over it does not draw it anew.
  [[nodiscard]] std::size_t framesDrawn() const { return frames_; }

 protected:
  /// Once, with the context current.
  virtual void initializeGL() = 0;
  /// What draws a picture, in order: each takes a moment and leaves OpenGL as it found it.
  using Pieces = std::vector<std::function<void()>>;
  /// What the graphics card has to be given before the picture is begun; in turns of its own, for
  /// that takes a while too. A piece that was overtaken is asked for again.
  virtual Pieces readyGL() { return {}; }
  /// Begins the picture, with the context current and its buffer bound, and gives the rest of it.
  virtual Pieces paintGL() = 0;
  /// Whether the next picture is drawn with one sample a pixel, and at once.
  [[nodiscard]] virtual bool roughly() const { return false; }
  /// What was being drawn is stale before it was done.
  virtual void overtaken() {}
  /// What lies over the picture, each time the widget is painted.
  virtual void paintOver(QPainter& painter) = 0;

  /// The picture is drawn anew at the next painting; `update()` alone keeps it.
  void redraw();
  /// False when there is no context.
  bool makeCurrent();
  void doneCurrent();

  void paintEvent(QPaintEvent* event) override;

 private:
  /// Makes the context at the first call. False when it cannot be had.
  bool prepare();
  void begin(const QSize& pixels);
  void bindTarget();
  /// Draws pieces until a turn is over or the picture done; with the context current.
  void proceed();
  void finish();
  void provideBuffers(const QSize& pixels);

  QSurfaceFormat format_;
  std::unique_ptr<QOffscreenSurface> surface_;
  std::unique_ptr<QOpenGLContext> context_;
  std::unique_ptr<QOpenGLFramebufferObject> plain_;    ///< one sample a pixel
  std::unique_ptr<QOpenGLFramebufferObject> samples_;  ///< several; null where they are not wanted
  QImage picture_;
  QSize begun_;  ///< of the picture that is being drawn, or of the last one
  enum class State { Still, Readying, Painting } state_ = State::Still;
  Pieces pieces_;
  std::size_t next_ = 0;  ///< piece to be drawn
  QTimer more_;
  bool rough_ = false;
  bool stale_ = true;
  bool tried_ = false;
  double frame_ms_ = 0;
  std::size_t frames_ = 0;
};

}  // namespace lostline::app
