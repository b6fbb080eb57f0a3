#include "model/apart/packing.h"

#include <BRep_Builder.hxx>
#include <BinTools.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <sstream>
#include <streambuf>

#include "model/model_impl.h"
#include "model/steps/kinds.h"

namespace lostline::model {
namespace {

/// Reads bytes where they lie.
class ReadBuffer : public std::streambuf {
 public:
  explicit ReadBuffer(std::string_view bytes) {
    char* begin = const_cast<char*>(bytes.data());  // NOLINT: never written through
    setg(begin, begin, begin + bytes.size());
  }

 protected:
  pos_type seekoff(off_type offset, std::ios_base::seekdir way, std::ios_base::openmode) override {
    char* const from = way == std::ios_base::beg   ? eback()
                       : way == std::ios_base::cur ? gptr()
                                                   : egptr();
    if (from + offset < eback() || from + offset > egptr()) return pos_type(off_type(-1));
    setg(eback(), from + offset, egptr());
    return gptr() - eback();
  }
  pos_type seekpos(pos_type place, std::ios_base::openmode which) override {
    return seekoff(place, std::ios_base::beg, which);
  }
};

/// Parts of a feature, one after another, either way.
class Parts : public Description {
 public:
  explicit Parts(Packing& packing) : packing_(packing), bytes_(packing.bytes()) {}
  void number(const NumberInfo&, Quantity& q) override {
    bytes_(q.value);
    bytes_(q.dimension);
  }
  void count(const CountInfo&, int& n) override { bytes_(n); }
  void flag(const char*, bool& on) override { bytes_(on); }
  void reference(const ReferenceInfo&, Reference& r) override { packing_(r); }
  void sketch(const char*, Id& id) override { bytes_(id); }
  void sketches(const SketchesInfo&, std::vector<Id>& ids) override { bytes_(ids); }
  void curves(const char*, std::vector<sketch::Id>& ids) override { bytes_(ids); }
  void curve(const char*, sketch::Id& id) override { bytes_(id); }
  void areas(const char*, std::vector<Vec2>& areas) override { bytes_(areas); }
  void edges(const char*, std::vector<EdgeRef>& edges) override {
    bytes_.each(edges, [&](EdgeRef& edge) {
      auto& [face_a, face_b, near] = edge;
      bytes_(face_a);
      bytes_(face_b);
      bytes_(near);
    });
  }
  void faces(const char*, std::vector<std::string>& faces) override { bytes_(faces); }
  void bodies(const BodiesInfo&, std::vector<std::string>& bodies) override { bytes_(bodies); }
  void imported(const char*, std::shared_ptr<const Imported>& imported) override {
    bool there = imported != nullptr;
    bytes_(there);
    if (!there) return imported.reset();
    // The file's own bytes stay where they are: a step needs the model alone.
    auto other = std::make_shared<Imported>();
    if (!packing_.reading()) {
      other->file = imported->file;
      other->hash = imported->hash;
      other->model = imported->model;
    }
    bytes_(other->file);
    bytes_(other->hash);
    packing_(other->model);
    if (packing_.reading()) imported = std::move(other);
  }
  void path(const char*, SpacePath& path) override {
    auto& [corners, bends] = path;
    bytes_(corners);
    bytes_(bends);
  }
  void surface(const char*, std::shared_ptr<const patch::SplineSurface>& surface) override {
    bytes_.shared(surface, [&](patch::SplineSurface& s) { packing_(s); });
  }
  void surfaces(const char*, std::shared_ptr<const patch::SplineSurfaces>& surfaces) override {
    bytes_.shared(surfaces, [&](patch::SplineSurfaces& list) { packing_(list); });
  }
  void step(const char*, Id& id) override { bytes_(id); }
  void place(const char*, Transform& place) override { packing_(place); }

 private:
  void choose(const ChoiceInfo&, int& value) override { bytes_(value); }
  Packing& packing_;
  Bytes& bytes_;
};

void pass(Bytes& bytes, Body& body) {
  auto& [key, kind, merged, name, colour] = body;
  bytes(key);
  bytes(kind);
  bytes(merged);
  bytes(name);
  bytes.maybe(colour, [&](Colour& c) {
    for (std::uint8_t& channel : c) bytes(channel);
  });
}

}  // namespace

void pack(Bytes& bytes, const Model& model) {
  std::uint64_t count = model.body_count();
  bytes(count);
  if (model.empty()) return;
  TopoDS_Compound all;
  const BRep_Builder builder;
  builder.MakeCompound(all);
  for (const BodyShape& b : model.impl().bodies) {
    builder.Add(all, b.shape);
    Body body = b.body;
    pass(bytes, body);
  }
  std::ostringstream stream;
  BinTools::Write(all, stream, false, false, BinTools_FormatVersion_CURRENT);
  std::string shape = std::move(stream).str();
  bytes(shape);
  std::vector<std::vector<std::string>> names = model.impl().names;
  bytes(names);
}

Model unpack(Bytes& bytes, std::uint64_t serial) {
  std::uint64_t count = 0;
  bytes(count);
  if (count == 0) return {};
  std::vector<BodyShape> bodies(count);
  for (BodyShape& b : bodies) pass(bytes, b.body);
  std::string shape;
  bytes(shape);
  ReadBuffer buffer(shape);
  std::istream stream(&buffer);
  TopoDS_Shape all;
  BinTools::Read(all, stream);
  TopoDS_Iterator it(all);
  for (BodyShape& b : bodies) {
    if (!it.More()) throw std::runtime_error("a body is missing");
    b.shape = it.Value();
    it.Next();
  }
  std::vector<std::vector<std::string>> names;
  bytes(names);
  return make_named(std::move(bodies), std::move(names), serial);
}

void Packing::operator()(Model& model) {
  std::uint32_t place = 0;  // from 1; 0: the empty one
  if (!reading() && !model.empty()) {
    const auto it = std::find_if(models_.begin(), models_.end(), [&](const Model& known) {
      return &known.impl() == &model.impl();
    });
    place = static_cast<std::uint32_t>(it - models_.begin()) + 1;
    if (it == models_.end()) models_.push_back(model);
  }
  bytes_(place);
  if (reading()) model = place == 0 ? Model() : models_.at(place - 1);
}

// Each type is taken apart whole: one with a part more does not compile until that is passed on.

void Packing::operator()(Transform& motion) {
  for (Eigen::Index column = 0; column < 4; ++column) {
    Vec3 v = motion.affine().col(column);
    bytes_(v);
    motion.affine().col(column) = v;
  }
}

void Packing::operator()(Placement& placement) {
  auto& [origin, x, y, normal] = placement;
  for (Vec3* v : {&origin, &x, &y, &normal}) bytes_(*v);
}

void Packing::operator()(fit::Surface& surface) {
  auto& [kind, point, axis, radius, half_angle, minor_radius, major, hollow] = surface;
  bytes_(kind);
  for (Vec3* v : {&point, &axis, &major}) bytes_(*v);
  for (double* size : {&radius, &half_angle, &minor_radius}) bytes_(*size);
  bytes_(hollow);
}

void Packing::operator()(sketch::Sketch& sketch) {
  auto& [points, entities, constraints, next_id] = sketch;
  bytes_.each(points, [&](sketch::Point& point) {
    auto& [id, at, own] = point;
    bytes_(id);
    bytes_(at);
    bytes_(own);
  });
  bytes_.each(entities, [&](sketch::Entity& entity) {
    auto& [id, type, a, b, centre, radius, poles, knots, construction] = entity;
    bytes_(id);
    bytes_(type);
    for (sketch::Id* point : {&a, &b, &centre}) bytes_(*point);
    bytes_(radius);
    bytes_(poles);
    bytes_(knots);
    bytes_(construction);
  });
  bytes_.each(constraints, [&](sketch::Constraint& constraint) {
    auto& [id, type, first, second, third, value, driving, reference] = constraint;
    bytes_(id);
    bytes_(type);
    for (sketch::Id* part : {&first, &second, &third}) bytes_(*part);
    bytes_(value);
    bytes_(driving);
    bytes_(reference);
  });
  bytes_(next_id);
}

void Packing::operator()(PlacedSketch& placed) {
  auto& [sketch, base, section_level, face] = placed;
  (*this)(sketch);
  (*this)(base);
  bytes_(section_level);
  bytes_(face);
}

void Packing::operator()(Reference& reference) {
  auto& [datum, face, fit, region, surface] = reference;
  bytes_(datum);
  bytes_(face);
  bytes_(fit);
  bytes_(region);
  bytes_.maybe(surface, [&](fit::Surface& s) { (*this)(s); });
}

void Packing::operator()(patch::SplineSurface& surface) {
  auto& [nu, nv, poles, u_knots, v_knots] = surface;
  bytes_(nu);
  bytes_(nv);
  bytes_(poles);
  bytes_(u_knots);
  bytes_(v_knots);
}

void Packing::operator()(patch::SplineSurfaces& surfaces) {
  bytes_.each(surfaces, [&](patch::SplineSurface& s) { (*this)(s); });
}

namespace {

/// The parts of each form of a plane curve.
struct FormParts {
  Bytes& bytes;
  void operator()(sketch::StraightForm& f) const {
    auto& [a, b] = f;
    bytes(a);
    bytes(b);
  }
  void operator()(sketch::RoundForm& f) const {
    auto& [centre, radius, start, sweep] = f;
    bytes(centre);
    for (double* number : {&radius, &start, &sweep}) bytes(*number);
  }
  void operator()(sketch::EllipticForm& f) const {
    auto& [centre, axis, major, minor, start, sweep] = f;
    bytes(centre);
    bytes(axis);
    for (double* number : {&major, &minor, &start, &sweep}) bytes(*number);
  }
  void operator()(sketch::SplineForm& f) const {
    auto& [poles, knots, closed] = f.spline;
    bytes(poles);
    bytes(knots);
    bytes(closed);
  }
};

/// The n-th alternative of a variant, as it is when new.
template <std::size_t N = 0>
sketch::Form fresh_form(std::size_t n) {
  if constexpr (N < std::variant_size_v<sketch::Form>) {
    if (n == N) return sketch::Form(std::in_place_index<N>);
    return fresh_form<N + 1>(n);
  } else {
    throw std::runtime_error("no such form of a curve");
  }
}

}  // namespace

void Packing::operator()(sketch::Form& form) {
  std::uint32_t which = static_cast<std::uint32_t>(form.index());
  bytes_(which);
  if (reading()) form = fresh_form(which);
  std::visit(FormParts{bytes_}, form);
}

void Packing::operator()(Feature& feature) {
  std::string key = feature.kind().key;
  bytes_(key);
  if (reading()) {
    const FeatureKind* kind = find_feature_kind(key);
    if (kind == nullptr) throw std::runtime_error("no kind of step is called " + key);
    feature = kind->make();
  }
  // The description first says what is chosen, on which parts that follow may depend.
  Parts parts(*this);
  feature.describe(parts);
}

void Packing::operator()(Step& step) {
  auto& [id, number, name, parked, feature] = step;
  bytes_(id);
  bytes_(number);
  bytes_(name);
  bytes_(parked);
  (*this)(feature);
}

void Packing::operator()(std::map<Id, PlacedSketch>& sketches) {
  std::uint64_t count = sketches.size();
  bytes_(count);
  if (!reading()) {
    for (auto& [id, placed] : sketches) {
      Id key = id;
      bytes_(key);
      (*this)(placed);
    }
    return;
  }
  sketches.clear();
  for (; count > 0; --count) {
    Id id = 0;
    bytes_(id);
    (*this)(sketches[id]);
  }
}

const Remembered::Entry* Remembered::find(std::uint64_t serial) const {
  const auto it = std::find_if(entries_.begin(), entries_.end(),
                               [&](const Entry& e) { return e.serial == serial; });
  return it == entries_.end() ? nullptr : &*it;
}

void Remembered::use(std::uint64_t serial, const Model& model) {
  Entry entry{serial, model};
  std::erase_if(entries_, [&](const Entry& e) { return e.serial == serial; });
  entries_.push_front(std::move(entry));
  if (entries_.size() > kMost) entries_.pop_back();
}

}  // namespace lostline::model
