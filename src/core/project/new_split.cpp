#include "project/edits.h"
#include "project/relations.h"

namespace lostline::project {

Document with_new_split(const Document& document, std::shared_ptr<const survey::Survey> survey) {
  Document next = document;
  const auto keep = [&](FitRef& ref) {
    if (ref.region != 0) ref = keep_region(next, ref.region);
  };
  const auto keep_reference = [&](model::Reference& reference) {
    FitRef ref{reference.region, reference.fit};
    keep(ref);
    reference.region = ref.region;
    reference.fit = ref.fit;
  };
  if (next.frame) {
    auto frame = std::make_shared<DatumFrame>(*next.frame);
    keep(frame->primary);
    for (FitRef& ref : frame->secondary) keep(ref);
    for (FitRef& ref : frame->origin) keep(ref);
    next.frame = std::move(frame);
  }
  for (FitRelation& r : next.relations) {
    for (FitRef* ref : {&r.a, &r.b, &r.c}) keep(*ref);
  }
  for (Dimension& d : next.dimensions) {
    for (FitRef& ref : d.owner.fits) keep(ref);
  }
  for (auto& shared : next.sketches) {
    auto traced = std::make_shared<TracedSketch>(*shared);
    keep_reference(traced->on);
    shared = std::move(traced);
  }
  for (model::Step& step : next.steps) {
    for (model::Reference* reference : model::references_of(step.feature))
      keep_reference(*reference);
  }
  next.survey = std::move(survey);
  next.showing.translucent_regions.clear();
  next.showing.hidden_regions.clear();  // the numbers are others now
  return next;
}

}  // namespace lostline::project
