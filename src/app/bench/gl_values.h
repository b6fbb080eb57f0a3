#pragma once

#include <QColor>
#include <QMatrix4x4>
#include <QVector3D>

#include "base/geometry.h"

// Values as the programs on the graphics card take them.

namespace lostline::app {

inline QVector3D rgb(const QColor& c) {
  return {static_cast<float>(c.redF()), static_cast<float>(c.greenF()),
          static_cast<float>(c.blueF())};
}

inline QMatrix4x4 qt(const Eigen::Matrix4f& m) {
  QMatrix4x4 result;
  for (int r = 0; r < 4; ++r) {
    for (int c = 0; c < 4; ++c) result(r, c) = m(r, c);
  }
  return result;
}

}  // namespace lostline::app
