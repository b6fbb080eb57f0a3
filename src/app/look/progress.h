#pragma once

#include <QProgressBar>

namespace lostline::app {

/// Shows a share of work done. QProgressBar::setValue draws at once, and the whole window with it,
/// a Bench with a large scan too; here it is drawn in its turn.
inline void show_progress(QProgressBar& bar, double share) {
  bar.setUpdatesEnabled(false);
  bar.setValue(static_cast<int>(100 * share));
  bar.setUpdatesEnabled(true);
}

}  // namespace lostline::app
