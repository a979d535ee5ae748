#include "core/judgement/safety.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/machine/memory_layout.h"
#include "core/machine/variable_kind.h"
#include "core/study/schedule.h"

namespace core {
namespace {

/// What one case says of the level, at one level of the other variable where two are crossed.
struct Row {
  std::string title;
  const ContrastFinding* found = nullptr;
  const Metric* metric = nullptr;
  bool is_lost = false;  ///< it runs before, and no longer there
  bool is_new = false;   ///< it does not run before: there is nothing to lose

  [[nodiscard]] bool isJudged() const {
    return found != nullptr && (found->is_log || metric->scale == Scale::Difference);
  }
  [[nodiscard]] bool isRuledOut() const {
    if (is_new) return true;
    if (!isJudged()) return false;
    if (found->is_log)
      return found->improvement.interval && found->improvement.interval->lo > found->threshold.loss_percent;
    return found->verdict == Verdict::Gain || found->verdict == Verdict::GainSizeNotSettled ||
           found->verdict == Verdict::RealButNegligible || found->verdict == Verdict::NoDifferenceThatMatters;
  }
  [[nodiscard]] std::string lost() const {
    return found->is_log ? fmt::format("{:.1f} %", std::abs(found->improvement.value))
                         : valueText(std::abs(found->contrast.difference), metric->unit);
  }
};

// Nobody leaves a host, a board or a whole part "on": of those only what cases lose is said.
bool isWhole(const Study& study) {
  if (study.shape == Shape::Chain) return true;
  return std::any_of(study.variables.begin(), study.variables.end(), [](const Variable& one) {
    const VariableKind* kind = findVariableKind(one.kind);
    return kind && kind->is_whole && !one.is_group;
  });
}

class Safety {
 public:
  Safety(const Study& study, const ShapeFindings& findings, const Record& record, std::span<const StepProof> steps,
         std::span<const PossibleAt> possible)
      : study_(study), findings_(findings), record_(record), steps_(steps), possible_(possible) {
    findLevel();
    for (const std::size_t asked : asked_) addRows(asked);
  }

  [[nodiscard]] std::string text() const {
    const auto lost = std::find_if(rows_.begin(), rows_.end(), [](const Row& one) { return one.is_lost; });
    if (lost != rows_.end()) return said("is not safe to use", fmt::format("{} does not run there", lost->title));
    if (std::none_of(rows_.begin(), rows_.end(), [](const Row& one) { return one.isJudged(); })) return {};
    const Row* loser = worst(Verdict::Loss);
    if (loser) {
      const auto more = std::count_if(rows_.begin(), rows_.end(), [](const Row& one) {
        return one.isJudged() && one.found->verdict == Verdict::Loss;
      });
      return withMarks(
          said("is not safe to use", fmt::format("{} loses {}{}", loser->title, loser->lost(), others(more - 1))),
          provisional(loser->found->marks));
    }
    if (const Row* loses = worst(Verdict::LossSizeNotSettled))
      return open(fmt::format("{} loses, by how much is not settled", loses->title));
    const auto is_open = [](const Row& one) { return !one.isRuledOut(); };
    if (const auto first = std::find_if(rows_.begin(), rows_.end(), is_open); first != rows_.end())
      return open(fmt::format("a loss that matters is not ruled out for {}{}", first->title,
                              others(std::count_if(rows_.begin(), rows_.end(), is_open) - 1)));
    if (const std::string missing = missingProof(); !missing.empty() && !isWhole(study_)) return open(missing);
    return withMarks(said("is safe to use", "no case loses as much as matters"), provisional(headlineMarks()));
  }

 private:
  // The contrasts that the headline is about: of a crossing the effect at each level of the other variable.
  void findLevel() {
    std::optional<std::size_t> best;
    const bool is_crossed = study_.shape == Shape::Crossed;
    const std::size_t moved = is_crossed && study_.variable().is_group ? 1 : 0;
    std::string to;
    for (std::size_t i = 0; i < findings_.asked.size(); ++i) {
      const AskedContrast& one = findings_.asked[i];
      const bool has_result = std::any_of(findings_.contrasts.begin(), findings_.contrasts.end(),
                                          [&](const ContrastFinding& found) { return found.asked == i; });
      if (!has_result) continue;
      if (is_crossed) {
        if (one.kind != ContrastKind::Simple || one.variable != study_.variables[moved].name) continue;
        if (to.empty()) to = one.to;
        if (one.to == to) asked_.push_back(i);
      } else if (one.kind == ContrastKind::AgainstBaseline || one.kind == ContrastKind::Total) {
        if (one.pair == headlinePair(study_)) {
          best = i;
          break;
        }
        if (!best || placeOf(one.pair->to) > placeOf(findings_.asked[*best].pair->to)) best = i;
      }
    }
    if (best) asked_ = {*best};
    if (asked_.empty()) return;
    level_ = findings_.asked[asked_.front()].to;
    for (const std::size_t one : asked_) {
      changed_.insert(findings_.asked[one].pair->to);
      baseline_.insert(findings_.asked[one].pair->from);
    }
  }

  void addRows(std::size_t asked) {
    const std::string& at = findings_.asked[asked].at;
    const PairOf& pair = *findings_.asked[asked].pair;
    for (std::size_t i = 0; i < study_.firstPartCases(); ++i)
      if (study_.cases[i].shouldRespond())
        rows_.push_back({study_.cases[i].title() + (at.empty() ? "" : " at " + at), findings_.find(asked, i),
                         &study_.cases[i].metric, !runs(i, pair.to) && runs(i, pair.from), !runs(i, pair.from)});
  }

  /// False only where its passes say that it does not.
  [[nodiscard]] bool runs(std::size_t case_index, ConfigurationId at) const {
    return std::none_of(possible_.begin(), possible_.end(), [&](const PossibleAt& one) {
      return one.case_index == case_index && one.configuration == at && one.answer == PossibleAnswer::DoesNotRun;
    });
  }

  [[nodiscard]] const Row* worst(Verdict verdict) const {
    const Row* found = nullptr;
    for (const Row& one : rows_) {
      if (!one.isJudged() || one.found->verdict != verdict) continue;
      if (!found || one.found->improvement.value < found->found->improvement.value) found = &one;
    }
    return found;
  }

  // What else keeps a level from being safe, in a few words.
  [[nodiscard]] std::string missingProof() const {
    const auto any = [&](const auto& holds) { return std::any_of(changed_.begin(), changed_.end(), holds); };
    if (any([&](ConfigurationId at) { return raisesLimits(setupOf(study_, at)); }))
      return "it goes beyond what the maker set";
    for (const VisitCapture& one : record_.captures)
      if (changed_.contains(sideOf(one.visit_id)))
        if (const MemoryRating rating = memoryRating(one.capture); !rating.above.empty()) return rating.above.front();
    for (const StepProof& step : steps_)
      for (const VisitProof& visit : step.proof.visits)
        if (!visit.errors.empty() && changed_.contains(sideOf(visit.visit_id)))
          return fmt::format("in visit {} the machine counted {}", visit.planned, visit.errors);
    const int failed = failedAt(changed_);
    const int before = failedAt(baseline_);
    if (failed > before)
      return fmt::format("{} failed there, {} at the baseline", countText(failed, "pass", "passes"), before);
    const bool asks_for_test = std::any_of(study_.variables.begin(), study_.variables.end(), [](const Variable& one) {
      const VariableKind* kind = findVariableKind(one.kind);
      return kind && kind->needs_stability_test;
    });
    if (asks_for_test && any([&](ConfigurationId at) { return !record_.stable.contains(at); }))
      return "it was not tested for errors";
    return {};
  }

  [[nodiscard]] ConfigurationId sideOf(std::int64_t visit_id) const {
    for (const Visit& visit : record_.visits)
      if (visit.id == visit_id) return visit.configuration;
    return study_.baseline();
  }

  [[nodiscard]] int failedAt(const std::set<ConfigurationId>& levels) const {
    const std::vector<Slot> schedule = scheduleOf(study_);
    return static_cast<int>(std::count_if(record_.passes.begin(), record_.passes.end(), [&](const Pass& pass) {
      return pass.status == PassStatus::Failed && pass.slot < schedule.size() &&
             levels.contains(schedule[pass.slot].configuration);
    }));
  }

  [[nodiscard]] std::string said(const char* how, const std::string& why) const {
    if (!isWhole(study_)) return fmt::format("{} {}: {}", level_, how, why);
    std::string text = why;
    if (!text.empty() && text.starts_with("no ")) text.replace(0, 1, "N");
    return text;
  }
  [[nodiscard]] std::string open(const std::string& why) const {
    return isWhole(study_) ? "Open whether a case loses as much as matters: " + why
                           : fmt::format("Open whether {} is safe to use: {}", level_, why);
  }
  static std::string others(std::ptrdiff_t count) {
    return count > 0 ? fmt::format(", and {} more", count) : std::string();
  }

  // Each case stands for itself here: no family is adjusted for.
  static Marks provisional(Marks marks) {
    marks.not_after_adjustment_for.reset();
    return marks;
  }

  [[nodiscard]] Marks headlineMarks() const {
    for (const auto& subject : findings_.subjects)
      if (const ContrastFinding* found = findings_.find(asked_.front(), subject)) return found->marks;
    return {};
  }

  const Study& study_;
  const ShapeFindings& findings_;
  const Record& record_;
  std::span<const StepProof> steps_;
  std::span<const PossibleAt> possible_;
  std::vector<std::size_t> asked_;
  std::string level_;
  std::set<ConfigurationId> changed_;
  std::set<ConfigurationId> baseline_;
  std::vector<Row> rows_;
};

}  // namespace

std::string safetyText(const Study& study, const ShapeFindings& findings, const Record& record,
                       std::span<const StepProof> steps, std::span<const PossibleAt> possible) {
  return Safety(study, findings, record, steps, possible).text();
}

std::string safetyWhileStopped(const Study& study) {
  return fmt::format("Open whether {}: a stop doubt is open",
                     isWhole(study) ? "a case loses as much as matters" : "it is safe to use");
}

}  // namespace core
