// A library that follows a null pointer does not take the program with it.
#include "base/fault.h"

#include <gtest/gtest.h>

#include <array>
#include <cstdint>
#include <stdexcept>
#include <thread>

namespace lostline {
namespace {

/// What a member of an object at address zero looks like to the processor.
void follow_null() {
  volatile int* const member = reinterpret_cast<volatile int*>(16);  // NOLINT
  *member = 1;
}

TEST(Fault, ANullAccessEndsTheWorkAndNotTheProgram) {
  for (int k = 0; k < 3; ++k) {
    volatile int reached = 0;  // outlives the jump
    EXPECT_FALSE(survives_null_access([&] {
      reached = 1;
      follow_null();
      reached = 2;
    }));
    EXPECT_EQ(static_cast<int>(reached), 1);
    EXPECT_TRUE(survives_null_access([&] { reached = 3; }));
    EXPECT_EQ(static_cast<int>(reached), 3);
  }
}

TEST(Fault, TheInnermostGuardHearsOfItAndTheOuterWorkGoesOn) {
  bool inner = true;
  EXPECT_TRUE(survives_null_access([&] { inner = survives_null_access(follow_null); }));
  EXPECT_FALSE(inner);
  EXPECT_FALSE(survives_null_access([&] {
    EXPECT_TRUE(survives_null_access([] {}));
    follow_null();
  }));
}

TEST(Fault, ExceptionsPassAndLeaveNoGuardBehind) {
  EXPECT_THROW(static_cast<void>(survives_null_access([] { throw std::runtime_error("no"); })),
               std::runtime_error);
  EXPECT_FALSE(survives_null_access(follow_null));
}

TEST(Fault, EveryThreadHasItsOwn) {
  std::array<bool, 4> survived{};
  std::vector<std::thread> threads;
  for (std::size_t k = 0; k < survived.size(); ++k) {
    threads.emplace_back([&survived, k] {
      survived[k] = survives_null_access([k] {
        if (k % 2 == 0) follow_null();
      });
    });
  }
  for (std::thread& t : threads) t.join();
  EXPECT_EQ(survived, (std::array<bool, 4>{false, true, false, true}));
}

TEST(FaultDeathTest, AnyOtherAccessStillEndsIt) {
  ::testing::FLAGS_gtest_death_test_style = "threadsafe";
  for (const std::uintptr_t address : {0x10000000ULL, 0x7000000000000010ULL}) {
    EXPECT_DEATH(static_cast<void>(survives_null_access([address] {
                   *reinterpret_cast<volatile int*>(address) = 1;  // NOLINT
                 })),
                 "");
  }
}

}  // namespace
}  // namespace lostline
