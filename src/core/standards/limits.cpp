#include "standards/limits.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace lostline::standards {
namespace {

// Steps of nominal size, mm, upper ends included. ISO 286-1, table 1.
constexpr std::array<double, 13> kSteps{3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500};
using Row = std::array<int, 13>;

// IT4 … IT13 in micrometres, typed from memory of ISO 286-1:2010, table 1.
constexpr std::array<Row, 10> kGrades{{
    {3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20},
    {4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27},
    {6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40},
    {10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63},
    {14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97},
    {25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155},
    {40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250},
    {60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400},
    {100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630},
    {140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970},
}};

// Fundamental deviations of shafts in micrometres, from memory of ISO 286-1:2010, tables 4 and 5:
// the upper one for d to h, the lower one for k (IT4 to IT7) to p.
struct Letter {
  char letter;
  Row deviation;
};
constexpr std::array<Letter, 9> kLetters{{
    {'d', {-20, -30, -40, -50, -65, -80, -100, -120, -145, -170, -190, -210, -230}},
    {'e', {-14, -20, -25, -32, -40, -50, -60, -72, -85, -100, -110, -125, -135}},
    {'f', {-6, -10, -13, -16, -20, -25, -30, -36, -43, -50, -56, -62, -68}},
    {'g', {-2, -4, -5, -6, -7, -9, -10, -12, -14, -15, -17, -18, -20}},
    {'h', {0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0}},
    {'k', {0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5}},
    {'m', {2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23}},
    {'n', {4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40}},
    {'p', {6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68}},
}};
// r and s have finer steps above 50 mm.
constexpr std::array<double, 22> kFineSteps{3,   6,   10,  18,  30,  50,  65,  80,  100, 120, 140,
                                            160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500};
constexpr std::array<int, 22> kR{10, 15, 19, 23, 28, 34, 41, 43,  51,  54,  63,
                                 65, 68, 77, 80, 84, 94, 98, 108, 114, 126, 132};
constexpr std::array<int, 22> kS{14,  19,  23,  28,  35,  43,  53,  59,  71,  79,  92,
                                 100, 108, 122, 130, 140, 158, 170, 190, 208, 232, 252};

template <std::size_t N>
std::optional<std::size_t> step_of(const std::array<double, N>& steps, double nominal) {
  if (!(nominal > 0) || nominal > steps.back()) return std::nullopt;
  return static_cast<std::size_t>(std::lower_bound(steps.begin(), steps.end(), nominal) -
                                  steps.begin());
}

std::optional<int> micrometres(std::size_t step, int grade) {
  if (grade < 4 || grade > 13) return std::nullopt;
  return kGrades[static_cast<std::size_t>(grade - 4)][step];
}

/// Deviation of a shaft's letter nearest to zero, micrometres.
std::optional<int> shaft_deviation(char letter, double nominal) {
  if (letter == 'r' || letter == 's') {
    const auto step = step_of(kFineSteps, nominal);
    if (!step) return std::nullopt;
    return (letter == 'r' ? kR : kS)[*step];
  }
  const auto step = step_of(kSteps, nominal);
  for (const Letter& l : kLetters) {
    if (l.letter == letter && step) return l.deviation[*step];
  }
  return std::nullopt;
}

struct General {
  double upper;  // end of the range
  std::array<double, 4> deviation;
};

std::optional<double> look_up(const std::vector<General>& table, double value,
                              GeneralClass general) {
  for (const General& row : table) {
    if (value > row.upper) continue;
    const double deviation = row.deviation[static_cast<std::size_t>(general)];
    return deviation > 0 ? std::optional(deviation) : std::nullopt;
  }
  return std::nullopt;
}

}  // namespace

std::optional<double> standard_tolerance(double nominal, int grade) {
  const auto step = step_of(kSteps, nominal);
  if (!step) return std::nullopt;
  const auto tolerance = micrometres(*step, grade);
  return tolerance ? std::optional(*tolerance / 1000.0) : std::nullopt;
}

Result<Limits> limits_of(double nominal, const std::string& tolerance_class) {
  const Error unknown{
      ErrorCode::InvalidInput,
      "\"" + tolerance_class +
          "\" is not a tolerance class in the tables. Give one such as H7, g6, JS7."};
  const auto step = step_of(kSteps, nominal);
  if (!step)
    return Error{ErrorCode::InvalidInput, "ISO 286-1 limits are tabled from 0 to 500 mm here."};
  const auto digits = tolerance_class.find_first_of("0123456789");
  if (digits == std::string::npos || digits == 0 || digits + 2 < tolerance_class.size())
    return unknown;
  const std::string letters = tolerance_class.substr(0, digits);
  int grade = 0;
  for (const char c : tolerance_class.substr(digits)) {
    if (c < '0' || c > '9') return unknown;
    grade = 10 * grade + (c - '0');
  }
  const auto it = micrometres(*step, grade);
  if (!it) return unknown;
  const bool hole = letters[0] >= 'A' && letters[0] <= 'Z';
  std::string shaft = letters;
  for (char& c : shaft) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  Limits limits{tolerance_class, 0, 0, hole};
  if (shaft == "js") {
    limits.upper = *it / 2000.0;
    limits.lower = -limits.upper;
    return limits;
  }
  if (shaft.size() != 1) return unknown;
  const char letter = shaft[0];
  const auto deviation = shaft_deviation(letter, nominal);
  if (!deviation) return unknown;
  if (letter <= 'h') {  // away from the line of zero on the side of clearance
    limits.upper = hole ? -*deviation + *it : *deviation;
    limits.lower = hole ? -*deviation : *deviation - *it;
  } else if (!hole) {
    // k has its deviation for IT4 to IT7 only.
    const int from = letter == 'k' && grade > 7 ? 0 : *deviation;
    limits.lower = from;
    limits.upper = from + *it;
  } else {
    // Holes K to N up to IT8 and P to S up to IT7 keep the fit of the shaft of one grade finer: the
    // upper deviation is raised by the difference of the grades. ISO 286-1, 4.3.2.5.
    const bool raised = nominal > 3 && grade > 4 && (letter <= 'n' ? grade <= 8 : grade <= 7);
    int upper = -*deviation + (raised ? *it - *micrometres(*step, grade - 1) : 0);
    if (letter == 'k' && grade > 8) upper = 0;
    if (letter == 'n' && grade > 8) upper = nominal > 3 ? 0 : -4;
    limits.upper = upper;
    limits.lower = upper - *it;
  }
  limits.upper /= 1000.0;
  limits.lower /= 1000.0;
  return limits;
}

std::vector<Limits> classes_holding(double nominal, double reading, double u, bool hole) {
  static const std::vector<std::string> kHoles{"H6",  "H7",  "H8", "H9", "H11", "G7", "F8", "E9",
                                               "D10", "JS7", "K7", "N7", "P7",  "R7", "S7"};
  static const std::vector<std::string> kShafts{"h6", "h7",  "h9", "h11", "g6", "f7", "e8",
                                                "d9", "js6", "k6", "n6",  "p6", "r6", "s6"};
  std::vector<Limits> found;
  for (const std::string& name : hole ? kHoles : kShafts) {
    const auto limits = limits_of(nominal, name);
    if (!limits) continue;
    const double off = reading - nominal;
    if (off >= limits->lower - u && off <= limits->upper + u) found.push_back(*limits);
  }
  std::stable_sort(found.begin(), found.end(), [](const Limits& a, const Limits& b) {
    return a.upper - a.lower < b.upper - b.lower;
  });
  return found;
}

FitOfSizes fit_of_sizes(const Limits& hole, const Limits& shaft) {
  FitOfSizes fit{hole.lower - shaft.upper, hole.upper - shaft.lower, ""};
  fit.kind = fit.least >= 0  ? "clearance fit"
             : fit.most <= 0 ? "interference fit"
                             : "transition fit";
  return fit;
}

std::string fits_in_words(double nominal, const Limits& limits) {
  // The basic hole has shafts of all kinds, the basic shaft holes; another class has its basic
  // mate.
  const bool basic = limits.lower == 0 && limits.hole;
  const std::vector<std::string> mates = basic
                                             ? std::vector<std::string>{"g6", "k6", "p6"}
                                             : std::vector<std::string>{limits.hole ? "h6" : "H7"};
  std::string words;
  for (const std::string& mate : mates) {
    const auto other = limits_of(nominal, mate);
    if (!other) continue;
    const FitOfSizes fit =
        limits.hole ? fit_of_sizes(limits, *other) : fit_of_sizes(*other, limits);
    words += std::string(words.empty() ? "" : ", ") + fit.kind + (limits.hole ? " with " : " in ") +
             mate;
  }
  return words;
}

std::optional<double> general_length(double nominal, GeneralClass general) {
  // ISO 2768-1:1989, table 1, from memory.
  static const std::vector<General> kTable{
      {3, {0.05, 0.1, 0.2, 0}},     {6, {0.05, 0.1, 0.3, 0.5}},  {30, {0.1, 0.2, 0.5, 1}},
      {120, {0.15, 0.3, 0.8, 1.5}}, {400, {0.2, 0.5, 1.2, 2.5}}, {1000, {0.3, 0.8, 2, 4}},
      {2000, {0.5, 1.2, 3, 6}},     {4000, {0, 2, 4, 8}}};
  return nominal < 0.5 ? std::nullopt : look_up(kTable, nominal, general);
}

std::optional<double> general_radius(double nominal, GeneralClass general) {
  // ISO 2768-1:1989, table 2, from memory.
  static const std::vector<General> kTable{
      {3, {0.2, 0.2, 0.4, 0.4}}, {6, {0.5, 0.5, 1, 1}}, {1e9, {1, 1, 2, 2}}};
  return nominal < 0.5 ? std::nullopt : look_up(kTable, nominal, general);
}

std::optional<double> general_angle(double leg, GeneralClass general) {
  // ISO 2768-1:1989, table 3, from memory.
  static const std::vector<General> kTable{{10, {1, 1, 1.5, 3}},
                                           {50, {0.5, 0.5, 1, 2}},
                                           {120, {1 / 3.0, 1 / 3.0, 0.5, 1}},
                                           {400, {1 / 6.0, 1 / 6.0, 0.25, 0.5}},
                                           {1e9, {1 / 12.0, 1 / 12.0, 1 / 6.0, 1 / 3.0}}};
  return leg > 0 ? look_up(kTable, leg, general) : std::nullopt;
}

const char* class_letter(GeneralClass general) {
  constexpr std::array<const char*, 4> kLetter{"f", "m", "c", "v"};
  return kLetter[static_cast<std::size_t>(general)];
}

}  // namespace lostline::standards
