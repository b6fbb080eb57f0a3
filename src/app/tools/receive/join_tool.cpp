#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>
#include <algorithm>
#include <cmath>
#include <map>

#include "joining/drift.h"
#include "joining/laid.h"
#include "joining/targets.h"
#include "look/catalogue.h"
#include "look/theme.h"
#include "project/join_scans.h"
#include "tools/receive/join_partner.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Brings the open scans of one part together and merges them to one: without help, by pairs of
/// places that are clicked, or from where they are moved to by hand.
class JoinTool : public ToolCard {
  /// A place on one of the two scans of a pair.
  struct Half {
    bool first;
    Vec3 at;                                ///< of its scan
    std::optional<joining::Target> target;  ///< whose centre it is
  };

 public:
  explicit JoinTool(Workplace place)
      : ToolCard(place, tr("Join"), tr("Receive")), partner_(place.bench) {
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("joinScans"));
    list_->setAccessibleName(tr("scans"));
    list_->setToolTip(tr("Those ticked are joined; the first one ticked stays where it lies"));
    list_->setMaximumHeight(62);
    addRow(tr("scans"), list_);
    how_ = new QComboBox;
    how_->setObjectName(QStringLiteral("joinHow"));
    how_->addItems({tr("without help"), tr("by pairs of places"), tr("by hand")});
    how_->setToolTip(
        tr("Pairs: click a place on the first scan and the same place on the chosen one, three "
           "times or more. By hand: drag the chosen scan, with Ctrl turn it."));
    addRow(tr("laid"), how_);
    means_ = new QComboBox;
    means_->setObjectName(QStringLiteral("joinMeans"));
    means_->addItems({tr("the place"), tr("the centre of a ball"), tr("the centre of a circle")});
    means_->setToolTip(
        tr("Reference targets: a click on a ball, or on the flat face beside a round hole or disc, "
           "means its centre"));
    means_label_ = addRow(tr("a click is"), means_);
    links_ = new QListWidget;
    links_->setObjectName(QStringLiteral("joinLinks"));
    links_->setAccessibleName(tr("links"));
    links_->setToolTip(tr("Two scans each that overlap; untick one to leave it out of account"));
    links_->setMaximumHeight(62);
    links_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    addWide(links_);
    drift_ = new QCheckBox(tr("drift between scans"));
    drift_->setObjectName(QStringLiteral("joinDrift"));
    drift_->setToolTip(tr("Colours the first scan by how far the others lie from it"));
    addWide(drift_);
    weight_ = number(1, 0, 100, 0.5, 2, QStringLiteral("joinWeight"));
    weight_->setToolTip(
        tr("Of the chosen scan where the surface is averaged: 1 as its noise says, 0 leaves it "
           "out"));
    addRow(tr("weight"), weight_);
    smooth_ = number(3, 0, 20, 0.5, 1, QStringLiteral("joinSmooth"));
    smooth_->setToolTip(tr("Spacings over which noise is averaged when they are merged"));
    addRow(tr("averaged over"), smooth_);
    addButtons({{tr("join again"), QStringLiteral("joinAgain"),
                 tr("Bring the ticked scans together anew"), [this] { join(); }},
                {tr("forget a pair"), QStringLiteral("joinForget"),
                 tr("Take back the last click, or the last pair"), [this] { forget(); }}});
    fill();
    connect(list_, &QListWidget::itemChanged, this, [this] {
      touch();
      join();
    });
    connect(list_, &QListWidget::currentRowChanged, this, [this] { chosenChanged(); });
    connect(how_, &QComboBox::currentIndexChanged, this, [this] {
      half_.reset();
      showMeans(how_->currentIndex() == kPairs);
      findChild<QPushButton*>(QStringLiteral("joinForget"))
          ->setVisible(how_->currentIndex() == kPairs);
      chosenChanged();
    });
    showMeans(false);
    findChild<QPushButton*>(QStringLiteral("joinForget"))->hide();
    connect(weight_, &QDoubleSpinBox::valueChanged, this, [this](double value) {
      if (const auto scan = chosen()) weights_[*scan] = value;
      touch();
    });
    connect(drift_, &QCheckBox::toggled, this, [this] { showDrift(); });
    connect(links_, &QListWidget::itemChanged, this, [this](QListWidgetItem*) {
      cut_.clear();
      for (int k = 0; k < links_->count(); ++k) {
        if (links_->item(k)->checkState() == Qt::Checked) continue;
        const QPoint pair = links_->item(k)->data(Qt::UserRole).toPoint();
        cut_.emplace_back(pair.x(), pair.y());
      }
      touch();
      join();
    });
  }
  void begin() override {
    place_.bench.setShow(Show::Scan);
    join();
  }
  void resume() override {
    if (!joined_) return join();
    show();
  }
  void documentChanged() override {
    if (project::open_scans(document()) == scans_) return;
    fill();
    join();
  }
  void pick(const Pick& pick) override {
    if (how_->currentIndex() != kPairs || !partner_.shown() || pick.what == Pick::What::Nothing)
      return;
    const bool first = pick.what == Pick::What::Scan;
    const Vec3 own =
        first ? Vec3(document().to_part().inverse() * pick.point) : partner_.own(pick.point);
    if (means_->currentIndex() == kPlace) return placed({first, own, {}});
    const auto kind =
        means_->currentIndex() == kBall ? joining::TargetKind::Ball : joining::TargetKind::Circle;
    aside([this, first, own, kind,
           scan = first ? scans_.front() : partner_.scan()](const Task& task) -> Session::Finish {
      const auto target = joining::target_at(kind, *scan->mesh, own, task);
      return [this, first, target] {
        if (!target) return setError(core_text(target.error().message));
        placed({first, target->centre, *target});
      };
    });
  }
  [[nodiscard]] bool takesDrag(const Pick& pick) const override {
    return how_->currentIndex() == kHand && pick.what == Pick::What::Model;
  }
  void drag(const QPointF& at, bool released) override {
    if (!partner_.shown()) return;
    const bool rests = partner_.drag(at, released);
    place_.bench.setMarks({partner_.lines()});
    if (!rests) return;
    touch();
    joined_.reset();  // the other scans stay drawn where they lay
    setKeepEnabled(false);
    laid_[*chosen()] = document().to_part().inverse() * partner_.pose();
    present(
        partner_.scan(), partner_.pose(), false,
        tr("Scan %1 lies where you left it: join again fits it from there.").arg(*chosen() + 1));
  }
  bool keep() override {
    if (!joined_) return false;
    cloud::MeshingOptions options;
    options.smooth = smooth_->value();
    std::vector<double> weights;
    for (const std::size_t scan : which_) weights.push_back(weightOf(scan));
    if (std::all_of(weights.begin(), weights.end(), [](double w) { return w == 0; })) {
      setError(tr("No scan has a weight: nothing would be left."));
      return false;
    }
    place_.session.longEdit(
        tr("join %n scan(s)", nullptr, static_cast<int>(which_.size())),
        [which = which_, joined = *joined_, options, weights, scans = scans_](
            const project::Document& d, const Task& task) -> Result<project::Document> {
          if (project::open_scans(d) != scans)
            return Error{ErrorCode::InvalidInput,
                         "The open scans are others by now, so this was not done."};
          return project::with_joined_scans(d, which, joined, weights, options, task);
        });
    return true;
  }

 private:
  enum How { kAlone, kPairs, kHand };
  enum Means { kPlace, kBall, kCircle };

  void showMeans(bool on) {
    means_label_->setVisible(on);
    means_->setVisible(on);
  }
  void fill() {
    scans_ = project::open_scans(document());
    joined_.reset();
    cut_.clear();
    pairs_.clear();
    laid_.clear();
    weights_.clear();
    half_.reset();
    partner_.hide();
    const QSignalBlocker block(list_);
    list_->clear();
    for (std::size_t i = 0; i < scans_.size(); ++i) {
      auto* item = new QListWidgetItem(
          QStringLiteral("%1  %2").arg(i + 1).arg(QString::fromStdString(scans_[i]->name)), list_);
      // What was joined before is not joined with its own parts.
      item->setCheckState(scans_[i]->name == "joined" ? Qt::Unchecked : Qt::Checked);
    }
    if (list_->count() > 1) list_->setCurrentRow(1);
  }
  /// The scan that is chosen in the list.
  [[nodiscard]] std::optional<std::size_t> chosen() const {
    const int row = list_->currentRow();
    if (row < 0 || static_cast<std::size_t>(row) >= scans_.size()) return std::nullopt;
    return static_cast<std::size_t>(row);
  }
  [[nodiscard]] double weightOf(std::size_t scan) const {
    const auto it = weights_.find(scan);
    return it == weights_.end() ? 1 : it->second;
  }
  /// The place of a scan among those ticked.
  [[nodiscard]] std::optional<std::size_t> placeOf(std::size_t scan) const {
    const auto it = std::find(which_.begin(), which_.end(), scan);
    if (it == which_.end()) return std::nullopt;
    return static_cast<std::size_t>(it - which_.begin());
  }
  void chosenChanged() {
    half_.reset();
    if (const auto scan = chosen()) {
      const QSignalBlocker block(weight_);
      weight_->setValue(weightOf(*scan));
    }
    presentPartner();
  }
  [[nodiscard]] std::ptrdiff_t pairsOfChosen() const {
    return std::count_if(pairs_.begin(), pairs_.end(),
                         [this](const auto& pair) { return pair.scan_b == *chosen(); });
  }
  /// What to do next, where the mouse lays a scan.
  [[nodiscard]] QString hint() const {
    if (how_->currentIndex() == kAlone) return {};
    if (which_.empty() || which_.front() != 0)
      return tr("Tick the first scan: the others are laid on it.");
    if (!chosen() || *chosen() == 0 || !placeOf(*chosen()))
      return tr("Choose a ticked scan in the list, not the first: it is laid on that.");
    if (how_->currentIndex() == kHand)
      return tr("Drag scan %1 to where it belongs, with Ctrl turn it; then join again.")
          .arg(*chosen() + 1);
    const QString next =
        !half_         ? tr("Click a place on the first scan or on scan %1.").arg(*chosen() + 1)
        : half_->first ? tr("Now the same place on scan %1.").arg(*chosen() + 1)
                       : tr("Now the same place on the first scan.");
    return tr("Pairs: %1, three or more tie it.").arg(pairsOfChosen()) + QLatin1Char('\n') + next;
  }
  /// Shows the chosen scan where the mouse can reach it.
  void presentPartner() {
    const auto scan = chosen();
    const bool can = how_->currentIndex() != kAlone && !which_.empty() && which_.front() == 0 &&
                     scan && *scan != 0 && placeOf(*scan);
    if (!can) {
      partner_.hide();
      if (const QString text = hint(); !text.isEmpty()) setEvidence(text);
      return;
    }
    const Transform to_part = document().to_part();
    Transform pose = to_part;
    if (laid_.contains(*scan) && !joined_)
      pose = to_part * laid_.at(*scan);
    else if (joined_)
      pose = to_part * joined_->poses[*placeOf(*scan)];
    present(scans_[*scan], pose,
            how_->currentIndex() == kPairs || (!joined_ && !laid_.contains(*scan)));
  }
  /// @param beside  next to the first scan, turned as `pose` turns it.
  void present(std::shared_ptr<const project::Scan> scan, Transform pose, bool beside,
               const QString& said = {}) {
    aside([this, scan = std::move(scan), first = scans_.front(), to_part = document().to_part(),
           pose, beside, said](const Task&) mutable -> Session::Finish {
      if (beside)
        pose = JoinPartner::beside(scan::bounds(scan::transformed(*first->mesh, to_part)),
                                   *scan->mesh, pose);
      return [this, pose, said, surface = JoinPartner::surface_of(scan, pose)] {
        const bool came = !partner_.shown();
        partner_.show(surface, pose);
        if (came) place_.bench.fitView();
        showMarks();
        if (!said.isEmpty()) return setEvidence(said);
        setEvidence((joined_ ? words() + QLatin1Char('\n') : QString()) + hint());
        setKeepEnabled(joined_.has_value());
        if (drift_->isChecked()) showDrift();
      };
    });
  }
  void placed(const Half& spot) {
    touch();
    if (!half_ || half_->first == spot.first) {
      half_ = spot;
    } else {
      const Half& one = spot.first ? spot : *half_;
      const Half& other = spot.first ? *half_ : spot;
      joining::SharedPlace pair{0, one.at, *chosen(), other.at};
      if (one.target && other.target) {
        if (!joining::alike(*one.target, *other.target))
          return setError(tr("The two are not the same: radius %1 on the first scan, %2 on the "
                             "other. Click the same target once more.")
                              .arg(length_shown(one.target->radius, 2))
                              .arg(length_shown(other.target->radius, 2)));
        pair.sigma = 0.5 * std::hypot(one.target->u, other.target->u);
      }
      pairs_.push_back(pair);
      half_.reset();
    }
    showMarks();
    if (!half_ && pairsOfChosen() >= 3) return join();
    setEvidence(hint());
  }
  void forget() {
    if (half_)
      half_.reset();
    else if (!pairs_.empty())
      pairs_.pop_back();
    showMarks();
    setEvidence(hint());
  }
  void join() {
    joined_.reset();
    setKeepEnabled(false);
    place_.bench.setMarks({});
    place_.bench.setField({});
    which_.clear();
    for (int k = 0; k < list_->count(); ++k) {
      if (list_->item(k)->checkState() == Qt::Checked)
        which_.push_back(static_cast<std::size_t>(k));
    }
    if (scans_.size() < 2)
      return setEvidence(
          tr("Open the other scans of the part beside this one first (File, Open scans beside)."));
    if (which_.size() < 2) return setEvidence(tr("Tick the scans that are to be joined."));
    setEvidence(
        tr("bringing %n scan(s) together \u2026", nullptr, static_cast<int>(which_.size())));
    std::vector<std::shared_ptr<const project::Scan>> those;
    for (const std::size_t i : which_) those.push_back(scans_[i]);
    joining::JoinOptions options;
    options.cut = cut_;
    std::map<std::size_t, Transform> laid;
    if (how_->currentIndex() == kPairs) {
      for (joining::SharedPlace pair : pairs_) {
        const auto a = placeOf(pair.scan_a);
        const auto b = placeOf(pair.scan_b);
        if (!a || !b) continue;
        pair.scan_a = *a;
        pair.scan_b = *b;
        options.pairs.push_back(pair);
      }
    } else if (how_->currentIndex() == kHand && which_.front() == 0) {
      for (const auto& [scan, pose] : laid_) {
        if (const auto place = placeOf(scan)) laid[*place] = pose;
      }
    }
    aside([this, those, options, laid](const Task& task) mutable -> Session::Finish {
      std::vector<const scan::Mesh*> meshes;
      for (const auto& scan : those) meshes.push_back(scan->mesh.get());
      const auto joined = [&]() -> Result<joining::Joined> {
        for (const auto& [scan, pose] : laid) {
          const auto places =
              joining::places_as_laid(*those.front()->index, 0, *meshes[scan], scan, pose);
          if (!places) return places.error();
          options.pairs.insert(options.pairs.end(), places->begin(), places->end());
        }
        return joining::join_scans(meshes, options, task);
      }();
      return [this, joined] {
        if (!joined) return setError(core_text(joined.error().message));
        joined_ = *joined;
        showLinks();
        show();
      };
    });
  }
  void showLinks() {
    const QSignalBlocker block(links_);
    links_->clear();
    const auto add = [&](std::size_t a, std::size_t b, const QString& text, bool on) {
      auto* item = new QListWidgetItem(text, links_);
      item->setData(Qt::UserRole, QPoint(static_cast<int>(a), static_cast<int>(b)));
      item->setCheckState(on ? Qt::Checked : Qt::Unchecked);
    };
    for (const joining::Link& link : joined_->links)
      add(link.a, link.b,
          tr("%1 and %2: RMS %3, %4 % shared")
              .arg(which_[link.a] + 1)
              .arg(which_[link.b] + 1)
              .arg(length_shown(link.rms, 4))
              .arg(100 * link.overlap, 0, 'f', 0),
          true);
    for (const auto& [a, b] : cut_)
      add(a, b, tr("%1 and %2: left out").arg(which_[a] + 1).arg(which_[b] + 1), false);
  }
  void showMarks() {
    const Transform to_part = document().to_part();
    std::vector<LineBatch> marks;
    std::vector<Callout> callouts;
    // Colours are seen without them, and the chosen scan is there itself.
    for (std::size_t k = 0; joined_ && !drift_->isChecked() && k < which_.size(); ++k) {
      if (scans_[which_[k]] == document().scan) continue;
      if (partner_.shown() && chosen() == which_[k]) continue;
      marks.push_back(lines_of(*scans_[which_[k]]->mesh, to_part * joined_->poses[k],
                               QColor::fromHsv((40 + 70 * static_cast<int>(k)) % 360, 90, 130)));
    }
    if (how_->currentIndex() == kPairs && partner_.shown()) {
      int number = 0;
      for (const joining::SharedPlace& pair : pairs_) {
        if (pair.scan_b != *chosen()) continue;
        const QString text = QString::number(++number);
        callouts.push_back({to_part * pair.a, text, true});
        callouts.push_back({partner_.pose() * pair.b, text, true});
      }
      if (half_)
        callouts.push_back({half_->first ? Vec3(to_part * half_->at) : partner_.pose() * half_->at,
                            QString::number(number + 1), true});
    }
    place_.bench.setMarks(marks, callouts);
  }
  [[nodiscard]] QString words() const {
    QString text = tr("RMS %1 over all links").arg(length_shown(joined_->rms, 4));
    for (std::size_t k = 1; k < which_.size(); ++k)
      text += tr("\nscan %1: \u00b1 %2, \u00b1 %3\u00b0")
                  .arg(which_[k] + 1)
                  .arg(length_shown(joined_->u_shift[k], 4))
                  .arg(joined_->u_turn[k] * kDegrees, 0, 'f', 4);
    for (std::size_t k = 0; k < which_.size(); ++k) {
      if (joined_->inside_out[k])
        text += tr("\nscan %1 faces inwards and is turned inside out").arg(which_[k] + 1);
    }
    for (const std::string& doubt : joined_->doubts) text += QLatin1Char('\n') + core_text(doubt);
    return text;
  }
  /// The other scans where they come to lie, drawn over the first by their edges.
  void show() {
    showMarks();
    setEvidence(words());
    setKeepEnabled(true);
    if (how_->currentIndex() != kAlone) return presentPartner();  // the drift then
    showDrift();
  }
  /// The first scan in the colours of what the others lie off it.
  void showDrift() {
    showMarks();
    if (!drift_->isChecked() || !joined_) return place_.bench.setField({});
    if (which_.front() != 0) return setEvidence(tr("Tick the first scan: drift is shown on it."));
    std::vector<joining::Lying> lying;
    std::vector<std::shared_ptr<const project::Scan>> those;
    for (std::size_t k = 0; k < which_.size(); ++k) {
      those.push_back(scans_[which_[k]]);
      lying.push_back({those.back()->mesh.get(), joined_->poses[k], joined_->inside_out[k]});
    }
    aside([this, those, lying](const Task& task) -> Session::Finish {
      const auto drift =
          joining::drift_of(lying.front(), {lying.begin() + 1, lying.end()}, 0, task);
      return [this, drift, noise = those.front()->health.noise_sigma] {
        if (!drift) return setError(core_text(drift.error().message));
        std::vector<float> sizes;
        for (const float value : *drift) {
          if (std::isfinite(value)) sizes.push_back(std::abs(value));
        }
        if (sizes.empty()) return setError(tr("No other scan lies on the first one."));
        const auto high = sizes.begin() + static_cast<std::ptrdiff_t>(0.98 * sizes.size());
        std::nth_element(sizes.begin(), high, sizes.end());
        Field field;
        field.values = std::make_shared<const std::vector<float>>(*drift);
        // Scans that differ by less than their noise have no drift to be coloured.
        field.range = std::max(*high, static_cast<float>(noise));
        field.tolerance = 0.1F * field.range;
        for (const double share : {1.0, 0.5, 0.0, -0.5, -1.0})
          field.ticks.emplace_back(share * field.range, length_shown(share * field.range, 3));
        field.high = tr("proud");
        field.low = tr("short");
        place_.bench.setField(field);
        const QString next = hint();
        setEvidence(next.isEmpty() ? words() : words() + QLatin1Char('\n') + next);
        setKeepEnabled(true);
      };
    });
  }

  QListWidget *list_, *links_;
  QComboBox* how_;
  QComboBox* means_;
  QLabel* means_label_;
  QCheckBox* drift_;
  QDoubleSpinBox *smooth_, *weight_;
  JoinPartner partner_;
  std::vector<std::shared_ptr<const project::Scan>> scans_;
  std::vector<std::size_t> which_;  ///< places of those ticked
  std::vector<std::pair<std::size_t, std::size_t>> cut_;
  std::vector<joining::SharedPlace> pairs_;  ///< of places among `scans_`
  /// A place whose other half is still to be clicked.
  std::optional<Half> half_;
  std::map<std::size_t, Transform> laid_;  ///< by hand: to the first scan's coordinates
  std::map<std::size_t, double> weights_;
  std::optional<joining::Joined> joined_;
};

}  // namespace

Tool join_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Join"),
          "puzzle",
          QT_TRANSLATE_NOOP("tools", "Bring several scans of the part together"),
          kReceive,
          'j',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new JoinTool(place); }};
}

}  // namespace lostline::app
