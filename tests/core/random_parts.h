#pragma once

#include <array>

#include "random_formed.h"
#include "random_machined.h"
#include "simulate/scanner.h"

// Parts made at random within what a shop would make: no two seeds give the same, every surface is
// known.

namespace lostline::testing {

class RandomPart {
 public:
  explicit RandomPart(unsigned seed) : seed_(seed) {}

  struct Made {
    const char* kind;
    model::Model solid;
    simulate::SurfaceState surface = {};  ///< as cast where the foundry left it
  };
  [[nodiscard]] const char* kind() const { return maker().kind; }
  [[nodiscard]] Made make() const {
    Made made{maker().kind, maker().make(seed_)};
    if (made.kind == std::string("foundry")) {
      made.surface.roughness = [](const Vec3& p, const Vec3& n) {
        const bool bore = std::hypot(p.x(), p.y()) < 15 && std::abs(n.z()) < 0.01;
        return bore ? 0.004 : 0.03;
      };
    }
    return made;
  }

 private:
  struct Maker {
    const char* kind;
    model::Model (*make)(unsigned seed);
  };
  /// Every kind once in as many seeds that follow each other.
  [[nodiscard]] const Maker& maker() const {
    static const std::array kMakers{
        Maker{"milled", [](unsigned s) { return MachinedPart(s).milled(); }},
        Maker{"turned", [](unsigned s) { return MachinedPart(s).turned(); }},
        Maker{"flange", [](unsigned s) { return MachinedPart(s).flange(); }},
        Maker{"cast", [](unsigned s) { return MachinedPart(s).cast(); }},
        Maker{"bracket", [](unsigned s) { return MachinedPart(s).bracket(); }},
        Maker{"housing", [](unsigned s) { return MachinedPart(s).housing(); }},
        Maker{"detailed", [](unsigned s) { return MachinedPart(s).detailed(); }},
        Maker{"bevelled", [](unsigned s) { return MachinedPart(s).bevelled(); }},
        Maker{"tube", [](unsigned s) { return FormedPart(s).tube(); }},
        Maker{"sheet", [](unsigned s) { return FormedPart(s).sheet(); }},
        Maker{"punched", [](unsigned s) { return FormedPart(s).punched(); }},
        Maker{"foundry", [](unsigned s) { return FormedPart(s).foundry(); }},
    };
    return kMakers[seed_ % kMakers.size()];
  }
  unsigned seed_;
};

}  // namespace lostline::testing
