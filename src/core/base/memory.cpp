#include "base/memory.h"

#include <malloc.h>

namespace lostline {

void keep_freed_memory() {
  mallopt(M_MMAP_THRESHOLD, 64 << 20);   // larger arrays still go back at once
  mallopt(M_TRIM_THRESHOLD, 256 << 20);  // and what lies unused at the end beyond this
}

}  // namespace lostline
