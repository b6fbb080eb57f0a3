#include <QPointer>

#include "bench/bench_view.h"

// The scans as the graphics card takes them.

namespace lostline::app {

void BenchView::prepareScans() {
  const int asked = ++scans_asked_;
  if (!scan_on_card_) {
    scan_drawn_.reset();
    scan_dirty_ = true;
    scan_wanted_ = false;
  }
  struct Made {
    std::shared_ptr<const ScanArrays> scan;
    std::vector<Renderer::OtherScan> others;
  };
  const QPointer<BenchView> self(this);
  const auto make = [scan = scan_on_card_, others = others_on_card_, showing = showing_,
                     survey = session_.document().survey, have = others_drawn_,
                     drawn = scan_wanted_ ? nullptr : scan_drawn_,
                     self](const Task& task) -> Works::Finish {
    Made made;
    made.scan = drawn;
    if (scan && !drawn)
      made.scan = std::make_shared<const ScanArrays>(arrays_of(scan, survey.get(), showing));
    for (const auto& other : others) {
      const project::Visibility visibility = showing.of_scan(other->name);
      if (visibility == project::Visibility::Hidden || task.stopped()) continue;
      Renderer::OtherScan beside{nullptr,
                                 visibility == project::Visibility::Translucent ? 0.5F : 1.0F};
      for (const Renderer::OtherScan& h : have)
        if (h.arrays->scan == other) beside.arrays = h.arrays;
      if (!beside.arrays)
        beside.arrays = std::make_shared<const ScanArrays>(arrays_of(other, nullptr, {}));
      made.others.push_back(std::move(beside));
    }
    return [self, made] {
      if (!self) return;
      self->scan_drawn_ = made.scan;
      self->others_drawn_ = made.others;
      self->scan_wanted_ = self->others_wanted_ = false;
      self->scan_dirty_ = self->others_dirty_ = true;
      self->redraw();
    };
  };
  // Stopped from the status line the Bench would stay empty: it is asked for again.
  session_.works().run(Works::Lane::Draw, tr("preparing the scan for the Bench"), make,
                       [self, asked] {
                         if (self && self->scans_asked_ == asked) self->prepareScans();
                       });
}

}  // namespace lostline::app
