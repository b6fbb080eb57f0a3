#include "windows/guide.h"

#include <QFile>
#include <QPointer>
#include <QTextBrowser>

#include "look/theme.h"

void load_guide_resources() { Q_INIT_RESOURCE(guide); }

namespace lostline::app {
namespace {

/// Pictures come in the width of the page.
class GuideView : public QTextBrowser {
 public:
  QVariant loadResource(int type, const QUrl& name) override {
    const QVariant found = QTextBrowser::loadResource(type, name);
    if (type != QTextDocument::ImageResource) return found;
    const QImage image = found.userType() == QMetaType::QByteArray
                             ? QImage::fromData(found.toByteArray())
                             : found.value<QImage>();
    return image.isNull() ? found : image.scaledToWidth(720, Qt::SmoothTransformation);
  }
};

}  // namespace

void show_guide(QWidget* parent) {
  static QPointer<GuideView> view;
  if (!view) {
    load_guide_resources();
    view = new GuideView;
    view->setParent(parent, Qt::Window);
    view->setObjectName(QStringLiteral("guide"));
    view->setWindowTitle(QObject::tr("Guide"));
    view->setAccessibleName(QObject::tr("Guide"));
    view->resize(800, 720);
    view->document()->setDefaultFont(body_font(13));
    view->document()->setBaseUrl(QUrl(QStringLiteral("qrc:/guide/")));
    view->setSearchPaths({QStringLiteral(":/guide")});
    QFile file(QStringLiteral(":/guide/guide.md"));
    if (file.open(QIODevice::ReadOnly)) view->setMarkdown(QString::fromUtf8(file.readAll()));
  }
  view->show();
  view->raise();
}

}  // namespace lostline::app
