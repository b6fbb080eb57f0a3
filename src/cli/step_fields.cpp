#include "step_fields.h"

#include <charconv>
#include <cmath>

#include "io/step.h"
#include "model_places.h"
#include "project/bodies.h"

namespace lostline::cli {
namespace {

using model::Listener;
using project::Document;

std::string trimmed(const std::string& text) {
  const auto first = text.find_first_not_of(" \t");
  if (first == std::string::npos) return {};
  return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

/// The parts between separators; none of an empty text.
std::vector<std::string> parts_of(const std::string& text, char separator) {
  std::vector<std::string> parts;
  for (std::size_t from = 0; from <= text.size();) {
    const std::size_t to = std::min(text.find(separator, from), text.size());
    const std::string part = trimmed(text.substr(from, to - from));
    if (!part.empty()) parts.push_back(part);
    from = to + 1;
  }
  return parts;
}

template <class List>
std::string listed(const List& words) {
  std::string all;
  for (const auto& word : words) all += (all.empty() ? "" : ", ") + std::string(word);
  return all.empty() ? "none" : all;
}

/// Lists the parts of a kind.
class Teller : public Listener {
 public:
  Json told = Json::array();
  void number(const model::NumberInfo& info, model::Quantity& q) override {
    tell(info.name, info.is_angle() ? "degrees" : "mm")["usual"] =
        info.is_angle() ? q.value / kDegree : q.value;
  }
  void count(const model::CountInfo& info, int& n) override {
    Json& part = tell(info.name, "whole number");
    part["least"] = info.least;
    part["most"] = info.most;
    part["usual"] = n;
  }
  void flag(const char* name, bool& on) override {
    tell(name, "yes or no")["usual"] = on ? "yes" : "no";
  }
  void reference(const model::ReferenceInfo& info, model::Reference&) override {
    tell(info.name, info.wants == model::ReferenceInfo::Wants::Axis    ? "axis"
                    : info.wants == model::ReferenceInfo::Wants::Plane ? "plane"
                                                                       : "surface");
  }
  void sketch(const char* name, model::Id&) override { tell(name, "sketch"); }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>&) override {
    tell(info.name, "sketches");
  }
  void curves(const char* name, std::vector<sketch::Id>&) override {
    tell(name, "entities of the sketch");
  }
  void curve(const char* name, sketch::Id&) override { tell(name, "entity of the sketch"); }
  void areas(const char* name, std::vector<Vec2>&) override { tell(name, "places in the sketch"); }
  void edges(const char* name, std::vector<model::EdgeRef>&) override {
    tell(name, "places on edges");
  }
  void faces(const char* name, std::vector<std::string>&) override {
    tell(name, "places on faces");
  }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>&) override {
    tell(info.name, "bodies");
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>&) override {
    tell(name, "model file");
  }
  void path(const char* name, model::SpacePath&) override { tell(name, "corners of a way"); }
  void step(const char* name, model::Id&) override { tell(name, "step"); }

 protected:
  void choose(const model::ChoiceInfo& info, int& index) override {
    Json& part = tell(info.name, "one of the words");
    part["words"] = info.words;
    part["usual"] = info.words[static_cast<std::size_t>(index)];
  }

 private:
  Json& tell(const char* name, const char* takes) {
    told.push_back({{"name", name}, {"takes", takes}});
    return told.back();
  }
};

/// Fills the part of one name.
class Setter : public Listener {
 public:
  Setter(const Document& document, const model::Model& before, std::string name, std::string value)
      : document_(document),
        before_(before),
        name_(std::move(name)),
        value_(std::move(value)),
        values_(parts_of(value_, ';')) {}

  std::vector<std::string> names;  ///< of all parts
  bool found = false;
  bool is_number = false;
  std::optional<Error> error;

  void number(const model::NumberInfo& info, model::Quantity& q) override {
    if (!mine(info.name)) return;
    is_number = true;
    if (const auto value = real(value_)) q.value = info.is_angle() ? *value * kDegree : *value;
  }
  void count(const model::CountInfo& info, int& n) override {
    if (!mine(info.name)) return;
    const auto value = real(value_);
    if (!value) return;
    if (*value != std::round(*value) || *value < info.least || *value > info.most)
      return wrong("a whole number from " + std::to_string(info.least) + " to " +
                   std::to_string(info.most));
    n = static_cast<int>(*value);
  }
  void flag(const char* name, bool& on) override {
    if (!mine(name)) return;
    if (value_ != "yes" && value_ != "no") return wrong("yes or no");
    on = value_ == "yes";
  }
  void reference(const model::ReferenceInfo& info, model::Reference& r) override {
    if (!mine(info.name)) return;
    constexpr std::array kAxes{"x", "y", "z"};
    constexpr std::array kPlanes{"yz", "xz", "xy"};
    r = {};
    for (int k = 0; k < 3; ++k) {
      if (value_ == kAxes[static_cast<std::size_t>(k)] ||
          value_ == kPlanes[static_cast<std::size_t>(k)])
        r.datum = k;
    }
    if (!r.empty()) return;
    if (value_.starts_with("region ")) {
      if (const auto number = real(value_.substr(7)))
        r.region = static_cast<std::uint32_t>(*number);
      else
        return;
      if (document_.fit_of({r.region, 0}) == nullptr) missing("region", {});
      return take_surface(r);
    }
    if (value_.starts_with("fit ")) {
      std::vector<std::string> known;
      for (const auto& fit : document_.fits) {
        known.push_back(fit->name);
        if (fit->name == value_.substr(4)) r.fit = fit->id;
      }
      if (r.fit == 0) return missing("fit", known);
      return take_surface(r);
    }
    if (const auto face = face_at(value_)) r.face = before_.face_name(*face);
    if (r.empty() && !error)
      wrong("x, y, z, xy, xz, yz, \"region N\", \"fit NAME\" or a place x,y,z on a face");
  }
  void sketch(const char* name, model::Id& id) override {
    if (mine(name)) id = sketch_of(value_);
  }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>& ids) override {
    if (!mine(info.name)) return;
    ids.clear();
    for (const std::string& one : values_) ids.push_back(sketch_of(one));
    if (ids.size() < info.least || ids.size() > info.most)
      wrong("names of " + std::to_string(info.least) +
            (info.most > info.least ? " sketches or more" : " sketch") + ", parted by \";\"");
  }
  void curves(const char* name, std::vector<sketch::Id>& ids) override {
    if (!mine(name)) return;
    ids.clear();
    for (const std::string& one : values_) {
      if (const auto id = real(one)) ids.push_back(static_cast<sketch::Id>(*id));
    }
  }
  void curve(const char* name, sketch::Id& id) override {
    if (!mine(name)) return;
    if (const auto value = real(value_)) id = static_cast<sketch::Id>(*value);
  }
  void areas(const char* name, std::vector<Vec2>& areas) override {
    if (!mine(name)) return;
    areas.clear();
    for (const std::string& one : values_) {
      const auto numbers = reals(one);
      if (numbers.size() != 2) return wrong("places x,y in the sketch, parted by \";\"");
      areas.emplace_back(numbers[0], numbers[1]);
    }
  }
  void edges(const char* name, std::vector<model::EdgeRef>& edges) override {
    if (!mine(name)) return;
    edges.clear();
    for (const std::string& one : values_) {
      const auto at = parse_vector(one);
      if (!at) return fail(at.error());
      const auto edge = edge_near(before_, *at);
      if (!edge) return nothing_at("edge", one);
      edges.push_back(before_.ref_of_edge(*edge, *at));
    }
  }
  void faces(const char* name, std::vector<std::string>& faces) override {
    if (!mine(name)) return;
    faces.clear();
    for (const std::string& one : values_) {
      const auto face = face_at(one);
      if (!face) return;
      faces.push_back(before_.face_name(*face));
    }
  }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>& bodies) override {
    if (!mine(info.name)) return;
    bodies.clear();
    for (const std::string& one : values_) {
      std::vector<std::string> known;
      const std::size_t had = bodies.size();
      for (std::size_t b = 0; b < before_.body_count(); ++b) {
        known.push_back(project::body_title(document_, before_.body(b)));
        if (known.back() == one || before_.body(b).is(one)) bodies.push_back(before_.body(b).key);
      }
      if (bodies.size() == had) return missing("body", known);
    }
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>& model) override {
    if (!mine(name)) return;
    auto read = io::import_step(value_);
    if (!read) return fail(read.error());
    model = *std::move(read);
  }
  void path(const char* name, model::SpacePath& path) override {
    if (!mine(name)) return;
    path = {};
    for (std::size_t i = 0; i < values_.size(); ++i) {
      const auto numbers = reals(values_[i]);
      const bool inner = i > 0 && i + 1 < values_.size();
      if (numbers.size() != 3 && !(inner && numbers.size() == 4))
        return wrong("corners x,y,z parted by \";\", inner ones with a bend radius: x,y,z,R");
      path.corners.emplace_back(numbers[0], numbers[1], numbers[2]);
      if (inner) path.bends.push_back(numbers.size() == 4 ? numbers[3] : 0);
    }
  }
  void step(const char* name, model::Id& id) override {
    if (!mine(name)) return;
    std::vector<std::string> known;
    for (const model::Step& s : document_.steps) {
      known.push_back(s.name);
      if (s.name == value_ || std::to_string(s.number) == value_) id = s.id;
    }
    if (id == 0) missing("step", known);
  }

 protected:
  void choose(const model::ChoiceInfo& info, int& index) override {
    if (!mine(info.name)) return;
    for (std::size_t k = 0; k < info.words.size(); ++k) {
      if (value_ != info.words[k]) continue;
      index = static_cast<int>(k);
      return;
    }
    wrong("one of " + listed(info.words));
  }

 private:
  bool mine(const char* name) {
    names.emplace_back(name);
    const bool is = name_ == name && !found;
    found = found || is;
    return is;
  }
  void fail(const Error& why) {
    if (!error) error = why;
  }
  void wrong(const std::string& takes) {
    fail({ErrorCode::InvalidInput, name_ + " takes " + takes + ", not \"" + value_ + "\"."});
  }
  void missing(const char* what, const std::vector<std::string>& known) {
    fail({ErrorCode::NotFound, "There is no " + std::string(what) + " of \"" + value_ + "\" for " +
                                   name_ +
                                   (known.empty() ? "." : ". There are: " + listed(known) + ".")});
  }
  void nothing_at(const char* what, const std::string& place) {
    fail({ErrorCode::NotFound, "There is no " + std::string(what) + " of the model at " + place +
                                   ", which " + name_ + " asks for."});
  }
  std::optional<double> real(const std::string& text) {
    double value = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (code == std::errc() && end == text.data() + text.size() && std::isfinite(value))
      return value;
    wrong("a number");
    return std::nullopt;
  }
  std::vector<double> reals(const std::string& text) {
    std::vector<double> numbers;
    for (const std::string& one : parts_of(text, ',')) {
      if (const auto value = real(one)) numbers.push_back(*value);
    }
    return numbers;
  }
  model::Id sketch_of(const std::string& name) {
    std::vector<std::string> known;
    for (const auto& s : document_.sketches) {
      known.push_back(s->name);
      if (s->name == name) return s->id;
    }
    missing("sketch", known);
    return 0;
  }
  std::optional<std::size_t> face_at(const std::string& place) {
    const auto at = parse_vector(place);
    if (!at) {
      fail(at.error());
      return std::nullopt;
    }
    const auto face = face_near(before_, *at);
    if (!face) nothing_at("face", place);
    return face;
  }
  void take_surface(model::Reference& r) {
    if (const fit::SurfaceFit* fit = document_.fit_of({r.region, r.fit}))
      r.surface = fit::transformed(fit->surface, document_.to_part());
  }

  const Document& document_;
  const model::Model& before_;
  std::string name_, value_;
  std::vector<std::string> values_;
};

}  // namespace

Json describe_fields(const model::FeatureKind& kind) {
  Teller teller;
  kind.make().describe(teller);
  return teller.told;
}

Status set_fields(const Document& document, const model::Model& before,
                  const std::vector<std::string>& words, model::Feature& feature,
                  std::set<std::string>& typed) {
  for (const std::string& word : words) {
    const auto sign = word.find('=');
    if (sign == std::string::npos)
      return Error{ErrorCode::InvalidInput, "Say NAME=VALUE, not \"" + word + "\"."};
    const std::string name = trimmed(word.substr(0, sign));
    Setter setter(document, before, name, trimmed(word.substr(sign + 1)));
    feature.describe(setter);
    if (setter.error) return *setter.error;
    if (!setter.found)
      return Error{ErrorCode::InvalidInput, std::string(feature.kind().title) + " has no \"" +
                                                name + "\". There are: " + listed(setter.names) +
                                                "."};
    if (setter.is_number) typed.insert(name);
  }
  return Done{};
}

}  // namespace lostline::cli
