#pragma once

#include <functional>

#include "model/steps/kinds.h"
#include "tools/tool_card.h"

namespace lostline::app {

/// A tool of the stage Build: the card that makes and edits steps of a kind.
struct StepCard {
  const model::FeatureKind* kind;
  QString name, icon, tip;
  bool on_bodies;  ///< works on whole bodies or brings them
  int key;         ///< that follows the leader key of Build
  enum class Needs { Nothing, Sketch, Model } needs;
  /// @param step  to edit; 0 makes a new one.
  std::function<ToolCard*(Workplace, project::Id step)> make;
  /// Among cards of one kind: whether this one edits a given feature.
  std::function<bool(const model::Feature&)> edits;
};

/// A card for every kind of step: its own where it has one, else one made from its description.
const std::vector<StepCard>& step_cards();
/// The card that edits a feature.
const StepCard& card_of(const model::Feature& feature);

ToolCard* make_extrude_tool(Workplace place, project::Id step, bool cut);
ToolCard* make_revolve_tool(Workplace place, project::Id step);
ToolCard* make_hole_tool(Workplace place, project::Id step);
ToolCard* make_fillet_tool(Workplace place, project::Id step);
ToolCard* make_chamfer_tool(Workplace place, project::Id step);
ToolCard* make_pattern_tool(Workplace place, project::Id step);
ToolCard* make_mirror_tool(Workplace place, project::Id step);
/// For kinds without a card of their own.
ToolCard* make_described_tool(Workplace place, project::Id step, const model::FeatureKind& kind);

}  // namespace lostline::app
