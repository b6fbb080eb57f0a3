// Whatever is inserted, moved, resized, parked, removed and taken back: the model is the one that
// its Route means, or a step says why not.
#include <gtest/gtest.h>

#include <random>

#include "model/steps/fillet/fillet.h"
#include "model/steps/offset_face/offset_face.h"
#include "model/steps/primitive/primitive.h"
#include "simulate/solids.h"
#include "steps/step_trial.h"
#include "support/rounds.h"

namespace lostline {
namespace {

using model::Model;

/// What can be done to a plate of 60 x 40 lying along x, in its units.
struct Act {
  enum class Kind { Plate, Slot, Raise, Round } kind = Kind::Plate;
  model::Id id = 0;
  double height = 20;       // of the plate
  double at = 0, wide = 0;  // of a slot across it: from x on
  double floor = 0;         // of a slot
  double by = 0;            // a raise of its top
  double radius = 0;        // along the top's edge at
  int side = 0;             // y = -20 or 20
  bool parked = false;
};
using Acts = std::vector<Act>;

/// The cross section along x, as the Route means it: independent of any kernel.
class Meant {
 public:
  /// False when the act has nothing to act on: its step must be broken.
  bool take(const Act& a) {
    switch (a.kind) {
      case Act::Kind::Plate:
        pieces_ = {{-30, 30, a.height, true, {0, 0}}};
        return true;
      case Act::Kind::Slot:
        part(a.at);
        part(a.at + a.wide);
        for (Piece& p : pieces_) {
          if (p.from < a.at - 1e-12 || p.to > a.at + a.wide + 1e-12 || p.height <= a.floor)
            continue;
          p = {p.from, p.to, a.floor, false, {0, 0}};
        }
        return true;
      case Act::Kind::Raise: {
        // The sides of a round follow its top in more than one way.
        for (const bool gone : edge_gone_) unsure_ = unsure_ || gone;
        bool any = false;
        for (Piece& p : pieces_) {
          any = any || p.top;
          if (p.top) p.height += a.by;
        }
        return any;
      }
      case Act::Kind::Round: {
        const auto side = static_cast<std::size_t>(a.side);
        if (edge_gone_[side]) return false;
        bool any = false;
        for (Piece& p : pieces_) {
          any = any || p.top;
          if (p.top) p.rounds[side] = a.radius;
        }
        edge_gone_[side] = any;
        return any;
      }
    }
    return false;
  }
  [[nodiscard]] double volume() const {
    double sum = 0;
    for (const Piece& p : pieces_) {
      double section = 40 * p.height;
      for (const double r : p.rounds) section -= (1 - std::numbers::pi / 4) * r * r;
      sum += (p.to - p.from) * section;
    }
    return sum;
  }
  [[nodiscard]] bool unsure() const { return unsure_; }

 private:
  struct Piece {
    double from, to, height;
    bool top;
    std::array<double, 2> rounds;
  };
  void part(double x) {
    for (std::size_t k = 0; k < pieces_.size(); ++k) {
      if (x <= pieces_[k].from || x >= pieces_[k].to) continue;
      Piece rest = pieces_[k];
      rest.from = pieces_[k].to = x;
      pieces_.insert(pieces_.begin() + static_cast<std::ptrdiff_t>(k) + 1, rest);
      return;
    }
  }
  std::vector<Piece> pieces_;
  std::array<bool, 2> edge_gone_{};
  bool unsure_ = false;
};

class Trial {
 public:
  Trial(unsigned seed) : random_(seed) {
    size_ = std::exp(std::uniform_real_distribution<double>(std::log(0.1), std::log(50))(random_));
    Act plate;
    plate.id = ++last_;
    plate.height = pick(18, 26);
    acts_ = {plate};
    model::RouteCache cache;
    const Model plain = model::recompute(steps(), {}, cache)->back().solid;
    const auto shape = model::tessellate(plain);
    for (int side = 0; side < 2; ++side) {
      const Vec3 at = size_ * Vec3(0, side == 0 ? -20 : 20, plate.height);
      for (const auto& edge : shape->edges) {
        const Vec3 middle = 0.5 * (edge.points.front() + edge.points.back());
        if ((middle - at).norm() < 0.1 * size_)
          edges_[static_cast<std::size_t>(side)] = plain.ref_of_edge(edge.edge, at);
      }
    }
    for (int k = 0; k < 2; ++k) insert();
  }

  void change() {
    before_.push_back(acts_);
    const int kind = whole(0, 9);
    if (kind < 4 || acts_.size() < 3) return insert();
    const auto any = static_cast<std::size_t>(whole(1, static_cast<int>(acts_.size()) - 1));
    if (kind < 6) {
      const Act moved = acts_[any];
      acts_.erase(acts_.begin() + static_cast<std::ptrdiff_t>(any));
      place(moved);
    } else if (kind == 6) {
      Act& a = acts_[static_cast<std::size_t>(whole(0, static_cast<int>(acts_.size()) - 1))];
      const Act::Kind same = a.kind;
      const model::Id id = a.id;
      a = by_chance(same);
      a.id = id;
    } else if (kind == 7) {
      acts_[any].parked = !acts_[any].parked;
    } else if (kind == 8) {
      acts_.erase(acts_.begin() + static_cast<std::ptrdiff_t>(any));
    } else {
      const auto back = static_cast<std::size_t>(whole(0, static_cast<int>(before_.size()) - 1));
      acts_ = before_[back];
      before_.resize(back + 1);
    }
  }

  struct Count {
    int steps = 0, told = 0, models = 0;
  };
  /// The model against what is meant.
  void check(Count& count) {
    const auto made = model::recompute(steps(), {}, cache_);
    ASSERT_TRUE(made);
    Meant meant;
    for (std::size_t k = 0; k < acts_.size(); ++k) {
      const model::StepResult& r = (*made)[k];
      if (acts_[k].parked) {
        EXPECT_EQ(r.state, model::StepState::Parked);
        continue;
      }
      Meant with = meant;
      const bool can = with.take(acts_[k]);
      if (r.state == model::StepState::Broken) {
        EXPECT_GT(r.reason.size(), 20U);
        count.steps += can;
        count.told += can;
        continue;
      }
      ++count.steps;
      EXPECT_TRUE(can) << "step " << k << " is sound and has nothing to act on\n" << words();
      meant = with;
    }
    const Model& solid = made->back().solid;
    if (!meant.unsure()) {
      ++count.models;
      EXPECT_NEAR(solid.volume() / std::pow(size_, 3), meant.volume(), 1e-5 * meant.volume())
          << words();
    }
  }
  /// The model against the one that is built from nothing.
  void compare() {
    const auto made = model::recompute(steps(), {}, cache_);
    ASSERT_TRUE(made);
    const Model& solid = made->back().solid;
    model::RouteCache nothing;
    const auto anew = model::recompute(steps(), {}, nothing);
    ASSERT_TRUE(anew);
    for (std::size_t k = 0; k < acts_.size(); ++k) {
      EXPECT_EQ((*anew)[k].state, (*made)[k].state) << k << "\n" << words();
      EXPECT_EQ((*anew)[k].reason, (*made)[k].reason);
    }
    const Model& other = anew->back().solid;
    EXPECT_NEAR(other.volume(), solid.volume(), 1e-9 * solid.volume()) << words();
    std::set<std::string> names;
    std::set<std::string> others;
    for (std::size_t f = 0; f < solid.face_count(); ++f) names.insert(solid.face_name(f));
    for (std::size_t f = 0; f < other.face_count(); ++f) others.insert(other.face_name(f));
    EXPECT_EQ(names, others) << words();
    EXPECT_EQ(names.size(), solid.face_count()) << words();
  }

  [[nodiscard]] std::string words() const {
    std::string text = "size " + std::to_string(size_) + "\n";
    for (const Act& a : acts_) {
      const char* name[] = {"plate", "slot", "raise", "round"};
      text += std::to_string(a.id) + " " + name[static_cast<int>(a.kind)] + " height " +
              std::to_string(a.height) + " at " + std::to_string(a.at) + " wide " +
              std::to_string(a.wide) + " floor " + std::to_string(a.floor) + " by " +
              std::to_string(a.by) + " radius " + std::to_string(a.radius) + " side " +
              std::to_string(a.side) + (a.parked ? " parked\n" : "\n");
    }
    return text;
  }

 private:
  double pick(double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random_);
  }
  int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }

  Act by_chance(Act::Kind kind) {
    Act a;
    a.kind = kind;
    a.height = pick(18, 26);
    a.at = pick(-27, 18);
    a.wide = pick(2, 9);
    a.floor = pick(5, 13);
    a.by = whole(0, 3) == 0 ? pick(-1, -0.2) : pick(0.3, 4);
    a.radius = pick(0.5, 2);
    a.side = whole(0, 1);
    return a;
  }
  void place(const Act& a) {
    const int behind = whole(1, static_cast<int>(acts_.size()));
    acts_.insert(acts_.begin() + behind, a);
  }
  void insert() {
    if (acts_.size() > 7) return;
    const int kind = whole(0, 5);
    Act a = by_chance(kind < 3 ? Act::Kind::Slot : kind < 5 ? Act::Kind::Raise : Act::Kind::Round);
    a.id = ++last_;
    place(a);
  }
  [[nodiscard]] model::Primitive block(const Vec3& low, const Vec3& high,
                                       model::Operation operation) const {
    model::Primitive b;
    b.shape = model::Primitive::Shape::Block;
    b.x_from.value = size_ * low.x();
    b.x_to.value = size_ * high.x();
    b.y_from.value = size_ * low.y();
    b.y_to.value = size_ * high.y();
    b.z_from.value = size_ * low.z();
    b.z_to.value = size_ * high.z();
    b.operation = operation;
    return b;
  }
  [[nodiscard]] model::Feature feature(const Act& a) const {
    switch (a.kind) {
      case Act::Kind::Plate:
        return block({-30, -20, 0}, {30, 20, a.height}, model::Operation::Add);
      case Act::Kind::Slot:
        return block({a.at, -50, a.floor}, {a.at + a.wide, 50, 90}, model::Operation::Cut);
      case Act::Kind::Raise: {
        model::OffsetFace raise;
        raise.faces = {"s1:z_high"};
        raise.distance.value = size_ * a.by;
        return raise;
      }
      case Act::Kind::Round: {
        model::Fillet round;
        round.edges = {edges_[static_cast<std::size_t>(a.side)]};
        round.radius.value = size_ * a.radius;
        return round;
      }
    }
    return {};
  }
  [[nodiscard]] std::vector<model::Step> steps() const {
    std::vector<model::Step> all;
    for (const Act& a : acts_) {
      model::Step step;
      step.id = a.id;
      step.number = static_cast<int>(10 * (all.size() + 1));
      step.name = "step " + std::to_string(a.id);
      step.parked = a.parked;
      step.feature = feature(a);
      all.push_back(std::move(step));
    }
    return all;
  }

  std::mt19937 random_;
  double size_ = 1;
  Acts acts_;
  std::vector<Acts> before_;
  model::RouteCache cache_;
  std::array<model::EdgeRef, 2> edges_;
  model::Id last_ = 0;
};

TEST(ChanceRoutes, TheModelIsTheOneThatIsMeantOrAStepSaysWhyNot) {
  const int sequences = testing::thorough() ? 2000 : 100;
  std::random_device chance;
  Trial::Count count;
  for (int k = 0; k < sequences && !::testing::Test::HasFailure(); ++k) {
    const unsigned seed = chance();
    SCOPED_TRACE("seed " + std::to_string(seed));
    Trial trial(seed);
    for (int change = 0; change < 4; ++change) {
      trial.change();
      trial.check(count);
    }
    trial.compare();
  }
  std::cout << count.steps << " steps, " << count.told << " of them told why not, " << count.models
            << " models as meant\n";
  EXPECT_LT(count.told, 0.03 * count.steps);
  if (!::testing::Test::HasFailure()) {
    EXPECT_GT(count.models, 2 * sequences);
  }
}

}  // namespace
}  // namespace lostline
