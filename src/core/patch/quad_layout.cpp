#include "patch/quad_layout.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <map>
#include <optional>
#include <queue>

#include "base/linear.h"
#include "base/parallel.h"

namespace lostline::patch {
namespace {

/// A box of cells in the mesh's principal axes, some of them taken.
struct Cells {
  Eigen::Matrix3d axes;  ///< columns
  Vec3 low;              ///< corner of the box, in those axes, mm
  Vec3 size;             ///< of one cell, mm
  std::array<int, 3> count{};
  std::vector<double> share;  ///< of each cell that lies inside
  std::vector<char> taken;

  [[nodiscard]] bool holds(int i, int j, int k) const {
    return i >= 0 && j >= 0 && k >= 0 && i < count[0] && j < count[1] && k < count[2];
  }
  [[nodiscard]] std::size_t at(int i, int j, int k) const {
    return (static_cast<std::size_t>(i) * static_cast<std::size_t>(count[1]) +
            static_cast<std::size_t>(j)) *
               static_cast<std::size_t>(count[2]) +
           static_cast<std::size_t>(k);
  }
  [[nodiscard]] bool is(int i, int j, int k) const { return holds(i, j, k) && taken[at(i, j, k)]; }
};

/// How much of every cell lies inside, by lines along the third axis.
void measure(Cells& cells, const scan::Mesh& mesh, const scan::MeshIndex& index) {
  constexpr int kLines = 3;  // each way through a cell
  cells.share.assign(cells.at(cells.count[0] - 1, cells.count[1] - 1, cells.count[2] - 1) + 1, 0.0);
  const Vec3 along = cells.axes.col(2);
  const double skin = 1e-6 * cells.size.maxCoeff();
  parallel_for(
      static_cast<std::size_t>(cells.count[0]), 1, [&](std::size_t begin, std::size_t end) {
        for (int i = static_cast<int>(begin); i < static_cast<int>(end); ++i) {
          for (int j = 0; j < cells.count[1]; ++j) {
            for (int line = 0; line < kLines * kLines; ++line) {
              const int column = line % kLines;
              const int row = line / kLines;
              const double a = i + (column + 0.5) / kLines;
              const double b = j + (row + 0.5) / kLines;
              const double below = cells.size.z();  // begins outside
              const Vec3 foot =
                  cells.axes * (cells.low + Vec3(a * cells.size.x(), b * cells.size.y(), -below));
              double z = 0;
              double entered = -1;
              for (;;) {
                const auto hit = index.first_hit(foot + z * along, along);
                if (!hit) break;
                z += std::max(hit->t, 0.0) + skin;
                if (mesh.area_vector(hit->triangle).dot(along) < 0) {
                  if (entered < 0) entered = z - below;
                } else if (entered >= 0) {
                  for (int k = 0; k < cells.count[2]; ++k) {
                    const double from = std::max(entered, k * cells.size.z());
                    const double to = std::min(z - below, (k + 1) * cells.size.z());
                    if (to > from)
                      cells.share[cells.at(i, j, k)] +=
                          (to - from) / cells.size.z() / (kLines * kLines);
                  }
                  entered = -1;
                }
              }
            }
          }
        }
      });
}

/// Keeps the largest part that hangs together over faces.
void keep_largest(Cells& cells) {
  std::vector<int> label(cells.taken.size(), -1);
  std::vector<std::size_t> sizes;
  for (int i = 0; i < cells.count[0]; ++i) {
    for (int j = 0; j < cells.count[1]; ++j) {
      for (int k = 0; k < cells.count[2]; ++k) {
        if (!cells.is(i, j, k) || label[cells.at(i, j, k)] >= 0) continue;
        const int mine = static_cast<int>(sizes.size());
        sizes.push_back(0);
        std::queue<std::array<int, 3>> open;
        open.push({i, j, k});
        label[cells.at(i, j, k)] = mine;
        while (!open.empty()) {
          const auto c = open.front();
          open.pop();
          ++sizes.back();
          for (int way = 0; way < 6; ++way) {
            auto next = c;
            next[static_cast<std::size_t>(way / 2)] += way % 2 == 0 ? 1 : -1;
            if (!cells.is(next[0], next[1], next[2])) continue;
            int& known = label[cells.at(next[0], next[1], next[2])];
            if (known >= 0) continue;
            known = mine;
            open.push(next);
          }
        }
      }
    }
  }
  if (sizes.empty()) return;
  const int largest =
      static_cast<int>(std::max_element(sizes.begin(), sizes.end()) - sizes.begin());
  for (std::size_t c = 0; c < label.size(); ++c) cells.taken[c] = label[c] == largest ? 1 : 0;
}

/// Whether the cells around a corner that are taken, or those that are not, hang together over
/// faces.
bool together(const std::array<bool, 8>& around, bool taken) {
  int seen = 0;
  int first = -1;
  int all = 0;
  for (int c = 0; c < 8; ++c) {
    if (around[static_cast<std::size_t>(c)] != taken) continue;
    ++all;
    if (first < 0) first = c;
  }
  if (all == 0) return true;
  std::vector<int> open{first};
  std::array<bool, 8> known{};
  known[static_cast<std::size_t>(first)] = true;
  while (!open.empty()) {
    const int c = open.back();
    open.pop_back();
    ++seen;
    for (const int bit : {1, 2, 4}) {
      const auto next = static_cast<std::size_t>(c ^ bit);
      if (known[next] || around[next] != taken) continue;
      known[next] = true;
      open.push_back(static_cast<int>(next));
    }
  }
  return seen == all;
}

/// Fills cells until the border is a surface everywhere. False when it does not come to an end.
bool make_manifold(Cells& cells) {
  constexpr int kRounds = 60;
  for (int round = 0; round < kRounds; ++round) {
    bool changed = false;
    for (int i = 0; i <= cells.count[0]; ++i) {
      for (int j = 0; j <= cells.count[1]; ++j) {
        for (int k = 0; k <= cells.count[2]; ++k) {
          std::array<bool, 8> around{};
          for (int c = 0; c < 8; ++c)
            around[static_cast<std::size_t>(c)] =
                cells.is(i - 1 + (c & 1), j - 1 + (c >> 1 & 1), k - 1 + (c >> 2));
          if (together(around, true) && together(around, false)) continue;
          // The emptiest to fill is the one that is fullest.
          double best = -1;
          std::size_t which = 0;
          for (int c = 0; c < 8; ++c) {
            const int a = i - 1 + (c & 1);
            const int b = j - 1 + (c >> 1 & 1);
            const int d = k - 1 + (c >> 2);
            if (around[static_cast<std::size_t>(c)] || !cells.holds(a, b, d)) continue;
            const double share = cells.share[cells.at(a, b, d)];
            if (share > best) {
              best = share;
              which = cells.at(a, b, d);
            }
          }
          if (best < 0) return false;
          cells.taken[which] = 1;
          changed = true;
        }
      }
    }
    if (!changed) return true;
  }
  return false;
}

/// Quads between cells that are taken and those that are not; places at the cells' corners.
QuadLayout skin_of(const Cells& cells) {
  QuadLayout layout;
  layout.steps = 1;
  std::map<std::array<int, 3>, std::uint32_t> known;
  const auto corner = [&](int i, int j, int k) {
    const auto [it, fresh] =
        known.try_emplace({i, j, k}, static_cast<std::uint32_t>(layout.places.size()));
    if (fresh)
      layout.places.push_back(cells.axes * (cells.low + cells.size.cwiseProduct(Vec3(i, j, k))));
    return it->second;
  };
  for (int i = 0; i < cells.count[0]; ++i) {
    for (int j = 0; j < cells.count[1]; ++j) {
      for (int k = 0; k < cells.count[2]; ++k) {
        if (!cells.is(i, j, k)) continue;
        for (std::size_t axis = 0; axis < 3; ++axis) {
          for (const int side : {0, 1}) {
            std::array<int, 3> next{i, j, k};
            next[axis] += side == 1 ? 1 : -1;
            if (cells.is(next[0], next[1], next[2])) continue;
            const std::size_t u = (axis + 1) % 3;
            const std::size_t v = (axis + 2) % 3;
            std::array<std::uint32_t, 4> quad{};
            for (std::size_t c = 0; c < 4; ++c) {
              std::array<int, 3> at{i, j, k};
              at[axis] += side;
              at[u] += c == 1 || c == 2 ? 1 : 0;
              at[v] += c >= 2 ? 1 : 0;
              // Seen from the low side the turn is the other way.
              quad[side == 1 ? c : (4 - c) % 4] = corner(at[0], at[1], at[2]);
            }
            layout.quads.push_back(quad);
          }
        }
      }
    }
  }
  for (const auto& q : layout.quads)
    layout.nodes.insert(layout.nodes.end(), {q[0], q[3], q[1], q[2]});
  return layout;
}

/// The same areas with twice as many steps; new places halfway.
QuadLayout finer(const QuadLayout& coarse) {
  QuadLayout fine;
  fine.quads = coarse.quads;
  fine.steps = 2 * coarse.steps;
  fine.places = coarse.places;
  const std::size_t row = fine.steps + 1;
  fine.nodes.resize(fine.quads.size() * row * row);
  std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> halves;
  const auto half = [&](std::uint32_t a, std::uint32_t b) {
    const auto [it, fresh] =
        halves.try_emplace(std::minmax(a, b), static_cast<std::uint32_t>(fine.places.size()));
    if (fresh) fine.places.emplace_back(0.5 * (coarse.places[a] + coarse.places[b]));
    return it->second;
  };
  for (std::size_t q = 0; q < fine.quads.size(); ++q) {
    const auto at = [&](std::size_t i, std::size_t j) -> std::uint32_t& {
      return fine.nodes[(q * row + i) * row + j];
    };
    for (std::size_t i = 0; i < row; ++i) {
      for (std::size_t j = 0; j < row; ++j) {
        if (i % 2 == 0 && j % 2 == 0)
          at(i, j) = coarse.node(q, i / 2, j / 2);
        else if (j % 2 == 0)
          at(i, j) = half(coarse.node(q, i / 2, j / 2), coarse.node(q, i / 2 + 1, j / 2));
        else if (i % 2 == 0)
          at(i, j) = half(coarse.node(q, i / 2, j / 2), coarse.node(q, i / 2, j / 2 + 1));
      }
    }
    for (std::size_t i = 1; i < row; i += 2) {
      for (std::size_t j = 1; j < row; j += 2) {
        at(i, j) = static_cast<std::uint32_t>(fine.places.size());
        fine.places.emplace_back(0.25 * (fine.places[at(i - 1, j)] + fine.places[at(i + 1, j)] +
                                         fine.places[at(i, j - 1)] + fine.places[at(i, j + 1)]));
      }
    }
  }
  return fine;
}

/// Places joined by a grid line.
scan::Rows neighbours_of(const QuadLayout& layout) {
  std::vector<std::vector<std::uint32_t>> lists(layout.places.size());
  const auto join = [&](std::uint32_t a, std::uint32_t b) {
    for (const auto& [from, to] : {std::pair{a, b}, std::pair{b, a}}) {
      if (std::find(lists[from].begin(), lists[from].end(), to) == lists[from].end())
        lists[from].push_back(to);
    }
  };
  for (std::size_t q = 0; q < layout.quads.size(); ++q) {
    for (std::size_t i = 0; i <= layout.steps; ++i) {
      for (std::size_t j = 0; j <= layout.steps; ++j) {
        if (i < layout.steps) join(layout.node(q, i, j), layout.node(q, i + 1, j));
        if (j < layout.steps) join(layout.node(q, i, j), layout.node(q, i, j + 1));
      }
    }
  }
  scan::Rows rows;
  rows.start.push_back(0);
  for (const auto& list : lists) {
    rows.items.insert(rows.items.end(), list.begin(), list.end());
    rows.start.push_back(static_cast<std::uint32_t>(rows.items.size()));
  }
  return rows;
}

/// Where a place of the grid belongs: straight out or in along the grid's normal, where the mesh
/// faces the same way; else the nearest place that does. Empty where there is none.
std::optional<Vec3> place_on(const scan::Mesh& mesh, const scan::MeshIndex& index, const Vec3& from,
                             const Vec3& normal) {
  constexpr double kSameWay = 0.3;  // cosine
  std::optional<Vec3> best;
  double least = 1e300;
  for (const double way : {1.0, -1.0}) {
    const auto hit = index.first_hit(from, way * normal);
    if (!hit || hit->t >= least ||
        mesh.area_vector(hit->triangle).normalized().dot(normal) < kSameWay)
      continue;
    least = hit->t;
    best = hit->point;
  }
  const auto near = index.nearest(from);
  // Along the normal is where a bulge lies; beside it, the nearest place is the better one.
  constexpr double kMuchNearer = 0.5;
  const bool agrees = near && mesh.area_vector(near->triangle).normalized().dot(normal) > kSameWay;
  if (agrees && (!best || near->distance < kMuchNearer * least)) best = near->point;
  return best;
}

/// Turns of smoothing and projection on to the mesh.
void wrap(QuadLayout& layout, const scan::Mesh& mesh, const scan::MeshIndex& index, int turns,
          double first_pull) {
  const scan::Rows around = neighbours_of(layout);
  std::vector<Vec3> next(layout.places.size());
  for (int turn = 0; turn < turns; ++turn) {
    const double pull = std::min(1.0, first_pull + 2.0 * (1 - first_pull) * turn / turns);
    const std::vector<Vec3> normals = scan::vertex_normals(layout.mesh());
    parallel_for(next.size(), 256, [&](std::size_t begin, std::size_t end) {
      for (std::size_t p = begin; p < end; ++p) {
        Vec3 mean = Vec3::Zero();
        for (const std::uint32_t other : around[p]) mean += layout.places[other];
        mean /= static_cast<double>(around[p].size());
        next[p] = 0.5 * (layout.places[p] + mean);
        if (const auto on = place_on(mesh, index, next[p], normals[p]))
          next[p] += pull * (*on - next[p]);
      }
    });
    layout.places.swap(next);
  }
}

/// Whether the grid lies on the mesh without folds and reaches all of it.
bool wrapped(const QuadLayout& layout, const scan::Mesh& mesh, const scan::MeshIndex& index) {
  const scan::Mesh grid = layout.mesh();
  double step = 0;
  for (std::size_t t = 0; t < grid.triangles.size(); ++t) {
    const Vec3 n = grid.area_vector(t);
    const auto near = index.nearest(grid.centroid(t));
    constexpr double kFolded = 0.3;  // cosine between grid and mesh
    if (!near || !(n.norm() > 0) ||
        n.normalized().dot(mesh.area_vector(near->triangle).normalized()) < kFolded)
      return false;
    step +=
        (grid.corner(t, 1) - grid.corner(t, 0)).norm() / static_cast<double>(grid.triangles.size());
  }
  const scan::MeshIndex on_grid(grid);
  std::size_t beyond = 0;
  for (const Vec3& v : mesh.vertices) {
    const auto near = on_grid.nearest(v, step);
    beyond += near ? 0 : 1;
  }
  constexpr double kReached = 0.02;  // of the vertices may lie a step off: the fit goes after them
  return static_cast<double>(beyond) <= kReached * static_cast<double>(mesh.vertices.size());
}

}  // namespace

scan::Mesh QuadLayout::mesh() const {
  scan::Mesh grid;
  grid.vertices = places;
  grid.triangles.reserve(2 * quads.size() * steps * steps);
  for (std::size_t q = 0; q < quads.size(); ++q) {
    for (std::size_t i = 0; i < steps; ++i) {
      for (std::size_t j = 0; j < steps; ++j) {
        grid.triangles.push_back({node(q, i, j), node(q, i + 1, j), node(q, i + 1, j + 1)});
        grid.triangles.push_back({node(q, i, j), node(q, i + 1, j + 1), node(q, i, j + 1)});
      }
    }
  }
  return grid;
}

Result<QuadLayout> part_closed(const scan::Mesh& mesh, const scan::MeshIndex& index,
                               std::size_t wanted, const Task& task) {
  // Principal axes of the surface.
  double area = 0;
  Vec3 middle = Vec3::Zero();
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const double a = mesh.area_vector(t).norm();
    area += a;
    middle += a * mesh.centroid(t);
  }
  middle /= area;
  Eigen::Matrix3d scatter = Eigen::Matrix3d::Zero();
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Vec3 d = mesh.centroid(t) - middle;
    scatter += mesh.area_vector(t).norm() * d * d.transpose();
  }
  Cells cells;
  cells.axes = symmetric_eigen<3>(scatter).vectors;
  if (cells.axes.determinant() < 0) cells.axes.col(0) *= -1;
  Box3 box;
  for (const Vec3& v : mesh.vertices) box.extend(Vec3(cells.axes.transpose() * v));
  cells.low = box.min();
  const auto euler = static_cast<std::ptrdiff_t>(mesh.vertices.size()) -
                     static_cast<std::ptrdiff_t>(mesh.triangles.size() / 2);
  constexpr std::size_t kMost = 3000;  // areas
  constexpr double kFiner = 0.9;       // of a cell's side, from try to try
  constexpr double kHalf = 0.5;        // of a cell inside: it is taken
  constexpr double kMostCells = 2e6;
  std::array<int, 3> before{};
  int folded = 0;
  const auto given_up = [&] {
    return Error{ErrorCode::Degenerate,
                 folded > 0 ? "No layout of patches lies around this shape without folds: it is "
                              "too thin or too rugged somewhere. Use Patch on areas of it."
                            : "The holes and handles of this shape are not caught by up to 3000 "
                              "patches: it is too thin somewhere. Use Patch on areas of it."};
  };
  for (double side = box.sizes().maxCoeff();; side *= kFiner) {
    if (task.stopped()) return cancelled();
    if (box.volume() / (side * side * side) > kMostCells) return given_up();
    for (std::size_t k = 0; k < 3; ++k) {
      cells.count[k] = std::max(
          1, static_cast<int>(std::lround(box.sizes()[static_cast<Eigen::Index>(k)] / side)));
      cells.size[static_cast<Eigen::Index>(k)] =
          box.sizes()[static_cast<Eigen::Index>(k)] / cells.count[k];
    }
    if (cells.count == before) continue;
    before = cells.count;
    measure(cells, mesh, index);
    cells.taken.resize(cells.share.size());
    for (std::size_t c = 0; c < cells.share.size(); ++c)
      cells.taken[c] = cells.share[c] >= kHalf ? 1 : 0;
    keep_largest(cells);
    if (!make_manifold(cells)) continue;
    QuadLayout layout = skin_of(cells);
    if (layout.quads.size() > kMost) return given_up();
    if (static_cast<double>(layout.quads.size()) < 0.8 * static_cast<double>(wanted)) continue;
    // Corners minus sides plus areas: each area has four half sides.
    if (static_cast<std::ptrdiff_t>(layout.places.size()) -
            static_cast<std::ptrdiff_t>(layout.quads.size()) !=
        euler)
      continue;
    constexpr std::size_t kSteps = 16;
    wrap(layout, mesh, index, 12, 0.2);
    while (layout.steps < kSteps) {
      layout = finer(layout);
      wrap(layout, mesh, index, 16, layout.steps == 2 ? 0.4 : 0.8);
    }
    if (wrapped(layout, mesh, index)) return layout;
    ++folded;
  }
}

}  // namespace lostline::patch
