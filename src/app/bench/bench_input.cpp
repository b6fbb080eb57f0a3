#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <cmath>

#include "bench/bench_view.h"
#include "look/catalogue.h"
#include "look/preferences.h"

// What mouse and keys do on the Bench.

namespace lostline::app {
namespace {

constexpr double kClickSlack = 3;  // pixels that a hand moves during a click
constexpr double kHandle = 14;     // pixels about a handle that take hold of it

/// The first hit of a ray that is not hidden.
template <class Seen>
std::optional<scan::MeshIndex::Hit> first_seen(const scan::MeshIndex& index, Vec3 origin,
                                               const Vec3& direction, const Seen& seen) {
  constexpr int kMost = 200;      // hidden layers that a ray goes through
  constexpr double kPast = 1e-4;  // mm: behind a hit, to find the next one
  double gone = 0;
  for (int i = 0; i < kMost; ++i) {
    auto hit = index.first_hit(origin, direction);
    if (!hit) return hit;
    hit->t += gone;
    if (seen(*hit)) return hit;
    gone = hit->t + kPast;
    origin = hit->point + kPast * direction;
  }
  return std::nullopt;
}

}  // namespace

Pick BenchView::pickAt(const QPointF& at, Qt::KeyboardModifiers modifiers) const {
  Pick pick;
  pick.screen = at;
  pick.modifiers = modifiers;
  const project::Document& d = session_.document();
  const Vec3 origin = camera_.rayOrigin(at);
  const Vec3 direction = camera_.viewDirection();
  double nearest = 1e300;
  const bool model_visible = model_on_card_ && show_ != Show::Scan &&
                             !(paint_ == Paint::Deviation && show_ != Show::Model);
  if (d.scan && (show_ != Show::Model || !model_on_card_)) {
    const Transform to_scan = placement().inverse();
    const auto region_of = [&](std::uint32_t t) {
      return d.survey && t < d.survey->triangle_region.size() ? d.survey->triangle_region[t] : 0U;
    };
    const auto seen = [&](const scan::MeshIndex::Hit& hit) {
      return !clipped(placement() * hit.point) &&
             !showing_.hidden_regions.contains(region_of(hit.triangle));
    };
    const bool there = showing_.of_scan(d.scan->name) != project::Visibility::Hidden;
    if (const auto hit = there ? first_seen(*d.scan->index, to_scan * origin,
                                            (to_scan.linear() * direction).normalized(), seen)
                               : std::nullopt) {
      nearest = hit->t;
      pick.what = Pick::What::Scan;
      pick.triangle = hit->triangle;
      pick.point = placement() * hit->point;
      pick.region = region_of(hit->triangle);
    }
  }
  const auto& index = guest_ ? guest_->index : session_.route()->index;
  if (model_visible) {
    // With both drawn the scan is see-through: the model is what is pointed at unless it lies well
    // behind. A model of curves alone has no index.
    if (const auto hit = index ? first_seen(*index, origin, direction,
                                            [&](const auto& h) { return !clipped(h.point); })
                               : std::nullopt;
        hit && hit->t < nearest + 5) {
      pick.what = Pick::What::Model;
      pick.point = hit->point;
      pick.face = model_on_card_->triangle_face[hit->triangle];
      nearest = hit->t;
    }
    double closest = 8;
    for (const auto& line : model_on_card_->edges) {
      for (std::size_t i = 1; i < line.points.size(); ++i) {
        const QPointF a = camera_.toScreen(line.points[i - 1]);
        const QPointF b = camera_.toScreen(line.points[i]);
        const QPointF ab = b - a;
        const double squared = QPointF::dotProduct(ab, ab);
        const double t =
            squared > 0 ? std::clamp(QPointF::dotProduct(at - a, ab) / squared, 0.0, 1.0) : 0.0;
        const QPointF off = at - (a + t * ab);
        const double distance = std::hypot(off.x(), off.y());
        const Vec3 p = line.points[i - 1] + t * (line.points[i] - line.points[i - 1]);
        const double depth = (p - origin).dot(direction);
        if (distance < closest && depth < nearest + 1.0 && !clipped(p)) {
          closest = distance;
          pick.edge = line.edge;
          pick.what = Pick::What::Model;
          pick.point = p;
        }
      }
    }
  }
  return pick;
}

Vec3 BenchView::pivotAt(const QPointF& at) const {
  const Pick under = pickAt(at);
  if (under.what != Pick::What::Nothing) return under.point;
  const Box3 box = shownBox();
  if (box.isEmpty()) return camera_.target;
  // Beside the part: as deep as its middle.
  const Vec3 direction = camera_.viewDirection();
  const Vec3 origin = camera_.rayOrigin(at);
  return origin + (box.center() - origin).dot(direction) * direction;
}

// Left: a tool's drag where it takes one; else a click picks, a drag orbits, with Shift it draws a
// box that selects, and after "zoom by window" the window. The handle of the clip plane moves it.
// Middle: orbit, with Shift pan. Right: pan; a click is the menu.
void BenchView::mousePressEvent(QMouseEvent* event) {
  last_ = pressed_ = event->position();
  setFocus();
  if (event->button() == Qt::MiddleButton) pivot_ = pivotAt(event->position());
  if (event->button() != Qt::LeftButton) return;
  if (window_wanted_) {
    drag_ = Drag::Window;
    return;
  }
  if (clip_ && (event->position() - clipHandle()).manhattanLength() < kHandle) {
    drag_ = Drag::Clip;
    return;
  }
  if (const auto handle = handleAt(event->position())) {
    drag_ = Drag::Handle;
    held_ = *handle;
    held_from_ = handles_[held_].at;
    held_along_ = handles_[held_].along;
    return;
  }
  if (clickTriad(event->position())) return;
  const Pick pick = pickAt(event->position(), event->modifiers());
  const bool turning = (event->modifiers() & Qt::AltModifier) != 0;
  drag_ = !turning && drag_taker_ && drag_taker_(pick) ? Drag::Tool : Drag::Undecided;
  if (drag_ == Drag::Tool) Q_EMIT picked(pick);
  if (drag_ == Drag::Undecided && (event->modifiers() & Qt::ShiftModifier) != 0) drag_ = Drag::Box;
}

void BenchView::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton && draftedAt(event->position()))
    return Q_EMIT doubleClicked(event->position());
  mousePressEvent(event);
}

void BenchView::mouseMoveEvent(QMouseEvent* event) {
  const QPointF d = event->position() - last_;
  last_ = event->position();
  const bool far = (event->position() - pressed_).manhattanLength() > kClickSlack;
  const bool shifted = (event->modifiers() & Qt::ShiftModifier) != 0;
  if ((event->buttons() & Qt::RightButton) != 0 ||
      ((event->buttons() & Qt::MiddleButton) != 0 && shifted)) {
    if (!far && (event->buttons() & Qt::RightButton) != 0) return;
    camera_.pan(d.x(), d.y());
    return stir();
  }
  if ((event->buttons() & Qt::MiddleButton) != 0) {
    camera_.orbit(d.x(), d.y(), pivot_);
    return stir();
  }
  if ((event->buttons() & Qt::LeftButton) == 0) return hover(event->position());
  if (drag_ == Drag::Undecided && far) {
    drag_ = Drag::Orbit;
    pivot_ = pivotAt(pressed_);
  }
  if (drag_ == Drag::Orbit) {
    camera_.orbit(d.x(), d.y(), pivot_);
    stir();
  } else if (drag_ == Drag::Handle) {
    dragHandle(event->position(), false);
  } else if (drag_ == Drag::Clip) {
    // Along the normal as it lies on the screen.
    const Vec3 at = clip_->normal * clip_->offset;
    const QPointF along = camera_.toScreen(at + clip_->normal) - camera_.toScreen(at);
    const double squared = QPointF::dotProduct(along, along);
    if (squared > 0.01) clip_->offset += QPointF::dotProduct(d, along) / squared;
    stir();
  } else if (drag_ == Drag::Window || (drag_ == Drag::Box && far)) {
    setRubber(QPolygonF(QRectF(pressed_, event->position()).normalized()));
  } else if (drag_ == Drag::Tool && far) {
    Q_EMIT dragged(event->position(), false);
  }
}

void BenchView::mouseReleaseEvent(QMouseEvent* event) {
  const bool far = (event->position() - pressed_).manhattanLength() > kClickSlack;
  if (event->button() == Qt::RightButton && !far) Q_EMIT menuWanted(pickAt(pressed_), pressed_);
  if (event->button() != Qt::LeftButton) return;
  switch (std::exchange(drag_, Drag::None)) {
    case Drag::Undecided:
      return Q_EMIT picked(pickAt(pressed_, event->modifiers()));
    case Drag::Tool:
      if (far) Q_EMIT dragged(event->position(), true);
      return;
    case Drag::Window:
      window_wanted_ = false;
      unsetCursor();
      setRubber({});
      camera_.zoomTo(QRectF(pressed_, event->position()).normalized());
      return stir();
    case Drag::Box:
      setRubber({});
      if (far)
        return Q_EMIT boxed(QRectF(pressed_, event->position()).normalized(), event->modifiers());
      return Q_EMIT picked(pickAt(pressed_, event->modifiers()));
    case Drag::Handle:
      return dragHandle(event->position(), true);
    case Drag::Clip:
    case Drag::Orbit:
    case Drag::None:
      return;
  }
}

void BenchView::hover(const QPointF& at) {
  Q_EMIT pointed(at);
  const Pick pick = pickAt(at);
  const project::Document& d = session_.document();
  QString text;
  if (pick.what == Pick::What::Scan) {
    if (pick.region != 0) {
      const survey::Region& r = d.survey->regions[pick.region - 1];
      text = (r.fit ? core_word(fit::kind_name(r.fit->surface.kind)) : tr("free-form")) +
             tr(" region %1, %2").arg(pick.region).arg(core_word(survey::finish_name(r.finish)));
    } else {
      text = tr("scan");
    }
    const auto route = session_.route();
    if (route->map && route->map->value.size() == d.scan->mesh->vertices.size()) {
      const float v = route->map->value[d.scan->mesh->triangles[pick.triangle][0]];
      if (std::isfinite(v))
        text += tr("  \u00b7  %1 %2")
                    .arg(QString::fromStdString((v > 0 ? "+" : "") + length_fixed(v, 3)),
                         v > 0 ? tr("proud") : tr("short"));
    }
  } else if (pick.what == Pick::What::Model) {
    text = pick.edge ? tr("edge")
           : guest_  ? tr("face %1 of the model").arg(pick.face + 1)
                     : tr("face %1").arg(
                           QString::fromStdString(session_.route()->solid.face_name(pick.face)));
  }
  if (pick.what != Pick::What::Nothing) {
    text += QStringLiteral("  \u00b7  x %1  y %2  z %3")
                .arg(length_shown(pick.point.x(), 2), length_shown(pick.point.y(), 2),
                     length_shown(pick.point.z(), 2));
  }
  Q_EMIT hovered(text);
  const bool face = pick.what == Pick::What::Model && pick.face != scan::kNone;
  setHovered({face ? 0 : pick.region, face ? pick.face : scan::kNone});
  Q_EMIT hoveredRegion(pick.region);
}

void BenchView::leaveEvent(QEvent* event) {
  setHovered({});
  Q_EMIT hoveredRegion(0);
  GlCanvas::leaveEvent(event);
}

void BenchView::wheelEvent(QWheelEvent* event) {
  const bool touchpad =
      event->device() != nullptr && event->device()->type() == QInputDevice::DeviceType::TouchPad;
  // Two fingers pan; with Ctrl, which is how a pinch arrives where gestures do not, they zoom.
  if (touchpad && (event->modifiers() & Qt::ControlModifier) == 0)
    camera_.pan(event->pixelDelta().x(), event->pixelDelta().y());
  else
    camera_.zoom(std::pow(1.0015, event->angleDelta().y()), event->position());
  stir();
}

bool BenchView::event(QEvent* event) {
  if (event->type() == QEvent::NativeGesture) {
    auto* gesture = static_cast<QNativeGestureEvent*>(event);
    if (gesture->gestureType() == Qt::ZoomNativeGesture) {
      camera_.zoom(1 + gesture->value(), gesture->position());
      stir();
      return true;
    }
  }
  return GlCanvas::event(event);
}

void BenchView::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
    space_held_ = true;
    redraw();
    return;
  }
  GlCanvas::keyPressEvent(event);
}

void BenchView::keyReleaseEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
    space_held_ = false;
    redraw();
    return;
  }
  GlCanvas::keyReleaseEvent(event);
}

}  // namespace lostline::app
