#include "align.h"

#include <fstream>

#include "io/formats.h"
#include "project/datums.h"
#include "reading/probe.h"

namespace lostline::cli {

namespace {

/// {"A": three points, "B": two, "C": one, "diameter": mm}: datum targets, read off the scan.
Result<std::array<datum::TargetPoint, 6>> read_targets(const Json& item,
                                                       const project::Scan& scan) {
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
      const auto nearest = scan.index->nearest(at, 2 * reach);
      if (!nearest)
        return Error{ErrorCode::InvalidInput,
                     "No scan lies within the area of datum target " + name + "."};
      const auto probe = reading::probe_scan(scan, nearest->triangle, nearest->point, reach);
      if (!probe) return Error{probe.error().code, name + ": " + probe.error().message};
      targets[next++] = {probe->point, probe->normal, probe->sigma};
    }
  }
  return targets;
}

}  // namespace

Result<project::Document> with_frame_of(const std::string& path, NamedFits& fits) {
  std::ifstream file(path);
  if (!file) return Error{ErrorCode::Io, "Cannot open " + path + "."};
  try {
    const Json spec = Json::parse(file);
    const bool targets = spec.contains("targets");
    project::DatumFrame frame;
    if (targets) frame.secondary_axis = datum::Axis::MinusX;
    for (const auto& [key, axis] : {std::pair{"primary", &frame.primary_axis},
                                    std::pair{"secondary", &frame.secondary_axis}}) {
      if (targets && !spec.contains(key)) continue;
      if (!spec.at(key).contains("axis")) continue;
      const auto parsed = datum::parse_axis(spec[key]["axis"].get<std::string>());
      if (!parsed) return parsed.error();
      *axis = *parsed;
    }
    if (targets) {
      const auto points = read_targets(spec["targets"], *fits.document().scan);
      if (!points) return points.error();
      const auto set = project::set_frame_on_targets(fits.document(), *points, frame.primary_axis,
                                                     frame.secondary_axis);
      return set;
    }
    const auto primary = fits.find(spec["primary"].at("fit"));
    if (!primary) return primary.error();
    frame.primary = *primary;
    for (const auto& [list, key] :
         {std::pair{&frame.secondary, "secondary"}, std::pair{&frame.origin, "origin"}}) {
      if (!spec.contains(key)) continue;
      for (const Json& item : spec[key].at("fits")) {
        const auto named = fits.find(item);
        if (!named) return named.error();
        list->push_back(*named);
      }
    }
    frame.extremes = spec.value("extremes", false);
    return project::set_frame(fits.document(), frame);
  } catch (const nlohmann::json::exception& error) {
    return Error{ErrorCode::InvalidInput, path + " is no frame description: " + error.what()};
  }
}

namespace {

/// RMS of the regions that hold a frame, and their share of the area.
Json quality(const survey::Survey& survey, const std::set<std::uint32_t>& regions) {
  double squares = 0;
  double points = 0;
  double area = 0;
  double total = 0;
  for (const survey::Region& region : survey.regions) {
    total += region.area;
    if (!regions.contains(region.id)) continue;
    area += region.area;
    squares += region.fit->rms * region.fit->rms * static_cast<double>(region.fit->used);
    points += static_cast<double>(region.fit->used);
  }
  return {{"rms", points > 0 ? std::sqrt(squares / points) : 0.0},
          {"used_fraction", total > 0 ? area / total : 0.0}};
}

/// A frame as the file of --frame describes it.
Json frame_file(const project::DatumFrame& frame) {
  const auto named = [](const std::vector<project::FitRef>& refs) {
    Json list = Json::array();
    for (const project::FitRef& ref : refs) list.push_back({{"region", ref.region}});
    return list;
  };
  Json file{{"primary",
             {{"fit", {{"region", frame.primary.region}}},
              {"axis", datum::axis_name(frame.primary_axis)}}},
            {"secondary",
             {{"fits", named(frame.secondary)}, {"axis", datum::axis_name(frame.secondary_axis)}}}};
  if (!frame.origin.empty()) file["origin"] = {{"fits", named(frame.origin)}};
  if (frame.extremes) file["extremes"] = true;
  return file;
}

/// Prints datum systems that the survey offers; --out writes the scan as the first has it.
void propose(Common& common, const AlignArguments& arguments, const NamedFits& fits,
             const scan::Mesh& mesh, const Stopwatch& watch) {
  const auto systems = project::propose_frames(fits.document());
  if (systems.empty())
    return fail(common, {ErrorCode::Failed,
                         "No datum system can be proposed: the survey found no plane or axis with "
                         "something square to it. Describe one with --frame."});
  const auto regions_of = [](const project::DatumFrame& frame) {
    std::set<std::uint32_t> regions{frame.primary.region};
    for (const project::FitRef& ref : frame.secondary) regions.insert(ref.region);
    for (const project::FitRef& ref : frame.origin) regions.insert(ref.region);
    return regions;
  };
  Json list = Json::array();
  for (const project::ProposedFrame& p : systems) {
    Json system{{"frame", frame_file(p.specification)},
                {"reasons", p.reason},
                {"transform", to_json(p.specification.frame.to_part)},
                {"held_by", p.specification.frame.held_by}};
    system.update(quality(*fits.document().survey, regions_of(p.specification)));
    list.push_back(std::move(system));
  }
  const Transform& first = systems.front().specification.frame.to_part;
  if (const Status written = write_moved(arguments, mesh, first); !written)
    return fail(common, written.error());
  Json result{{"transform", to_json(first)}};
  result.update(quality(*fits.document().survey, regions_of(systems.front().specification)));
  result["systems"] = std::move(list);
  result["seconds"] = watch.seconds();
  print(common, result);
}

Status readable_json(const std::string& path) {
  std::ifstream file(path);
  if (!file) return Error{ErrorCode::Io, "Cannot open " + path + "."};
  if (Json::accept(file)) return Done{};
  return Error{ErrorCode::InvalidInput, path + " is no JSON file."};
}

void run(Common& common, const AlignArguments& arguments) {
  if ((arguments.frame.empty() ? 0 : 1) + (arguments.model.empty() ? 0 : 1) +
          (arguments.propose ? 1 : 0) !=
      1)
    return fail(common, {ErrorCode::InvalidInput,
                         "Say one of --frame FILE.json, --to MODEL.step and --propose."});
  // A description that cannot be read is refused before the survey takes its time.
  for (const std::string& path : {arguments.frame, arguments.pairs}) {
    if (const Status good = path.empty() ? Status(Done{}) : readable_json(path); !good)
      return fail(common, good.error());
  }
  const Stopwatch watch;
  auto fits = NamedFits::open(common, arguments.scan, arguments.sensitivity);
  if (!fits) return fail(common, fits.error());
  NamedFits named = *std::move(fits);
  const scan::Mesh& mesh = *named.document().scan->mesh;
  if (!arguments.model.empty()) return align_to_model(common, arguments, named, watch);
  if (arguments.propose) return propose(common, arguments, named, mesh, watch);
  const auto framed = with_frame_of(arguments.frame, named);
  if (!framed) return fail(common, framed.error());
  const datum::Frame* frame = &framed->frame->frame;
  if (const Status written = write_moved(arguments, mesh, frame->to_part); !written)
    return fail(common, written.error());
  Json result{{"transform", to_json(frame->to_part)}};
  result.update(quality(*named.document().survey, named.regions()));
  result["held_by"] = frame->held_by;
  result["features"] = named.features();
  result["seconds"] = watch.seconds();
  print(common, result);
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
  sub->add_option("SCAN", arguments->scan,
                  "scan in millimetres, or a project that holds one with its survey")
      ->required();
  sub->add_option("--frame", arguments->frame,
                  "JSON file: primary {fit, axis}, secondary {fits, axis}, origin {fits}, or "
                  "targets {A, B, C, diameter}; see "
                  "docs/design/frame-file.md");
  sub->add_flag("--propose", arguments->propose,
                "propose datum systems from the survey, best first, each with its reasons and as a "
                "frame file");
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
