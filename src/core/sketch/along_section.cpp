#include "sketch/along_section.h"

#include <algorithm>
#include <cstdlib>

#include "sketch/curve_kind.h"
#include "sketch/drawing.h"

namespace lostline::sketch {
namespace {

/// Of the ends of a curve, the point nearer to a place; 0 of a whole one.
Id end_near(const Sketch& sketch, Id entity, const Vec2& place) {
  const Entity& e = *sketch.find_entity(entity);
  if (!kind_of(e).has_ends()) return 0;
  return (sketch.position(e.a) - place).norm() < (sketch.position(e.b) - place).norm() ? e.a : e.b;
}

}  // namespace

std::optional<SectionPlace> nearest_place(const section::Section& section, const Vec2& p) {
  std::optional<SectionPlace> best;
  double nearest = 0;
  for (std::size_t i = 0; i < section.polylines.size(); ++i) {
    const std::vector<Vec2>& points = section.polylines[i].points;
    for (std::size_t k = 0; k < points.size(); ++k) {
      const double d = (points[k] - p).squaredNorm();
      if (best && d >= nearest) continue;
      nearest = d;
      best = {i, k};
    }
  }
  return best;
}

void SectionStretch::go_to(const section::Section& section, std::size_t point) {
  const section::Polyline& run = section.polylines[line];
  const auto n = static_cast<long>(run.points.size());
  long step = static_cast<long>(point) - to;
  if (run.closed) {
    step %= n;
    if (step > n / 2) step -= n;
    if (step < -n / 2) step += n;
  }
  to += step;
}

bool SectionStretch::whole(const section::Section& section) const {
  const section::Polyline& run = section.polylines[line];
  return run.closed && std::labs(to - from) >= static_cast<long>(run.points.size());
}

section::Polyline points_along(const section::Section& section, const SectionStretch& stretch) {
  const section::Polyline& run = section.polylines[stretch.line];
  const auto n = static_cast<long>(run.points.size());
  const bool chords = run.chords.size() == run.points.size();
  const long way = stretch.to < stretch.from ? -1 : 1;
  section::Polyline part;
  part.closed = stretch.whole(section);
  const long count = part.closed ? n : std::labs(stretch.to - stretch.from) + 1;
  const auto at = [&](long k) { return static_cast<std::size_t>((k % n + n) % n); };
  for (long i = 0; i < count; ++i) {
    const long k = stretch.from + way * i;
    part.points.push_back(run.points[at(k)]);
    if (chords) part.chords.push_back(run.chords[at(k)]);
    // A gap stands at the smaller of the two points it lies between.
    const std::size_t between = at(way > 0 ? k : k - 1);
    if ((i + 1 < count || part.closed) &&
        std::binary_search(run.gaps.begin(), run.gaps.end(), between))
      part.gaps.push_back(static_cast<std::size_t>(i));
  }
  return part;
}

Result<std::vector<Id>> draw_along(Sketch& sketch, const section::Section& section,
                                   const SectionStretch& stretch,
                                   const section::ResolveOptions& options, Id first, Id last) {
  const auto curves = section::resolve(points_along(section, stretch), options);
  if (!curves) return curves.error();
  return draw_chain(sketch, *curves, first, last);
}

Result<std::vector<Id>> AlongRun::draw(Sketch& sketch, const section::Section& section,
                                       const section::ResolveOptions& options, Id to) {
  // Undo may have taken away where it was.
  const Id from = sketch.find_point(last) != nullptr ? last : 0;
  auto drawn = draw_along(sketch, section, stretch, options, from, to == from ? 0 : to);
  if (!drawn) return drawn;
  const std::vector<Vec2> points = points_along(section, stretch).points;
  if (first == 0) first = end_near(sketch, drawn->front(), points.front());
  last = end_near(sketch, drawn->back(), points.back());
  stretch.from = stretch.to;
  return drawn;
}

}  // namespace lostline::sketch
