#pragma once

#include <QWidget>

namespace lostline::app {

/// A window with the guide, made once and shown again.
void show_guide(QWidget* parent);

}  // namespace lostline::app
