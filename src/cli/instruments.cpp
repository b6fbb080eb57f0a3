#include "instruments.h"

#include "cli.h"
#include "fit/surface_kind.h"
#include "instruments/instrument.h"
#include "io/formats.h"
#include "project/received.h"
#include "simulate/touch_probe.h"
#include "simulate/turntable.h"

// Instruments over a local socket: the stand-ins that ship with the product, a scan received, a
// part probed.

namespace lostline::cli {
namespace {

struct InstrumentsArguments {
  std::string model, socket, out, cloud, down = "0,0,-1";
  simulate::TurntableOptions scanner;
  simulate::TouchProbeOptions probe;
  cloud::MeshingOptions meshing;
  bool keep_table = false, places = false;
  int talks = 0;
};

void stand_in(Common& common, const InstrumentsArguments& a, bool scanner) {
  const auto model = io::read_model(a.model);
  if (!model) return fail(common, model.error());
  std::unique_ptr<instruments::Instrument> instrument;
  if (scanner) {
    simulate::TurntableOptions options = a.scanner;
    const auto down = parse_vector(a.down);
    if (!down) return fail(common, down.error());
    options.down = *down;
    options.table = !a.keep_table;
    auto made = simulate::Turntable::make(*model, options);
    if (!made) return fail(common, made.error());
    instrument = *std::move(made);
  } else {
    simulate::TouchProbeOptions options = a.probe;
    options.gives_centres = !a.places;
    auto made = simulate::TouchProbe::make(*model, options);
    if (!made) return fail(common, made.error());
    instrument = *std::move(made);
  }
  if (!common.quiet)
    std::fprintf(stderr, "%s waits at %s\n", instrument->introduction().name.c_str(),
                 a.socket.c_str());
  if (const Status served = instruments::serve(*instrument, a.socket, Task(), a.talks); !served)
    return fail(common, served.error());
  print(common, {{"instrument", instrument->introduction().name}, {"talks", a.talks}});
}

void receive(Common& common, const InstrumentsArguments& a) {
  if (a.out.empty() && a.cloud.empty())
    return fail(common,
                {ErrorCode::InvalidInput, "Say what to write: --out MESH, --cloud CLOUD or both."});
  const Stopwatch watch;
  auto connected = instruments::Client::connect(a.socket);
  if (!connected) return fail(common, connected.error());
  instruments::Client client = *std::move(connected);
  const instruments::Introduction said = client.instrument();
  if (said.kind != instruments::Introduction::Kind::Scanner)
    return fail(common, {ErrorCode::InvalidInput,
                         said.name + " at " + a.socket + " is a probe, not a scanner."});
  const Task task = progress_task(common, "scanning");
  scan::PointCloud all;
  Json views = Json::array();
  while (true) {
    const auto view = client.next_view(task);
    if (!view) return fail(common, view.error());
    if (!*view) break;
    const scan::PointCloud& points = (*view)->cloud;
    all.points.insert(all.points.end(), points.points.begin(), points.points.end());
    all.normals.insert(all.normals.end(), points.normals.begin(), points.normals.end());
    views.push_back({{"number", (*view)->number},
                     {"eye", to_json((*view)->eye)},
                     {"points", points.points.size()}});
    if (said.views > 0) task.report(static_cast<double>(views.size()) / said.views);
  }
  Json result{{"instrument", said.name}, {"points", all.points.size()}, {"views", views}};
  if (!a.cloud.empty()) {
    if (const Status written = io::write_points(a.cloud, all); !written)
      return fail(common, written.error());
  }
  if (!a.out.empty()) {
    const auto made =
        project::mesh_views(all, !a.keep_table, a.meshing, progress_task(common, "meshing"));
    if (!made) return fail(common, made.error());
    const Status written = io::extension_of(a.out) == ".ply"
                               ? io::write_ply(a.out, made->meshed.mesh, made->meshed.u)
                               : io::write_mesh(a.out, made->meshed.mesh);
    if (!written) return fail(common, written.error());
    result["triangles"] = made->meshed.mesh.triangles.size();
    result["spacing"] = made->meshed.spacing;
    result["noise_sigma"] = made->meshed.noise;
    result["open_edges"] = scan::build_topology(made->meshed.mesh).open_edges;
    result["table"] = made->table ? Json{{"point", to_json(made->table->point)},
                                         {"normal", to_json(made->table->normal)},
                                         {"points", made->cut}}
                                  : Json();
  }
  result["seconds"] = watch.seconds();
  print(common, result);
}

void probe(Common& common, const InstrumentsArguments& a) {
  const Stopwatch watch;
  const auto probed = probe_programme(common, a.socket);
  if (!probed) return fail(common, probed.error());
  if (!a.out.empty()) {
    scan::PointCloud places;
    for (const project::ProbedFeature& f : probed->features)
      places.points.insert(places.points.end(), f.fitted.places.begin(), f.fitted.places.end());
    if (const Status written = io::write_points(a.out, places); !written)
      return fail(common, written.error());
  }
  print(common, {{"instrument", probed->name},
                 {"tip", probed->tip},
                 {"features", features_json(*probed)},
                 {"seconds", watch.seconds()}});
}

}  // namespace

Result<ProbedProgramme> probe_programme(const Common& common, const std::string& socket) {
  auto connected = instruments::Client::connect(socket);
  if (!connected) return connected.error();
  instruments::Client client = *std::move(connected);
  const instruments::Introduction& said = client.instrument();
  if (said.kind != instruments::Introduction::Kind::Probe)
    return Error{ErrorCode::InvalidInput,
                 said.name + " at " + socket + " is a scanner, not a probe."};
  const Task task = progress_task(common, "probing");
  std::vector<std::pair<std::string, std::vector<instruments::Touch>>> features;
  while (true) {
    const auto next = client.next_touch(task);
    if (!next) return next.error();
    if (!*next) break;
    if (features.empty() || features.back().first != (*next)->feature)
      features.push_back({(*next)->feature, {}});
    features.back().second.push_back((*next)->touch);
  }
  ProbedProgramme programme{said.name, said.tip, {}, {}};
  for (const auto& [name, touches] : features) {
    const instruments::ProbedKind* kind = instruments::probed_kind_of(name);
    if (kind == nullptr) {
      programme.refused.emplace_back(name, "Its name begins with no kind of feature.");
      continue;
    }
    const auto fitted = instruments::fit_touches(
        kind->kind, touches, said.gives_centres ? 0.5 * said.tip : 0, said.noise);
    if (fitted)
      programme.features.push_back({name, kind->kind, *fitted});
    else
      programme.refused.emplace_back(name, fitted.error().message);
  }
  if (programme.features.empty())
    return Error{ErrorCode::Failed,
                 programme.refused.empty()
                     ? "The probe has no programme of its own: nothing was touched."
                     : "No feature can be fitted: " + programme.refused.front().first + ": " +
                           programme.refused.front().second};
  return programme;
}

Json features_json(const ProbedProgramme& programme) {
  Json list = Json::array();
  for (const project::ProbedFeature& f : programme.features) {
    Json one{{"name", f.name},
             {"type", instruments::about(f.kind).name},
             {"points", f.fitted.places.size()}};
    if (f.fitted.fit) {
      one["params"] = surface_params(f.fitted.fit->surface);
      one["u"] = surface_uncertainties(*f.fitted.fit);
      one["rms"] = f.fitted.fit->rms;
      one["form_error"] = f.fitted.fit->form_error;
      one["hollow"] = f.fitted.fit->surface.hollow;
    } else if (f.fitted.slot) {
      const instruments::Slot& s = *f.fitted.slot;
      one["params"] = {{"a", to_json(s.a)},
                       {"b", to_json(s.b)},
                       {"normal", to_json(s.normal)},
                       {"radius", s.radius}};
      one["u"] = {{"radius", s.u_radius}, {"length", s.u_length}};
      one["rms"] = s.rms;
    } else {
      one["places"] = Json::array();
      for (const Vec3& p : f.fitted.places) one["places"].push_back(to_json(p));
    }
    list.push_back(std::move(one));
  }
  for (const auto& [name, why] : programme.refused)
    list.push_back({{"name", name}, {"refused", why}});
  return list;
}

void add_instruments(CLI::App& app, Common& common) {
  {
    CLI::App* all = subcommand(app, common, "stand-in",
                               "an instrument made up of a model, which waits at a local socket");
    all->require_subcommand(1);
    for (const bool scanner : {true, false}) {
      const auto a = std::make_shared<InstrumentsArguments>();
      CLI::App* sub = subcommand(*all, common, scanner ? "scanner" : "probe",
                                 scanner ? "a scanner beside a turntable with the part on it"
                                         : "a touch probe with the part on its machine");
      sub->add_option("MODEL", a->model, "the part: " + io::format_names({io::reads_model}))
          ->required();
      sub->add_option("--socket", a->socket, "name of the socket in the file system")->required();
      sub->add_option("--talks", a->talks, "ends after so many; 0: goes on until it is stopped");
      if (scanner) {
        sub->add_option("--views", a->scanner.views, "about a full turn");
        sub->add_option("--spacing", a->scanner.spacing, "mm between points");
        sub->add_option("--noise", a->scanner.noise, "mm, standard deviation along the ray");
        sub->add_option("--down", a->down, "x,y,z of the model: the side that it lies on");
        sub->add_flag("--no-table", a->keep_table, "the table is not seen");
        sub->add_option("--seed", a->scanner.seed, "of the noise and the pose");
      } else {
        sub->add_option("--tip", a->probe.tip, "mm, diameter of the ball");
        sub->add_option("--noise", a->probe.noise, "mm, standard deviation of each coordinate");
        sub->add_flag("--places", a->places, "gives places on the part, not the ball's centres");
        sub->add_option("--seed", a->probe.seed, "of the noise and the pose");
      }
      sub->callback([&common, a, scanner] { stand_in(common, *a, scanner); });
    }
  }
  {
    const auto a = std::make_shared<InstrumentsArguments>();
    CLI::App* sub =
        subcommand(app, common, "receive", "all views of a scanner at a local socket, meshed");
    sub->add_option("--socket", a->socket, "where the scanner waits")->required();
    sub->add_option("--out", a->out, "mesh to write, the table cut away");
    sub->add_option("--cloud", a->cloud, "all points to write");
    sub->add_flag("--keep-table", a->keep_table, "what it stands on stays in the mesh");
    sub->add_option("--smooth", a->meshing.smooth, "spacings over which noise is averaged")
        ->check(CLI::Range(0.0, 20.0));
    sub->callback([&common, a] { receive(common, *a); });
  }
  {
    const auto a = std::make_shared<InstrumentsArguments>();
    CLI::App* sub = subcommand(app, common, "probe",
                               "the programme of a touch probe at a local socket, feature by "
                               "feature");
    sub->add_option("--socket", a->socket, "where the probe waits")->required();
    sub->add_option("--out", a->out, "places touched to write, the ball taken off");
    sub->callback([&common, a] { probe(common, *a); });
  }
}

}  // namespace lostline::cli
