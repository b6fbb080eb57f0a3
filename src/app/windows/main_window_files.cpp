// What the main window does with files: opening, saving, recovering, remembering.
#include <QtWidgets>

#include "io/formats.h"
#include "look/file_filter.h"
#include "look/preferences.h"
#include "project/drawing_in.h"
#include "store/project_file.h"
#include "windows/main_window.h"
#include "windows/recovery_notice.h"

namespace lostline::app {

QString MainWindow::demoPath(const QString& scan) {
  const QString beside = QCoreApplication::applicationDirPath();
  for (const QString& folder : {QStringLiteral("/../demo/"), QStringLiteral("/demo/"),
                                QStringLiteral("/../share/lostline/demo/")}) {
    const QString path = QDir::cleanPath(beside + folder + scan);
    if (QFileInfo::exists(path)) return path;
  }
  return QDir::cleanPath(beside + QStringLiteral("/../demo/") + scan);
}

void MainWindow::openDemo(const QStringList& scans) {
  QStringList paths;
  for (const QString& scan : scans) paths << demoPath(scan);
  whenSafe([this, paths] {
    load(paths.front());
    addScans(paths.mid(1));
  });
}

void MainWindow::openFile(const QString& path) {
  // Curves join the part that is open.
  if (io::carries(path.toStdString(), io::Carries::Curves)) return addDrawing(path);
  whenSafe([this, path] { load(path); });
}

void MainWindow::addDrawing(const QString& path) {
  const auto left = std::make_shared<std::vector<std::string>>();
  session_.edit(
      tr("sketch of %1").arg(QFileInfo(path).fileName()),
      [file = path.toStdString(), left](const project::Document& d) -> Result<project::Document> {
        const auto added = project::add_drawing(d, file);
        if (!added) return added.error();
        *left = added->left_out;
        return added->document;
      },
      [this, left](const Error* error) {
        if (error != nullptr) return session_.report(*error);
        setStage(kTrace);
        start(*find_tool("Sketch"), session_.document().sketches.back()->id);
        QStringList words;
        for (const std::string& what : *left) words << QString::fromStdString(what);
        if (!words.empty()) say(tr("Left out: %1.").arg(words.join(tr(", "))), false);
      });
}

void MainWindow::load(const QString& path) {
  desk_->clear();
  say({}, false);
  const std::string file = path.toStdString();
  const bool project = io::carries(file, io::Carries::Project);
  session_.works().run(Works::Lane::Open, tr("opening %1").arg(QFileInfo(path).fileName()),
                       [this, file, project, path](const Task& task) -> Session::Finish {
                         if (project) {
                           auto document = store::load_project(file, task);
                           return [this, document = std::move(document), path] {
                             if (!document) return session_.report(document.error());
                             if (!openProject(*document, path)) return;
                             rememberFile(path);
                             bench_->lookAlong(0);
                             bench_->fitView();
                             setStage(document->steps.empty() ? kReceive : kBuild);
                           };
                         }
                         auto scan = project::open_scan(file, {}, task);
                         return [this, path, scan = std::move(scan)] {
                           if (!scan) return session_.report(scan.error());
                           project::Document fresh;
                           fresh.tolerance = preferences().tolerance;
                           fresh.deviation_range = preferences().deviation_range;
                           hold_.take({});
                           session_.replace(project::with_scan(fresh, *scan), {});
                           rememberFile(path);
                           bench_->lookAlong(0);
                           bench_->fitView();
                           setStage(kReceive);
                           start(*find_tool("Health"));
                         };
                       });
}

bool MainWindow::openProject(const project::Document& document, const QString& path) {
  if (hold_.take(path)) {
    session_.replace(document, path);
    return true;
  }
  QMessageBox box(QMessageBox::Question, tr("Open in another window"),
                  tr("%1 is open in another window. Two windows that save to it would take away "
                     "each other's work.")
                      .arg(QFileInfo(path).fileName()),
                  QMessageBox::Cancel, this);
  QAbstractButton* copy = box.addButton(tr("Open a copy"), QMessageBox::AcceptRole);
  copy->setObjectName(QStringLiteral("openCopy"));
  box.exec();
  if (box.clickedButton() != copy) return false;
  // Without a file: the first save asks for one.
  hold_.take({});
  session_.replace(document, {});
  return true;
}

void MainWindow::addScans(const QStringList& paths) {
  if (paths.isEmpty()) return;
  session_.works().run(
      Works::Lane::Open, tr("opening %n scan(s)", nullptr, static_cast<int>(paths.size())),
      [this, paths](const Task& task) -> Session::Finish {
        std::vector<std::shared_ptr<const project::Scan>> scans;
        std::optional<Error> failed;
        const double share = 1.0 / static_cast<double>(paths.size());
        for (const QString& path : paths) {
          const double at = share * static_cast<double>(scans.size());
          auto scan = project::open_scan(path.toStdString(), {}, task.part(at, at + share));
          if (!scan) {
            failed = scan.error();
            break;
          }
          scans.push_back(*scan);
        }
        return [this, scans, failed, paths] {
          if (failed) return session_.report(*failed);
          project::Document next = session_.document();
          for (const auto& scan : scans)
            next =
                next.scan ? project::with_other_scan(next, scan) : project::with_scan(next, scan);
          session_.commit(tr("open %n scan(s) beside", nullptr, static_cast<int>(scans.size())),
                          std::move(next));
          for (const QString& path : paths) rememberFile(path);
          bench_->fitView();
        };
      });
}

void MainWindow::saveTo(const QString& path, std::function<void()> then) {
  if (hold_.heldElsewhere(path))
    return say(tr("%1 is open in another window. Save under another name.").arg(path), true);
  const auto document = session_.snapshot();
  session_.works().run(
      Works::Lane::Write, tr("saving %1").arg(QFileInfo(path).fileName()),
      [this, document, path, then = std::move(then)](const Task& task) -> Session::Finish {
        const Status saved = store::save_project(path.toStdString(), *document, task);
        return [this, document, path, saved, then] {
          if (!saved) return session_.report(saved.error());
          hold_.take(path);
          session_.markSaved(path, document);
          rememberFile(path);
          say(tr("saved %1").arg(path), false);
          if (then) then();
        };
      });
}
void MainWindow::save(std::function<void()> then) {
  session_.path().isEmpty() ? saveAs(std::move(then)) : saveTo(session_.path(), std::move(then));
}
void MainWindow::saveAs(std::function<void()> then) {
  QString path = QFileDialog::getSaveFileName(
      this, tr("Save the project"),
      QString::fromStdString(session_.document().title) + QStringLiteral(".lostline"),
      file_filter(tr("Projects"), {io::is_project}));
  if (path.isEmpty()) return;
  if (!io::carries(path.toStdString(), io::Carries::Project)) {
    path += QStringLiteral(".lostline");
    // The dialog asked about the name as it was typed only.
    if (QFileInfo::exists(path) &&
        QMessageBox::question(this, tr("Save the project"),
                              tr("%1 exists. Write over it?").arg(path)) != QMessageBox::Yes)
      return;
  }
  saveTo(path, std::move(then));
}

void MainWindow::whenSafe(std::function<void()> then) {
  const QStringList unkept = desk_->unkept(true);
  const bool clean = session_.undoStack()->isClean();
  if (clean && unkept.isEmpty()) return then();
  QString text =
      clean ? tr("Go on without it?")
            : tr("Save the changes to %1?").arg(QString::fromStdString(session_.document().title));
  if (!unkept.isEmpty())
    text = tr("Not kept yet, and lost by this: %1.").arg(unkept.join(tr(", "))) +
           QLatin1Char('\n') + text;
  QMessageBox box(QMessageBox::Question, tr("Unsaved changes"), text,
                  QMessageBox::Discard | QMessageBox::Cancel, this);
  if (!clean) box.addButton(QMessageBox::Save);
  box.setDefaultButton(clean ? QMessageBox::Cancel : QMessageBox::Save);
  const int answer = box.exec();
  if (answer == QMessageBox::Save) save(std::move(then));
  if (answer == QMessageBox::Discard) then();
}

void MainWindow::offerRecovery() {
  const std::vector<Autosave::Left> left = Autosave::leftBehind();
  if (left.empty()) return;
  auto* notice = new RecoveryNotice(left);
  static_cast<QVBoxLayout*>(left_->layout())->insertWidget(0, notice);
  connect(notice, &RecoveryNotice::recoverWanted, this, [this](const Autosave::Left& one) {
    whenSafe([this, one] {
      session_.works().run(Works::Lane::Open, tr("recovering"),
                           [this, one](const Task& task) -> Session::Finish {
                             auto document = store::load_project(one.copy.toStdString(), task);
                             return [this, one, document = std::move(document)] {
                               if (!document) return session_.report(document.error());
                               desk_->clear();
                               const bool free = hold_.take(one.project);
                               session_.recover(*document, free ? one.project : QString());
                               Autosave::forget(one.copy);
                               bench_->fitView();
                             };
                           });
    });
  });
}

void MainWindow::rememberFile(const QString& path) {
  QSettings settings;
  QStringList files = settings.value(QStringLiteral("files/recent")).toStringList();
  const QString absolute = QFileInfo(path).absoluteFilePath();
  files.removeAll(absolute);
  files.prepend(absolute);
  while (files.size() > 9) files.removeLast();
  settings.setValue(QStringLiteral("files/recent"), files);
  start_page_->refresh();
}

void MainWindow::fillRecent(QMenu& menu) {
  menu.clear();
  const QStringList files = QSettings().value(QStringLiteral("files/recent")).toStringList();
  for (const QString& file : files) {
    QAction* action = menu.addAction(QFileInfo(file).fileName());
    action->setToolTip(file);
    action->setEnabled(QFileInfo::exists(file));
    connect(action, &QAction::triggered, this, [this, file] { openFile(file); });
  }
  if (files.isEmpty()) menu.addAction(tr("no files yet"))->setEnabled(false);
}

}  // namespace lostline::app
