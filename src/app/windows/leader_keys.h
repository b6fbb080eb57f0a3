#pragma once

#include <QString>
#include <vector>

#include "tools/tool.h"

namespace lostline::app {

// Views besides the principal ones.
constexpr int kFitView = 100;
constexpr int kFitSelection = 101;
constexpr int kWindow = 102;
constexpr int kNormal = 103;
constexpr int kClip = 104;
constexpr int kFlipClip = 105;
constexpr int kAsPoints = 106;

/// The second key after a leader key: a view, a tool of the rail, or a command of the running card.
struct LeaderKey {
  int key;
  const char* label;  ///< translated in the hint
  int view = -1;      ///< of BenchView::lookAlong, or kFitView
  const Tool* tool = nullptr;
  const char* command = nullptr;
};

/// A key that opens a hint in the status line; the next key picks.
struct Leader {
  int key;
  const char* title;
  std::vector<LeaderKey> keys;
};

const std::vector<Leader>& leaders();
const Leader* find_leader(int key);
const LeaderKey* find_key(const Leader& leader, int key);
/// "section: k plane section  s sketch".
QString hint(const Leader& leader);

}  // namespace lostline::app
