#include "sketch/independent.h"

#include <algorithm>

#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

// Equations that follow from others do so exactly only where all hold; here they hold to the second
// order of the tolerances (0.12 rad at most), far below this, and independent ones have a part
// outside that is far above.
constexpr double kFollows = 0.05;

}  // namespace

Independent::Independent(const Sketch& sketch, const Task& task, bool dimensions)
    : trial_(sketch), task_(task) {
  if (dimensions) {
    for (Constraint& c : trial_.constraints) {
      if (!c.is_dimension() || c.driving) continue;
      c.value = measured_value(sketch, c);
      c.driving = true;
    }
  }
  const auto solution = solve(trial_, Asked::Places);
  if (!solution || solution->state == State::Clashing) return;
  trial_ = solution->sketch;
  auto system = System::build(trial_, true);
  if (!system) return;
  x_ = system->start();
  Eigen::VectorXd f;
  Eigen::MatrixXd jacobian;
  system->evaluate(x_, f, jacobian);
  basis_.resize(x_.size(), x_.size());
  for (Eigen::Index row = 0; row < jacobian.rows(); ++row) hold(jacobian.row(row).transpose());
  system_ = *std::move(system);
}

bool Independent::offer(ConstraintType type, Id first, Id second) {
  if (!system_ || task_.stopped()) return false;
  const auto [low, high] = std::minmax(first, second);
  if (!known_.insert({type, low, high}).second || present(type, low, high)) return false;
  Constraint candidate{0, type, first, second, 0, 0, false};
  if (candidate.is_dimension()) {
    candidate.value = measured_value(trial_, candidate);
    candidate.driving = true;
  }
  const auto rows = system_->rows_of(candidate, x_);
  if (!rows) return false;
  bool adds = false;
  for (const System::Row& row : *rows) {
    // What lies in the basis, from the few numbers that the row touches.
    Eigen::VectorXd inside = Eigen::VectorXd::Zero(rank_);
    double squared = 0;
    for (const auto& [i, d] : row.slopes) {
      inside += d * held().row(i).transpose();
      squared += d * d;
    }
    if (squared - inside.squaredNorm() <= kFollows * kFollows * squared) continue;
    adds = true;
    Eigen::VectorXd r = Eigen::VectorXd::Zero(x_.size());
    for (const auto& [i, d] : row.slopes) r[i] += d;
    const Eigen::VectorXd outside = r - held() * inside;
    // The sketch takes the step that makes it hold, along what was free.
    x_ -= outside * (row.value / outside.squaredNorm());
    hold(r);
  }
  if (!adds) return false;
  trial_.add_constraint(type, first, second, candidate.value, candidate.driving);
  found_.push_back(trial_.constraints.back());
  return true;
}

int Independent::freedoms() const { return system_ ? static_cast<int>(x_.size() - rank_) : 0; }

std::vector<Constraint> Independent::take() {
  for (int round = 0; system_ && round < 8 && !found_.empty(); ++round) {
    if (const auto places = solve(trial_, Asked::Places);
        places && places->state != State::Clashing)
      break;
    const auto solution = solve(trial_);
    if (!solution || solution->clashing.empty()) {
      drop(found_.back().id);
      continue;
    }
    // The last one taken gives way.
    Id last = 0;
    for (const Id id : solution->clashing) {
      for (const Constraint& c : found_) last = c.id == id ? std::max(last, id) : last;
    }
    drop(last != 0 ? last : found_.back().id);
  }
  return std::move(found_);
}

void Independent::hold(Eigen::VectorXd row) {
  const double size = row.norm();
  for (int pass = 0; pass < 2; ++pass) row -= held() * (held().transpose() * row);
  if (rank_ >= basis_.cols() || !(row.norm() > 1e-7 * size)) return;
  basis_.col(rank_++) = row.normalized();
}

bool Independent::present(ConstraintType type, Id low, Id high) const {
  return std::any_of(trial_.constraints.begin(), trial_.constraints.end(), [&](const auto& c) {
    return c.type == type && std::minmax(c.first, c.second) == std::minmax(low, high);
  });
}

void Independent::drop(Id id) {
  trial_.remove(id);
  std::erase_if(found_, [&](const Constraint& c) { return c.id == id; });
}

}  // namespace lostline::sketch
