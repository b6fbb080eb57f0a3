#include "io/step_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <cstdint>
#include <optional>
#include <vector>

namespace lostline::io {
namespace {

struct Instance {
  std::uint64_t name;
  std::size_t at;  // in the text
};

bool blank(char c) { return c == ' ' || c == '\t' || c == '\r' || c == '\n'; }
bool digit(char c) { return c >= '0' && c <= '9'; }

struct Named {
  std::vector<Instance> instances;  ///< "#12 =" where a statement begins
  std::optional<std::size_t> odd;   ///< a "#" without a number
};
Named names_in(std::string_view text) {
  Named found;
  bool begins = true;
  for (std::size_t k = 0; k < text.size(); ++k) {
    const char c = text[k];
    if (blank(c)) continue;
    if (c == '\'') {  // a string; within it an apostrophe is doubled
      k = text.find('\'', k + 1);
      if (k == std::string_view::npos) break;
    } else if (c == '/' && text.substr(k, 2) == "/*") {
      k = text.find("*/", k + 2);
      if (k == std::string_view::npos) break;
      ++k;
      continue;
    } else if (c == '#') {
      Instance instance{0, k};
      std::size_t at = k + 1;
      for (; at < text.size() && digit(text[at]); ++at)
        instance.name = 10 * instance.name + static_cast<std::uint64_t>(text[at] - '0');
      const bool named = at > k + 1;
      while (at < text.size() && blank(text[at])) ++at;
      if (!named && !found.odd) found.odd = k;
      if (begins && at < text.size() && text[at] == '=') found.instances.push_back(instance);
    }
    begins = c == ';';
  }
  return found;
}

}  // namespace

Status check_step_text(std::string_view text, const std::string& shown) {
  if (text.substr(0, 4096).find("ISO-10303-21") == std::string_view::npos)
    return Error{ErrorCode::InvalidInput,
                 shown + " is no STEP file: it does not begin with ISO-10303-21."};
  auto [instances, odd] = names_in(text);
  const auto line = [&](std::size_t at) {
    return 1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(at), '\n');
  };
  if (odd)
    return Error{ErrorCode::InvalidInput,
                 fmt::format("{} is damaged: a name in its line {} is none.", shown, line(*odd))};
  std::stable_sort(instances.begin(), instances.end(),
                   [](const Instance& a, const Instance& b) { return a.name < b.name; });
  const auto twice =
      std::adjacent_find(instances.begin(), instances.end(),
                         [](const Instance& a, const Instance& b) { return a.name == b.name; });
  if (twice == instances.end()) return Done{};
  return Error{ErrorCode::InvalidInput,
               fmt::format("{} is damaged: its lines {} and {} both define #{}.", shown,
                           line(twice->at), line((twice + 1)->at), twice->name)};
}

}  // namespace lostline::io
