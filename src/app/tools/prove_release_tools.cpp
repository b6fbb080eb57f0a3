#include <QFileDialog>
#include <QLineEdit>

#include "io/files.h"
#include "io/mesh_files.h"
#include "io/step.h"
#include "project/project_file.h"
#include "tools/tool_card.h"

namespace lostline::app {
namespace {

/// Tolerance and range of the deviation; the value under a click.
class DeviationTool : public ToolCard {
 public:
  explicit DeviationTool(Workplace place) : ToolCard(place, tr("Deviation"), tr("Prove")) {
    tolerance_ = number(document().tolerance, 0.001, 10, 0.01, 3, QStringLiteral("tolerance"));
    range_ = number(document().deviation_range, 0.002, 100, 0.05, 3, QStringLiteral("range"));
    addRow(tr("tolerance \u00b1, mm"), tolerance_);
    addRow(tr("scale ends \u00b1, mm"), range_);
    describe();
  }
  void begin() override { place_.strip.showHistogram(); }
  void documentChanged() override { describe(); }
  void pick(const Pick& pick) override {
    const auto route = place_.session.route();
    if (pick.what != Pick::What::Scan || !route->map) return;
    const std::uint32_t v = document().scan->mesh->triangles[pick.triangle][0];
    const float value = route->map->value[v];
    const QString text =
        std::isfinite(value)
            ? QString::fromStdString((value > 0 ? "+" : "") + format_fixed(value, 3))
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
    if (!route->map)
      return setEvidence(document().steps.empty() ? tr("There is no model yet: build a step first.")
                                                  : tr("comparing \u2026"));
    const auto& s = route->statistics;
    const auto f = [](double v) { return QString::fromStdString(format_fixed(v, 3)); };
    setEvidence(tr("RMS %1 \u00b7 %2 % within \u00b1%3\n%4 points, %5 with no model near\nmost "
                   "proud %6, most short %7")
                    .arg(f(s.rms), QString::fromStdString(format_fixed(100 * s.within_fraction, 1)),
                         QString::fromStdString(format_trimmed(document().tolerance, 3)),
                         QString::fromStdString(format_count(s.n)),
                         QString::fromStdString(format_count(s.unmatched)), f(s.max), f(s.min)));
  }
  QDoubleSpinBox* tolerance_;
  QDoubleSpinBox* range_;
};

/// Writes STEP, STL and the Ledger.
class ExportTool : public ToolCard {
 public:
  explicit ExportTool(Workplace place) : ToolCard(place, tr("Hand on"), tr("Release")) {
    const QString base = place.session.path().isEmpty()
                             ? QString::fromStdString(document().title)
                             : QFileInfo(place.session.path()).absolutePath() + QLatin1Char('/') +
                                   QFileInfo(place.session.path()).completeBaseName();
    path_ = new QLineEdit(QFileInfo(base + QStringLiteral(".step")).absoluteFilePath());
    path_->setObjectName(QStringLiteral("exportPath"));
    path_->setToolTip(tr("The extension decides: .step, .stl, .csv (Ledger)"));
    addRow(tr("file"), path_);
    auto* browse = new QPushButton(tr("choose \u2026"));
    connect(browse, &QPushButton::clicked, this, [this] {
      const QString chosen = QFileDialog::getSaveFileName(
          this, tr("Hand on"), path_->text(), tr("STEP (*.step);;STL (*.stl);;Ledger (*.csv)"));
      if (!chosen.isEmpty()) path_->setText(chosen);
    });
    addWide(browse);
    const auto pencilled = std::count_if(document().dimensions.begin(), document().dimensions.end(),
                                         [](const auto& d) { return !d.intent; });
    int broken = 0;
    for (const auto& s : place.session.route()->steps)
      broken += s.state == model::StepState::Broken;
    QString text = tr("The model as it stands: %1 cm\u00b3.")
                       .arg(QString::fromStdString(
                           format_fixed(place.session.route()->solid.volume() / 1000, 2)));
    if (pencilled > 0) text += tr("\n%1 dimensions are still in pencil.").arg(pencilled);
    if (broken > 0) text += tr("\n%1 steps are broken and not in it.").arg(broken);
    setEvidence(text);
    setKeepText(tr("Write  \u23ce"));
  }
  bool keep() override {
    const std::filesystem::path path = path_->text().toStdString();
    Session& session = place_.session;
    const auto document_now = session.snapshot();
    const auto route = session.route();
    session.run(tr("writing %1").arg(path_->text()),
                [&session, path, document_now, route](const Task&) -> Session::Finish {
                  Status status = Done{};
                  if (path.extension() == ".step" || path.extension() == ".stp")
                    status = io::write_step(path, route->solid, document_now->title);
                  else if (path.extension() == ".stl" && route->tessellation)
                    status = io::write_stl(path, route->tessellation->mesh);
                  else if (path.extension() == ".csv")
                    status = io::write_file_atomically(path, project::ledger_csv(*document_now));
                  else
                    status = Error{
                        ErrorCode::Unsupported,
                        path.string() +
                            ": end the name with .step, .stl or .csv, and build a model first."};
                  const std::uintmax_t size = status ? std::filesystem::file_size(path) : 0;
                  return [&session, path, status, size] {
                    if (!status)
                      session.report(status.error());
                    else
                      Q_EMIT session.said(QObject::tr("%1 written and read back, %2 bytes")
                                              .arg(QString::fromStdString(path.string()),
                                                   QString::fromStdString(format_count(size))));
                  };
                });
    return true;
  }

 private:
  QLineEdit* path_;
};

}  // namespace

ToolCard* make_deviation_tool(Workplace place) { return new DeviationTool(place); }
ToolCard* make_export_tool(Workplace place) { return new ExportTool(place); }

}  // namespace lostline::app
