#include "look/catalogue.h"

#include <QCoreApplication>
#include <QFile>
#include <QLocale>
#include <QSettings>
#include <QXmlStreamReader>

namespace lostline::app {
namespace {

const QString kKey = QStringLiteral("preferences/language");

}  // namespace

Catalogue::Catalogue(const QString& language, QObject* parent) : QTranslator(parent) {
  read(QStringLiteral(":/translations/lostline_%1.ts").arg(language));
  read(QStringLiteral(":/translations/core_%1.ts").arg(language));
}

void Catalogue::read(const QString& path) {
  QFile file(path);
  if (!file.open(QIODevice::ReadOnly)) return;
  QXmlStreamReader xml(&file);
  QString source;
  QString text;
  QStringList forms;
  bool inside = false;
  while (!xml.atEnd()) {
    const auto token = xml.readNext();
    const bool start = token == QXmlStreamReader::StartElement;
    const bool end = token == QXmlStreamReader::EndElement;
    if (start && xml.name() == QStringLiteral("source")) {
      source = xml.readElementText();
    } else if (start && xml.name() == QStringLiteral("translation")) {
      inside = true;
      text.clear();
      forms.clear();
    } else if (start && xml.name() == QStringLiteral("numerusform")) {
      forms << xml.readElementText();
    } else if (inside && token == QXmlStreamReader::Characters) {
      text += xml.text();
    } else if (end && xml.name() == QStringLiteral("translation")) {
      inside = false;
      if (forms.isEmpty()) forms << text;
      if (!forms.front().isEmpty()) forms_.insert(source, forms);
    }
  }
}

QString Catalogue::translate(const char*, const char* source, const char*, int n) const {
  const auto found = forms_.constFind(QString::fromUtf8(source));
  if (found == forms_.constEnd()) return {};
  return n >= 0 && n != 1 && found->size() > 1 ? found->at(1) : found->front();
}

QString chosen_language() { return QSettings().value(kKey).toString(); }
void choose_language(const QString& language) { QSettings().setValue(kKey, language); }

QString language_in_force() {
  const QString chosen = chosen_language();
  return chosen.isEmpty() ? QLocale::system().name().left(2) : chosen;
}

QString core_word(const char* word) { return QCoreApplication::translate("core", word); }

QString core_plural(const char* word) {
  QByteArray several(word);
  several += several.endsWith('s') ? " faces" : "s";
  return core_word(several.constData());
}

}  // namespace lostline::app
