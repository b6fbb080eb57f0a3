#include "pipe/centreline.h"

#include <fmt/format.h>

#include <numbers>

#include "cli.h"
#include "io/curve_models.h"
#include "io/files.h"
#include "io/formats.h"

namespace lostline::cli {
namespace {

struct CentrelineArguments {
  std::string scan, out;
  std::vector<std::string> at;
  double bridge = 3, simpler = 0;
};

Json vector(const Vec3& v) { return {v.x(), v.y(), v.z()}; }

Json json_of(const pipe::Piece& piece) {
  if (piece.straight) return {{"type", "line"}, {"a", vector(piece.a)}, {"b", vector(piece.b)}};
  Json arc = {{"type", "arc"},
              {"centre", vector(piece.centre)},
              {"axis", vector(piece.axis)},
              {"radius", piece.radius},
              {"a", vector(piece.a)},
              {"b", vector(piece.b)},
              {"angle_deg", piece.angle() * 180 / std::numbers::pi}};
  if (piece.u_radius) arc["u_radius"] = *piece.u_radius;
  return arc;
}

/// RFC 4180, one line a bend.
std::string table_of(const pipe::Centreline& line) {
  std::string text = "straight_mm,turn_deg,angle_deg,bend_radius_mm\r\n";
  const double degrees = 180 / std::numbers::pi;
  for (const pipe::BendRow& row : pipe::bending_table(line)) {
    text += fmt::format("{:.4f},{:.4f},{:.4f},{:.4f}\r\n", row.straight, row.turn * degrees,
                        row.angle * degrees, row.radius);
  }
  return text;
}

Status write(const std::string& path, const pipe::Centreline& line) {
  if (io::extension_of(path) == ".csv") return io::write_file_atomically(path, table_of(line));
  std::vector<io::SpaceCurve> curves;
  for (const pipe::Piece& piece : line.pieces) {
    io::SpaceCurve curve;
    curve.a = piece.a;
    curve.b = piece.b;
    curve.name = (piece.straight ? "straight " : "bend ") + std::to_string(curves.size() + 1);
    if (!piece.straight) {
      curve.centre = piece.centre;
      curve.axis = piece.axis;
    }
    curves.push_back(curve);
  }
  return io::write_space_curves(path, curves);
}

void run(Common& common, const CentrelineArguments& arguments) {
  std::vector<Vec3> picks;
  for (const std::string& text : arguments.at) {
    const auto at = parse_vector(text);
    if (!at) return fail(common, at.error());
    picks.push_back(*at);
  }
  const auto loaded = read_scan(common, arguments.scan);
  if (!loaded) return fail(common, loaded.error());
  const Stopwatch watch;
  pipe::CentrelineOptions options;
  options.bridge = arguments.bridge;
  options.simpler = arguments.simpler;
  const auto line = pipe::find_centreline(loaded->mesh, picks, options,
                                          progress_task(common, "following the pipe"));
  if (!line) return fail(common, line.error());
  Json points = Json::array();
  for (const Vec3& p : line->points_along(line->radius)) points.push_back(vector(p));
  Json pieces = Json::array();
  for (const pipe::Piece& piece : line->pieces) pieces.push_back(json_of(piece));
  if (!arguments.out.empty()) {
    if (const Status written = write(arguments.out, *line); !written)
      return fail(common, written.error());
  }
  print(common, {{"points", points},
                 {"pieces", pieces},
                 {"radius", line->radius},
                 {"u", {{"radius", line->u_radius}}},
                 {"rms", line->rms},
                 {"max", line->greatest},
                 {"length", line->length()},
                 {"hollow", line->hollow},
                 {"closed", line->closed},
                 {"bridged", line->bridged},
                 {"used", line->used},
                 {"settled", line->settled},
                 {"seconds", watch.seconds()}});
}

}  // namespace

void add_centreline(CLI::App& app, Common& common) {
  CLI::App* sub =
      subcommand(app, common, "centreline",
                 "the centre line of the pipe at a picked place, as straights and bends");
  const auto arguments = std::make_shared<CentrelineArguments>();
  sub->add_option("SCAN", arguments->scan, "scan in millimetres")->required();
  sub->add_option("--at", arguments->at, "x,y,z on the pipe; several help over gaps")
      ->required()
      ->allow_extra_args(false);
  sub->add_option("--bridge", arguments->bridge, "gaps as long as so many radii are bridged")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--simpler", arguments->simpler,
                  "mm: departures below this are nobody's bend; 0: by the noise")
      ->check(CLI::NonNegativeNumber);
  sub->add_option("--out", arguments->out,
                  "write the centre line as .igs or .step, or its bending table as .csv");
  sub->callback([&common, arguments] { run(common, *arguments); });
}

}  // namespace lostline::cli
