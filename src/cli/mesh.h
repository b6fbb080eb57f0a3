#pragma once

#include "cli.h"
#include "cloud/mesh_cloud.h"

namespace lostline::cli {

void add_meshing_options(CLI::App* sub, cloud::MeshingOptions& options);

}  // namespace lostline::cli
