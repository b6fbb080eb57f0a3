#include "section/section.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <queue>
#include <tuple>
#include <unordered_map>

#include "base/parallel.h"

namespace lostline::section {
namespace {

constexpr std::size_t kBlockSize = 64;

std::uint32_t spread_bits(std::uint32_t v) {  // 10 bits to every third place
  v = (v | (v << 16U)) & 0x030000ffU;
  v = (v | (v << 8U)) & 0x0300f00fU;
  v = (v | (v << 4U)) & 0x030c30c3U;
  return (v | (v << 2U)) & 0x09249249U;
}

struct Crossing {
  Vec2 point;
  Vec2 chord;  // see Polyline::chords
  std::uint32_t next = scan::kNone;
  std::uint32_t previous = scan::kNone;
  std::uint32_t triangle = scan::kNone;  // to the next
};

/// Open chains being joined. Pieces are linked, never copied, until the end.
class Bridges {
 public:
  Bridges(std::vector<Polyline>& pieces, double limit) : pieces_(pieces), limit_(limit) {
    const std::size_t n = pieces.size();
    root_.resize(n);
    length_.resize(n);
    next_.assign(n, n);
    previous_.assign(n, n);
    for (std::size_t i = 0; i < n; ++i) {
      root_[i] = i;
      length_[i] = pieces[i].length();
    }
  }

  void run() {
    for (const Gap& gap : gaps()) waiting_.push(gap);
    while (!waiting_.empty()) {
      const Gap gap = waiting_.top();
      waiting_.pop();
      if (next_[gap.from] != pieces_.size() || previous_[gap.to] != pieces_.size()) continue;
      const std::size_t a = find(gap.from);
      const std::size_t b = find(gap.to);
      // A scrap must not bridge a gap longer than itself.
      if (gap.size >= length_[a] || gap.size >= length_[b]) {
        blocked_[length_[a] <= gap.size ? a : b].push_back(gap);
        continue;
      }
      // Nor does a stretch of a round hole close on itself across the rest of it.
      constexpr double kOfItself = 0.35;
      if (a == b && gap.size > kOfItself * length_[a]) {
        blocked_[a].push_back(gap);
        continue;
      }
      next_[gap.from] = gap.to;
      previous_[gap.to] = gap.from;
      root_[b] = a;
      length_[a] += a != b ? gap.size + length_[b] : 0;
      // What was longer than either may not be any more.
      for (const std::size_t side : {a, b}) {
        for (const Gap& again : blocked_[side]) waiting_.push(again);
        blocked_[side].clear();
      }
    }
    assemble();
  }

 private:
  struct Gap {
    double size;
    std::size_t from, to;
    bool operator<(const Gap& other) const {  // the shortest on top, then in order
      return std::tie(size, from, to) > std::tie(other.size, other.from, other.to);
    }
  };

  /// Every end with every start within the limit, by cells of that size.
  [[nodiscard]] std::vector<Gap> gaps() const {
    std::map<std::pair<long long, long long>, std::vector<std::size_t>> starts;
    const auto cell = [&](const Vec2& p) {
      return std::pair(static_cast<long long>(std::floor(p.x() / limit_)),
                       static_cast<long long>(std::floor(p.y() / limit_)));
    };
    const auto open = [&](std::size_t i) {
      return !pieces_[i].closed && !pieces_[i].points.empty();
    };
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
      if (open(i)) starts[cell(pieces_[i].points.front())].push_back(i);
    }
    std::vector<Gap> found;
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
      if (!open(i)) continue;
      const Vec2& end = pieces_[i].points.back();
      const auto [x, y] = cell(end);
      for (long long dx = -1; dx <= 1; ++dx) {
        for (long long dy = -1; dy <= 1; ++dy) {
          const auto near = starts.find({x + dx, y + dy});
          if (near == starts.end()) continue;
          for (const std::size_t j : near->second) {
            const double size = (pieces_[j].points.front() - end).norm();
            if (size < limit_) found.push_back({size, i, j});
          }
        }
      }
    }
    return found;
  }
  std::size_t find(std::size_t i) {
    while (root_[i] != i) i = root_[i] = root_[root_[i]];
    return i;
  }
  void assemble() {
    std::vector<char> used(pieces_.size(), 0);
    std::vector<Polyline> joined;
    const auto follow = [&](std::size_t first) {
      Polyline line;
      for (std::size_t i = first; i < pieces_.size() && used[i] == 0; i = next_[i]) {
        used[i] = 1;
        const std::size_t offset = line.points.size();
        for (const std::size_t gap : pieces_[i].gaps) line.gaps.push_back(gap + offset);
        line.points.insert(line.points.end(), pieces_[i].points.begin(), pieces_[i].points.end());
        line.chords.insert(line.chords.end(), pieces_[i].chords.begin(), pieces_[i].chords.end());
        line.triangles.insert(line.triangles.end(), pieces_[i].triangles.begin(),
                              pieces_[i].triangles.end());
        if (next_[i] < pieces_.size()) line.gaps.push_back(line.points.size() - 1);
        line.closed = pieces_[i].closed || next_[i] == first;
      }
      joined.push_back(std::move(line));
    };
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
      if (previous_[i] == pieces_.size()) follow(i);
    }
    for (std::size_t i = 0; i < pieces_.size(); ++i) {  // rounds, from any of their pieces
      if (used[i] == 0) follow(i);
    }
    pieces_ = std::move(joined);
  }

  std::vector<Polyline>& pieces_;
  double limit_;
  std::vector<std::size_t> root_, next_, previous_;  // the number of pieces stands for none
  std::vector<double> length_;                       // of the chain, at its root
  std::priority_queue<Gap> waiting_;
  std::map<std::size_t, std::vector<Gap>> blocked_;  // by the root that is too short
};

/// Joins the open chains end to start, shortest gap first; a chain whose own ends are near closes
/// on itself. O(n log n) for n chains whose ends do not crowd.
void bridge_gaps(std::vector<Polyline>& chains, double limit) {
  if (limit > 0) Bridges(chains, limit).run();
}

}  // namespace

double median_step(const std::vector<Polyline>& chains) {
  std::vector<double> steps;
  for (const Polyline& chain : chains) {
    for (std::size_t i = 1; i < chain.points.size(); ++i) {
      steps.push_back((chain.points[i] - chain.points[i - 1]).norm());
    }
  }
  if (steps.empty()) return 0;
  const auto middle = steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2);
  std::nth_element(steps.begin(), middle, steps.end());
  return *middle;
}

double Polyline::length() const {
  double sum = 0;
  for (std::size_t i = 1; i < points.size(); ++i) sum += (points[i] - points[i - 1]).norm();
  if (closed && points.size() > 1) sum += (points.front() - points.back()).norm();
  return sum;
}

SectionIndex::SectionIndex(std::shared_ptr<const scan::Mesh> mesh) : mesh_(std::move(mesh)) {
  const std::size_t n = mesh_->triangles.size();
  const Box3 box = scan::bounds(*mesh_);
  if (n == 0) return;
  const Vec3 scale = (box.sizes().cwiseMax(1e-9)).cwiseInverse() * 1023.0;
  std::vector<std::pair<std::uint32_t, std::uint32_t>> keys(n);
  parallel_for(n, 8192, [&](std::size_t begin, std::size_t end) {
    for (std::size_t t = begin; t < end; ++t) {
      const Vec3 c = (mesh_->centroid(t) - box.min()).cwiseProduct(scale);
      keys[t] = {spread_bits(static_cast<std::uint32_t>(c.x())) |
                     spread_bits(static_cast<std::uint32_t>(c.y())) << 1U |
                     spread_bits(static_cast<std::uint32_t>(c.z())) << 2U,
                 static_cast<std::uint32_t>(t)};
    }
  });
  std::sort(keys.begin(), keys.end());
  order_.resize(n);
  for (std::size_t i = 0; i < n; ++i) order_[i] = keys[i].second;
  blocks_.resize((n + kBlockSize - 1) / kBlockSize);
  parallel_for(blocks_.size(), 256, [&](std::size_t begin, std::size_t end) {
    for (std::size_t b = begin; b < end; ++b) {
      Block& block = blocks_[b];
      block.begin = static_cast<std::uint32_t>(b * kBlockSize);
      block.end = static_cast<std::uint32_t>(std::min(n, (b + 1) * kBlockSize));
      Box3 bounds;
      for (std::uint32_t i = block.begin; i < block.end; ++i) {
        for (int k = 0; k < 3; ++k) bounds.extend(mesh_->corner(order_[i], k));
      }
      // Rounded outwards, so that single precision never loses a triangle.
      const Eigen::Vector3f slack =
          bounds.max().cwiseAbs().cwiseMax(bounds.min().cwiseAbs()).cast<float>() * 1e-6F;
      block.low = bounds.min().cast<float>() - slack;
      block.high = bounds.max().cast<float>() + slack;
    }
  });
}

namespace {

/// What of a run goes through triangles of a part: each stretch of it a run of its own.
void add_part_of(const Polyline& line, const std::vector<bool>& part, std::vector<Polyline>& runs) {
  const std::size_t n = line.points.size();
  const std::size_t stretches = line.closed ? n : n - 1;
  std::vector<char> wanted(stretches, 0);
  std::vector<char> gap(n, 0);
  for (const std::size_t g : line.gaps) gap[g] = 1;
  for (std::size_t i = 0; i < stretches; ++i) {
    const std::uint32_t t = line.triangles[i];
    wanted[i] = gap[i] == 0 && t != scan::kNone && part[t] ? 1 : 0;
  }
  for (const std::size_t g : line.gaps) {
    if (!line.closed && (g == 0 || g + 1 >= stretches)) continue;
    if (wanted[(g + stretches - 1) % stretches] != 0 && wanted[(g + 1) % stretches] != 0)
      wanted[g] = 1;
  }
  const auto out = std::find(wanted.begin(), wanted.end(), 0);
  if (out == wanted.end()) return runs.push_back(line);
  const auto start = line.closed ? static_cast<std::size_t>(out - wanted.begin()) : 0;
  Polyline run;
  const auto add = [&](std::size_t i) {
    run.points.push_back(line.points[i]);
    run.chords.push_back(line.chords[i]);
    run.triangles.push_back(line.triangles[i]);
  };
  const auto finish = [&] {
    if (run.points.empty()) return;
    run.triangles.back() = scan::kNone;
    runs.push_back(std::exchange(run, {}));
  };
  for (std::size_t k = 0; k < stretches; ++k) {
    const std::size_t i = (start + k) % n;
    if (wanted[i] == 0) {
      finish();
      continue;
    }
    if (run.points.empty()) add(i);
    if (gap[i] != 0) run.gaps.push_back(run.points.size() - 1);
    add((i + 1) % n);
  }
  finish();
}

}  // namespace

Section SectionIndex::cut(const Placement& plane, const SectionOptions& options) const {
  Section section{plane, {}};
  const Eigen::Vector3f normal = plane.normal.cast<float>();
  const auto offset = static_cast<float>(plane.normal.dot(plane.origin));
  std::vector<Crossing> crossings;
  std::unordered_map<std::uint64_t, std::uint32_t> node_of_edge;
  const auto height = [&](std::uint32_t v) {
    return plane.normal.dot(mesh_->vertices[v] - plane.origin);
  };
  const auto node = [&](std::uint32_t a, std::uint32_t b) {
    if (a > b) std::swap(a, b);
    const auto [it, fresh] = node_of_edge.try_emplace(static_cast<std::uint64_t>(a) << 32U | b,
                                                      static_cast<std::uint32_t>(crossings.size()));
    if (fresh) {
      const double ha = height(a);
      const double hb = height(b);
      const double t = ha / (ha - hb);
      const Vec3 p = mesh_->vertices[a] + t * (mesh_->vertices[b] - mesh_->vertices[a]);
      const Vec3 edge = mesh_->vertices[b] - mesh_->vertices[a];
      crossings.push_back({plane.to_plane(p), std::sqrt(std::max(0.0, t * (1 - t))) *
                                                  Vec2(plane.x.dot(edge), plane.y.dot(edge))});
    }
    return it->second;
  };
  for (const Block& block : blocks_) {
    const Eigen::Vector3f middle = 0.5F * (block.low + block.high);
    const Eigen::Vector3f half = 0.5F * (block.high - block.low);
    const float slack = 1e-5F * (std::abs(offset) + middle.cwiseAbs().sum()) + 1e-6F;
    if (std::abs(normal.dot(middle) - offset) > normal.cwiseAbs().dot(half) + slack) continue;
    for (std::uint32_t i = block.begin; i < block.end; ++i) {
      const scan::Triangle& t = mesh_->triangles[order_[i]];
      // A vertex exactly on the plane counts as above it: every crossing is then inside an edge,
      // and loops stay clean where the plane grazes a vertex or lies in a flat face.
      const bool above[3] = {height(t[0]) >= 0, height(t[1]) >= 0, height(t[2]) >= 0};
      if (above[0] == above[1] && above[1] == above[2]) continue;
      std::size_t lone = 0;
      while (above[lone] == above[(lone + 1) % 3] || above[lone] == above[(lone + 2) % 3]) ++lone;
      std::uint32_t first = node(t[lone], t[(lone + 1) % 3]);
      std::uint32_t second = node(t[lone], t[(lone + 2) % 3]);
      // With the lone corner above the plane, material is on the left from its first edge to its
      // second.
      if (!above[lone]) std::swap(first, second);
      if (crossings[first].next == scan::kNone && crossings[second].previous == scan::kNone) {
        crossings[first].next = second;
        crossings[first].triangle = order_[i];
        crossings[second].previous = first;
      }
    }
  }

  std::vector<char> used(crossings.size(), 0);
  const auto trace = [&](std::uint32_t start, bool closed) {
    Polyline line;
    line.closed = closed;
    for (std::uint32_t i = start; i != scan::kNone && used[i] == 0; i = crossings[i].next) {
      used[i] = 1;
      // Crossings that fall together (edges that meet in a vertex on the plane) are one point.
      if (line.points.empty() || (crossings[i].point - line.points.back()).squaredNorm() > 1e-18) {
        line.points.push_back(crossings[i].point);
        line.chords.push_back(crossings[i].chord);
        line.triangles.push_back(crossings[i].triangle);
      }
    }
    return line;
  };
  for (std::uint32_t i = 0; i < crossings.size(); ++i) {
    if (used[i] == 0 && crossings[i].previous == scan::kNone) {
      section.polylines.push_back(trace(i, false));
    }
  }
  for (std::uint32_t i = 0; i < crossings.size(); ++i) {
    if (used[i] == 0) section.polylines.push_back(trace(i, true));
  }
  std::erase_if(section.polylines, [](const Polyline& p) { return p.points.size() < 2; });
  bridge_gaps(section.polylines, options.bridge_spacings * median_step(section.polylines));
  if (options.part) {
    std::vector<Polyline> runs;
    for (const Polyline& line : section.polylines) add_part_of(line, *options.part, runs);
    section.polylines = std::move(runs);
  }
  std::erase_if(section.polylines,
                [&](const Polyline& p) { return p.points.size() < options.fewest_points; });
  std::vector<std::pair<double, std::size_t>> by_length;
  for (std::size_t i = 0; i < section.polylines.size(); ++i) {
    by_length.emplace_back(-section.polylines[i].length(), i);
  }
  std::sort(by_length.begin(), by_length.end());
  std::vector<Polyline> sorted;
  for (const auto& [length, i] : by_length) sorted.push_back(std::move(section.polylines[i]));
  section.polylines = std::move(sorted);
  return section;
}

}  // namespace lostline::section
