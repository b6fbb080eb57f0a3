#include <QtWidgets>

#include "bench/sketch_marks.h"
#include "jobs/showing.h"
#include "look/theme.h"
#include "reading/evidence.h"
#include "windows/main_window.h"
#include "windows/row_evidence.h"

// The one selection: what is clicked on the Bench or in a list, and what can be done with it.

namespace lostline::app {

Item MainWindow::itemOf(const Pick& pick) const {
  const model::Model& solid = session_.route()->solid;
  if (pick.what == Pick::What::Model && pick.edge) return {Item::Kind::Edge, *pick.edge};
  if (pick.what == Pick::What::Model && pick.face < solid.face_count())
    return {Item::Kind::Face, 0, solid.face_name(pick.face)};
  if (pick.region != 0) return {Item::Kind::Region, pick.region};
  return {};
}

void MainWindow::picked(const Pick& pick) {
  if (card() != nullptr) {
    card()->touch();
    return card()->pick(pick);
  }
  const Item item = itemOf(pick);
  if ((pick.modifiers & (Qt::ControlModifier | Qt::ShiftModifier)) != 0) {
    if (item.kind != Item::Kind::None) session_.selection().toggle(item);
  } else {
    session_.selection().set({item});
  }
  reading::Place place;
  place.region = pick.region;
  if (pick.what != Pick::What::Nothing) place.point = pick.point;
  if (item.kind == Item::Kind::Face) place.face = item.name;
  ledger_->mark(reading::rows_resting_on(session_.document(), place));
}

void MainWindow::choose(const std::vector<Item>& items, const Item& clicked) {
  if (card() != nullptr) {
    if (clicked.kind == Item::Kind::None) return;
    card()->touch();
    return card()->take(clicked);
  }
  session_.selection().set(items);
}

void MainWindow::boxed(const QRectF& box, Qt::KeyboardModifiers modifiers) {
  std::vector<Item> items = bench_->itemsIn(box);
  if (card() != nullptr) {
    card()->touch();
    for (const Item& item : items) card()->take(item);
    return;
  }
  if ((modifiers & Qt::ControlModifier) != 0) {
    const auto& now = session_.selection().items();
    std::copy_if(now.begin(), now.end(), std::back_inserter(items), [&](const Item& item) {
      return std::find(items.begin(), items.end(), item) == items.end();
    });
  }
  if (items.empty())
    return say(tr("Nothing lies wholly inside the box. Draw it round whole regions or faces."),
               false);
  session_.selection().set(items);
  say(tr("%n selected", nullptr, static_cast<int>(items.size())), false);
}

void MainWindow::showSelection() {
  if (card() != nullptr) return;  // the Bench is the card's
  const project::Document& d = session_.document();
  const auto route = session_.route();
  const model::Model& solid = route->solid;
  const auto& items = session_.selection().items();
  std::vector<std::uint32_t> regions;
  std::vector<std::uint32_t> triangles;
  std::set<std::uint32_t> faces;
  std::vector<LineBatch> marks;
  const auto faces_where = [&](const auto& wanted) {
    for (std::size_t f = 0; f < solid.face_count(); ++f) {
      if (wanted(f)) faces.insert(static_cast<std::uint32_t>(f));
    }
  };
  for (const Item& item : items) {
    if (item.kind == Item::Kind::Region) regions.push_back(static_cast<std::uint32_t>(item.id));
    if (const project::Fit* f = item.kind == Item::Kind::Fit ? d.find_fit(item.id) : nullptr;
        f != nullptr && f->triangles)
      triangles.insert(triangles.end(), f->triangles->begin(), f->triangles->end());
    if (item.kind == Item::Kind::Face) {
      if (const auto face = solid.find_face(item.name))
        faces.insert(static_cast<std::uint32_t>(*face));
    }
    if (item.kind == Item::Kind::Step)
      faces_where([&, made = "s" + std::to_string(item.id) + ":"](std::size_t f) {
        return solid.face_name(f).starts_with(made);
      });
    if (const auto body = item.kind == Item::Kind::Body ? solid.find_body(item.name) : std::nullopt)
      faces_where([&](std::size_t f) { return solid.body_of_face(f) == *body; });
    if (item.kind == Item::Kind::Edge && route->tessellation) {
      LineBatch line{{}, role::red_pencil, 3, true};
      for (const auto& edge : route->tessellation->edges) {
        if (edge.edge != item.id) continue;
        for (std::size_t i = 1; i < edge.points.size(); ++i)
          line.segments.emplace_back(edge.points[i - 1], edge.points[i]);
      }
      marks.push_back(std::move(line));
    }
    if (const auto* s = item.kind == Item::Kind::Sketch ? d.find_sketch(item.id) : nullptr) {
      const auto lines = sketch_marks(s->base, s->level, {}, s->sketch, {}, {}, false, s->reach());
      marks.insert(marks.end(), lines.begin(), lines.end());
      if (items.size() == 1)
        strip_->showSection(
            s->section, s->sketch, s->reach(),
            tr("Sketch %1 against its section").arg(QString::fromStdString(s->name)));
    }
  }
  bench_->setSelection(regions, triangles);
  bench_->setModelSelection({faces.begin(), faces.end()});
  bench_->setMarks(marks);
  if (items.size() == 1 && items.front().kind == Item::Kind::Row)
    show_row_evidence(session_, *bench_, *strip_, items.front().id);
}

void MainWindow::startWithSelection(const Tool& tool) {
  const std::vector<Item> items = session_.selection().items();
  start(tool);
  if (card() == nullptr || desk_->tool() != &tool) return;
  card()->touch();
  for (const Item& item : items) {
    if (std::find(tool.takes.begin(), tool.takes.end(), item.kind) != tool.takes.end())
      card()->take(item);
  }
}

void MainWindow::fillItemMenu(QMenu* menu) {
  const std::vector<Item> items = session_.selection().items();
  if (items.empty()) return;
  const bool one = items.size() == 1;
  const auto has = [&](const auto& kinds) {
    return std::any_of(items.begin(), items.end(), [&](const Item& item) {
      return std::find(kinds.begin(), kinds.end(), item.kind) != kinds.end();
    });
  };
  menu->addAction(tr("Zoom to it\tW s"), this, [this] { view(kFitSelection); });
  menu->addAction(tr("Look straight at it\tW n"), this, [this] { view(kNormal); });
  menu->addSeparator();
  if (one && items.front().kind == Item::Kind::Sketch)
    menu->addAction(tr("Edit the sketch"), this,
                    [this, id = items.front().id] { start(*find_tool("Sketch"), id); });
  for (const Tool& tool : tools()) {
    if (!has(tool.takes) || !tool.possible(session_)) continue;
    QAction* action =
        menu->addAction(icon(QString::fromUtf8(tool.icon)), tr("%1 \u2026").arg(tool.title()));
    action->setToolTip(tool.hint());
    connect(action, &QAction::triggered, this, [this, &tool] { startWithSelection(tool); });
  }
  std::vector<Item> hideable;
  std::copy_if(items.begin(), items.end(), std::back_inserter(hideable),
               [](const Item& item) { return can_hide(item.kind); });
  // A face stands for its body.
  const model::Model& solid = session_.route()->solid;
  for (const Item& item : items) {
    const auto face = item.kind == Item::Kind::Face ? solid.find_face(item.name) : std::nullopt;
    if (!face) continue;
    const Item body{Item::Kind::Body, 0, solid.body(solid.body_of_face(*face)).key};
    if (std::find(hideable.begin(), hideable.end(), body) == hideable.end())
      hideable.push_back(body);
  }
  if (hideable.empty()) return;
  menu->addSeparator();
  using project::Visibility;
  const auto offer = [&](const QString& text, Visibility wanted) {
    const bool all = std::all_of(hideable.begin(), hideable.end(), [&](const Item& item) {
      return visibility_of(session_, item) == wanted;
    });
    if (all) return;
    menu->addAction(text, this,
                    [this, hideable, wanted] { set_visibility(session_, hideable, wanted); });
  };
  offer(tr("Show"), Visibility::Shown);
  const bool dims = std::any_of(hideable.begin(), hideable.end(),
                                [](const Item& item) { return item.kind != Item::Kind::Sketch; });
  if (dims) offer(tr("Translucent"), Visibility::Translucent);
  offer(tr("Hide"), Visibility::Hidden);
  menu->addAction(tr("Show only this"), this, [this, hideable] { show_only(session_, hideable); });
  menu->addAction(tr("Show everything"), this, [this] { show_all(session_); });
  menu->addSeparator();
}

void MainWindow::benchMenu(const Pick& pick, const QPointF& at) {
  QMenu menu(this);
  menu.setToolTipsVisible(true);
  const Item item = itemOf(pick);
  if (card() == nullptr) {
    if (item.kind == Item::Kind::None || !session_.selection().has(item)) picked(pick);
    fillItemMenu(&menu);
  }
  menu.addAction(tr("Whole part\tW 0"), this, [this] { view(kFitView); });
  menu.addAction(tr("Zoom by window\tW w"), this, [this] { view(kWindow); });
  if (bench_->clip()) {
    menu.addAction(tr("Take the clip plane away\tW c"), this, [this] { view(kClip); });
    menu.addAction(tr("Show the other side of the clip plane\tW f"), this,
                   [this] { view(kFlipClip); });
  } else {
    menu.addAction(tr("Clip plane across the view\tW c"), this, [this] { view(kClip); });
  }
  menu.exec(bench_->mapToGlobal(at.toPoint()));
}

}  // namespace lostline::app
