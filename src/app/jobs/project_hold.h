#pragma once

#include <QLockFile>
#include <QString>
#include <memory>

namespace lostline::app {

/// Which project file a window works on, seen by every other window: two that save to one file
/// would each take the other's work away. A hidden file beside the project, gone with the window; a
/// program that was killed leaves one that counts for nothing.
class ProjectHold {
 public:
  /// Takes hold of a file and lets go of the one before; with an empty path only lets go.
  /// @returns false when another window holds it: the one before is kept then. A folder that takes
  /// no files holds nothing back.
  bool take(const QString& path);
  /// Whether another window works on it.
  [[nodiscard]] bool heldElsewhere(const QString& path) const;

 private:
  [[nodiscard]] static QString lockOf(const QString& path);

  QString lock_;  ///< of the file that is held
  std::unique_ptr<QLockFile> held_;
};

}  // namespace lostline::app
