#include "standards/screws.h"

namespace lostline::standards {

const std::vector<ScrewSeat>& screw_seats() {
  static const std::vector<ScrewSeat> seats{
      {"M3", 3.4, 6.5, 3.4, 6.3}, {"M4", 4.5, 8, 4.4, 9.4},   {"M5", 5.5, 10, 5.4, 10.4},
      {"M6", 6.6, 11, 6.4, 12.6}, {"M8", 9, 15, 8.6, 17.3},   {"M10", 11, 18, 10.6, 20},
      {"M12", 13.5, 20, 12.6, 0}, {"M16", 17.5, 26, 16.6, 0}, {"M20", 22, 33, 20.6, 0},
      {"M24", 26, 40, 24.8, 0},
  };
  return seats;
}

}  // namespace lostline::standards
