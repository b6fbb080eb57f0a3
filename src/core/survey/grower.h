#pragma once

#include <array>
#include <map>
#include <vector>

#include "survey/survey.h"

namespace lostline::survey {

/// The region growing behind split_into_regions: labels vertices by the surface they belong to.
class Grower {
 public:
  Grower(const scan::Mesh& mesh, const scan::Topology& topology, const SurveyOptions& options,
         std::size_t smallest);

  Status run(const Task& task);
  /// Takes what was grown on a coarser mesh as it is, grows what that was too coarse to tell, and
  /// lets the surfaces compete for the vertices near their borders.
  /// @param cluster  coarse vertex of every vertex.
  Status refine(const Grower& coarse, const std::vector<std::uint32_t>& cluster, const Task& task);

  struct Candidate {
    fit::Surface surface;
    double sigma = 0;
    std::vector<std::uint32_t> vertices;
  };
  struct Axis {
    Vec3 point, direction;
    double weight = 0;  ///< vertices of the surfaces that turn about it
  };
  [[nodiscard]] const std::vector<int>& labels() const { return labels_; }
  [[nodiscard]] const std::vector<Candidate>& surfaces() const { return surfaces_; }
  [[nodiscard]] double noise() const { return noise_; }
  [[nodiscard]] double spacing() const { return spacing_; }
  [[nodiscard]] const std::vector<Vec3>& normals() const { return normals_; }

 private:
  static constexpr std::size_t kFitSample = 500;  // points that a fit while growing looks at
  std::vector<std::uint32_t> seeds() const;
  /// Grows from free seeds, with one size of patch after the other. False when stopped.
  bool grow_from(const std::vector<std::uint32_t>& order, const std::vector<std::size_t>& sizes,
                 const Task& task);
  /// @param turn  greatest angle between a normal and the seed's, rad.
  std::vector<std::uint32_t> patch_around(std::uint32_t seed, std::size_t size, double turn = 7);
  /// Slope of the surface in the half-plane about the held axis, rad.
  [[nodiscard]] double profile_angle(std::uint32_t vertex) const;
  /// Noise that the points of a patch have on their surface, mm.
  [[nodiscard]] double expected_noise(const std::vector<std::uint32_t>& patch) const;
  std::optional<Candidate> grow(fit::Kind kind, const std::vector<std::uint32_t>& patch);
  std::optional<Candidate> best_candidate(const std::vector<std::uint32_t>& patch);
  /// The first kind that holds, or a later one that explains clearly more.
  std::optional<Candidate> best_of(std::initializer_list<fit::Kind> kinds,
                                   const std::vector<std::uint32_t>& patch);
  std::optional<Candidate> best_about_axis(std::uint32_t seed, std::size_t size,
                                           std::vector<char>& tried);
  std::vector<std::uint32_t> flood(const std::vector<std::uint32_t>& start,
                                   const fit::Surface& surface, double reach);
  bool refit(Candidate& candidate, bool with_start) const;
  void accept(Candidate candidate);
  /// Surfaces of revolution share axes: about those found, what else turns about them is grown with
  /// the axis held, so that narrow bands and rounds, which alone say little of their axis, are
  /// told. False when stopped.
  bool grow_about_axes(const std::vector<std::uint32_t>& order, const Task& task);
  /// Axes of cylinders and cones that see half a turn, the weightiest first.
  void find_axes();
  [[nodiscard]] bool is_about(const Candidate& c, const Axis& axis) const;
  /// Surfaces that growing about an axis leaves as they are.
  std::vector<char> settled_about(std::size_t rank, std::vector<char>& claimed) const;
  /// Vertices of no settled surface whose normals meet an axis.
  [[nodiscard]] std::vector<char> questionable_about(std::size_t rank,
                                                     const std::vector<char>& settled) const;
  bool refit_about(Candidate& candidate) const;
  /// Whether a circle explains the profile clearly better than the line.
  [[nodiscard]] bool bends(const Candidate& straight) const;
  /// A narrow band whose edges are rounded looks round as a whole: its middle tells whether it is
  /// straight.
  void straighten(Candidate& round) const;
  struct Profile;
  [[nodiscard]] Profile profile_of(const std::vector<std::uint32_t>& vertices) const;
  /// The part of a band between two places along its profile as a plane, cylinder or cone about the
  /// held axis, with all vertices of the band that it reaches.
  [[nodiscard]] std::optional<Candidate> straight_between(const Profile& band, double from,
                                                          double to) const;
  /// Angle between the normal of what lies beyond a band's ends and the band's own, towards the
  /// high end, rad; empty where nothing is known.
  [[nodiscard]] std::array<std::optional<double>, 2> beyond_ends(const Profile& band,
                                                                 int label) const;
  /// Narrow bands about shared axes, told again now that their neighbours are known: a round blends
  /// into them, a chamfer or a shoulder with rounded edges does not.
  void tell_bands();
  void compete();
  /// The simplest kind that explains a surface's vertices as well as its own. True when some of
  /// them are free now.
  bool simplify();
  /// A plane that explains nearly all of a surface's vertices, and these as well: the surface has
  /// reached from a flat band round the corners at its ends.
  [[nodiscard]] std::optional<Candidate> plane_within(const Candidate& own) const;
  /// Pairs of surfaces that touch, the lower label first, and along how many edges of the mesh.
  [[nodiscard]] std::map<std::pair<int, int>, std::size_t> contacts() const;
  void merge_same();
  /// Pieces of cylinder along the bend of a tube become one torus.
  void join_bends();
  /// A bend between two straights of one radius whose axes meet: what lies there as one torus,
  /// tangent to both. True when one was found.
  bool bend_between(std::size_t first, std::size_t second);
  /// Two touching pieces as one bend, where a torus holds both.
  [[nodiscard]] std::optional<Candidate> bend_of_two(const Candidate& a, const Candidate& b) const;
  void fill_specks();
  /// The vertices of every surface from the labels.
  void gather_vertices();
  /// The labels from the vertices of every surface: what a surface gave up is free.
  void take_labels();

  const scan::Mesh& mesh_;
  const scan::Topology& topology_;
  const SurveyOptions& options_;
  std::size_t smallest_;
  std::vector<Vec3> normals_;
  std::vector<double> local_noise_;
  std::vector<int> labels_;  // index into surfaces_, -1 unassigned
  std::vector<Candidate> surfaces_;
  std::vector<std::uint32_t> mark_;  // visit stamps of the floods
  std::uint32_t stamp_ = 0;
  double noise_ = 0;
  double spacing_ = 1;        ///< mean edge, mm
  std::vector<Axis> axes_;    ///< that surfaces of revolution share
  std::optional<Axis> held_;  ///< axis that candidates are grown about
};

}  // namespace lostline::survey
