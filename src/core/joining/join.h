#pragma once

#include <string>

#include "base/result.h"
#include "base/task.h"
#include "joining/shared_place.h"
#include "scan/mesh.h"

namespace lostline::joining {

struct JoinOptions {
  /// Places said to belong together; scans that three or more of them tie are laid by them, and
  /// they hold what surfaces do not.
  std::vector<SharedPlace> pairs;
  /// Links that the engineer cut: pairs of scans that are not compared.
  std::vector<std::pair<std::size_t, std::size_t>> cut;
};

/// How two scans lie on each other.
struct Link {
  std::size_t a = 0, b = 0;
  double rms = 0;      ///< mm, of the first's points about the second's surface
  double overlap = 0;  ///< share of the smaller one's surface
};

struct Joined {
  std::vector<Transform> poses;  ///< of each scan, to the first one's coordinates
  /// Scans whose triangles face inwards, as far as the first one's face outwards: they lie on the
  /// others only when they are turned inside out.
  std::vector<bool> inside_out;
  std::vector<double> u_shift;  ///< mm, expanded, k = 2, at the middle of each scan; the first: 0
  std::vector<double> u_turn;   ///< rad, likewise
  std::vector<Link> links;      ///< pairs that overlap
  double rms = 0;               ///< mm, of all points used
  int rounds = 0;
  bool settled = false;
  /// What cannot be told: scans that may lie otherwise as well, shifts or turns that no overlap
  /// holds. A sentence each, naming the scan by its number from 1.
  std::vector<std::string> doubts;
};

/// Brings scans of one part together: each is laid on those that lie already, by the surfaces of
/// their surveys and by pairs of points with normals, judged by what agrees and what contradicts;
/// then all are adjusted together.
/// @param scans  two or more, mm, each in coordinates of its own.
/// @errors InvalidInput  fewer than two scans, too little surface, a pair that names no scan;
/// Failed  a scan that lies on no other, or pairs that hold nothing: the message says which;
/// Cancelled.
/// 3 to 20 s for four scans of 25 to 120 k triangles on two cores: most where they are symmetric.
/// Deterministic.
Result<Joined> join_scans(const std::vector<const scan::Mesh*>& scans,
                          const JoinOptions& options = {}, const Task& task = {});

}  // namespace lostline::joining
