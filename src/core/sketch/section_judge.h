#pragma once

#include <memory>
#include <optional>

#include "sketch/solver.h"

namespace lostline::sketch {

/// What a section says of constraints that a sketch does not have yet: the sketch is fitted as it
/// is, and each constraint's departure compared with what the points leave open.
class SectionJudge {
 public:
  /// @errors as fit_to_section.
  static Result<SectionJudge> of(const Sketch& sketch, const section::Section& section,
                                 const FitOptions& options = {}, const Task& task = {});

  struct Departure {
    double off = 0;         ///< mm, of the equation that departs most
    double deviations = 0;  ///< in its standard uncertainties
    double rms = 0;         ///< mm: of the sketch about its section once it holds
  };
  /// Empty when the constraint does not go with what it names.
  [[nodiscard]] std::optional<Departure> departure(const Constraint& constraint) const;
  [[nodiscard]] double rms() const;  ///< mm: of the section points about the sketch as it is

 private:
  struct State;
  std::shared_ptr<const State> state_;
};

/// Constraints as suggest_constraints offers them, without those that the section contradicts: they
/// depart by more than 3.3 standard uncertainties and by more than `nothing` mm.
std::vector<Constraint> suggest_constraints(const Sketch& sketch, const section::Section& section,
                                            const FitOptions& fit, double nothing,
                                            const SuggestOptions& options = {},
                                            const Task& task = {});

/// The same, each with what it costs; empty costs where the section cannot be asked.
struct Suggestion {
  Constraint constraint;
  std::optional<SectionJudge::Departure> cost;
};
struct Suggestions {
  double rms = 0;  ///< mm: of the sketch about its section as it is
  std::vector<Suggestion> all;
};
Suggestions suggestions_with_cost(const Sketch& sketch, const section::Section& section,
                                  const FitOptions& fit, double nothing,
                                  const SuggestOptions& options = {}, const Task& task = {});

}  // namespace lostline::sketch
