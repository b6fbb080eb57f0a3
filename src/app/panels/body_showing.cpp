#include "panels/body_showing.h"

#include "project/bodies.h"

namespace lostline::app {

void show_bodies(Session& session, std::size_t body, Showing showing) {
  const model::Model solid = session.route()->solid;
  if (body >= solid.body_count()) return;
  const QString name =
      QString::fromStdString(project::body_title(session.document(), solid.body(body)));
  const QString what = showing == Showing::All    ? QObject::tr("show all bodies")
                       : showing == Showing::Only ? QObject::tr("show only %1").arg(name)
                                                  : QObject::tr("hide or show %1").arg(name);
  session.edit(what, [solid, body, showing](const project::Document& d) {
    Result<project::Document> next = d;
    for (std::size_t b = 0; b < solid.body_count() && next; ++b) {
      if (showing == Showing::Toggle && b != body) continue;
      project::BodyLook look = project::look_of(*next, solid.body(b));
      look.shown = showing == Showing::All || (showing == Showing::Only && b == body) ||
                   (showing == Showing::Toggle && !look.shown);
      next = project::with_body_look(*next, solid.body(b).key, look);
    }
    return next;
  });
}

}  // namespace lostline::app
