#include "tools/step_cards.h"

#include "model/steps/chamfer/chamfer.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/hole/hole.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/pattern/pattern.h"
#include "model/steps/revolve/revolve.h"

namespace lostline::app {
namespace {

using Needs = StepCard::Needs;

StepCard card(const model::FeatureKind& kind, Needs needs,
              std::function<ToolCard*(Workplace, project::Id)> make) {
  return {&kind,
          QString::fromUtf8(kind.title),
          QString::fromUtf8(kind.icon),
          QString::fromUtf8(kind.tip),
          false,
          Qt::Key_A + (kind.letter - 'a'),
          needs,
          std::move(make),
          {}};
}

/// What a kind of step is about, by what it is made of.
struct About : model::Description {
  Needs needs = Needs::Nothing;
  bool on_bodies = false;
  void sketch(const char*, model::Id&) override { needs = std::max(needs, Needs::Sketch); }
  void edges(const char*, std::vector<model::EdgeRef>&) override { needs = Needs::Model; }
  void faces(const char*, std::vector<std::string>&) override { needs = Needs::Model; }
  void step(const char*, model::Id&) override { needs = Needs::Model; }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>&) override {
    if (!info.required) return;
    needs = Needs::Model;
    on_bodies = true;
  }
  void imported(const char*, std::shared_ptr<const model::Imported>&) override { on_bodies = true; }
};

bool is_cut(const model::Feature& feature) {
  const auto* e = feature.as<model::Extrude>();
  return e != nullptr && e->operation == model::Operation::Cut;
}

std::vector<StepCard> make_cards() {
  const auto extrude = [](bool cut) {
    return [cut](Workplace place, project::Id step) { return make_extrude_tool(place, step, cut); };
  };
  std::vector<StepCard> cards{
      card(model::Extrude::kind, Needs::Sketch, extrude(false)),
      card(model::Extrude::kind, Needs::Model, extrude(true)),
      card(model::Revolve::kind, Needs::Sketch, make_revolve_tool),
      card(model::Hole::kind, Needs::Model, make_hole_tool),
      card(model::Fillet::kind, Needs::Model, make_fillet_tool),
      card(model::Chamfer::kind, Needs::Model, make_chamfer_tool),
      card(model::Pattern::kind, Needs::Model, make_pattern_tool),
      card(model::Mirror::kind, Needs::Model, make_mirror_tool),
  };
  cards[0].edits = [](const model::Feature& f) { return !is_cut(f); };
  cards[1].edits = is_cut;
  cards[1].name = QObject::tr("Cut");
  cards[1].icon = QStringLiteral("scissors");
  cards[1].tip = QObject::tr("cut closed areas of a sketch");
  cards[1].key = Qt::Key_C;
  for (const model::FeatureKind* kind : model::feature_kinds()) {
    if (std::any_of(cards.begin(), cards.end(), [&](const auto& c) { return c.kind == kind; }))
      continue;
    About about;
    model::Feature feature = kind->make();
    feature.describe(about);
    cards.push_back(card(*kind, about.needs, [kind](Workplace place, project::Id step) {
      return make_described_tool(place, step, *kind);
    }));
    cards.back().on_bodies = about.on_bodies;
  }
  for (StepCard& c : cards)
    c.tip = c.tip.left(1).toUpper() + c.tip.mid(1) +
            QStringLiteral(" (B %1)").arg(QKeySequence(c.key).toString().toLower());
  return cards;
}

}  // namespace

const std::vector<StepCard>& step_cards() {
  static const std::vector<StepCard> cards = make_cards();
  return cards;
}

const StepCard& card_of(const model::Feature& feature) {
  const auto& cards = step_cards();
  const auto fits = [&](const StepCard& c) {
    return c.kind == &feature.kind() && (!c.edits || c.edits(feature));
  };
  const auto it = std::find_if(cards.begin(), cards.end(), fits);
  assert(it != cards.end());
  return *it;
}

}  // namespace lostline::app
