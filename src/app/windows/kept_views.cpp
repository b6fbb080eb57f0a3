// Views of the Bench kept for the report.
#include <QtWidgets>

#include "windows/main_window.h"

namespace lostline::app {

void MainWindow::keepView() {
  bool good = false;
  const QString name = QInputDialog::getText(
      this, tr("Keep this view"), tr("Name under its picture in the report:"), QLineEdit::Normal,
      tr("view %1").arg(session_.document().views.size() + 1), &good);
  if (!good || name.trimmed().isEmpty()) return;
  project::Document next = session_.document();
  next.views.push_back(bench_->savedView(name.trimmed().toStdString()));
  session_.commit(tr("keep view %1").arg(name.trimmed()), std::move(next));
}

void MainWindow::fillViews(QMenu& menu) {
  menu.clear();
  const auto& views = session_.document().views;
  for (std::size_t i = 0; i < views.size(); ++i) {
    QMenu* one = menu.addMenu(QString::fromStdString(views[i].name));
    connect(one->addAction(tr("Go there")), &QAction::triggered, this,
            [this, view = views[i]] { bench_->recall(view); });
    connect(one->addAction(tr("Take it out of the report")), &QAction::triggered, this, [this, i] {
      project::Document next = session_.document();
      if (i >= next.views.size()) return;
      next.views.erase(next.views.begin() + static_cast<std::ptrdiff_t>(i));
      session_.commit(tr("take a view out"), std::move(next));
    });
  }
  if (views.empty()) menu.addAction(tr("no views kept yet"))->setEnabled(false);
}

}  // namespace lostline::app
