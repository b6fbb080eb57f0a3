#include <QApplication>
#include <QCommandLineParser>
#include <clocale>

#include "look/theme.h"
#include "windows/main_window.h"

int main(int argc, char** argv) {
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
  lostline::app::MainWindow window;
  window.show();
  window.offerRecovery();
  if (!parser.positionalArguments().isEmpty())
    window.openFile(parser.positionalArguments().constFirst());
  return QApplication::exec();
}
