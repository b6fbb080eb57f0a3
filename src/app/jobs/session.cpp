#include "jobs/session.h"

#include <QPointer>
#include <QUndoCommand>
#include <QtConcurrent>
#include <atomic>

#include "jobs/caught.h"
#include "project/bodies.h"

namespace lostline::app {

/// Undo by snapshots: either side is a whole document.
class Session::Swap : public QUndoCommand {
 public:
  Swap(Session& session, const QString& name, std::shared_ptr<const project::Document> next)
      : QUndoCommand(name),
        session_(session),
        before_(session.document_),
        after_(std::move(next)) {}
  void undo() override { session_.set(before_); }
  void redo() override { session_.set(after_); }

 private:
  Session& session_;
  std::shared_ptr<const project::Document> before_;
  std::shared_ptr<const project::Document> after_;
};

Session::Session(QObject* parent)
    : QObject(parent),
      document_(std::make_shared<const project::Document>()),
      route_(std::make_shared<const RouteState>()),
      cache_(std::make_shared<model::RouteCache>()) {}

Session::~Session() {
  stop_.request_stop();
  route_stop_.request_stop();
}

void Session::markSaved(const QString& path,
                        const std::shared_ptr<const project::Document>& saved) {
  path_ = path;
  if (saved == document_) undo_.setClean();
  Q_EMIT changed();
}

void Session::commit(const QString& name, project::Document next) {
  undo_.push(new Swap(*this, name, std::make_shared<const project::Document>(std::move(next))));
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
  edits_.push_back({name, std::move(edit), std::move(done)});
  if (edits_.size() == 1) nextEdit();
}

void Session::nextEdit() {
  const QPointer<Session> self(this);
  const auto document = document_;
  const int run = ++edit_run_;
  static_cast<void>(QtConcurrent::run([self, run, document, edit = edits_.front().edit] {
    auto result = std::make_shared<Result<project::Document>>(
        caught<Result<project::Document>>([&] { return edit(*document); }));
    QMetaObject::invokeMethod(qApp, [self, run, document, result] {
      if (!self || self->edit_run_ != run || self->edits_.empty()) return;
      if (self->document_ != document) return self->nextEdit();
      const PendingEdit finished = std::move(self->edits_.front());
      self->edits_.pop_front();
      if (*result)
        self->commit(finished.name, std::move(**result));
      else if (!finished.done)
        self->report(result->error());
      if (finished.done) finished.done(*result ? nullptr : &result->error());
      if (!self->edits_.empty()) self->nextEdit();
    });
  }));
}

void Session::replace(project::Document document, const QString& path) {
  undo_.clear();
  edits_.clear();
  ++edit_run_;
  path_ = path;
  set(std::make_shared<const project::Document>(std::move(document)));
}

void Session::set(std::shared_ptr<const project::Document> document) {
  document_ = std::move(document);
  Q_EMIT changed();
  startRoute();
}

void Session::startRoute() {
  route_stop_.request_stop();
  route_stop_ = std::stop_source();
  route_running_ = true;
  const Task task(route_stop_.get_token());
  const QPointer<Session> self(this);
  const auto cache = cache_;
  const auto document = document_;
  const auto deliver = [self, document](std::shared_ptr<const RouteState> state, bool last) {
    QMetaObject::invokeMethod(qApp, [self, document, state, last] {
      if (!self || self->document_ != document) return;  // a newer document has its own run
      self->route_ = state;
      if (last) self->route_running_ = false;
      Q_EMIT self->routeChanged();
    });
  };
  static_cast<void>(QtConcurrent::run([task, cache, document, deliver, self] {
    auto state = std::make_shared<RouteState>();
    const auto followed = caught<Status>([&]() -> Status {
      follow_route(task, *cache, document, state, deliver);
      return Done{};
    });
    if (followed) return;
    // What was computed so far is shown, and the reason why it is not more.
    deliver(std::make_shared<const RouteState>(*state), true);
    QMetaObject::invokeMethod(qApp, [self, error = followed.error()] {
      if (self) self->report(error);
    });
  }));
}

void Session::follow_route(const Task& task, model::RouteCache& cache,
                           const std::shared_ptr<const project::Document>& document,
                           const std::shared_ptr<RouteState>& state, const Deliver& deliver) {
  auto results = model::recompute(document->steps, document->placed_sketches(), cache, task);
  if (!results) return;
  state->steps = *std::move(results);
  if (!state->steps.empty()) state->solid = state->steps.back().solid;
  if (!state->solid.empty()) {
    auto tessellation = model::tessellate(state->solid);
    if (tessellation) {
      state->tessellation = std::make_shared<const model::Tessellation>(*std::move(tessellation));
      show_bodies(*document, *state);
    }
  }
  // The model shows at once; the distances follow.
  const bool compare = document->scan && !state->solid.empty();
  deliver(std::make_shared<const RouteState>(*state), !compare);
  if (!compare || task.stopped()) return;
  const auto comparator = deviation::Comparator::build(state->solid);
  std::vector<Vec3> points(document->scan->mesh->vertices.size());
  const Transform to_part = document->to_part();
  for (std::size_t i = 0; i < points.size(); ++i)
    points[i] = to_part * document->scan->mesh->vertices[i];
  if (comparator) {
    auto map = comparator->compare(points, 0, task);
    if (map) {
      state->statistics = deviation::statistics(*map, document->tolerance);
      state->limit = comparator->default_limit();
      state->map = std::make_shared<const deviation::Map>(*std::move(map));
    }
  }
  if (!task.stopped()) deliver(state, true);
}

void Session::show_bodies(const project::Document& document, RouteState& state) {
  std::vector<bool> wanted;
  for (std::size_t b = 0; b < state.solid.body_count(); ++b)
    wanted.push_back(project::look_of(document, state.solid.body(b)).shown);
  const bool all = std::find(wanted.begin(), wanted.end(), false) == wanted.end();
  state.shown = all ? state.tessellation
                    : std::make_shared<const model::Tessellation>(
                          model::part_of(*state.tessellation, state.solid, wanted));
  if (!state.shown->mesh.triangles.empty())
    state.index = std::make_shared<const scan::MeshIndex>(state.shown->mesh);
  std::size_t last = state.solid.body_count();
  for (const std::uint32_t face : state.shown->triangle_face) {
    const std::size_t body = state.solid.body_of_face(face);
    if (body != last)
      state.colours.push_back({0, project::look_of(document, state.solid.body(body)).colour});
    last = body;
    ++state.colours.back().triangles;
  }
}

void Session::run(const QString& title, Work work) {
  stop_.request_stop();
  stop_ = std::stop_source();
  ++running_;
  Q_EMIT workStarted(title);
  const QPointer<Session> self(this);
  const auto last = std::make_shared<std::atomic<int>>(-1);
  const std::stop_token token = stop_.get_token();
  const Task task(token, [self, last](double share) {
    const int percent = static_cast<int>(share * 100);
    if (last->exchange(percent) == percent) return;
    QMetaObject::invokeMethod(qApp, [self, share] {
      if (self) Q_EMIT self->workProgress(share);
    });
  });
  static_cast<void>(QtConcurrent::run([self, task, token, work = std::move(work)] {
    const auto done = caught<Result<Finish>>([&]() -> Result<Finish> { return work(task); });
    const Finish finish =
        done ? *done : Finish([self, error = done.error()] { self->report(error); });
    QMetaObject::invokeMethod(qApp, [self, token, finish] {
      if (!self) return;
      if (--self->running_ == 0) Q_EMIT self->workEnded();
      if (!token.stop_requested() && finish) finish();
    });
  }));
}

void Session::cancel() { stop_.request_stop(); }

}  // namespace lostline::app
