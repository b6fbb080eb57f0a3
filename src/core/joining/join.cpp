#include "joining/join.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <memory>
#include <optional>

#include "datum/place_search.h"
#include "joining/adjust.h"
#include "joining/layout.h"
#include "joining/pairwise.h"
#include "scan/health.h"

namespace lostline::joining {
namespace {

class Joining {
 public:
  Joining(std::vector<Piece> pieces, const JoinOptions& options)
      : pieces_(std::move(pieces)),
        options_(options),
        count_(pieces_.size()),
        placed_(count_, false),
        linked_(count_, std::vector<char>(count_, 1)) {
    joined_.poses.assign(count_, Transform::Identity());
    joined_.inside_out.assign(count_, false);
    for (const auto& [a, b] : options.cut) linked_[a][b] = linked_[b][a] = 0;
  }

  Result<Joined> run(const Task& task) {
    if (const Status paired = by_pairs(task); !paired) return paired.error();
    if (const Status found = by_search(task.part(0, 0.7)); !found) return found.error();
    std::vector<const Piece*> all;
    double size = 0;
    for (const Piece& p : pieces_) {
      all.push_back(&p);
      size = std::max(size, p.size);
    }
    AdjustOptions options;
    options.search = 0.01 * size;
    options.linked = linked_;
    options.places = options_.pairs;
    const auto adjusted = adjust(all, joined_.poses, options, task.part(0.7, 1));
    if (!adjusted) return adjusted.error();
    joined_.poses = adjusted->poses;
    joined_.u_shift = adjusted->u_shift;
    joined_.u_turn = adjusted->u_turn;
    joined_.rms = adjusted->all_rms;
    joined_.rounds = adjusted->rounds;
    joined_.settled = adjusted->settled;
    for (std::size_t a = 0; a < count_; ++a) {
      for (std::size_t b = a + 1; b < count_; ++b) {
        const double overlap = std::max(adjusted->overlap[a][b], adjusted->overlap[b][a]);
        constexpr double kNoLink = 0.005;
        if (overlap < kNoLink) continue;
        joined_.links.push_back(
            {a, b, std::max(adjusted->rms[a][b], adjusted->rms[b][a]), overlap});
      }
    }
    for (const std::size_t loose : adjusted->loose)
      joined_.doubts.push_back(fmt::format(
          "Scan {} can be shifted or turned along what it shares with the others: a cylinder, a "
          "plane or a sphere. Say places that belong together.",
          loose + 1));
    doubt_uncertain();
    judge_all();
    return joined_;
  }

 private:
  /// Scans that three pairs of places tie to one that lies, one after the other.
  Status by_pairs(const Task& task) {
    placed_[0] = true;
    if (options_.pairs.empty()) return Done{};
    for (bool more = true; more;) {
      more = false;
      for (std::size_t i = 0; i < count_; ++i) {
        if (placed_[i]) continue;
        std::vector<datum::Pair> pairs;
        for (const SharedPlace& p : options_.pairs) {
          if (p.scan_a == i && placed_[p.scan_b])
            pairs.push_back({p.a, Vec3(joined_.poses[p.scan_b] * p.b)});
          if (p.scan_b == i && placed_[p.scan_a])
            pairs.push_back({p.b, Vec3(joined_.poses[p.scan_a] * p.a)});
        }
        if (pairs.size() < 3) continue;
        const auto fit = datum::place_by_pairs(pairs, pieces_[i].size);
        if (!fit)
          return Error{fit.error().code,
                       fmt::format("The pairs of scan {}: {}", i + 1, fit.error().message)};
        joined_.poses[i] = fit->motion;
        // The picks are rough: the surfaces draw it on, turned inside out where that is needed.
        draw_on(i);
        if (!(against_placed(i, joined_.poses[i], joined_.poses, placed_).agrees >
              kLeast * pieces_[i].area)) {
          const Transform drawn = joined_.poses[i];
          joined_.poses[i] = fit->motion;
          if (Status turned = turn_inside_out(i, task); !turned) return turned;
          draw_on(i);
          if (!(against_placed(i, joined_.poses[i], joined_.poses, placed_).agrees >
                kLeast * pieces_[i].area)) {
            if (Status back = turn_inside_out(i, task); !back) return back;
            joined_.poses[i] = drawn;
          }
        }
        placed_[i] = true;
        more = true;
      }
    }
    return Done{};
  }
  /// The scans placed so far draw one on to their surfaces.
  void draw_on(std::size_t i) {
    const double size = pieces_[i].size;
    std::size_t best = 0;
    double most = -1;
    for (std::size_t k = 0; k < count_; ++k) {
      if (!placed_[k] || k == i || linked_[i][k] == 0) continue;
      const Transform motion = joined_.poses[k].inverse() * joined_.poses[i];
      OverlapOptions rough;
      rough.tolerance = 0.02 * size;
      rough.far = 0.03 * size;
      rough.most = 300;
      const double agrees = overlap_of(pieces_[i], pieces_[k], motion, rough).agrees;
      if (agrees > most) {
        most = agrees;
        best = k;
      }
    }
    AdjustOptions options;
    options.search = 0.03 * size;
    options.most_rounds = 40;
    options.stride = std::max<std::size_t>(1, pieces_[i].with_edges.size() / 1500);
    options.few_do = true;
    const auto drawn =
        adjust({&pieces_[best], &pieces_[i]}, {joined_.poses[best], joined_.poses[i]}, options, {});
    if (drawn) joined_.poses[i] = drawn->poses[1];
  }

  /// What all that lie say of a pose of one that does not.
  [[nodiscard]] Overlap against_placed(std::size_t i, const Transform& pose,
                                       const std::vector<Transform>& poses,
                                       const std::vector<bool>& placed) const {
    Layout sum;
    for (std::size_t k = 0; k < count_; ++k) {
      if (!placed[k] || linked_[i][k] == 0) continue;
      add(sum, overlap_both(pieces_[i], pieces_[k], poses[k].inverse() * pose,
                            fine(pieces_[i], pieces_[k])));
    }
    return sum.overlap;
  }

  /// A layout with a scan more, in each way that convinces.
  std::vector<Layout> extended(const Layout& layout, std::size_t i, const Task& task) {
    std::vector<Layout> all;
    for (std::size_t k = 0; k < count_ && !task.stopped(); ++k) {
      if (!layout.placed[k] || linked_[i][k] == 0) continue;
      for (const Way& way : ways(i, k, task)) {
        Layout next = layout;
        next.placed[i] = true;
        next.poses[i] = layout.poses[k] * way.motion;
        const auto same = [&](const Layout& l) { return !differs(l, next, pieces_, 0.005); };
        if (std::any_of(all.begin(), all.end(), same)) continue;
        const Overlap one = against_placed(i, next.poses[i], layout.poses, layout.placed);
        best_agrees_ = std::max(best_agrees_, one.agrees);
        if (!(one.agrees > kLeast * pieces_[i].area) ||
            !(one.contradicts < kContradicts * one.agrees))
          continue;
        add(next, one);
        all.push_back(std::move(next));
      }
    }
    return all;
  }
  /// Of one scan on another; asked for once.
  const std::vector<Way>& ways(std::size_t i, std::size_t k, const Task& task) {
    auto& known = known_[std::max(i, k)][std::min(i, k)];
    if (!known) known = ways_of(pieces_[std::max(i, k)], pieces_[std::min(i, k)], task);
    if (i > k) return *known;
    turned_round_ = *known;
    for (Way& way : turned_round_) way.motion = way.motion.inverse();
    return turned_round_;
  }

  /// Scan after scan in any order, with the best layouts kept side by side: a wrong way that agrees
  /// by chance is found out by those that come later.
  Status by_search(const Task& task) {
    known_.assign(count_, std::vector<std::optional<std::vector<Way>>>(count_));
    std::vector<Layout> layouts{{joined_.poses, placed_, {}, 0, 0}};
    const auto waiting =
        static_cast<std::size_t>(std::count(placed_.begin(), placed_.end(), false));
    int turns = 0;  // of those that wait, without any of them placed
    for (std::size_t done = 0; done < waiting;) {
      std::vector<Layout> next;
      best_agrees_ = 0;
      for (const Layout& layout : layouts) {
        for (std::size_t i = 0; i < count_; ++i) {
          if (layout.placed[i]) continue;
          for (Layout& more : extended(layout, i, task)) next.push_back(std::move(more));
          if (task.stopped()) return cancelled();
          task.report(
              (static_cast<double>(done) + static_cast<double>(i) / static_cast<double>(count_)) /
              static_cast<double>(waiting));
        }
      }
      if (next.empty()) {
        placed_ = layouts.front().placed;
        joined_.poses = layouts.front().poses;
        // Scans of open surfaces, and meshes of clouds, may be inside out.
        if (turns == 2) return nothing_found(best_agrees_);
        ++turns;
        layouts.resize(1);
        for (std::size_t i = 0; i < count_; ++i) {
          if (placed_[i]) continue;
          if (const Status turned = turn_inside_out(i, task); !turned) return turned.error();
          for (std::size_t k = 0; k < count_; ++k) {
            known_[i][k].reset();
            known_[k][i].reset();
          }
        }
        continue;
      }
      turns = 0;
      weigh(next);
      layouts.clear();
      // Of four scans eight; of many fewer, since each is tried with all of those that wait.
      const std::size_t side_by_side = std::clamp<std::size_t>(32 / count_, 2, 8);
      for (Layout& l : next) {
        const auto same = [&](const Layout& other) { return !differs(l, other, pieces_, 0.005); };
        if (layouts.size() < side_by_side && std::none_of(layouts.begin(), layouts.end(), same))
          layouts.push_back(std::move(l));
      }
      ++done;
    }
    if (waiting > 0) choose(std::move(layouts), task);
    return Done{};
  }

  /// Of the layouts that are worth the most the one that holds when all of its scans are adjusted.
  void choose(std::vector<Layout> layouts, const Task& task) {
    constexpr double kNearly = 0.3;  // of the best one's worth
    const double best = layouts.front().worth;
    std::erase_if(layouts, [&](const Layout& l) { return l.worth < kNearly * best; });
    constexpr std::size_t kMost = 4;
    if (layouts.size() > kMost) layouts.resize(kMost);
    for (Layout& l : layouts) {
      if (layouts.size() == 1 || task.stopped()) break;
      adjust_all(l, task);
    }
    weigh(layouts);
    prefer_undisputed(layouts);
    joined_.poses = layouts.front().poses;
    placed_ = layouts.front().placed;
    for (std::size_t k = 1; k < layouts.size(); ++k) {
      constexpr double kAlike = 0.7;
      const auto scan = differs(layouts.front(), layouts[k], pieces_, 0.02);
      if (!scan || layouts[k].worth < kAlike * layouts.front().worth) continue;
      joined_.doubts.push_back(fmt::format(
          "Scan {} lies on the others in more than one way that agrees alike. Say places that "
          "belong together.",
          *scan + 1));
      break;
    }
  }
  /// A scan that is held worse than one of its points is known may lie off by more than the points'
  /// noise, without anything that contradicts it.
  void doubt_uncertain() {
    constexpr double kWorse = 1.5;  // standard deviations of a point
    double noise = 0;
    for (const Piece& piece : pieces_) noise = std::max(noise, piece.noise);
    for (std::size_t k = 1; k < pieces_.size(); ++k) {
      if (!(joined_.u_shift[k] > kWorse * noise)) continue;
      joined_.doubts.push_back(fmt::format(
          "Scan {} is held to \u00b1 {:.3f} mm only: what it shares with the others tells little "
          "more. Scan from between, or say places that belong together.",
          k + 1, joined_.u_shift[k]));
    }
  }
  /// Roughly, and what its pairs say then.
  void adjust_all(Layout& layout, const Task& task) const {
    std::vector<const Piece*> all;
    AdjustOptions options;
    for (const Piece& p : pieces_) {
      all.push_back(&p);
      options.search = std::max(options.search, 0.01 * p.size);
    }
    options.linked = linked_;
    options.most_rounds = 20;
    options.few_do = true;
    if (const auto adjusted = adjust(all, layout.poses, options, task.part(1, 1)))
      layout.poses = adjusted->poses;
    Layout judged;
    for (std::size_t a = 0; a < count_; ++a) {
      for (std::size_t b = 0; b < a; ++b) {
        if (linked_[a][b] == 0) continue;
        OverlapOptions closely = fine(pieces_[a], pieces_[b]);
        closely.most = 4000;
        add(judged, overlap_both(pieces_[a], pieces_[b],
                                 layout.poses[b].inverse() * layout.poses[a], closely));
      }
    }
    layout.overlap = judged.overlap;
    layout.squares = judged.squares;
    layout.disputed = judged.disputed;
  }
  Status turn_inside_out(std::size_t i, const Task& task) {
    auto mesh = std::make_unique<const scan::Mesh>(scan::flipped(*pieces_[i].mesh));
    auto piece = make_piece(*mesh, task.part(0, 0));
    if (!piece) return piece.error();
    pieces_[i] = *std::move(piece);
    turned_.push_back(std::move(mesh));
    joined_.inside_out[i] = !joined_.inside_out[i];
    return Done{};
  }
  [[nodiscard]] Error nothing_found(double agrees) const {
    std::string which;
    for (std::size_t i = 0; i < count_; ++i) {
      if (!placed_[i]) which += (which.empty() ? "" : ", ") + std::to_string(i + 1);
    }
    return {ErrorCode::Failed,
            fmt::format("Scan {} lies on no other: at best {:.0f} mm2 of it agree. Check its unit, "
                        "or say three places that it shares with another.",
                        which, agrees)};
  }
  /// What contradicts once all lie.
  void judge_all() {
    for (std::size_t a = 0; a < count_; ++a) {
      Overlap sum;
      for (std::size_t b = 0; b < count_; ++b) {
        if (a == b || linked_[a][b] == 0) continue;
        OverlapOptions closely = fine(pieces_[a], pieces_[b]);
        closely.most = 6000;
        const Overlap one = overlap_of(pieces_[a], pieces_[b],
                                       joined_.poses[b].inverse() * joined_.poses[a], closely);
        sum.agrees += one.agrees;
        sum.contradicts += one.contradicts;
      }
      // Of scans that lie right a thousandth contradicts at most: a hole or step that is not where
      // the other has it shows more.
      constexpr double kMuch = 0.0025;
      if (sum.contradicts > kMuch * sum.agrees)
        joined_.doubts.push_back(fmt::format(
            "Scan {} contradicts the others over {:.0f} mm2 where {:.0f} mm2 agree: it may lie "
            "wrong, or the part has changed between the scans.",
            a + 1, sum.contradicts, sum.agrees));
    }
  }

  std::vector<Piece> pieces_;
  std::vector<std::unique_ptr<const scan::Mesh>> turned_;  ///< that pieces rest on
  const JoinOptions& options_;
  std::size_t count_;
  std::vector<bool> placed_;
  std::vector<std::vector<char>> linked_;
  /// Ways of the later scan on the earlier one, as far as they were asked for.
  std::vector<std::vector<std::optional<std::vector<Way>>>> known_;
  std::vector<Way> turned_round_;
  double best_agrees_ = 0;  ///< mm2, of what was tried for the scan that comes next
  Joined joined_;
};

}  // namespace

Result<Joined> join_scans(const std::vector<const scan::Mesh*>& scans, const JoinOptions& options,
                          const Task& task) {
  if (scans.size() < 2) return Error{ErrorCode::InvalidInput, "Joining takes two scans or more."};
  for (const SharedPlace& p : options.pairs) {
    if (p.scan_a >= scans.size() || p.scan_b >= scans.size() || p.scan_a == p.scan_b)
      return Error{ErrorCode::InvalidInput,
                   fmt::format("A pair names scans {} and {}; there are {}.", p.scan_a + 1,
                               p.scan_b + 1, scans.size())};
  }
  for (const auto& [a, b] : options.cut) {
    if (a >= scans.size() || b >= scans.size())
      return Error{ErrorCode::InvalidInput,
                   fmt::format("There is no link between scans {} and {}.", a + 1, b + 1)};
  }
  std::vector<Piece> pieces;
  constexpr double kPrepared = 0.4;
  for (std::size_t i = 0; i < scans.size(); ++i) {
    const double n = static_cast<double>(scans.size());
    auto piece = make_piece(*scans[i], task.part(kPrepared * static_cast<double>(i) / n,
                                                 kPrepared * static_cast<double>(i + 1) / n));
    if (!piece)
      return Error{piece.error().code, fmt::format("Scan {}: {}", i + 1, piece.error().message)};
    pieces.push_back(*std::move(piece));
  }
  Joining joining(std::move(pieces), options);
  return joining.run(task.part(kPrepared, 1));
}

}  // namespace lostline::joining
