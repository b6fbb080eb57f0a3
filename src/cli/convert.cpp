#include "cli.h"
#include "io/formats.h"
#include "model/model.h"

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
  if (to_model)
    return Error{ErrorCode::Unsupported, "A scan is not a model: " + in + " cannot become " +
                                             to->name +
                                             " by conversion. Rebuild the part, then export it."};
  const auto loaded = read_scan(common, in);
  if (!loaded) return loaded.error();
  return io::write_mesh(out, loaded->mesh);
}

}  // namespace

void add_convert(CLI::App& app, Common& common) {
  CLI::App* sub = subcommand(app, common, "convert",
                             "between formats, by extension: from " +
                                 io::format_extensions({io::reads_mesh, io::reads_model}) + " to " +
                                 io::format_extensions({io::writes_mesh, io::writes_model}));
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
