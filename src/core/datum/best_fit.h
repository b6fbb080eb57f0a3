#pragma once

#include <string>

#include "base/task.h"
#include "datum/target.h"

namespace lostline::datum {

struct BestFitOptions {
  /// mm: points further from the model belong to none of it; 0: a thirtieth of the model's size.
  double search = 0;
  double noise = 0.005;  ///< mm, the least scatter the weights assume
  int max_iterations = 60;
};

/// A rigid motion that lays a scan upon a model.
struct BestFit {
  Transform motion = Transform::Identity();  ///< scan to model coordinates
  double rms = 0;                            ///< of the points used, weighted, mm
  double sigma = 0;                          ///< robust scatter of all matched points, mm
  double used_fraction = 0;  ///< of the weight: points on the model within the scatter
  int iterations = 0;
  bool settled = false;  ///< the last step was small; else it still moved when it had to stop
  /// A motion that the surfaces do not hold; it was left as it started.
  struct Loose {
    bool turns = false;  ///< else it shifts along `axis`
    Vec3 axis = Vec3::UnitZ();
    Vec3 through = Vec3::Zero();  ///< a point of the axis turned about, model coordinates
    [[nodiscard]] std::string words() const;  ///< "turn about the axis along 0, 0, 1 through …"
  };
  std::vector<Loose> loose;
};

/// Best fit by robust least squares of the distances along the model's normals, the scatter
/// estimated anew in each iteration, so that areas that differ from the model fall out by
/// themselves. Many points are thinned for the first iterations.
/// @errors Degenerate  fewer than 30 points lie within the search distance; Cancelled.
/// Deterministic. Source: Y. Chen and G. Medioni, Object modelling by registration of multiple
/// range images, Image Vision Comput. 10 (1992), for the point-to-plane step; J. W. Tukey's
/// biweight, A. E. Beaton and J. W. Tukey, Technometrics 16 (1974), for the weights.
Result<BestFit> best_fit(const Target& target, const Cloud& cloud, const Transform& start,
                         const BestFitOptions& options = {}, const Task& task = {});

/// Signed distance of moved points from the model, positive outside the material; NaN beyond
/// `search`.
std::vector<float> distances(const Target& target, const std::vector<Vec3>& points,
                             const std::vector<Vec3>& normals, const Transform& motion,
                             double search);

/// A connected area of a scan that differs from the model.
struct Difference {
  double area = 0;             ///< mm2
  Vec3 centre = Vec3::Zero();  ///< model coordinates
  double mean = 0;             ///< mm, positive: the scan stands proud; NaN: nothing near it
  double greatest = 0;         ///< mm, with its sign
  std::vector<std::uint32_t> triangles;
};
/// Areas of more than `smallest` mm2 that lie further than `tolerance` from the model, largest
/// first.
std::vector<Difference> differences(const Target& target, const scan::Mesh& mesh,
                                    const scan::Topology& topology, const Transform& motion,
                                    double tolerance, double search, double smallest);

}  // namespace lostline::datum
