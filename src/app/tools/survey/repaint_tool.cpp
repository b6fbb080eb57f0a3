#include <QComboBox>
#include <set>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/datums.h"
#include "scan/selection.h"
#include "survey/hand.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Regions corrected by hand: merged, split by a drawn line, repainted with a brush, grown, shrunk,
/// split again, locked. Every act is an undoable edit of its own.
class RepaintTool : public ToolCard {
 public:
  explicit RepaintTool(Workplace place) : ToolCard(place, tr("Repaint"), tr("Survey")) {
    mode_ = new QComboBox;
    mode_->setObjectName(QStringLiteral("repaintMode"));
    mode_->addItems({tr("picks regions"), tr("splits by a line"), tr("paints the picked region"),
                     tr("paints a new region")});
    mode_->setToolTip(tr("What the mouse does on the scan"));
    addRow(tr("the mouse"), mode_);
    size_ = length(3, 0.1, 1000, 0.5, 1, QStringLiteral("brushSize"));
    size_label_ = addRow(in_unit(tr("brush, mm")), size_);
    addButtons({{tr("merge"), QStringLiteral("mergeRegions"),
                 tr("Join the picked regions into the first"), [this] { merge(); }},
                {tr("grow"), QStringLiteral("growRegion"), tr("One ring of triangles more"),
                 [this] { ring(true); }},
                {tr("shrink"), QStringLiteral("shrinkRegion"), tr("One ring of triangles less"),
                 [this] { ring(false); }}});
    addButtons({{tr("split again"), QStringLiteral("splitAgain"),
                 tr("Look for smaller faces in the picked regions only"), [this] { again(); }},
                {tr("lock"), QStringLiteral("lockRegion"),
                 tr("Locked regions stay as they are, whatever is painted near them"),
                 [this] { lock(); }}});
    finish_ = new QComboBox;
    finish_->setObjectName(QStringLiteral("finish"));
    for (const survey::Finish f :
         {survey::Finish::Machined, survey::Finish::AsCast, survey::Finish::Formed})
      finish_->addItem(core_word(survey::finish_name(f)), static_cast<int>(f));
    finish_->setToolTip(tr("Say what finish the picked regions have; their trust goes with it"));
    addRow(tr("finish"), finish_);
    connect(finish_, &QComboBox::activated, this, [this] { setFinish(); });
    connect(mode_, &QComboBox::currentIndexChanged, this, [this] { describe(); });
    setOnlyDone();
    describe();
  }
  void pick(const Pick& pick) override {
    start_ = pick.screen;
    painted_.clear();
    if (mode_->currentIndex() >= kPaint) return brush(pick.screen);
    if (mode_->currentIndex() != kPick || pick.region == 0) return;
    const auto it = std::find(picked_.begin(), picked_.end(), pick.region);
    if (it != picked_.end())
      picked_.erase(it);
    else
      picked_.push_back(pick.region);
    describe();
  }
  void pickRef(const project::FitRef& ref) override {
    if (ref.region == 0) return;
    picked_.push_back(ref.region);
    describe();
  }
  [[nodiscard]] bool takesDrag(const Pick& pick) const override {
    return mode_->currentIndex() == kSplit ||
           (mode_->currentIndex() >= kPaint && pick.what == Pick::What::Scan);
  }
  void drag(const QPointF& at, bool released) override {
    if (mode_->currentIndex() >= kPaint) {
      brush(at);
      if (released) paint();
    } else if (mode_->currentIndex() == kSplit) {
      place_.bench.setRubber(released ? QPolygonF() : QPolygonF({start_, at}));
      if (released) split(at);
    }
  }
  void documentChanged() override {
    const auto& survey = document().survey;
    std::erase_if(picked_, [&](std::uint32_t r) {
      return !survey || r > survey->regions.size() || survey->regions[r - 1].triangles == 0;
    });
    describe();
  }
  void resume() override { describe(); }
  bool keep() override { return true; }

 private:
  enum { kPick, kSplit, kPaint, kPaintNew };
  void describe() {
    size_->setVisible(mode_->currentIndex() >= kPaint);
    size_label_->setVisible(mode_->currentIndex() >= kPaint);
    place_.bench.setSelection(picked_);
    QStringList names;
    for (const std::uint32_t r : picked_) {
      QString name = QString::fromStdString(document().name_of({r, 0}));
      const survey::Region& region = document().survey->regions[r - 1];
      if (region.fit) name += tr(" (RMS %1)").arg(region.fit->rms, 0, 'f', 3);
      name += QStringLiteral(", ") + core_word(survey::finish_name(region.finish));
      if (region.locked) name += tr(", locked");
      names << name;
    }
    const QString hint = mode_->currentIndex() == kSplit   ? tr("Drag a line across a region.")
                         : mode_->currentIndex() == kPaint ? tr("Drag over what belongs to it.")
                         : mode_->currentIndex() == kPaintNew
                             ? tr("Drag over what is a face of its own.")
                             : tr("Click regions.");
    setEvidence(names.isEmpty() ? hint
                                : names.join(QStringLiteral("\n")) + QLatin1Char('\n') + hint);
  }
  /// An edit of the survey; the regions that changed are refitted off the interface's thread.
  void change(
      const QString& name,
      std::function<Result<survey::Survey>(const survey::Survey&, const project::Scan&)> edit) {
    place_.session.edit(
        name, [edit = std::move(edit)](const project::Document& d) -> Result<project::Document> {
          if (!d.survey || !d.scan)
            return Error{ErrorCode::InvalidInput, "There are no regions yet."};
          auto changed = edit(*d.survey, *d.scan);
          if (!changed) return changed.error();
          return project::refresh(
              project::with_survey(d, std::make_shared<const survey::Survey>(*std::move(changed))));
        });
  }
  void merge() {
    const auto picked = picked_;
    change(tr("merge regions"), [picked](const survey::Survey& s, const project::Scan& scan) {
      return survey::merge_regions(s, *scan.mesh, scan.topology, picked);
    });
  }
  void setFinish() {
    if (picked_.empty()) return setError(tr("Click a region first."));
    const auto finish = static_cast<survey::Finish>(finish_->currentData().toInt());
    place_.session.edit(tr("finish of %n region(s)", nullptr, static_cast<int>(picked_.size())),
                        [picked = picked_, finish](const project::Document& d) {
                          return project::set_finish(d, picked, finish);
                        });
  }
  void ring(bool more) {
    if (picked_.empty()) return setError(tr("Click a region first."));
    change(more ? tr("grow a region") : tr("shrink a region"),
           [region = picked_.back(), more](const survey::Survey& s, const project::Scan& scan) {
             return survey::grow_region(s, *scan.mesh, scan.topology, region, more);
           });
  }
  void again() {
    if (picked_.empty()) return setError(tr("Click the regions to split again first."));
    const auto picked = picked_;
    change(tr("split again"), [picked](const survey::Survey& s, const project::Scan& scan) {
      std::vector<std::uint32_t> triangles;
      for (const std::uint32_t r : picked) {
        const auto own = survey::triangles_of(s, r);
        triangles.insert(triangles.end(), own.begin(), own.end());
      }
      survey::SurveyOptions finer;
      finer.sensitivity = 0.6;
      return survey::split_again(s, *scan.mesh, scan.topology, triangles, finer);
    });
  }
  void lock() {
    if (picked_.empty()) return setError(tr("Click the regions to lock first."));
    project::Document next = document();
    auto survey = std::make_shared<survey::Survey>(*next.survey);
    const bool on = !survey->regions[picked_.front() - 1].locked;
    for (const std::uint32_t r : picked_) survey->regions[r - 1].locked = on;
    next.survey = std::move(survey);
    place_.session.commit(on ? tr("lock regions") : tr("unlock regions"), std::move(next));
    describe();
  }
  /// By the plane through the drawn line and the eye; the region crossed most.
  void split(const QPointF& to) {
    const Camera& camera = place_.bench.camera();
    std::map<std::uint32_t, int> crossed;
    for (int k = 0; k <= 40; ++k) {
      const Pick pick = place_.bench.pickAt(start_ + (to - start_) * (k / 40.0));
      if (pick.what == Pick::What::Scan && pick.region != 0) ++crossed[pick.region];
    }
    if (crossed.empty()) return setError(tr("The line crosses no region."));
    const auto most = std::max_element(crossed.begin(), crossed.end(),
                                       [](auto& a, auto& b) { return a.second < b.second; });
    const Transform to_scan = document().to_part().inverse();
    const Vec3 a = to_scan * camera.rayOrigin(start_);
    const Vec3 b = to_scan * camera.rayOrigin(to);
    const Vec3 normal = (b - a).cross(to_scan.linear() * camera.viewDirection()).normalized();
    change(tr("split region %1").arg(most->first),
           [region = most->first, a, normal](const survey::Survey& s, const project::Scan& scan) {
             return survey::split_region(s, *scan.mesh, scan.topology, region, a, normal);
           });
  }
  void brush(const QPointF& at) {
    const Pick pick = place_.bench.pickAt(at);
    if (pick.what != Pick::What::Scan) return;
    const project::Scan& scan = *document().scan;
    const Vec3 centre = document().to_part().inverse() * pick.point;
    const auto front =
        scan::patch_around(*scan.mesh, scan.topology, pick.triangle, centre, size_->value());
    painted_.insert(front.begin(), front.end());
    place_.bench.setSelection(picked_, {painted_.begin(), painted_.end()});
  }
  void paint() {
    const bool fresh = mode_->currentIndex() == kPaintNew;
    if (!fresh && picked_.empty())
      return setError(tr("Pick the region first, then paint what belongs to it."));
    const std::uint32_t to = fresh ? 0 : picked_.back();
    change(fresh ? tr("paint a region") : tr("repaint region %1").arg(to),
           [to, triangles = std::vector<std::uint32_t>(painted_.begin(), painted_.end())](
               const survey::Survey& s, const project::Scan& scan) {
             return survey::repaint(s, *scan.mesh, scan.topology, triangles, to);
           });
    painted_.clear();
  }
  QComboBox* mode_;
  QComboBox* finish_;
  QDoubleSpinBox* size_;
  QLabel* size_label_;
  std::vector<std::uint32_t> picked_;
  std::set<std::uint32_t> painted_;
  QPointF start_;
};

}  // namespace

Tool repaint_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Repaint"),
            "paintbrush",
            QT_TRANSLATE_NOOP("tools", "Merge, split, repaint, lock regions by hand"),
            kSurvey,
            'p',
            Tool::Needs::Survey,
            [](Workplace place, project::Id) -> ToolCard* { return new RepaintTool(place); }};
  tool.takes = {Item::Kind::Region};
  return tool;
}

}  // namespace lostline::app
