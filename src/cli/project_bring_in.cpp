#include <algorithm>

#include "model/plane_view.h"
#include "model_places.h"
#include "project.h"
#include "project/edits.h"
#include "project/seen_in_sketch.h"

// What a sketch takes from the model, the scan and other sketches, without the window.

namespace lostline::cli {
namespace {

using model::PlaneView;

/// What is seen in the plane of a sketch, gathered.
struct Gathered {
  Placement plane;
  PlaneView view;

  Status take(const Result<PlaneView>& seen) {
    if (!seen) return seen.error();
    view.curves.insert(view.curves.end(), seen->curves.begin(), seen->curves.end());
    view.points.insert(view.points.end(), seen->points.begin(), seen->points.end());
    return Done{};
  }
};

Status take_of_model(const Arguments& a, const model::Model& solid, Gathered& all) {
  const auto near = [&](const std::vector<std::string>& places, const std::string& what, auto find,
                        auto seen) -> Status {
    for (const std::string& one : places) {
      const auto at = parse_vector(one);
      if (!at) return at.error();
      const auto found = find(solid, *at);
      if (!found)
        return Error{ErrorCode::NotFound, "There is no " + what + " of the model at " + one + "."};
      if (const Status s = all.take(seen(solid, *found, all.plane)); !s) return s;
    }
    return Done{};
  };
  if (const Status s = near(a.edges, "edge", edge_near, model::edge_seen); !s) return s;
  if (const Status s = near(a.faces, "face", face_near, model::face_seen); !s) return s;
  if (a.cut) return all.take(model::cut_by_plane(solid, all.plane));
  return Done{};
}

Status take_of_scan(const Arguments& a, const Document& d, Gathered& all) {
  for (const std::uint32_t region : a.regions) {
    if (d.fit_of({region, 0}) == nullptr)
      return Error{ErrorCode::NotFound,
                   "There is no region " + std::to_string(region) + " with a fit."};
    if (const Status s = all.take(project::fit_seen(d, {region, 0}, all.plane)); !s) return s;
  }
  for (const std::string& name : a.fits) {
    const auto fit =
        std::find_if(d.fits.begin(), d.fits.end(), [&](const auto& f) { return f->name == name; });
    if (fit == d.fits.end()) return Error{ErrorCode::NotFound, "There is no fit \"" + name + "\"."};
    if (const Status s = all.take(project::fit_seen(d, {0, (*fit)->id}, all.plane)); !s) return s;
  }
  return Done{};
}

}  // namespace

Result<Document> bring_in(const Common& common, const Arguments& a, const Document& d, Json& said) {
  const auto found = find_sketch(d, a.sketch);
  if (!found) return found.error();
  const bool of_model = !a.edges.empty() || !a.faces.empty() || a.cut;
  if (!of_model && a.regions.empty() && a.fits.empty() && a.sketches.empty())
    return Error{ErrorCode::InvalidInput,
                 "Say what comes in: --edges, --faces, --cut, --regions, --fits or --from."};
  const project::TracedSketch& into = **found;
  Gathered all{project::plane_of(into), {}};
  if (of_model) {
    const auto solid = model_before(d, d.steps.size(), progress_task(common, "recomputing"));
    if (!solid) return solid.error();
    if (const Status s = take_of_model(a, *solid, all); !s) return s.error();
  }
  if (const Status s = take_of_scan(a, d, all); !s) return s.error();
  for (const std::string& name : a.sketches) {
    const auto other = find_sketch(d, name);
    if (!other) return other.error();
    if (*other == *found)
      return Error{ErrorCode::InvalidInput, "A sketch cannot be brought into itself."};
    if (const Status s =
            all.take(model::sketch_seen((*other)->sketch, project::plane_of(**other), all.plane));
        !s)
      return s.error();
  }
  std::vector<sketch::Id> added;
  const sketch::Sketch edited = project::with_seen(into, all.view, &added);
  said["added"] = added;
  return project::edit_sketch(d, into.id, edited);
}

}  // namespace lostline::cli
