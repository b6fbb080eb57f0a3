#pragma once

#include <QDoubleSpinBox>
#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>

#include "bench/bench_view.h"
#include "jobs/aside.h"
#include "look/preferences.h"
#include "panels/strip.h"

namespace lostline::app {

/// What every tool works with.
struct Workplace {
  Session& session;
  BenchView& bench;
  Strip& strip;
};

/// The card of the running tool at the head of the left column: its inputs in order, what the
/// evidence says, Keep and Discard. What does not fit scrolls; the buttons stay in sight.
class ToolCard : public QFrame {
  Q_OBJECT
 public:
  ToolCard(Workplace place, const QString& title, const QString& kind);

  virtual void pick(const Pick&) {}
  virtual void pickRef(const project::FitRef&) {}
  /// Something chosen in a list, or before the tool was started: as if it was clicked.
  virtual void take(const Item& item);
  /// Whether a drag with the left button from here is the tool's; else it turns the view.
  [[nodiscard]] virtual bool takesDrag(const Pick&) const { return false; }
  virtual void drag(const QPointF&, bool /*released*/) {}
  virtual void doubleClick(const QPointF&) {}
  /// The pointer moved over the Bench with no button down.
  virtual void point(const QPointF&) {}
  /// The document or the model changed while the tool runs (undo, a background result).
  virtual void documentChanged() {}
  /// Shows the tool's own marks; called once when it appears.
  virtual void begin() {}
  /// Shows its marks again after it had to wait for another tool; what was entered stays.
  virtual void resume() { begin(); }
  /// A leader key's choice that is the card's own, by name ("tangent", "dimension").
  virtual void command(const QString& /*name*/) {}
  /// Escape was pressed: true when the card took it for itself, as to end a line being drawn.
  virtual bool escape() { return false; }
  /// Return was pressed: true when the card took it for itself, as behind a path that was typed.
  virtual bool entered() { return false; }
  /// Undo of the card's own steps, before they are kept; false when there are none to undo or redo.
  virtual bool undoOwn() { return false; }
  virtual bool redoOwn() { return false; }
  /// Whether a fit or region can be picked for the input that waits now; empty when none waits.
  [[nodiscard]] std::function<bool(const fit::SurfaceFit&)> wanted() const;
  /// Carries the tool out. True when the card may close.
  virtual bool keep() = 0;
  void close();
  /// Leaves the Bench to another tool, with all that was entered.
  void suspend();
  /// Takes the Bench again; `resume` then shows what is its own.
  void wake() { suspended_ = false; }
  /// The unit preferred is another now: fields and labels follow.
  void unitChanged();
  /// Something was picked or entered: another tool lets the card wait instead of closing it.
  void touch() { touched_ = !only_done_; }
  /// The result is being kept: the document changes by it, and the card need not follow.
  [[nodiscard]] bool keeping() const { return keeping_; }
  [[nodiscard]] bool touched() const { return touched_ && !closed_; }
  [[nodiscard]] QSize sizeHint() const override;
  [[nodiscard]] QSize minimumSizeHint() const override;

 Q_SIGNALS:
  void finished();
  void wantsOther();                                ///< another input waits
  void sketchWanted(lostline::project::Id sketch);  ///< the next thing to do is to edit this sketch

 protected:
  void settleHeight();  ///< the card's height to what it holds
  /// For a card whose acts are edits of their own: nothing is left to keep or to discard.
  void setOnlyDone();
  QLabel* addRow(const QString& label, QWidget* field);
  void addWide(QWidget* widget);
  /// A button of the card's own.
  struct Press {
    QString text, name, tip;
    std::function<void()> act;
  };
  QPushButton* button(const Press& press);
  /// Buttons beside each other in a row of their own.
  void addButtons(const std::vector<Press>& presses);
  /// The row of principal views with straight grid lines, to judge parallelism.
  void addCheckViews();
  void setEvidence(const QString& text);
  void setError(const QString& text);
  /// Off, it also forgets what was being worked out from earlier entries: nothing of it arrives any
  /// more, unless `aside` asks anew.
  void setKeepEnabled(bool on);
  void setKeepText(const QString& text) { keep_->setText(text); }
  void setDiscardText(const QString& text) { discard_->setText(text); }
  static QDoubleSpinBox* number(double value, double low, double high, double step, int decimals,
                                const QString& name);
  /// A number in mm, shown and typed in the unit preferred.
  static LengthBox* length(double value, double low, double high, double step, int decimals,
                           const QString& name);
  void keyPressEvent(QKeyEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  [[nodiscard]] const project::Document& document() const { return place_.session.document(); }
  /// Computes for the card off the interface's thread; see Aside. Keep waits for it.
  void aside(Session::Work work);
  /// Carries out an edit off the interface's thread; the card closes when it is committed and says
  /// what is wrong otherwise. `kept` runs before it closes.
  void commitAside(const QString& name, Session::Edit edit, std::function<void()> kept = {});

  Workplace place_;

 private:
  void showBarWhereNeeded();

  void clearBench();

  QScrollArea* scroll_;
  QGridLayout* grid_;
  QLabel* evidence_;
  QPushButton* keep_;
  QPushButton* discard_;
  QProgressBar* progress_;  ///< of what the card computes, when it takes long
  Aside aside_;
  bool keep_when_settled_ = false;
  bool closed_ = false;
  bool touched_ = false;
  bool keeping_ = false;
  bool suspended_ = false;
  bool only_done_ = false;  ///< nothing of it is ever unkept
  int row_ = 0;

 public:
  void tryKeep();
};

/// A field that waits for fits to be picked on the Bench or in Evidence.
class PickField : public QPushButton {
  Q_OBJECT
 public:
  using Takes = std::function<bool(const fit::SurfaceFit&)>;
  /// @param takes  which fits suit; all of them when it is empty.
  PickField(const QString& prompt, std::size_t most, const QString& name, Takes takes = {});
  void offer(const project::FitRef& ref, const project::Document& document);
  void clear(const project::Document& document);
  /// Drops what is no longer there, as after undo. True when something went.
  bool prune(const project::Document& document);
  void assign(std::vector<project::FitRef> refs, const project::Document& document);
  [[nodiscard]] const std::vector<project::FitRef>& refs() const { return refs_; }
  [[nodiscard]] bool full() const { return refs_.size() >= most_; }
  void setWaiting(bool on);
  [[nodiscard]] bool waiting() const { return waiting_; }
  [[nodiscard]] bool takes(const fit::SurfaceFit& fit) const { return !takes_ || takes_(fit); }

 Q_SIGNALS:
  void waitingChanged();

 private:
  void refresh(const project::Document& document);
  QString prompt_, tip_;
  std::size_t most_;
  Takes takes_;
  std::vector<project::FitRef> refs_;
  bool waiting_ = false;
};

/// Regions among references, to mark them on the Bench.
std::vector<std::uint32_t> regions_of(const std::vector<project::FitRef>& refs);

}  // namespace lostline::app
