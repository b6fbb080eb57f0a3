#include "model/steps/loft/sections.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <algorithm>
#include <array>
#include <cmath>

#include "model/model_impl.h"

namespace lostline::model {
namespace {

// Steps of a curve that is neither line nor circle, between which its length is integrated by
// Gauss's rule of five points: of a spline with a hundred bends to a billionth.
constexpr int kSteps = 200;
// Abramowitz and Stegun, Handbook of Mathematical Functions, table 25.4, n = 5.
constexpr std::array<std::pair<double, double>, 5> kGauss{
    {{0.0, 0.568888888888889},
     {0.538469310105683, 0.478628670499366},
     {-0.538469310105683, 0.478628670499366},
     {0.906179845938664, 0.236926885056189},
     {-0.906179845938664, 0.236926885056189}}};

std::vector<Vec3> places_of(const EvenCurve& curve, double begin) {
  std::vector<Vec3> places;
  for (std::size_t k = 0; k < kPlaces; ++k) {
    const double share = begin + static_cast<double>(k) / (kPlaces - 1);
    places.push_back(curve.at(share > 1 ? share - 1 : share));
  }
  return places;
}

double apart_of(const std::vector<Vec3>& a, const std::vector<Vec3>& b) {
  double sum = 0;
  for (std::size_t k = 0; k < a.size(); ++k) sum += (a[k] - b[k]).norm();
  return sum / static_cast<double>(a.size());
}

/// Whether a closed curve has no corner where it closes.
bool smooth_at_its_ends(const EvenCurve& curve) {
  constexpr double kNear = 1e-4;     // of its length
  constexpr double kCorner = 0.005;  // rad: less is rounding and the curve's own bend
  const Vec3 away = curve.at(kNear) - curve.at(0);
  const Vec3 back = curve.at(1) - curve.at(1 - kNear);
  return std::atan2(away.cross(back).norm(), away.dot(back)) < kCorner;
}

}  // namespace

Result<EvenCurve> EvenCurve::of(const Handle(Adaptor3d_Curve) & curve) {
  EvenCurve even;
  even.curve_ = curve;
  even.first_ = curve->FirstParameter();
  const GeomAbs_CurveType type = curve->GetType();
  const int steps = type == GeomAbs_Line || type == GeomAbs_Circle ? 1 : kSteps;
  even.step_ = (curve->LastParameter() - even.first_) / steps;
  even.lengths_.push_back(0);
  for (int k = 0; k < steps; ++k) {
    const double from = even.first_ + k * even.step_;
    even.lengths_.push_back(even.lengths_.back() + even.length_between(from, from + even.step_));
  }
  if (!(even.length() > 1e-9))  // mm
    return Error{ErrorCode::Degenerate, "A curve of the loft has no length."};
  return even;
}

double EvenCurve::length_between(double a, double b) const {
  double sum = 0;
  for (const auto& [x, weight] : kGauss) {
    gp_Pnt place;
    gp_Vec slope;
    curve_->D1(0.5 * (a + b) + 0.5 * (b - a) * x, place, slope);
    sum += weight * slope.Magnitude();
  }
  return 0.5 * (b - a) * sum;
}

Vec3 EvenCurve::at(double share) const {
  const double bounded = std::clamp(share, 0.0, 1.0);
  const double wanted = (backwards_ ? 1 - bounded : bounded) * length();
  const auto next = std::upper_bound(lengths_.begin() + 1, lengths_.end() - 1, wanted);
  const auto k = static_cast<std::size_t>(next - lengths_.begin()) - 1;
  const double rest = wanted - lengths_[k];
  const double from = first_ + static_cast<double>(k) * step_;
  double t = from + step_ * rest / std::max(lengths_[k + 1] - lengths_[k], 1e-300);
  for (int round = 0; round < 3 && lengths_.size() > 2; ++round) {
    gp_Pnt place;
    gp_Vec slope;
    curve_->D1(t, place, slope);
    const double speed = slope.Magnitude();
    if (!(speed > 0)) break;
    t = std::clamp(t + (rest - length_between(from, t)) / speed, from, from + step_);
  }
  return vec(curve_->Value(t));
}

Result<LoftSection> LoftSection::of(const TopoDS_Wire& wire) {
  LoftSection section;
  section.closed_ = wire.Closed();
  for (BRepTools_WireExplorer it(wire); it.More(); it.Next()) {
    auto made = EvenCurve::of(new BRepAdaptor_Curve(it.Current()));
    if (!made) return made.error();
    EvenCurve curve = *std::move(made);
    if (it.Current().Orientation() == TopAbs_REVERSED) curve.turn();
    section.edges_.push_back(it.Current());
    section.places_.push_back(places_of(curve, 0));
    section.curves_.push_back(std::move(curve));
  }
  if (section.curves_.empty()) return Error{ErrorCode::Degenerate, "A section has no curve."};
  section.ring_ =
      section.closed_ && section.curves_.size() == 1 && smooth_at_its_ends(section.curves_.front());
  return section;
}

Vec3 LoftSection::at(std::size_t curve, double share) const {
  if (!ring_) return curves_[curve].at(share);
  const double place = begin_ + share;
  return curves_[curve].at(place - std::floor(place));
}

std::pair<double, double> LoftSection::levels(const Vec3& direction) const {
  std::pair<double, double> range{1e300, -1e300};
  for (const auto& curve : places_) {
    for (const Vec3& p : curve) {
      range.first = std::min(range.first, p.dot(direction));
      range.second = std::max(range.second, p.dot(direction));
    }
  }
  return range;
}

double LoftSection::apart(const LoftSection& other) const {
  double sum = 0;
  for (std::size_t c = 0; c < places_.size(); ++c) sum += apart_of(places_[c], other.places_[c]);
  return sum / static_cast<double>(places_.size());
}

void LoftSection::turn() {
  std::reverse(curves_.begin(), curves_.end());
  std::reverse(edges_.begin(), edges_.end());
  std::reverse(places_.begin(), places_.end());
  for (EvenCurve& curve : curves_) curve.turn();
  for (TopoDS_Shape& edge : edges_) edge.Reverse();
  for (auto& places : places_) std::reverse(places.begin(), places.end());
}

void LoftSection::begin_at(std::size_t curve) {
  const auto first = static_cast<std::ptrdiff_t>(curve);
  std::rotate(curves_.begin(), curves_.begin() + first, curves_.end());
  std::rotate(edges_.begin(), edges_.begin() + first, edges_.end());
  std::rotate(places_.begin(), places_.begin() + first, places_.end());
}

void LoftSection::begin_ring_at(double share) {
  begin_ = share - std::floor(share);
  places_.front() = places_of(curves_.front(), begin_);
}

void LoftSection::tell_like(const LoftSection& before) {
  const std::size_t begins = ring_ ? kPlaces - 1 : closed_ ? curves_.size() : 1;
  LoftSection best = *this;
  double least = apart(before);
  for (const bool backwards : {false, true}) {
    LoftSection other = *this;
    if (backwards) other.turn();
    for (std::size_t k = 0; k < begins; ++k) {
      if (ring_) {
        other.begin_ring_at(static_cast<double>(k) / static_cast<double>(begins));
      } else if (k > 0) {
        other.begin_at(1);
      }
      const double far = other.apart(before);
      if (far >= least) continue;
      least = far;
      best = other;
    }
  }
  // Between the places that were tried.
  for (double step = 0.5 / (kPlaces - 1); ring_ && step > 1e-9; step *= 0.5) {
    for (const double way : {-step, step}) {
      LoftSection other = best;
      other.begin_ring_at(best.begin_ + way);
      const double far = other.apart(before);
      if (far >= least) continue;
      least = far;
      best = std::move(other);
      break;
    }
  }
  *this = std::move(best);
}

Result<std::vector<LoftSection>> told_alike(const std::vector<TopoDS_Wire>& wires) {
  std::vector<LoftSection> sections;
  for (const TopoDS_Wire& wire : wires) {
    auto made = LoftSection::of(wire);
    if (!made) return made.error();
    sections.push_back(*std::move(made));
    if (sections.back().curves() != sections.front().curves())
      return Error{ErrorCode::InvalidInput,
                   "Sections along guides, or of a loft that goes on beyond its ends, need as many "
                   "curves each: the first has " +
                       std::to_string(sections.front().curves()) + ", section " +
                       std::to_string(sections.size()) + " has " +
                       std::to_string(sections.back().curves()) + "."};
  }
  if (std::any_of(sections.begin(), sections.end(), [](const auto& s) { return !s.ring(); }))
    for (LoftSection& section : sections) section.cut_ring();
  for (std::size_t k = 1; k < sections.size(); ++k) sections[k].tell_like(sections[k - 1]);
  return sections;
}

}  // namespace lostline::model
