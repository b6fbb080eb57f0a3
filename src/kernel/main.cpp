// The geometry kernel in a process of its own: started by the application and the command line,
// which pass a socket, and gone with them.
#include <cstdio>
#include <cstdlib>

#include "base/memory.h"
#include "io/exchange_apart.h"
#include "model/apart/kernel_process.h"

int main(int argc, char** argv) {
  const int socket = argc == 2 ? std::atoi(argv[1]) : 0;
  if (socket <= 2) {
    std::fputs("lostline-kernel is started by lostline and lostline-cli.\n", stderr);
    return 2;
  }
  lostline::keep_freed_memory();
  std::vector<lostline::ApartWork> works = lostline::model::kernel_works();
  const auto& exchange = lostline::io::exchange_works();
  works.insert(works.end(), exchange.begin(), exchange.end());
  lostline::serve_apart(socket, works);
}
