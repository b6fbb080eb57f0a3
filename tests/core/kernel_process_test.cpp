// The geometry kernel in a process of its own: what it is told arrives, what it makes is what this
// process would make, and a step that it goes down on is broken while the rest stands.
#include "model/apart/kernel_process.h"

#include <gtest/gtest.h>

#include <atomic>
#include <thread>

#include "described_variants.h"
#include "model/apart/steps_apart.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/kinds.h"
#include "steps/step_trial.h"
#include "store/feature_json.h"

namespace lostline {
namespace {

using model::Model;
using model::Packing;

template <class T>
std::string bytes_of(T value) {
  Packing packing;
  packing(value);
  return packing.bytes().take();
}

TEST(KernelProcess, EveryPartOfEveryKindOfStepArrives) {
  for (const model::FeatureKind* kind : model::feature_kinds()) {
    for (const testing::Variant& v : testing::variants_of(*kind)) {
      model::Step step{7, 70, "trial", true, v.feature};
      const std::string bytes = bytes_of(step);
      Packing packing(model::Bytes(bytes), {});
      model::Step back;
      packing(back);
      EXPECT_TRUE(packing.bytes().rest().empty()) << kind->key << " " << v.what;
      EXPECT_EQ(bytes_of(back), bytes) << kind->key << " " << v.what;
      EXPECT_EQ(store::write_feature(back.feature).dump(), store::write_feature(v.feature).dump())
          << kind->key << " " << v.what;
      EXPECT_EQ(back.name, "trial");
      EXPECT_TRUE(back.parked);
    }
  }
}

TEST(KernelProcess, BytesThatEndTooEarlyAreRefused) {
  model::Step step{7, 70, "trial", false, model::Primitive{}};
  const std::string bytes = bytes_of(step);
  for (std::size_t size = 0; size < bytes.size(); ++size) {
    Packing packing(model::Bytes(std::string_view(bytes).substr(0, size)), {});
    model::Step back;
    EXPECT_THROW(packing(back), std::runtime_error) << size;
  }
}

/// What one model has to share with another to be the same to whoever asks.
void expect_same(const Model& a, const Model& b) {
  ASSERT_EQ(a.body_count(), b.body_count());
  ASSERT_EQ(a.face_count(), b.face_count());
  EXPECT_NEAR(a.volume(), b.volume(), 1e-12 * std::abs(a.volume()));
  EXPECT_NEAR(a.area(), b.area(), 1e-12 * a.area());
  for (std::size_t i = 0; i < a.body_count(); ++i) {
    EXPECT_EQ(a.body(i).key, b.body(i).key);
    EXPECT_EQ(a.body(i).kind, b.body(i).kind);
    EXPECT_EQ(a.body(i).merged, b.body(i).merged);
    EXPECT_EQ(a.body(i).name, b.body(i).name);
    EXPECT_EQ(a.body(i).colour, b.body(i).colour);
  }
  for (std::size_t i = 0; i < a.face_count(); ++i) {
    EXPECT_EQ(a.face_name(i), b.face_name(i));
    EXPECT_EQ(a.body_of_face(i), b.body_of_face(i));
    const auto of_a = model::surface_of_face(a, i);
    const auto of_b = model::surface_of_face(b, i);
    ASSERT_EQ(of_a.has_value(), of_b.has_value());
    if (!of_a) continue;
    EXPECT_EQ(of_a->kind, of_b->kind);
    EXPECT_EQ(of_a->hollow, of_b->hollow);
    EXPECT_LT((of_a->point - of_b->point).norm(), 1e-12);
  }
}

/// Two bodies of which one has a name and a colour.
Model two_bodies() {
  const Model part = testing::bossed(1, 5);
  model::Primitive ball;
  ball.operation = model::Operation::NewBody;
  auto made = testing::attempt(ball, part);
  if (!made) made = part;
  std::vector<model::Body> bodies;
  for (std::size_t i = 0; i < made->body_count(); ++i) bodies.push_back(made->body(i));
  bodies.front().name = "pl\u00e4te";
  bodies.front().colour = model::Colour{1, 2, 255};
  bodies.front().merged = {"s4", "s9"};
  return made->dressed(bodies);
}

TEST(KernelProcess, AModelArrivesWhole) {
  for (const Model& model : {testing::bossed(1), testing::bossed(60, 4), two_bodies(), Model()}) {
    model::Bytes out;
    model::pack(out, model);
    const std::string bytes = out.take();
    model::Bytes in(bytes);
    const Model back = model::unpack(in, 0);
    EXPECT_TRUE(in.rest().empty());
    expect_same(model, back);
    EXPECT_EQ(back.valid(), model.valid());
  }
}

TEST(KernelProcess, MakesWhatThisProcessMakes) {
  ASSERT_TRUE(model::has_kernel_process());
  const Model part = testing::bossed(1, 5);
  const auto shape = model::tessellate(part);
  ASSERT_TRUE(shape);
  model::Fillet round;
  round.radius.value = 1.5;
  for (std::size_t e = 0; e < 6; ++e)
    round.edges.push_back(part.ref_of_edge(e, shape->edges[e].points.front()));
  model::Step step{90, 900, "round", false, round};
  const std::map<model::Id, model::PlacedSketch> sketches;
  const std::vector<model::Step> steps{step};
  const auto here = model::apply_here(step, {sketches, steps}, part);
  // The second time the process remembers the part.
  for (int k = 0; k < 2; ++k) {
    const auto there = model::apply_apart(step, {sketches, steps}, part);
    ASSERT_EQ(here.ok(), there.ok()) << (there ? here.error() : there.error()).message;
    if (here) expect_same(*here, *there);
  }
  // A size that does not work is refused in the same words.
  round.radius.value = 30;
  step.feature = round;
  const auto no = model::apply_here(step, {sketches, steps}, part);
  const auto none = model::apply_apart(step, {sketches, steps}, part);
  ASSERT_FALSE(no);
  ASSERT_FALSE(none);
  EXPECT_EQ(no.error().message, none.error().message);
}

/// The kernel's program replaced for as long as this lives.
class WithFaultyKernel {
 public:
  WithFaultyKernel() {
    model::KernelOptions options;
    options.silent = 0.5;
    model::use_kernel_program(find_apart_program("lostline-faulty"), options);
  }
  ~WithFaultyKernel() { model::use_kernel_program(find_apart_program("lostline-kernel")); }
  WithFaultyKernel(const WithFaultyKernel&) = delete;
  WithFaultyKernel& operator=(const WithFaultyKernel&) = delete;
};

TEST(KernelProcess, AStepThatItGoesDownOnIsBrokenAndTheRestStands) {
  const WithFaultyKernel faulty;
  std::vector<model::Step> steps;
  for (const char* name : {"plate", "deadly", "boss", "endless", "throwing", "rib"}) {
    const auto number = static_cast<double>(steps.size());
    model::Step step;
    step.id = steps.size() + 1;
    step.number = static_cast<int>(10 * step.id);
    step.name = name;
    step.feature = testing::block(Vec3(8 * number, 0, 0), 10);
    steps.push_back(step);
  }
  model::RouteCache cache;
  const auto results = model::recompute(steps, {}, cache);
  ASSERT_TRUE(results);
  for (const std::size_t k : {0U, 2U, 5U})
    EXPECT_EQ((*results)[k].state, model::StepState::Sound) << (*results)[k].reason;
  for (const std::size_t k : {1U, 3U, 4U}) {
    EXPECT_EQ((*results)[k].state, model::StepState::Broken);
    EXPECT_NE((*results)[k].reason.find(steps[k].name), std::string::npos) << (*results)[k].reason;
  }
  EXPECT_NE((*results)[1].reason.find("went down"), std::string::npos);
  EXPECT_NE((*results)[3].reason.find("come to an end"), std::string::npos);
  EXPECT_TRUE(results->back().solid.valid());
}

TEST(KernelProcess, SeveralAskAtOnce) {
  const Model part = testing::bossed(1, 5);
  std::vector<std::thread> threads;
  std::atomic<int> same{0};
  for (int t = 0; t < 4; ++t) {
    threads.emplace_back([&, t] {
      for (int k = 0; k < 3; ++k) {
        const auto made = testing::attempt(testing::block(Vec3(5.0 * t, 3.0 * k, 15), 12), part);
        if (made && made->valid()) ++same;
      }
    });
  }
  for (std::thread& thread : threads) thread.join();
  EXPECT_EQ(same, 12);
}

}  // namespace
}  // namespace lostline
