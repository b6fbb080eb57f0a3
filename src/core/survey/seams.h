#pragma once

#include "survey/survey.h"

namespace lostline::survey {

/// Gives the seams between regions, where a scanner rounds the edge and no surface holds, to the
/// region whose surface lies nearer: borders come to lie where the surfaces meet. Only triangles
/// that two regions lie within two rings of are given away, so that what is free-form stays.
/// Fits stay as they are; areas, centres and counts follow. Regions are found by place in
/// `survey.regions`: label i + 1 in `triangle_region`.
void close_seams(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
                 double spacing);

/// Areas, centres and counts of all regions from the labels.
void measure_regions(Survey& survey, const scan::Mesh& mesh);

}  // namespace lostline::survey
