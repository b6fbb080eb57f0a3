#include <fstream>

#include "align.h"
#include "cli.h"
#include "io/formats.h"
#include "joining/join.h"
#include "joining/merge.h"

namespace lostline::cli {
namespace {

struct RegisterArguments {
  std::vector<std::string> scans;
  std::string pairs, out;
  std::vector<std::string> cut;
  cloud::MeshingOptions meshing;
};

/// [{"a": {"scan": 1, "at": [x, y, z]}, "b": …}, …]
Result<std::vector<joining::SharedPlace>> read_pairs(const std::string& path) {
  std::ifstream file(path);
  if (!file) return Error{ErrorCode::Io, "Cannot open " + path + "."};
  std::vector<joining::SharedPlace> pairs;
  try {
    for (const Json& item : Json::parse(file)) {
      joining::SharedPlace pair;
      const auto side = [&](const char* name, std::size_t& scan, Vec3& at) {
        const Json& one = item.at(name);
        const auto number = one.at("scan").get<long long>();
        scan = number >= 1 ? static_cast<std::size_t>(number - 1) : SIZE_MAX;
        for (int k = 0; k < 3; ++k)
          at[k] = one.at("at").at(static_cast<std::size_t>(k)).get<double>();
      };
      side("a", pair.scan_a, pair.a);
      side("b", pair.scan_b, pair.b);
      pairs.push_back(pair);
    }
  } catch (const nlohmann::json::exception& error) {
    return Error{ErrorCode::InvalidInput, path + " holds no pairs of places: " + error.what()};
  }
  return pairs;
}

void run(Common& common, const RegisterArguments& a) {
  joining::JoinOptions options;
  if (!a.pairs.empty()) {
    auto pairs = read_pairs(a.pairs);
    if (!pairs) return fail(common, pairs.error());
    options.pairs = *std::move(pairs);
  }
  for (const std::string& text : a.cut) {
    std::size_t first = 0;
    std::size_t second = 0;
    if (std::sscanf(text.c_str(), "%zu,%zu", &first, &second) != 2 || first == 0 || second == 0)
      return fail(common,
                  {ErrorCode::InvalidInput, "\"" + text + "\" names no two scans: say --cut 2,3."});
    options.cut.emplace_back(first - 1, second - 1);
  }
  std::vector<scan::Mesh> meshes;
  for (const std::string& path : a.scans) {
    const auto loaded = read_scan(common, path);
    if (!loaded) return fail(common, loaded.error());
    meshes.push_back(loaded->mesh);
  }
  const Stopwatch watch;
  std::vector<const scan::Mesh*> scans;
  for (const scan::Mesh& mesh : meshes) scans.push_back(&mesh);
  const auto joined = joining::join_scans(scans, options, progress_task(common, "joining"));
  if (!joined) return fail(common, joined.error());
  Json result;
  result["poses"] = Json::array();
  result["u"] = Json::array();
  for (std::size_t i = 0; i < joined->poses.size(); ++i) {
    result["poses"].push_back(to_json(joined->poses[i]));
    result["u"].push_back(
        {{"offset", joined->u_shift[i]}, {"angle_deg", joined->u_turn[i] * 57.29577951308232}});
  }
  result["links"] = Json::array();
  for (const joining::Link& link : joined->links)
    result["links"].push_back(
        {{"a", link.a + 1}, {"b", link.b + 1}, {"rms", link.rms}, {"overlap", link.overlap}});
  result["rms"] = joined->rms;
  result["settled"] = joined->settled;
  result["rounds"] = joined->rounds;
  result["inside_out"] = Json::array();
  for (std::size_t i = 0; i < joined->inside_out.size(); ++i) {
    if (joined->inside_out[i]) result["inside_out"].push_back(i + 1);
  }
  result["doubts"] = joined->doubts;
  if (!a.out.empty()) {
    std::vector<joining::Lying> lying;
    for (std::size_t i = 0; i < scans.size(); ++i)
      lying.push_back({scans[i], joined->poses[i], joined->inside_out[i]});
    const auto merged = joining::merge_scans(lying, a.meshing, progress_task(common, "merging"));
    if (!merged) return fail(common, merged.error());
    const Status written = io::extension_of(a.out) == ".ply"
                               ? io::write_ply(a.out, merged->mesh, merged->u)
                               : io::write_mesh(a.out, merged->mesh);
    if (!written) return fail(common, written.error());
    result["merged"] = {{"triangles", merged->mesh.triangles.size()},
                        {"vertices", merged->mesh.vertices.size()},
                        {"spacing", merged->spacing}};
  }
  result["seconds"] = watch.seconds();
  print(common, result);
}

}  // namespace

void add_register(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "register",
                             "scans of one part brought together and, with --out, merged to one");
  const auto a = std::make_shared<RegisterArguments>();
  sub->add_option("SCAN", a->scans, "two or more scans; the first one's coordinates stay")
      ->required()
      ->expected(2, 1000);
  sub->add_option("--pairs", a->pairs, "file of places that scans share");
  sub->add_option("--cut", a->cut, "a,b: two scans that are not to be compared")
      ->allow_extra_args(false);
  sub->add_option("--out", a->out, "mesh of all of them to write");
  sub->add_option("--spacing", a->meshing.spacing, "mm, of the merged mesh; 0: as the finest scan")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--smooth", a->meshing.smooth, "spacings over which noise is averaged")
      ->check(CLI::Range(0.0, 20.0));
  sub->callback([&common, a] { run(common, *a); });
}

}  // namespace lostline::cli
