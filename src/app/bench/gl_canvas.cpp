#include "bench/gl_canvas.h"

#include <QElapsedTimer>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QPainter>
#include <utility>

#include "look/theme.h"

namespace lostline::app {
namespace {

/// Milliseconds after which no further piece begins in the same turn. With a piece of twice as long
/// the window answers within 50 ms.
constexpr qint64 kTurn = 8;

}  // namespace

GlCanvas::GlCanvas(QWidget* parent, int major, int minor)
    : QWidget(parent), format_(QSurfaceFormat::defaultFormat()) {
  format_.setVersion(major, minor);
  format_.setProfile(QSurfaceFormat::CoreProfile);
  if (format_.samples() < 0) format_.setSamples(4);
  setAttribute(Qt::WA_OpaquePaintEvent);
  more_.setSingleShot(true);
  connect(&more_, &QTimer::timeout, this, [this] {
    if (stale_ || !makeCurrent()) return;
    proceed();
    doneCurrent();
    if (!drawing()) update();
  });
}

GlCanvas::~GlCanvas() {
  if (!makeCurrent()) return;
  samples_.reset();
  plain_.reset();
  doneCurrent();
}

void GlCanvas::redraw() {
  stale_ = true;
  update();
}

bool GlCanvas::makeCurrent() { return context_ && context_->makeCurrent(surface_.get()); }

void GlCanvas::doneCurrent() {
  if (context_) context_->doneCurrent();
}

bool GlCanvas::prepare() {
  if (std::exchange(tried_, true)) return context_ != nullptr;
  QSurfaceFormat plain = format_;
  plain.setSamples(0);  // of the surface, which nothing is drawn on
  auto context = std::make_unique<QOpenGLContext>();
  context->setFormat(plain);
  if (!context->create() || context->format().version() < format_.version()) return false;
  surface_ = std::make_unique<QOffscreenSurface>();
  surface_->setFormat(context->format());
  surface_->create();
  if (!context->makeCurrent(surface_.get())) return false;
  context_ = std::move(context);
  initializeGL();
  return true;
}

void GlCanvas::provideBuffers(const QSize& pixels) {
  if (plain_ && plain_->size() == pixels) return;
  QOpenGLFramebufferObjectFormat format;
  format.setAttachment(QOpenGLFramebufferObject::CombinedDepthStencil);
  plain_ = std::make_unique<QOpenGLFramebufferObject>(pixels, format);
  format.setSamples(format_.samples());
  samples_.reset();
  if (format_.samples() > 0) samples_ = std::make_unique<QOpenGLFramebufferObject>(pixels, format);
}

void GlCanvas::begin(const QSize& pixels) {
  QElapsedTimer timer;
  timer.start();
  stale_ = false;
  more_.stop();
  begun_ = pixels;
  provideBuffers(pixels);
  rough_ = roughly();
  bindTarget();
  pieces_ = readyGL();
  next_ = 0;
  state_ = State::Readying;
  frame_ms_ = static_cast<double>(timer.nsecsElapsed()) * 1e-6;
  proceed();
}

void GlCanvas::bindTarget() {
  (samples_ && !rough_ ? samples_ : plain_)->bind();
  context_->functions()->glViewport(0, 0, begun_.width(), begun_.height());
}

void GlCanvas::proceed() {
  QElapsedTimer timer;
  timer.start();
  bindTarget();
  while (next_ < pieces_.size() || state_ == State::Readying) {
    if (next_ < pieces_.size()) {
      pieces_[next_++]();
    } else {
      state_ = State::Painting;
      next_ = 0;
      pieces_ = paintGL();
    }
    // A picture of one piece, as of lines alone, is not worth waiting for.
    if (rough_ || (state_ == State::Painting && pieces_.size() <= 1)) continue;
    context_->functions()->glFinish();  // else it would all be drawn in the end, at once
    if (timer.elapsed() < kTurn) continue;
    frame_ms_ += static_cast<double>(timer.nsecsElapsed()) * 1e-6;
    more_.start(0);  // finishing is a turn too
    return;
  }
  state_ = State::Still;
  pieces_.clear();
  finish();
  frame_ms_ += static_cast<double>(timer.nsecsElapsed()) * 1e-6;
}

void GlCanvas::finish() {
  if (samples_ && !rough_) QOpenGLFramebufferObject::blitFramebuffer(plain_.get(), samples_.get());
  plain_->bind();
  QImage image(begun_, QImage::Format_RGB32);
  context_->functions()->glReadPixels(0, 0, begun_.width(), begun_.height(), GL_BGRA,
                                      GL_UNSIGNED_INT_8_8_8_8_REV, image.bits());
  picture_ = std::move(image).mirrored();  // OpenGL counts rows from below
  picture_.setDevicePixelRatio(devicePixelRatioF());
  ++frames_;
}

void GlCanvas::paintEvent(QPaintEvent*) {
  const QSize pixels = (QSizeF(size()) * devicePixelRatioF()).toSize();
  if (prepare() && !pixels.isEmpty() && (stale_ || begun_ != pixels) && makeCurrent()) {
    if (drawing()) overtaken();
    begin(pixels);
  }
  doneCurrent();
  QPainter painter(this);
  if (!context_) {
    painter.fillRect(rect(), role::bench_low);
    painter.setPen(role::ink);
    painter.drawText(rect().adjusted(24, 24, -24, -24), Qt::AlignCenter | Qt::TextWordWrap,
                     tr("Nothing can be drawn here: this computer offers no OpenGL 3.3. Install "
                        "its graphics driver, or libgl1-mesa-dri to draw without one."));
    return;
  }
  if (picture_.size() != pixels) painter.fillRect(rect(), role::bench_low);  // not drawn yet
  painter.setCompositionMode(QPainter::CompositionMode_Source);
  painter.drawImage(QPoint(), picture_);
  painter.setCompositionMode(QPainter::CompositionMode_SourceOver);
  paintOver(painter);
}

}  // namespace lostline::app
