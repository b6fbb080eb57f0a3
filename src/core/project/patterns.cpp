#include "project/patterns.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "project/datums.h"
#include "project/fits.h"
#include "project/relations.h"

namespace lostline::project {
namespace {

using Type = survey::Pattern::Type;

/// A direction: the axis it lies along, or its components.
std::string in_list(const Vec3& v) {
  for (int k = 0; k < 3; ++k) {
    if (std::abs(v[k]) > std::cos(0.2 / kDegrees))
      return std::string(v[k] < 0 ? "-" : "") + "xyz"[k];
  }
  const auto rounded = [](double x) { return std::round(x * 1000) / 1000 + 0.0; };
  return fmt::format("{:.3f}, {:.3f}, {:.3f}", rounded(v.x()), rounded(v.y()), rounded(v.z()));
}

/// A reading without an edit of its own: it belongs to the fits it was taken from.
void add_row(Document& document, const std::string& name, standards::Quantity quantity,
             double reading, double u, const std::string& source, std::vector<FitRef> fits) {
  Dimension row;
  row.id = document.next_id++;
  row.name = name;
  row.quantity = quantity;
  row.reading = reading;
  row.u = u;
  row.source = source;
  row.owner.fits = std::move(fits);
  document.dimensions.push_back(std::move(row));
}

/// Relations of one pattern; rows and constructed features are added to the document.
Status accept(Document& document, const survey::Pattern& p, std::vector<FitRelation>& relations) {
  std::vector<FitRef> refs;
  for (const std::uint32_t region : p.regions) refs.push_back(keep_region(document, region));
  const auto relate = [&](fit::RelationType type, const FitRef& a, const FitRef& b,
                          const FitRef& c = {}) {
    const bool known = std::any_of(relations.begin(), relations.end(), [&](const FitRelation& r) {
      return r.type == type && ((r.a == a && r.b == b) || (r.a == b && r.b == a)) && r.c == c;
    });
    if (known || a == b) return;
    FitRelation r;
    r.type = type;
    r.a = a;
    r.b = b;
    r.c = c;
    relations.push_back(r);
  };
  const auto all_to_first = [&](fit::RelationType type) {
    for (std::size_t i = 1; i < refs.size(); ++i) relate(type, refs[i], refs[0]);
  };
  const std::string words = describe(document, p);
  const auto fit_of = [&](const FitRef& ref) { return document.fit_of(ref); };
  double u = 0;
  for (const FitRef& ref : refs) {
    if (const fit::SurfaceFit* f = fit_of(ref)) u = std::max(u, f->u_offset);
  }
  switch (p.type) {
    case Type::Family:
      all_to_first(fit::RelationType::Parallel);
      break;
    case Type::Stack:
      all_to_first(fit::RelationType::Coaxial);
      break;
    case Type::EqualSizes:
      all_to_first(fit::RelationType::EqualSize);
      break;
    case Type::BoltCircle: {
      all_to_first(fit::RelationType::EqualSize);
      auto circle = add_construction(document, {Construction::Type::BoltCircle, refs});
      if (!circle) return circle.error();
      document = std::move(circle).value().document;
      const fit::SurfaceFit& made = document.fits.back()->result;
      add_row(document, "bolt circle", standards::Quantity::Diameter, 2 * made.surface.radius,
              2 * made.u_radius, words, {{0, document.fits.back()->id}});
      break;
    }
    case Type::Row:
    case Type::Grid: {
      all_to_first(fit::RelationType::EqualSize);
      add_row(document, "pitch", standards::Quantity::Length, p.value,
              u * std::sqrt(2.0) / std::max(1, p.count - 1), words, {refs.front(), refs.back()});
      document.dimensions.back().owner.fits = refs;
      if (p.type == Type::Grid)
        add_row(document, "pitch across", standards::Quantity::Length, p.second,
                u * std::sqrt(2.0) / std::max(1, p.rows - 1), words, refs);
      break;
    }
    case Type::MirroredPairs: {
      fit::SurfaceFit plane;
      plane.surface.axis = p.direction;
      plane.surface.point = p.centre;
      plane.centroid = p.centre;
      plane.u_offset = u;
      Added added = add_symmetry(document, plane);
      document = std::move(added.document);
      // Held to two planes that are square only within noise, mirror images of mirror images would
      // contradict each other: the second plane is kept as a feature, its pairs stay free.
      const bool mirrored =
          std::any_of(relations.begin(), relations.end(),
                      [](const FitRelation& r) { return r.type == fit::RelationType::Symmetric; });
      for (std::size_t i = 0; !mirrored && i + 1 < refs.size(); i += 2)
        relate(fit::RelationType::Symmetric, refs[i], refs[i + 1], {0, added.id});
      break;
    }
    case Type::Draft: {
      double u_angle = 0;
      for (const FitRef& ref : refs) {
        const fit::SurfaceFit* f = fit_of(ref);
        if (f == nullptr) continue;
        u_angle =
            std::max(u_angle, f->surface.kind == fit::Kind::Cone ? f->u_half_angle : f->u_angle);
      }
      add_row(document, "draft", standards::Quantity::Angle, p.value * kDegrees, u_angle * kDegrees,
              words, refs);
      break;
    }
  }
  return Done{};
}

}  // namespace

double start_angle(const Document& document, const survey::Pattern& p) {
  const Transform to_part = document.to_part();
  Vec3 axis = to_part.linear() * p.direction;
  Eigen::Index main = 0;
  axis.cwiseAbs().maxCoeff(&main);
  if (axis[main] < 0) axis = -axis;
  const Vec3 x = (Vec3::Unit(main == 0 ? 1 : 0) - axis * axis[main == 0 ? 1 : 0]).normalized();
  const Vec3 y = axis.cross(x);
  const fit::SurfaceFit* first = document.fit_of({p.regions.front(), 0});
  if (first == nullptr || p.count < 1) return 0;
  const Vec3 d = to_part.linear() * (first->surface.point - p.centre);
  const double step = 360.0 / p.count;
  const double angle = std::fmod(std::atan2(d.dot(y), d.dot(x)) * kDegrees + 360, step);
  return step - angle < 1e-3 ? 0 : angle;
}

std::string describe(const Document& document, const survey::Pattern& p) {
  const std::string name = survey::pattern_name(p.type);
  const auto within = fmt::format("within {:.3f} mm", p.departure);
  const Vec3 direction = document.to_part().linear() * p.direction;
  switch (p.type) {
    case Type::Family:
      return fmt::format("{}: {} along {}, within {:.3f}\u00b0", name, p.regions.size(),
                         in_list(direction), p.departure * kDegrees);
    case Type::Stack:
      return fmt::format("{}: {} surfaces about one axis, {}", name, p.regions.size(), within);
    case Type::EqualSizes:
      return fmt::format("{}: {} of \u2300 {:.3f} mm, {}", name, p.regions.size(), p.value, within);
    case Type::BoltCircle: {
      const std::string missing =
          static_cast<int>(p.regions.size()) < p.count
              ? fmt::format(" ({} places empty)", p.count - static_cast<int>(p.regions.size()))
              : "";
      return fmt::format("{}: {} places{} on \u2300 {:.3f} mm, first at {:.2f}\u00b0, {}", name,
                         p.count, missing, p.value, start_angle(document, p), within);
    }
    case Type::Row:
      return fmt::format("{}: {} at pitch {:.3f} mm, {}", name, p.count, p.value, within);
    case Type::Grid:
      return fmt::format("{}: {} \u00d7 {} at pitches {:.3f} and {:.3f} mm, {}", name, p.count,
                         p.rows, p.value, p.second, within);
    case Type::MirroredPairs:
      return fmt::format("{}: {} pairs in the plane square to {}, {:.0f} % of the area", name,
                         p.count, in_list(direction), 100 * p.value);
    case Type::Draft:
      return fmt::format("{}: {} walls at {:.2f}\u00b0 to pull {}, within {:.2f}\u00b0", name,
                         p.count, p.value * kDegrees, in_list(direction), p.departure * kDegrees);
  }
  return name;
}

Result<Document> accept_patterns(const Document& document, const std::vector<std::size_t>& patterns,
                                 const Task& task) {
  if (!document.survey) return Error{ErrorCode::NotFound, "There is no survey yet."};
  Document next = document;
  std::vector<FitRelation> relations = document.relations;
  for (const std::size_t i : patterns) {
    if (i >= document.survey->patterns.size())
      return Error{ErrorCode::NotFound, "This pattern is gone. Split the scan again."};
    if (const Status s = accept(next, document.survey->patterns[i], relations); !s)
      return s.error();
  }
  return set_relations(next, relations, task);
}

}  // namespace lostline::project
