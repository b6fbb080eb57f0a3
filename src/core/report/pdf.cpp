#include <hpdf.h>

#include <algorithm>
#include <cmath>

#include "report/report.h"

namespace lostline::report {
namespace {

constexpr float kWidth = 595.3F;  // A4 in points
constexpr float kHeight = 841.9F;
constexpr float kMargin = 48;

/// UTF-8 to the standard Western encoding of the built-in fonts; what it lacks is written in words
/// of it.
std::string western(const std::string& text) {
  std::string result;
  for (std::size_t i = 0; i < text.size();) {
    const auto c = static_cast<unsigned char>(text[i]);
    std::uint32_t code = c;
    std::size_t size = 1;
    if (c >= 0xF0) {
      code = c & 0x07U;
      size = 4;
    } else if (c >= 0xE0) {
      code = c & 0x0FU;
      size = 3;
    } else if (c >= 0xC0) {
      code = c & 0x1FU;
      size = 2;
    }
    for (std::size_t k = 1; k < size && i + k < text.size(); ++k)
      code = code << 6U | (static_cast<unsigned char>(text[i + k]) & 0x3FU);
    i += size;
    if (code < 0x80 || (code >= 0xA0 && code <= 0xFF)) {
      result += static_cast<char>(code);
    } else {
      switch (code) {
        case 0x2300:  // diameter
          result += static_cast<char>(0xD8);
          break;
        case 0x2212:  // minus
          result += '-';
          break;
        case 0x2009:  // thin space
        case 0x202F:
          result += ' ';
          break;
        case 0x2013:
          result += static_cast<char>(0x96);
          break;
        case 0x2026:
          result += static_cast<char>(0x85);
          break;
        case 0x03C3:
          result += "sigma";
          break;
        case 0x0394:
          result += "diff.";
          break;
        case 0x2192:
          result += "->";
          break;
        default:
          result += '?';
      }
    }
  }
  return result;
}

class Writer {
 public:
  Writer() : pdf_(HPDF_New(nullptr, nullptr)) {
    HPDF_SetCompressionMode(pdf_, HPDF_COMP_ALL);
    regular_ = HPDF_GetFont(pdf_, "Helvetica", "WinAnsiEncoding");
    bold_ = HPDF_GetFont(pdf_, "Helvetica-Bold", "WinAnsiEncoding");
  }
  ~Writer() { HPDF_Free(pdf_); }
  Writer(const Writer&) = delete;
  Writer& operator=(const Writer&) = delete;

  void title(const Report& report) {
    HPDF_SetInfoAttr(pdf_, HPDF_INFO_TITLE, western(report.title).c_str());
    HPDF_SetInfoAttr(pdf_, HPDF_INFO_CREATOR, "Lost Line");
    footer_ = western(report.title);
    start_page();
    text(bold_, 20, kInk, kMargin, report.title);
    y_ -= 26;
    for (const std::string& line : wrap(regular_, 9, western(report.subtitle), kInner)) {
      show(regular_, 9, kGraphite, kMargin, line);
      y_ -= 12;
    }
    rule(kInk, 1.2F);
    y_ -= 14;
  }
  void operator()(const Heading& h) {
    room(70);
    y_ -= 12;
    text(bold_, 13, kInk, kMargin, h.text);
    y_ -= 20;
  }
  void operator()(const Paragraph& p) {
    for (const std::string& line : wrap(regular_, 9.5F, western(p.text), kInner)) {
      room(13);
      show(regular_, 9.5F, kInk, kMargin, line);
      y_ -= 13;
    }
    y_ -= 5;
  }
  void operator()(const Table& t) {
    const auto header = [&] {
      cells(t, t.head, bold_);
      rule(kInk, 0.8F);
      y_ -= 3;
    };
    room(40);
    header();
    for (const auto& row : t.rows) {
      if (y_ - row_height(t, row, regular_) < kMargin + 14) {
        start_page();
        header();
      }
      cells(t, row, regular_);
      rule(kRule, 0.4F);
      y_ -= 2;
    }
    y_ -= 10;
  }
  void operator()(const Shown& s) {
    const float width = std::min(kInner, static_cast<float>(s.picture.width) * 0.5F);
    const float height =
        width * static_cast<float>(s.picture.height) / static_cast<float>(s.picture.width);
    room(height + 24);
    HPDF_Image image =
        HPDF_LoadPngImageFromMem(pdf_, reinterpret_cast<const HPDF_BYTE*>(s.picture.png.data()),
                                 static_cast<HPDF_UINT>(s.picture.png.size()));
    if (image != nullptr) HPDF_Page_DrawImage(page_, image, kMargin, y_ - height, width, height);
    y_ -= height + 11;
    text(regular_, 8.5F, kGraphite, kMargin, s.caption);
    y_ -= 16;
  }
  void operator()(const Drawn& d) {
    const auto height = static_cast<float>(d.drawing.height);
    room(height + 24);
    const float top = y_;
    const auto place = [&](const Vec2& p) {
      return std::pair(kMargin + static_cast<float>(p.x()), top - static_cast<float>(p.y()));
    };
    for (const Drawing::Line& line : d.drawing.lines) {
      if (line.points.empty()) continue;
      stroke(line.colour, static_cast<float>(line.width));
      HPDF_Page_SetRGBFill(page_, line.colour[0] / 255.0F, line.colour[1] / 255.0F,
                           line.colour[2] / 255.0F);
      const HPDF_UINT16 dash[] = {3, 2};
      HPDF_Page_SetDash(page_, line.dashed ? dash : nullptr, line.dashed ? 2 : 0, 0);
      for (std::size_t i = 0; i < line.points.size(); ++i) {
        const auto [x, y] = place(line.points[i]);
        i == 0 ? HPDF_Page_MoveTo(page_, x, y) : HPDF_Page_LineTo(page_, x, y);
      }
      if (line.closed) HPDF_Page_ClosePath(page_);
      if (line.filled)
        HPDF_Page_Fill(page_);
      else
        HPDF_Page_Stroke(page_);
    }
    HPDF_Page_SetDash(page_, nullptr, 0, 0);
    for (const Drawing::Text& t : d.drawing.texts) {
      const std::string line = western(t.text);
      const auto size = static_cast<float>(t.size);
      const float width = measure(regular_, size, line);
      const auto [x, y] = place(t.at);
      y_ = y + size * 0.75F;
      show(regular_, size, t.colour,
           t.align < 0   ? x - width
           : t.align > 0 ? x
                         : x - width / 2,
           line);
    }
    y_ = top - height - 11;
    text(regular_, 8.5F, kGraphite, kMargin, d.caption);
    y_ -= 16;
  }
  Result<Pdf> take() {
    if (HPDF_SaveToStream(pdf_) != HPDF_OK)
      return Error{ErrorCode::Failed, "The PDF could not be made."};
    Pdf result;
    result.pages = pages_;
    std::string piece(65536, '\0');
    HPDF_ResetStream(pdf_);
    for (;;) {
      auto size = static_cast<HPDF_UINT32>(piece.size());
      HPDF_ReadFromStream(pdf_, reinterpret_cast<HPDF_BYTE*>(piece.data()), &size);
      if (size == 0) break;
      result.bytes.append(piece, 0, size);
    }
    return result;
  }

 private:
  static constexpr float kInner = kWidth - 2 * kMargin;

  void start_page() {
    page_ = HPDF_AddPage(pdf_);
    HPDF_Page_SetSize(page_, HPDF_PAGE_SIZE_A4, HPDF_PAGE_PORTRAIT);
    ++pages_;
    y_ = kMargin - 8;
    show(regular_, 8, kGraphite, kMargin, footer_);
    const std::string number = std::to_string(pages_);
    show(regular_, 8, kGraphite, kWidth - kMargin - measure(regular_, 8, number), number);
    y_ = kHeight - kMargin;
  }
  void room(float height) {
    if (y_ - height < kMargin + 10) start_page();
  }
  float measure(HPDF_Font font, float size, const std::string& line) {
    HPDF_Page_SetFontAndSize(page_, font, size);
    return HPDF_Page_TextWidth(page_, line.c_str());
  }
  void show(HPDF_Font font, float size, const Colour& colour, float x, const std::string& line) {
    HPDF_Page_BeginText(page_);
    HPDF_Page_SetFontAndSize(page_, font, size);
    HPDF_Page_SetRGBFill(page_, colour[0] / 255.0F, colour[1] / 255.0F, colour[2] / 255.0F);
    HPDF_Page_TextOut(page_, x, y_ - size * 0.75F, line.c_str());
    HPDF_Page_EndText(page_);
  }
  void text(HPDF_Font font, float size, const Colour& colour, float x, const std::string& utf8) {
    show(font, size, colour, x, western(utf8));
  }
  void stroke(const Colour& colour, float width) {
    HPDF_Page_SetRGBStroke(page_, colour[0] / 255.0F, colour[1] / 255.0F, colour[2] / 255.0F);
    HPDF_Page_SetLineWidth(page_, std::max(width, 0.1F));
  }
  void rule(const Colour& colour, float width) {
    stroke(colour, width);
    HPDF_Page_MoveTo(page_, kMargin, y_);
    HPDF_Page_LineTo(page_, kWidth - kMargin, y_);
    HPDF_Page_Stroke(page_);
  }
  std::vector<std::string> wrap(HPDF_Font font, float size, const std::string& line, float width) {
    std::vector<std::string> lines(1);
    std::string word;
    const auto flush = [&] {
      if (word.empty()) return;
      const std::string joined = lines.back().empty() ? word : lines.back() + " " + word;
      if (measure(font, size, joined) <= width || lines.back().empty())
        lines.back() = joined;
      else
        lines.push_back(word);
      // A word wider than its column is cut.
      while (measure(font, size, lines.back()) > width && lines.back().size() > 4) {
        std::string rest;
        while (measure(font, size, lines.back()) > width && lines.back().size() > 4) {
          rest.insert(rest.begin(), lines.back().back());
          lines.back().pop_back();
        }
        lines.push_back(rest);
      }
      word.clear();
    };
    for (const char c : line) {
      if (c == '\n') {
        flush();
        lines.emplace_back();
      } else if (c == ' ') {
        flush();
      } else {
        word += c;
      }
    }
    flush();
    return lines;
  }
  static constexpr float kCell = 8.2F;
  std::vector<std::vector<std::string>> laid_out(const Table& t,
                                                 const std::vector<std::string>& row,
                                                 HPDF_Font font) {
    std::vector<std::vector<std::string>> columns;
    for (std::size_t i = 0; i < row.size(); ++i)
      columns.push_back(
          wrap(font, kCell, western(row[i]), static_cast<float>(t.share[i]) * kInner - 6));
    return columns;
  }
  float row_height(const Table& t, const std::vector<std::string>& row, HPDF_Font font) {
    std::size_t most = 1;
    for (const auto& lines : laid_out(t, row, font)) most = std::max(most, lines.size());
    return 10.5F * static_cast<float>(most) + 4;
  }
  void cells(const Table& t, const std::vector<std::string>& row, HPDF_Font font) {
    const auto columns = laid_out(t, row, font);
    const float top = y_;
    float x = kMargin;
    float lowest = top;
    for (std::size_t i = 0; i < columns.size(); ++i) {
      const float width = static_cast<float>(t.share[i]) * kInner;
      y_ = top - 2;
      for (const std::string& line : columns[i]) {
        const bool right = i < t.right.size() && t.right[i];
        show(font, kCell, kInk, right ? x + width - 6 - measure(font, kCell, line) : x, line);
        y_ -= 10.5F;
      }
      lowest = std::min(lowest, y_);
      x += width;
    }
    y_ = lowest - 2;
  }

  HPDF_Doc pdf_;
  HPDF_Font regular_;
  HPDF_Font bold_;
  HPDF_Page page_ = nullptr;
  float y_ = 0;
  int pages_ = 0;
  std::string footer_;
};

}  // namespace

Result<Pdf> to_pdf(const Report& report) {
  Writer writer;
  writer.title(report);
  for (const Block& block : report.blocks) std::visit(writer, block);
  return writer.take();
}

}  // namespace lostline::report
