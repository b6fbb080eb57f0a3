#include <QMouseEvent>
#include <cmath>

#include "bench/bench_view.h"
#include "look/preferences.h"

// What mouse and keys do on the Bench.

namespace lostline::app {

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
    if (const auto hit = d.scan->index->first_hit(to_scan * origin,
                                                  (to_scan.linear() * direction).normalized())) {
      nearest = hit->t;
      pick.what = Pick::What::Scan;
      pick.triangle = hit->triangle;
      pick.point = placement() * hit->point;
      if (d.survey && hit->triangle < d.survey->triangle_region.size())
        pick.region = d.survey->triangle_region[hit->triangle];
    }
  }
  const auto& index = guest_ ? guest_->index : session_.route()->index;
  if (model_visible && index) {
    // With both drawn the scan is see-through: the model is what is pointed at unless it lies well
    // behind.
    if (const auto hit = index->first_hit(origin, direction); hit && hit->t < nearest + 5) {
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
        if (distance < closest && depth < nearest + 1.0) {
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

void BenchView::mousePressEvent(QMouseEvent* event) {
  last_ = pressed_ = event->position();
  setFocus();
  if (event->button() == Qt::LeftButton)
    Q_EMIT picked(pickAt(event->position(), event->modifiers()));
}

void BenchView::mouseMoveEvent(QMouseEvent* event) {
  const QPointF d = event->position() - last_;
  last_ = event->position();
  if ((event->buttons() & Qt::MiddleButton) != 0) {
    if ((event->modifiers() & Qt::ShiftModifier) != 0)
      camera_.pan(d.x(), d.y());
    else
      camera_.orbit(d.x(), d.y());
    stir();
    return;
  }
  if ((event->buttons() & Qt::LeftButton) != 0) {
    if ((event->position() - pressed_).manhattanLength() > 3)
      Q_EMIT dragged(event->position(), false);
    return;
  }
  const Pick pick = pickAt(event->position());
  const project::Document& d2 = session_.document();
  QString text;
  if (pick.what == Pick::What::Scan) {
    if (pick.region != 0) {
      const survey::Region& r = d2.survey->regions[pick.region - 1];
      text = QString::fromUtf8(r.fit ? fit::kind_name(r.fit->surface.kind) : "free-form") +
             tr(" region %1, %2")
                 .arg(pick.region)
                 .arg(QString::fromUtf8(survey::finish_name(r.finish)));
    } else {
      text = tr("scan");
    }
    const auto route = session_.route();
    if (route->map && route->map->value.size() == d2.scan->mesh->vertices.size()) {
      const float v = route->map->value[d2.scan->mesh->triangles[pick.triangle][0]];
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
                .arg(QString::fromStdString(length_fixed(pick.point.x(), 2)),
                     QString::fromStdString(length_fixed(pick.point.y(), 2)),
                     QString::fromStdString(length_fixed(pick.point.z(), 2)));
  }
  Q_EMIT hovered(text);
}

void BenchView::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton && (event->position() - pressed_).manhattanLength() > 3)
    Q_EMIT dragged(event->position(), true);
}

void BenchView::wheelEvent(QWheelEvent* event) {
  camera_.zoom(std::pow(1.0015, event->angleDelta().y()), event->position());
  stir();
}

void BenchView::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
    space_held_ = true;
    update();
    return;
  }
  QOpenGLWidget::keyPressEvent(event);
}

void BenchView::keyReleaseEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
    space_held_ = false;
    update();
    return;
  }
  QOpenGLWidget::keyReleaseEvent(event);
}

}  // namespace lostline::app
