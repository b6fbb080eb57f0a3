#include "simulate/grid_surface.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "base/parallel.h"

namespace lostline::simulate {
namespace {

struct Grid {
  Vec3 low;
  double cell;
  int nx, ny, nz;
  std::vector<std::uint8_t> inside;  // at the nodes

  [[nodiscard]] std::size_t at(int i, int j, int k) const {
    return (static_cast<std::size_t>(i) * static_cast<std::size_t>(ny) +
            static_cast<std::size_t>(j)) *
               static_cast<std::size_t>(nz) +
           static_cast<std::size_t>(k);
  }
};

Grid mark_inside(const scan::Mesh& closed, const scan::MeshIndex& index, double spacing) {
  const Box3 box = scan::bounds(closed);
  Grid grid;
  grid.cell = spacing;
  // An odd offset keeps grid planes off the faces of a part that lies square.
  grid.low = box.min() - Vec3(2.13, 2.29, 2.41) * spacing;
  const Vec3 size = box.max() - grid.low;
  grid.nx = static_cast<int>(size.x() / spacing) + 4;
  grid.ny = static_cast<int>(size.y() / spacing) + 4;
  grid.nz = static_cast<int>(size.z() / spacing) + 4;
  grid.inside.assign(static_cast<std::size_t>(grid.nx) * static_cast<std::size_t>(grid.ny) *
                         static_cast<std::size_t>(grid.nz),
                     0);
  parallel_for(static_cast<std::size_t>(grid.nx), 4, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      for (int j = 0; j < grid.ny; ++j) {
        Vec3 origin = grid.low + spacing * Vec3(static_cast<double>(i), j, 0);
        double z = 0;
        bool within = false;
        std::vector<std::pair<double, bool>> crossings;  // height, going in
        for (;;) {
          const auto hit = index.first_hit(origin + Vec3(0, 0, z), Vec3::UnitZ());
          if (!hit) break;
          z += std::max(hit->t, 0.0) + 1e-4;
          crossings.emplace_back(z, closed.area_vector(hit->triangle).z() < 0);
        }
        std::size_t next = 0;
        for (int k = 0; k < grid.nz; ++k) {
          while (next < crossings.size() && crossings[next].first <= k * spacing)
            within = crossings[next++].second;
          grid.inside[grid.at(static_cast<int>(i), j, k)] = within ? 1 : 0;
        }
      }
    }
  });
  return grid;
}

}  // namespace

scan::Mesh grid_surface(const scan::Mesh& closed, const scan::MeshIndex& index, double spacing) {
  const Grid grid = mark_inside(closed, index, spacing);
  scan::Mesh mesh;
  std::vector<std::uint32_t> vertex(grid.inside.size(), scan::kNone);
  for (int i = 0; i + 1 < grid.nx; ++i) {
    for (int j = 0; j + 1 < grid.ny; ++j) {
      for (int k = 0; k + 1 < grid.nz; ++k) {
        int count = 0;
        for (int c = 0; c < 8; ++c)
          count += grid.inside[grid.at(i + (c & 1), j + (c >> 1 & 1), k + (c >> 2))];
        if (count == 0 || count == 8) continue;
        Vec3 sum = Vec3::Zero();
        int crossings = 0;
        for (int c = 0; c < 8; ++c) {
          for (int axis = 0; axis < 3; ++axis) {
            if ((c >> axis & 1) != 0) continue;
            const int d = c | 1 << axis;
            const Vec3 a(c & 1, c >> 1 & 1, c >> 2);
            const Vec3 b(d & 1, d >> 1 & 1, d >> 2);
            const auto in = [&](const Vec3& o) {
              return grid.inside[grid.at(i + static_cast<int>(o.x()), j + static_cast<int>(o.y()),
                                         k + static_cast<int>(o.z()))];
            };
            if (in(a) == in(b)) continue;
            sum += 0.5 * (a + b);
            ++crossings;
          }
        }
        vertex[grid.at(i, j, k)] = static_cast<std::uint32_t>(mesh.vertices.size());
        mesh.vertices.push_back(grid.low + grid.cell * (Vec3(i, j, k) + sum / crossings));
      }
    }
  }
  // Each grid edge that crosses the surface gives a quad of the four cells around it.
  for (int i = 1; i + 1 < grid.nx; ++i) {
    for (int j = 1; j + 1 < grid.ny; ++j) {
      for (int k = 1; k + 1 < grid.nz; ++k) {
        const bool here = grid.inside[grid.at(i, j, k)] != 0;
        for (int axis = 0; axis < 3; ++axis) {
          const bool there =
              grid.inside[grid.at(i + (axis == 0), j + (axis == 1), k + (axis == 2))] != 0;
          if (here == there) continue;
          const auto cell = [&](int a, int b) {
            int o[3] = {0, 0, 0};
            o[(axis + 1) % 3] = -a;
            o[(axis + 2) % 3] = -b;
            return vertex[grid.at(i + o[0], j + o[1], k + o[2])];
          };
          std::uint32_t q[4] = {cell(0, 0), cell(1, 0), cell(1, 1), cell(0, 1)};
          if (there) std::swap(q[1], q[3]);
          mesh.triangles.push_back({q[0], q[1], q[2]});
          mesh.triangles.push_back({q[0], q[2], q[3]});
        }
      }
    }
  }
  parallel_for(mesh.vertices.size(), 2048, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) {
      if (const auto nearest = index.nearest(mesh.vertices[v])) mesh.vertices[v] = nearest->point;
    }
  });
  return mesh;
}

}  // namespace lostline::simulate
