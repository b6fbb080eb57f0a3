#include <charconv>
#include <cstdio>
#include <filesystem>
#include <iostream>

#include "base/parallel.h"
#include "cli.h"
#include "fit/surface_kind.h"
#include "io/formats.h"
#include "project/scan_file.h"

namespace lostline::cli {

CLI::App* subcommand(CLI::App& app, Common& common, const std::string& name,
                     const std::string& description) {
  CLI::App* sub = app.add_subcommand(name, description);
  add_common_options(*sub, common);
  return sub;
}

void add_common_options(CLI::App& app, Common& common) {
  app.add_flag("--json", common.json, "print one JSON object on standard output");
  app.add_flag("--quiet", common.quiet, "no progress on standard error");
  app.add_option_function<int>(
         "--threads", [](int threads) { set_thread_limit(threads); },
         "worker threads; 0: all cores")
      ->check(CLI::Range(0, 256));
}

void print(const Common& common, const Json& object) {
  if (common.json) {
    std::cout << object.dump(2, ' ', false, Json::error_handler_t::replace) << '\n';
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

namespace {

std::string key_of(const fit::SizeInfo& size) {
  return std::string(size.name) + (size.unit == fit::SizeInfo::Unit::Angle ? "_deg" : "");
}

}  // namespace

Json surface_params(const fit::Surface& s) {
  const fit::SurfaceKind& kind = fit::about(s.kind);
  Json json{{kind.place, to_json(kind.anchor(s))}};
  if (kind.direction != nullptr) json[kind.direction] = to_json(s.axis);
  if (kind.turns) json["major_direction"] = to_json(s.major);
  for (const fit::SizeInfo& size : kind.size_list())
    json[key_of(size)] = size.unit == fit::SizeInfo::Unit::Angle ? size.said(s) : s.*size.value;
  return json;
}

Json surface_uncertainties(const fit::SurfaceFit& f) {
  const fit::SurfaceKind& kind = fit::about(f.surface.kind);
  Json u{{"offset", f.u_offset}};
  if (kind.direction != nullptr) u["angle_deg"] = f.u_angle * kDegrees;
  for (const fit::SizeInfo& size : kind.size_list())
    u[key_of(size)] = size.unit == fit::SizeInfo::Unit::Angle ? size.said_u(f) : f.*size.u;
  return u;
}

bool is_project(const std::string& path) { return io::carries(path, io::Carries::Project); }

Result<io::LoadedMesh> read_scan(const Common& common, const std::string& path) {
  Result<project::ScanFile> file =
      project::read_scan_file(path, {}, progress_task(common, "reading"));
  if (!file) return file.error();
  if (!common.quiet && file->from)
    std::cerr << path << ": a cloud of " << file->from->count << " points, meshed on the way\n";
  Result<io::LoadedMesh> loaded = (*std::move(file)).loaded;
  if (loaded && !common.quiet && loaded->skipped_triangles + loaded->skipped_not_finite > 0) {
    std::cerr << "left out " << loaded->skipped_triangles << " triangles with repeated corners and "
              << loaded->skipped_not_finite << " with coordinates that are no numbers\n";
  }
  return loaded;
}

}  // namespace lostline::cli
