#include "simulate/chance.h"

#include <cmath>

namespace lostline::simulate {
namespace {

std::uint64_t scramble(std::uint64_t x) {
  x += 0x9e3779b97f4a7c15ULL;
  x = (x ^ (x >> 30U)) * 0xbf58476d1ce4e5b9ULL;
  x = (x ^ (x >> 27U)) * 0x94d049bb133111ebULL;
  return x ^ (x >> 31U);
}

}  // namespace

double uniform(std::uint64_t seed, std::uint64_t a, std::uint64_t b) {
  return (static_cast<double>(scramble(seed ^ scramble(a ^ scramble(b))) >> 11U) + 0.5) * 0x1p-53;
}
double normal(std::uint64_t seed, std::uint64_t a, std::uint64_t b) {
  return std::sqrt(-2 * std::log(uniform(seed, a, 2 * b))) *
         std::cos(2 * kPi * uniform(seed, a, 2 * b + 1));
}

Transform random_pose(std::uint64_t seed) {
  const double u = uniform(seed, 101, 0);
  const double a = 2 * kPi * uniform(seed, 101, 1);
  const double b = 2 * kPi * uniform(seed, 101, 2);
  const Eigen::Quaterniond q(std::sqrt(u) * std::cos(b), std::sqrt(1 - u) * std::sin(a),
                             std::sqrt(1 - u) * std::cos(a), std::sqrt(u) * std::sin(b));
  Transform pose = Transform::Identity();
  pose.linear() = q.normalized().toRotationMatrix();
  pose.translation() = 300 * Vec3(uniform(seed, 102, 0) - 0.5, uniform(seed, 102, 1) - 0.5,
                                  uniform(seed, 102, 2) - 0.5);
  return pose;
}

}  // namespace lostline::simulate
