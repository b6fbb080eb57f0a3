#pragma once

#include "cli.h"
#include "joining/join.h"
#include "joining/merge.h"

// What commands that join scans share.

namespace lostline::cli {

struct RegisterArguments {
  std::vector<std::string> scans;
  std::string pairs, out, drift;
  std::vector<std::string> cut, weight;
  cloud::MeshingOptions meshing;
};

void add_join_options(CLI::App* sub, RegisterArguments& a);
/// @errors InvalidInput, Io  pairs or cuts that cannot be read;  as joining::target_at.
Result<joining::JoinOptions> join_options(const RegisterArguments& a,
                                          const std::vector<const scan::Mesh*>& scans);
/// One weight for each scan.
/// @errors InvalidInput.
Result<std::vector<double>> join_weights(const RegisterArguments& a, std::size_t scans);
Json joined_json(const joining::Joined& joined);

}  // namespace lostline::cli
