#include "look/sentences.h"

#include <algorithm>

namespace lostline::app {
namespace {

/// Values within values: a file, in it a step, in it a face, and a reason.
constexpr int kDeepest = 5;
/// Letters of a pattern below which it would fit anything ("%1 of %2").
constexpr qsizetype kFewestLetters = 4;

const QRegularExpression& place() {
  static const QRegularExpression found(QStringLiteral("%(\\d)"));
  return found;
}

}  // namespace

void Sentences::add(const QString& source, const QString& translation) {
  Pattern pattern;
  QString form = QStringLiteral("^");
  qsizetype at = 0;
  const auto literal = [&](const QString& text) {
    form += QRegularExpression::escape(text);
    pattern.letters +=
        std::count_if(text.begin(), text.end(), [](QChar c) { return c.isLetter(); });
  };
  for (auto found = place().globalMatch(source); found.hasNext();) {
    const QRegularExpressionMatch match = found.next();
    literal(source.mid(at, match.capturedStart() - at));
    form += QStringLiteral("(.+?)");
    pattern.places.push_back(match.captured(1).toInt());
    at = match.capturedEnd();
  }
  literal(source.mid(at));
  if (pattern.letters < kFewestLetters) return;
  pattern.form =
      QRegularExpression(form + QLatin1Char('$'), QRegularExpression::DotMatchesEverythingOption);
  pattern.translation = translation;
  const auto behind = std::find_if(patterns_.begin(), patterns_.end(), [&](const Pattern& other) {
    return other.letters < pattern.letters;
  });
  patterns_.insert(behind, std::move(pattern));
}

QString Sentences::whole(const QString& text, const Word& word, int depth) const {
  if (QString known = word(text); !known.isEmpty()) return known;
  if (depth >= kDeepest) return {};
  for (const Pattern& pattern : patterns_) {
    if (pattern.letters > text.size()) continue;
    const QRegularExpressionMatch match = pattern.form.match(text);
    if (!match.hasMatch()) continue;
    QStringList values(10);
    for (std::size_t i = 0; i < pattern.places.size(); ++i) {
      const QString value = match.captured(static_cast<int>(i) + 1);
      const QString known = inParts(value, word, depth + 1);
      values[pattern.places[i]] = known.isEmpty() ? value : known;
    }
    QString result;
    qsizetype at = 0;
    for (auto found = place().globalMatch(pattern.translation); found.hasNext();) {
      const QRegularExpressionMatch next = found.next();
      result += pattern.translation.mid(at, next.capturedStart() - at);
      result += values[next.captured(1).toInt()];
      at = next.capturedEnd();
    }
    return result + pattern.translation.mid(at);
  }
  return {};
}

QString Sentences::inParts(const QString& text, const Word& word, int depth) const {
  if (QString known = whole(text, word, depth); !known.isEmpty()) return known;
  // Several sentences, lines, or things in a row.
  static const QRegularExpression between(QStringLiteral("(?<=[.!?])\\s+(?=[A-Z])|\\n|, |; "));
  QString result;
  bool any = false;
  qsizetype at = 0;
  const auto part = [&](const QString& piece) {
    const QString known = whole(piece, word, depth + 1);
    any = any || !known.isEmpty();
    result += known.isEmpty() ? piece : known;
  };
  for (auto found = between.globalMatch(text); found.hasNext();) {
    const QRegularExpressionMatch match = found.next();
    part(text.mid(at, match.capturedStart() - at));
    result += match.captured();
    at = match.capturedEnd();
  }
  if (at == 0) return {};
  part(text.mid(at));
  return any ? result : QString();
}

QString Sentences::translated(const QString& text, const Word& word) const {
  return text.isEmpty() ? QString() : inParts(text, word, 0);
}

}  // namespace lostline::app
