#pragma once

#include <QHash>
#include <QRegularExpression>
#include <QString>
#include <functional>
#include <vector>

namespace lostline::app {

/// Sentences of the core in another language. The core speaks English and puts values into its
/// sentences by itself; so a translation is a pair of patterns, with %1, %2 … where a value stands.
/// A sentence is matched with the pattern that shares most letters with it; its values are words or
/// sentences themselves and are translated in turn.
class Sentences {
 public:
  void add(const QString& source, const QString& translation);
  [[nodiscard]] bool isEmpty() const { return patterns_.empty(); }
  /// Empty where nothing of the text is known.
  /// @param word  the translation of a word or of a whole text as it stands; empty: none.
  [[nodiscard]] QString translated(const QString& text,
                                   const std::function<QString(const QString&)>& word) const;

 private:
  struct Pattern {
    QRegularExpression form;
    std::vector<int> places;  ///< number of the value in each group of `form`
    QString translation;
    qsizetype letters = 0;
  };
  using Word = std::function<QString(const QString&)>;
  [[nodiscard]] QString whole(const QString& text, const Word& word, int depth) const;
  [[nodiscard]] QString inParts(const QString& text, const Word& word, int depth) const;

  std::vector<Pattern> patterns_;  ///< those with most letters first
};

}  // namespace lostline::app
