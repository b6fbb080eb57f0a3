// A program of works that go wrong in every way that a library's can, for the tests of those who
// ask for them.
#include <chrono>
#include <cstdlib>
#include <stdexcept>
#include <thread>

#include "base/apart.h"
#include "model/apart/kernel_process.h"

namespace {

using lostline::ApartWork;
using lostline::Task;

void follow_null() {
  // What a member of an object at address zero looks like to the processor.
  volatile int* const member = reinterpret_cast<volatile int*>(16);  // NOLINT
  *member = 1;
}

void wait_a_little() { std::this_thread::sleep_for(std::chrono::milliseconds(2)); }

std::string turn(const Task& task) {
  const auto start = std::chrono::steady_clock::now();
  double seconds = 0;
  while (!task.stopped() && seconds < 30)
    seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
  return "stopped";
}

[[noreturn]] std::string turn_for_ever() {
  volatile long turns = 0;
  while (true) turns = turns + 1;
}

/// Steps of the Route by a kernel that goes down, or turns for ever, on those called so.
std::string apply(std::string_view request, const Task& task) {
  if (request.find("deadly") != std::string_view::npos) follow_null();
  if (request.find("throwing") != std::string_view::npos) throw std::runtime_error("no way");
  if (request.find("endless") != std::string_view::npos) turn_for_ever();
  for (const ApartWork& work : lostline::model::kernel_works())
    if (work.name == std::string_view("apply")) return work.run(request, task);
  return {};
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  lostline::serve_apart(
      std::atoi(argv[1]),
      {{"echo", [](std::string_view text, const Task&) { return std::string(text); }},
       {"null", [](std::string_view, const Task&) -> std::string { return follow_null(), ""; }},
       {"abort", [](std::string_view, const Task&) -> std::string { std::abort(); }},
       {"leave", [](std::string_view, const Task&) -> std::string { std::_Exit(0); }},
       {"throw",
        [](std::string_view, const Task&) -> std::string { throw std::runtime_error("no way"); }},
       {"throw a number", [](std::string_view, const Task&) -> std::string { throw 3; }},
       {"turn", [](std::string_view, const Task& task) { return turn(task); }},
       {"turn for ever", [](std::string_view, const Task&) { return turn_for_ever(); }},
       {"sleep for ever",
        [](std::string_view, const Task&) -> std::string {
          while (true) wait_a_little();
        }},
       {"report",
        [](std::string_view, const Task& task) {
          for (int k = 0; k <= 100; ++k) {
            task.report(k / 100.0);
            wait_a_little();
          }
          return std::string("done");
        }},
       {"apply", apply}});
}
