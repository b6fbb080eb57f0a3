// Makes the demo's scan: the worn pedestal through the stand-in scanner. The design it hides goes
// to a folder of its own, for the tests.
#include <cstdlib>
#include <filesystem>
#include <iostream>

#include "io/mesh_files.h"
#include "io/step.h"
#include "simulate/parts.h"

int main(int argc, char** argv) {
  using namespace lostline;
  if (argc != 2) {
    std::cerr << "usage: lostline-demo-data FOLDER\n";
    return 2;
  }
  const std::filesystem::path folder = argv[1];
  std::filesystem::create_directories(folder / "truth");
  const simulate::Specimen specimen = simulate::worn_pedestal();
  simulate::ScanOptions options;
  options.seed = 7;
  options.spacing = 0.74;  // about 400 000 triangles
  const auto scan = simulate::simulate_scan(specimen.solid, specimen.surface, options);
  if (!scan) {
    std::cerr << scan.error().message << '\n';
    return 1;
  }
  Status status = io::write_stl(folder / "pedestal.stl", scan->mesh);
  if (status)
    status = io::write_step(folder / "truth" / "pedestal.step", simulate::pedestal(),
                            "pedestal as designed");
  if (!status) {
    std::cerr << status.error().message << '\n';
    return 1;
  }
  std::cerr << "demo scan: " << scan->mesh.triangles.size() << " triangles, "
            << 100 * scan->unseen_fraction << " % unseen\n";
  return 0;
}
