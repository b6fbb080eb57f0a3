#include <QListWidget>
#include <QTimer>
#include <mutex>
#include <set>

#include "fit/surface_kind.h"
#include "look/catalogue.h"
#include "look/theme.h"
#include "project/probed.h"
#include "tools/receive/instrument_card.h"

namespace lostline::app {
namespace {

using instruments::Touch;

/// A feature while it is being probed.
struct Probing {
  std::string name;
  instruments::Probed kind = instruments::Probed::Plane;
  std::vector<Touch> touches;
  std::optional<instruments::ProbedFit> fitted;
  std::string lack;      ///< why there is no fit yet
  project::FitRef pair;  ///< of the scan, as the engineer says
};

/// Features touched one after another, each fitted while it is probed, then laid on the scan.
class ProbeTool : public InstrumentCard {
 public:
  explicit ProbeTool(Workplace place)
      : InstrumentCard(place, tr("Probe"), instruments::Introduction::Kind::Probe) {
    kind_ = new QComboBox;
    kind_->setObjectName(QStringLiteral("probedKind"));
    for (const auto& kind : instruments::probed_kinds()) kind_->addItem(words(kind.name));
    kind_->setToolTip(tr("What is touched next; the instrument's own programme says it itself"));
    addRow(tr("feature"), kind_);
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("probedFeatures"));
    list_->setAccessibleName(tr("features"));
    list_->setToolTip(tr("Click a region of the scan to say that the chosen feature lies on it"));
    list_->setMinimumHeight(120);
    list_->setMaximumHeight(220);
    addWide(list_);
    addButtons({{tr("new"), QStringLiteral("probedNew"), tr("A new feature of this kind"),
                 [this] { begin_feature(); }},
                {tr("touch"), QStringLiteral("probeNext"),
                 tr("The next touch of the instrument's programme"), [this] { run(1); }},
                {tr("all"), QStringLiteral("probeAll"), tr("The programme to its end"),
                 [this] { run(100000); }}});
    addButtons({{tr("match with the scan"), QStringLiteral("probeMatch"),
                 tr("Lay the probed features on the scan: by the pairs that were said, else all "
                    "are matched with its regions"),
                 [this] { match(); }}});
    poll_.setInterval(80);
    connect(&poll_, &QTimer::timeout, this, [this] { take(); });
    connect(list_, &QListWidget::currentRowChanged, this, [this] { tell(); });
    setKeepEnabled(false);
    setEvidence(
        tr("Touch the part: by the instrument's programme, or, once matched, by clicking "
           "the scan."));
  }
  void begin() override {
    if (document().scan) place_.bench.setShow(Show::Scan);
    show();
  }
  void documentChanged() override {
    if (document().scan != scan_ && to_scan_) {
      to_scan_.reset();
      setKeepEnabled(false);
    }
    show();
  }
  void pick(const Pick& pick) override {
    if (pick.what != Pick::What::Scan) return;
    if (to_scan_) return touch_at(pick);
    if (pick.region != 0) pickRef({pick.region, 0});
  }
  void pickRef(const project::FitRef& ref) override {
    const int row = list_->currentRow();
    if (to_scan_ || row < 0 || static_cast<std::size_t>(row) >= features_.size()) return;
    touch();
    features_[static_cast<std::size_t>(row)].pair = ref;
    fill();
  }
  bool keep() override {
    const auto features = fitted();
    if (!to_scan_ || features.empty()) return false;
    commitAside(tr("keep %n probed feature(s)", nullptr, static_cast<int>(features.size())),
                [features, to_scan = *to_scan_](const project::Document& d) {
                  return project::add_probed(d, features, to_scan);
                });
    return false;
  }

 private:
  /// What a worker that probes hands over while it goes on.
  struct Feed {
    std::mutex mutex;
    std::optional<instruments::Introduction> said;  ///< by the instrument, before its touches
    std::vector<instruments::Client::Programmed> touches;
  };

  static QString words(const char* name) { return QCoreApplication::translate("core", name); }

  void begin_feature() {
    const auto& kind = instruments::probed_kinds()[static_cast<std::size_t>(kind_->currentIndex())];
    int number = 1;
    const auto taken = [&](const std::string& name) {
      return std::any_of(features_.begin(), features_.end(),
                         [&](const Probing& f) { return f.name == name; });
    };
    while (taken(std::string(kind.name) + " " + std::to_string(number))) ++number;
    touch();
    features_.push_back(
        {std::string(kind.name) + " " + std::to_string(number), kind.kind, {}, {}, {}, {}});
    settle(features_.back());
    fill();
    list_->setCurrentRow(static_cast<int>(features_.size()) - 1);
  }
  /// Touches of the instrument's own programme.
  void run(int most) {
    touch();
    feed_ = std::make_shared<Feed>();
    poll_.start();
    withTalk([this, feed = feed_, most](const std::shared_ptr<Talk>& talk,
                                        const Task& task) -> Session::Finish {
      {
        const std::scoped_lock lock(feed->mutex);
        feed->said = talk->client.instrument();
      }
      std::optional<Error> error;
      bool done = false;
      for (int k = 0; k < most && !done; ++k) {
        const auto next = talk->client.next_touch(task);
        if (!next) {
          error = next.error();
          break;
        }
        done = !*next;
        if (done) break;
        const std::scoped_lock lock(feed->mutex);
        feed->touches.push_back(**next);
      }
      return [this, error, done] {
        poll_.stop();
        take();
        if (error) return setError(core_text(error->message));
        if (done) ended_ = true;
        tell();
        setKeepEnabled(to_scan_.has_value());
      };
    });
  }
  /// A touch where the scan was clicked, for the feature that is chosen.
  void touch_at(const Pick& pick) {
    const int row = list_->currentRow();
    if (row < 0) return setEvidence(tr("Choose a feature of the list, or begin a new one."));
    const Transform to_machine = (document().to_part() * *to_scan_).inverse();
    const Vec3 at = to_machine * pick.point;
    const scan::Mesh& mesh = *document().scan->mesh;
    const Vec3 out = to_scan_->inverse().linear() * mesh.area_vector(pick.triangle).normalized();
    touch();
    withTalk([this, at, out, row](const std::shared_ptr<Talk>& talk,
                                  const Task& task) -> Session::Finish {
      const auto touched = talk->client.touch(at, out, task);
      return [this, touched, row, said = talk->client.instrument()] {
        said_ = said;
        setKeepEnabled(true);
        if (!touched) return setError(core_text(touched.error().message));
        if (!*touched) return setError(tr("The probe met nothing there."));
        Probing& feature = features_[static_cast<std::size_t>(row)];
        feature.touches.push_back(**touched);
        settle(feature);
        fill();
      };
    });
  }
  /// Fits a feature to what it has.
  void settle(Probing& feature) const {
    double tip = 0;
    double noise = 0;
    if (said_) {
      tip = said_->gives_centres ? 0.5 * said_->tip : 0;
      noise = said_->noise;
    }
    const auto fitted = instruments::fit_touches(feature.kind, feature.touches, tip, noise);
    feature.fitted = fitted ? std::optional(*fitted) : std::nullopt;
    feature.lack = fitted ? std::string() : fitted.error().message;
  }
  /// What has come since the last look.
  void take() {
    std::vector<instruments::Client::Programmed> touches;
    {
      const std::scoped_lock lock(feed_->mutex);
      touches.swap(feed_->touches);
      if (feed_->said) said_ = feed_->said;
    }
    if (touches.empty()) return;
    std::set<std::string> changed;
    for (const auto& [name, one] : touches) {
      const instruments::ProbedKind* kind = instruments::probed_kind_of(name);
      if (kind == nullptr) continue;
      auto known = std::find_if(features_.begin(), features_.end(),
                                [&, &name = name](const Probing& f) { return f.name == name; });
      if (known == features_.end())
        known = features_.insert(features_.end(), {name, kind->kind, {}, {}, {}, {}});
      known->touches.push_back(one);
      changed.insert(name);
    }
    for (Probing& f : features_) {
      if (changed.contains(f.name)) settle(f);
    }
    fill();
    list_->setCurrentRow(static_cast<int>(features_.size()) - 1);
  }
  [[nodiscard]] std::vector<project::ProbedFeature> fitted() const {
    std::vector<project::ProbedFeature> some;
    for (const Probing& f : features_) {
      if (f.fitted) some.push_back({f.name, f.kind, *f.fitted});
    }
    return some;
  }
  void match() {
    scan_ = document().scan;
    if (!scan_) return setError(tr("Open the scan first: probed features are laid on it."));
    if (!document().survey)
      return setError(tr("Split the scan into regions first (Survey, Regions)."));
    const auto features = fitted();
    std::vector<project::ProbedPair> pairs;
    for (std::size_t i = 0, k = 0; i < features_.size(); ++i) {
      if (!features_[i].fitted) continue;
      if (!features_[i].pair.empty()) pairs.push_back({k, features_[i].pair});
      ++k;
    }
    touch();
    setEvidence(tr("matching \u2026"));
    aside([this, features, pairs, d = document()](const Task& task) -> Session::Finish {
      Result<std::vector<datum::Candidate>> ways = std::vector<datum::Candidate>{};
      if (pairs.empty()) {
        ways = project::place_probed(d, features, task);
      } else {
        const auto one = project::place_probed_by(d, features, pairs);
        ways = one ? Result<std::vector<datum::Candidate>>({*one}) : one.error();
      }
      return [this, ways] {
        if (!ways) return setError(core_text(ways.error().message));
        to_scan_ = ways->front().fit.motion;
        rms_ = ways->front().fit.rms;
        ways_ = ways->size();
        setKeepEnabled(true);
        fill();
      };
    });
  }
  void fill() {
    const int row = list_->currentRow();
    const QSignalBlocker block(list_);
    list_->clear();
    for (const Probing& f : features_) {
      QString text = tr("%1: touches %2").arg(QString::fromStdString(f.name)).arg(f.touches.size());
      if (f.fitted && f.fitted->fit)
        text += tr(", form %1").arg(length_shown(f.fitted->fit->form_error, 4));
      if (!f.pair.empty())
        text += QStringLiteral(" = ") + QString::fromStdString(document().name_of(f.pair));
      list_->addItem(text);
    }
    list_->setCurrentRow(std::min(row, list_->count() - 1));
    show();
  }
  /// The places touched, where the scan says that they lie; the chosen feature's in red.
  void show() {
    const bool alone = !document().scan;
    std::vector<std::shared_ptr<const PointBatch>> batches;
    if (to_scan_ || alone) {
      const Transform motion =
          alone ? Transform::Identity() : Transform(document().to_part() * *to_scan_);
      for (std::size_t i = 0; i < features_.size(); ++i) {
        if (!features_[i].fitted) continue;
        std::vector<Vec3> points;
        std::vector<Vec3> normals;
        const auto& fit = features_[i].fitted->fit;
        for (std::size_t k = 0; k < features_[i].touches.size(); ++k) {
          const Vec3& place = features_[i].fitted->places[k];
          const Vec3 out = fit && !fit::is_curve(fit->surface.kind) ? fit->surface.normal_at(place)
                                                                    : features_[i].touches[k].out;
          // A hair above the surface, or half of each dot would sink into it.
          points.emplace_back(motion * (place + 0.2 * out));
          normals.emplace_back(motion.linear() * out);
        }
        const bool chosen = static_cast<int>(i) == list_->currentRow();
        batches.push_back(point_batch(points, normals, chosen ? role::red_pencil : role::ink, 6));
      }
    }
    place_.bench.setPoints(std::move(batches));
    tell();
  }
  void tell() {
    QString text;
    const int row = list_->currentRow();
    if (row >= 0 && static_cast<std::size_t>(row) < features_.size()) {
      const Probing& f = features_[static_cast<std::size_t>(row)];
      if (!f.lack.empty()) text = QString::fromStdString(f.lack);
      if (f.fitted && f.fitted->fit) text = sizes(*f.fitted->fit);
      if (f.fitted && f.fitted->slot)
        text = tr("width %1")
                   .arg(length_reading(2 * f.fitted->slot->radius, 2 * f.fitted->slot->u_radius)
                            .c_str());
    }
    if (to_scan_) text += tr("\nmatched: RMS %1").arg(length_shown(rms_, 4));
    if (to_scan_ && ways_ > 1)
      text += tr(", the best of %1 ways that the part lies alike").arg(ways_);
    if (ended_) text += tr("\nThe programme is at its end.");
    if (features_.empty())
      text =
          tr("Touch the part: by the instrument's programme, or, once matched, by clicking the "
             "scan.");
    setEvidence(text.trimmed());
  }
  static QString sizes(const fit::SurfaceFit& fit) {
    QString text;
    for (const fit::SizeInfo& size : fit::about(fit.surface.kind).size_list()) {
      const bool angle = size.unit == fit::SizeInfo::Unit::Angle;
      text += QStringLiteral("%1 %2\n").arg(
          QString::fromUtf8(size.symbol),
          QString::fromStdString(angle ? format_reading(size.said(fit.surface), size.said_u(fit)) +
                                             "\u00b0"
                                       : length_reading(size.said(fit.surface), size.said_u(fit))));
    }
    return text + tr("form %1, U along %2, U of direction %3\u00b0")
                      .arg(length_shown(fit.form_error, 4), length_shown(fit.u_offset, 4))
                      .arg(fit.u_angle * 57.29577951308232, 0, 'f', 4);
  }

  QComboBox* kind_;
  QListWidget* list_;
  QTimer poll_;
  std::shared_ptr<Feed> feed_ = std::make_shared<Feed>();
  std::optional<instruments::Introduction> said_;  ///< by the instrument of the last talk
  std::vector<Probing> features_;
  std::shared_ptr<const project::Scan> scan_;  ///< that it was matched with
  std::optional<Transform> to_scan_;           ///< of the machine's coordinates
  double rms_ = 0;
  std::size_t ways_ = 0;
  bool ended_ = false;
};

}  // namespace

Tool probe_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Probe"),
            "pin",
            QT_TRANSLATE_NOOP("tools", "Touch features of the part with a probe"),
            kReceive,
            'p',
            Tool::Needs::Nothing,
            [](Workplace place, project::Id) -> ToolCard* { return new ProbeTool(place); }};
  tool.group = QT_TRANSLATE_NOOP("tools", "Devices");
  return tool;
}

}  // namespace lostline::app
