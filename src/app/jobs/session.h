#pragma once

#include <QObject>
#include <deque>
#include <functional>
#include <memory>
#include <stop_token>

#include "deviation/deviation.h"
#include "jobs/history.h"
#include "jobs/selection.h"
#include "jobs/works.h"
#include "look/catalogue.h"
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
    bool translucent = false;
    bool solid = true;
  };
  std::vector<Coloured> colours;
  std::shared_ptr<const deviation::Map> map;  ///< per scan vertex; null while unknown
  deviation::Statistics statistics;
  deviation::Histogram histogram;  ///< over the colour scale's range
  double limit = 0;  ///< mm: scan further from the model is counted, and left out of the map
  /// What the map is of; while a new one is computed the old one stays, and says so.
  std::shared_ptr<const project::Scan> compared;
  Transform placed = Transform::Identity();
  bool map_is_old = false;
  bool stopped = false;  ///< by the engineer, before its end
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
  [[nodiscard]] History* undoStack() { return &undo_; }
  [[nodiscard]] Selection& selection() { return selection_; }
  [[nodiscard]] QString path() const { return path_; }
  /// The step that new ones are inserted behind; 0 when they go to the end.
  [[nodiscard]] project::Id insertAfter() const {
    return document_->find_step(insert_after_) != nullptr ? insert_after_ : 0;
  }
  void setInsertAfter(project::Id step);
  /// Calls `then` once the model before a step is there: at once, unless the step was made in one
  /// go with others.
  void whenKnown(project::Id step, std::function<void()> then);
  /// The model before a step (0: before one that is added next). Computed here and now only where
  /// nobody waited for it with `whenKnown`.
  [[nodiscard]] model::Model modelBefore(project::Id step) const;
  /// The results of steps by their content; may be asked from anywhere.
  [[nodiscard]] std::shared_ptr<model::RouteCache> cache() const { return cache_; }
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
  using LongEdit = std::function<Result<project::Document>(const project::Document&, const Task&)>;
  using EditDone = std::function<void(const Error* error)>;
  void edit(const QString& name, Edit edit, EditDone done = {});
  /// The same for what takes long: with progress and cancel in the status line.
  void longEdit(const QString& name, LongEdit edit, EditDone done = {});
  /// A document that was opened: no undo beyond it.
  void replace(project::Document document, const QString& path);
  /// Work that was recovered: unsaved, and saved to where it came from.
  void recover(project::Document document, const QString& path);

  using Finish = Works::Finish;
  using Work = Works::Work;
  Works& works() { return works_; }
  [[nodiscard]] bool busy() const {
    return works_.busy() || !edits_.empty() || occupied_.use_count() > 1;
  }
  /// Computes the Route again after it was stopped.
  void recompute() { startRoute(); }
  /// Held by a computation of a tool while it runs, so that `busy` knows of it.
  [[nodiscard]] std::shared_ptr<const void> occupied() const { return occupied_; }
  /// Shows an error where the user is looking.
  void report(const Error& error) { Q_EMIT failed(core_text(error.message)); }

 Q_SIGNALS:
  void changed();
  void routeChanged();
  void failed(const QString& message);
  void said(const QString& message);  ///< something done that shows nowhere else

 private:
  void set(std::shared_ptr<const project::Document> document);
  void setRoute(std::shared_ptr<const RouteState> route);
  void startRoute();
  /// The steps before which models are wanted: one that is edited, and where new ones go.
  [[nodiscard]] model::Wanted wanted() const;
  /// How many steps come before it.
  [[nodiscard]] std::size_t placeOf(project::Id step) const;
  /// Whether the Route's results have the model before a place.
  [[nodiscard]] bool knows(std::size_t place) const;
  using Deliver = std::function<void(std::shared_ptr<const RouteState> state)>;
  /// On the worker's side: the Route, its triangles, then the scan's distances from it. What is as
  /// it was `before` is not computed again.
  static void follow_route(const Task& task, model::RouteCache& cache,
                           const std::shared_ptr<const project::Document>& document,
                           const model::Wanted& wanted, const RouteState& before,
                           const std::shared_ptr<RouteState>& state, const Deliver& deliver);
  /// Statistics and histogram of the distances.
  static void describe(const project::Document& document, RouteState& state);
  static void compare(const Task& task, const project::Document& document, RouteState& state);
  static void show_bodies(const project::Document& document, const RouteState& before,
                          RouteState& state);
  void nextEdit();

  struct PendingEdit {
    QString name;
    LongEdit edit;
    EditDone done;
  };
  std::deque<PendingEdit> edits_;  // the first one runs
  int edit_run_ = 0;               // serial of the run whose result counts
  std::shared_ptr<const int> occupied_ = std::make_shared<const int>(0);
  std::shared_ptr<const project::Document> document_;
  std::shared_ptr<const RouteState> route_;
  std::shared_ptr<model::RouteCache> cache_;
  History undo_;
  Selection selection_;
  std::shared_ptr<const model::Tessellation> selected_on_;  ///< that chosen edges belong to
  QString path_;
  project::Id insert_after_ = 0;
  project::Id edited_ = 0;  // asked for by `whenKnown`
  std::function<void()> on_known_;
  Works works_;
};

}  // namespace lostline::app
