#pragma once

#include <filesystem>
#include <variant>

#include "project/document.h"
#include "report/picture.h"

namespace lostline::report {

struct Heading {
  std::string text;
};
struct Paragraph {
  std::string text;
};
struct Table {
  std::vector<std::string> head;
  std::vector<bool> right;    ///< columns of numbers, aligned to the right
  std::vector<double> share;  ///< of the width, summing to 1
  std::vector<std::vector<std::string>> rows;
};
struct Shown {
  Picture picture;
  std::string caption;
};
struct Drawn {
  Drawing drawing;
  std::string caption;
};
using Block = std::variant<Heading, Paragraph, Table, Shown, Drawn>;

/// Everything a reader needs who has neither the scan nor the program.
struct Report {
  std::string title;
  std::string subtitle;
  std::vector<Block> blocks;
};

struct ReportOptions {
  std::string date;    ///< printed as given; empty leaves it out
  std::string author;  ///< likewise
  std::size_t worst_places = 8;
};

/// Recomputes the Route, compares it with the scan, and gathers part, pictures, datums, Ledger,
/// relations and their cost, Route, sketches with drift, deviation by face and region, worst places
/// and what the scan does not show.
/// @errors InvalidInput  nothing to report on: neither scan nor model;  Cancelled.
Result<Report> make_report(const project::Document& document, const ReportOptions& options = {},
                           const Task& task = {});

/// One HTML file with pictures inside.
std::string to_html(const Report& report);
/// A4 pages. @return the file's bytes and its number of pages. @errors Failed.
struct Pdf {
  std::string bytes;
  int pages = 0;
};
Result<Pdf> to_pdf(const Report& report);

/// By extension, .pdf or .html. @return number of pages; 1 for HTML. @errors Io;  Unsupported.
Result<int> write_report(const std::filesystem::path& path, const Report& report);

}  // namespace lostline::report
