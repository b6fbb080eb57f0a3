#include "look/catalogue.h"

#include <QCoreApplication>
#include <QFile>
#include <QLocale>
#include <QSettings>
#include <QXmlStreamReader>

namespace lostline::app {
namespace {

constexpr const char* kCore = "core";
const QString kChosen = QStringLiteral("preferences/language");

}  // namespace

Catalogue::Catalogue(const QString& language, QObject* parent) : QTranslator(parent) {
  const auto forms = [this](const QString& source, const QStringList& translations) {
    forms_.insert(source, translations);
  };
  read(QStringLiteral(":/translations/lostline_%1.ts").arg(language), forms);
  read(QStringLiteral(":/translations/core_%1.ts").arg(language), forms);
  read(QStringLiteral(":/translations/sentences_%1.ts").arg(language),
       [this](const QString& source, const QStringList& translations) {
         if (!source.contains(QLatin1Char('%')))
           forms_.insert(source, translations);
         else
           sentences_.add(source, translations.front());
       });
}

void Catalogue::read(const QString& path,
                     const std::function<void(const QString&, const QStringList&)>& take) {
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
      if (!forms.front().isEmpty()) take(source, forms);
    }
  }
}

QString Catalogue::translate(const char* context, const char* source, const char*, int n) const {
  const auto found = forms_.constFind(QString::fromUtf8(source));
  if (found == forms_.constEnd()) {
    if (qstrcmp(context, kCore) != 0) return {};
    const QString text = QString::fromUtf8(source);
    if (const auto said = said_.constFind(text); said != said_.constEnd()) return *said;
    constexpr qsizetype kMost = 2000;  // texts: values change, and with them the sentences
    if (said_.size() > kMost) said_.clear();
    return said_[text] = sentences_.translated(text, [this](const QString& part) {
      const auto word = forms_.constFind(part);
      return word == forms_.constEnd() ? QString() : word->front();
    });
  }
  return n >= 0 && n != 1 && found->size() > 1 ? found->at(1) : found->front();
}

QString chosen_language() { return QSettings().value(kChosen).toString(); }
void choose_language(const QString& language) { QSettings().setValue(kChosen, language); }

QString language_in_force() {
  const QString chosen = chosen_language();
  return chosen.isEmpty() ? QLocale::system().name().left(2) : chosen;
}

QString core_word(const char* word) { return QCoreApplication::translate(kCore, word); }

QString core_text(const std::string& english) { return core_word(english.c_str()); }

QString core_plural(const char* word) {
  QByteArray several(word);
  several += several.endsWith('s') ? " faces" : "s";
  return core_word(several.constData());
}

}  // namespace lostline::app
