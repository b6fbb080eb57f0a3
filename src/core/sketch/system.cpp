#include "sketch/system.h"

#include <algorithm>
#include <stdexcept>

#include "sketch/curve_kind.h"
#include "sketch/terms.h"

namespace lostline::sketch {

Jet Terms::unknown(Eigen::Index i) {
  std::size_t slot = 0;
  while (slot < used_ && slots_[slot] != i) ++slot;
  if (slot == used_) {
    if (used_ == slots_.size()) throw std::logic_error("an equation touches too many unknowns");
    slots_[used_++] = i;
  }
  Jet jet;
  jet.v = x_[i];
  jet.d[static_cast<Eigen::Index>(slot)] = 1;
  return jet;
}

JetPoint Terms::point(Id id) {
  const Eigen::Index i = system_.point_unknown(id);
  if (i < 0) return {};  // the origin
  return {unknown(i), unknown(i + 1)};
}

Vec2 Terms::place(Id id) const {
  const Eigen::Index i = system_.point_unknown(id);
  return i < 0 ? Vec2(Vec2::Zero()) : Vec2(x_.segment<2>(i));
}

JetLine Terms::line(Id id) {
  JetLine fixed;
  if (id == kXAxis) {
    fixed.b.x.v = 1;
    return fixed;
  }
  if (id == kYAxis) {
    fixed.b.y.v = 1;
    return fixed;
  }
  const Entity& e = entity(id);
  return {point(e.a), point(e.b)};
}

Jet Terms::distance(Id curve, const JetPoint& p) {
  if (curve < kFirstFree) return signed_distance(p, line(curve));
  const Entity& e = entity(curve);
  return kind_of(e).distance(*this, e, p);
}

const Entity* System::entity(Id id) const {
  const auto it = entity_index_.find(id);
  return it == entity_index_.end() ? nullptr : &sketch_.entities[it->second];
}

double System::hold_tolerance() const {
  constexpr double kRounding = 4e-12;  // of the largest coordinate: some thousands of its last bits
  return std::max(kHoldTolerance, x_.size() > 0 ? kRounding * x_.cwiseAbs().maxCoeff() : 0.0);
}

Eigen::Index System::point_unknown(Id point) const {
  const auto it = point_index_.find(point);
  return it == point_index_.end() ? -1 : it->second;
}
Eigen::Index System::radius_unknown(Id entity) const {
  const auto it = radius_index_.find(entity);
  return it == radius_index_.end() ? -1 : it->second;
}

std::vector<Eigen::Index> System::unknowns_of(const Entity& entity) const {
  std::vector<Eigen::Index> result;
  entity.each_point([&](Id id) {
    const Eigen::Index i = point_unknown(id);
    if (i >= 0 && std::find(result.begin(), result.end(), i) == result.end())
      result.insert(result.end(), {i, i + 1});
  });
  if (radius_unknown(entity.id) >= 0) result.push_back(radius_unknown(entity.id));
  return result;
}

Result<System> System::build(const Sketch& sketch, bool hold_dimensions) {
  System system(sketch);
  Eigen::Index n = 0;
  for (const Point& p : sketch.points) {
    system.point_index_[p.id] = n;
    n += 2;
  }
  for (std::size_t k = 0; k < sketch.entities.size(); ++k) {
    const Entity& e = sketch.entities[k];
    system.entity_index_.emplace(e.id, k);  // the first of a name, as elsewhere
    if (kind_of(e).has_radius()) system.radius_index_[e.id] = n++;
  }
  system.x_.resize(n);
  for (const Point& p : sketch.points) system.x_.segment<2>(system.point_index_[p.id]) = p.at;
  for (const Entity& e : sketch.entities) {
    if (kind_of(e).has_radius()) system.x_[system.radius_index_[e.id]] = e.radius;
    const int ties = kind_of(e).tie_count(e);
    if (ties == 0) continue;
    Equation equation;
    equation.constraint.first = e.id;
    equation.count = ties;
    system.equations_.push_back(equation);
    system.owners_.insert(system.owners_.end(), static_cast<std::size_t>(ties), 0);
    system.rows_ += ties;
  }
  for (const Constraint& c : sketch.constraints) {
    if (c.is_dimension() && !(c.driving && hold_dimensions)) continue;
    if (const Status status = system.add(c); !status) return status.error();
  }
  return system;
}

Result<Equation> System::equation_of(const Constraint& c) const {
  const ConstraintKind& kind = kind_of(c.type);
  const Refs refs(*this);
  Equation equation;
  equation.constraint = c;
  equation.count = c.second != 0 && c.first == c.second ? 0 : kind.equations(refs, c);
  if (equation.count == 0)
    return Error{ErrorCode::InvalidInput,
                 "The constraint " + describe(sketch_, c) + " does not go with these things."};
  if (kind.choose != nullptr) {
    Terms now(*this, x_);
    kind.choose(refs, equation, now);
  }
  return equation;
}

Status System::add(const Constraint& c) {
  const auto equation = equation_of(c);
  if (!equation) return equation.error();
  equations_.push_back(*equation);
  owners_.insert(owners_.end(), static_cast<std::size_t>(equation->count), c.id);
  rows_ += equation->count;
  return Done{};
}

Result<std::vector<System::Row>> System::rows_of(const Constraint& c,
                                                 const Eigen::VectorXd& x) const {
  const auto equation = equation_of(c);
  if (!equation) return equation.error();
  std::vector<Row> rows;
  Terms terms(*this, x);
  for (const Jet& jet : kind_of(c.type).residual(*equation, terms)) {
    rows.push_back({jet.v, {}});
    terms.spread(jet, [&](Eigen::Index i, double d) {
      if (d != 0) rows.back().slopes.emplace_back(i, d);
    });
  }
  return rows;
}

std::vector<Jet> System::residual(const Equation& eq, Terms& terms) const {
  if (eq.constraint.id == 0) {
    const Entity& e = terms.entity(eq.constraint.first);
    return kind_of(e).ties(terms, e);
  }
  return kind_of(eq.constraint.type).residual(eq, terms);
}

void System::evaluate(const Eigen::VectorXd& x, Eigen::VectorXd& f,
                      Eigen::MatrixXd& jacobian) const {
  f.setZero(rows_);
  jacobian.setZero(rows_, x_.size());
  Eigen::Index row = 0;
  for (const Equation& equation : equations_) {
    Terms terms(*this, x);
    for (const Jet& jet : residual(equation, terms)) {
      f[row] = jet.v;
      terms.spread(jet, [&](Eigen::Index i, double d) { jacobian(row, i) += d; });
      ++row;
    }
  }
}

void System::evaluate(const Eigen::VectorXd& x, Eigen::VectorXd& f,
                      Eigen::SparseMatrix<double>& jacobian) const {
  f.setZero(rows_);
  std::vector<Eigen::Triplet<double>> entries;
  entries.reserve(static_cast<std::size_t>(8 * rows_));
  Eigen::Index row = 0;
  for (const Equation& equation : equations_) {
    Terms terms(*this, x);
    for (const Jet& jet : residual(equation, terms)) {
      f[row] = jet.v;
      terms.spread(jet, [&](Eigen::Index i, double d) {
        if (d != 0) entries.emplace_back(row, i, d);
      });
      ++row;
    }
  }
  jacobian.resize(rows_, x_.size());
  jacobian.setFromTriplets(entries.begin(), entries.end());
}

Eigen::VectorXd System::gradient(const Constraint& dimension, const Eigen::VectorXd& x) const {
  Equation equation;
  equation.constraint = dimension;
  equation.constraint.value = 0;
  Terms terms(*this, x);
  const Jet jet = kind_of(dimension.type).residual(equation, terms)[0];
  Eigen::VectorXd g = Eigen::VectorXd::Zero(x_.size());
  terms.spread(jet, [&](Eigen::Index i, double d) { g[i] += d; });
  return g;
}

double System::distance(const Entity& entity, const Vec2& p, const Eigen::VectorXd& x,
                        std::vector<std::pair<Eigen::Index, double>>& row) const {
  JetPoint fixed;
  fixed.x.v = p.x();
  fixed.y.v = p.y();
  Terms terms(*this, x);
  const Jet jet = kind_of(entity).distance(terms, entity, fixed);
  row.clear();
  terms.spread(jet, [&](Eigen::Index i, double d) { row.emplace_back(i, d); });
  return jet.v;
}

Sketch System::applied(const Eigen::VectorXd& x) const {
  Sketch result = sketch_;
  for (Point& p : result.points) p.at = x.segment<2>(point_index_.at(p.id));
  for (Entity& e : result.entities) {
    const Eigen::Index radius = radius_unknown(e.id);
    if (radius >= 0) e.radius = x[radius];
  }
  return result;
}

}  // namespace lostline::sketch
