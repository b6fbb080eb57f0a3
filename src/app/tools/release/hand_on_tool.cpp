#include <QComboBox>
#include <QDate>
#include <QFileDialog>
#include <QLineEdit>
#include <limits>

#include "io/files.h"
#include "io/formats.h"
#include "project/bodies.h"
#include "project/curve_set.h"
#include "report/report.h"
#include "store/project_file.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Writes the model, the deviation map, the Ledger, the report or a sketch.
class HandOnTool : public ToolCard {
 public:
  explicit HandOnTool(Workplace place) : ToolCard(place, tr("Hand on"), tr("Release")) {
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
  // Instead of one sketch.
  static constexpr auto kAll = std::numeric_limits<project::Id>::max();
  static constexpr auto kWithReference = kAll - 1;

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
    if (!document().sketches.empty())
      offer_in(tr("all sketches and curves"), io::writes_curves, kAll);
    offer_in(
        tr("curves, datum and fits"), [](const io::Format& format) { return format.space_curves; },
        kWithReference);
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
    if (sketch == kAll || sketch == kWithReference) {
      project::CurveChoice choice;
      choice.sketches = project::all_sketches(document);
      choice.reference = sketch == kWithReference;
      return io::write_curve_set(path, project::curve_set(document, route.solid, choice));
    }
    // STEP carries both: the model, unless a sketch was chosen.
    if (format->write_curves != nullptr && (sketch != 0 || format->write_model == nullptr)) {
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

Tool hand_on_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Hand on"),
          "file-output",
          QT_TRANSLATE_NOOP("tools", "Write the model, the report, the Ledger or sketches"),
          kRelease,
          'h',
          Tool::Needs::Model,
          [](Workplace place, project::Id) -> ToolCard* { return new HandOnTool(place); }};
}

}  // namespace lostline::app
