#include "windows/tour.h"

#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

#include "look/theme.h"

namespace lostline::app {
namespace {

struct Stop {
  const char* tool;
  const char* text;
  bool (*done)(const project::Document&, const RouteState&);
};

constexpr std::array<Stop, 5> kStops{{
    {"Regions",
     QT_TRANSLATE_NOOP("tour",
                       "The scan is a cloud of triangles. Regions finds the planes, cylinders and "
                       "cones it was made of: start it, then press Return to keep what it finds."),
     [](const project::Document& d, const RouteState&) { return d.survey != nullptr; }},
    {"Frame",
     QT_TRANSLATE_NOOP("tour",
                       "A drawing starts from datums. In Frame press propose: the machined foot "
                       "becomes the bottom, two holes give the direction, the bore the origin. "
                       "Return keeps it."),
     [](const project::Document& d, const RouteState&) { return d.frame != nullptr; }},
    {"Section",
     QT_TRANSLATE_NOOP("tour",
                       "A section shows the outline of the foot. Set the offset to 7 and press "
                       "Return: lines, arcs and circles with the constraints that the scan "
                       "suggests. Return once more keeps the sketch."),
     [](const project::Document& d, const RouteState&) { return !d.sketches.empty(); }},
    {"Extrude",
     QT_TRANSLATE_NOOP("tour",
                       "Extrude makes a body of the sketch. Both levels and the draft of the walls "
                       "are read from the scan, each with its uncertainty. Return keeps it."),
     [](const project::Document& d, const RouteState& route) {
       return !d.steps.empty() && route.tessellation != nullptr;
     }},
    {"Ink",
     QT_TRANSLATE_NOOP("tour",
                       "The Ledger lists what was read, in pencil. Ink proposes the values that "
                       "were meant, each with its reason; Return decides those that stay ticked, "
                       "and the model follows."),
     [](const project::Document& d, const RouteState&) {
       return std::any_of(d.dimensions.begin(), d.dimensions.end(),
                          [](const auto& row) { return row.intent.has_value(); });
     }},
}};

}  // namespace

Tour::Tour(Session& session, QWidget* parent)
    : QFrame(parent),
      session_(session),
      head_(new QLabel),
      text_(new QLabel),
      start_(new QPushButton),
      leave_(new QPushButton(tr("Leave the tour"))) {
  setObjectName(QStringLiteral("tour"));
  setAccessibleName(tr("Tour"));
  setStyleSheet(QStringLiteral("QFrame#tour { border: 1px dashed %1; border-radius: 3px; }")
                    .arg(role::red_pencil.name()));
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(10, 6, 10, 6);
  head_->setObjectName(QStringLiteral("heading"));
  text_->setWordWrap(true);
  layout->addWidget(head_);
  layout->addWidget(text_);
  auto* row = new QHBoxLayout;
  row->addWidget(leave_);
  row->addWidget(start_, 1);
  layout->addLayout(row);
  leave_->setToolTip(tr("What was made so far stays"));
  connect(leave_, &QPushButton::clicked, this, &Tour::leave);
  connect(start_, &QPushButton::clicked, this, [this] {
    if (step_ < 0) return;
    if (static_cast<std::size_t>(step_) >= kStops.size()) return leave();
    Q_EMIT toolWanted(*find_tool(kStops.at(static_cast<std::size_t>(step_)).tool));
  });
  connect(&session_, &Session::changed, this, &Tour::follow);
  connect(&session_, &Session::routeChanged, this, &Tour::follow);
  hide();
}

void Tour::begin() {
  // What is open now is not the demo yet: the next change of the document is.
  QFrame::show();
  show(0);
}

void Tour::leave() {
  step_ = -1;
  hide();
}

void Tour::follow() {
  if (step_ < 0) return;
  // The first that is not done: undo goes back as well.
  const auto route = session_.route();
  const auto next = std::find_if(kStops.begin(), kStops.end(), [&](const Stop& stop) {
    return !stop.done(session_.document(), *route);
  });
  show(static_cast<int>(next - kStops.begin()));
}

void Tour::show(int step) {
  step_ = step;
  if (static_cast<std::size_t>(step) >= kStops.size()) {
    head_->setText(tr("That is the way"));
    text_->setText(
        tr("More sections and steps follow in the same manner; Prove shows how far the "
           "scan lies from the model. The guide (F1) rebuilds the whole pedestal."));
    start_->setText(tr("End of the tour"));
    leave_->hide();
    return;
  }
  const Stop& stop = kStops.at(static_cast<std::size_t>(step));
  head_->setText(tr("Tour, %1 of %2").arg(step + 1).arg(kStops.size()));
  text_->setText(QCoreApplication::translate("tour", stop.text));
  start_->setText(tr("Start %1").arg(find_tool(stop.tool)->title()));
  leave_->show();
}

}  // namespace lostline::app
