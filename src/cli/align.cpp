#include "align.h"

#include <fstream>

#include "datum/frame.h"
#include "project/datums.h"
#include "project/probe.h"

namespace lostline::cli {

Result<fit::Surface> fit_named(const Json& item, const scan::Mesh& mesh,
                               const survey::Survey& found) {
  std::uint32_t id = 0;
  if (item.contains("region") && item["region"].is_number_unsigned()) {
    id = item["region"].get<std::uint32_t>();
  } else if (item.contains("near") && item["near"].is_array() && item["near"].size() == 3) {
    const Vec3 near(item["near"][0].get<double>(), item["near"][1].get<double>(),
                    item["near"][2].get<double>());
    double best = 1e300;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      const double d = (mesh.centroid(t) - near).squaredNorm();
      if (d < best && found.triangle_region[t] != 0) {
        best = d;
        id = found.triangle_region[t];
      }
    }
  } else {
    return Error{ErrorCode::InvalidInput,
                 "A fit is named by {\"region\": number} or {\"near\": [x, y, z]}; found " +
                     item.dump() + "."};
  }
  if (id == 0 || id > found.regions.size())
    return Error{ErrorCode::InvalidInput, "There is no region " + std::to_string(id) +
                                              "; the survey found " +
                                              std::to_string(found.regions.size()) + "."};
  const survey::Region& region = found.regions[id - 1];
  if (!region.fit)
    return Error{ErrorCode::InvalidInput,
                 "Region " + std::to_string(id) + " is free-form and fixes nothing."};
  return region.fit->surface;
}

namespace {

/// {"A": three points, "B": two, "C": one, "diameter": mm}: the planes of datum targets.
Result<std::array<fit::SurfaceFit, 3>> read_targets(const Json& item, const scan::Mesh& mesh) {
  const auto scan = project::prepare_scan(mesh, "scan", "", Unit::Millimetre);
  if (!scan) return scan.error();
  std::array<datum::TargetPoint, 6> targets;
  std::size_t next = 0;
  const double reach = 0.5 * item.value("diameter", 6.0);
  if (!(reach > 0))
    return Error{ErrorCode::InvalidInput, "The diameter of datum targets must be positive."};
  for (const auto& [key, count] :
       {std::pair{"A", std::size_t{3}}, {"B", std::size_t{2}}, {"C", std::size_t{1}}}) {
    const Json& points = item.at(key);
    if (points.size() != count)
      return Error{ErrorCode::InvalidInput, std::string("Datum targets ") + key + " need " +
                                                std::to_string(count) + " points, not " +
                                                std::to_string(points.size()) + "."};
    for (const Json& p : points) {
      const Vec3 at(p.at(0).get<double>(), p.at(1).get<double>(), p.at(2).get<double>());
      const std::string name = key + std::to_string(&p - &points[0] + 1);
      const auto nearest = scan.value()->index->nearest(at, 2 * reach);
      if (!nearest)
        return Error{ErrorCode::InvalidInput,
                     "No scan lies within the area of datum target " + name + "."};
      const auto probe = project::probe_scan(**scan, nearest->triangle, nearest->point, reach);
      if (!probe) return Error{probe.error().code, name + ": " + probe.error().message};
      targets[next++] = {probe->point, probe->normal, probe->sigma};
    }
  }
  return datum::planes_of_targets(targets);
}

Result<datum::FrameInput> read_frame(const std::string& path, const scan::Mesh& mesh,
                                     const survey::Survey& found) {
  std::ifstream file(path);
  if (!file) return Error{ErrorCode::Io, "Cannot open " + path + "."};
  Json spec;
  try {
    spec = Json::parse(file);
    datum::FrameInput input;
    const auto axis = [&](const char* key, datum::Axis& to) -> Status {
      if (spec.contains("targets") && !spec.contains(key)) return Done{};
      if (!spec.at(key).contains("axis")) return Done{};
      const auto parsed = datum::parse_axis(spec[key]["axis"].get<std::string>());
      if (!parsed) return parsed.error();
      to = *parsed;
      return Done{};
    };
    for (const auto& [key, target] : {std::pair{"primary", &input.primary_axis},
                                      std::pair{"secondary", &input.secondary_axis}}) {
      if (const Status status = axis(key, *target); !status) return status.error();
    }
    if (spec.contains("targets")) {
      const auto planes = read_targets(spec["targets"], mesh);
      if (!planes) return planes.error();
      input.primary = (*planes)[0].surface;
      input.secondary = {(*planes)[1].surface};
      input.origin = {(*planes)[1].surface, (*planes)[2].surface};
      if (!spec.contains("secondary")) input.secondary_axis = datum::Axis::MinusX;
      return input;
    }
    const auto primary = fit_named(spec["primary"]["fit"], mesh, found);
    if (!primary) return primary.error();
    input.primary = *primary;
    for (const auto& [list, key] :
         {std::pair{&input.secondary, "secondary"}, std::pair{&input.origin, "origin"}}) {
      if (!spec.contains(key)) continue;
      for (const Json& item : spec[key].at("fits")) {
        const auto named = fit_named(item, mesh, found);
        if (!named) return named.error();
        list->push_back(*named);
      }
    }
    return input;
  } catch (const nlohmann::json::exception& error) {
    return Error{ErrorCode::InvalidInput, path + " is no frame description: " + error.what()};
  }
}

void run(Common& common, const AlignArguments& arguments) {
  if (arguments.frame.empty() == arguments.model.empty())
    return fail(common,
                {ErrorCode::InvalidInput, "Say either --frame FILE.json or --to MODEL.step."});
  const auto loaded = read_scan(common, arguments.scan);
  if (!loaded) return fail(common, loaded.error());
  const Stopwatch watch;
  const scan::Topology topology = scan::build_topology(loaded->mesh);
  survey::SurveyOptions options;
  options.sensitivity = arguments.sensitivity;
  const auto found = survey::split_into_regions(loaded->mesh, topology, options,
                                                progress_task(common, "surveying"));
  if (!found) return fail(common, found.error());
  if (!arguments.model.empty())
    return align_to_model(common, arguments, loaded->mesh, topology, *found, watch);
  const auto input = read_frame(arguments.frame, loaded->mesh, *found);
  if (!input) return fail(common, input.error());
  const auto frame = datum::frame_321(*input);
  if (!frame) return fail(common, frame.error());
  // The datum features that hold the frame: how well the scan follows them.
  double squares = 0;
  double points = 0;
  double area = 0;
  double total = 0;
  for (const survey::Region& region : found->regions) {
    total += region.area;
    const auto is_used = [&](const fit::Surface& s) {
      return region.fit && (s.point - region.fit->surface.point).norm() < 1e-12;
    };
    bool used = is_used(input->primary);
    for (const fit::Surface& s : input->secondary) used = used || is_used(s);
    for (const fit::Surface& s : input->origin) used = used || is_used(s);
    if (!used) continue;
    area += region.area;
    squares += region.fit->rms * region.fit->rms * static_cast<double>(region.fit->used);
    points += static_cast<double>(region.fit->used);
  }
  if (const Status written = write_moved(arguments, loaded->mesh, frame->to_part); !written)
    return fail(common, written.error());
  print(common, {{"transform", to_json(frame->to_part)},
                 {"rms", points > 0 ? std::sqrt(squares / points) : 0.0},
                 {"used_fraction", total > 0 ? area / total : 0.0},
                 {"held_by", {frame->held_by[0], frame->held_by[1], frame->held_by[2]}},
                 {"seconds", watch.seconds()}});
}

}  // namespace

Status write_moved(const AlignArguments& arguments, const scan::Mesh& mesh,
                   const Transform& motion) {
  if (arguments.out.empty()) return Done{};
  return io::write_mesh(arguments.out, scan::transformed(mesh, motion));
}

Json to_json(const Transform& motion) {
  Json rows = Json::array();
  for (int r = 0; r < 4; ++r) {
    rows.push_back({motion.matrix()(r, 0), motion.matrix()(r, 1), motion.matrix()(r, 2),
                    motion.matrix()(r, 3)});
  }
  return rows;
}

void add_align(CLI::App& app, Common& common) {
  CLI::App* sub =
      subcommand(app, common, "align", "bring a scan into a datum frame or upon a model");
  const auto arguments = std::make_shared<AlignArguments>();
  sub->add_option("SCAN", arguments->scan, "STL or PLY file, millimetres")->required();
  sub->add_option("--frame", arguments->frame,
                  "JSON file: primary {fit, axis}, secondary {fits, axis}, origin {fits}, or "
                  "targets {A, B, C, diameter}; see "
                  "docs/design/frame-file.md");
  sub->add_option("--to", arguments->model, "STEP file to bring the scan upon");
  sub->add_option("--search", arguments->search,
                  "mm: points further from the model belong to none of it; 0: a thirtieth of its "
                  "size")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--pairs", arguments->pairs,
                  "JSON file of features or points that belong together, instead of matching; see "
                  "docs/design/frame-file.md");
  sub->add_option("--candidate", arguments->candidate,
                  "which way a symmetric part lies: 1 is the best")
      ->check(CLI::PositiveNumber);
  sub->add_option("--tolerance", arguments->tolerance,
                  "mm: areas further from the model are listed; 0: five times the scatter")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--sensitivity", arguments->sensitivity, "of the survey that numbers the regions")
      ->check(CLI::Range(0.0, 1.0));
  sub->add_option("--out", arguments->out, "write the moved scan as .stl or .ply");
  sub->callback([&common, arguments] { run(common, *arguments); });
}

}  // namespace lostline::cli
