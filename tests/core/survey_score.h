// How well a survey found the faces of a part of which every surface is known.
#pragma once

#include <cstdio>
#include <map>
#include <set>

#include "base/parallel.h"
#include "deviation/deviation.h"
#include "model/faces.h"
#include "part_builder.h"
#include "simulate/scanner.h"
#include "survey/survey.h"

namespace lostline::testing {

/// How often a stated interval held the truth.
struct Held {
  int held = 0;
  int of = 0;
  void count(bool inside) {
    held += inside ? 1 : 0;
    ++of;
  }
};

/// What the survey made of one part.
struct Score {
  int faces = 0;   ///< analytic, above 0.2 % of the area, half of it seen by the scan at least
  int found = 0;   ///< with the right type, place, size and direction
  int narrow = 0;  ///< of the faces: less than 2.5 spacings wide
  int narrow_found = 0;
  int regions = 0;    ///< with a fit, above 0.2 % of the area
  int wrong = 0;      ///< of another type than the face they lie on
  double border = 0;  ///< share of the borders of regions within one spacing of a border of faces
  /// By kind and size ("torus place"): how often U held the face that a region lies on.
  std::map<std::string, Held> u;

  void add(const Score& other) {
    faces += other.faces;
    found += other.found;
    narrow += other.narrow;
    narrow_found += other.narrow_found;
    regions += other.regions;
    wrong += other.wrong;
    for (const auto& [what, held] : other.u) {
      u[what].held += held.held;
      u[what].of += held.of;
    }
  }
};

/// The faces of a part as the scan shows them.
class KnownFaces {
 public:
  KnownFaces(const model::Model& solid, const Transform& to_model, const scan::Mesh& scan)
      : solid_(solid),
        to_model_(to_model),
        area_(solid.face_count()),
        seen_(area_),
        nodes_(area_.size()) {
    const auto tessellation = model::tessellate(solid, {0.01, 0.1});
    EXPECT_TRUE(tessellation);
    for (std::size_t t = 0; t < tessellation->mesh.triangles.size(); ++t) {
      const double a = 0.5 * tessellation->mesh.area_vector(t).norm();
      area_[tessellation->triangle_face[t]] += a;
      whole_ += a;
      for (const std::uint32_t v : tessellation->mesh.triangles[t])
        nodes_[tessellation->triangle_face[t]].push_back(tessellation->mesh.vertices[v]);
    }
    measure_widths(*tessellation);
    for (std::size_t f = 0; f < area_.size(); ++f)
      truth_.push_back(model::surface_of_face(solid, f));
    const auto comparator = deviation::Comparator::build(solid);
    EXPECT_TRUE(comparator);
    face_at_.resize(scan.triangles.size());
    parallel_for(face_at_.size(), 512, [&](std::size_t begin, std::size_t end) {
      constexpr double kStray = 1;  // mm: further off it is an island of the scanner's, no face
      for (std::size_t t = begin; t < end; ++t)
        face_at_[t] = comparator->at(to_model * scan.centroid(t), kStray).face;
    });
    // What lies deep in a narrow hole cannot be found.
    for (std::size_t t = 0; t < face_at_.size(); ++t)
      if (face_at_[t] < seen_.size()) seen_[face_at_[t]] += 0.5 * scan.area_vector(t).norm();
  }

  /// Faces that count, and how many of them are among the fits (scan coordinates): right type,
  /// direction within 0.15 degrees, radius within 0.03 mm, and on the face. Where a fit says that
  /// its direction or radius is told less well, as that of a short band or of a rough round, within
  /// its U, but one degree and 0.15 mm at most. Whether U holds the truth is counted apart.
  /// @param slack  mm, departure of the real surface from the model beyond noise (warp).
  Score find(std::vector<fit::SurfaceFit> fits, double spacing, double slack, bool tell) const {
    for (fit::SurfaceFit& s : fits) s.surface = fit::transformed(s.surface, to_model_);
    Score score;
    for (std::size_t f = 0; f < area_.size(); ++f) {
      if (area_[f] < 0.002 * whole_ || seen_[f] < 0.5 * area_[f] || !truth_[f]) continue;
      ++score.faces;
      std::string nearest;
      double least = 999;
      const bool found = std::any_of(fits.begin(), fits.end(), [&](const fit::SurfaceFit& s) {
        const Departure d = departure(s, f);
        if (tell && d.off < least) {
          least = d.off;
          nearest = d.words();
        }
        return d.off < d.allowed + slack && d.turn < d.turn_allowed && d.size < d.size_allowed;
      });
      score.found += found ? 1 : 0;
      const bool narrow = width_[f] < 2.5 * spacing;
      score.narrow += narrow ? 1 : 0;
      score.narrow_found += narrow && found ? 1 : 0;
      if (found || !tell) continue;
      Box3 box;
      for (const Vec3& p : nodes_[f]) box.extend(p);
      std::printf(
          "    not found: %s (%s, %.2f %%, %.1f wide) at %.0f %.0f %.0f, %.1f x %.1f x %.1f; "
          "nearest of its "
          "kind%s\n",
          solid_.face_name(f).c_str(), fit::kind_name(truth_[f]->kind), 100 * area_[f] / whole_,
          width_[f], box.center().x(), box.center().y(), box.center().z(), box.sizes().x(),
          box.sizes().y(), box.sizes().z(), nearest.c_str());
    }
    return score;
  }

  /// Regions that count, and those of a wrong type.
  void count_wrong(const survey::Survey& survey, double slack, bool tell, Score& score) const {
    for (const auto& r : survey.regions) {
      if (!r.fit || r.area < 0.002 * whole_) continue;
      ++score.regions;
      std::map<std::uint32_t, int> votes;
      for (std::size_t t = 0; t < face_at_.size(); t += 3)
        if (survey.triangle_region[t] == r.id) ++votes[face_at_[t]];
      const auto most = std::max_element(votes.begin(), votes.end(),
                                         [](auto& a, auto& b) { return a.second < b.second; });
      if (most == votes.end() || most->first >= truth_.size()) continue;
      const auto& on = truth_[most->first];
      if (on && r.fit->surface.kind == on->kind) {
        // A direction that is lent is not told by the fit's own evidence.
        if (r.direction_of == 0) count_held(*r.fit, *on, score);
        continue;
      }
      // A face that the modeller keeps as a general surface may be one all the same.
      const fit::Surface s = fit::transformed(r.fit->surface, to_model_);
      double off = 0;
      for (const Vec3& p : nodes_[most->first]) off = std::max(off, std::abs(s.distance(p)));
      if (!on && off <= 0.05 + slack) continue;
      ++score.wrong;
      if (tell)
        std::printf(
            "    wrong: region %u of %.2f %% is a %s (radius %.2f +- %.2f, half angle %.2f deg, "
            "rms "
            "%.3f) on %s\n",
            r.id, 100 * r.area / whole_, fit::kind_name(s.kind), s.radius, r.fit->u_radius,
            s.half_angle / kDegree, r.fit->rms, solid_.face_name(most->first).c_str());
    }
  }

  /// Share of the vertices on borders of regions that lie within one spacing of a vertex on a
  /// border of faces. Where the scan ends there is none.
  [[nodiscard]] double borders(const survey::Survey& survey, const scan::Mesh& scan,
                               const scan::Topology& topology, double spacing) const {
    const auto on_border = [&](const std::vector<std::uint32_t>& label) {
      std::vector<std::uint32_t> found;
      for (std::uint32_t v = 0; v < scan.vertices.size(); ++v) {
        const auto around = topology.vertex_triangles[v];
        if (std::any_of(around.begin(), around.end(),
                        [&](std::uint32_t t) { return label[t] != label[*around.begin()]; }))
          found.push_back(v);
      }
      return found;
    };
    const auto cell = [&](const Vec3& p) {
      return std::array<int, 3>{static_cast<int>(std::floor(p.x() / spacing)),
                                static_cast<int>(std::floor(p.y() / spacing)),
                                static_cast<int>(std::floor(p.z() / spacing))};
    };
    std::map<std::array<int, 3>, std::vector<std::uint32_t>> cells;
    for (const std::uint32_t v : on_border(face_at_)) cells[cell(scan.vertices[v])].push_back(v);
    double near = 0;
    double all = 0;
    for (const std::uint32_t v : on_border(survey.triangle_region)) {
      const auto at = cell(scan.vertices[v]);
      bool close = false;
      for (int k = 0; k < 27 && !close; ++k) {
        const auto found =
            cells.find({at[0] + k % 3 - 1, at[1] + k / 3 % 3 - 1, at[2] + k / 9 - 1});
        if (found == cells.end()) continue;
        close = std::any_of(found->second.begin(), found->second.end(), [&](std::uint32_t other) {
          return (scan.vertices[other] - scan.vertices[v]).norm() <= spacing;
        });
      }
      near += close ? 1 : 0;
      all += 1;
    }
    return all > 0 ? near / all : 1;
  }

 private:
  /// How wide every face is: as a rectangle of its area and circumference.
  void measure_widths(const model::Tessellation& tessellation) {
    std::map<std::array<std::uint32_t, 3>, int> edges;  // face and vertices
    for (std::size_t t = 0; t < tessellation.mesh.triangles.size(); ++t) {
      const scan::Triangle& c = tessellation.mesh.triangles[t];
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t a = c[k];
        const std::uint32_t b = c[(k + 1) % 3];
        ++edges[{static_cast<std::uint32_t>(tessellation.triangle_face[t]), std::min(a, b),
                 std::max(a, b)}];
      }
    }
    std::vector<double> around(area_.size());
    for (const auto& [edge, count] : edges)
      if (count == 1)
        around[edge[0]] +=
            (tessellation.mesh.vertices[edge[1]] - tessellation.mesh.vertices[edge[2]]).norm();
    for (std::size_t f = 0; f < area_.size(); ++f)
      width_.push_back(around[f] / 4 -
                       std::sqrt(std::max(0.0, around[f] * around[f] / 16 - area_[f])));
  }
  /// Whether what a fit says of its uncertainty holds the true surface.
  void count_held(const fit::SurfaceFit& f, const fit::Surface& truth, Score& score) const {
    const fit::Surface s = fit::transformed(f.surface, to_model_);
    const std::string kind = fit::kind_name(s.kind);
    if (fit::has_direction(s.kind))
      score.u[kind + " direction"].count(fit::angle_between(s.axis, truth.axis) <= f.u_angle);
    const Vec3 d = s.point - truth.point;
    const Vec3 along = d.dot(truth.axis) * truth.axis;
    const bool ray = s.kind == fit::Kind::Cylinder || s.kind == fit::Kind::Cone;
    const double off = s.kind == fit::Kind::Plane ? std::abs(truth.distance(s.point))
                                                  : (ray ? Vec3(d - along) : d).norm();
    score.u[kind + " place"].count(off <= f.u_offset);
    if (s.kind == fit::Kind::Plane) return;
    const double turn = s.axis.dot(truth.axis) < 0 ? -1 : 1;
    const double wanted =
        truth.radius +
        (s.kind == fit::Kind::Cone ? d.dot(truth.axis) * std::tan(truth.half_angle) : 0);
    score.u[kind + " radius"].count(std::abs(s.radius - wanted) <= f.u_radius);
    if (s.kind == fit::Kind::Cone)
      score.u[kind + " angle"].count(std::abs(turn * s.half_angle - truth.half_angle) <=
                                     f.u_half_angle);
    if (s.kind == fit::Kind::Torus)
      score.u[kind + " tube"].count(std::abs(s.minor_radius - truth.minor_radius) <=
                                    f.u_minor_radius);
  }
  /// How far a fit is from a face, and how far it may be.
  struct Departure {
    double off = 1e9;  ///< mm, of the face from the fit
    double turn = 0;   ///< rad
    double size = 0;   ///< mm, of the radius that is judged
    double allowed = 0, turn_allowed = 1e9, size_allowed = 1e9;

    [[nodiscard]] std::string words() const {
      std::array<char, 160> text{};
      std::snprintf(text.data(), text.size(),
                    " %.3f mm off (%.3f), turned by %.2f deg (%.2f), radius off by %.3f (%.3f)",
                    off, allowed, turn / kDegree, turn_allowed / kDegree, size, size_allowed);
      return text.data();
    }
  };

  [[nodiscard]] Departure departure(const fit::SurfaceFit& fitted, std::size_t f) const {
    const fit::Surface& s = fitted.surface;
    const fit::Surface& truth = *truth_[f];
    Departure d;
    if (s.kind != truth.kind) return d;
    d.off = 0;
    double reach = 0;
    for (const Vec3& p : nodes_[f]) {
      d.off = std::max(d.off, std::abs(s.distance(p)));
      reach = std::max(reach, (p - nodes_[f].front()).norm());
    }
    if (fit::has_direction(s.kind)) {
      d.turn = fit::angle_between(s.axis, truth.axis);
      d.turn_allowed = std::clamp(fitted.u_angle, 0.15 * kDegree, kDegree);
    }
    const bool round = s.kind == fit::Kind::Cylinder || s.kind == fit::Kind::Sphere;
    if (round || s.kind == fit::Kind::Torus) {
      d.size = std::abs(round ? s.radius - truth.radius : s.minor_radius - truth.minor_radius);
      d.size_allowed = std::clamp(round ? fitted.u_radius : fitted.u_minor_radius, 0.03, 0.15);
    }
    // A narrow cone that is tilted within its U stands off at its edges by so much, over half its
    // width; 0.044 mm at most.
    double tilt = 0;
    if (s.kind == fit::Kind::Cone) {
      double low = 1e300;
      double high = -1e300;
      for (const Vec3& p : nodes_[f]) {
        low = std::min(low, p.dot(truth.axis));
        high = std::max(high, p.dot(truth.axis));
      }
      const double half_width = 0.5 * (high - low) / std::cos(truth.half_angle);
      tilt = std::min(fitted.u_half_angle * half_width, 0.044);
    }
    d.allowed = (s.kind == fit::Kind::Plane ? 0.03 : 0.06) + reach * 0.0005 + tilt;
    return d;
  }

  const model::Model& solid_;
  Transform to_model_;
  double whole_ = 0;
  std::vector<double> area_, seen_, width_;
  std::vector<std::vector<Vec3>> nodes_;
  std::vector<std::optional<fit::Surface>> truth_;
  std::vector<std::uint32_t> face_at_;  ///< of every scan triangle
};

inline std::vector<fit::SurfaceFit> fits_of(const survey::Survey& survey) {
  std::vector<fit::SurfaceFit> fits;
  for (const auto& r : survey.regions) {
    if (r.fit) fits.push_back(*r.fit);
  }
  return fits;
}

inline Score judge(const model::Model& solid, const Transform& to_model,
                   const survey::Survey& survey, const scan::Mesh& scan,
                   const scan::Topology& topology, double spacing, double slack = 0,
                   bool tell = true) {
  const KnownFaces faces(solid, to_model, scan);
  Score score = faces.find(fits_of(survey), spacing, slack, tell);
  faces.count_wrong(survey, slack, tell, score);
  score.border = faces.borders(survey, scan, topology, spacing);
  return score;
}

}  // namespace lostline::testing
