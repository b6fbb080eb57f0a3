#include "base/text.h"
#include "cli.h"
#include "deviation/places.h"
#include "deviation/section_compare.h"
#include "io/formats.h"

namespace lostline::cli {

void add_deviate(CLI::App& app, Common& common) {
  struct DeviateArguments {
    std::string scan, model, out, origin, normal;
    double tolerance = 0.05, limit = 0, within = 0.95;
  };
  CLI::App* sub = subcommand(app, common, "deviate", "signed distance of a scan from a model");
  const auto arguments = std::make_shared<DeviateArguments>();
  sub->add_option("SCAN", arguments->scan, "scan in the model's place and in millimetres")
      ->required();
  sub->add_option("MODEL", arguments->model, "STEP file")->required();
  const CLI::Option* tolerance =
      sub->add_option("--tolerance", arguments->tolerance,
                      "mm either way; given, the command returns 1 when the scan is outside")
          ->check(CLI::PositiveNumber);
  sub->add_option(
         "--within", arguments->within,
         "share of the scan that must lie within the tolerance, from 0 to 1; 0.95: all but "
         "what a scan has of outliers")
      ->check(CLI::Range(0.0, 1.0));
  sub->add_option("--limit", arguments->limit,
                  "mm: points further away belong to no surface and are counted as unmatched; 0: a "
                  "tenth of the model's diagonal")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--out", arguments->out,
                  "write the scan as .ply with the deviation as vertex property quality");
  sub->add_option("--section-origin", arguments->origin,
                  "compare in one plane section only: a point of it, x,y,z");
  sub->add_option("--section-normal", arguments->normal, "its normal, x,y,z");
  // A verdict is given only where a tolerance was.
  const auto judge = [&common, arguments, tolerance](double share) {
    const bool outside = share < arguments->within;
    if (tolerance->count() > 0 && outside) common.exit_code = kFailed;
    return outside;
  };
  sub->callback([&common, arguments, judge] {
    const auto loaded = read_scan(common, arguments->scan);
    if (!loaded) return fail(common, loaded.error());
    const auto solid = io::read_model(arguments->model);
    if (!solid) return fail(common, solid.error());
    const Stopwatch watch;
    if (!arguments->origin.empty() || !arguments->normal.empty()) {
      const auto origin = parse_vector(arguments->origin);
      if (!origin) return fail(common, origin.error());
      const auto normal = parse_vector(arguments->normal);
      if (!normal) return fail(common, normal.error());
      if (!(normal->norm() > 0))
        return fail(common, {ErrorCode::InvalidInput, "The normal has no length."});
      const Placement plane = placement_on(*origin, *normal);
      const section::SectionIndex index(std::make_shared<const scan::Mesh>(loaded->mesh));
      auto model = deviation::cut_solid(*solid, plane);
      if (!model) return fail(common, model.error());
      const double limit =
          arguments->limit > 0 ? arguments->limit : 0.1 * solid->box().diagonal().norm();
      const auto c = deviation::compare_sections(index.cut(plane), *std::move(model), limit,
                                                 arguments->tolerance);
      if (c.whiskers.empty())
        return fail(common, {ErrorCode::Failed, "The plane cuts no scan near the model."});
      const Vec3 at = plane.to_space(c.greatest_at);
      return print(common, {{"n", c.whiskers.size()},
                            {"rms", c.rms},
                            {"mean", c.mean},
                            {"greatest", c.greatest},
                            {"greatest_at", to_json(at)},
                            {"within_fraction", c.within_fraction},
                            {"outside", judge(c.within_fraction)},
                            {"unmatched", c.far},
                            {"seconds", watch.seconds()}});
    }
    const auto comparator = deviation::Comparator::build(*solid);
    if (!comparator) return fail(common, comparator.error());
    const double limit = arguments->limit > 0 ? arguments->limit : comparator->default_limit();
    const auto map =
        comparator->compare(loaded->mesh.vertices, limit, progress_task(common, "comparing"));
    if (!map) return fail(common, map.error());
    const double seconds = watch.seconds();
    const deviation::Statistics s = deviation::statistics(*map, arguments->tolerance);
    if (s.n == 0) {
      return fail(common, {ErrorCode::Failed,
                           "No point of the scan lies within " + format_trimmed(limit, 2) +
                               " mm of the model. Align the scan first, or check its unit."});
    }
    if (!arguments->out.empty()) {
      if (const Status written = io::write_ply(arguments->out, loaded->mesh, map->value); !written)
        return fail(common, written.error());
    }
    Json bodies = Json::array();
    for (const auto& g : deviation::by_group(*map, deviation::bodies_of(*map, *solid),
                                             [&](std::uint32_t) { return arguments->tolerance; }))
      bodies.push_back({{"name", solid->body(g.group).name},
                        {"kind", model::kind_name(solid->body(g.group).kind)},
                        {"n", g.statistics.n},
                        {"rms", g.statistics.rms},
                        {"mean", g.statistics.mean},
                        {"max", g.statistics.max},
                        {"min", g.statistics.min},
                        {"within_fraction", g.statistics.within_fraction}});
    print(common, {{"n", s.n},
                   {"bodies", bodies},
                   {"rms", s.rms},
                   {"mean", s.mean},
                   {"sd", s.sd},
                   {"p95_abs", s.p95_abs},
                   {"max", s.max},
                   {"max_at", to_json(loaded->mesh.vertices[s.max_at])},
                   {"min", s.min},
                   {"min_at", to_json(loaded->mesh.vertices[s.min_at])},
                   {"within_fraction", s.within_fraction},
                   {"outside", judge(s.within_fraction)},
                   {"unmatched", s.unmatched},
                   {"limit", limit},
                   {"seconds", seconds}});
  });
}

}  // namespace lostline::cli
