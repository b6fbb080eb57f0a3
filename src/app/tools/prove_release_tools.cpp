#include <QComboBox>
#include <QDate>
#include <QFileDialog>
#include <QHeaderView>
#include <QLineEdit>
#include <QTreeWidget>

#include "deviation/places.h"
#include "io/files.h"
#include "io/formats.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/bodies.h"
#include "report/report.h"
#include "store/project_file.h"
#include "tools/tool_card.h"

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
    const auto f = [](double v) { return QString::fromStdString(length_fixed(v, 3)); };
    setEvidence(tr("RMS %1 \u00b7 %2 % within \u00b1%3\n%4 points; %5 more lie further than %8 "
                   "from the model and are left out\nmost proud %6, most short %7")
                    .arg(f(s.rms), QString::fromStdString(format_fixed(100 * s.within_fraction, 1)),
                         QString::fromStdString(length_trimmed(document().tolerance, 3)),
                         QString::fromStdString(format_count(s.n)),
                         QString::fromStdString(format_count(s.unmatched)), f(s.max), f(s.min),
                         QString::fromStdString(length_fixed(route->limit, 1))));
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

/// Writes the model, the deviation map, the Ledger, the report or a sketch.
class ExportTool : public ToolCard {
 public:
  explicit ExportTool(Workplace place) : ToolCard(place, tr("Hand on"), tr("Release")) {
    what_ = new QComboBox;
    what_->setObjectName(QStringLiteral("exportWhat"));
    fill();
    addRow(tr("what"), what_);
    base_ = place.session.path().isEmpty()
                ? QString::fromStdString(document().title)
                : QFileInfo(place.session.path()).absolutePath() + QLatin1Char('/') +
                      QFileInfo(place.session.path()).completeBaseName();
    path_ = new QLineEdit(QFileInfo(base_ + QStringLiteral(".step")).absoluteFilePath());
    path_->setObjectName(QStringLiteral("exportPath"));
    addRow(tr("file"), path_);
    connect(path_, &QLineEdit::textChanged, this, [this] { setKeepText(tr("Write  \u23ce")); });
    connect(what_, &QComboBox::currentIndexChanged, this, [this] {
      path_->setText(QFileInfo(base_ + what_->currentData().toString()).absoluteFilePath());
    });
    auto* browse = new QPushButton(tr("choose \u2026"));
    connect(browse, &QPushButton::clicked, this, [this] {
      const QString chosen = QFileDialog::getSaveFileName(this, tr("Hand on"), path_->text());
      if (chosen.isEmpty()) return;
      path_->setText(chosen);
      agreed_ = chosen;  // the dialog has asked
    });
    addWide(browse);
    describe();
    setKeepText(tr("Write  \u23ce"));
  }
  void resume() override {}
  void documentChanged() override {
    const QString chosen = what_->currentText();
    {
      const QSignalBlocker block(what_);
      what_->clear();
      fill();
      what_->setCurrentIndex(std::max(0, what_->findText(chosen)));
    }
    if (what_->currentText() != chosen)
      path_->setText(QFileInfo(base_ + what_->currentData().toString()).absoluteFilePath());
    describe();
  }
  bool keep() override {
    const QString path = path_->text();
    if (place_.session.route()->stopped) {
      setError(
          tr("The Route was stopped, so the model is older than its values. Recompute it (F5) "
             "first."));
      return false;
    }
    if (QFileInfo::exists(path) && agreed_ != path) {
      agreed_ = path;
      setKeepText(tr("Write over it  \u23ce"));
      setError(tr("%1 exists. Write over it, or change the name.").arg(path));
      return false;
    }
    const bool map = what_->currentData().toString() == QStringLiteral(".map.3mf");
    const project::Id sketch = what_->currentData(Qt::UserRole + 1).toULongLong();
    Session& session = place_.session;
    session.works().run(
        Works::Lane::Write, tr("writing %1").arg(path),
        [&session, path, map, sketch, document = session.snapshot(),
         route = session.route()](const Task& task) -> Session::Finish {
          const std::filesystem::path file = path.toStdString();
          const Status status = write(file, map, sketch, *document, *route, task);
          std::error_code ignored;
          const auto size = status ? std::filesystem::file_size(file, ignored) : 0;
          return [&session, path, status, size, step = io::carries(file, io::Carries::Model)] {
            if (!status) return session.report(status.error());
            Q_EMIT session.said((step ? QObject::tr("%1 written and read back, %2 bytes")
                                      : QObject::tr("%1 written, %2 bytes"))
                                    .arg(path, QString::fromStdString(format_count(size))));
          };
        });
    return true;
  }

 private:
  /// What there is to hand on, in each format that can carry it.
  void fill() {
    const auto offer = [&](const QString& name, const QString& extension, project::Id sketch = 0) {
      what_->addItem(name, extension);
      what_->setItemData(what_->count() - 1, static_cast<qulonglong>(sketch), Qt::UserRole + 1);
    };
    const auto offer_in = [&](const QString& what, const auto& able, project::Id sketch = 0) {
      for (const io::Format& format : io::formats()) {
        if (!able(format)) continue;
        offer(QStringLiteral("%1, %2").arg(what, QLatin1String(format.name)),
              QLatin1String(format.extensions.front()), sketch);
      }
    };
    const auto that_carry = [](io::Carries what) {
      return [what](const io::Format& format) { return format.carries == what; };
    };
    offer_in(tr("model"), io::writes_model);
    offer_in(tr("model"), io::writes_mesh);
    offer(tr("scan with deviation, 3MF"), QStringLiteral(".map.3mf"));
    offer_in(tr("Ledger"), that_carry(io::Carries::Table));
    offer_in(tr("report"), that_carry(io::Carries::Report));
    for (const auto& s : document().sketches)
      offer_in(tr("sketch %1").arg(QString::fromStdString(s->name)), io::writes_curves, s->id);
  }
  void describe() {
    const auto pencilled = std::count_if(document().dimensions.begin(), document().dimensions.end(),
                                         [](const auto& d) { return !d.intent; });
    int broken = 0;
    for (const auto& s : place_.session.route()->steps)
      broken += s.state == model::StepState::Broken;
    QString text = tr("The model as it stands: %1 cm\u00b3.")
                       .arg(QString::fromStdString(
                           format_fixed(place_.session.route()->solid.volume() / 1000, 2)));
    if (pencilled > 0) text += tr("\n%1 dimensions are still in pencil.").arg(pencilled);
    if (broken > 0) text += tr("\n%1 steps are broken and not in it.").arg(broken);
    setEvidence(text);
  }
  static Status write(const std::filesystem::path& path, bool map, project::Id sketch,
                      const project::Document& document, const RouteState& route,
                      const Task& task) {
    const io::Format* format = io::format_of(path);
    if (format == nullptr)
      return Error{ErrorCode::Unsupported,
                   path.string() +
                       ": the end of the name tells no format. End it as one of those "
                       "in the list of what to write."};
    if (format->carries == io::Carries::Table)
      return io::write_file_atomically(path, store::ledger_csv(document));
    if (format->carries == io::Carries::Report) {
      report::ReportOptions options;
      options.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
      const auto made = report::make_report(document, options, task);
      if (!made) return made.error();
      const auto pages = report::write_report(path, *made);
      return pages ? Status(Done{}) : Status(pages.error());
    }
    if (format->write_curves != nullptr) {
      const project::TracedSketch* traced = document.find_sketch(sketch);
      if (traced == nullptr && !document.sketches.empty()) traced = document.sketches.back().get();
      if (traced == nullptr)
        return Error{ErrorCode::InvalidInput, "There is no sketch to write. Take a section first."};
      return format->write_curves(path, traced->sketch, traced->section);
    }
    if (map) {
      if (!route.map || route.map_is_old)
        return Error{ErrorCode::InvalidInput, "The deviation is not known yet. Wait for it."};
      std::vector<std::array<std::uint8_t, 3>> palette;
      for (int k = 0; k <= 100; ++k)
        palette.push_back(report::deviation_colour((k - 50) / 50.0,
                                                   document.tolerance / document.deviation_range));
      palette.push_back(report::deviation_colour(std::nan(""), 0));
      std::vector<std::uint8_t> colour(route.map->value.size());
      for (std::size_t i = 0; i < colour.size(); ++i) {
        const double v = route.map->value[i] / document.deviation_range;
        colour[i] = static_cast<std::uint8_t>(
            std::isfinite(v) ? std::lround(50 + 50 * std::clamp(v, -1.0, 1.0)) : 101);
      }
      return io::write_3mf(path, scan::transformed(*document.scan->mesh, document.to_part()),
                           colour, palette);
    }
    return io::write_model(path, project::dressed(document, route.solid), document.title);
  }
  QComboBox* what_;
  QString base_;
  QLineEdit* path_;
  QString agreed_;  ///< a file that may be written over
};

}  // namespace

ToolCard* make_deviation_tool(Workplace place) { return new DeviationTool(place); }
ToolCard* make_export_tool(Workplace place) { return new ExportTool(place); }

}  // namespace lostline::app
