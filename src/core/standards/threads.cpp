#include "standards/threads.h"

#include <cmath>

#include "base/text.h"

namespace lostline::standards {

std::string Thread::name() const {
  const std::string size = "M" + format_trimmed(diameter, 2);
  return coarse ? size : size + " \u00d7 " + format_trimmed(pitch, 2);
}

double Thread::tap_drill() const { return std::round((diameter - pitch) * 20) / 20; }

const std::vector<Thread>& metric_threads() {
  // ISO 261:1998, table 2, typed from memory of the table.
  static const std::vector<Thread> kTable{
      {1.6, 0.35, true}, {2, 0.4, true},    {2.5, 0.45, true}, {3, 0.5, true},   {3.5, 0.6, true},
      {4, 0.7, true},    {5, 0.8, true},    {6, 1, true},      {8, 1.25, true},  {8, 1, false},
      {10, 1.5, true},   {10, 1.25, false}, {10, 1, false},    {12, 1.75, true}, {12, 1.5, false},
      {12, 1.25, false}, {14, 2, true},     {14, 1.5, false},  {16, 2, true},    {16, 1.5, false},
      {18, 2.5, true},   {18, 2, false},    {18, 1.5, false},  {20, 2.5, true},  {20, 2, false},
      {20, 1.5, false},  {22, 2.5, true},   {22, 1.5, false},  {24, 3, true},    {24, 2, false},
      {27, 3, true},     {27, 2, false},    {30, 3.5, true},   {30, 2, false},   {33, 3.5, true},
      {33, 2, false},    {36, 4, true},     {36, 3, false},    {39, 4, true},    {39, 3, false},
      {42, 4.5, true},   {42, 3, false},    {45, 4.5, true},   {45, 3, false},   {48, 5, true},
      {48, 3, false},    {52, 5, true},     {56, 5.5, true},   {60, 5.5, true},  {64, 6, true}};
  return kTable;
}

}  // namespace lostline::standards
