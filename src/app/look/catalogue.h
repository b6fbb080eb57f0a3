#pragma once

#include <QHash>
#include <QStringList>
#include <QTranslator>
#include <functional>
#include <string>

#include "look/sentences.h"

namespace lostline::app {

/// Translations of the window's texts, read from the files that translators edit (.ts). A text is
/// looked up by itself, whatever class says it: one word is translated in one way.
class Catalogue : public QTranslator {
 public:
  /// @param language  two letters; the catalogue is empty where there is none for it.
  explicit Catalogue(const QString& language, QObject* parent = nullptr);
  [[nodiscard]] bool isEmpty() const override { return forms_.isEmpty(); }
  [[nodiscard]] bool has(const QString& source) const { return forms_.contains(source); }
  QString translate(const char* context, const char* source, const char* disambiguation,
                    int n) const override;

 private:
  void read(const QString& path,
            const std::function<void(const QString&, const QStringList&)>& take);
  QHash<QString, QStringList> forms_;     ///< singular and plural where there are both
  Sentences sentences_;                   ///< of the core
  mutable QHash<QString, QString> said_;  ///< what was looked for among them: lists ask again
};

/// What the engineer chose: two letters; empty follows the desktop.
QString chosen_language();
void choose_language(const QString& language);  ///< in force at the next start
/// The language of this run.
QString language_in_force();

/// A word of the core (a kind of surface, a state, a finish) in the window's language.
QString core_word(const char* word);
/// What the core says (an error, a reason, a name it has made) in the window's language.
QString core_text(const std::string& english);
/// Of a kind of surface, several of them.
QString core_plural(const char* word);

}  // namespace lostline::app
