#include <fstream>

#include "align.h"
#include "io/formats.h"
#include "project/model_target.h"

namespace lostline::cli {
namespace {

std::optional<Vec3> vector_in(const Json& item, const char* key) {
  if (!item.contains(key) || !item[key].is_array() || item[key].size() != 3) return std::nullopt;
  for (const Json& number : item[key]) {
    if (!number.is_number()) return std::nullopt;
  }
  return Vec3(item[key][0].get<double>(), item[key][1].get<double>(), item[key][2].get<double>());
}

Result<std::vector<datum::Pair>> read_pairs(const std::string& path, NamedFits& fits,
                                            const datum::Target& target) {
  std::ifstream file(path);
  if (!file) return Error{ErrorCode::Io, "Cannot open " + path + "."};
  const Json spec = Json::parse(file, nullptr, false);
  const Error wrong{ErrorCode::InvalidInput,
                    path +
                        " is no list of pairs: {\"pairs\": [{\"scan\": …, \"model\": …}]} with "
                        "{\"point\": [x, y, z]}, {\"near\": [x, y, z]} or {\"region\": n}."};
  if (!spec.is_object() || !spec.contains("pairs") || !spec["pairs"].is_array()) return wrong;
  std::vector<datum::Pair> pairs;
  for (const Json& item : spec["pairs"]) {
    if (!item.is_object() || !item.contains("scan") || !item.contains("model")) return wrong;
    datum::Pair pair;
    if (const auto point = vector_in(item["scan"], "point")) {
      pair.scan = *point;
    } else {
      const auto named = fits.find(item["scan"]);
      if (!named) return named.error();
      pair.scan = fits.fit(*named).surface;
    }
    if (const auto point = vector_in(item["model"], "point")) {
      pair.model = *point;
    } else if (const auto near = vector_in(item["model"], "near")) {
      const auto nearest = target.index->nearest(*near);
      const auto& face = target.faces[target.triangle_face[nearest->triangle]];
      if (!face)
        return Error{ErrorCode::InvalidInput,
                     "The model's face near " + item["model"].dump() + " is free-form."};
      pair.model = *face;
    } else {
      return wrong;
    }
    pairs.push_back(std::move(pair));
  }
  return pairs;
}

}  // namespace

void align_to_model(Common& common, const AlignArguments& arguments, NamedFits& fits,
                    const Stopwatch& watch) {
  const scan::Mesh& mesh = *fits.document().scan->mesh;
  const scan::Topology& topology = fits.document().scan->topology;
  const auto solid = io::read_model(arguments.model);
  if (!solid) return fail(common, solid.error());
  const auto target = project::target_of(*solid);
  if (!target) return fail(common, target.error());
  project::PlaceRequest request;
  request.search = arguments.search;
  if (!arguments.pairs.empty()) {
    auto pairs = read_pairs(arguments.pairs, fits, *target);
    if (!pairs) return fail(common, pairs.error());
    request.pairs = *std::move(pairs);
  }
  const auto placed = project::place_scan(mesh, *fits.document().survey, *target, request,
                                          progress_task(common, "placing"));
  if (!placed) return fail(common, placed.error());
  const std::vector<datum::Candidate>& candidates = *placed;
  if (arguments.candidate > candidates.size())
    return fail(common, {ErrorCode::InvalidInput,
                         "There are only " + std::to_string(candidates.size()) + " candidates."});
  const datum::BestFit& chosen = candidates[arguments.candidate - 1].fit;
  const double tolerance =
      arguments.tolerance > 0 ? arguments.tolerance : std::max(5 * chosen.sigma, 0.05);
  const double search = arguments.search > 0 ? arguments.search : target->size / 30;
  const auto differing = datum::differences(*target, mesh, topology, chosen.motion, tolerance,
                                            search, 1e-4 * target->size * target->size);
  const double seconds = watch.seconds();
  if (const Status written = write_moved(arguments, mesh, chosen.motion); !written)
    return fail(common, written.error());
  Json ways = Json::array();
  for (const datum::Candidate& c : candidates) {
    ways.push_back({{"transform", to_json(c.fit.motion)},
                    {"agreement", c.agreement},
                    {"rms", c.fit.rms},
                    {"used_fraction", c.fit.used_fraction}});
  }
  Json areas = Json::array();
  for (const datum::Difference& d : differing) {
    areas.push_back({{"area", d.area},
                     {"centre", to_json(d.centre)},
                     {"mean", std::isnan(d.mean) ? Json() : Json(d.mean)},
                     {"greatest", std::isnan(d.mean) ? Json() : Json(d.greatest)}});
  }
  Json loose = Json::array();
  for (const datum::BestFit::Loose& l : chosen.loose) loose.push_back(l.words());
  print(common, {{"transform", to_json(chosen.motion)},
                 {"rms", chosen.rms},
                 {"used_fraction", chosen.used_fraction},
                 {"settled", chosen.settled},
                 {"iterations", chosen.iterations},
                 {"sigma", chosen.sigma},
                 {"candidates", ways},
                 {"differing", areas},
                 {"differing_tolerance", tolerance},
                 {"not_held", loose},
                 {"seconds", seconds}});
}

}  // namespace lostline::cli
