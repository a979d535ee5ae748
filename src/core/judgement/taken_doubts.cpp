#include "core/judgement/taken_doubts.h"

#include <cmath>
#include <optional>

#include <fmt/format.h>

#include "core/estimate/study_difference.h"
#include "core/estimate/wording.h"
#include "core/record/case_passes.h"
#include "core/record/pair_visits.h"
#include "core/study/schedule.h"

namespace core {
namespace {

/// How far a case moved from the earlier study to this one, at a level that both measured.
struct MovedMeanwhile {
  std::string where;
  PercentChange change;
};

// ln of the means of visits, with their spread; nothing of fewer than two, or of values that have no logarithm.
std::optional<StudyEffect> lnMeanOf(const std::vector<double>& visit_means, double confidence) {
  std::vector<double> logs;
  for (const double mean : visit_means) {
    if (!(mean > 0)) return std::nullopt;
    logs.push_back(std::log(mean));
  }
  if (logs.size() < 2) return std::nullopt;
  const auto mean = pairedDifference(logs, confidence, std::max(1.0, largestOf(logs)));
  if (!mean || !mean->se || !mean->inference) return std::nullopt;
  return StudyEffect{mean->difference, *mean->se, mean->inference->df};
}

// Another level may have been taken, too, and tells nothing of now.
class Meanwhile {
 public:
  Meanwhile(const Study& study, const Record& record, std::span<const std::int64_t> retired)
      : study_(study),
        visits_(ownVisits(visitsWithout(retired, record.visits))),
        counted_(countedByCase(study, scheduleOf(study), visits_, record.passes)) {}

  // Of all that both measured, what moved the most.
  [[nodiscard]] std::optional<MovedMeanwhile> of(const TakenLevel& taken) const {
    std::optional<MovedMeanwhile> most;
    for (const TakenLevel::Shared& shared : taken.shared) {
      auto moved = movedAt(shared);
      if (moved && (!most || std::abs(moved->change.value) > std::abs(most->change.value))) most = std::move(moved);
    }
    return most;
  }

 private:
  [[nodiscard]] std::optional<MovedMeanwhile> movedAt(const TakenLevel::Shared& shared) const {
    const auto then = lnMeanOf(shared.visit_means, study_.confidence);
    const auto now = lnMeanOf(ownMeansOf(shared), study_.confidence);
    if (!then || !now) return std::nullopt;
    const auto moved = studyDifference(*then, *now, study_.confidence);
    if (!moved) return std::nullopt;
    return MovedMeanwhile{fmt::format("{} at {}", shared.case_title, shared.level), percentChangeOf(*moved)};
  }

  [[nodiscard]] std::vector<double> ownMeansOf(const TakenLevel::Shared& shared) const {
    std::vector<double> means;
    for (std::size_t i = 0; i < study_.cases.size(); ++i) {
      if (study_.cases[i].title() != shared.case_title) continue;
      for (const VisitValues& visit : visitValues(counted_[i], [](const Pass& pass) { return pass.value; }))
        if (study_.nameOf(visit.configuration) == shared.level && !visit.values.empty())
          means.push_back(meanOf(visit.values));
    }
    return means;
  }

  const Study& study_;
  std::vector<Visit> visits_;
  std::vector<std::vector<CountedPass>> counted_;  ///< looks into them
};

// From the last visit that was taken to the first that was not; nothing before that one.
std::optional<double> secondsBetween(const TakenLevel& taken, const Record& record) {
  std::optional<std::int64_t> last_taken;
  std::optional<std::int64_t> first_own;
  for (const Visit& visit : record.visits) {
    if (taken.hasVisit(visit.id)) last_taken = std::max(last_taken.value_or(visit.started_ms), visit.started_ms);
    if (!visit.is_taken) first_own = std::min(first_own.value_or(visit.started_ms), visit.started_ms);
  }
  if (!last_taken || !first_own) return std::nullopt;
  return static_cast<double>(*first_own - *last_taken) / 1000;
}

std::string longText(double seconds) {
  constexpr double kDay = 86400;
  return seconds < 2 * kDay ? durationText(seconds)
                            : countText(static_cast<int>(std::lround(seconds / kDay)), "day", "days");
}

}  // namespace

std::vector<Doubt> takenDoubts(const Study& study, const Record& record, std::span<const std::int64_t> retired) {
  DoubtList doubts;
  if (record.taken.empty()) return doubts.take();
  const Meanwhile meanwhile(study, record, retired);
  for (const auto& [configuration, taken] : record.taken) {
    const std::string name = study.nameOf(configuration);
    const auto apart = secondsBetween(taken, record);
    const auto moved = meanwhile.of(taken);
    doubts.add(
        doubt::kTakenLevel, {name},
        fmt::format("{} was not measured here but taken from {}{}: the two were not interleaved, and whatever moved "
                    "meanwhile looks like the change; {}",
                    name, taken.study,
                    apart ? fmt::format(", {} {}", longText(std::abs(*apart)), *apart < 0 ? "later" : "earlier") : "",
                    moved ? fmt::format("of what both measured, {} moved the most, by {}", moved->where,
                                        changeText(moved->change))
                          : "nothing that both measured tells how far"),
        "Measure the level again in a study of its own rounds where this decides something");
  }
  return doubts.take();
}

}  // namespace core
