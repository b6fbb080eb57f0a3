// Work in a process of its own: what becomes of it when that goes wrong.
#include "base/apart.h"

#include <gtest/gtest.h>
#include <signal.h>

#include <chrono>
#include <mutex>
#include <thread>
#include <vector>

namespace lostline {
namespace {

using Outcome = ApartAnswer::Outcome;

ApartOptions faulty() {
  ApartOptions options;
  options.program = find_apart_program("lostline-faulty");
  EXPECT_FALSE(options.program.empty());
  return options;
}

bool there(pid_t process) { return ::kill(process, 0) == 0; }

double seconds_of(const std::function<void()>& work) {
  const auto start = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

TEST(Apart, AnswersWhatItIsAskedAgainAndAgain) {
  ApartProcess process(faulty());
  for (const std::size_t size : {0U, 1U, 4096U, 20000000U}) {
    std::string text(size, 'x');
    for (std::size_t k = 0; k < size; k += 97) text[k] = static_cast<char>(k % 256);
    const ApartAnswer answer = process.ask("echo", text, {});
    EXPECT_EQ(answer.outcome, Outcome::Answered);
    EXPECT_TRUE(answer.bytes == text) << size;
  }
}

TEST(Apart, WhatGoesDownIsToldAndThisProcessGoesOn) {
  for (const char* work : {"null", "abort", "leave"}) {
    ApartProcess process(faulty());
    const pid_t id = process.process();
    EXPECT_EQ(process.ask(work, "", {}).outcome, Outcome::Died) << work;
    EXPECT_FALSE(process.alive()) << work;
    EXPECT_FALSE(there(id)) << work;
    EXPECT_EQ(process.ask("echo", "still?", {}).outcome, Outcome::Unavailable);
  }
}

TEST(Apart, ExceptionsAreToldAndTheProcessStays) {
  ApartProcess process(faulty());
  const ApartAnswer said = process.ask("throw", "", {});
  EXPECT_EQ(said.outcome, Outcome::Refused);
  EXPECT_EQ(said.bytes, "no way");
  EXPECT_EQ(process.ask("throw a number", "", {}).outcome, Outcome::Refused);
  EXPECT_EQ(process.ask("no such work", "", {}).outcome, Outcome::Refused);
  EXPECT_EQ(process.ask("echo", "here", {}).bytes, "here");
}

TEST(Apart, WhatDoesNotComeBackIsEnded) {
  for (const char* work : {"turn for ever", "sleep for ever"}) {
    ApartOptions options = faulty();
    options.silent = 0.3;
    options.idle = 1;
    ApartProcess process(options);
    const pid_t id = process.process();
    EXPECT_EQ(process.ask(work, "", {}).outcome, Outcome::Hung) << work;
    EXPECT_FALSE(there(id)) << work;
  }
  // One that says how far it is is not ended, however long it takes.
  ApartOptions options = faulty();
  options.silent = 0.1;
  options.idle = 0.15;
  ApartProcess process(options);
  EXPECT_EQ(process.ask("report", "", {}).outcome, Outcome::Answered);
}

TEST(Apart, IsStoppedByItselfOrByForce) {
  for (const bool willing : {true, false}) {
    ApartOptions options = faulty();
    options.grace = willing ? 20 : 0.2;
    ApartProcess process(options);
    std::stop_source stop;
    std::thread hand([&] {
      std::this_thread::sleep_for(std::chrono::milliseconds(100));
      stop.request_stop();
    });
    const double took = seconds_of([&] {
      EXPECT_EQ(process.ask(willing ? "turn" : "turn for ever", "", Task(stop.get_token())).outcome,
                Outcome::Stopped);
    });
    hand.join();
    EXPECT_LT(took, 10);
    EXPECT_EQ(process.alive(), willing);
    if (willing) {
      EXPECT_EQ(process.ask("echo", "next", {}).bytes, "next");
    }
  }
}

TEST(Apart, ProgressArrivesInOrder) {
  ApartProcess process(faulty());
  std::vector<double> shares;
  const Task task({}, [&](double share) { shares.push_back(share); });
  EXPECT_EQ(process.ask("report", "", task).outcome, Outcome::Answered);
  EXPECT_GT(shares.size(), 2U);
  EXPECT_TRUE(std::is_sorted(shares.begin(), shares.end()));
}

TEST(Apart, WithoutAProgramItSaysSo) {
  ApartOptions options;
  EXPECT_FALSE(ApartProcess(options).alive());
  EXPECT_EQ(ApartProcess(options).ask("echo", "", {}).outcome, Outcome::Unavailable);
  options.program = "/no/such/program";
  ApartProcess process(options);
  const Outcome outcome = process.ask("echo", "", {}).outcome;
  EXPECT_TRUE(outcome == Outcome::Unavailable || outcome == Outcome::Died);
  EXPECT_TRUE(find_apart_program("no such program").empty());
}

}  // namespace
}  // namespace lostline
