#include "jobs/session.h"

#include <QPointer>
#include <QtConcurrent>
#include <atomic>

#include "jobs/caught.h"
#include "project/bodies.h"

namespace lostline::app {

Session::Session(QObject* parent)
    : QObject(parent),
      document_(std::make_shared<const project::Document>()),
      route_(std::make_shared<const RouteState>()),
      cache_(std::make_shared<model::RouteCache>()),
      undo_([this](History::Snapshot document) { set(std::move(document)); }) {
  connect(&works_, &Works::failed, this, &Session::failed);
}

Session::~Session() = default;

void Session::markSaved(const QString& path,
                        const std::shared_ptr<const project::Document>& saved) {
  path_ = path;
  if (saved == document_) undo_.setClean();
  Q_EMIT changed();
}

void Session::commit(const QString& name, project::Document next) {
  undo_.push(name, document_, std::make_shared<const project::Document>(std::move(next)));
}

bool Session::apply(const QString& name, Result<project::Document> result) {
  if (!result) {
    report(result.error());
    return false;
  }
  commit(name, *std::move(result));
  return true;
}

void Session::edit(const QString& name, Edit edit, EditDone done) {
  longEdit(
      name, [edit = std::move(edit)](const project::Document& d, const Task&) { return edit(d); },
      std::move(done));
}

void Session::longEdit(const QString& name, LongEdit edit, EditDone done) {
  edits_.push_back({name, std::move(edit), std::move(done)});
  if (edits_.size() == 1) nextEdit();
}

void Session::nextEdit() {
  const QPointer<Session> self(this);
  const auto document = document_;
  const int run = ++edit_run_;
  const auto take = [this] {
    PendingEdit finished = std::move(edits_.front());
    edits_.pop_front();
    return finished;
  };
  const auto tell = [this](const PendingEdit& edit, const Error* error) {
    if (error != nullptr && !edit.done) report(*error);
    if (edit.done) edit.done(error);
    if (!edits_.empty()) nextEdit();
  };
  works_.run(
      Works::Lane::Edit, edits_.front().name,
      [this, self, run, document, take, tell,
       edit = edits_.front().edit](const Task& task) -> Finish {
        auto result = std::make_shared<Result<project::Document>>(
            caught<Result<project::Document>>([&] { return edit(*document, task); }));
        return [this, self, run, document, take, tell, result] {
          if (!self || edit_run_ != run || edits_.empty()) return;
          if (document_ != document) return nextEdit();
          const PendingEdit finished = take();
          if (*result) commit(finished.name, std::move(**result));
          tell(finished, *result ? nullptr : &result->error());
        };
      },
      [this, run, take, tell] {
        if (edit_run_ != run || edits_.empty()) return;
        const PendingEdit finished = take();
        const Error error{ErrorCode::Cancelled,
                          finished.name.toStdString() + " was stopped. Nothing was changed."};
        tell(finished, &error);
      });
}

void Session::replace(project::Document document, const QString& path) {
  undo_.clear();
  edits_.clear();
  ++edit_run_;
  works_.stop(Works::Lane::Edit);
  path_ = path;
  set(std::make_shared<const project::Document>(std::move(document)));
}

void Session::recover(project::Document document, const QString& path) {
  // As an edit of nothing: it is unsaved until the engineer saves it.
  replace({}, path);
  commit(tr("recover unsaved work"), std::move(document));
}

void Session::set(std::shared_ptr<const project::Document> document) {
  document_ = std::move(document);
  selection_.prune(*document_, route_->solid, true);
  Q_EMIT changed();
  startRoute();
}

void Session::setRoute(std::shared_ptr<const RouteState> route) {
  route_ = std::move(route);
  const auto before = std::exchange(selected_on_, route_->tessellation);
  selection_.prune(*document_, route_->solid, before == selected_on_);
  Q_EMIT routeChanged();
  if (on_known_ && knows(placeOf(edited_))) std::exchange(on_known_, {})();
}

std::size_t Session::placeOf(project::Id step) const {
  const project::Id after = step == 0 ? insertAfter() : 0;
  const auto& steps = document_->steps;
  for (std::size_t i = 0; i < steps.size(); ++i) {
    if (steps[i].id == step) return i;
    if (steps[i].id == after) return i + 1;
  }
  return steps.size();
}

bool Session::knows(std::size_t place) const {
  return place == 0 || (place <= route_->steps.size() && route_->steps[place - 1].kept);
}

void Session::setInsertAfter(project::Id step) {
  insert_after_ = step;
  Q_EMIT routeChanged();
  if (!knows(placeOf(0))) startRoute();
}

void Session::whenKnown(project::Id step, std::function<void()> then) {
  edited_ = step;
  on_known_ = {};
  // Before the Route was computed at all nothing is known of any step.
  if (route_->steps.empty() || knows(placeOf(step))) return then();
  on_known_ = std::move(then);
  startRoute();
}

model::Model Session::modelBefore(project::Id step) const {
  const std::size_t place = std::min(placeOf(step), route_->steps.size());
  if (place == 0) return {};
  if (knows(place)) return route_->steps[place - 1].solid;
  const std::vector<model::Step> steps(
      document_->steps.begin(), document_->steps.begin() + static_cast<std::ptrdiff_t>(place));
  const auto results =
      model::recompute(steps, document_->placed_sketches(), *cache_, {}, model::Wanted::last());
  return results && !results->empty() ? results->back().solid : model::Model();
}

model::Wanted Session::wanted() const {
  std::set<project::Id> before{edited_};
  const std::size_t next = placeOf(0);
  if (next < document_->steps.size()) before.insert(document_->steps[next].id);
  return model::Wanted::last(std::move(before));
}

void Session::startRoute() {
  const QPointer<Session> self(this);
  const auto document = document_;
  const auto deliver = [self, document](std::shared_ptr<const RouteState> state) {
    QMetaObject::invokeMethod(qApp, [self, document, state] {
      if (!self || self->document_ != document) return;  // a newer document has its own run
      self->setRoute(state);
    });
  };
  works_.run(
      Works::Lane::Route, tr("computing the Route"),
      [self, cache = cache_, document, wanted = wanted(), before = route_,
       deliver](const Task& task) -> Finish {
        auto state = std::make_shared<RouteState>();
        const auto followed = caught<Status>([&]() -> Status {
          follow_route(task, *cache, document, wanted, *before, state, deliver);
          return Done{};
        });
        if (followed) return {};
        // What was computed so far is shown, and the reason why it is not more.
        deliver(std::make_shared<const RouteState>(*state));
        return [self, error = followed.error()] { self->report(error); };
      },
      [this, document] {
        if (document_ != document) return;
        auto state = std::make_shared<RouteState>(*route_);
        state->stopped = true;
        setRoute(std::move(state));
        Q_EMIT said(
            tr("The Route was stopped: what is shown may be older than its values. Edit, "
               "Recompute the model (F5) goes on."));
      });
}

void Session::follow_route(const Task& task, model::RouteCache& cache,
                           const std::shared_ptr<const project::Document>& document,
                           const model::Wanted& wanted, const RouteState& before,
                           const std::shared_ptr<RouteState>& state, const Deliver& deliver) {
  // The model is most of the work where its steps are many, the distances where the scan is large.
  auto results = model::recompute(document->steps, document->placed_sketches(), cache,
                                  task.part(0, 0.5), wanted);
  if (!results) return;
  state->steps = *std::move(results);
  if (!state->steps.empty()) state->solid = state->steps.back().solid;
  const bool same = !state->solid.empty() && !before.solid.empty() &&
                    &state->solid.impl() == &before.solid.impl();
  if (same) {
    state->tessellation = before.tessellation;
  } else if (!state->solid.empty()) {
    auto tessellation = model::tessellate(state->solid);
    if (tessellation)
      state->tessellation = std::make_shared<const model::Tessellation>(*std::move(tessellation));
  }
  if (state->tessellation) show_bodies(*document, before, *state);
  if (!document->scan || state->solid.empty())
    return deliver(std::make_shared<const RouteState>(*state));
  const bool placed =
      before.compared == document->scan && before.placed.isApprox(document->to_part(), 1e-12);
  if (before.map && before.compared == document->scan) {
    state->map = before.map;
    state->statistics = before.statistics;
    state->histogram = before.histogram;
    state->limit = before.limit;
    state->compared = before.compared;
    state->placed = before.placed;
    state->map_is_old = !same || !placed || before.map_is_old;
  }
  if (state->map && !state->map_is_old) {
    describe(*document, *state);
    return deliver(std::make_shared<const RouteState>(*state));
  }
  // The model shows at once, with the distances from the one before; its own follow.
  deliver(std::make_shared<const RouteState>(*state));
  compare(task.part(0.5, 1), *document, *state);
  if (!task.stopped()) deliver(state);
}

void Session::describe(const project::Document& document, RouteState& state) {
  constexpr int kBars = 60;
  const double range = document.deviation_range;
  state.statistics = deviation::statistics(*state.map, document.tolerance);
  state.histogram = deviation::histogram(*state.map, -range, range, kBars);
}

void Session::compare(const Task& task, const project::Document& document, RouteState& state) {
  if (task.stopped()) return;
  const auto comparator = deviation::Comparator::build(state.solid);
  if (!comparator) {
    state.map.reset();
    return;
  }
  std::vector<Vec3> points(document.scan->mesh->vertices.size());
  const Transform to_part = document.to_part();
  for (std::size_t i = 0; i < points.size(); ++i)
    points[i] = to_part * document.scan->mesh->vertices[i];
  auto map = comparator->compare(points, 0, task);
  if (!map) {
    if (!task.stopped()) state.map.reset();
    return;
  }
  state.limit = comparator->default_limit();
  state.map = std::make_shared<const deviation::Map>(*std::move(map));
  describe(document, state);
  state.compared = document.scan;
  state.placed = to_part;
  state.map_is_old = false;
}

void Session::show_bodies(const project::Document& document, const RouteState& before,
                          RouteState& state) {
  std::vector<bool> wanted;
  for (std::size_t b = 0; b < state.solid.body_count(); ++b)
    wanted.push_back(project::look_of(document, state.solid.body(b)).shown);
  const bool all = std::find(wanted.begin(), wanted.end(), false) == wanted.end();
  state.shown = all ? state.tessellation
                    : std::make_shared<const model::Tessellation>(
                          model::part_of(*state.tessellation, state.solid, wanted));
  if (state.shown == before.shown)
    state.index = before.index;
  else if (!state.shown->mesh.triangles.empty())
    state.index = std::make_shared<const scan::MeshIndex>(state.shown->mesh);
  std::size_t last = state.solid.body_count();
  for (const std::uint32_t face : state.shown->triangle_face) {
    const std::size_t body = state.solid.body_of_face(face);
    if (body != last) {
      const project::BodyLook look = project::look_of(document, state.solid.body(body));
      state.colours.push_back({0, look.colour, look.translucent,
                               state.solid.body(body).kind == model::BodyKind::Solid});
    }
    last = body;
    ++state.colours.back().triangles;
  }
}

}  // namespace lostline::app
