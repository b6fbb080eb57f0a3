#pragma once

#include <string>
#include <vector>

#include "model/feature.h"

// Every part of a kind of step changed in turn, as its description names them.

namespace lostline::testing {

/// Gives the n-th part of a feature another value, counting from 0; says whether there was one.
class Change : public model::Description {
 public:
  explicit Change(int n) : left_(n) {}
  [[nodiscard]] bool done() const { return left_ < 0; }
  [[nodiscard]] const std::string& what() const { return what_; }
  [[nodiscard]] bool in_force() const { return in_force_; }
  void number(const model::NumberInfo& info, model::Quantity& q) override {
    if (!now(info.name)) return;
    q.value += 0.37;
    in_force_ = info.in_force;
  }
  void count(const model::CountInfo& info, int& n) override {
    if (now(info.name)) n = n < info.most ? n + 1 : info.least;
  }
  void flag(const char* name, bool& on) override {
    if (now(name)) on = !on;
  }
  void reference(const model::ReferenceInfo& info, model::Reference& r) override {
    if (!now(info.name)) return;
    r.datum = (r.datum + 1) % 3;
    in_force_ = info.in_force;
  }
  void sketch(const char* name, model::Id& id) override {
    if (now(name)) id = id == 1 ? 2 : 1;
  }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>& ids) override {
    if (now(info.name)) ids.push_back(ids.empty() ? 1 : 2);
  }
  void path(const char* name, model::SpacePath& path) override {
    if (!now(name)) return;
    path.corners = {Vec3(0, 0, 0), Vec3(50, 0, 0), Vec3(50, 60, 1.5)};
    path.bends = {20};
  }
  void surface(const char* name, std::shared_ptr<const patch::SplineSurface>& surface) override {
    if (!now(name)) return;
    auto other = std::make_shared<patch::SplineSurface>(patch::SplineSurface::even(4, 5));
    for (std::size_t k = 0; k < other->poles.size(); ++k)
      other->poles[k] = Vec3(static_cast<double>(k / 5), static_cast<double>(k % 5), 0.25);
    surface = std::move(other);
  }
  void surfaces(const char* name, std::shared_ptr<const patch::SplineSurfaces>& surfaces) override {
    if (!now(name)) return;
    auto other = std::make_shared<patch::SplineSurfaces>(2, patch::SplineSurface::even(4, 4));
    for (std::size_t k = 0; k < 16; ++k)
      other->back().poles[k] = Vec3(static_cast<double>(k / 4), static_cast<double>(k % 4), 0.75);
    surfaces = std::move(other);
  }
  void curves(const char* name, std::vector<sketch::Id>& ids) override {
    if (now(name)) ids.push_back(17);
  }
  void curve(const char* name, sketch::Id& id) override {
    if (now(name)) ++id;
  }
  void areas(const char* name, std::vector<Vec2>& areas) override {
    if (now(name)) areas.emplace_back(1.5, -2.25);
  }
  void edges(const char* name, std::vector<model::EdgeRef>& edges) override {
    if (now(name)) edges.push_back({"s1:end", "s1:side:12", Vec3(1, 2, 3)});
  }
  void faces(const char* name, std::vector<std::string>& faces) override {
    if (now(name)) faces.emplace_back("s1:end");
  }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>& bodies) override {
    if (now(info.name)) bodies.emplace_back("s1");
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>& imported) override {
    if (!now(name)) return;
    auto other = std::make_shared<model::Imported>();
    other->file = "bracket.step";
    other->hash = imported ? imported->hash + 1 : 0xfedcba9876543210U;
    imported = std::move(other);
  }
  void step(const char* name, model::Id& id) override {
    if (now(name)) id += 1;
  }
  void place(const char* name, Transform& place) override {
    if (now(name)) place.pretranslate(Vec3(1, 2.5, -3));
  }

 private:
  void choose(const model::ChoiceInfo& info, int& value) override {
    if (now(info.name)) value = (value + 1) % static_cast<int>(info.words.size());
  }
  bool now(const char* name) {
    if (left_ == 0) what_ = name;
    return left_-- == 0;
  }
  int left_;
  std::string what_;
  bool in_force_ = true;
};

/// A feature of a kind with each part in turn changed, and what that was.
struct Variant {
  model::Feature feature;
  std::string what;
  bool in_force;
};
inline std::vector<Variant> variants_of(const model::FeatureKind& kind) {
  std::vector<Variant> variants;
  for (int n = 0;; ++n) {
    model::Feature feature = kind.make();
    Change change(n);
    feature.describe(change);
    if (!change.done()) return variants;
    variants.push_back({std::move(feature), change.what(), change.in_force()});
  }
}

}  // namespace lostline::testing
