#include "io/weld.h"

#include <bit>
#include <cmath>
#include <cstring>
#include <numeric>

#include "base/parallel.h"

namespace lostline::io {
namespace {

struct Key {
  std::uint32_t x, y, z;
  bool operator==(const Key&) const = default;
};

Key load_key(const char* bytes) {
  Key key;
  std::memcpy(&key, bytes, sizeof key);
  // -0 and 0 are one place.
  if (key.x == 0x80000000U) key.x = 0;
  if (key.y == 0x80000000U) key.y = 0;
  if (key.z == 0x80000000U) key.z = 0;
  return key;
}

bool finite(const Key& k) {
  constexpr std::uint32_t kExponent = 0x7f800000U;
  return (k.x & kExponent) != kExponent && (k.y & kExponent) != kExponent &&
         (k.z & kExponent) != kExponent;
}

std::uint64_t mix(const Key& k) {
  std::uint64_t h = (static_cast<std::uint64_t>(k.x) << 32U | k.y) * 0x9e3779b97f4a7c15ULL;
  h ^= h >> 29U;
  h = (h + k.z) * 0xbf58476d1ce4e5b9ULL;
  return h ^ (h >> 32U);
}

/// Open addressing over the vertices of one share of the hash space.
class Table {
 public:
  explicit Table(std::size_t expected)
      : slots_(std::bit_ceil(expected * 2 + 16), Slot{{}, kFree}), mask_(slots_.size() - 1) {}

  void prefetch(std::uint64_t hash) const { __builtin_prefetch(&slots_[hash & mask_], 1); }

  std::uint32_t insert(const Key& key, std::uint64_t hash) {
    std::size_t i = hash & mask_;
    while (slots_[i].index != kFree) {
      if (slots_[i].key == key) return slots_[i].index;
      i = (i + 1) & mask_;
    }
    if (2 * (keys.size() + 1) > slots_.size()) {
      grow();
      return insert(key, hash);
    }
    const auto index = static_cast<std::uint32_t>(keys.size());
    slots_[i] = {key, index};
    keys.push_back(key);
    return index;
  }

  std::vector<Key> keys;

 private:
  static constexpr std::uint32_t kFree = 0xffffffffU;
  struct Slot {
    Key key;
    std::uint32_t index;
  };
  void grow() {
    std::vector<Slot> bigger(slots_.size() * 4, Slot{{}, kFree});
    mask_ = bigger.size() - 1;
    for (const Slot& slot : slots_) {
      if (slot.index == kFree) continue;
      std::size_t i = mix(slot.key) & mask_;
      while (bigger[i].index != kFree) i = (i + 1) & mask_;
      bigger[i] = slot;
    }
    slots_.swap(bigger);
  }
  std::vector<Slot> slots_;
  std::size_t mask_;
};

}  // namespace

std::array<float, 3> load_floats(const char* bytes) {
  const Key key = load_key(bytes);
  return {std::bit_cast<float>(key.x), std::bit_cast<float>(key.y), std::bit_cast<float>(key.z)};
}

Result<LoadedMesh> weld_soup(const char* data, std::size_t count, std::size_t stride,
                             const Task& task) {
  // Two shares by one bit of the hash, each welded alone; both go over all corners, since hashing
  // is cheap and missing the cache is not.
  constexpr std::size_t kShares = 2;
  constexpr std::size_t kBlock = 64;
  std::vector<scan::Triangle> corners(count);
  std::array<std::unique_ptr<Table>, kShares> tables;
  parallel_for(kShares, 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t share = begin; share < end; ++share) {
      // A closed mesh has half as many vertices as triangles; each share has half of those.
      tables[share] = std::make_unique<Table>(count / 4 + count / 32 + 16);
      Table& table = *tables[share];
      table.keys.reserve(count / 4 + count / 32 + 16);
      std::array<Key, 3 * kBlock> keys;
      std::array<std::uint64_t, 3 * kBlock> hashes;
      for (std::size_t first = 0; first < count; first += kBlock) {
        if (first % (kBlock * 256) == 0) {
          if (task.stopped()) return;
          if (share == 0)
            task.report(0.8 * static_cast<double>(first) / static_cast<double>(count));
        }
        const std::size_t size = std::min(kBlock, count - first);
        for (std::size_t i = 0; i < 3 * size; ++i) {
          keys[i] = load_key(data + (first + i / 3) * stride + 12 * (i % 3));
          hashes[i] = mix(keys[i]);
          if ((hashes[i] >> 63U) == share) table.prefetch(hashes[i]);
        }
        for (std::size_t i = 0; i < 3 * size; ++i) {
          if ((hashes[i] >> 63U) != share) continue;
          corners[first + i / 3][i % 3] =
              table.insert(keys[i], hashes[i]) | static_cast<std::uint32_t>(share << 31U);
        }
      }
    }
  });
  if (task.stopped()) return cancelled();

  LoadedMesh loaded;
  std::vector<Vec3>& vertices = loaded.mesh.vertices;
  const std::size_t first_share = tables[0]->keys.size();
  vertices.resize(first_share + tables[1]->keys.size());
  std::vector<char> bad_share[kShares];
  parallel_for(kShares, 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t share = begin; share < end; ++share) {
      const std::size_t offset = share == 0 ? 0 : first_share;
      const std::vector<Key>& keys = tables[share]->keys;
      for (std::size_t i = 0; i < keys.size(); ++i) {
        vertices[offset + i] =
            Vec3(std::bit_cast<float>(keys[i].x), std::bit_cast<float>(keys[i].y),
                 std::bit_cast<float>(keys[i].z));
        if (!finite(keys[i])) {
          if (bad_share[share].empty()) bad_share[share].resize(keys.size(), 0);
          bad_share[share][i] = 1;
        }
      }
    }
  });
  const bool any_bad = !bad_share[0].empty() || !bad_share[1].empty();
  std::size_t out = 0;
  for (std::size_t t = 0; t < count; ++t) {
    scan::Triangle triangle = corners[t];
    bool bad = false;
    for (std::uint32_t& v : triangle) {
      const std::size_t share = v >> 31U;
      v &= 0x7fffffffU;
      if (any_bad && !bad_share[share].empty()) bad = bad || bad_share[share][v] != 0;
      if (share == 1) v += static_cast<std::uint32_t>(first_share);
    }
    if (bad) {
      ++loaded.skipped_not_finite;
    } else if (triangle[0] == triangle[1] || triangle[1] == triangle[2] ||
               triangle[0] == triangle[2]) {
      ++loaded.skipped_triangles;
    } else {
      corners[out++] = triangle;
    }
  }
  corners.resize(out);
  loaded.mesh.triangles = std::move(corners);
  if (any_bad) {
    const std::vector<char> keep(out, 1);
    loaded.mesh = scan::extract(loaded.mesh, keep);  // drops the vertices that are not finite
  }
  task.report(1.0);
  return loaded;
}

Result<LoadedMesh> welded(LoadedMesh loaded, const Task& task) {
  scan::Mesh& mesh = loaded.mesh;
  // Equal vertices get the number of the first of them.
  std::vector<std::uint32_t> order(mesh.vertices.size());
  std::iota(order.begin(), order.end(), 0U);
  const auto less = [&](std::uint32_t a, std::uint32_t b) {
    const Vec3& p = mesh.vertices[a];
    const Vec3& q = mesh.vertices[b];
    if (p.x() != q.x()) return p.x() < q.x();
    if (p.y() != q.y()) return p.y() < q.y();
    if (p.z() != q.z()) return p.z() < q.z();
    return a < b;
  };
  // Not a number sorts before everything, so that the order stays strict.
  const auto whole = std::stable_partition(
      order.begin(), order.end(), [&](std::uint32_t v) { return !mesh.vertices[v].allFinite(); });
  std::sort(whole, order.end(), less);
  if (task.stopped()) return cancelled();
  std::vector<std::uint32_t> first(order.size());
  for (auto it = order.begin(); it != whole; ++it) first[*it] = *it;
  for (auto it = whole; it != order.end(); ++it) {
    const bool same = it != whole && mesh.vertices[*it] == mesh.vertices[*(it - 1)];
    first[*it] = same ? first[*(it - 1)] : *it;
  }
  std::vector<char> keep(mesh.triangles.size(), 0);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    scan::Triangle& triangle = mesh.triangles[t];
    bool finite = true;
    for (std::uint32_t& v : triangle) {
      finite = finite && mesh.vertices[v].allFinite();
      v = first[v];
    }
    if (!finite) {
      ++loaded.skipped_not_finite;
    } else if (triangle[0] == triangle[1] || triangle[1] == triangle[2] ||
               triangle[0] == triangle[2]) {
      ++loaded.skipped_triangles;
    } else {
      keep[t] = 1;
    }
  }
  loaded.mesh = scan::extract(mesh, keep);
  task.report(1.0);
  return loaded;
}

}  // namespace lostline::io
