#include <QCheckBox>
#include <QComboBox>

#include "look/preferences.h"
#include "tools/tool_card.h"

namespace lostline::app {
namespace {

/// Health of the scan, its unit, and the cleaning that needs no picking.
class ReceiveTool : public ToolCard {
 public:
  explicit ReceiveTool(Workplace place) : ToolCard(place, tr("Scan health"), tr("Receive")) {
    unit_ = new QComboBox;
    for (const Unit unit : {Unit::Millimetre, Unit::Centimetre, Unit::Inch, Unit::Metre})
      unit_->addItem(QString::fromUtf8(unit_symbol(unit)), static_cast<int>(unit));
    unit_->setToolTip(tr("The unit that the numbers in the file are meant in"));
    const project::Scan& s = *document().scan;
    unit_->setCurrentIndex(unit_->findData(static_cast<int>(s.unit)));
    addRow(tr("file unit"), unit_);
    const auto& h = s.health;
    const auto shown = [](double mm, int decimals) {
      return QString::fromStdString(length_fixed(mm, decimals));
    };
    const auto value = [&](const QString& label, const QString& text) {
      auto* l = new QLabel(text);
      l->setAlignment(Qt::AlignRight);
      addRow(label, l);
    };
    const auto count = [](std::size_t n) { return QString::fromStdString(format_count(n)); };
    value(tr("triangles"), count(h.triangles));
    value(in_unit(tr("size, mm")),
          QStringLiteral("%1 \u00d7 %2 \u00d7 %3")
              .arg(shown(h.box.sizes().x(), 1), shown(h.box.sizes().y(), 1),
                   shown(h.box.sizes().z(), 1)));
    value(in_unit(tr("spacing, mm")), shown(h.spacing, 3));
    value(in_unit(tr("noise \u03c3, mm")),
          h.noise_sigma > 0 ? shown(h.noise_sigma, 4) : tr("unknown"));
    if (h.noise_correlation > 0)
      value(in_unit(tr("shared over, mm")), shown(h.noise_correlation, 2));
    value(tr("open edges"), count(h.open_edges));
    value(tr("non-manifold"), count(h.non_manifold_edges));
    islands_ = new QCheckBox(tr("drop %1 islands").arg(h.islands));
    islands_->setChecked(h.islands > 0);
    islands_->setEnabled(h.islands > 0);
    islands_->setToolTip(
        tr("Loose pieces with less than 2 % of the triangles of the largest: %1 triangles")
            .arg(count(h.island_triangles)));
    addWide(islands_);
    flip_ = new QCheckBox(tr("turn inside out"));
    flip_->setChecked(h.inside_out);
    flip_->setToolTip(tr("Reverse all triangles: for a scan that faces inwards"));
    addWide(flip_);
    setEvidence((h.inside_out ? tr("The scan faces inwards. ") : QString()) + tr("Unit: ") +
                QString::fromStdString(s.guess.reason) + QStringLiteral("."));
    connect(unit_, &QComboBox::currentIndexChanged, this, [this] {
      const Unit unit = static_cast<Unit>(unit_->currentData().toInt());
      const double side = document().scan->health.box.sizes().maxCoeff() /
                          mm_per(document().scan->unit) * mm_per(unit);
      setEvidence(
          tr("Longest side %1 mm when read as %2.").arg(side, 0, 'f', 1).arg(unit_->currentText()));
    });
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
    Session& session = place_.session;
    const QString name = what.join(QStringLiteral(", "));
    session.run(
        name, [&session, scan, unit, islands, flip, name](const Task& task) -> Session::Finish {
          scan::Mesh mesh = islands ? scan::drop_islands(*scan->mesh, scan->topology) : *scan->mesh;
          if (flip) mesh = scan::flipped(std::move(mesh));
          if (unit != scan->unit)
            mesh = scan::transformed(mesh,
                                     Transform(Eigen::Scaling(mm_per(unit) / mm_per(scan->unit))));
          auto prepared =
              project::prepare_scan(std::move(mesh), scan->name, scan->source, unit, task);
          return [&session, prepared, name] {
            if (!prepared)
              session.report(prepared.error());
            else
              session.commit(name, project::with_changed_scan(session.document(), *prepared));
          };
        });
    return true;
  }

 private:
  QComboBox* unit_;
  QCheckBox* islands_;
  QCheckBox* flip_;
};

}  // namespace

ToolCard* make_receive_tool(Workplace place) { return new ReceiveTool(place); }

}  // namespace lostline::app
