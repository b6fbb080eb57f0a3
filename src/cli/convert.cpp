#include "cli.h"
#include "io/step.h"
#include "model/solid.h"

namespace lostline::cli {
namespace {

bool is_step(const std::filesystem::path& path) {
  return path.extension() == ".step" || path.extension() == ".stp";
}

Status convert(Common& common, const std::string& in, const std::string& out) {
  if (is_step(in)) {
    const auto solid = io::read_step(in);
    if (!solid) return solid.error();
    if (is_step(out)) return io::write_step(out, *solid, std::filesystem::path(in).stem().string());
    const auto tessellation = model::tessellate(*solid);
    if (!tessellation) return tessellation.error();
    return io::write_mesh(out, tessellation->mesh);
  }
  if (is_step(out))
    return Error{ErrorCode::Unsupported,
                 "A scan is not a model: " + in +
                     " cannot become STEP by conversion. Rebuild the part, then export it."};
  const auto loaded = read_scan(common, in);
  if (!loaded) return loaded.error();
  return io::write_mesh(out, loaded->mesh);
}

}  // namespace

void add_convert(CLI::App& app, Common& common) {
  CLI::App* sub =
      subcommand(app, common, "convert", "between formats, by extension: .stl .ply .step");
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
