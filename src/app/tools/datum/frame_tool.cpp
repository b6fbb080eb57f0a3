#include <QCheckBox>
#include <QComboBox>

#include "fit/surface_kind.h"
#include "look/catalogue.h"
#include "look/theme.h"
#include "project/datums.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

QComboBox* axis_box(datum::Axis axis, const QString& name) {
  auto* box = new QComboBox;
  for (int a = 0; a < 6; ++a)
    box->addItem(QString::fromUtf8(datum::axis_name(static_cast<datum::Axis>(a))));
  box->setCurrentIndex(static_cast<int>(axis));
  box->setAccessibleName(name);
  box->setObjectName(name);
  return box;
}

/// The 3-2-1 frame: primary, secondary, origin, each picked in turn, with the scan moved as a
/// preview.
class FrameTool : public ToolCard {
 public:
  explicit FrameTool(Workplace place) : ToolCard(place, tr("Frame"), tr("Datum")) {
    const auto directed = [](const fit::SurfaceFit& fit) {
      return fit::about(fit.surface.kind).direction != nullptr;
    };
    primary_ = new PickField(tr("pick a plane or axis"), 1, tr("primary"), directed);
    addRow(tr("A primary"), primary_);
    primary_axis_ = axis_box(datum::Axis::MinusZ, tr("primary axis"));
    primary_axis_->setToolTip(tr("What the outward normal or the axis of the primary becomes"));
    addRow(tr("becomes"), primary_axis_);
    secondary_ = new PickField(tr("pick a plane, or two axes"), 2, tr("secondary"), directed);
    addRow(tr("B secondary"), secondary_);
    secondary_axis_ = axis_box(datum::Axis::X, tr("secondary axis"));
    addRow(tr("becomes"), secondary_axis_);
    origin_ = new PickField(tr("pick an axis or planes"), 2, tr("origin"));
    addRow(tr("C origin"), origin_);
    extremes_ = new QCheckBox(tr("the rest by the scan's extremes"));
    extremes_->setObjectName(QStringLiteral("extremes"));
    extremes_->setToolTip(tr("What the origin fits leave open is put at the least coordinate"));
    addWide(extremes_);
    addButtons({{tr("propose"), QStringLiteral("proposeFrame"),
                 tr("Fill in a datum system from machined faces; again: the next best"),
                 [this] { propose(); }}});
    connect(extremes_, &QCheckBox::toggled, this, &FrameTool::update);
    compare_ = new QCheckBox(tr("show as it was"));
    compare_->setToolTip(tr("Before and after: show the scan where it lay"));
    addWide(compare_);
    addCheckViews();
    for (PickField* field : {primary_, secondary_, origin_}) {
      connect(field, &QPushButton::clicked, this, [this, field] {
        field->clear(document());
        wait(field);
        update();
      });
    }
    connect(primary_axis_, &QComboBox::currentIndexChanged, this, &FrameTool::update);
    connect(secondary_axis_, &QComboBox::currentIndexChanged, this, &FrameTool::update);
    connect(compare_, &QCheckBox::toggled, this, &FrameTool::update);
    if (const auto& frame = document().frame; frame && !frame->upon) {
      extremes_->setChecked(frame->extremes);
      primary_->assign({frame->primary}, document());
      secondary_->assign(frame->secondary, document());
      origin_->assign(frame->origin, document());
      primary_axis_->setCurrentIndex(static_cast<int>(frame->primary_axis));
      secondary_axis_->setCurrentIndex(static_cast<int>(frame->secondary_axis));
    }
    wait(primary_->full() ? nullptr : primary_);
  }
  void begin() override { update(); }
  void documentChanged() override {
    bool pruned = false;
    for (PickField* field : {primary_, secondary_, origin_})
      pruned = field->prune(document()) || pruned;
    if (!pruned) return;
    for (PickField* field : {origin_, secondary_, primary_}) {
      if (field->refs().empty()) wait(field);
    }
    update();
  }
  void pick(const Pick& pick) override {
    if (pick.region != 0) pickRef({pick.region, 0});
  }
  void pickRef(const project::FitRef& ref) override {
    for (PickField* field : {primary_, secondary_, origin_}) {
      if (!field->waiting()) continue;
      field->offer(ref, document());
      const fit::SurfaceFit* f = document().fit_of(ref);
      // One plane is enough; a single axis waits for the second.
      const bool enough = field->full() ||
                          (field == secondary_ && f != nullptr && fit::is_flat(f->surface.kind)) ||
                          (field == origin_ && f != nullptr && !fit::is_flat(f->surface.kind));
      if (enough) wait(field == primary_ ? secondary_ : field == secondary_ ? origin_ : nullptr);
      break;
    }
    update();
  }
  bool keep() override {
    commitAside(
        tr("set frame"),
        [spec = specification()](const project::Document& d) {
          return project::set_frame(d, spec);
        },
        [this] { place_.bench.setPreviewPlacement({}); });
    return false;
  }

 private:
  void wait(PickField* field) {
    for (PickField* f : {primary_, secondary_, origin_}) f->setWaiting(f == field);
  }
  [[nodiscard]] project::DatumFrame specification() const {
    project::DatumFrame spec;
    if (!primary_->refs().empty()) spec.primary = primary_->refs().front();
    spec.primary_axis = static_cast<datum::Axis>(primary_axis_->currentIndex());
    spec.secondary = secondary_->refs();
    spec.secondary_axis = static_cast<datum::Axis>(secondary_axis_->currentIndex());
    spec.origin = origin_->refs();
    spec.extremes = extremes_->isChecked();
    return spec;
  }
  /// Fills in the next datum system that the survey suggests; what is said of it follows.
  void propose() {
    aside([this, now = place_.session.snapshot()](const Task&) -> Session::Finish {
      auto proposed = project::propose_frames(*now);
      return [this, proposed = std::move(proposed)] {
        if (proposed.empty())
          return setError(tr("The survey has no face and no axis that a frame could rest on."));
        const auto& p = proposed[next_++ % proposed.size()];
        const project::DatumFrame& f = p.specification;
        const QSignalBlocker first(primary_axis_);
        const QSignalBlocker second(secondary_axis_);
        const QSignalBlocker third(extremes_);
        primary_->assign({f.primary}, document());
        secondary_->assign(f.secondary, document());
        origin_->assign(f.origin, document());
        primary_axis_->setCurrentIndex(static_cast<int>(f.primary_axis));
        secondary_axis_->setCurrentIndex(static_cast<int>(f.secondary_axis));
        extremes_->setChecked(f.extremes);
        wait(nullptr);
        reason_.clear();
        for (std::size_t k = 0; k < 3; ++k) {
          if (!p.reason[k].empty())
            reason_ += QStringLiteral("ABC").mid(static_cast<int>(k), 1) + QStringLiteral(": ") +
                       core_text(p.reason[k]) + QLatin1Char('\n');
        }
        update();
        reason_.clear();
      };
    });
  }
  void update() {
    std::vector<project::FitRef> all = primary_->refs();
    all.insert(all.end(), secondary_->refs().begin(), secondary_->refs().end());
    all.insert(all.end(), origin_->refs().begin(), origin_->refs().end());
    place_.bench.setSelection(regions_of(all));
    setKeepEnabled(false);
    if (primary_->refs().empty()) return setEvidence(tr("Click the face that the part stands on."));
    if (secondary_->refs().empty())
      return setEvidence(tr("Now what fixes the turn about it: a side face, or two hole walls."));
    const auto frame = project::compute_frame(document(), specification());
    if (!frame) {
      place_.bench.setPreviewPlacement({});
      return setError(core_text(frame.error().message));
    }
    place_.bench.setPreviewPlacement(compare_->isChecked() ? std::optional<Transform>()
                                                           : frame->to_part);
    setEvidence(reason_ + tr("Turn held by %1, then %2; origin by %3. Preview shown.")
                              .arg(core_text(frame->held_by[0]), core_text(frame->held_by[1]),
                                   core_text(frame->held_by[2])));
    setKeepEnabled(true);
  }
  PickField* primary_;
  PickField* secondary_;
  PickField* origin_;
  QComboBox* primary_axis_;
  QComboBox* secondary_axis_;
  QCheckBox* extremes_;
  std::size_t next_ = 0;  ///< proposal
  QString reason_;
  QCheckBox* compare_;
};

}  // namespace

Tool frame_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Frame"),
            "move-3d",
            QT_TRANSLATE_NOOP("tools", "Datum frame by 3-2-1"),
            kDatum,
            'f',
            Tool::Needs::Survey,
            [](Workplace place, project::Id) -> ToolCard* { return new FrameTool(place); }};
  tool.takes = {Item::Kind::Region, Item::Kind::Fit};
  return tool;
}

}  // namespace lostline::app
