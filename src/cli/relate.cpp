#include "relate.h"

#include <fstream>

#include "named_fits.h"
#include "survey/survey.h"

namespace lostline::cli {
namespace {

const std::map<std::string, fit::RelationType> kTypes{
    {"parallel", fit::RelationType::Parallel},  {"perpendicular", fit::RelationType::Perpendicular},
    {"angle", fit::RelationType::Angle},        {"coaxial", fit::RelationType::Coaxial},
    {"coplanar", fit::RelationType::Coplanar},  {"equal size", fit::RelationType::EqualSize},
    {"distance", fit::RelationType::Distance},  {"size", fit::RelationType::Size},
    {"symmetric", fit::RelationType::Symmetric}};

/// Relations between regions: [{"type": "coaxial", "a": 3, "b": 5, "value": ..., "held": [5]}].
struct Specification {
  std::vector<std::uint32_t> regions;  ///< members, in order of appearance
  std::vector<std::uint32_t> held;
  std::vector<fit::Relation> relations;
};
Result<Specification> read(const std::string& path) {
  std::ifstream file(path);
  if (!file) return Error{ErrorCode::Io, "Cannot open " + path + "."};
  try {
    const Json json = Json::parse(file);
    Specification s;
    const auto place = [&](std::uint32_t region) {
      const auto it = std::find(s.regions.begin(), s.regions.end(), region);
      if (it != s.regions.end()) return static_cast<std::size_t>(it - s.regions.begin());
      s.regions.push_back(region);
      return s.regions.size() - 1;
    };
    for (const Json& r : json.at("relations")) {
      const auto type = kTypes.find(r.at("type").get<std::string>());
      if (type == kTypes.end())
        return Error{ErrorCode::InvalidInput,
                     "There is no relation \"" + r["type"].get<std::string>() + "\"."};
      fit::Relation relation;
      relation.type = type->second;
      relation.a = place(r.at("a"));
      if (fit::members_of(relation.type) > 1) relation.b = place(r.at("b"));
      if (fit::members_of(relation.type) > 2) relation.c = place(r.at("c"));
      if (fit::has_value(relation.type)) {
        relation.value = r.at("value");
        if (relation.type == fit::RelationType::Angle) relation.value /= kDegrees;
      }
      s.relations.push_back(relation);
    }
    if (json.contains("held")) s.held = json["held"].get<std::vector<std::uint32_t>>();
    return s;
  } catch (const Json::exception& error) {
    return Error{ErrorCode::InvalidInput, path + " cannot be understood: " + error.what()};
  }
}

void run(Common& common, const std::string& scan, const std::string& path, double sensitivity) {
  const auto specification = read(path);
  if (!specification) return fail(common, specification.error());
  const auto fits_of_scan = NamedFits::open(common, scan, sensitivity);
  if (!fits_of_scan) return fail(common, fits_of_scan.error());
  const project::Document& document = fits_of_scan->document();
  const survey::Survey* found = document.survey.get();
  std::vector<fit::Member> members;
  for (const std::uint32_t id : specification->regions) {
    if (id == 0 || id > found->regions.size() || !found->regions[id - 1].fit)
      return fail(common, {ErrorCode::InvalidInput,
                           "Region " + std::to_string(id) +
                               " is not there or free-form; the survey found " +
                               std::to_string(found->regions.size()) + " regions."});
    const bool held = std::count(specification->held.begin(), specification->held.end(), id) > 0;
    members.push_back({*found->regions[id - 1].fit,
                       survey::patch_of(*document.scan->mesh, document.scan->topology,
                                        survey::triangles_of(*found, id))
                           .points,
                       held});
  }
  const Stopwatch watch;
  const auto related = fit::fit_related(members, specification->relations);
  if (!related) return fail(common, related.error());
  Json fits = Json::array();
  for (std::size_t i = 0; i < members.size(); ++i) {
    const fit::SurfaceFit& f = related->fits[i];
    fits.push_back({{"region", specification->regions[i]},
                    {"type", fit::kind_name(f.surface.kind)},
                    {"params", surface_params(f.surface)},
                    {"u", surface_uncertainties(f)},
                    {"rms_alone", members[i].fit.rms},
                    {"rms", f.rms},
                    {"rounds", f.rounds},
                    {"settled", f.settled}});
  }
  Json relations = Json::array();
  for (std::size_t k = 0; k < related->costs.size(); ++k) {
    relations.push_back(cost_json(specification->relations[k].type, related->costs[k]));
  }
  print(common, {{"fits", fits}, {"relations", relations}, {"seconds", watch.seconds()}});
}

}  // namespace

const std::map<std::string, fit::RelationType>& relation_types() { return kTypes; }

Json cost_json(fit::RelationType type, const fit::RelationCost& c) {
  return {{"type", fit::relation_word(type)},
          {"rms_without", c.rms_without},
          {"rms_with", c.rms_with},
          {"departure", c.departure},
          {"departure_deg", c.departure_angle * kDegrees},
          {"chi2", c.chi2},
          {"chi2_limit", fit::chi2_limit(c.freedoms)},
          {"effect", c.effect},
          {"freedoms", c.freedoms},
          {"within_noise", c.within_noise}};
}

void add_relate(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "relate",
                             "fit regions of a scan together under relations, with their cost");
  struct RelateArguments {
    std::string scan, relations;
    double sensitivity = 0.5;
  };
  const auto a = std::make_shared<RelateArguments>();
  sub->add_option("SCAN", a->scan,
                  "scan in millimetres, or a project that holds one with its survey")
      ->required();
  sub->add_option("--relations", a->relations, "JSON file; regions are numbered as by survey")
      ->required();
  sub->add_option("--sensitivity", a->sensitivity, "of the survey, 0 to 1")
      ->check(CLI::Range(0.0, 1.0));
  sub->callback([&common, a] { run(common, a->scan, a->relations, a->sensitivity); });
}

}  // namespace lostline::cli
