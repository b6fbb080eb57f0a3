#include "joining/join.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>
#include <optional>

#include "datum/place_search.h"
#include "joining/adjust.h"
#include "joining/overlap.h"
#include "joining/pair_votes.h"
#include "joining/surface_places.h"
#include "scan/health.h"

namespace lostline::joining {
namespace {

constexpr double kDegree = std::numbers::pi / 180;

/// A way that one scan lies on another.
struct Way {
  Transform motion = Transform::Identity();
  Overlap overlap;
};

/// Nearer agrees: several times what noise and the distance between points leave.
double tolerance_of(const Piece& a, const Piece& b) {
  return std::max({4 * std::hypot(a.noise, b.noise), 0.1 * std::max(a.spacing, b.spacing),
                   2e-4 * std::max(a.size, b.size)});
}
OverlapOptions fine(const Piece& a, const Piece& b) {
  OverlapOptions options;
  options.tolerance = tolerance_of(a, b);
  options.far = std::max(10 * options.tolerance, 0.015 * std::max(a.size, b.size));
  return options;
}

bool alike(const Transform& a, const Transform& b, const Piece& piece, double share) {
  const double size = piece.size;
  return (a * piece.centre - b * piece.centre).norm() < share * size &&
         datum::angle_of(a.linear().transpose() * b.linear()) < share * 100 * kDegree;
}

/// Of what agrees: surfaces that lie right contradict each other in a few thousandths at most.
constexpr double kContradicts = 0.02;

/// Of the smaller scan: less agrees by chance.
constexpr double kLeast = 0.04;

/// Whether an overlap is enough to lay one scan on another.
bool convinces(const Overlap& overlap, const Piece& a, const Piece& b) {
  constexpr std::size_t kPoints = 60;
  return overlap.agrees > kLeast * std::min(a.area, b.area) && overlap.points > kPoints &&
         overlap.contradicts < kContradicts * overlap.agrees;
}

class Pairwise {
 public:
  Pairwise(const Piece& first, const Piece& second) : first_(first), second_(second) {}

  /// Ways of the first on the second, the best first.
  std::vector<Way> ways(const Task& task) {
    const std::vector<Transform> starts = places_by_surfaces(first_, second_, 400, task);
    if (task.stopped()) return {};
    settle(starts, 0.03, task);
    // Where surfaces of known types leave it open, the shape itself is asked.
    if (ways_.empty() || !convinces(ways_.front().overlap, first_, second_) || open()) {
      settle(vote_by_pairs(first_, second_, {}, task), kVoted, task);
      std::vector<Transform> back;
      for (const Transform& motion : vote_by_pairs(second_, first_, {}, task))
        back.push_back(motion.inverse());
      settle(back, kVoted, task);
    }
    return ways_;
  }

 private:
  static constexpr double kVoted = 0.1;  // of the size: how far motions by votes are off

  [[nodiscard]] bool open() const {
    return ways_.size() > 1 && ways_[1].overlap.worth() > 0.8 * ways_[0].overlap.worth();
  }
  /// Judges starts roughly, draws the best on to the surface, judges again.
  /// @param off  share of the size that the starts may be off by.
  void settle(const std::vector<Transform>& starts, double off, const Task& task) {
    const double size = std::max(first_.size, second_.size);
    struct Start {
      Transform motion;
      double worth;
    };
    std::vector<Start> judged;
    OverlapOptions rough;
    rough.tolerance = std::max(0.012, 0.4 * off) * size;
    rough.far = 2 * rough.tolerance;
    rough.most = 300;
    for (const Transform& motion : starts) {
      if (task.stopped()) return;
      const Overlap overlap = overlap_of(first_, second_, motion, rough);
      // Rough poses contradict at edges without reason.
      judged.push_back({motion, overlap.agrees - overlap.contradicts});
    }
    std::stable_sort(judged.begin(), judged.end(),
                     [](const Start& a, const Start& b) { return a.worth > b.worth; });
    // Motions by votes are few, and too far off to be judged before they are drawn on.
    const std::size_t most_tried = off < kVoted ? 14 : 30;
    std::vector<Transform> tried;
    for (const Start& start : judged) {
      if (tried.size() >= most_tried || task.stopped()) break;
      const auto known = [&](const Transform& t) { return alike(t, start.motion, first_, 0.015); };
      if (std::any_of(tried.begin(), tried.end(), known)) continue;
      tried.push_back(start.motion);
      AdjustOptions options;
      options.search = off * size;
      options.most_rounds = 30;
      options.stride = std::max<std::size_t>(1, first_.with_edges.size() / 1200);
      options.few_do = true;
      const auto drawn =
          adjust({&second_, &first_}, {Transform::Identity(), start.motion}, options, {});
      if (!drawn) continue;
      Way way{drawn->poses[1], {}};
      const auto same = [&](const Way& w) { return alike(w.motion, way.motion, first_, 0.005); };
      if (std::any_of(ways_.begin(), ways_.end(), same)) continue;
      way.overlap = overlap_both(first_, second_, way.motion, fine(first_, second_));
      ways_.push_back(std::move(way));
    }
    std::stable_sort(ways_.begin(), ways_.end(), [](const Way& a, const Way& b) {
      return a.overlap.worth() > b.overlap.worth();
    });
    constexpr std::size_t kKept = 8;
    if (ways_.size() > kKept) ways_.resize(kKept);
  }

  const Piece& first_;
  const Piece& second_;
  std::vector<Way> ways_;
};

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
        if (!(against_placed(i, joined_.poses[i]).agrees > kLeast * pieces_[i].area)) {
          const Transform drawn = joined_.poses[i];
          joined_.poses[i] = fit->motion;
          if (const Status turned = turn_inside_out(i, task); !turned) return turned;
          draw_on(i);
          if (!(against_placed(i, joined_.poses[i]).agrees > kLeast * pieces_[i].area)) {
            if (const Status back = turn_inside_out(i, task); !back) return back;
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
    std::vector<const Piece*> those;
    std::vector<Transform> start;
    double size = pieces_[i].size;
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
  [[nodiscard]] Overlap against_placed(std::size_t i, const Transform& pose) const {
    Overlap sum;
    double squares = 0;
    for (std::size_t k = 0; k < count_; ++k) {
      if (!placed_[k] || linked_[i][k] == 0) continue;
      const Overlap one = overlap_both(pieces_[i], pieces_[k], joined_.poses[k].inverse() * pose,
                                       fine(pieces_[i], pieces_[k]));
      squares += one.agrees * one.rms * one.rms;
      sum.agrees += one.agrees;
      sum.contradicts += one.contradicts;
      sum.missing += one.missing;
      sum.points += one.points;
    }
    if (sum.agrees > 0) sum.rms = std::sqrt(squares / sum.agrees);
    return sum;
  }

  /// What each choice is worth beside the others: a way on which the same area lies twice as far
  /// off as on the nearest is a likeness, not the same place.
  template <class Choice>
  static void weigh(std::vector<Choice>& choices) {
    double most = 0;
    for (const Choice& c : choices) most = std::max(most, c.overlap.agrees);
    double nearest = 1e300;
    for (const Choice& c : choices) {
      const bool sound =
          c.overlap.agrees > 0.3 * most && c.overlap.contradicts < kContradicts * c.overlap.agrees;
      if (sound) nearest = std::min(nearest, c.overlap.rms);
    }
    for (Choice& c : choices) {
      const double share = c.overlap.rms > 0 ? std::min(1.0, 1.5 * nearest / c.overlap.rms) : 1;
      c.worth = c.overlap.worth() - (1 - share * share) * c.overlap.agrees;
    }
  }

  Status by_search(const Task& task) {
    const auto waiting =
        static_cast<std::size_t>(std::count(placed_.begin(), placed_.end(), false));
    std::vector<std::vector<std::vector<Way>>> known(count_, std::vector<std::vector<Way>>(count_));
    std::vector<std::vector<char>> asked(count_, std::vector<char>(count_, 0));
    int turns = 0;  // of those that wait, without any of them placed
    for (std::size_t done = 0; done < waiting; ++done) {
      struct Choice {
        std::size_t scan = 0;
        Transform pose;
        Overlap overlap;
        double worth = 0;
      };
      std::vector<Choice> choices;
      for (std::size_t i = 0; i < count_; ++i) {
        if (placed_[i]) continue;
        for (std::size_t k = 0; k < count_; ++k) {
          if (!placed_[k] || linked_[i][k] == 0) continue;
          if (asked[i][k] == 0) {
            known[i][k] = Pairwise(pieces_[i], pieces_[k]).ways(task);
            asked[i][k] = 1;
            if (task.stopped()) return cancelled();
          }
          for (const Way& way : known[i][k]) {
            const Transform pose = joined_.poses[k] * way.motion;
            const auto same = [&](const Choice& c) {
              return c.scan == i && alike(c.pose, pose, pieces_[i], 0.005);
            };
            if (std::any_of(choices.begin(), choices.end(), same)) continue;
            choices.push_back({i, pose, against_placed(i, pose), 0});
          }
        }
        task.report(
            (static_cast<double>(done) + static_cast<double>(i) / static_cast<double>(count_)) /
            static_cast<double>(waiting));
      }
      weigh(choices);
      std::stable_sort(choices.begin(), choices.end(),
                       [](const Choice& a, const Choice& b) { return a.worth > b.worth; });
      const auto convincing = std::find_if(choices.begin(), choices.end(), [&](const Choice& c) {
        return c.overlap.agrees > kLeast * pieces_[c.scan].area &&
               c.overlap.contradicts < kContradicts * c.overlap.agrees;
      });
      if (convincing == choices.end()) {
        // Scans of open surfaces, and meshes of clouds, may be inside out.
        if (turns < 2) {
          ++turns;
          for (std::size_t i = 0; i < count_; ++i) {
            if (placed_[i]) continue;
            if (const Status turned = turn_inside_out(i, task); !turned) return turned.error();
            for (std::size_t k = 0; k < count_; ++k) asked[i][k] = 0;
          }
          --done;
          continue;
        }
        return nothing_found(choices.empty() ? 0 : choices.front().overlap.agrees);
      }
      turns = 0;
      const Choice chosen = *convincing;
      for (const Choice& c : choices) {
        if (c.scan != chosen.scan || alike(c.pose, chosen.pose, pieces_[c.scan], 0.02)) continue;
        if (c.worth > 0.85 * chosen.worth) {
          joined_.doubts.push_back(fmt::format(
              "Scan {} lies on the others in more than one way that agrees alike. Say places that "
              "belong together.",
              chosen.scan + 1));
          break;
        }
      }
      joined_.poses[chosen.scan] = chosen.pose;
      placed_[chosen.scan] = true;
    }
    return Done{};
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
