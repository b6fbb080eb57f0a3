#pragma once

#include "joining/join.h"
#include "joining/merge.h"
#include "project/document.h"

namespace lostline::project {

/// The open scans: the one worked on, then those beside it.
std::vector<std::shared_ptr<const Scan>> open_scans(const Document& document);

/// The document with several of its open scans merged to the one that is worked on. The scans
/// themselves stay beside it, each where its pose puts it. Survey and fits go, frame and everything
/// after stay: the first scan's coordinates do.
/// @param which  places among `open_scans`, two or more; @param joined  how these lie.
/// @param weights  of each of them where the surface is averaged: 1 as its noise says, 0 leaves it
/// out; empty: all 1.
/// @errors InvalidInput  fewer than two, or a place that is not open;  as joining::merge_scans.
Result<Document> with_joined_scans(const Document& document, const std::vector<std::size_t>& which,
                                   const joining::Joined& joined,
                                   const std::vector<double>& weights = {},
                                   const cloud::MeshingOptions& options = {},
                                   const Task& task = {});

}  // namespace lostline::project
