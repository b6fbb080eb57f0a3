#include "standards/bearings.h"

namespace lostline::standards {

const std::vector<Bearing>& bearings() {
  static const std::vector<Bearing> kTable = [] {
    constexpr double kBores[] = {10, 12, 15, 17, 20, 25, 30, 35, 40, 45, 50,
                                 55, 60, 65, 70, 75, 80, 85, 90, 95, 100};
    constexpr double kOutside60[] = {26, 28, 32,  35,  42,  47,  55,  62,  68,  75, 80,
                                     90, 95, 100, 110, 115, 125, 130, 140, 145, 150};
    constexpr double kOutside62[] = {30,  32,  35,  40,  47,  52,  62,  72,  80,  85, 90,
                                     100, 110, 120, 125, 130, 140, 150, 160, 170, 180};
    constexpr double kOutside63[] = {35,  37,  42,  47,  52,  62,  72,  80,  90,  100, 110,
                                     120, 130, 140, 150, 160, 170, 180, 190, 200, 215};
    std::vector<Bearing> table;
    for (std::size_t i = 0; i < std::size(kBores); ++i) {
      table.push_back({60, kBores[i], kOutside60[i]});
      table.push_back({62, kBores[i], kOutside62[i]});
      table.push_back({63, kBores[i], kOutside63[i]});
    }
    return table;
  }();
  return kTable;
}

}  // namespace lostline::standards
