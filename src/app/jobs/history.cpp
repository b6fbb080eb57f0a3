#include "jobs/history.h"

#include <algorithm>
#include <map>
#include <utility>

namespace lostline::app {
namespace {

// Some ten million triangles of scans beside what is open; chosen, not derived.
constexpr std::size_t kBound = std::size_t{2} << 30;

std::size_t bytes_of(const project::Scan& scan) {
  // Per triangle: three corners, three neighbours, its rows in the topology and the search trees;
  // per vertex its place. An estimate from the sizes of these, for the bound only.
  constexpr std::size_t kTriangle = 190;
  return scan.mesh->triangles.size() * kTriangle + scan.mesh->vertices.size() * sizeof(Vec3);
}

std::size_t bytes_of(const survey::Survey& survey) {
  return survey.triangle_region.size() * sizeof(survey.triangle_region[0]) +
         survey.regions.size() * sizeof(survey::Region);
}

template <class List>
std::size_t listed(const List& list) {
  return list.size() * sizeof(typename List::value_type);
}

std::size_t bytes_of(const project::TracedSketch& traced) {
  std::size_t bytes = sizeof traced + listed(traced.sketch.points) +
                      listed(traced.sketch.entities) + listed(traced.sketch.constraints);
  for (const sketch::Entity& e : traced.sketch.entities) bytes += listed(e.poles) + listed(e.knots);
  for (const section::Polyline& line : traced.section.polylines)
    bytes += sizeof line + listed(line.points) + listed(line.chords) + listed(line.triangles) +
             listed(line.gaps);
  return bytes;
}

/// The models that steps brought with them, of which a step has but a pointer.
std::map<const void*, std::size_t> imports_of(const project::Document& document) {
  struct Gather : model::Listener {
    std::map<const void*, std::size_t> found;
    void imported(const char*, std::shared_ptr<const model::Imported>& imported) override {
      if (imported) found[imported.get()] = imported->bytes.size();
    }
  } gather;
  for (const model::Step& step : document.steps) step.feature.describe(gather);
  return std::move(gather.found);
}

bool holds(const project::Document& document, const std::shared_ptr<const project::Scan>& scan) {
  return document.scan == scan ||
         std::find(document.other_scans.begin(), document.other_scans.end(), scan) !=
             document.other_scans.end();
}

}  // namespace

std::size_t bytes_of_its_own(const project::Document& d, const project::Document& other) {
  std::size_t bytes = sizeof(project::Document) + d.dimensions.size() * sizeof(project::Dimension) +
                      d.steps.size() * sizeof(model::Step);
  const auto add = [&](const std::shared_ptr<const project::Scan>& scan) {
    if (scan && !holds(other, scan)) bytes += bytes_of(*scan);
  };
  add(d.scan);
  for (const auto& scan : d.other_scans) add(scan);
  if (d.survey && d.survey != other.survey) bytes += bytes_of(*d.survey);
  for (const auto& fit : d.fits) {
    const bool shared = std::find(other.fits.begin(), other.fits.end(), fit) != other.fits.end();
    if (!shared && fit->triangles) bytes += fit->triangles->size() * sizeof(std::uint32_t);
  }
  for (const auto& traced : d.sketches) {
    if (std::find(other.sketches.begin(), other.sketches.end(), traced) == other.sketches.end())
      bytes += bytes_of(*traced);
  }
  const auto known = imports_of(other);
  for (const auto& [model, size] : imports_of(d)) {
    if (!known.contains(model)) bytes += size;
  }
  return bytes;
}

History::History(std::function<void(Snapshot)> show, QObject* parent)
    : QObject(parent), show_(std::move(show)), bound_(kBound) {}

void History::push(const QString& name, Snapshot before, Snapshot after) {
  const bool was_clean = isClean();
  steps_.resize(static_cast<std::size_t>(index_));
  if (clean_ > index_) clean_ = -1;
  const std::size_t bytes = bytes_of_its_own(*before, *after);
  steps_.push_back({name, std::move(before), std::move(after), bytes});
  ++index_;
  trim();
  show_(steps_.back().after);
  moved(was_clean);
}

void History::go(int index) {
  index = std::clamp(index, 0, count());
  if (index == index_) return;
  const bool was_clean = isClean();
  while (index_ != index) {
    // One after the other, as each was done: everybody who follows sees every state.
    const bool back = index < index_;
    const Step& step = steps_[static_cast<std::size_t>(back ? index_ - 1 : index_)];
    index_ += back ? -1 : 1;
    show_(back ? step.before : step.after);
  }
  moved(was_clean);
}

void History::moved(bool was_clean) {
  Q_EMIT indexChanged(index_);
  if (isClean() != was_clean) Q_EMIT cleanChanged(isClean());
}

void History::clear() {
  const bool was_clean = isClean();
  steps_.clear();
  index_ = clean_ = 0;
  moved(was_clean);
}

void History::setClean() {
  const bool was_clean = isClean();
  clean_ = index_;
  moved(was_clean);
}

void History::setBound(std::size_t bytes) {
  bound_ = bytes;
  trim();
  Q_EMIT indexChanged(index_);
}

void History::trim() {
  // The last step can always be taken back.
  while (index_ > 1 && bytes() > bound_) {
    steps_.pop_front();
    --index_;
    clean_ = clean_ > 0 ? clean_ - 1 : -1;
  }
}

std::size_t History::bytes() const {
  std::size_t sum = 0;
  for (const Step& step : steps_) sum += step.bytes;
  return sum;
}

QString History::undoText() const {
  return canUndo() ? steps_[static_cast<std::size_t>(index_ - 1)].name : QString();
}
QString History::redoText() const {
  return canRedo() ? steps_[static_cast<std::size_t>(index_)].name : QString();
}

}  // namespace lostline::app
