#include <QHeaderView>
#include <QTreeWidget>

#include "deviation/places.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/bodies.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Tolerance and range of the deviation; the value under a click.
class DeviationTool : public ToolCard {
 public:
  explicit DeviationTool(Workplace place) : ToolCard(place, tr("Deviation"), tr("Prove")) {
    tolerance_ = length(document().tolerance, 0.001, 10, 0.01, 3, QStringLiteral("tolerance"));
    range_ = length(document().deviation_range, 0.002, 100, 0.05, 3, QStringLiteral("range"));
    addRow(in_unit(tr("tolerance \u00b1, mm")), tolerance_);
    addRow(in_unit(tr("scale ends \u00b1, mm")), range_);
    list_ = new QTreeWidget;
    list_->setObjectName(QStringLiteral("places"));
    list_->setAccessibleName(tr("Worst places and faces"));
    list_->setToolTip(
        tr("Click a place to go there; click a face to see it and give it a tolerance "
           "of its own"));
    list_->setColumnCount(2);
    list_->setHeaderHidden(true);
    list_->setIndentation(8);
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    list_->setMinimumHeight(190);
    addWide(list_);
    face_tolerance_ =
        length(document().tolerance, 0.001, 10, 0.01, 3, QStringLiteral("faceTolerance"));
    face_label_ = addRow(in_unit(tr("of this face \u00b1, mm")), face_tolerance_);
    showFaceRow(false);
    connect(list_, &QTreeWidget::itemClicked, this, [this](QTreeWidgetItem* item) { go(*item); });
    connect(face_tolerance_, &QDoubleSpinBox::valueChanged, this, [this](double value) {
      if (face_.empty()) return;
      place_.session.edit(
          tr("tolerance of a face"),
          [face = face_, value](const project::Document& d) -> Result<project::Document> {
            project::Document next = d;
            if (value == d.tolerance)
              next.face_tolerances.erase(face);
            else
              next.face_tolerances[face] = value;
            return next;
          });
    });
    describe();
  }
  void begin() override {
    place_.strip.showHistogram();
    list();
  }
  void documentChanged() override {
    describe();
    list();
  }
  void pick(const Pick& pick) override {
    const auto route = place_.session.route();
    if (pick.what != Pick::What::Scan || !route->map ||
        route->map->value.size() != document().scan->mesh->vertices.size())
      return;
    const std::uint32_t v = document().scan->mesh->triangles[pick.triangle][0];
    const float value = route->map->value[v];
    const QString text =
        std::isfinite(value)
            ? QString::fromStdString((value > 0 ? "+" : "") + length_fixed(value, 3))
            : tr("no model near");
    place_.bench.setMarks({}, {{pick.point, text, false}});
  }
  bool keep() override {
    project::Document next = document();
    if (range_->value() <= tolerance_->value()) {
      setError(tr("The ends of the scale must lie beyond the tolerance."));
      return false;
    }
    if (next.tolerance == tolerance_->value() && next.deviation_range == range_->value())
      return true;
    next.tolerance = tolerance_->value();
    next.deviation_range = range_->value();
    place_.session.commit(tr("tolerance \u00b1%1").arg(tolerance_->value()), next);
    return true;
  }

 private:
  void describe() {
    const auto route = place_.session.route();
    if (!route->map || route->map_is_old)
      return setEvidence(document().steps.empty() ? tr("There is no model yet: build a step first.")
                                                  : tr("comparing \u2026"));
    const auto& s = route->statistics;
    const auto f = [](double v) { return length_shown(v, 3); };
    setEvidence(tr("RMS %1 \u00b7 %2 % within \u00b1%3\n%4 points; %5 more lie further than %8 "
                   "from the model and are left out\nmost proud %6, most short %7")
                    .arg(f(s.rms), QString::fromStdString(format_fixed(100 * s.within_fraction, 1)),
                         QString::fromStdString(length_trimmed(document().tolerance, 3)),
                         QString::fromStdString(format_count(s.n)),
                         QString::fromStdString(format_count(s.unmatched)), f(s.max), f(s.min),
                         length_shown(route->limit, 1)));
  }
  /// Worst places, then faces and regions by their share within tolerance, off the interface's
  /// thread.
  void list() {
    const auto route = place_.session.route();
    if (!route->map || route == listed_) return;
    listed_ = route;
    aside([this, route, document = place_.session.snapshot()](const Task&) -> Session::Finish {
      std::vector<Vec3> points;
      const Transform to_part = document->to_part();
      for (const Vec3& v : document->scan->mesh->vertices) points.push_back(to_part * v);
      const double apart = std::max(5.0, document->scan->health.box.diagonal().norm() / 25);
      auto places = deviation::worst_places(*route->map, points, 8, apart);
      auto faces = deviation::by_group(*route->map, route->map->face, [&](std::uint32_t f) {
        return document->tolerance_of(route->solid.face_name(f));
      });
      std::sort(faces.begin(), faces.end(), [](const auto& a, const auto& b) {
        return a.statistics.within_fraction < b.statistics.within_fraction;
      });
      return [this, route, document, places, faces] {
        setKeepEnabled(true);
        list_->clear();
        const auto head = [&](const QString& name) {
          auto* item = new QTreeWidgetItem(list_, {name, {}});
          item->setFont(0, body_font(12, true));
          return item;
        };
        const auto f = [](double v) {
          return QString::fromStdString((v > 0 ? "+" : "") + length_fixed(v, 3));
        };
        auto* top = head(in_unit(tr("worst places, mm")));
        for (const auto& p : places) {
          auto* item = new QTreeWidgetItem(top, {QString::fromStdString(project::face_title(
                                                     *document, route->solid.face_name(p.face))),
                                                 f(p.value)});
          item->setTextAlignment(1, Qt::AlignRight);
          item->setData(0, Qt::UserRole, QVariantList{p.at.x(), p.at.y(), p.at.z()});
          item->setData(0, Qt::UserRole + 1, p.face);
        }
        auto* by_face = head(tr("faces, % within"));
        for (const auto& g : faces) {
          const std::string name = route->solid.face_name(g.group);
          auto* item = new QTreeWidgetItem(
              by_face,
              {QString::fromStdString(project::face_title(*document, name)),
               QString::fromStdString(format_fixed(100 * g.statistics.within_fraction, 1))});
          item->setTextAlignment(1, Qt::AlignRight);
          item->setToolTip(0, tr("RMS %1, mean %2, most proud %3, most short %4, %5 points, "
                                 "tolerance \u00b1%6")
                                  .arg(f(g.statistics.rms), f(g.statistics.mean),
                                       f(g.statistics.max), f(g.statistics.min))
                                  .arg(g.statistics.n)
                                  .arg(document->tolerance_of(name)));
          item->setData(0, Qt::UserRole + 1, g.group);
        }
        list_->expandAll();
      };
    });
  }
  void go(const QTreeWidgetItem& item) {
    const auto face = item.data(0, Qt::UserRole + 1);
    if (!face.isValid()) return;
    const auto at = item.data(0, Qt::UserRole).toList();
    const auto route = place_.session.route();
    if (face.toUInt() >= route->solid.face_count()) return;
    if (at.size() == 3) {
      const Vec3 p(at[0].toDouble(), at[1].toDouble(), at[2].toDouble());
      place_.bench.flyTo(p);
      place_.bench.setMarks({}, {{p, item.text(1), false}});
      return;
    }
    face_ = route->solid.face_name(face.toUInt());
    place_.bench.setModelSelection({face.toUInt()});
    const QSignalBlocker block(face_tolerance_);
    face_tolerance_->setValue(document().tolerance_of(face_));
    showFaceRow(true);
  }
  void showFaceRow(bool on) {
    face_tolerance_->setVisible(on);
    face_label_->setVisible(on);
  }
  QDoubleSpinBox* tolerance_;
  QDoubleSpinBox* range_;
  QTreeWidget* list_;
  QDoubleSpinBox* face_tolerance_;
  QLabel* face_label_;
  std::string face_;
  std::shared_ptr<const RouteState> listed_;
};

}  // namespace

Tool deviation_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Deviation"),
          "gauge",
          QT_TRANSLATE_NOOP("tools", "Signed distance of the scan from the model"),
          kProve,
          'd',
          Tool::Needs::ScanAndModel,
          [](Workplace place, project::Id) -> ToolCard* { return new DeviationTool(place); }};
}

}  // namespace lostline::app
