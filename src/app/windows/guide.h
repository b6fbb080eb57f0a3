#pragma once

#include <QWidget>

namespace lostline::app {

/// Opens the guide beside the window: contents at the left, search above.
/// @param tool  whose paragraph is shown; the beginning when it is empty.
void show_guide(QWidget* parent, const QString& tool = {});

}  // namespace lostline::app
