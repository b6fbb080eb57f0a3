// The figures of benchmarks/README.md: each against something general-purpose in the same run where
// there is one.
#include <benchmark/benchmark.h>
#include <fcntl.h>
#include <unistd.h>

#include <filesystem>

#include "deviation/deviation.h"
#include "fit/surface_fit.h"
#include "io/mesh_files.h"
#include "project/document.h"
#include "simulate/parts.h"

namespace lostline {
namespace {

/// The worn pedestal at about 0.9 M triangles, in the model's place, made once and kept as a binary
/// STL.
const std::string& scan_file() {
  static const std::string path = [] {
    const std::string file = std::filesystem::temp_directory_path() / "lostline-bench.stl";
    const simulate::Specimen specimen = simulate::worn_pedestal();
    simulate::ScanOptions options;
    options.spacing = 0.37;
    options.random_pose = false;
    const auto scan = simulate::simulate_scan(specimen.solid, specimen.surface, options);
    if (!scan || !io::write_stl(file, scan->mesh)) std::abort();
    return file;
  }();
  return path;
}

const project::Scan& scan() {
  static const std::shared_ptr<const project::Scan> loaded =
      *project::open_scan(scan_file(), Unit::Millimetre);
  return *loaded;
}

void BM_PlainRead(benchmark::State& state) {
  const std::size_t size = std::filesystem::file_size(scan_file());
  for (auto _ : state) {
    std::vector<char> buffer(size);
    const int file = ::open(scan_file().c_str(), O_RDONLY);
    std::size_t done = 0;
    while (done < size) {
      const ssize_t count = ::read(file, buffer.data() + done, size - done);
      if (count <= 0) std::abort();
      done += static_cast<std::size_t>(count);
    }
    ::close(file);
    benchmark::DoNotOptimize(buffer.data());
  }
}
BENCHMARK(BM_PlainRead)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_ReadAndWeldStl(benchmark::State& state) {
  for (auto _ : state) {
    auto mesh = io::read_mesh(scan_file());
    benchmark::DoNotOptimize(mesh);
  }
  state.counters["triangles"] = static_cast<double>(scan().mesh->triangles.size());
}
BENCHMARK(BM_ReadAndWeldStl)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Survey(benchmark::State& state) {
  std::size_t fitted = 0;
  for (auto _ : state) {
    const auto survey = survey::split_into_regions(*scan().mesh, scan().topology);
    fitted = 0;
    for (const auto& r : survey->regions) fitted += r.fit ? 1 : 0;
  }
  state.counters["fits"] = static_cast<double>(fitted);
}
BENCHMARK(BM_Survey)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Section(benchmark::State& state) {
  double level = 1;
  for (auto _ : state) {
    level = level > 80 ? 1 : level + 0.37;
    benchmark::DoNotOptimize(scan().sections->cut(placement_on({0, 0, level}, Vec3::UnitZ())));
  }
}
BENCHMARK(BM_Section)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Deviation(benchmark::State& state) {
  const auto comparator = deviation::Comparator::build(simulate::pedestal());
  for (auto _ : state) benchmark::DoNotOptimize(comparator->compare(scan().mesh->vertices));
  state.counters["points"] = static_cast<double>(scan().mesh->vertices.size());
}
BENCHMARK(BM_Deviation)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_FitCylinder100k(benchmark::State& state) {
  Eigen::Matrix3Xd points(3, 100000);
  Eigen::Matrix3Xd normals(3, 100000);
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const double angle = 0.618 * static_cast<double>(i);
    normals.col(i) = Vec3(std::cos(angle), std::sin(angle), 0);
    points.col(i) = (21 + 0.02 * std::sin(1.7 * static_cast<double>(i))) * normals.col(i) +
                    Vec3(0, 0, 4e-4 * static_cast<double>(i));
  }
  for (auto _ : state)
    benchmark::DoNotOptimize(fit::fit_surface(fit::Kind::Cylinder, points, normals));
}
BENCHMARK(BM_FitCylinder100k)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace lostline
