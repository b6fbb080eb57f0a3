#pragma once

// Precompiled for every core module: what nearly every file needs and what is slow to read.
#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <numbers>
#include <optional>
#include <random>
#include <set>
#include <string>
#include <variant>
#include <vector>
