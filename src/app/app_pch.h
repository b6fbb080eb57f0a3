#pragma once

// Precompiled: what nearly every file of the interface needs and what is slow to read.
#include <Eigen/Core>
#include <Eigen/Geometry>
#include <QtWidgets>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>
