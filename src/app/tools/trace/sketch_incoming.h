#pragma once

#include <vector>

namespace lostline::app {

inline constexpr const char* kBringIn = "bring in";
inline constexpr const char* kBringInCut = "bring in the cut";

/// One way in which the card of a sketch takes over what is there already.
struct Incoming {
  const char* command;
  const char* title;
  const char* tip;
  int key;  ///< after the leader key G
};
const std::vector<Incoming>& incoming();

}  // namespace lostline::app
