#include "core/judgement/step_doubts.h"

#include <algorithm>
#include <cctype>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/estimate/wording.h"
#include "core/judgement/bench_doubts.h"
#include "core/judgement/measured_again.h"
#include "core/proof/retired_visits.h"
#include "core/record/pair_visits.h"

namespace core {
namespace {

/// What the steps of a study say of the bench. What is said of a visit is said once; what several steps say alike has
/// one cause, and is told, and accepted, once; what only one step says names it.
class StepDoubts {
 public:
  explicit StepDoubts(const Study& study) : study_(study) {}

  void add(const Study& two, std::vector<Doubt> doubts) {
    const std::string between =
        fmt::format("{} to {}", two.nameOf(ConfigurationId::Baseline), two.nameOf(ConfigurationId::Changed));
    for (Doubt& doubt : doubts) {
      const bool is_of_kind = doubt.kind == &doubt::kKindNotDeclared;
      const bool is_of_visit = doubt.id.find("/visit ") != std::string::npos || doubt.kind == &doubt::kVirtualMachine;
      if (study_.variables.size() > 1 && is_of_kind) doubt.id += "/" + two.variable().name;
      const bool names_step = study_.shape != Shape::Pair && !is_of_visit && !is_of_kind;
      Said& said = saidLike(doubt);
      if (names_step) said.steps.push_back(between);
    }
  }

  [[nodiscard]] std::vector<Doubt> take() {
    std::vector<Doubt> doubts;
    for (Said& one : said_) {
      if (!one.steps.empty()) {
        const auto others = one.steps.size() - 1;
        const std::string where = others == 0
                                      ? one.steps.front()
                                      : fmt::format("{} and {}", one.steps.front(),
                                                    countText(static_cast<int>(others), "other step", "other steps"));
        one.doubt.id += "/" + one.steps.front();
        one.doubt.sentence = where + ": " + one.doubt.sentence;
      }
      doubts.push_back(std::move(one.doubt));
    }
    return doubts;
  }

 private:
  struct Said {
    Doubt doubt;
    std::vector<std::string> steps;
  };

  Said& saidLike(const Doubt& doubt) {
    for (Said& one : said_)
      if (one.doubt.id == doubt.id && one.doubt.sentence == doubt.sentence) return one;
    return said_.emplace_back(Said{doubt, {}});
  }

  const Study& study_;
  std::vector<Said> said_;
};

// Visits that differ alike have one cause, an update in mid-study: told once, and accepted once for all of them.
void addUnlikeVisits(DoubtList& doubts, std::span<const StepProof> steps) {
  std::map<std::int64_t, const VisitProof*> unlike;  // a visit is proved with each step of its level
  for (const StepProof& step : steps)
    for (const VisitProof& visit : step.proof.visits)
      if (!visit.not_as_its_level.empty()) unlike.emplace(visit.visit_id, &visit);
  std::vector<std::pair<std::string, std::vector<const VisitProof*>>> causes;
  for (const auto& [id, visit] : unlike) {
    const std::string cause = joinedDifferences(visit->not_as_its_level);
    auto known = std::find_if(causes.begin(), causes.end(), [&](const auto& one) { return one.first == cause; });
    if (known == causes.end()) known = causes.insert(causes.end(), {cause, {}});
    known->second.push_back(visit);
  }
  for (const auto& [cause, visits] : causes) {
    std::vector<std::int64_t> ids;
    std::vector<int> numbers;
    for (const VisitProof* one : visits) {
      ids.push_back(one->visit_id);
      numbers.push_back(one->planned);
    }
    const bool is_one = visits.size() == 1;
    Doubt& added = doubts.add(
        doubt::kUnlikeItsLevel,
        is_one ? fmt::format("Visit {} differs from its level's other visits: {}", numbers.front(), cause)
               : fmt::format("Visits {} differ from other visits of their levels: {}", fmt::join(numbers, ", "), cause),
        is_one ? "Its passes are left out until you accept it with a reason"
               : "Their passes are left out until you accept it with a reason");
    added.id = visitDoubtId(kUnlikeItsLevelId, ids);
  }
}

// One cause, the modules: whatever rates they run at, and at however many levels.
void addMemoryRatings(DoubtList& doubts, const Study& study, std::span<const StepProof> steps) {
  std::vector<MemoryRemark> remarks;
  for (const StepProof& step : steps)
    for (const MemoryRemark& one : step.proof.memory_remarks) {
      auto known = std::find_if(remarks.begin(), remarks.end(),
                                [&](const MemoryRemark& other) { return other.what == one.what; });
      if (known == remarks.end()) known = remarks.insert(remarks.end(), {one.what, {}});
      for (const std::string& level : one.levels)
        if (std::find(known->levels.begin(), known->levels.end(), level) == known->levels.end())
          known->levels.push_back(level);
    }
  if (remarks.empty()) return;
  std::vector<std::string> sentences;
  for (const MemoryRemark& one : remarks) sentences.push_back(one.sentence(study.configurationCount()));
  std::string sentence = fmt::format("{}", fmt::join(sentences, "; "));
  sentence[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(sentence[0])));
  doubts.add(doubt::kMemoryRating, {"1"}, std::move(sentence),
             "Above a rating test it for errors; below it the firmware's profile may be off");
}

}  // namespace

std::vector<Doubt> stepDoubts(const Study& study, const Record& record, std::span<const StepProof> steps) {
  StepDoubts doubts(study);
  for (const StepProof& step : steps) {
    const std::vector<Visit> visits = pairVisits(record.visits, step.pair);
    const Study two = pairStudyOf(study, step.pair);
    doubts.add(two, benchDoubts(two, pairRecordOf(record, step.pair, visits), step.proof));
  }
  std::vector<Doubt> all = doubts.take();
  DoubtList of_all_steps;
  addUnlikeVisits(of_all_steps, steps);
  addMemoryRatings(of_all_steps, study, steps);
  for (Doubt& doubt : of_all_steps.take()) all.push_back(std::move(doubt));
  const MeasuredAgain measured_again(study, record, steps);
  for (Doubt& doubt : all)
    for (const char* kind : {kUnlikeItsLevelId, kLevelNotReachedId, kFlipNotPerformedId})
      if (const auto visits = visitsNamedIn(doubt.id, kind); !visits.empty()) measured_again.settle(doubt, visits);
  return all;
}

}  // namespace core
