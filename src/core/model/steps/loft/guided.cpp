#include "model/steps/loft/guided.h"

#include <BRepAdaptor_CompCurve.hxx>
#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <GCPnts_UniformAbscissa.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>
#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "model/model_impl.h"

namespace lostline::model {
namespace {

constexpr std::size_t kPlaces = 25;  // along each curve of a section
constexpr std::size_t kAlongGuide = 401;
constexpr double kMiss = 0.02;  // of the loft's length: further off it is no guide of it

Vec3 at(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }

/// A section as places along its curves; those of a curve begin where those of the one before end.
struct Section {
  std::vector<TopoDS_Edge> edges;
  std::vector<std::vector<Vec3>> places;  ///< of each edge, in the direction of the wire
  bool closed = false;

  [[nodiscard]] double period() const { return static_cast<double>(edges.size() * (kPlaces - 1)); }
  [[nodiscard]] const Vec3& place(std::size_t flat) const {
    const std::size_t edge = std::min(flat / (kPlaces - 1), edges.size() - 1);
    return places[edge][flat - edge * (kPlaces - 1)];
  }
};

Result<std::vector<Vec3>> even_places(const Adaptor3d_Curve& curve, std::size_t count) {
  const GCPnts_UniformAbscissa even(curve, static_cast<int>(count), 1e-7);
  if (!even.IsDone() || even.NbPoints() != static_cast<int>(count))
    return Error{ErrorCode::Degenerate, "A curve of the loft has no length."};
  std::vector<Vec3> places;
  for (int k = 1; k <= even.NbPoints(); ++k) places.push_back(at(curve.Value(even.Parameter(k))));
  return places;
}

Result<Section> section_of(const TopoDS_Wire& wire) {
  Section section;
  section.closed = wire.Closed();
  for (BRepTools_WireExplorer it(wire); it.More(); it.Next()) {
    auto made = even_places(BRepAdaptor_Curve(it.Current()), kPlaces);
    if (!made) return made.error();
    std::vector<Vec3> places = *std::move(made);
    if (it.Current().Orientation() == TopAbs_REVERSED) std::reverse(places.begin(), places.end());
    section.edges.push_back(it.Current());
    section.places.push_back(std::move(places));
  }
  if (section.edges.empty()) return Error{ErrorCode::Degenerate, "A section has no curve."};
  return section;
}

double apart(const Section& a, const Section& b) {
  double sum = 0;
  for (std::size_t e = 0; e < a.places.size(); ++e)
    for (std::size_t i = 0; i < kPlaces; ++i) sum += (a.places[e][i] - b.places[e][i]).norm();
  return sum / (static_cast<double>(a.places.size()) * kPlaces);
}

/// A section told from another of its curves, and the other way round.
Section turned(const Section& section, std::size_t first, bool backwards) {
  Section other = section;
  std::rotate(other.edges.begin(), other.edges.begin() + static_cast<std::ptrdiff_t>(first),
              other.edges.end());
  std::rotate(other.places.begin(), other.places.begin() + static_cast<std::ptrdiff_t>(first),
              other.places.end());
  if (backwards) {
    std::reverse(other.edges.begin(), other.edges.end());
    std::reverse(other.places.begin(), other.places.end());
    for (auto& places : other.places) std::reverse(places.begin(), places.end());
    for (TopoDS_Edge& edge : other.edges) edge.Reverse();
  }
  return other;
}

/// The telling of a section that lies nearest to the one before.
Section aligned(const Section& section, const Section& before) {
  Section best = section;
  double least = apart(section, before);
  const std::size_t starts = section.closed ? section.edges.size() : 1;
  for (std::size_t first = 0; first < starts; ++first) {
    for (const bool backwards : {false, true}) {
      Section other = turned(section, first, backwards);
      const double far = apart(other, before);
      if (far >= least) continue;
      least = far;
      best = std::move(other);
    }
  }
  return best;
}

/// The surface through the sections, cubic along: mean distance from the first is its parameter.
class Skin {
 public:
  Skin(const std::vector<Section>& sections, const LoftWay& way) : sections_(sections), way_(way) {
    along_.push_back(0);
    for (std::size_t k = 1; k < sections.size(); ++k)
      along_.push_back(along_.back() + std::max(apart(sections[k - 1], sections[k]), 1e-9));
  }
  [[nodiscard]] const std::vector<double>& along() const { return along_; }
  /// @param k, t  between section k and the next one, t of 0..1.
  [[nodiscard]] Vec3 at(std::size_t k, double t, std::size_t edge, std::size_t i) const {
    const double h = along_[k + 1] - along_[k];
    const Vec3& p = place(k, edge, i);
    const Vec3& q = place(k + 1, edge, i);
    const Vec3 a = h * slope(k, edge, i);
    const Vec3 b = h * slope(k + 1, edge, i);
    const double tt = t * t;
    const double ttt = tt * t;
    return (2 * ttt - 3 * tt + 1) * p + (ttt - 2 * tt + t) * a + (3 * tt - 2 * ttt) * q +
           (ttt - tt) * b;
  }
  /// How it leaves its first section, or comes to its last one.
  [[nodiscard]] Vec3 slope_at_end(bool last, std::size_t edge, std::size_t i) const {
    return slope(last ? along_.size() - 1 : 0, edge, i);
  }

 private:
  [[nodiscard]] const Vec3& place(std::size_t k, std::size_t edge, std::size_t i) const {
    return sections_[k].places[edge][i];
  }
  [[nodiscard]] Vec3 chord(std::size_t k, std::size_t edge, std::size_t i) const {
    return (place(k + 1, edge, i) - place(k, edge, i)) / (along_[k + 1] - along_[k]);
  }
  /// As of the parabola through three sections; at the ends as wanted, or as the curve runs on.
  [[nodiscard]] Vec3 slope(std::size_t k, std::size_t edge, std::size_t i) const {
    const std::size_t last = along_.size() - 1;
    if (k == 0 && way_.start) return *way_.start;
    if (k == last && way_.end) return *way_.end;
    if (last == 1) return chord(0, edge, i);
    if (k == 0) return 1.5 * chord(0, edge, i) - 0.5 * slope(1, edge, i);
    if (k == last) return 1.5 * chord(last - 1, edge, i) - 0.5 * slope(last - 1, edge, i);
    const double before = along_[k] - along_[k - 1];
    const double after = along_[k + 1] - along_[k];
    return (after * chord(k - 1, edge, i) + before * chord(k, edge, i)) / (before + after);
  }
  const std::vector<Section>& sections_;
  const LoftWay& way_;
  std::vector<double> along_;
};

/// Where a guide touches the sections.
struct Guide {
  std::vector<Vec3> places;
  struct Touch {
    double along;   ///< place on the guide
    double around;  ///< place on the section, counted through its curves
    Vec3 miss;      ///< from the section to the guide
  };
  std::vector<Touch> touches;

  [[nodiscard]] Vec3 at(double place) const {
    const auto k = std::min(static_cast<std::size_t>(std::max(place, 0.0)), places.size() - 2);
    const double t = place - static_cast<double>(k);
    return (1 - t) * places[k] + t * places[k + 1];
  }
};

Result<Guide> guide_of(const TopoDS_Wire& wire, const std::vector<Section>& sections,
                       double length) {
  auto places = even_places(BRepAdaptor_CompCurve(wire), kAlongGuide);
  if (!places) return places.error();
  Guide guide;
  guide.places = *std::move(places);
  for (std::size_t k = 0; k < sections.size(); ++k) {
    double least = 1e300;
    Guide::Touch touch{};
    for (std::size_t g = 0; g + 1 < guide.places.size(); ++g) {
      const Vec3 d = guide.places[g + 1] - guide.places[g];
      for (std::size_t flat = 0; flat < static_cast<std::size_t>(sections[k].period()); ++flat) {
        // The nearest places of two short stretches.
        const Vec3& p = sections[k].place(flat);
        const Vec3 e = sections[k].place(flat + 1) - p;
        const Vec3 r = guide.places[g] - p;
        const double a = d.squaredNorm();
        const double b = e.squaredNorm();
        const double c = d.dot(e);
        const double det = a * b - c * c;
        double s = det > 1e-12 * a * b ? (c * e.dot(r) - b * d.dot(r)) / det : 0;
        s = std::clamp(s, 0.0, 1.0);
        const double t = std::clamp((e.dot(r) + s * c) / std::max(b, 1e-300), 0.0, 1.0);
        const Vec3 miss = r + s * d - t * e;
        if (miss.norm() >= least) continue;
        least = miss.norm();
        touch = {static_cast<double>(g) + s, static_cast<double>(flat) + t, miss};
      }
    }
    if (least > kMiss * length)
      return Error{ErrorCode::InvalidInput, "A guide passes " + format_trimmed(least, 3) +
                                                " mm from section " + std::to_string(k + 1) +
                                                ". It must run through all sections."};
    guide.touches.push_back(touch);
  }
  return guide;
}

/// A section's place, counted through its curves, between two touches: the shorter way round.
double between_around(double a, double b, double t, double period, bool closed) {
  double way = b - a;
  if (closed) way = std::remainder(way, period);
  const double place = a + t * way;
  return closed ? place - period * std::floor(place / period) : place;
}

/// Which way out is at a place of a closed section: what a guide wants at one place it wants
/// likewise around the middle. Of an open one all places go the same way.
Eigen::Matrix3d frame_at(const Vec3& place, const Vec3& middle, const Vec3& axis, bool closed) {
  const Vec3 out = place - middle - (place - middle).dot(axis) * axis;
  if (!closed || !(out.norm() > 1e-12)) return Eigen::Matrix3d::Identity();
  Eigen::Matrix3d frame;
  frame.col(0) = out.normalized();
  frame.col(1) = axis.cross(frame.col(0));
  frame.col(2) = axis;
  return frame;
}

/// How far every place of an intermediate section is drawn, from what its guides want.
class Drawn {
 public:
  Drawn(double period, bool closed) : period_(period), closed_(closed) {}
  void want(double around, const Vec3& by) { wants_.emplace_back(around, by); }
  void settle() {
    std::sort(wants_.begin(), wants_.end(),
              [](const auto& a, const auto& b) { return a.first < b.first; });
  }
  [[nodiscard]] Vec3 at(double around) const {
    if (wants_.empty()) return Vec3::Zero();
    auto after = std::upper_bound(wants_.begin(), wants_.end(), around,
                                  [](double x, const auto& w) { return x < w.first; });
    if (!closed_ && after == wants_.begin()) return wants_.front().second;
    if (!closed_ && after == wants_.end()) return wants_.back().second;
    const auto& next = after == wants_.end() ? wants_.front() : *after;
    const auto& last = after == wants_.begin() ? wants_.back() : *(after - 1);
    const auto onward = [&](double from, double to) {
      const double way = to - from;
      return way < 0 ? way + period_ : way;
    };
    const double whole = wants_.size() == 1 ? period_ : onward(last.first, next.first);
    const double t = whole > 0 ? onward(last.first, around) / whole : 0;
    const double share = t * t * (3 - 2 * t);
    return (1 - share) * last.second + share * next.second;
  }

 private:
  double period_;
  bool closed_;
  std::vector<std::pair<double, Vec3>> wants_;
};

/// A wire and its edges in the order of the curves.
struct Chain {
  TopoDS_Wire wire;
  std::vector<TopoDS_Edge> edges;
};

Result<Chain> wire_through(const std::vector<std::vector<Vec3>>& places, bool closed) {
  BRepBuilderAPI_MakeWire wire;
  std::vector<TopoDS_Edge> edges;
  std::vector<TopoDS_Vertex> corners;
  corners.reserve(places.size() + 1);
  for (const auto& curve : places)
    corners.push_back(BRepBuilderAPI_MakeVertex(pnt(curve.front())).Vertex());
  corners.push_back(closed ? corners.front()
                           : BRepBuilderAPI_MakeVertex(pnt(places.back().back())).Vertex());
  for (std::size_t e = 0; e < places.size(); ++e) {
    // A single curve that closes is smooth where it does.
    const bool ring = closed && places.size() == 1;
    const std::size_t count = places[e].size() - (ring ? 1 : 0);
    const Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, static_cast<int>(count));
    for (std::size_t i = 0; i < count; ++i)
      points->SetValue(static_cast<int>(i) + 1, pnt(places[e][i]));
    GeomAPI_Interpolate through(points, ring, 1e-9);
    through.Perform();
    if (!through.IsDone())
      return Error{ErrorCode::Degenerate, "A section between those given has no length."};
    const Handle(Geom_BSplineCurve) curve = through.Curve();
    wire.Add(BRepBuilderAPI_MakeEdge(curve, corners[e], corners[e + 1], curve->FirstParameter(),
                                     curve->LastParameter())
                 .Edge());
    if (!wire.IsDone())
      return Error{ErrorCode::Degenerate, "A section between those given is not one chain."};
    edges.push_back(wire.Edge());
  }
  return Chain{wire.Wire(), edges};
}

/// The section at which a loft ends that goes on by `reach` before its first or past its last one.
Result<Chain> section_beyond(const std::vector<Section>& sections, const Skin& skin, bool past,
                             double reach, const Vec3& normal) {
  const Section& from = past ? sections.back() : sections.front();
  std::vector<std::vector<Vec3>> places = from.places;
  for (std::size_t e = 0; e < places.size(); ++e) {
    for (std::size_t i = 0; i < kPlaces; ++i) {
      const Vec3 slope = skin.slope_at_end(past, e, i);
      const double rise = slope.dot(normal);
      constexpr double kFlat = 0.05;  // sine: flatter than 3 degrees it never gets there
      if (!(rise > kFlat * slope.norm()))
        return Error{ErrorCode::Degenerate,
                     "The loft leaves its end section nearly along that section's plane and cannot "
                     "go on beyond it."};
      places[e][i] += (past ? reach : -reach) / rise * slope;
    }
  }
  return wire_through(places, from.closed);
}

}  // namespace

Result<LoftSections> sections_between(const std::vector<TopoDS_Wire>& wires, const LoftWay& way) {
  std::vector<Section> sections;
  for (const TopoDS_Wire& wire : wires) {
    auto section = section_of(wire);
    if (!section) return section.error();
    if (!sections.empty() && section->edges.size() != sections.front().edges.size())
      return Error{ErrorCode::InvalidInput,
                   "Sections along guides, or of a loft that goes on beyond its ends, need as many "
                   "curves each: the first has " +
                       std::to_string(sections.front().edges.size()) + ", section " +
                       std::to_string(sections.size() + 1) + " has " +
                       std::to_string(section->edges.size()) + "."};
    sections.push_back(sections.empty() ? *section : aligned(*section, sections.back()));
  }
  const Skin skin(sections, way);
  std::vector<Guide> guides;
  for (const TopoDS_Wire& wire : way.guides) {
    auto guide = guide_of(wire, sections, skin.along().back());
    if (!guide) return guide.error();
    guides.push_back(*std::move(guide));
  }
  const bool closed = sections.front().closed;
  const double period = sections.front().period();
  const std::size_t edges = sections.front().edges.size();
  // Cubic between the sections, and as many as follow a guide's turns.
  const bool led = !guides.empty() || way.start || way.end;
  const std::size_t steps = led ? std::clamp<std::size_t>(24 / (sections.size() - 1), 4, 12) : 1;
  LoftSections made;
  std::vector<TopoDS_Wire>& all = made.wires;
  std::vector<TopoDS_Edge> first = sections.front().edges;
  if (way.before > 0) {
    const auto wire = section_beyond(sections, skin, false, way.before, way.normals.front());
    if (!wire) return wire.error();
    all.push_back(wire->wire);
    first = wire->edges;
  }
  for (std::size_t k = 0; k < sections.size(); ++k) {
    BRepBuilderAPI_MakeWire own;
    for (const TopoDS_Edge& edge : sections[k].edges) own.Add(edge);
    all.push_back(own.Wire());
    if (k + 1 == sections.size()) break;
    for (std::size_t step = 1; step < steps; ++step) {
      const double t = static_cast<double>(step) / static_cast<double>(steps);
      std::vector<std::vector<Vec3>> places(edges);
      Vec3 middle = Vec3::Zero();
      for (std::size_t e = 0; e < edges; ++e) {
        for (std::size_t i = 0; i < kPlaces; ++i) {
          places[e].push_back(skin.at(k, t, e, i));
          middle += places[e].back() / static_cast<double>(edges * kPlaces);
        }
      }
      Vec3 axis = Vec3::Zero();
      for (const auto& curve : places)
        for (std::size_t i = 1; i < kPlaces; ++i)
          axis += (curve[i - 1] - middle).cross(curve[i] - middle);
      axis.normalize();
      Drawn drawn(period, closed);
      for (const Guide& guide : guides) {
        const Guide::Touch& a = guide.touches[k];
        const Guide::Touch& b = guide.touches[k + 1];
        const double around = between_around(a.around, b.around, t, period, closed);
        const auto flat =
            std::min(static_cast<std::size_t>(around), static_cast<std::size_t>(period) - 1);
        const auto& curve = places[flat / (kPlaces - 1)];
        const std::size_t i = flat % (kPlaces - 1);
        const double rest = around - static_cast<double>(flat);
        const Vec3 now = (1 - rest) * curve[i] + rest * curve[i + 1];
        const Vec3 wanted = guide.at((1 - t) * a.along + t * b.along);
        const Vec3 by = wanted - now - ((1 - t) * a.miss + t * b.miss);
        drawn.want(around, frame_at(now, middle, axis, closed).transpose() * by);
      }
      drawn.settle();
      for (std::size_t e = 0; e < edges; ++e) {
        for (std::size_t i = 0; i < kPlaces; ++i) {
          const double around = static_cast<double>(e * (kPlaces - 1) + i);
          const Eigen::Matrix3d frame = frame_at(places[e][i], middle, axis, closed);
          places[e][i] += frame * drawn.at(closed ? std::fmod(around, period) : around);
        }
      }
      if (closed) places.back().back() = places.front().front();
      const auto wire = wire_through(places, closed);
      if (!wire) return wire.error();
      all.push_back(wire->wire);
    }
  }
  if (way.past > 0) {
    const auto wire = section_beyond(sections, skin, true, way.past, way.normals.back());
    if (!wire) return wire.error();
    all.push_back(wire->wire);
  }
  for (std::size_t e = 0; e < first.size(); ++e)
    made.first.emplace_back(sections.front().edges[e], first[e]);
  return made;
}

}  // namespace lostline::model
