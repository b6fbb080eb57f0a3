#pragma once

#include "cli.h"
#include "named_fits.h"

// What the two ways of aligning share.

namespace lostline::cli {

struct AlignArguments {
  std::string scan, frame, out, model, pairs;
  double sensitivity = 0.5;
  double search = 0;
  double tolerance = 0;
  std::size_t candidate = 1;
  bool propose = false;
};

/// Brings a surveyed scan upon a STEP model and prints the result.
void align_to_model(Common& common, const AlignArguments& arguments, NamedFits& fits,
                    const Stopwatch& watch);

/// The document with the frame that a file describes.
/// @errors Io, InvalidInput  the file;  as NamedFits::find and project::set_frame.
Result<project::Document> with_frame_of(const std::string& path, NamedFits& fits);

/// Writes the moved scan where --out says.
Status write_moved(const AlignArguments& arguments, const scan::Mesh& mesh,
                   const Transform& motion);
Json to_json(const Transform& motion);  ///< four rows of four

}  // namespace lostline::cli
