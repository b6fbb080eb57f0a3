#pragma once

#include <QString>

#include "io/formats.h"

namespace lostline::app {

/// "Scans (*.stl *.STL ...)" for a file dialog: what the list of formats can do.
inline QString file_filter(const QString& what, std::initializer_list<io::Can> can) {
  return QStringLiteral("%1 (%2)").arg(what, QString::fromStdString(io::format_patterns(can)));
}

}  // namespace lostline::app
