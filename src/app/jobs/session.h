#pragma once

#include <QObject>
#include <QUndoStack>
#include <deque>
#include <functional>
#include <memory>
#include <stop_token>

#include "deviation/deviation.h"
#include "project/edits.h"
#include "scan/mesh_index.h"

namespace lostline::app {

/// The Route as last computed, for one document; immutable.
struct RouteState {
  std::vector<model::StepResult> steps;
  model::Model solid;
  std::shared_ptr<const model::Tessellation> tessellation;
  /// The bodies that are shown: what the Bench draws and picks, and its index.
  std::shared_ptr<const model::Tessellation> shown;
  std::shared_ptr<const scan::MeshIndex> index;
  /// A stretch of the shown triangles in the colour of their body.
  struct Coloured {
    std::size_t triangles;
    std::optional<model::Colour> colour;
  };
  std::vector<Coloured> colours;
  std::shared_ptr<const deviation::Map> map;  ///< per scan vertex; null while unknown
  deviation::Statistics statistics;
  double limit = 0;  ///< mm: scan further from the model is counted, and left out of the map
};

/// The open project: the current document with its undo history, the Route that follows it in the
/// background, and long work with progress.
class Session : public QObject {
  Q_OBJECT
 public:
  explicit Session(QObject* parent = nullptr);
  ~Session() override;

  [[nodiscard]] const project::Document& document() const { return *document_; }
  [[nodiscard]] std::shared_ptr<const project::Document> snapshot() const { return document_; }
  [[nodiscard]] std::shared_ptr<const RouteState> route() const { return route_; }
  [[nodiscard]] QUndoStack* undoStack() { return &undo_; }
  [[nodiscard]] QString path() const { return path_; }
  /// The step that new ones are inserted behind; 0 when they go to the end.
  [[nodiscard]] project::Id insertAfter() const {
    return document_->find_step(insert_after_) != nullptr ? insert_after_ : 0;
  }
  void setInsertAfter(project::Id step) {
    insert_after_ = step;
    Q_EMIT routeChanged();
  }
  /// `saved` is now on the disk at `path`; the project is clean if it is still the current one.
  void markSaved(const QString& path, const std::shared_ptr<const project::Document>& saved);

  /// Tells everybody to show the document and the Route again.
  void announce() {
    Q_EMIT changed();
    Q_EMIT routeChanged();
  }
  /// Makes `next` the current document as one undoable, named step.
  void commit(const QString& name, project::Document next);
  /// Commits a result, or reports its error. True when committed.
  bool apply(const QString& name, Result<project::Document> result);
  /// Computes an edit off the interface's thread and commits it as one undoable, named step. Edits
  /// asked for while one runs follow in order, each on the document as it then is; an edit whose
  /// document changed meanwhile (undo) is computed again. `done` runs after the commit, or with the
  /// error; without it an error is reported.
  using Edit = std::function<Result<project::Document>(const project::Document&)>;
  using EditDone = std::function<void(const Error* error)>;
  void edit(const QString& name, Edit edit, EditDone done = {});
  /// A document that was opened: no undo beyond it.
  void replace(project::Document document, const QString& path);

  /// What `work` returns runs on the interface's thread when it is done, unless it was cancelled.
  using Finish = std::function<void()>;
  using Work = std::function<Finish(const Task&)>;
  /// Runs work in the background with progress in the status line. One at a time: starting another
  /// cancels the one running.
  void run(const QString& title, Work work);
  [[nodiscard]] bool busy() const {
    return running_ > 0 || route_running_ || !edits_.empty() || occupied_.use_count() > 1;
  }
  /// Held by a computation of a tool while it runs, so that `busy` knows of it.
  [[nodiscard]] std::shared_ptr<const void> occupied() const { return occupied_; }
  void cancel();
  /// Shows an error where the user is looking.
  void report(const Error& error) { Q_EMIT failed(QString::fromStdString(error.message)); }

 Q_SIGNALS:
  void changed();
  void routeChanged();
  void failed(const QString& message);
  void said(const QString& message);  ///< something done that shows nowhere else
  void workStarted(const QString& title);
  void workProgress(double share);
  void workEnded();

 private:
  class Swap;
  void set(std::shared_ptr<const project::Document> document);
  void startRoute();
  using Deliver = std::function<void(std::shared_ptr<const RouteState> state, bool last)>;
  /// On the worker's side: the Route, its triangles, then the scan's distances from it.
  static void follow_route(const Task& task, model::RouteCache& cache,
                           const std::shared_ptr<const project::Document>& document,
                           const std::shared_ptr<RouteState>& state, const Deliver& deliver);
  static void show_bodies(const project::Document& document, RouteState& state);
  void nextEdit();

  struct PendingEdit {
    QString name;
    Edit edit;
    EditDone done;
  };
  std::deque<PendingEdit> edits_;  // the first one runs
  int edit_run_ = 0;               // serial of the run whose result counts
  std::shared_ptr<const int> occupied_ = std::make_shared<const int>(0);
  std::shared_ptr<const project::Document> document_;
  std::shared_ptr<const RouteState> route_;
  std::shared_ptr<model::RouteCache> cache_;
  QUndoStack undo_;
  QString path_;
  project::Id insert_after_ = 0;
  std::stop_source stop_;
  std::stop_source route_stop_;
  int running_ = 0;
  bool route_running_ = false;
};

}  // namespace lostline::app
