#include <QApplication>
#include <QCommandLineParser>
#include <QLibraryInfo>
#include <clocale>

#include "base/memory.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "model/apart/kernel_process.h"
#include "windows/main_window.h"

int main(int argc, char** argv) {
  lostline::keep_freed_memory();
  lostline::model::start_kernel_process();
  if (const int percent = lostline::app::preferred_size_percent();
      percent != 100 && !qEnvironmentVariableIsSet("QT_SCALE_FACTOR"))
    qputenv("QT_SCALE_FACTOR", QByteArray::number(percent / 100.0));
  QApplication application(argc, argv);
  std::setlocale(LC_NUMERIC,
                 "C");  // files are written with points, whatever the desktop's language
  QApplication::setOrganizationName(QStringLiteral("Lost Line"));
  QApplication::setApplicationName(QStringLiteral("Lost Line"));
  QApplication::setApplicationVersion(QStringLiteral("0.1.0"));
  QCommandLineParser parser;
  parser.setApplicationDescription(QStringLiteral("Rebuild a part from its scan"));
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument(
      QStringLiteral("file"),
      QStringLiteral("scan (.stl, .ply, .obj, .off, .3mf) or project (.lostline) to open"),
      QStringLiteral("[file]"));
  parser.process(application);
  lostline::app::apply_theme();
  const QString language = lostline::app::language_in_force();
  lostline::app::Catalogue catalogue(language);
  QApplication::installTranslator(&catalogue);
  // What Qt itself says in its dialogs.
  QTranslator dialogs;
  if (language != QStringLiteral("en") &&
      dialogs.load(QStringLiteral("qtbase_") + language,
                   QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
    QApplication::installTranslator(&dialogs);
  lostline::app::MainWindow window;
  window.show();
  window.offerRecovery();
  if (!parser.positionalArguments().isEmpty())
    window.openFile(parser.positionalArguments().constFirst());
  return QApplication::exec();
}
