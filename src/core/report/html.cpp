#include <fmt/format.h>

#include "io/files.h"
#include "io/formats.h"
#include "report/report.h"

namespace lostline::report {
namespace {

std::string base64(const std::string& bytes) {
  static constexpr const char* kDigits =
      "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  std::string text;
  text.reserve(bytes.size() * 4 / 3 + 4);
  for (std::size_t i = 0; i < bytes.size(); i += 3) {
    std::uint32_t group = 0;
    for (std::size_t k = 0; k < 3; ++k)
      group = group << 8U | (i + k < bytes.size() ? static_cast<unsigned char>(bytes[i + k]) : 0U);
    for (std::size_t k = 0; k < 4; ++k)
      text += i + k <= bytes.size() || k < 2 ? kDigits[group >> (18 - 6 * k) & 63U] : '=';
  }
  return text;
}

struct ToHtml {
  std::string& html;
  void operator()(const Heading& h) const { html += fmt::format("<h2>{}</h2>\n", escaped(h.text)); }
  void operator()(const Paragraph& p) const { html += fmt::format("<p>{}</p>\n", escaped(p.text)); }
  void operator()(const Table& t) const {
    html += "<table><thead><tr>";
    const auto cell = [&](const char* tag, std::size_t i, const std::string& text) {
      html += fmt::format("<{0}{1}>{2}</{0}>", tag,
                          i < t.right.size() && t.right[i] ? " class=\"n\"" : "", escaped(text));
    };
    for (std::size_t i = 0; i < t.head.size(); ++i) cell("th", i, t.head[i]);
    html += "</tr></thead>\n<tbody>";
    for (const auto& row : t.rows) {
      html += "<tr>";
      for (std::size_t i = 0; i < row.size(); ++i) cell("td", i, row[i]);
      html += "</tr>\n";
    }
    html += "</tbody></table>\n";
  }
  void operator()(const Shown& s) const {
    html += fmt::format(
        "<figure><img width=\"{}\" alt=\"{}\" src=\"data:image/png;base64,{}\"/><figcaption>{}"
        "</figcaption></figure>\n",
        s.picture.width * 2 / 3, escaped(s.caption), base64(s.picture.png), escaped(s.caption));
  }
  void operator()(const Drawn& d) const {
    html += fmt::format("<figure>{}<figcaption>{}</figcaption></figure>\n", to_svg(d.drawing),
                        escaped(d.caption));
  }
};

}  // namespace

std::string to_html(const Report& report) {
  std::string html = fmt::format(R"(<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"/><title>{0}</title>
<style>
body {{ font: 14px/1.45 "B612", "DejaVu Sans", sans-serif; color: #17324D; background: #F6F3EC; max-width: 62em; margin: 2em auto; padding: 0 1.5em; }}
h1 {{ border-bottom: 2px solid #17324D; padding-bottom: .3em; }} h2 {{ margin-top: 2em; }}
p.sub, figcaption {{ color: #6E6A63; }} figure {{ margin: 1em 0; }}
table {{ border-collapse: collapse; width: 100%; font-variant-numeric: tabular-nums; }}
th {{ text-align: left; border-bottom: 1px solid #17324D; }} td {{ border-bottom: 1px solid #D8D3C6; }}
th, td {{ padding: .25em .6em .25em 0; vertical-align: top; }} .n {{ text-align: right; }}
@media print {{ body {{ background: white; }} h2 {{ break-after: avoid; }} tr, figure {{ break-inside: avoid; }} }}
</style></head><body>
<h1>{0}</h1><p class="sub">{1}</p>
)",
                                 escaped(report.title), escaped(report.subtitle));
  for (const Block& block : report.blocks) std::visit(ToHtml{html}, block);
  return html + "</body></html>\n";
}

Result<int> write_report(const std::filesystem::path& path, const Report& report) {
  const std::string extension = io::extension_of(path);
  if (extension == ".html") {
    const Status written = io::write_file_atomically(path, to_html(report));
    return written ? Result<int>(1) : Result<int>(written.error());
  }
  if (extension == ".pdf") {
    const Result<Pdf> pdf = to_pdf(report);
    if (!pdf) return pdf.error();
    const Status written = io::write_file_atomically(path, pdf->bytes);
    return written ? Result<int>(pdf->pages) : Result<int>(written.error());
  }
  return Error{ErrorCode::Unsupported, path.string() + ": reports are written as .pdf or .html."};
}

}  // namespace lostline::report
