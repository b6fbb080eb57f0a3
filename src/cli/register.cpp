#include "register.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <fstream>

#include "align.h"
#include "io/formats.h"
#include "joining/drift.h"
#include "joining/join.h"
#include "joining/merge.h"
#include "joining/targets.h"

namespace lostline::cli {
namespace {

/// [{"a": {"scan": 1, "at": [x, y, z]}, "b": …}, …]; with "ball": true a place stands for the
/// centre of the ball that it lies on, with "circle": true for that of the round rim beside it.
Result<std::vector<joining::SharedPlace>> read_pairs(const std::string& path,
                                                     const std::vector<const scan::Mesh*>& scans) {
  std::ifstream file(path);
  if (!file) return Error{ErrorCode::Io, "Cannot open " + path + "."};
  std::vector<joining::SharedPlace> pairs;
  std::optional<Error> refused;
  try {
    for (const Json& item : Json::parse(file)) {
      joining::SharedPlace pair;
      const std::string named = "Pair " + std::to_string(pairs.size() + 1);
      const auto side = [&](const char* name, std::size_t& scan,
                            Vec3& at) -> std::optional<joining::Target> {
        const Json& one = item.at(name);
        const auto number = one.at("scan").get<long long>();
        scan = number >= 1 ? static_cast<std::size_t>(number - 1) : SIZE_MAX;
        for (int k = 0; k < 3; ++k)
          at[k] = one.at("at").at(static_cast<std::size_t>(k)).get<double>();
        const bool ball = one.value("ball", false);
        if (refused || !(ball || one.value("circle", false)) || scan >= scans.size())
          return std::nullopt;
        const auto target = joining::target_at(
            ball ? joining::TargetKind::Ball : joining::TargetKind::Circle, *scans[scan], at);
        if (!target) {
          refused = Error{target.error().code, named + ", scan " + std::to_string(scan + 1) + ": " +
                                                   target.error().message};
          return std::nullopt;
        }
        at = target->centre;
        return *target;
      };
      const auto first = side("a", pair.scan_a, pair.a);
      const auto second = side("b", pair.scan_b, pair.b);
      if (first && second) {
        pair.sigma = 0.5 * std::hypot(first->u, second->u);
        if (!refused && !joining::alike(*first, *second))
          refused = Error{ErrorCode::InvalidInput,
                          fmt::format("{}: the two are not the same, their radii are {:.2f} and "
                                      "{:.2f} mm. Pick one target on both scans.",
                                      named, first->radius, second->radius)};
      }
      pairs.push_back(pair);
    }
  } catch (const nlohmann::json::exception& error) {
    return Error{ErrorCode::InvalidInput, path + " holds no pairs of places: " + error.what()};
  }
  if (refused) return *refused;
  return pairs;
}

/// The numbers of "2,3" or "2,0.5".
Result<std::pair<std::size_t, double>> two_of(const std::string& text, const char* wanted) {
  std::size_t first = 0;
  double second = 0;
  char more = 0;
  if (std::sscanf(text.c_str(), "%zu,%lf%c", &first, &second, &more) != 2 || first == 0 ||
      !(second >= 0))
    return Error{ErrorCode::InvalidInput,
                 "\"" + text + "\" is not understood: say " + wanted + "."};
  return std::pair(first - 1, second);
}

void run(Common& common, const RegisterArguments& a) {
  std::vector<scan::Mesh> meshes;
  for (const std::string& path : a.scans) {
    const auto loaded = read_scan(common, path);
    if (!loaded) return fail(common, loaded.error());
    meshes.push_back(loaded->mesh);
  }
  const Stopwatch watch;
  std::vector<const scan::Mesh*> scans;
  for (const scan::Mesh& mesh : meshes) scans.push_back(&mesh);
  const auto options = join_options(a, scans);
  if (!options) return fail(common, options.error());
  const auto weights = join_weights(a, scans.size());
  if (!weights) return fail(common, weights.error());
  const auto joined = joining::join_scans(scans, *options, progress_task(common, "joining"));
  if (!joined) return fail(common, joined.error());
  Json result = joined_json(*joined);
  std::vector<joining::Lying> lying;
  for (std::size_t i = 0; i < scans.size(); ++i)
    lying.push_back({scans[i], joined->poses[i], joined->inside_out[i], (*weights)[i]});
  if (!a.out.empty()) {
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
  if (!a.drift.empty()) {
    const auto drift = joining::drift_of(lying.front(), {lying.begin() + 1, lying.end()}, 0,
                                         progress_task(common, "drift"));
    if (!drift) return fail(common, drift.error());
    if (const Status written = io::write_ply(a.drift, meshes.front(), *drift); !written)
      return fail(common, written.error());
  }
  result["seconds"] = watch.seconds();
  print(common, result);
}

}  // namespace

Result<joining::JoinOptions> join_options(const RegisterArguments& a,
                                          const std::vector<const scan::Mesh*>& scans) {
  joining::JoinOptions options;
  if (!a.pairs.empty()) {
    auto pairs = read_pairs(a.pairs, scans);
    if (!pairs) return pairs.error();
    options.pairs = *std::move(pairs);
  }
  for (const std::string& text : a.cut) {
    const auto pair = two_of(text, "--cut 2,3");
    if (!pair) return pair.error();
    if (pair->second < 1 || pair->second != std::floor(pair->second))
      return Error{ErrorCode::InvalidInput, "\"" + text + "\" names no two scans: say --cut 2,3."};
    options.cut.emplace_back(pair->first, static_cast<std::size_t>(pair->second) - 1);
  }
  return options;
}

Result<std::vector<double>> join_weights(const RegisterArguments& a, std::size_t scans) {
  std::vector<double> weights(scans, 1);
  for (const std::string& text : a.weight) {
    const auto one = two_of(text, "--weight 2,0.5");
    if (!one) return one.error();
    if (one->first >= scans)
      return Error{ErrorCode::InvalidInput, "There is no scan " + std::to_string(one->first + 1) +
                                                " that could weigh otherwise."};
    weights[one->first] = one->second;
  }
  if (std::all_of(weights.begin(), weights.end(), [](double w) { return w == 0; }))
    return Error{ErrorCode::InvalidInput, "No scan has a weight: nothing would be left."};
  return weights;
}

Json joined_json(const joining::Joined& joined) {
  Json result;
  result["poses"] = Json::array();
  result["u"] = Json::array();
  for (std::size_t i = 0; i < joined.poses.size(); ++i) {
    result["poses"].push_back(to_json(joined.poses[i]));
    result["u"].push_back(
        {{"offset", joined.u_shift[i]}, {"angle_deg", joined.u_turn[i] * 57.29577951308232}});
  }
  result["links"] = Json::array();
  for (const joining::Link& link : joined.links)
    result["links"].push_back(
        {{"a", link.a + 1}, {"b", link.b + 1}, {"rms", link.rms}, {"overlap", link.overlap}});
  result["rms"] = joined.rms;
  result["settled"] = joined.settled;
  result["rounds"] = joined.rounds;
  result["inside_out"] = Json::array();
  for (std::size_t i = 0; i < joined.inside_out.size(); ++i) {
    if (joined.inside_out[i]) result["inside_out"].push_back(i + 1);
  }
  result["doubts"] = joined.doubts;
  return result;
}

void add_join_options(CLI::App* sub, RegisterArguments& a) {
  sub->add_option(
      "--pairs", a.pairs,
      "JSON file of places that scans share: [{\"a\": {\"scan\": 1, \"at\": [x, y, z]}, "
      "\"b\": {…}}, …]; with \"ball\": true or \"circle\": true the centre of what is there");
  sub->add_option("--cut", a.cut, "a,b: two scans that are not to be compared")
      ->allow_extra_args(false);
  sub->add_option("--weight", a.weight,
                  "scan,weight where the surface is averaged: 1 as its noise says, 0 leaves it out")
      ->allow_extra_args(false);
  sub->add_option("--spacing", a.meshing.spacing, "mm, of the merged mesh; 0: as the finest scan")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--smooth", a.meshing.smooth, "spacings over which noise is averaged")
      ->check(CLI::Range(0.0, 20.0));
}

void add_register(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "register",
                             "scans of one part brought together and, with --out, merged to one");
  const auto a = std::make_shared<RegisterArguments>();
  sub->add_option("SCAN", a->scans, "two or more scans; the first one's coordinates stay")
      ->required()
      ->expected(2, 1000);
  add_join_options(sub, *a);
  sub->add_option("--out", a->out, "mesh of all of them to write");
  sub->get_option("--weight")->needs("--out");  // it changes the merged surface alone
  sub->add_option("--drift", a->drift,
                  "write the first scan with the distance of the others from it: .ply");
  sub->callback([&common, a] { run(common, *a); });
}

}  // namespace lostline::cli
