// Makes the demo's scans: the worn parts of the winch through the stand-in scanner. The designs
// they hide go to a folder of their own, for the tests.
#include <cstdlib>
#include <filesystem>
#include <iostream>

#include "io/formats.h"
#include "io/step.h"
#include "simulate/parts.h"
#include "simulate/winch_parts.h"

namespace {

using namespace lostline;

/// One scan written to a folder.
Status write_scan(const std::filesystem::path& path, const simulate::Specimen& specimen,
                  const simulate::ScanOptions& options) {
  const auto scan = simulate::simulate_scan(specimen.solid, specimen.surface, options);
  if (!scan) return scan.error();
  std::cerr << path.filename().string() << ": " << scan->mesh.triangles.size() << " triangles, "
            << 100 * scan->unseen_fraction << " % unseen\n";
  return io::write_mesh(path, scan->mesh);
}

Status make_all(const std::filesystem::path& folder) {
  const auto truth = [&](const model::Model& part, const std::string& name) {
    return io::write_step(folder / "truth" / (name + ".step"), part, name + " as designed");
  };
  simulate::ScanOptions options;
  options.seed = 7;
  options.spacing = 0.74;  // about 400 000 triangles
  Status done = write_scan(folder / "pedestal.stl", simulate::worn_pedestal(), options);
  if (done) done = truth(simulate::pedestal(), "pedestal");
  const auto part = [&](const model::Model& designed, const std::string& name, double spacing,
                        std::uint64_t seed) {
    if (done) done = truth(designed, name);
    options.spacing = spacing;
    options.seed = seed;
    if (done) done = write_scan(folder / (name + ".ply"), {designed, {}}, options);
  };
  part(simulate::drum_flange(), "drum-flange", 0.9, 21);
  part(simulate::wall_bracket(), "wall-bracket", 1.0, 22);
  options.chord = 0.012;  // of free-form faces, well within the noise
  options.views = 72;  // to see between its vanes
  part(simulate::brake_drum(), "brake-drum", 1.2, 23);
  options.views = simulate::ScanOptions().views;
  // The crank lay on one side, then on the other.
  const model::Model crank = simulate::crank();
  if (done) done = truth(crank, "crank");
  options.spacing = 1.3;
  options.strays = 6;
  for (const bool turned : {false, true}) {
    options.seed = turned ? 25 : 24;
    options.side = Vec3(0, 0.35, turned ? -1 : 1);
    if (done)
      done = write_scan(folder / (turned ? "crank-2.ply" : "crank-1.ply"), {crank, {}}, options);
  }
  return done;
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: lostline-demo-data FOLDER\n";
    return 2;
  }
  const std::filesystem::path folder = argv[1];
  std::filesystem::create_directories(folder / "truth");
  if (const Status made = make_all(folder); !made) {
    std::cerr << made.error().message << '\n';
    return 1;
  }
  return 0;
}
