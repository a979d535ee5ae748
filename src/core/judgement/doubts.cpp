#include "core/judgement/doubts.h"

#include <algorithm>
#include <iterator>
#include <map>
#include <set>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/record/flip_guide.h"
#include "core/study/schedule.h"

namespace core {
namespace {

// How far apart the levels were measured, where nothing tells a drift from a change.
std::string exposureText(const Findings& findings) {
  constexpr double kMinute = 1.0 / 60;
  for (const CaseFinding& one : findings.cases)
    if (one.drift && !one.drift->is_estimable && std::abs(one.drift->exposure_hours) >= kMinute)
      return fmt::format("; they were measured {} apart, and drift cannot be told from the change",
                         durationText(3600 * std::abs(one.drift->exposure_hours)));
  return {};
}

void addDesignDoubts(DoubtList& doubts, const Study& study, const Findings& findings) {
  if (findings.recorded_passes == 0) return;
  if (study.plan.order == Order::Blocked)
    doubts.add(
        doubt::kOneVisitPerLevel,
        "One visit per level: a lucky flip, or a bench that warms up, looks like a change" + exposureText(findings),
        "Repeat the study there and back; each finding names how much flipping alone would have to add");
  else if (study.plan.order == Order::ThereAndBack)
    doubts.add(doubt::kTwoVisitsPerLevel,
               "Two visits per level are a rough look: flips are seen, but the interval is wide",
               "More visits narrow it; more passes in a visit hardly do");
  if (!findings.opened_early.empty())
    doubts.add(doubt::kOpenedEarly,
               fmt::format("The results were opened before the plan was complete: {}", findings.opened_early),
               "Stopping or going on by what they showed makes false findings; a fresh study does not have that");
  if (!findings.done.is_first_done)
    doubts.add(doubt::kSoFar,
               fmt::format("{} of {} passes are in: every verdict is provisional", findings.recorded_passes,
                           findings.planned_passes),
               "Finish the plan; stopping when it looks good makes false findings");
  if (const std::size_t first = study.firstPartCases(); first < study.cases.size())
    doubts.add(doubt::kSecondPart,
               fmt::format("{} added when the plan was complete, in {} of {} own: not among what the first part says",
                           countText(static_cast<int>(study.cases.size() - first), "case was", "cases were"),
                           countText(study.plan.second_part_rounds, "round", "rounds"),
                           study.cases.size() - first == 1 ? "its" : "their"),
               "Whoever chose them by what the first part showed asks them again in a study of their own");
}

// Points of checklists that were open when their visit began: as likely not ticked as not done.
void addChecklists(DoubtList& doubts, const Study& study, const Record& record) {
  std::vector<std::string> open;
  std::optional<Visit> before;
  for (const Visit& visit : record.visits) {
    if (visit.is_taken) continue;  // its points were ticked where it was measured
    const auto ticked = record.ticked.find(visit.planned);
    for (const std::string& point : flipGuide(study, visit.configuration, before).checklist)
      if (ticked == record.ticked.end() || !ticked->second.contains(point))
        open.push_back(fmt::format("{} before visit {}", point, visit.planned));
    before = visit;
  }
  if (open.empty()) return;
  const std::size_t others = open.size() - 1;
  doubts.add(doubt::kNotTicked,
             fmt::format("Not ticked: {}{}", open.front(),
                         others == 0 ? "" : ", and " + countText(static_cast<int>(others), "other", "others")),
             "Whoever flipped knows; write it into the logbook");
}

// Of every configuration, whichever two are compared: attempts that failed, and places that stayed without a result.
void addFailedPasses(DoubtList& doubts, const Study& study, const Record& record) {
  const std::vector<Slot> schedule = scheduleOf(study);
  struct Failures {
    int attempts = 0;
    std::set<std::size_t> places;
  };
  std::set<std::size_t> finished;
  std::map<std::pair<std::size_t, ConfigurationId>, Failures> failures;
  for (const Pass& pass : record.passes) {
    if (pass.slot >= schedule.size()) continue;
    if (pass.status == PassStatus::Finished) {
      finished.insert(pass.slot);
      continue;
    }
    Failures& of = failures[{schedule[pass.slot].case_index, schedule[pass.slot].configuration}];
    ++of.attempts;
    of.places.insert(pass.slot);
  }
  for (const auto& [of, failed] : failures) {
    const auto open = std::count_if(failed.places.begin(), failed.places.end(),
                                    [&](std::size_t slot) { return !finished.contains(slot); });
    std::string without = failed.attempts == 1 ? "it was repeated with success" : "each was repeated with success";
    if (open > 0) without = countText(static_cast<int>(open), "place has", "places have") + " no result";
    const std::string title = study.cases[of.first].title();
    doubts.add(doubt::kFailed, {title + "/" + study.nameOf(of.second), of.first},
               fmt::format("{}: at {} {} failed; {}", title, study.nameOf(of.second),
                           countText(failed.attempts, "attempt", "attempts"), without),
               "Read why on the run sheet");
  }
}

// One sentence for all cases: thin lows come in flocks, and would bury what matters more.
void addThinLows(DoubtList& doubts, const Findings& findings) {
  std::vector<std::string> titles;
  std::string which;
  for (const CaseFinding& finding : findings.cases) {
    const auto thin =
        std::find_if(finding.secondary.begin(), finding.secondary.end(), [](const auto& m) { return m.isThin(); });
    if (thin == finding.secondary.end()) continue;
    if (which.empty()) which = thin->name.substr(0, thin->name.find(" ("));
    titles.push_back(finding.title);
  }
  if (titles.empty()) return;
  doubts.add(doubt::kThinLows,
             fmt::format("The {} rests on fewer than 10 frames in {}", which,
                         titles.size() == 1 ? titles.front() : fmt::format("{} cases", titles.size())),
             "Longer passes help a low more than more of them");
}

void addTooFewFrames(DoubtList& doubts, const CaseFinding& finding) {
  if (!finding.fewest_frames || *finding.fewest_frames >= 500) return;
  doubts.add(doubt::kTooFewFrames, {finding.title, finding.case_index},
             fmt::format("{}: a pass has only {} frames, fewer than 500", finding.title, *finding.fewest_frames),
             "Let each pass run longer");
}

// The improvement intervals of average and low do not overlap: the feel of the case and its average part ways.
void addLowsDisagree(DoubtList& doubts, const CaseFinding& finding) {
  if (!finding.improvement.interval) return;
  for (const SecondaryMetric& low : finding.secondary) {
    if (low.fewest_frames == 0 || low.isThin() || !low.improvement) continue;
    if (low.improvement->lo <= finding.improvement.interval->hi &&
        low.improvement->hi >= finding.improvement.interval->lo)
      continue;
    doubts.add(doubt::kLowsDisagree, {finding.title, finding.case_index},
               fmt::format("{}: average and lows disagree: {} {}, {} {}", finding.title, finding.metric.name,
                           percentText(finding.change.value), low.name,
                           low.change ? percentText(low.change->value) : "unknown"),
               "Decide by the one that your users feel");
    return;
  }
}

struct NoIntervalWords {
  const char* sentence;
  const char* remedy;
};
NoIntervalWords wordsFor(NoInterval why) {
  switch (why) {
    case NoInterval::TooFewPasses:
      return {"too few passes for an interval", "At least 2 counted passes are needed at each level"};
    case NoInterval::NoSpread:
      return {"no spread between passes, the metric's resolution hides it", "Use a metric with more digits"};
    case NoInterval::BeyondNumbers:
      return {"its values are too large for an interval", "Look at them: no metric of a pass is so large"};
  }
  return {};
}

void addNoInterval(DoubtList& doubts, const Study& study, const CaseFinding& finding) {
  if (!finding.effect || !finding.effect->contrast.no_interval) return;
  const NoInterval why = *finding.effect->contrast.no_interval;
  const auto [sentence, remedy] = wordsFor(why);
  Doubt& added = doubts.add(doubt::kNoInterval, {finding.title, finding.case_index},
                            fmt::format("{}: {}", finding.title, sentence), remedy);
  if (why == NoInterval::TooFewPasses && study.plan.order != Order::BalancedShuffle && study.plan.passes_per_level < 2)
    added.place = Place::Question;
}

// Failures were once told of a case at all levels together: what was accepted then stays accepted.
bool isOfAllLevels(const std::string& accepted, const Doubt& doubt) {
  return doubt.kind == &doubt::kFailed && doubt.id.starts_with(accepted + "/");
}

// Of several visits with one cause each may have been accepted by itself, in acts of their own.
bool isOfEachVisit(std::span<const Acceptance> acceptances, const Doubt& doubt) {
  std::set<std::int64_t> open;
  for (const std::int64_t visit : visitsNamedIn(doubt.id, kUnlikeItsLevelId)) open.insert(visit);
  if (open.empty()) return false;
  for (const Acceptance& one : acceptances)
    for (const std::int64_t visit : visitsNamedIn(one.first, kUnlikeItsLevelId)) open.erase(visit);
  return open.empty();
}

bool isOfOneVisit(const std::string& accepted, const Doubt& doubt) {
  const auto named = visitsNamedIn(doubt.id, kUnlikeItsLevelId);
  const auto ours = [&](std::int64_t visit) { return std::find(named.begin(), named.end(), visit) != named.end(); };
  const auto visits = visitsNamedIn(accepted, kUnlikeItsLevelId);
  return std::any_of(visits.begin(), visits.end(), ours);
}

void accept(Doubt& doubt, std::span<const Acceptance> acceptances) {
  const bool is_of_each_visit = isOfEachVisit(acceptances, doubt);
  for (const auto& [id, reason] : acceptances)
    if (id == doubt.id || isOfAllLevels(id, doubt) || (is_of_each_visit && isOfOneVisit(id, doubt)))
      doubt.accepted_because = reason;
}

}  // namespace

const char* doubtRankName(DoubtRank rank) {
  switch (rank) {
    case DoubtRank::Stop: return "stop";
    case DoubtRank::Caution: return "caution";
    case DoubtRank::Note: return "note";
  }
  return "unknown";
}

Doubt& DoubtList::add(const DoubtKind& kind, const DoubtSubject& about, std::string sentence, std::string remedy) {
  const std::string id = about.name.empty() ? kind.id : kind.id + ("/" + about.name);
  return doubts_.emplace_back(
      Doubt{&kind, id, kind.rank, std::move(sentence), std::move(remedy), kind.place, about.case_index, {}});
}

void DoubtList::addAll(std::vector<Doubt> doubts) {
  doubts_.insert(doubts_.end(), std::make_move_iterator(doubts.begin()), std::make_move_iterator(doubts.end()));
}

std::vector<Doubt> doubtsOf(const Study& study, const Findings& findings, const Record& record,
                            std::vector<Doubt> others) {
  DoubtList found;
  addFailedPasses(found, study, record);
  for (const CaseFinding& finding : findings.cases) {
    addNoInterval(found, study, finding);
    addLowsDisagree(found, finding);
    addTooFewFrames(found, finding);
  }
  found.addAll(std::move(others));
  addThinLows(found, findings);
  addDesignDoubts(found, study, findings);
  addChecklists(found, study, record);
  std::vector<Doubt> doubts = found.take();
  for (Doubt& doubt : doubts) accept(doubt, record.acceptances);
  std::stable_sort(doubts.begin(), doubts.end(), [](const Doubt& a, const Doubt& b) {
    return std::pair(a.accepted_because.has_value(), a.rank) < std::pair(b.accepted_because.has_value(), b.rank);
  });
  return doubts;
}

}  // namespace core
