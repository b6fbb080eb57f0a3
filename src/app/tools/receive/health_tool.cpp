#include <QCheckBox>
#include <QComboBox>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "scan/next_view.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Health of the scan, its unit, and the cleaning that needs no picking.
class HealthTool : public ToolCard {
 public:
  explicit HealthTool(Workplace place) : ToolCard(place, tr("Health"), tr("Receive")) {
    unit_ = new QComboBox;
    for (const Unit unit : {Unit::Millimetre, Unit::Centimetre, Unit::Inch, Unit::Metre})
      unit_->addItem(QString::fromUtf8(unit_symbol(unit)), static_cast<int>(unit));
    unit_->setToolTip(tr("The unit that the numbers in the file are meant in"));
    addRow(tr("file unit"), unit_);
    const auto value = [&](const QString& label) {
      auto* l = new QLabel;
      l->setAlignment(Qt::AlignRight);
      addRow(label, l);
      return l;
    };
    triangles_ = value(tr("triangles"));
    size_ = value(in_unit(tr("size, mm")));
    spacing_ = value(in_unit(tr("spacing, mm")));
    noise_ = value(in_unit(tr("noise \u03c3, mm")));
    shared_ = value(in_unit(tr("shared over, mm")));
    open_edges_ = value(tr("open edges"));
    non_manifold_ = value(tr("non-manifold"));
    addButtons({{tr("from where is more seen"), QStringLiteral("nextView"),
                 tr("Look from where another scan would see most of the open borders"),
                 [this] { lookFromNextView(); }}});
    islands_ = new QCheckBox;
    addWide(islands_);
    flip_ = new QCheckBox(tr("turn inside out"));
    flip_->setToolTip(tr("Reverse all triangles: for a scan that faces inwards"));
    addWide(flip_);
    connect(unit_, &QComboBox::currentIndexChanged, this, [this] {
      const Unit unit = static_cast<Unit>(unit_->currentData().toInt());
      const double side = document().scan->health.box.sizes().maxCoeff() /
                          mm_per(document().scan->unit) * mm_per(unit);
      setEvidence(tr("Longest side %1 %2 when read as %3.")
                      .arg(shown(side, 1), length_unit(), unit_->currentText()));
    });
    fill();
  }
  void resume() override {}
  void documentChanged() override {
    if (document().scan != scan_ && document().scan) fill();
  }

  bool keep() override {
    const auto scan = document().scan;
    const Unit unit = static_cast<Unit>(unit_->currentData().toInt());
    const bool islands = islands_->isChecked();
    const bool flip = flip_->isChecked();
    if (unit == scan->unit && !islands && !flip) return true;
    QStringList what;
    if (unit != scan->unit) what << tr("read scan as %1").arg(unit_->currentText());
    if (islands) what << tr("drop %1 islands").arg(scan->health.islands);
    if (flip) what << tr("turn scan inside out");
    place_.session.longEdit(
        what.join(QStringLiteral(", ")),
        [unit, islands, flip](const project::Document& d,
                              const Task& task) -> Result<project::Document> {
          if (!d.scan)
            return Error{ErrorCode::InvalidInput, "The scan is gone, so this was not done."};
          const project::Scan& now = *d.scan;
          scan::Mesh mesh = islands ? scan::drop_islands(*now.mesh, now.topology) : *now.mesh;
          if (flip) mesh = scan::flipped(std::move(mesh));
          if (unit != now.unit)
            mesh =
                scan::transformed(mesh, Transform(Eigen::Scaling(mm_per(unit) / mm_per(now.unit))));
          auto prepared = project::prepare_scan(std::move(mesh), now.name, now.source, unit, task);
          if (!prepared) return prepared.error();
          return project::with_changed_scan(d, *prepared);
        });
    return true;
  }

 private:
  void lookFromNextView() {
    setEvidence(tr("looking \u2026"));
    aside([this, scan = document().scan,
           to_part = document().to_part()](const Task& task) -> Session::Finish {
      const auto view = scan::next_view(*scan->mesh, scan->topology, *scan->index, task);
      return [this, view, to_part] {
        if (!view) return setError(core_text(view.error().message));
        const Vec3 from = (to_part.linear() * view->from).normalized();
        const Vec3 up = std::abs(from.z()) > 0.95 ? Vec3(Vec3::UnitY()) : Vec3(Vec3::UnitZ());
        place_.bench.lookAt(from, up);
        setEvidence(tr("From here another scan would see %1 % of the open borders.")
                        .arg(100 * view->seen, 0, 'f', 0));
      };
    });
  }
  static QString shown(double mm, int decimals) { return length_shown(mm, decimals); }
  /// What the scan is like, and what is proposed to be done about it.
  void fill() {
    scan_ = document().scan;
    const project::Scan& s = *scan_;
    const auto& h = s.health;
    const auto count = [](std::size_t n) { return QString::fromStdString(format_count(n)); };
    const QSignalBlocker block(unit_);
    unit_->setCurrentIndex(unit_->findData(static_cast<int>(s.unit)));
    triangles_->setText(count(h.triangles));
    size_->setText(QStringLiteral("%1 \u00d7 %2 \u00d7 %3")
                       .arg(shown(h.box.sizes().x(), 1), shown(h.box.sizes().y(), 1),
                            shown(h.box.sizes().z(), 1)));
    spacing_->setText(shown(h.spacing, 3));
    noise_->setText(h.noise_sigma > 0 ? shown(h.noise_sigma, 4) : tr("unknown"));
    shared_->setText(h.noise_correlation > 0 ? shown(h.noise_correlation, 2) : tr("nothing"));
    open_edges_->setText(count(h.open_edges));
    non_manifold_->setText(count(h.non_manifold_edges));
    islands_->setText(tr("drop %1 islands").arg(h.islands));
    islands_->setChecked(h.islands > 0);
    islands_->setEnabled(h.islands > 0);
    islands_->setToolTip(
        tr("Loose pieces with less than 2 % of the triangles of the largest: %1 triangles")
            .arg(count(h.island_triangles)));
    flip_->setChecked(h.inside_out);
    setEvidence((h.inside_out ? tr("The scan faces inwards. ") : QString()) + tr("Unit: ") +
                core_text(s.guess.reason) + QStringLiteral("."));
  }

  std::shared_ptr<const project::Scan> scan_;
  QComboBox* unit_;
  QLabel* triangles_;
  QLabel* size_;
  QLabel* spacing_;
  QLabel* noise_;
  QLabel* shared_;
  QLabel* open_edges_;
  QLabel* non_manifold_;
  QCheckBox* islands_;
  QCheckBox* flip_;
};

}  // namespace

Tool health_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Health"),
          "stethoscope",
          QT_TRANSLATE_NOOP("tools", "Unit, health and islands of the scan"),
          kReceive,
          'h',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new HealthTool(place); }};
}

}  // namespace lostline::app
