#include "report/picture.h"

#include <png.h>

#include <algorithm>
#include <cmath>

#include "base/parallel.h"

namespace lostline::report {
namespace {

std::string encode(const std::vector<Colour>& pixels, int width, int height) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  image.width = static_cast<png_uint_32>(width);
  image.height = static_cast<png_uint_32>(height);
  image.format = PNG_FORMAT_RGB;
  png_alloc_size_t size = 0;
  png_image_write_to_memory(&image, nullptr, &size, 0, pixels.data(), 3 * width, nullptr);
  std::string png(size, '\0');
  if (png_image_write_to_memory(&image, png.data(), &size, 0, pixels.data(), 3 * width, nullptr) ==
      0)
    return {};
  png.resize(size);
  return png;
}

}  // namespace

Picture render(const scan::Mesh& mesh, const scan::MeshIndex& index, const View& view,
               const std::function<Colour(std::uint32_t, const Vec3&)>& colour) {
  const Vec3 forward = view.toward.normalized();
  const Vec3 right = forward.cross(view.up).normalized();
  const Vec3 up = right.cross(forward);
  const Box3 box = scan::bounds(mesh);
  const Vec3 middle = view.centre.value_or(box.center());
  double half_width = 1e-6;
  double half_height = 1e-6;
  for (int c = 0; c < 8; ++c) {
    const Vec3 d = box.corner(static_cast<Box3::CornerType>(c)) - middle;
    half_width = std::max(half_width, std::abs(d.dot(right)));
    half_height = std::max(half_height, std::abs(d.dot(up)));
  }
  const double pixel =
      view.centre ? view.seen / view.height
                  : 1.06 * std::max(2 * half_width / view.width, 2 * half_height / view.height);
  const double far = box.diagonal().norm() + 1 + (middle - box.center()).norm();
  const Vec3 light = (-forward + 0.4 * up - 0.3 * right).normalized();
  std::vector<Colour> pixels(static_cast<std::size_t>(view.width) *
                             static_cast<std::size_t>(view.height));
  constexpr int kRays = 2;  // a side of a pixel, against jagged edges
  parallel_for(static_cast<std::size_t>(view.height), 8, [&](std::size_t begin, std::size_t end) {
    for (std::size_t y = begin; y < end; ++y) {
      for (int x = 0; x < view.width; ++x) {
        Vec3 sum = Vec3::Zero();
        for (int k = 0; k < kRays * kRays; ++k) {
          const double px = x + (k % kRays + 0.5) / kRays - view.width / 2.0;
          const double py =
              view.height / 2.0 - (static_cast<double>(y) + (k / kRays + 0.5) / kRays);
          const Vec3 origin = middle + pixel * (px * right + py * up) - far * forward;
          Vec3 value(0xF6, 0xF3, 0xEC);
          if (const auto hit = index.first_hit(origin, forward)) {
            const Vec3 normal = mesh.area_vector(hit->triangle).normalized();
            // Barycentric weights of the hit.
            const Vec3 a = mesh.corner(hit->triangle, 0);
            const Vec3 u = mesh.corner(hit->triangle, 1) - a;
            const Vec3 v = mesh.corner(hit->triangle, 2) - a;
            const Vec3 n = u.cross(v);
            const double whole = std::max(n.squaredNorm(), 1e-30);
            const Vec3 d = hit->point - a;
            const double w1 = d.cross(v).dot(n) / whole;
            const double w2 = u.cross(d).dot(n) / whole;
            const Colour c = colour(hit->triangle, Vec3(1 - w1 - w2, w1, w2));
            const double shade = 0.45 + 0.55 * std::abs(normal.dot(light));
            value = shade * Vec3(c[0], c[1], c[2]);
          }
          sum += value;
        }
        sum /= kRays * kRays;
        auto& out = pixels[y * static_cast<std::size_t>(view.width) + static_cast<std::size_t>(x)];
        for (std::size_t k = 0; k < 3; ++k)
          out[k] = static_cast<std::uint8_t>(
              std::lround(std::clamp(sum[static_cast<Eigen::Index>(k)], 0.0, 255.0)));
      }
    }
  });
  return {encode(pixels, view.width, view.height), view.width, view.height};
}

}  // namespace lostline::report
