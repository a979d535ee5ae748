#include "report/went_in_part.h"

#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/estimate/wording.h"
#include "core/findings/rounds_left_out.h"
#include "core/study/schedule.h"

namespace report {
namespace {

class WentInPart {
 public:
  WentInPart(Html& page, const Source& source)
      : page_(page), source_(source), schedule_(core::scheduleOf(source.study)) {}

  void write() {
    const FailedAttempts attempts = failedAttempts();
    page_.heading("What went in");
    std::vector<std::string> items{fmt::format(
        "{} of {} planned passes have a result; {}, {} of them repeated; {} left out by a person, {} not comparable.",
        findings().recorded_passes, findings().planned_passes,
        core::countText(attempts.failed, "failed attempt", "failed attempts"), attempts.repeated,
        findings().excluded_passes, findings().retired_passes)};
    for (const core::Pass& pass : source_.record.passes)
      if (!pass.excluded_because.empty())
        items.push_back(fmt::format("{}, left out: {}.", caseAndPass(pass), pass.excluded_because));
    for (const core::Skipped& one : source_.record.skipped) items.push_back("A pass was skipped: " + one.reason + ".");
    for (const std::string& change : source_.record.plan_changes)
      items.push_back("The plan was changed: " + change + ".");
    for (const core::JudgingChange& change : source_.record.judging_changes)
      items.push_back(fmt::format("How results are judged was changed {} they could be seen: {}.",
                                  change.was_seen ? "after" : "before", change.what));
    addRests(items);
    for (const core::Prediction& one : source_.judgement.predictions)
      items.push_back(fmt::format("{} expected {}.", one.person, core::percentText(one.percent)));
    for (const core::Case& a_case : study().cases) {
      for (const core::DeclaredFact& fact : core::kDeclaredFacts)
        if (const std::string said = a_case.declaredFact(fact.key); !said.empty())
          items.push_back(fmt::format("{}: {} {}.", a_case.title(), fact.title, said));
      if (a_case.without.any())
        items.push_back(fmt::format("{}: its command ran {}.", a_case.title(), core::withoutText(a_case.without)));
      if (a_case.is_played) items.push_back(fmt::format("{} is played by hand: {}.", a_case.title(), a_case.route));
    }
    items.push_back(fmt::format("Iron Lever {}, page made on {}.", source_.program_version, source_.made_on));
    page_.list(items);
  }

 private:
  [[nodiscard]] const core::Study& study() const { return source_.study; }
  [[nodiscard]] const core::Findings& findings() const { return source_.judgement.findings; }

  [[nodiscard]] std::string caseAndPass(const core::Pass& pass) const {
    return pass.slot < schedule_.size() ? study().cases[schedule_[pass.slot].case_index].title() + ", " +
                                              source_.judgement.pass_names.of(pass.id)
                                        : "A pass";
  }

  struct FailedAttempts {
    int failed = 0;
    int repeated = 0;  ///< with success
  };
  [[nodiscard]] FailedAttempts failedAttempts() const {
    std::set<std::size_t> finished;
    for (const core::Pass& pass : source_.record.passes)
      if (pass.status == core::PassStatus::Finished) finished.insert(pass.slot);
    FailedAttempts attempts;
    for (const core::Pass& pass : source_.record.passes) {
      if (pass.status != core::PassStatus::Failed) continue;
      ++attempts.failed;
      attempts.repeated += finished.contains(pass.slot) ? 1 : 0;
    }
    return attempts;
  }

  // What several cases rest on alike is said once.
  void addRests(std::vector<std::string>& items) const {
    std::vector<std::string> rests;
    for (const core::CaseFinding& finding : findings().cases) {
      const std::string counted = source_.judgement.pass_names.ofSeveral(finding.counted);
      rests.push_back((counted.empty() ? "no pass" : counted) + notCounted(finding));
    }
    const bool are_alike =
        std::all_of(rests.begin(), rests.end(), [&](const std::string& one) { return one == rests.front(); });
    if (rests.size() > 1 && are_alike)
      return items.push_back(fmt::format("Each of the {} cases rests on {}.", rests.size(), rests.front()));
    for (std::size_t i = 0; i < rests.size(); ++i)
      items.push_back(fmt::format("{} rests on {}.", findings().cases[i].title, rests[i]));
  }

  [[nodiscard]] std::string notCounted(const core::CaseFinding& finding) const {
    std::map<std::string, std::vector<std::int64_t>> by_reason;
    for (const core::LeftOut& one : finding.left_out) by_reason[one.why].push_back(one.pass_id);
    std::vector<std::string> left_out;
    for (const auto& [why, ids] : by_reason)
      left_out.push_back(fmt::format("{} ({})", source_.judgement.pass_names.ofSeveral(ids), why));
    const std::string rounds = core::roundsLeftOutText(finding);
    return (left_out.empty() ? "" : fmt::format("; not counted: {}", fmt::join(left_out, "; "))) +
           (rounds.empty() ? "" : ". " + rounds.substr(0, rounds.size() - 1));
  }

  Html& page_;
  const Source& source_;
  std::vector<core::Slot> schedule_;
};

}  // namespace

void writeWentIn(Html& page, const Source& source) { WentInPart(page, source).write(); }

}  // namespace report
