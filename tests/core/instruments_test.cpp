// The talk with instruments over a local socket, and what touches of a probe say.
#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <future>
#include <numbers>
#include <random>
#include <thread>

#include "cloud/table.h"
#include "deviation/deviation.h"
#include "fit/surface_kind.h"
#include "instruments/client.h"
#include "instruments/probing.h"
#include "simulate/parts.h"
#include "simulate/touch_probe.h"
#include "simulate/turntable.h"
#include "support/rounds.h"
#include "support/places.h"

namespace lostline {
namespace {

using namespace instruments;

/// Turned and shifted anyhow.
Transform any_pose(std::mt19937& rng) {
  std::normal_distribution<double> n(0, 1);
  std::uniform_real_distribution<double> shift(-500, 500);
  Transform pose(Eigen::Quaterniond(n(rng), n(rng), n(rng), n(rng)).normalized());
  pose.translation() = Vec3(shift(rng), shift(rng), shift(rng));
  return pose;
}

std::string socket_name(const char* name) {
  return (testing::scratch() /
          (std::string("lostline-") + name + std::to_string(::getpid())))
      .string();
}

/// An instrument that serves on a thread of its own for one talk.
class Served {
 public:
  Served(Instrument& instrument, std::string path)
      : done_(std::async(std::launch::async, [&instrument, path, this] {
          return serve(instrument, path, Task(stop_.get_token()), 1);
        })) {
    for (int k = 0; k < 200 && !std::filesystem::exists(path); ++k)
      std::this_thread::sleep_for(std::chrono::milliseconds(10));
  }
  ~Served() {
    stop_.request_stop();
    done_.wait();
  }

 private:
  std::stop_source stop_;
  std::future<Status> done_;
};

TEST(Protocol, LinesAreReadAsTheyWereWritten) {
  const auto message = parse(line_of("TOUCHED", {1.25, -3, 0.00004}) + " plane 3\r");
  ASSERT_TRUE(message);
  EXPECT_EQ(message->word, "TOUCHED");
  const auto numbers = message->numbers(3);
  ASSERT_TRUE(numbers);
  EXPECT_EQ(*numbers, (std::vector<double>{1.25, -3, 0.00004}));
  EXPECT_EQ(message->rest.back(), "3");
  EXPECT_FALSE(message->numbers(4));
  EXPECT_FALSE(parse("   "));
  EXPECT_FALSE(parse(std::string(5000, 'x')));
  EXPECT_FALSE(parse("P 1 nan 3")->numbers(3));
  EXPECT_FALSE(parse("P 1 1e400 3")->numbers(3));
}

TEST(Protocol, AnIntroductionComesBackWhole) {
  Introduction said;
  said.kind = Introduction::Kind::Probe;
  said.name = "arm of the shop";
  said.noise = 0.004;
  said.tip = 2;
  said.gives_centres = false;
  Introduction heard;
  for (const std::string& line : lines_of(said)) {
    const auto message = parse(line);
    ASSERT_TRUE(message);
    if (message->word == "READY") continue;
    ASSERT_TRUE(take(*message, heard));
  }
  EXPECT_EQ(heard.name, said.name);
  EXPECT_EQ(heard.tip, 2);
  EXPECT_EQ(heard.noise, 0.004);
  EXPECT_FALSE(heard.gives_centres);
  // What a later version says more is passed over; nonsense is not.
  EXPECT_TRUE(take(*parse("COLOUR red"), heard));
  EXPECT_FALSE(take(*parse("INSTRUMENT oven"), heard));
  EXPECT_FALSE(take(*parse("TIP -3"), heard));
}

TEST(LineSocket, SaysWhyThereIsNoTalk) {
  EXPECT_EQ(LineSocket::connect("/nowhere/at/all").error().code, ErrorCode::Io);
  EXPECT_EQ(LineSocket::connect(std::string(300, 'x')).error().code, ErrorCode::Io);
  // A file is not taken for a socket that was left behind.
  const std::string file = socket_name("file");
  { std::ofstream(file) << "keep me"; }
  EXPECT_FALSE(LineListener::listen(file));
  EXPECT_EQ(std::filesystem::file_size(file), 7U);
  std::filesystem::remove(file);
}

TEST(LineSocket, ANameIsTakenOverOnlyWhereNobodyWaits) {
  const std::string path = socket_name("name");
  {
    const auto first = LineListener::listen(path);
    ASSERT_TRUE(first);
    const auto second = LineListener::listen(path);
    ASSERT_FALSE(second);
    EXPECT_NE(second.error().message.find("in use"), std::string::npos);
  }
  EXPECT_FALSE(std::filesystem::exists(path));
  EXPECT_TRUE(LineListener::listen(path));
}

/// Answers everything with the same lines.
class Parrot : public Instrument {
 public:
  explicit Parrot(std::vector<std::string> lines) : lines_(std::move(lines)) {}
  [[nodiscard]] Introduction introduction() const override { return {}; }
  void begin() override {}
  Status answer(const Message&, const Send& send, const Task&) override {
    for (const std::string& line : lines_) {
      if (const Status sent = send(line); !sent) return sent;
    }
    return Done{};
  }

 private:
  std::vector<std::string> lines_;
};

TEST(Client, WhatMakesNoSenseIsSaid) {
  for (const std::vector<std::string>& lines : {std::vector<std::string>{"VIEW 1 0 0 0 -5"},
                                                {"VIEW 1 0 0 0 1e300"},
                                                {"VIEW one"},
                                                {"VIEW 1 0 0 0 2", "P 1 2 3 0 0 1", "Q"},
                                                {"VIEW 1 0 0 0 1", "P 1 2"},
                                                {""},
                                                {"ERROR the lamp is off"}}) {
    Parrot parrot(lines);
    const std::string path = socket_name("parrot");
    const Served served(parrot, path);
    auto client = Client::connect(path);
    ASSERT_TRUE(client) << client.error().message;
    Client open = *std::move(client);
    const auto view = open.next_view({});
    ASSERT_FALSE(view);
    EXPECT_FALSE(view.error().message.empty());
    if (lines.front().starts_with("ERROR")) {
      EXPECT_NE(view.error().message.find("the lamp is off"), std::string::npos);
    }
  }
}

TEST(Client, AViewCanBeStoppedWhileTheInstrumentIsSilent) {
  Parrot parrot({"VIEW 1 0 0 0 100", "P 1 2 3 0 0 1"});  // and never the rest
  const std::string path = socket_name("silent");
  const Served served(parrot, path);
  auto client = Client::connect(path);
  ASSERT_TRUE(client);
  Client open = *std::move(client);
  std::stop_source stop;
  std::jthread later([&] {
    std::this_thread::sleep_for(std::chrono::milliseconds(100));
    stop.request_stop();
  });
  const auto view = open.next_view(Task(stop.get_token()));
  ASSERT_FALSE(view);
  EXPECT_EQ(view.error().code, ErrorCode::Cancelled);
}

TEST(Turntable, ViewsComeOverTheSocketAsTheyWereTaken) {
  simulate::TurntableOptions options;
  options.views = 3;
  options.spacing = 4;
  auto table = simulate::Turntable::make(simulate::pedestal(), options);
  ASSERT_TRUE(table) << table.error().message;
  const std::string path = socket_name("table");
  const Served served(**table, path);
  auto client = Client::connect(path);
  ASSERT_TRUE(client);
  Client open = *std::move(client);
  EXPECT_EQ(open.instrument().views, 3);
  EXPECT_NEAR(open.instrument().noise, 0.02, 1e-9);
  for (int k = 0; k < 3; ++k) {
    const auto view = open.next_view({});
    ASSERT_TRUE(view) << view.error().message;
    ASSERT_TRUE(*view);
    const View taken = (*table)->view(k);
    ASSERT_EQ((*view)->cloud.points.size(), taken.cloud.points.size());
    for (std::size_t i = 0; i < taken.cloud.points.size(); i += 37)
      EXPECT_LT(((*view)->cloud.points[i] - taken.cloud.points[i]).norm(), 2e-5);
  }
  const auto last = open.next_view({});
  ASSERT_TRUE(last);
  EXPECT_FALSE(*last);
  EXPECT_FALSE(open.touch(Vec3::Zero(), Vec3::UnitZ(), {}));  // a scanner does not touch
}

TEST(Turntable, PointsLieOnThePartOrTheTableAndTheUndersideIsNotSeen) {
  simulate::TurntableOptions options;
  options.spacing = 2;
  options.views = 8;
  options.seed = 91;
  const model::Model part = simulate::pedestal();
  auto table = simulate::Turntable::make(part, options);
  ASSERT_TRUE(table);
  const auto comparator = deviation::Comparator::build(part);
  ASSERT_TRUE(comparator);
  const Transform back = (*table)->pose().inverse();
  scan::PointCloud all;
  double squares = 0;
  std::size_t on_part = 0;
  for (int k = 0; k < options.views; ++k) {
    const View view = (*table)->view(k);
    for (std::size_t i = 0; i < view.cloud.points.size(); ++i) {
      const Vec3& p = view.cloud.points[i];
      EXPECT_GT(view.cloud.normals[i].dot(view.eye - p), 0);
      all.points.push_back(p);
      all.normals.push_back(view.cloud.normals[i]);
      if (std::abs(p.z()) < 0.2) continue;
      const Vec3 at = back * p;
      const double off = comparator->at(at).distance;
      squares += off * off;
      ++on_part;
      EXPECT_GT(at.z(), -0.3);  // the foot's underside lies on the table
    }
  }
  ASSERT_GT(on_part, 10000U);
  EXPECT_NEAR(std::sqrt(squares / static_cast<double>(on_part)), options.noise,
              0.5 * options.noise);
  // The table is found, and what is left when it is cut away is the part.
  const auto found = cloud::find_table(all, options.spacing);
  ASSERT_TRUE(found);
  EXPECT_GT(found->normal.z(), 1 - 1e-6);
  EXPECT_LT(std::abs(found->point.z()), 0.01);
  const auto keep = cloud::above(*found, all.points, options.spacing);
  const auto left = static_cast<std::size_t>(std::count(keep.begin(), keep.end(), true));
  EXPECT_GT(left, on_part * 95 / 100);
  EXPECT_LE(left, on_part);
}

TEST(Table, APartAloneHasNoneInAnyPose) {
  std::mt19937 rng(31);
  const model::Model part = simulate::pedestal();
  simulate::TurntableOptions options;
  options.table = false;
  options.spacing = 3;
  auto scanner = simulate::Turntable::make(part, options);
  ASSERT_TRUE(scanner);
  scan::PointCloud all;
  const Transform pose = any_pose(rng);
  for (int k = 0; k < 6; ++k) {
    const View view = (*scanner)->view(2 * k);
    for (std::size_t i = 0; i < view.cloud.points.size(); ++i) {
      all.points.emplace_back(pose * view.cloud.points[i]);
      all.normals.emplace_back(pose.linear() * view.cloud.normals[i]);
    }
  }
  EXPECT_FALSE(cloud::find_table(all, options.spacing));
}

TEST(Table, ACoarseCloudHasItsTableAndNotAFaceParallelToIt) {
  // Points further apart than the foot is thick: its top must not be taken together with the table.
  const model::Model part = simulate::pedestal();
  for (const double spacing : {3.0, 6.0, 9.0}) {
    simulate::TurntableOptions options;
    options.spacing = spacing;
    options.seed = 92;
    auto scanner = simulate::Turntable::make(part, options);
    ASSERT_TRUE(scanner);
    scan::PointCloud all;
    for (int k = 0; k < options.views; ++k) {
      const View view = (*scanner)->view(k);
      all.points.insert(all.points.end(), view.cloud.points.begin(), view.cloud.points.end());
      all.normals.insert(all.normals.end(), view.cloud.normals.begin(), view.cloud.normals.end());
    }
    const auto found = cloud::find_table(all, spacing);
    ASSERT_TRUE(found) << spacing;
    EXPECT_LT(std::abs(found->point.z()), 0.05) << spacing;
    EXPECT_LT(found->noise, 0.1) << spacing;
  }
}

TEST(Table, TheFloorOfATrayIsNone) {
  // A flat floor with a rim all round that stands up from it, seen from above.
  std::mt19937 rng(32);
  std::uniform_real_distribution<double> at(-50, 50);
  scan::PointCloud cloud;
  for (int k = 0; k < 20000; ++k) {
    const Vec3 p(at(rng), at(rng), 0);
    const bool rim = std::max(std::abs(p.x()), std::abs(p.y())) > 45;
    cloud.points.emplace_back(p + (rim ? Vec3(0, 0, 8) : Vec3::Zero()));
    cloud.normals.emplace_back(Vec3::UnitZ());
  }
  EXPECT_FALSE(cloud::find_table(cloud, 0.7));
}

/// Touches of a surface with a ball: centres at its radius over places spread over it.
struct Touched {
  std::vector<Touch> touches;
  std::vector<Vec3> places;
};
Touched touched(const fit::Surface& s, const std::function<Vec3(double, double)>& place,
                std::size_t count, double tip, double noise, std::mt19937& rng) {
  std::uniform_real_distribution<double> share(0, 1);
  std::normal_distribution<double> scatter(0, noise);
  Touched made;
  for (std::size_t k = 0; k < count; ++k) {
    const Vec3 p =
        place((static_cast<double>(k) + share(rng)) / static_cast<double>(count), share(rng));
    const Vec3 n = s.normal_at(p);
    made.places.push_back(p);
    made.touches.push_back({p + tip * n + Vec3(scatter(rng), scatter(rng), scatter(rng)), n});
  }
  return made;
}

/// A surface with places on it, in millimetres about the origin.
struct Case {
  Probed kind;
  fit::Surface surface;
  std::function<Vec3(double, double)> place;
};
std::vector<Case> cases(double size, bool hollow) {
  std::vector<Case> all;
  fit::Surface s;
  s.kind = fit::Kind::Plane;
  all.push_back({Probed::Plane, s, [size](double a, double b) {
                   return Vec3(size * std::cos(6.28 * a) * (0.5 + 0.5 * b),
                               size * std::sin(6.28 * a), 0);
                 }});
  s.kind = fit::Kind::Cylinder;
  s.radius = 0.4 * size;
  s.hollow = hollow;
  all.push_back({Probed::Cylinder, s, [size](double a, double b) {
                   return Vec3(0.4 * size * std::cos(6.28 * a), 0.4 * size * std::sin(6.28 * a),
                               size * (b < 0.5 ? 0.5 * b : 1 - 0.5 * b));
                 }});
  s.kind = fit::Kind::Sphere;
  all.push_back({Probed::Sphere, s, [size](double a, double b) {
                   const double z = 0.2 + 0.7 * b;
                   const double r = std::sqrt(1 - z * z);
                   return Vec3(0.4 * size *
                               Vec3(r * std::cos(6.28 * a), r * std::sin(6.28 * a), z));
                 }});
  s.kind = fit::Kind::Cone;
  s.half_angle = 0.3;
  all.push_back({Probed::Cone, s, [size](double a, double b) {
                   const double z = size * (b < 0.5 ? 0.5 * b : 1 - 0.5 * b);
                   const double r = 0.4 * size + z * std::tan(0.3);
                   return Vec3(r * std::cos(6.28 * a), r * std::sin(6.28 * a), z);
                 }});
  return all;
}

TEST(Probing, TheBallIsTakenOffExactlyOfBossesAndBores) {
  std::mt19937 rng(41);
  for (const double size : {5.0, 60.0, 3000.0}) {
    for (const bool hollow : {false, true}) {
      for (const Case& c : cases(size, hollow)) {
        const Transform pose = any_pose(rng);
        const double tip = 0.05 * size;
        Touched made = touched(c.surface, c.place, 16, tip, 0, rng);
        for (Touch& t : made.touches) t = {pose * t.at, pose.linear() * t.out};
        const auto fitted = fit_touches(c.kind, made.touches, tip, 1e-6 * size);
        ASSERT_TRUE(fitted) << about(c.kind).name << " " << size << ": " << fitted.error().message;
        const fit::Surface& found = fitted->fit->surface;
        const double exact = 1e-6 * size;
        if (fit::about(found.kind).has_radius && found.kind != fit::Kind::Cone) {
          EXPECT_NEAR(found.radius, c.surface.radius, exact) << about(c.kind).name;
        }
        EXPECT_EQ(found.hollow, c.surface.hollow && found.kind != fit::Kind::Plane);
        EXPECT_NEAR(found.half_angle, c.surface.kind == fit::Kind::Cone ? 0.3 : 0, 1e-6);
        for (std::size_t k = 0; k < made.places.size(); ++k) {
          EXPECT_LT(std::abs(found.distance(pose * made.places[k])), exact);
          EXPECT_LT((fitted->places[k] - pose * made.places[k]).norm(), 10 * exact);
        }
      }
    }
  }
}

TEST(Probing, CirclesLinesAndSlotsAreTouchedInTheirPlane) {
  std::mt19937 rng(43);
  const Transform pose = any_pose(rng);
  const double tip = 1.5;
  for (const bool hollow : {false, true}) {
    std::vector<Touch> touches;
    for (int k = 0; k < 7; ++k) {
      const Vec3 n(std::cos(0.9 * k), std::sin(0.9 * k), 0);
      const Vec3 out = hollow ? Vec3(-n) : n;
      touches.push_back({pose * (10 * n + tip * out), pose.linear() * out});
    }
    const auto circle = fit_touches(Probed::Circle, touches, tip, 0.001);
    ASSERT_TRUE(circle) << circle.error().message;
    EXPECT_NEAR(circle->fit->surface.radius, 10, 1e-7);
    EXPECT_EQ(circle->fit->surface.hollow, hollow);
    for (const Vec3& p : circle->places) EXPECT_NEAR((pose.inverse() * p).norm(), 10, 1e-7);
    // A slot of 30 between its centres and 12 wide; or a tongue of that outline.
    touches.clear();
    for (int k = 0; k < 14; ++k) {
      Vec3 p, n;
      const double t = -12 + 4.0 * (k % 7);
      if (k < 5) {
        n = Vec3(0, 1, 0);
        p = Vec3(t, 6, 0);
      } else if (k < 10) {
        n = Vec3(0, -1, 0);
        p = Vec3(t, -6, 0);
      } else {
        const double side = k % 2 == 0 ? 1 : -1;
        const double angle = 0.5 * (k - 11.5);
        n = Vec3(side * std::cos(angle), std::sin(angle), 0);
        p = Vec3(15 * side, 0, 0) + 6 * n;
      }
      const Vec3 out = hollow ? Vec3(-n) : n;
      touches.push_back({pose * (p + tip * out), pose.linear() * out});
    }
    const auto slot = fit_touches(Probed::Slot, touches, tip, 0.001);
    ASSERT_TRUE(slot) << slot.error().message;
    EXPECT_NEAR(slot->slot->radius, 6, 1e-6);
    EXPECT_NEAR((slot->slot->a - slot->slot->b).norm(), 30, 1e-6);
  }
  std::vector<Touch> line;
  for (int k = 0; k < 4; ++k)
    line.push_back({pose * Vec3(7.0 * k, 0, tip), pose.linear() * Vec3::UnitZ()});
  const auto straight = fit_touches(Probed::Line, line, tip, 0.001);
  ASSERT_TRUE(straight);
  EXPECT_LT(straight->fit->surface.distance(pose * Vec3(100, 0, 0)), 1e-7);
}

TEST(Probing, ItsUncertaintyHoldsTheTruth) {
  std::mt19937 rng(47);
  const double noise = 0.003;
  const int all = testing::rounds(600, 120, 20);
  for (const Case& c : cases(50, true)) {
    if (c.kind == Probed::Plane) continue;
    int held = 0;
    for (int k = 0; k < all; ++k) {
      const Touched made = touched(c.surface, c.place, about(c.kind).needed + 5, 1.5, noise, rng);
      const auto fitted = fit_touches(c.kind, made.touches, 1.5, noise);
      ASSERT_TRUE(fitted);
      const bool cone = c.kind == Probed::Cone;
      const double off = cone ? fitted->fit->surface.half_angle - 0.3
                              : fitted->fit->surface.radius - c.surface.radius;
      held += std::abs(off) <= (cone ? fitted->fit->u_half_angle : fitted->fit->u_radius) ? 1 : 0;
    }
    // Touches that scatter more than said count with what they show, so that a little more than 95
    // of a hundred hold.
    EXPECT_GE(held, 0.92 * all) << about(c.kind).name;
    if (all >= 200) {
      EXPECT_LE(held, 0.995 * all) << about(c.kind).name;
    }
  }
}

TEST(Probing, TooFewTouchesSayHowManyMore) {
  std::mt19937 rng(53);
  const Case cylinder = cases(50, false)[1];
  const Touched made = touched(cylinder.surface, cylinder.place, 4, 1, 0, rng);
  const auto fitted = fit_touches(Probed::Cylinder, made.touches, 1, 0.001);
  ASSERT_FALSE(fitted);
  EXPECT_NE(fitted.error().message.find("2 to go"), std::string::npos) << fitted.error().message;
  // On one line nothing holds a plane.
  std::vector<Touch> line;
  for (int k = 0; k < 6; ++k) line.push_back({Vec3(k, 2.0 * k, 0), Vec3::UnitZ()});
  EXPECT_FALSE(fit_touches(Probed::Plane, line, 1, 0.001));
  EXPECT_FALSE(fit_touches(Probed::Slot, line, 1, 0.001));
  // A ball that is said to be larger than the boss that it touched.
  const Touched small = touched(cylinder.surface, cylinder.place, 12, 1, 0, rng);
  EXPECT_FALSE(fit_touches(Probed::Cylinder, small.touches, 100, 0.001));
}

TEST(TouchProbe, ItsProgrammeGivesThePartAsDesigned) {
  const model::Model part = simulate::pedestal();
  simulate::TouchProbeOptions options;
  options.seed = 61;
  for (const bool centres : {true, false}) {
    options.gives_centres = centres;
    auto probe = simulate::TouchProbe::make(part, options);
    ASSERT_TRUE(probe) << probe.error().message;
    const std::string path = socket_name("probe");
    const Served served(**probe, path);
    auto client = Client::connect(path);
    ASSERT_TRUE(client);
    Client open = *std::move(client);
    EXPECT_EQ(open.instrument().gives_centres, centres);
    std::map<std::string, std::vector<Touch>> features;
    while (true) {
      const auto next = open.next_touch({});
      ASSERT_TRUE(next) << next.error().message;
      if (!*next) break;
      features[(*next)->feature].push_back((*next)->touch);
    }
    EXPECT_GE(features.size(), 8U);
    const Transform back = (*probe)->pose().inverse();
    std::vector<double> bores;
    for (const auto& [name, touches] : features) {
      const ProbedKind* kind = probed_kind_of(name);
      ASSERT_NE(kind, nullptr) << name;
      const auto fitted = fit_touches(kind->kind, touches, centres ? 0.5 * options.tip : 0,
                                      open.instrument().noise);
      ASSERT_TRUE(fitted) << name << ": " << fitted.error().message;
      EXPECT_LT(fitted->fit->rms, 0.005) << name;
      const auto comparator = deviation::Comparator::build(part);
      for (const Vec3& p : fitted->places)
        EXPECT_LT(std::abs(comparator->at(back * p).distance), 0.012) << name;
      if (kind->kind == Probed::Cylinder && fitted->fit->surface.hollow)
        bores.push_back(2 * fitted->fit->surface.radius);
    }
    // The bore of 42 among them.
    EXPECT_TRUE(
        std::any_of(bores.begin(), bores.end(), [](double d) { return std::abs(d - 42) < 0.01; }));
    // Told where to touch: the top of the boss is 84 above the foot's underside.
    const Transform& pose = (*probe)->pose();
    const auto top = open.touch(pose * Vec3(30, 0, 84), pose.linear() * Vec3::UnitZ(), {});
    ASSERT_TRUE(top);
    ASSERT_TRUE(*top);
    EXPECT_NEAR((back * (*top)->at).z(), 84 + (centres ? 1.5 : 0), 0.01);
    const auto air = open.touch(pose * Vec3(0, 0, 300), pose.linear() * Vec3::UnitZ(), {});
    ASSERT_TRUE(air);
    EXPECT_FALSE(*air);
  }
}

}  // namespace
}  // namespace lostline
