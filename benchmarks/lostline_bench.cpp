// The figures of benchmarks/README.md: each against something general-purpose in the same run where
// there is one.
#include <benchmark/benchmark.h>
#include <fcntl.h>
#include <unistd.h>

#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <Eigen/QR>
#include <filesystem>
#include <numbers>

#include "base/memory.h"
#include "deviation/deviation.h"
#include "fit/surface_fit.h"
#include "general_purpose.h"
#include "io/formats.h"
#include "model/model_impl.h"
#include "profiles.h"
#include "project/document.h"
#include "project/model_target.h"
#include "section/resolve.h"
#include "simulate/parts.h"
#include "sketch/solver.h"
#include "sketch/system.h"
#include "store/bulk.h"
#include "store/project_file.h"
#include "survey_score.h"

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
  scan();  // made before the clock runs
  for (auto _ : state) {
    auto mesh = io::read_mesh(scan_file());
    benchmark::DoNotOptimize(mesh);
  }
  state.counters["triangles"] = static_cast<double>(scan().mesh->triangles.size());
}
BENCHMARK(BM_ReadAndWeldStl)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The faces of the design as this scan shows them: the truth that shapes are judged by.
const testing::KnownFaces& faces() {
  static const model::Model solid = simulate::worn_pedestal().solid;
  static const testing::KnownFaces known(solid, Transform::Identity(), *scan().mesh);
  return known;
}

void tell(benchmark::State& state, const std::vector<fit::SurfaceFit>& shapes) {
  const testing::Score score = faces().find(shapes, 0, 0, false);
  state.counters["shapes"] = static_cast<double>(shapes.size());
  state.counters["faces"] = score.faces;
  state.counters["found"] = score.found;
}

/// Shapes of a library that says nothing of their uncertainty.
std::vector<fit::SurfaceFit> bare(const std::vector<fit::Surface>& shapes) {
  std::vector<fit::SurfaceFit> fits(shapes.size());
  for (std::size_t i = 0; i < fits.size(); ++i) fits[i].surface = shapes[i];
  return fits;
}

void BM_Survey(benchmark::State& state) {
  faces();  // made before the clock runs
  std::vector<fit::SurfaceFit> shapes;
  for (auto _ : state)
    shapes = testing::fits_of(*survey::split_into_regions(*scan().mesh, scan().topology));
  tell(state, shapes);
}
BENCHMARK(BM_Survey)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_GeneralPurposeRansac(benchmark::State& state) {
  faces();
  std::vector<fit::Surface> shapes;
  for (auto _ : state) shapes = shapes_by_ransac(*scan().mesh, 0.12, 0.37, 300);
  tell(state, bare(shapes));
}
BENCHMARK(BM_GeneralPurposeRansac)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(1);

void BM_GeneralPurposeRegionGrowing(benchmark::State& state) {
  faces();
  std::vector<fit::Surface> shapes;
  for (auto _ : state) shapes = planes_by_region_growing(*scan().mesh, 0.12, 300);
  tell(state, bare(shapes));
}
BENCHMARK(BM_GeneralPurposeRegionGrowing)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime()
    ->Iterations(1);

void BM_Section(benchmark::State& state) {
  scan();  // made before the clock runs
  double level = 1;
  for (auto _ : state) {
    level = level > 80 ? 1 : level + 0.37;
    benchmark::DoNotOptimize(scan().sections->cut(placement_on({0, 0, level}, Vec3::UnitZ())));
  }
}
BENCHMARK(BM_Section)->Unit(benchmark::kMillisecond)->UseRealTime();

/// An outline of some 5 000 section points: 40 sides with rounded corners.
section::Polyline long_outline() {
  testing::TrueProfile profile;
  std::vector<Vec2> corners;
  std::vector<double> rounds;
  for (int k = 0; k < 40; ++k) {
    const double t = 2 * std::numbers::pi * k / 40;
    corners.push_back((k % 2 == 0 ? 400.0 : 340.0) * Vec2(std::cos(t), std::sin(t)));
    rounds.push_back(k % 3 == 0 ? 8 : 0);
  }
  profile.loops.push_back(testing::cornered(corners, rounds));
  testing::ProfileScan how;
  how.spacing = 1.3;
  const auto mesh = std::make_shared<const scan::Mesh>(testing::scan_of(profile, how));
  return section::SectionIndex(mesh).cut(Placement{}).polylines.front();
}

void BM_ResolveLongOutline(benchmark::State& state) {
  const section::Polyline line = long_outline();
  std::size_t pieces = 0;
  for (auto _ : state) pieces = section::resolve(line)->size();
  state.counters["points"] = static_cast<double>(line.points.size());
  state.counters["pieces"] = static_cast<double>(pieces);
}
BENCHMARK(BM_ResolveLongOutline)->Unit(benchmark::kMillisecond)->UseRealTime();

/// A chain of 300 lines with lengths, levels and uprights held, dragged at its middle.
void BM_DragThreeHundredEntities(benchmark::State& state) {
  sketch::Sketch s;
  std::vector<sketch::Id> points{s.add_point({0, 0})};
  for (int k = 0; k < 300; ++k) {
    points.push_back(s.add_point(Vec2(5.0 * ((k + 2) / 2), 4.0 * ((k + 1) / 2))));
    const sketch::Id line = s.add_line(points[points.size() - 2], points.back());
    s.add_constraint(
        k % 2 == 0 ? sketch::ConstraintType::Horizontal : sketch::ConstraintType::Vertical, line);
    if (k % 3 != 0)
      s.add_constraint(sketch::ConstraintType::Distance, line, 0, k % 2 == 0 ? 5 : 4, true);
  }
  const sketch::Id grip = points[150];
  const Vec2 from = s.position(grip);
  double turn = 0;
  for (auto _ : state) {
    turn += 0.3;
    const auto moved = sketch::drag(s, grip, from + 3 * Vec2(std::cos(turn), std::sin(turn)),
                                    sketch::Asked::Places);
    benchmark::DoNotOptimize(moved->sketch.points.size());
  }
  state.counters["constraints"] = static_cast<double>(s.constraints.size());
}
BENCHMARK(BM_DragThreeHundredEntities)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Deviation(benchmark::State& state) {
  scan();  // made before the clock runs
  const model::Model part = simulate::pedestal();
  for (auto _ : state) {
    const auto comparator = deviation::Comparator::build(part);
    benchmark::DoNotOptimize(comparator->compare(scan().mesh->vertices));
  }
  state.counters["points"] = static_cast<double>(scan().mesh->vertices.size());
}
BENCHMARK(BM_Deviation)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The same part with every face turned into a B-spline: beside BM_Deviation, whose faces are in
/// closed form.
void BM_DeviationFreeForm(benchmark::State& state) {
  scan();
  BRepBuilderAPI_NurbsConvert convert(simulate::pedestal().impl().shape, true);
  const model::Model splines = model::make_solid(convert.Shape(), {}, "spline");
  for (auto _ : state) {
    const auto comparator = deviation::Comparator::build(splines);
    benchmark::DoNotOptimize(comparator->compare(scan().mesh->vertices));
  }
}
BENCHMARK(BM_DeviationFreeForm)->Unit(benchmark::kMillisecond)->UseRealTime();

/// 200 k points of the worn part onto the sound one, about a million triangles scanned anew, from 2
/// degrees and 2 mm off: a corner is missing and the wear differs, so that the error means
/// something.
void BM_BestFit(benchmark::State& state) {
  datum::Target target;
  simulate::ScanOptions anew;
  anew.spacing = 0.37;
  anew.random_pose = false;
  anew.seed = 77;
  target.mesh = simulate::simulate_scan(simulate::pedestal(), {}, anew)->mesh;
  target.settle();
  const datum::Cloud cloud = datum::cloud_of(*scan().mesh, {}, 200000);
  const Transform off = Eigen::Translation3d(1.2, -1.2, 1.1) *
                        Eigen::AngleAxisd(2 * 3.14159265358979 / 180, Vec3(1, 2, -1).normalized());
  double error = 0;
  for (auto _ : state) {
    const auto fitted = datum::best_fit(target, cloud, off);
    error = 0;
    for (const Vec3& p : {Vec3(80, 50, 0), Vec3(-80, 50, 0), Vec3(0, 0, 84)})
      error = std::max(error, (fitted->motion * p - p).norm());
  }
  state.counters["triangles"] = static_cast<double>(target.mesh.triangles.size());
  state.counters["points"] = static_cast<double>(cloud.points.size());
  state.counters["error_mm"] = error;
}
BENCHMARK(BM_BestFit)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_PlaceOnModel(benchmark::State& state) {
  const auto target = project::target_of(simulate::pedestal());
  const auto survey = survey::split_into_regions(*scan().mesh, scan().topology);
  const datum::Cloud cloud =
      datum::cloud_of(*scan().mesh, project::trust_of(*survey, *scan().mesh), 200000);
  const auto found = project::found_of(*survey);
  Transform off = Transform::Identity();
  off.linear() = Eigen::AngleAxisd(2.1, Vec3(0.3, -0.8, 0.5).normalized()).toRotationMatrix();
  std::size_t ways = 0;
  for (auto _ : state) ways = datum::place_on(*target, found, cloud, {}, {}, off)->size();
  state.counters["ways"] = static_cast<double>(ways);
}
BENCHMARK(BM_PlaceOnModel)->Unit(benchmark::kMillisecond)->UseRealTime();

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

/// A project of one scan of ten million triangles.
const project::Document& large_project() {
  static const project::Document document = [] {
    constexpr std::uint32_t kSide = 2237;
    auto mesh = std::make_shared<scan::Mesh>();
    for (std::uint32_t i = 0; i < kSide; ++i)
      for (std::uint32_t j = 0; j < kSide; ++j)
        mesh->vertices.emplace_back(0.1 * i, 0.1 * j, 1e-6 * i * j);
    for (std::uint32_t i = 0; i + 1 < kSide; ++i) {
      for (std::uint32_t j = 0; j + 1 < kSide; ++j) {
        const std::uint32_t at = kSide * i + j;
        mesh->triangles.push_back({at, at + kSide, at + 1});
        mesh->triangles.push_back({at + 1, at + kSide, at + kSide + 1});
      }
    }
    auto scan = std::make_shared<project::Scan>();
    scan->name = "large";
    scan->mesh = std::move(mesh);
    project::Document d;
    d.scan = std::move(scan);
    return d;
  }();
  return document;
}

/// The copy for safety after an edit.
void BM_CopyAfterEdit(benchmark::State& state) {
  const auto path = std::filesystem::temp_directory_path() /
                    ("lostline-bench-" + std::to_string(::getpid()) + ".lostline");
  store::BulkFolder bulk(path);
  project::Document d = large_project();
  if (!store::save_beside(path, d, bulk)) return state.SkipWithError("not saved");
  int edit = 0;
  for (auto _ : state) {
    d.title = "edit " + std::to_string(++edit);
    benchmark::DoNotOptimize(store::save_beside(path, d, bulk));
  }
  state.counters["bytes"] = static_cast<double>(std::filesystem::file_size(path));
  std::filesystem::remove_all(store::BulkFolder::of(path));
  std::filesystem::remove(path);
}
BENCHMARK(BM_CopyAfterEdit)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The same project written whole.
void BM_SaveWhole(benchmark::State& state) {
  const auto path = std::filesystem::temp_directory_path() /
                    ("lostline-bench-" + std::to_string(::getpid()) + ".lostline");
  large_project();
  for (auto _ : state) benchmark::DoNotOptimize(store::save_project(path, large_project()));
  std::filesystem::remove(path);
}
BENCHMARK(BM_SaveWhole)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(1);

/// Half circles in a row, each tangent to the next, drawn by an unsure hand.
sketch::Sketch tangent_arcs(int count) {
  sketch::Sketch s;
  sketch::Id left = s.add_point({0, 0});
  for (int k = 0; k < count; ++k) {
    const double shake = 0.05 * std::sin(12.9898 * k);
    const sketch::Id centre = s.add_point({6.0 * k + 3 + shake, shake});
    const sketch::Id right = s.add_point({6.0 * k + 6 - shake, 2 * shake});
    s.add_arc(centre, k % 2 == 0 ? right : left, k % 2 == 0 ? left : right, 3 - shake);
    if (k > 0)
      s.add_constraint(sketch::ConstraintType::Tangent, s.entities[s.entities.size() - 2].id,
                       s.entities.back().id);
    left = right;
  }
  return s;
}

void BM_SketchPlaces(benchmark::State& state) {
  const auto drawn = tangent_arcs(static_cast<int>(state.range(0)));
  for (auto _ : state) benchmark::DoNotOptimize(sketch::solve(drawn, sketch::Asked::Places));
}
BENCHMARK(BM_SketchPlaces)->Arg(400)->Arg(2000)->Unit(benchmark::kMillisecond);

void BM_SketchFreedoms(benchmark::State& state) {
  const auto drawn = tangent_arcs(static_cast<int>(state.range(0)));
  for (auto _ : state) benchmark::DoNotOptimize(sketch::solve(drawn)->freedoms);
}
BENCHMARK(BM_SketchFreedoms)->Arg(400)->Arg(2000)->Unit(benchmark::kMillisecond);

/// What a general-purpose library's dense factorisation takes for the freedoms alone.
void BM_GeneralPurposeRank(benchmark::State& state) {
  const auto solved =
      sketch::solve(tangent_arcs(static_cast<int>(state.range(0))), sketch::Asked::Places);
  const auto system = sketch::System::build(solved->sketch, true);
  Eigen::VectorXd f;
  Eigen::MatrixXd jacobian;
  system->evaluate(system->start(), f, jacobian);
  for (auto _ : state)
    benchmark::DoNotOptimize(Eigen::ColPivHouseholderQR<Eigen::MatrixXd>(jacobian).rank());
}
BENCHMARK(BM_GeneralPurposeRank)->Arg(400)->Unit(benchmark::kMillisecond)->Iterations(1);

}  // namespace
}  // namespace lostline

int main(int argc, char** argv) {
  lostline::keep_freed_memory();  // as the programs do
  benchmark::Initialize(&argc, argv);
  if (benchmark::ReportUnrecognizedArguments(argc, argv)) return 1;
  benchmark::RunSpecifiedBenchmarks();
  benchmark::Shutdown();
  return 0;
}
