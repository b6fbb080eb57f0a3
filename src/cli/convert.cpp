#include "cli.h"
#include "io/formats.h"
#include "model/model.h"
#include "sketch/drawing.h"

namespace lostline::cli {
namespace {

Status convert(Common& common, const std::string& in, const std::string& out) {
  const io::Format* from = io::format_of(in);
  const io::Format* to = io::format_of(out);
  const bool to_model = to != nullptr && to->write_model != nullptr;
  if (from != nullptr && from->read_model != nullptr) {
    const auto model = from->read_model(in);
    if (!model) return model.error();
    if (to_model) return to->write_model(out, *model, std::filesystem::path(in).stem().string());
    const auto tessellation = model::tessellate(*model);
    if (!tessellation) return tessellation.error();
    return io::write_mesh(out, tessellation->mesh);
  }
  if (from != nullptr && from->read_curves != nullptr && to != nullptr &&
      to->write_curves != nullptr) {
    const auto read = from->read_curves(in);
    if (!read) return read.error();
    section::Section plane;
    plane.plane = read->plane;
    constexpr double kSame = 1e-4;  // mm: ends this near were meant to be one
    return to->write_curves(out, sketch::sketch_of(read->curves, read->points, kSame), plane);
  }
  if (to_model)
    return Error{ErrorCode::Unsupported, "A scan is not a model: " + in + " cannot become " +
                                             to->name +
                                             " by conversion. Rebuild the part, then export it."};
  // A cloud stays a cloud: into a format of points, or into one that carries both.
  const auto points_only = [](const io::Format* f) {
    return f != nullptr && f->carries == io::Carries::Points;
  };
  const auto loaded = points_only(from) || points_only(to)
                          ? Result<io::LoadedMesh>(Error{ErrorCode::Unsupported, ""})
                          : read_scan(common, in);
  if (loaded) return io::write_mesh(out, loaded->mesh);
  const bool both = from != nullptr && from->read_points != nullptr && to != nullptr &&
                    to->write_points != nullptr;
  if (loaded.error().code != ErrorCode::Unsupported || (!both && !points_only(to)))
    return loaded.error().message.empty()
               ? Error{ErrorCode::Unsupported,
                       in + " is a cloud of points: mesh it first, or write " +
                           io::format_extensions({io::writes_points}) + "."}
               : loaded.error();
  const auto points = io::read_points(in);
  if (!points) return points.error();
  return io::write_points(out, points->cloud);
}

}  // namespace

void add_convert(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(
      app, common, "convert",
      "between formats, by extension: from " +
          io::format_extensions({io::reads_mesh, io::reads_points, io::reads_model}) + " to " +
          io::format_extensions({io::writes_mesh, io::writes_points, io::writes_model}));
  const auto in = std::make_shared<std::string>();
  const auto out = std::make_shared<std::string>();
  sub->add_option("IN", *in, "file to read")->required();
  sub->add_option("OUT", *out, "file to write")->required();
  sub->callback([&common, in, out] {
    if (const Status status = convert(common, *in, *out); !status)
      return fail(common, status.error());
    print(common, {{"in", *in}, {"out", *out}});
  });
}

}  // namespace lostline::cli
