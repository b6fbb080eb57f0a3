#pragma once

#include <Geom_BSplineSurface.hxx>
#include <functional>
#include <optional>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"

// The surface of a loft: cubic B-splines through rows of places, with as few poles as meet the
// sections. (Piegl and Tiller, The NURBS Book, 2nd edition, 10.3: skinned surfaces.)

namespace lostline::model {

/// A row that the surface passes through.
struct LoftRow {
  double along = 0;     ///< mm, from the first; ascending
  bool section = true;  ///< given: it is met within a millionth of the loft's size, 0.1 um at most
  std::function<Vec3(std::size_t curve, double share)> at;  ///< share of the curve's length, 0..1
};

/// How a loft leaves its ends.
struct LoftEnd {
  std::optional<Vec3> way;  ///< unit; empty: as it comes there
  double reach = 0;         ///< mm, how far it goes straight on, measured along the normal
  Vec3 normal;              ///< of the end section, unit, from the first to the last section
};

/// One surface for each curve of the rows, whose sides meet those of the next one: u runs along the
/// curve, v from row to row.
/// @param ring  the only curve is closed and smooth: its surface is periodic in u.
/// @param closed  the last curve ends where the first begins.
/// @errors Degenerate  it leaves an end nearly along that section's plane and is to go on there, or
/// a curve has a corner within.
Result<std::vector<Handle(Geom_BSplineSurface)>> skin_through(const std::vector<LoftRow>& rows,
                                                              std::size_t curves, bool ring,
                                                              bool closed, const LoftEnd& start,
                                                              const LoftEnd& end);

}  // namespace lostline::model
