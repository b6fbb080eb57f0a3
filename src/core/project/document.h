#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "base/text.h"
#include "datum/frame.h"
#include "fit/relations.h"
#include "fit/surface_fit.h"
#include "model/route.h"
#include "project/from_points.h"
#include "scan/health.h"
#include "scan/mesh_index.h"
#include "section/section.h"
#include "sketch/solver.h"
#include "standards/nominals.h"
#include "survey/survey.h"

namespace lostline::project {

/// Stable name of anything in a document; 0 is nothing.
using Id = std::uint64_t;

/// A scan with everything that is computed from it once. Immutable.
struct Scan {
  std::string name;
  std::string source;            ///< file it came from
  Unit unit = Unit::Millimetre;  ///< that the file's numbers were read in
  scan::UnitGuess guess;
  std::shared_ptr<const scan::Mesh> mesh;  ///< mm
  scan::Topology topology;
  scan::Health health;
  std::shared_ptr<const scan::MeshIndex> index;
  std::shared_ptr<const section::SectionIndex> sections;
  std::optional<FromPoints> points;  ///< of a scan that is just as it was meshed from a cloud
};

/// Says where a direction or surface comes from: a region of the survey or a kept fit.
struct FitRef {
  std::uint32_t region = 0;
  Id fit = 0;
  bool operator==(const FitRef&) const = default;
  [[nodiscard]] bool empty() const { return region == 0 && fit == 0; }
};

/// How a datum feature follows from others.
struct Construction {
  enum class Type {
    Midplane,      ///< of two planes
    AxisOfTwo,     ///< line through two centres
    CommonAxis,    ///< of coaxial holes
    BoltCircle,    ///< circle through the axes of holes
    Intersection,  ///< point: three planes, a plane and an axis, two axes
    Symmetry,      ///< plane of symmetry of the scan: found, not constructed again
    Targets,       ///< plane on datum targets; the fit's points are where they were clicked
  };
  Type type = Type::Midplane;
  std::vector<FitRef> from;
};

/// A fit that the engineer kept.
struct Fit {
  Id id = 0;
  std::string name;
  fit::SurfaceFit result;  ///< under the document's relations
  fit::SurfaceFit alone;   ///< as the evidence has it without any
  std::shared_ptr<const std::vector<std::uint32_t>> triangles;
  std::vector<Vec3> points;  ///< picked or of a rim, scan coordinates; instead of triangles
  std::optional<Construction> construction;  ///< instead of evidence of its own
};

/// A relation between fits that the engineer imposed.
struct FitRelation {
  Id id = 0;
  fit::RelationType type = fit::RelationType::Parallel;
  FitRef a, b, c;       ///< as the type names them; a region stays as it is
  double value = 0;     ///< mm or rad
  bool follow = false;  ///< `a` follows: `b` stays as its other relations have it
  fit::RelationCost cost;
};

/// A model that the scan was brought upon.
struct BroughtUpon {
  std::string model;  ///< file name without its folder
  double rms = 0;     ///< mm, of the points used
  double used_fraction = 0;
  double agreement = 0;
};

/// Fits of a 3-2-1 frame by reference, and the frame they gave; or a frame by a model.
struct DatumFrame {
  FitRef primary;
  datum::Axis primary_axis = datum::Axis::MinusZ;
  std::vector<FitRef> secondary;
  datum::Axis secondary_axis = datum::Axis::X;
  std::vector<FitRef> origin;
  /// What the origin fits leave open is put at the scan's least coordinate.
  bool extremes = false;
  std::optional<BroughtUpon> upon;  ///< instead of the fits
  datum::Frame frame;
};

enum class DatumPlane { Xy, Xz, Yz, Free };
const char* plane_name(DatumPlane plane);     ///< "xy" …; "plane" of a free one
Placement datum_placement(DatumPlane plane);  ///< of a free one xy

/// A section by a half-plane about an axis: x is the distance from the axis, y runs along it.
struct Turn {
  double angle = 0;  ///< of the half-plane about the axis, rad
  /// Many half-planes all round folded into one, for parts where none sees the whole profile.
  bool fan = false;
  bool operator==(const Turn&) const = default;
};

/// What the scan covers seen along the normal of a sketch's plane, instead of a cut.
struct Silhouette {
  bool openings = true;  ///< with what can be looked through
  double offset = 0;     ///< mm outside of it; negative: inside
  bool operator==(const Silhouette&) const = default;
};

/// A sketch with the section it rests on.
struct TracedSketch {
  Id id = 0;
  std::string name;
  DatumPlane plane = DatumPlane::Xy;  ///< Free: `base` alone says where
  /// Plane that the base lies on, or axis of a turn section, when it is no datum plane.
  model::Reference on;
  std::optional<Turn> turn;
  std::optional<Silhouette> silhouette;
  Placement base;    ///< part coordinates
  double level = 0;  ///< of the section above the base plane, mm
  /// Further levels whose sections are gathered on the plane of the first, mm.
  std::vector<double> more_levels;
  /// Triangles of the scan that the section goes through, ascending; null: all of them.
  std::shared_ptr<const std::vector<std::uint32_t>> part;
  /// Scans beside the first one that it goes through too, by name.
  std::vector<std::string> also;
  /// Its numbers are its own, as of a drawing read in: the section lies beside it and is not
  /// fitted.
  bool drawn = false;
  double tolerance = 0.1;  ///< of resolving, mm
  sketch::Sketch sketch;
  section::Section section;  ///< in the base plane's 2D frame; computed, not saved
  double rms = 0;            ///< drift of the fit, mm
  /// Where the texts of dimensions stand on the drawing, mm in the base plane, when not as usual.
  std::map<sketch::Id, Vec2> text_places;

  /// How far the section may lie from the sketch and still be evidence for it, mm: ten times the
  /// tolerance, beyond which it is another feature (common practice, no source).
  [[nodiscard]] double reach() const { return 10 * tolerance; }
};

/// What a Ledger row belongs to.
struct Owner {
  Id sketch = 0;  ///< with `constraint`: a sketch dimension
  sketch::Id constraint = 0;
  Id step = 0;               ///< with `field`: a number of a step
  std::string field;         ///< "from", "to", "draft", "diameter", "radius"
  std::vector<FitRef> fits;  ///< a measurement between fits, or of one
  std::vector<Vec3> points;  ///< measured on the scan, scan coordinates
};

/// A value read with another instrument.
struct TypedReading {
  double value = 0;        ///< mm or degrees
  double u = 0;            ///< expanded, k = 2; 0 unknown
  std::string instrument;  ///< "caliper"
};

/// One Ledger row. Lengths in mm; angles in degrees.
struct Dimension {
  Id id = 0;
  std::string name;
  standards::Quantity quantity = standards::Quantity::Length;
  bool hole = false;
  std::optional<double> reading;  ///< empty: no evidence
  double u = 0;                   ///< expanded, k = 2; 0 unknown
  std::string source;             ///< evidence in words
  std::optional<double> intent;   ///< inked
  std::string reason;             ///< of the decision
  /// What the intent is computed from, with other rows as {id}; empty: decided by itself.
  std::string expression;
  std::vector<TypedReading> typed;  ///< beside the scan's reading
  Owner owner;

  [[nodiscard]] double value() const { return intent.value_or(reading.value_or(0)); }
};

/// How a body is called and shown.
struct BodyLook {
  std::string name;  ///< empty: as its step or its file has it
  std::optional<model::Colour> colour;
  bool shown = true;
  bool translucent = false;
  bool operator==(const BodyLook&) const = default;
};

enum class Visibility { Shown, Translucent, Hidden };

/// How what is no body is shown on the Bench, where not as usual.
struct Showing {
  std::set<std::uint32_t> hidden_regions;
  std::set<std::uint32_t> translucent_regions;
  std::set<Id> sketches;                    ///< drawn all the time
  std::map<std::string, Visibility> scans;  ///< by name
  bool operator==(const Showing&) const = default;
  [[nodiscard]] Visibility of_region(std::uint32_t region) const {
    return hidden_regions.contains(region)        ? Visibility::Hidden
           : translucent_regions.contains(region) ? Visibility::Translucent
                                                  : Visibility::Shown;
  }
  [[nodiscard]] Visibility of_scan(const std::string& name) const {
    const auto it = scans.find(name);
    return it != scans.end() ? it->second : Visibility::Shown;
  }
};

/// A view of the Bench kept for the report.
struct SavedView {
  std::string name;
  Vec3 centre = Vec3::Zero();    ///< that the view turns about, part coordinates
  Vec3 towards = Vec3::UnitY();  ///< viewing direction
  Vec3 up = Vec3::UnitZ();
  double height = 100;  ///< of what is seen, mm
  bool scan = true;
  bool model = true;
  bool deviation = true;  ///< the scan is painted with it
};

/// The whole state of a project as a value: copying is cheap, every part is shared and never
/// changes.
struct Document {
  std::string title = "untitled part";
  std::shared_ptr<const Scan> scan;                      ///< the one worked on
  std::vector<std::shared_ptr<const Scan>> other_scans;  ///< opened beside it
  std::shared_ptr<const survey::Survey> survey;
  std::vector<std::shared_ptr<const Fit>> fits;
  std::vector<FitRelation> relations;
  std::shared_ptr<const DatumFrame> frame;
  std::vector<std::shared_ptr<const TracedSketch>> sketches;
  std::vector<model::Step> steps;
  std::vector<Dimension> dimensions;
  double tolerance = 0.1;        ///< of the deviation, mm
  double deviation_range = 0.3;  ///< ends of the colour scale, mm
  /// Tolerances of single faces of the model by persistent name, mm; others have `tolerance`.
  std::map<std::string, double> face_tolerances;
  std::vector<SavedView> views;
  std::map<std::string, BodyLook> bodies;  ///< by key of the body, where something was said
  Showing showing;
  Id next_id = 1;

  [[nodiscard]] const Fit* find_fit(Id id) const;
  [[nodiscard]] const TracedSketch* find_sketch(Id id) const;
  [[nodiscard]] const model::Step* find_step(Id id) const;
  [[nodiscard]] const Dimension* find_dimension(Id id) const;
  /// Scan to part coordinates; the identity without a frame.
  [[nodiscard]] Transform to_part() const;
  /// The fit a reference means; null when it is gone or free-form.
  [[nodiscard]] const fit::SurfaceFit* fit_of(const FitRef& ref) const;
  [[nodiscard]] std::string name_of(const FitRef& ref) const;
  [[nodiscard]] double tolerance_of(const std::string& face) const;
  /// Sketches as the Route sees them.
  [[nodiscard]] std::map<Id, model::PlacedSketch> placed_sketches() const;
};

/// A face's persistent name in words: "side 14 of foot".
std::string face_title(const Document& document, const std::string& face);

/// Builds topology, indices and health of a mesh: the slow part of opening, for a worker.
/// @param points  how it was meshed, where it is of a cloud.
/// @errors InvalidInput  no triangles;  Cancelled.
Result<std::shared_ptr<const Scan>> prepare_scan(scan::Mesh mesh, const std::string& name,
                                                 const std::string& source, Unit unit,
                                                 const Task& task = {},
                                                 std::optional<FromPoints> points = {});

/// Reads a scan file, guesses its unit and prepares it.
Result<std::shared_ptr<const Scan>> open_scan(const std::string& path,
                                              std::optional<Unit> unit = {}, const Task& task = {});

}  // namespace lostline::project
