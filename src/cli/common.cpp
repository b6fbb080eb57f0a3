#include <charconv>
#include <cstdio>
#include <filesystem>
#include <iostream>
#include <numbers>

#include "base/parallel.h"
#include "cli.h"
#include "io/formats.h"

namespace lostline::cli {

CLI::App* subcommand(CLI::App& app, Common& common, const std::string& name,
                     const std::string& description) {
  CLI::App* sub = app.add_subcommand(name, description);
  sub->add_flag("--json", common.json, "print one JSON object on standard output");
  sub->add_flag("--quiet", common.quiet, "no progress on standard error");
  sub->add_option("--threads", common.threads, "worker threads; 0: all cores")
      ->check(CLI::Range(0, 256));
  sub->parse_complete_callback([&common] { set_thread_limit(common.threads); });
  return sub;
}

void print(const Common& common, const Json& object) {
  if (common.json) {
    std::cout << object.dump(2) << '\n';
    return;
  }
  for (const auto& [key, value] : object.items()) {
    if (value.is_array() && !value.empty() && value.front().is_object()) {
      std::cout << key << ": " << value.size() << '\n';
      for (const auto& item : value) std::cout << "  " << item.dump() << '\n';
    } else {
      std::cout << key << ": " << (value.is_string() ? value.get<std::string>() : value.dump())
                << '\n';
    }
  }
}

void fail(Common& common, const Error& error) {
  std::cerr << "lostline-cli: " << error.message << '\n';
  const bool bad = error.code == ErrorCode::InvalidInput || error.code == ErrorCode::Io ||
                   error.code == ErrorCode::Unsupported;
  common.exit_code = bad ? kBadInput : kFailed;
}

Task progress_task(const Common& common, const std::string& what) {
  if (common.quiet) return {};
  auto last = std::make_shared<std::atomic<int>>(-1);
  return Task(std::stop_token{}, [what, last](double share) {
    const int percent = static_cast<int>(share * 10) * 10;
    int before = last->load();
    if (percent > before && last->compare_exchange_strong(before, percent))
      std::cerr << what << ' ' << percent << " %\n";
  });
}

Result<Vec3> parse_vector(const std::string& text) {
  Vec3 v;
  const char* at = text.data();
  const char* end = text.data() + text.size();
  for (int k = 0; k < 3; ++k) {
    if (at != end && *at == '+') ++at;
    const auto [next, error] = std::from_chars(at, end, v[k]);
    const bool last = k == 2;
    if (error != std::errc{} || !std::isfinite(v[k]) ||
        (last ? next != end : next == end || *next != ',')) {
      return Error{ErrorCode::InvalidInput,
                   "\"" + text + "\" is no vector; write three numbers with commas, as in 0,0,1."};
    }
    at = last ? next : next + 1;
  }
  return v;
}

Json to_json(const Vec3& v) { return Json::array({v.x(), v.y(), v.z()}); }

Json surface_params(const fit::Surface& s) {
  constexpr double kDegrees = 180 / std::numbers::pi;
  switch (s.kind) {
    case fit::Kind::Plane:
      return {{"point", to_json(s.point)}, {"normal", to_json(s.axis)}};
    case fit::Kind::Cylinder:
      return {{"point", to_json(s.point)}, {"axis", to_json(s.axis)}, {"radius", s.radius}};
    case fit::Kind::Cone:
      return {{"apex", to_json(s.apex())},
              {"axis", to_json(s.axis)},
              {"half_angle_deg", s.half_angle * kDegrees}};
    case fit::Kind::Sphere:
      return {{"centre", to_json(s.point)}, {"radius", s.radius}};
    case fit::Kind::Torus:
      return {{"centre", to_json(s.point)},
              {"axis", to_json(s.axis)},
              {"major_radius", s.radius},
              {"minor_radius", s.minor_radius}};
    case fit::Kind::Line:
      return {{"point", to_json(s.point)}, {"axis", to_json(s.axis)}};
    case fit::Kind::Circle:
      return {{"centre", to_json(s.point)}, {"axis", to_json(s.axis)}, {"radius", s.radius}};
    case fit::Kind::Ellipse:
      return {{"centre", to_json(s.point)},
              {"axis", to_json(s.axis)},
              {"major_direction", to_json(s.major)},
              {"major_radius", s.radius},
              {"minor_radius", s.minor_radius}};
    case fit::Kind::Point:
      return {{"point", to_json(s.point)}};
  }
  return {};
}

Json surface_uncertainties(const fit::SurfaceFit& f) {
  constexpr double kDegrees = 180 / std::numbers::pi;
  Json u{{"offset", f.u_offset}};
  if (fit::has_direction(f.surface.kind)) u["angle_deg"] = f.u_angle * kDegrees;
  if (f.surface.kind == fit::Kind::Cylinder || f.surface.kind == fit::Kind::Sphere ||
      f.surface.kind == fit::Kind::Circle)
    u["radius"] = f.u_radius;
  if (f.surface.kind == fit::Kind::Torus || f.surface.kind == fit::Kind::Ellipse) {
    u["major_radius"] = f.u_radius;
    u["minor_radius"] = f.u_minor_radius;
  }
  if (f.surface.kind == fit::Kind::Cone) u["half_angle_deg"] = f.u_half_angle * kDegrees;
  return u;
}

bool is_project(const std::string& path) { return io::carries(path, io::Carries::Project); }

Result<io::LoadedMesh> read_scan(const Common& common, const std::string& path) {
  Result<io::LoadedMesh> loaded = io::read_mesh(path, progress_task(common, "reading"));
  if (loaded && !common.quiet && loaded->skipped_triangles + loaded->skipped_not_finite > 0) {
    std::cerr << "left out " << loaded->skipped_triangles << " triangles with repeated corners and "
              << loaded->skipped_not_finite << " with coordinates that are no numbers\n";
  }
  return loaded;
}

}  // namespace lostline::cli
